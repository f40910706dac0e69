"""What waivers are about: checked when they are made, and as values that the core understands."""

from __future__ import annotations

import re

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core import catalogue
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.judge.waivers import Waiver
from hodcarrier.core.states import Subject
from hodcarrier.core.web.patterns import compile_pattern, is_pattern, matches
from hodcarrier.core.web.urls import is_web
from hodcarrier.register.models import Site, WaiverRow
from hodcarrier.usecases.workspace import Workspace, latest_run
from hodcarrier.wire.waivers import WaiverScope


def check_scope(work: Workspace, session: Session, site: Site, scope: WaiverScope) -> None:
    """Raise :class:`InvalidInput` for what no finding can be covered by, and :class:`NotFound` for a check that there is not."""
    check = catalogue.get(scope.check).id
    if scope.pattern:
        _check_pattern(work, session, site, check, scope.pattern)
    if scope.fingerprint and not re.fullmatch("[0-9a-f]{32}", scope.fingerprint):
        raise InvalidInput(
            f"“{scope.fingerprint}” is no fingerprint of a finding.", "Copy the 32 characters from the finding.", "fingerprint"
        )


def _check_pattern(work: Workspace, session: Session, site: Site, check: str, pattern: str) -> None:
    """A pattern must be able to cover something: the check is about URLs, and the latest run knows one that it matches."""
    if not is_web(pattern):
        compile_pattern(pattern)
    if catalogue.get(check).check.subject == Subject.SITE:
        raise InvalidInput(
            f"“{catalogue.get(check).check.summary}” is about the site as a whole, so a pattern covers nothing.",
            "Leave the pattern out.",
            "pattern",
        )
    run = latest_run(session, site)
    if run is None or not work.store.has(run.id):
        return
    with work.open_run(run.id) as opened:
        urls = opened.db.execute("SELECT url FROM address WHERE role < 2")
        if not any(url == pattern or matches(pattern, url) for (url,) in urls):
            raise InvalidInput(
                f"{pattern} matches none of the URLs of the latest run.", "Check its spelling against the inventory.", "pattern"
            )


def scope_value(scope: WaiverScope) -> Waiver:
    """What a waiver would be about, as the core judges it."""
    return Waiver(catalogue.get(scope.check).id, scope.pattern, scope.fingerprint)


def waiver_value(row: WaiverRow) -> Waiver:
    """A waiver as the core judges it."""
    return Waiver(row.check_id, row.pattern, row.fingerprint, row.start, row.end)


def understood(row: WaiverRow) -> bool:
    """Whether its pattern, which an older release may have stored, is understood: one that is not covers nothing."""
    return not row.pattern or is_pattern(row.pattern)


def waivers_in_force(work: Workspace, site_id: int) -> list[Waiver]:
    """The waivers of a site that hold today, as the core judges them."""
    with work.reading() as session:
        rows = session.scalars(select(WaiverRow).where(WaiverRow.site_id == site_id, ~WaiverRow.replaced))
        return [value for row in rows if understood(row) and (value := waiver_value(row)).in_force(work.now().date())]
