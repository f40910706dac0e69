"""Routes about clients and their sites: thin, as all routes are."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any

from fastapi import APIRouter, Query, Request, Response

from hodcarrier.core import settings
from hodcarrier.core.errors import NotFound
from hodcarrier.core.plan import RANGES
from hodcarrier.register.models import Member
from hodcarrier.service.deps import PROBLEMS, Anybody, Staff, Version, Work, version_of
from hodcarrier.service.look import look
from hodcarrier.usecases import members, plans, sites, trends
from hodcarrier.wire.results import LookOut
from hodcarrier.wire.sites import (
    AccessBody,
    AccessOut,
    ClientBody,
    ClientOut,
    LookBody,
    PlanBody,
    PlanCopy,
    PlanOut,
    PlanToml,
    PreviewBody,
    PreviewRow,
    ScheduleBody,
    ScheduleOut,
    SettingOut,
    SiteBody,
    SiteOut,
)
from hodcarrier.wire.work import (
    MetricImport,
    MetricRow,
    RemarkBody,
    RemarkOut,
    TrendOut,
    WaiverBody,
    WaiverOut,
)

router = APIRouter(responses=PROBLEMS)


# -- clients and sites -------------------------------------------------------------------------------------------


@router.get("/clients", tags=["clients"])
def list_clients(work: Work, member: Anybody) -> list[ClientOut]:
    """Clients with their sites."""
    return sites.list_clients(work, member.client_id if member.role == "guest" else None)


@router.post("/clients", status_code=201, tags=["clients"])
def add_client(body: ClientBody, work: Work, member: Staff) -> ClientOut:
    """Add a client."""
    return sites.add_client(work, body, member)


@router.delete("/clients/{client_id}", status_code=204, tags=["clients"])
def remove_client(client_id: int, work: Work, member: Staff) -> None:
    """Remove a client and everything kept for it."""
    members.allow(member, "owner", "lead")
    sites.remove_client(work, client_id, member)


@router.get("/sites", tags=["sites"])
def list_sites(work: Work, _member: Staff, kind: str = "", client: int | None = None) -> list[SiteOut]:
    """Sites, own ones and competitors."""
    return sites.list_sites(work, kind, client)


@router.post("/sites", status_code=201, tags=["sites"])
def add_site(body: SiteBody, work: Work, member: Staff, request: Request) -> SiteOut:
    """Add a site; an address is enough."""
    _check_plan(request, member, body.plan)
    return sites.add_site(work, body, member)


@router.get("/sites/{site_id}", tags=["sites"])
def get_site(site_id: int, work: Work, member: Anybody) -> SiteOut:
    """One site."""
    site = sites.get_site(work, site_id)
    members.allow_client(member, site.client_id)
    return site


@router.delete("/sites/{site_id}", status_code=204, tags=["sites"])
def remove_site(site_id: int, work: Work, member: Staff) -> None:
    """Remove a site and its records."""
    members.allow(member, "owner", "lead")
    sites.remove_site(work, site_id, member)


@router.get("/plan-settings", tags=["sites"])
def list_settings(member: Staff, request: Request) -> list[SettingOut]:
    """What every setting of a plan means, in the order of the form."""
    free = member.role == "owner" or request.app.state.settings.allow_private
    return [
        SettingOut(
            name=s.name,
            group=s.group,
            group_name=settings.GROUPS[s.group],
            label=s.label,
            text=s.text,
            kind=s.kind,
            advanced=s.advanced,
            choices=list(s.choices),
            unit=RANGES[s.name][2] if s.name in RANGES else "",
            locked=s.name in _FOR_OWNERS and not free,
        )
        for s in settings.SETTINGS
    ]


@router.get("/sites/{site_id}/plan", tags=["sites"])
def get_plan(site_id: int, work: Work, _member: Staff, response: Response) -> PlanOut:
    """A site's plan."""
    plan = plans.get_plan(work, site_id)
    response.headers["ETag"] = f'"{plan.version}"'
    return plan


@router.patch("/sites/{site_id}/plan", tags=["sites"])
def change_plan(site_id: int, body: PlanBody, work: Work, member: Staff, request: Request, version: Version = None) -> PlanOut:
    """Change a plan; future runs use it."""
    _check_plan(request, member, body.values, plans.get_plan(work, site_id).values)
    return plans.change_plan(work, site_id, body.values, version_of(version), member)


@router.post("/sites/{site_id}/plan/preview", tags=["sites"])
def preview_plan(site_id: int, body: PreviewBody, work: Work, _member: Staff) -> list[PreviewRow]:
    """Try values of a plan on addresses before saving them."""
    return plans.preview_plan(work, site_id, body.values, body.addresses)


@router.get("/sites/{site_id}/plan/toml", tags=["sites"])
def plan_toml(site_id: int, work: Work, _member: Staff) -> PlanToml:
    """A plan as TOML: the settings that differ from their defaults."""
    return PlanToml(toml=plans.plan_toml(work, site_id))


@router.put("/sites/{site_id}/plan/toml", tags=["sites"])
def replace_plan(site_id: int, body: PlanToml, work: Work, member: Staff, request: Request) -> PlanOut:
    """Replace a plan by one in TOML; settings it does not name get their defaults."""
    values = plans.read_toml(body.toml)
    _check_plan(request, member, values, plans.get_plan(work, site_id).values)
    return plans.replace_plan(work, site_id, values, member)


