"""The findings that to-dos are to be about, and how they are divided among several."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from hodcarrier.core import catalogue
from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.judge.health import RANK
from hodcarrier.core.states import Severity, TodoPer
from hodcarrier.core.web.urls import is_web, place_on
from hodcarrier.core.words import fill
from hodcarrier.register.models import Site
from hodcarrier.runfile import results
from hodcarrier.runfile.compared import Chosen
from hodcarrier.runfile.fates import pattern_of
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.sights import CheckUsed
from hodcarrier.usecases.comparisons import compared
from hodcarrier.usecases.workspace import Workspace, fetch, latest_run_id
from hodcarrier.wire.todos import ComparedPick, TodoSelection


@dataclass(frozen=True)
class Group:
    """Findings for one to-do, with a title for it."""

    title: str
    rows: Sequence[results.Row]

    @property
    def severity(self) -> Severity:
        """That of the worst of them; of none, medium."""
        return min((row["severity"] for row in self.rows), key=RANK.__getitem__, default=Severity.MEDIUM)


@dataclass(frozen=True)
class Picked:
    """What was picked: the findings in groups, and the rules of their checks."""

    groups: list[Group] = field(default_factory=list)
    rules: dict[str, str] = field(default_factory=dict)


def pick(work: Workspace, body: TodoSelection, per: TodoPer) -> Picked:
    """The open findings of the latest run that a selection names, a group for each to-do to be; none for one by hand.

    Raises :class:`NotFound` for what the latest run does not have, :class:`Conflict` for a comparison with another run, :class:`InvalidInput` for what
    cannot be read.
    """
    if not (body.check or body.cause is not None or body.checks or body.causes or body.fingerprints or body.compared):
        return Picked()
    with work.reading() as session:
        site, latest = fetch(session, Site, body.site_id, "site"), latest_run_id(session, body.site_id)
    title, prints = _compared(work, body.compared, latest) if body.compared else ("", [])
    with work.open_run(latest) as run:
        if body.compared:
            rows = results.findings_by_print(run, prints)
            if not rows:
                raise NotFound(
                    "Nothing of this is left to work on in the latest run.", "Its findings are fixed, gone, unverified or waived."
                )
        elif body.fingerprints:
            rows = _by_print(run, body.fingerprints)
        elif body.checks or body.causes:
            rows = _of_several(run, body)
        else:
            if body.check:
                catalogue.get(body.check)
            rows = results.findings(run, check_id=body.check, cause=body.cause)
            if not rows:
                raise NotFound("The latest run has no such findings.", "They may be fixed already, or waived.")
        return Picked(_groups(run, site, rows, per, title, body.cause is not None), _rules(run))


def _compared(work: Workspace, chosen: ComparedPick, latest: str) -> tuple[str, list[bytes]]:
    """What a comparison calls an event or part, and the fingerprints of the findings that the head has of it."""
    if chosen.head and chosen.head != latest:
        raise Conflict(
            f"Run {chosen.head} is not the latest run of this site.",
            f"Compare with run {latest}, the latest one, and choose the event there.",
        )
    with compared(work, chosen.base, latest) as found:
        events, part = found.figures.events, found.part(chosen.part) if chosen.part is not None else None
        if chosen.event is not None and chosen.event < len(events):
            title = events[chosen.event].title
        elif chosen.event is None and part is not None:
            title = part.name
        else:
            raise NotFound("The comparison has no such event or part.", "Load the comparison and choose from it again.")
        return title, found.prints(Chosen(event=chosen.event, part=chosen.part))


def _by_print(run: RunFile, texts: Sequence[str]) -> list[results.Row]:
    try:
        prints = [bytes.fromhex(text) for text in texts]
    except ValueError:
        raise InvalidInput("A fingerprint is not hexadecimal.", "Copy it from the finding.", "fingerprints") from None
    rows = results.findings_by_print(run, prints)
    if len(rows) < len(set(prints)):
        raise NotFound("Some of these findings are not in the latest run.", "Load the findings again.")
    return rows


def _of_several(run: RunFile, body: TodoSelection) -> list[results.Row]:
    found: dict[int, results.Row] = {}
    for check in body.checks:
        catalogue.get(check)
        found.update((row["id"], row) for row in results.findings(run, check_id=check))
    for cause in body.causes:
        found.update((row["id"], row) for row in results.findings(run, cause=cause))
    if not found:
        raise NotFound("The latest run has no such findings.", "They may be fixed already, or waived.")
    return [found[number] for number in sorted(found)]


def _rules(run: RunFile) -> dict[str, str]:
    sql = "SELECT id, state, needs, revision, limits FROM check_state"
    return {check: CheckUsed(*used).rule for check, *used in run.rows(sql)}


def _groups(run: RunFile, site: Site, rows: Sequence[results.Row], per: TodoPer, title: str, one_cause: bool) -> list[Group]:
    if per == TodoPer.ALL:
        return [Group(title or _title(site, rows, one_cause), rows)]
    keys: dict[str, list[results.Row]] = {}
    templates = _templates(run) if per == TodoPer.TEMPLATE else {}
    for row in rows:
        key = {
            TodoPer.CHECK: row["check"],
            TodoPer.CAUSE: str(row["cause"]),
            TodoPer.PAGE: row["subject"],
            TodoPer.TEMPLATE: templates.get(row["subject"], ""),
        }[per]
        keys.setdefault(key, []).append(row)
    lines = dict(run.rows("SELECT id, line FROM cause")) if per == TodoPer.CAUSE else {}
    return [Group(_group_title(site, per, key, own, lines), own) for key, own in keys.items()]


def _templates(run: RunFile) -> dict[str, str]:
    sql = "SELECT url, template FROM inventory WHERE role = 0 AND template IS NOT NULL"
    return {url: pattern_of(template) for url, template in run.each(sql)}


def _group_title(site: Site, per: TodoPer, key: str, rows: Sequence[results.Row], lines: dict[int, str]) -> str:
    summary = str(rows[0]["summary"])
    same = all(row["check"] == rows[0]["check"] for row in rows)
    what = summary if same else fill("{n:finding}", {"n": len(rows)})
    if per == TodoPer.CHECK:
        return _title(site, rows, False)
    if per == TodoPer.CAUSE:
        return f"{summary}: {lines.get(int(key), '')}".rstrip(": ")
    if per == TodoPer.PAGE:
        return what if key == "site" else f"{what}: {place_on(site.host, key)}"
    return f"{what} on pages like {key}" if key else f"{what} on other URLs"


def _title(site: Site, rows: Sequence[results.Row], one_cause: bool) -> str:
    """What the findings are, and where when they are in one place."""
    summary = str(rows[0]["summary"])
    places = {row["place"] or row["subject"] for row in rows}
    if len(places) == 1 and (one_cause or len(rows) == 1) and is_web(place := places.pop()):
        return f"{summary}: {place_on(site.host, place)}"
    return summary
