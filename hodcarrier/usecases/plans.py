"""Plans: read, changed, previewed, copied, taken in and out as TOML; and access to sites that are not public."""

from __future__ import annotations

import tomllib
from dataclasses import asdict, replace
from pathlib import Path
from typing import Any

import msgspec
import tomli_w
from sqlalchemy.orm import Session

from hodcarrier.core.bound import Bound
from hodcarrier.core.errors import Conflict, InvalidInput, InvalidPlan, InvalidUrl
from hodcarrier.core.plan import Plan, plan_values, read_plan
from hodcarrier.core.scope import notices, preview
from hodcarrier.core.settings import OWN_TO_A_SITE
from hodcarrier.core.web.urls import normalize, read_address
from hodcarrier.register.models import Member, Site, SiteAccess
from hodcarrier.usecases.profiles import check_names, find_profile
from hodcarrier.usecases.workspace import Workspace, fetch, latest_run, latest_run_id, log
from hodcarrier.wire.plans import AccessBody, AccessOut, PlanOut, PreviewRow

SAMPLES_MAX = 500


def get_plan(work: Workspace, site_id: int) -> PlanOut:
    """A site's plan."""
    with work.reading() as session:
        return _plan_out(session, fetch(session, Site, site_id, "site"))


def _plan_out(session: Session, site: Site) -> PlanOut:
    """A plan with every setting; those that came with a later release have their defaults."""
    plan = plan_of(site)
    run = latest_run(session, site)
    seen = run.summary.session_parameters if run and run.summary else []
    access = session.get(SiteAccess, site.id)
    withheld = _bound(access).why_withheld(plan) if access else ""
    return PlanOut(
        values=plan,
        version=site.plan_version,
        defaults=Plan(),
        notices=[*notices(plan), *([withheld] if withheld else [])],
        proposed_drops=[] if plan.keep_parameters else [p for p in seen if p.name not in plan.drop_parameters],
    )


def change_plan(work: Workspace, site_id: int, values: dict[str, object], version: int | None, member: Member) -> PlanOut:
    """Change a plan; future runs use it. Raises :class:`Conflict` when somebody else changed it since ``version``."""
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        if version is not None and version != site.plan_version:
            raise Conflict("Somebody changed this plan in the meantime.", "Look at what they changed, then save again.")
        return _save(work, session, site, {**plan_values(plan_of(site)), **values}, member)


def plan_of(site: Site) -> Plan:
    """The plan as people see it: with the name of the profile that the site points to."""
    return replace(site.plan, profile=site.profile.name) if site.profile else site.plan


def _save(work: Workspace, session: Session, site: Site, values: dict[str, Any], member: Member) -> PlanOut:
    set_plan(session, site, read_plan(values))
    site.plan_version += 1
    log(session, work.now(), member.id, "plan changed", site.host)
    return _plan_out(session, site)


def set_plan(session: Session, site: Site, plan: Plan) -> None:
    """Give a site a plan, and the profile that it names. Raises :class:`InvalidInput`, :class:`InvalidPlan` and :class:`NotFound` for what a
    plan names that is not there: limits, checks, a file, a profile."""
    check_names(plan.thresholds, (*plan.checks_off, *plan.severities))
    if plan.ca_file and not Path(plan.ca_file).is_file():
        raise InvalidPlan(
            f"There is no file {plan.ca_file} on the server.", "Give the path of a file with certificates.", "ca_file"
        )
    site.profile = find_profile(session, plan.profile)
    site.plan = replace(plan, profile="")


def copy_plan(work: Workspace, site_id: int, source_id: int, member: Member) -> PlanOut:
    """Take over another site's plan, but for what belongs to that site alone: addresses, path, host mapping."""
    with work.session() as session:
        site, source = fetch(session, Site, site_id, "site"), fetch(session, Site, source_id, "site")
        taken = {name: value for name, value in plan_values(plan_of(source)).items() if name not in OWN_TO_A_SITE}
        return _save(work, session, site, {**plan_values(plan_of(site)), **taken}, member)