@router.post("/sites/{site_id}/plan/copy", tags=["sites"])
def copy_plan(site_id: int, body: PlanCopy, work: Work, member: Staff, request: Request) -> PlanOut:
    """Take over another site's plan, but for what belongs to that site alone."""
    source = plans.get_plan(work, body.from_site).values
    _check_plan(
        request,
        member,
        {"allow_private": source["allow_private"], "ca_file": source["ca_file"]},
        plans.get_plan(work, site_id).values,
    )
    return plans.copy_plan(work, site_id, body.from_site, member)


@router.get("/sites/{site_id}/access", tags=["sites"])
def get_access(site_id: int, work: Work, _member: Staff) -> AccessOut:
    """What kinds of access a site has; never a secret."""
    return plans.get_access(work, site_id)


@router.put("/sites/{site_id}/access", tags=["sites"])
def set_access(site_id: int, body: AccessBody, work: Work, member: Staff) -> AccessOut:
    """Keep what opens a site: a password, headers, cookies. They are sealed, and sent to the site's own hosts alone."""
    return plans.set_access(work, site_id, body, member)


@router.delete("/sites/{site_id}/access", status_code=204, tags=["sites"])
def remove_access(site_id: int, work: Work, member: Staff) -> None:
    """Forget what opens a site."""
    plans.remove_access(work, site_id, member)


_FOR_OWNERS = ("allow_private", "host_map", "ca_file")


def _check_plan(request: Request, member: Member, values: dict[str, Any], now: dict[str, Any] | None = None) -> None:
    """Private addresses and host mappings reach into our own network: only an owner may set them, or the operator for all.

    Sending back what is set already changes nothing and is open to everybody.
    """
    changed = any(values.get(name) and values.get(name) != (now or {}).get(name) for name in _FOR_OWNERS)
    if changed and not request.app.state.settings.allow_private:
        members.allow(member, "owner")


@router.post("/sites/{site_id}/look", tags=["sites"])
def look_at_page(site_id: int, body: LookBody, work: Work, _member: Staff) -> LookOut:
    """Fetch and examine one page now and set it against the last run, which stays as it is."""
    return look(work, site_id, body.url)


@router.get("/sites/{site_id}/schedule", tags=["sites"])
def get_schedule(site_id: int, work: Work, _member: Staff) -> ScheduleOut:
    """When a site is audited."""
    found = sites.get_site(work, site_id).schedule
    if found is None:
        raise NotFound("This site has no schedule.", "Set one with `hodcarrier schedule edit SITE`.")
    return found


@router.put("/sites/{site_id}/schedule", tags=["sites"])
def set_schedule(site_id: int, body: ScheduleBody, work: Work, member: Staff) -> ScheduleOut:
    """Set when a site is audited, and who is told."""
    return sites.set_schedule(work, site_id, body, member)


@router.delete("/sites/{site_id}/schedule", status_code=204, tags=["sites"])
def remove_schedule(site_id: int, work: Work, member: Staff) -> None:
    """Audit the site no more by itself."""
    sites.remove_schedule(work, site_id, member)


@router.get("/sites/{site_id}/remarks", tags=["sites"])
def list_remarks(site_id: int, work: Work, _member: Staff) -> list[RemarkOut]:
    """Remarks on a site's timeline."""
    return sites.list_remarks(work, site_id)


@router.post("/sites/{site_id}/remarks", status_code=201, tags=["sites"])
def add_remark(site_id: int, body: RemarkBody, work: Work, member: Staff) -> RemarkOut:
    """Pin a remark to a day."""
    return sites.add_remark(work, site_id, body, member)


@router.delete("/remarks/{remark_id}", status_code=204, tags=["sites"])
def remove_remark(remark_id: int, work: Work, _member: Staff) -> None:
    """Take a remark away."""
    sites.remove_remark(work, remark_id)


@router.get("/sites/{site_id}/waivers", tags=["sites"])
def list_waivers(site_id: int, work: Work, _member: Staff) -> list[WaiverOut]:
    """Waivers of a site."""
    return sites.list_waivers(work, site_id)


@router.post("/sites/{site_id}/waivers", status_code=201, tags=["sites"])
def add_waiver(site_id: int, body: WaiverBody, work: Work, member: Staff) -> WaiverOut:
    """Waive a check on a place, a page, a pattern or the site; the next run counts it so."""
    return sites.add_waiver(work, site_id, body, member)


@router.delete("/waivers/{waiver_id}", status_code=204, tags=["sites"])
def remove_waiver(waiver_id: int, work: Work, member: Staff) -> None:
    """End a waiver."""
    sites.remove_waiver(work, waiver_id, member)


@router.get("/sites/{site_id}/metrics", tags=["sites"])
def list_metrics(site_id: int, work: Work, _member: Staff) -> list[MetricRow]:
    """Imported figures of a site."""
    return sites.list_metrics(work, site_id)


@router.post("/sites/{site_id}/metrics", status_code=201, tags=["sites"])
def import_metrics(site_id: int, body: MetricImport, work: Work, member: Staff) -> list[MetricRow]:
    """Import figures from a CSV table: all rows or none."""
    return sites.import_metrics(work, site_id, body.csv, member)


@router.get("/sites/{site_id}/trend", tags=["sites"])
def get_trend(
    site_id: int,
    work: Work,
    member: Anybody,
    figure: str = "health",
    start: Annotated[date | None, Query(alias="from")] = None,
    end: Annotated[date | None, Query(alias="to")] = None,
) -> TrendOut:
    """A figure over the runs of a site."""
    members.allow_client(member, sites.get_site(work, site_id).client_id)
    return trends.get_trend(work, site_id, figure, start, end)
