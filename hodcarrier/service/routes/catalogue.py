"""The catalogue, and the search over everything."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from hodcarrier.core.catalogue import Area
from hodcarrier.service.deps import Work
from hodcarrier.service.guard import serves
from hodcarrier.usecases import catalogue, failing
from hodcarrier.usecases import search as searching
from hodcarrier.wire.catalogue import CatalogueEntry, FailingCheck, FailingSite
from hodcarrier.wire.search import SearchHit

router = APIRouter()


@serves(router, "list_catalogue")
def list_catalogue(area: Area | None = None, retired: bool = False) -> list[CatalogueEntry]:
    return catalogue.list_entries(area, retired)


@serves(router, "get_catalogue_entry")
def get_catalogue_entry(check_id: str) -> CatalogueEntry:
    return catalogue.get_entry(check_id)


@serves(router, "list_failing_checks")
def list_failing_checks(work: Work) -> list[FailingCheck]:
    return failing.list_failing_checks(work)


@serves(router, "list_failing_sites")
def list_failing_sites(check_id: str, work: Work) -> list[FailingSite]:
    return failing.list_failing_sites(work, check_id)


@serves(router, "search")
def search(
    text: Annotated[str, Query(max_length=200)], work: Work, limit: Annotated[int, Query(ge=1, le=100)] = 20
) -> list[SearchHit]:
    return searching.search(work, text, limit)
