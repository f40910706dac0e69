"""What fixes would bring together: the health that a run would have if some of its checks and causes passed."""

from __future__ import annotations

from collections import Counter

from hodcarrier.core import catalogue
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.states import CheckOutcome, Effort
from hodcarrier.core.words import as_shown
from hodcarrier.runfile import results
from hodcarrier.runfile.causes import causes_by_id
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.what_if import if_fixed
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.structure import FixesBody, FixesOut, FixOut

CHOSEN_MAX = 500


def plan_fixes(work: Workspace, run_id: str, body: FixesBody) -> FixesOut:
    """What checks and causes would bring together. A cause whose check is chosen is counted once, with its check. Raises :class:`InvalidInput` for what the
    run does not have."""
    if len(body.checks) + len(body.causes) > CHOSEN_MAX:
        raise InvalidInput(f"More than {CHOSEN_MAX} checks and causes are chosen.", "Choose fewer, or whole checks.", "causes")
    with work.open_run(run_id) as opened:
        items = _items(opened, body)
        found = if_fixed(opened, [i.check for i in items if i.cause is None], [i.cause for i in items if i.cause is not None])
    effort: Counter[Effort] = Counter()
    for item in items:
        if item.fixes:
            effort[item.effort] += item.fixes
    before, after = found.health, found.health_after
    gain = None if before is None or after is None else as_shown(after, "points") - as_shown(before, "points")
    return FixesOut(
        health=before,
        health_after=after,
        gain=gain,
        singly=sum(item.gain for item in items),
        findings=found.findings,
        subjects=found.subjects,
        fixes=sum(item.fixes for item in items),
        effort=dict(effort),
        items=items,
    )


def _items(run: RunFile, body: FixesBody) -> list[FixOut]:
    current = catalogue.load().current
    rows = {current(row["id"]): row for row in results.checks(run, tuple(CheckOutcome))}
    items = []
    for check in dict.fromkeys(map(current, body.checks)):
        if check not in rows:
            raise InvalidInput(f"This run had no check “{check}”.", "Choose among those that it had.", "checks")
        row = rows[check]
        items.append(_fix(row, None, row["summary"], row["fixes"], row["findings"], row["gain"]))
    chosen = {item.check for item in items}
    for cause in causes_by_id(run, dict.fromkeys(body.causes)):
        if cause["check"] not in chosen:
            row = rows[current(cause["check"])]
            items.append(_fix(row, cause["id"], cause["line"], 1, cause["findings"], cause["gain"]))
    return items


def _fix(row: results.Row, cause: int | None, text: str, fixes: int, findings: int, gain: float) -> FixOut:
    return FixOut(
        check=row["id"],
        cause=cause,
        text=text,
        severity=row["severity"],
        effort=row["effort"],
        fixes=fixes,
        findings=findings,
        gain=gain,
    )