def preview_plan(work: Workspace, site_id: int, values: dict[str, Any], addresses: list[str]) -> list[PreviewRow]:
    """What a plan with these values would fetch, on sample addresses; without any, on pages of the latest run."""
    with work.reading() as session:
        site = fetch(session, Site, site_id, "site")
        plan = read_plan({**plan_values(site.plan), **values})
        if not addresses:
            with work.open_run(latest_run_id(session, site_id)) as run:
                sql = "SELECT url FROM address WHERE role = 0 ORDER BY id LIMIT ?"
                addresses = [url for (url,) in run.rows(sql, SAMPLES_MAX)]
    samples = []
    for address in addresses[:SAMPLES_MAX]:
        try:
            samples.append(
                normalize(address.strip(), plan.start[0]) if address.strip().startswith("/") else read_address(address)
            )
        except InvalidUrl as error:
            raise InvalidInput(error.message, error.hint, "addresses") from None
    return [PreviewRow(url=url, fetched=fetched, why=why) for url, fetched, why in preview(plan, samples)]


def plan_toml(work: Workspace, site_id: int) -> str:
    """The settings of a plan that differ from their defaults, as TOML."""
    found = get_plan(work, site_id)
    defaults = plan_values(found.defaults)
    values = {name: value for name, value in plan_values(found.values).items() if value != defaults[name]}
    with work.reading() as session:
        host = fetch(session, Site, site_id, "site").host
    return f"# The plan of {host}. Settings that are not named have their defaults.\n" + tomli_w.dumps(
        values, multiline_strings=True
    )


def read_toml(text: str) -> dict[str, Any]:
    """The settings in a TOML text. Raises :class:`InvalidPlan` naming the line that cannot be read."""
    try:
        return tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        raise InvalidPlan(f"That is not TOML: {error}.", "Correct that line.", "toml") from None


def replace_plan(work: Workspace, site_id: int, values: dict[str, Any], member: Member) -> PlanOut:
    """A whole new plan: what it does not name gets its default, but the site keeps its start address."""
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        return _save(work, session, site, {"start": list(site.plan.start), **values}, member)


def set_access(work: Workspace, site_id: int, body: AccessBody, member: Member) -> AccessOut:
    """Keep what opens a site, sealed. It is never shown again. Raises :class:`InvalidInput` for lines no header may carry."""
    for name, value in (*body.headers.items(), *body.cookies.items()):
        if not name.isascii() or any(c in name + value for c in "\r\n\0") or ":" in name or not name.strip():
            raise InvalidInput(f"“{name}” cannot be sent.", "Use plain names, and values on one line.", "headers")
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        row = session.get(SiteAccess, site_id) or SiteAccess(site_id=site_id)
        row.sealed, row.changed_at = work.vault.seal(body.model_dump()), work.now()
        row.bound = asdict(Bound.of(site.plan))
        session.add(row)
        log(session, work.now(), member.id, "access set", site.host)
        return _access_out(body, row)


def get_access(work: Workspace, site_id: int) -> AccessOut:
    """What kinds of access a site has, without any secret."""
    with work.reading() as session:
        fetch(session, Site, site_id, "site")
        row = session.get(SiteAccess, site_id)
        return _access_out(AccessBody.model_validate(work.vault.open(row.sealed)), row) if row else AccessOut()


def _bound(row: SiteAccess) -> Bound:
    return msgspec.convert(row.bound, Bound)


def _access_out(body: AccessBody, row: SiteAccess) -> AccessOut:
    return AccessOut(
        origins=list(_bound(row).origins),
        password=bool(body.username or body.password),
        headers=sorted(body.headers),
        cookies=sorted(body.cookies),
        changed_at=row.changed_at,
    )


def remove_access(work: Workspace, site_id: int, member: Member) -> None:
    """Forget what opens a site."""
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        row = session.get(SiteAccess, site_id)
        if row is not None:
            session.delete(row)
            log(session, work.now(), member.id, "access removed", site.host)


def open_access(work: Workspace, run_site_id: int) -> dict[str, Any] | None:
    """What opens a site, for its crawl alone, with where it may be sent (``bound``)."""
    with work.reading() as session:
        row = session.get(SiteAccess, run_site_id)
        return {**work.vault.open(row.sealed), "bound": _bound(row)} if row else None
