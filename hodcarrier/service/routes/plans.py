"""Plans, and access to sites that are not public."""

from __future__ import annotations

from fastapi import APIRouter, Response

from hodcarrier.core import settings as plan_settings
from hodcarrier.core.plan import RANGES
from hodcarrier.service.deps import Configured, Version, Work, version_of
from hodcarrier.service.guard import Asker, serves
from hodcarrier.service.surroundings import FOR_OWNERS, check_surroundings, may_set
from hodcarrier.usecases import plans
from hodcarrier.wire.plans import (
    AccessBody,
    AccessOut,
    PlanBody,
    PlanCopy,
    PlanOut,
    PlanToml,
    PreviewBody,
    PreviewRow,
    SettingOut,
)

router = APIRouter()


@serves(router, "list_plan_settings")
def list_plan_settings(member: Asker, settings: Configured) -> list[SettingOut]:
    free = may_set(settings, member)
    return [
        SettingOut(
            name=s.name,
            group=s.group,
            group_name=plan_settings.GROUPS[s.group],
            label=s.label,
            text=s.text,
            kind=s.kind,
            advanced=s.advanced,
            choices=list(s.choices),
            unit=RANGES[s.name][2] if s.name in RANGES else "",
            locked=s.name in FOR_OWNERS and not free,
        )
        for s in plan_settings.SETTINGS
    ]


@serves(router, "get_plan")
def get_plan(site_id: int, work: Work, response: Response) -> PlanOut:
    plan = plans.get_plan(work, site_id)
    response.headers["ETag"] = f'"{plan.version}"'
    return plan


@serves(router, "change_plan")
def change_plan(
    site_id: int, body: PlanBody, work: Work, member: Asker, settings: Configured, version: Version = None
) -> PlanOut:
    check_surroundings(settings, member, body.values, plans.get_plan(work, site_id).values)
    return plans.change_plan(work, site_id, body.values, version_of(version), member)


@serves(router, "preview_plan")
def preview_plan(site_id: int, body: PreviewBody, work: Work) -> list[PreviewRow]:
    return plans.preview_plan(work, site_id, body.values, body.addresses)


@serves(router, "get_plan_toml")
def get_plan_toml(site_id: int, work: Work) -> PlanToml:
    return PlanToml(toml=plans.plan_toml(work, site_id))


@serves(router, "replace_plan")
def replace_plan(site_id: int, body: PlanToml, work: Work, member: Asker, settings: Configured) -> PlanOut:
    values = plans.read_toml(body.toml)
    check_surroundings(settings, member, values, plans.get_plan(work, site_id).values)
    return plans.replace_plan(work, site_id, values, member)


@serves(router, "copy_plan")
def copy_plan(site_id: int, body: PlanCopy, work: Work, member: Asker, settings: Configured) -> PlanOut:
    source = plans.get_plan(work, body.from_site).values
    taken = {"private_addresses": source.private_addresses, "ca_file": source.ca_file}
    check_surroundings(settings, member, taken, plans.get_plan(work, site_id).values)
    return plans.copy_plan(work, site_id, body.from_site, member)


@serves(router, "get_access")
def get_access(site_id: int, work: Work) -> AccessOut:
    return plans.get_access(work, site_id)


@serves(router, "set_access")
def set_access(site_id: int, body: AccessBody, work: Work, member: Asker) -> AccessOut:
    return plans.set_access(work, site_id, body, member)


@serves(router, "remove_access")
def remove_access(site_id: int, work: Work, member: Asker) -> None:
    plans.remove_access(work, site_id, member)
