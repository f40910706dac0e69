"""A finding, and a page, over the runs of a site: each run file is asked what it saw."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import partial
from typing import Any, TypeVar

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from hodcarrier.core import catalogue
from hodcarrier.core.errors import Conflict, DamagedRun, NotFound
from hodcarrier.core.states import FileState, Seen, Severity
from hodcarrier.core.web.urls import normalize
from hodcarrier.register.models import EXAMINED, Run, Site
from hodcarrier.runfile import schema
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.results import FINGERPRINT_BYTES
from hodcarrier.runfile.sights import Sights
from hodcarrier.usecases.results import as_print
from hodcarrier.usecases.workspace import Workspace, fetch, fetched_of
from hodcarrier.wire.histories import FindingHistory, FindingSight, PageHistory, PageSight

Answer = TypeVar("Answer")
# Of a finding: check, subject, place, when it was seen first and last, how often it returned.
Row = tuple[str, str, str, str, str, int]
# What is told of a page in one run, from its row of the inventory.
_TOLD = (
    "status",
    "failure",
    "why_not",
    "title",
    "description",
    "h1",
    "canonical",
    "robots",
    "words",
    "depth",
    "inlinks",
    "health",
)
# What a reader would call a change of the page. Words, links and health move with every edit elsewhere.
_ANSWER = ("status", "failure", "why_not")
_CONTENT = ("title", "description", "h1", "canonical", "robots")
WORDS_SHARE = 0.1


def finding_history(work: Workspace, site_id: int, fingerprint: str, limit: int = 30) -> FindingHistory:
    """A finding over the latest runs of its site, by its fingerprint or the beginning of it. Raises :class:`NotFound` when none of them had it,
    :class:`Conflict` when several begin like that."""
    sights: list[FindingSight] = []
    known: Row | None = None
    rule = ""
    runs, more = _runs(work, site_id, limit)
    wanted = _whole(work, [run_id for run_id, _ in runs], as_print(fingerprint))
    for run_id, at in reversed(runs):
        answer = _ask(work, run_id, partial(_finding_in, fingerprint=wanted, known=known))
        if answer is None:
            more += 1
        elif answer.row is not None and answer.seen is not None:
            known = answer.row
            changed = bool(rule) and answer.rule not in ("", rule)
            sights.append(FindingSight(run_id=run_id, at=at, seen=answer.seen, rule_changed=changed))
            rule = answer.rule or rule
    if known is None:
        raise NotFound(f"No run of this site had a finding {fingerprint}.", "See `hodcarrier finding list SITE`.")
    check, subject, place, first, last, returned = known
    entry = catalogue.load().get(catalogue.load().current(check))
    return FindingHistory(
        fingerprint=wanted.hex(),
        check=check,
        summary=entry.check.summary if entry else check,
        severity=entry.check.severity if entry else Severity.LOW,
        subject=subject,
        place=place,
        first_seen=datetime.fromisoformat(first),
        last_seen=datetime.fromisoformat(last),
        times_returned=returned,
        runs=sights[::-1],
        more=more,
    )


def _whole(work: Workspace, runs: Sequence[str], begins: bytes) -> bytes:
    """The fingerprint that begins so, in the latest run that knows one."""
    if len(begins) == FINGERPRINT_BYTES:
        return begins
    for run_id in runs:
        found = _ask(work, run_id, partial(_beginning, begins=begins)) or []
        if len(found) > 1:
            raise Conflict(f"Several findings begin with {begins.hex()}.", "Give more of the fingerprint.")
        if found:
            return found[0]
    return begins


def _beginning(run: RunFile, begins: bytes) -> list[bytes]:
    last = begins.ljust(FINGERPRINT_BYTES, b"\xff")
    rows = run.rows("SELECT DISTINCT fingerprint FROM history WHERE fingerprint BETWEEN ? AND ? LIMIT 2", begins, last)
    return [fingerprint for (fingerprint,) in rows]


@dataclass(frozen=True)
class _Answer:
    """What one run says of a finding; ``row`` is what it or an earlier one noted of it, nothing before the first that had it."""

    row: Row | None
    seen: Seen | None = None
    rule: str = ""


def _finding_in(run: RunFile, fingerprint: bytes, known: Row | None) -> _Answer:
    found = run.rows(
        "SELECT check_id, subject, place, first_seen, last_seen, times_returned FROM history WHERE fingerprint = ?", fingerprint
    )
    row: Row | None = found[0] if found else known
    if row is None:
        return _Answer(None)
    sights = Sights(run.db, run.meta("end", "complete") == "complete")
    return _Answer(row, _seen(sights, fingerprint, row[0], row[1]), sights.rule_of(row[0]))


def _seen(sights: Sights, fingerprint: bytes, check: str, subject: str) -> Seen:
    sight = sights.of(fingerprint, check, subject)
    if sight.found:
        return Seen.WAIVED if sight.waived else Seen.OPEN
    if sight.gone:
        return Seen.GONE
    return Seen.PASSED if sight.known and sight.examined else Seen.UNVERIFIED


def page_history(work: Workspace, site_id: int, url: str, limit: int = 30) -> PageHistory:
    """A page over the latest runs of its site. Raises :class:`NotFound` when none of them knew it."""
    url = normalize(url)
    sights: list[PageSight] = []
    before: dict[str, Any] = {}
    runs, more = _runs(work, site_id, limit)
    for run_id, at in reversed(runs):
        sight = _ask(work, run_id, partial(_page_sight, run_id=run_id, at=at, url=url))
        if sight is None:
            more += 1
            continue
        sight.changed = _changed(before, sight) if sight.known else []
        sights.append(sight)
    if not any(sight.known for sight in sights):
        raise NotFound(f"No run of this site knows {url}.", "Look for it in the inventory.")
    return PageHistory(url=url, runs=sights[::-1], more=more)


def _page_sight(run: RunFile, run_id: str, at: datetime, url: str) -> PageSight:
    severities = " + ".join(f"coalesce({severity}, 0)" for severity in Severity)
    rows = run.rows(
        f"SELECT state, {severities}, {', '.join(_TOLD)} FROM inventory WHERE id = (SELECT id FROM address WHERE url = ?) AND role < 2",
        url,
    )
    if not rows or rows[0][0] == schema.QUEUED:
        return PageSight(run_id=run_id, at=at, known=False)
    _, findings, *values = rows[0]
    told = dict(zip(_TOLD, values, strict=True))
    return PageSight(run_id=run_id, at=at, known=True, findings=findings, **{**told, "failure": told["failure"] or ""})


def _changed(before: dict[str, Any], now: PageSight) -> list[str]:
    """What of a page differs from what was ``before`` seen of it last; what this run could not see is no change. Brings ``before`` up to date."""
    # What an error page says is not what the page says.
    readable = now.status is not None and now.status < 300
    names = (*_ANSWER, *(_CONTENT if readable else ()))
    told = {name: value for name in (*names, *(("words",) if readable else ())) if (value := getattr(now, name)) is not None}
    changed = [name for name in names if name in told and name in before and before[name] != told[name]]
    if "words" in told and "words" in before and abs(told["words"] - before["words"]) > WORDS_SHARE * max(before["words"], 1):
        changed.append("words")
    before.update(told)
    return changed


def _runs(work: Workspace, site_id: int, limit: int) -> tuple[list[tuple[str, datetime]], int]:
    """The latest runs of a site that have a file, the latest first, and how many there are besides."""
    with work.reading() as session:
        site = fetch(session, Site, site_id, "site")
        own = (Run.site_id == site_id, EXAMINED, fetched_of(site))
        rows = session.execute(
            select(Run.id, Run.requested_at).where(*own, Run.file == FileState.KEPT).order_by(Run.sequence.desc()).limit(limit)
        ).all()
        return [(run_id, at) for run_id, at in rows], _count(session, *own) - len(rows)


def _count(session: Session, *which: object) -> int:
    return session.scalar(select(func.count()).select_from(Run).where(*which)) or 0  # type: ignore[arg-type]


def _ask(work: Workspace, run_id: str, question: Callable[[RunFile], Answer]) -> Answer | None:
    """What a run's file answers; nothing when it was damaged or removed meanwhile: the others have their say all the same."""
    try:
        with work.open_run(run_id) as run:
            return question(run)
    except (DamagedRun, NotFound):
        return None
