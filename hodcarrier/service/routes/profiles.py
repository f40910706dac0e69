"""Profiles."""

from __future__ import annotations

from fastapi import APIRouter, Response

from hodcarrier.service.deps import Version, Work, version_of
from hodcarrier.service.guard import Asker, serves
from hodcarrier.usecases import profiles
from hodcarrier.wire.profiles import ProfileBody, ProfileChange, ProfileOut

router = APIRouter()


@serves(router, "list_profiles")
def list_profiles(work: Work) -> list[ProfileOut]:
    return profiles.list_profiles(work)


@serves(router, "get_profile")
def get_profile(profile_id: int, work: Work, response: Response) -> ProfileOut:
    found = profiles.get_profile(work, profile_id)
    response.headers["ETag"] = f'"{found.version}"'
    return found


@serves(router, "add_profile")
def add_profile(body: ProfileBody, work: Work, member: Asker) -> ProfileOut:
    return profiles.add_profile(work, body, member)


@serves(router, "change_profile")
def change_profile(profile_id: int, body: ProfileChange, work: Work, member: Asker, version: Version = None) -> ProfileOut:
    return profiles.change_profile(work, profile_id, body, version_of(version), member)


@serves(router, "remove_profile")
def remove_profile(profile_id: int, work: Work, member: Asker) -> None:
    profiles.remove_profile(work, profile_id, member)
