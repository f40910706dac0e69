"""The work list of a run for a developer: checks and causes that were chosen, or all of them, with places and code."""

from __future__ import annotations

from collections.abc import Sequence

from hodcarrier.core import catalogue
from hodcarrier.core.judge.health import gain_points
from hodcarrier.core.states import SourceDocument
from hodcarrier.register.models import Run
from hodcarrier.report.worklist import WorkCause, WorkCheck, Worklist, WorkPlace
from hodcarrier.runfile import results
from hodcarrier.runfile.causes import causes as causes_in
from hodcarrier.runfile.causes import causes_by_id
from hodcarrier.runfile.evidence import Located, Locator
from hodcarrier.runfile.reader import RunFile
from hodcarrier.usecases.workspace import Workspace, fetch

CAUSES_TOLD = 25
PLACES_TOLD = 5
PLACES_TOLD_IN_ALL = 400


def worklist(work: Workspace, run_id: str, checks: Sequence[str] = (), causes: Sequence[int] = ()) -> Worklist:
    """The work list of a run. Nothing chosen: all checks that fail. Raises :class:`InvalidInput` for a cause that the run does not have."""
    with work.reading() as session:
        run = fetch(session, Run, run_id, "run")
        host, at, health = run.site.host, run.requested_at, run.health
    with work.open_run(run_id) as opened:
        listed = _Listing(opened, checks, causes)
        told = "" if health is None else f"Health is {health:.1f} of 100."
        return Worklist(host, at, told, listed.checks())


def _line(found: Located | None) -> str:
    if found is None or not found.line:
        return ""
    return f"line {found.line}" if found.document == SourceDocument.PAGE else f"line {found.line} of {found.document}"


class _Listing:
    """Writes the list; of a large site the beginning of each part, so that it stays something to work from."""

    def __init__(self, run: RunFile, checks: Sequence[str], causes: Sequence[int]) -> None:
        known = catalogue.load()
        self._run = run
        self._everything = not checks and not causes
        self._checks = {known.current(check) for check in checks}
        self._causes = {row["id"]: known.current(row["check"]) for row in causes_by_id(run, dict.fromkeys(causes))}
        self._locator = Locator(run)
        self._left = PLACES_TOLD_IN_ALL

    def checks(self) -> list[WorkCheck]:
        """The checks in the order of work."""
        texts, known = results.texts(self._run), catalogue.load()
        found = []
        for row in results.checks(self._run):
            current = known.current(row["id"])
            whole = self._everything or current in self._checks
            if not row["findings"] or not (whole or current in self._causes.values()):
                continue
            rows = causes_in(self._run, row["id"], limit=10_000)
            chosen = [cause for cause in rows if whole or cause["id"] in self._causes]
            text = texts[row["id"]]
            found.append(
                WorkCheck(
                    check=row["id"],
                    summary=text.summary,
                    severity=text.severity,
                    effort=text.effort,
                    findings=row["findings"],
                    gain=gain_points(row["gain"]),
                    why=text.why,
                    fix=text.fix,
                    standard=text.standard,
                    causes=[self._cause(cause) for cause in chosen[:CAUSES_TOLD]],
                    more=max(0, len(chosen) - CAUSES_TOLD),
                )
            )
        return found

    def _cause(self, cause: results.Row) -> WorkCause:
        told = min(PLACES_TOLD, self._left)
        rows = results.findings(self._run, cause=cause["id"], limit=told) if told else []
        self._left -= len(rows)
        places: list[WorkPlace] = []
        shown = ("", "", "")
        for row in rows:
            found = self._locator.of(row)
            code = (found.selector, found.before, found.after) if found else ("", "", "")
            # What several places share, such as a line of robots.txt, is shown once.
            places.append(WorkPlace(row["subject"], row["message"], _line(found), *(code if code != shown else ("", "", ""))))
            shown = code
        return WorkCause(cause["line"], cause["findings"], places, cause["findings"] - len(places))
