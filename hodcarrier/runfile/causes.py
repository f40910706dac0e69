"""Reading the causes of a run: what one fix each would clear, as plain values for the surfaces."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any

from hodcarrier.core.errors import InvalidInput
from hodcarrier.runfile.reader import RunFile

Row = dict[str, Any]
CAUSE_COLUMNS = ("id", "check", "key", "line", "findings", "pages", "gain", "since", "times_returned")


def causes(run: RunFile, check_id: str = "", limit: int = 200, after: int = 0) -> list[Row]:
    """Causes of one check (or of all) that have open findings, the most valuable first, each with its age.

    ``after`` is the id of the last cause of the part before. Raises :class:`InvalidInput` when there is no such cause.
    """
    where, values = ["findings > 0"], []  # type: tuple[list[str], list[Any]]
    if check_id:
        where.append("check_id = ?")
        values.append(check_id)
    texts_of = {
        check: (severity, summary) for check, severity, summary in run.rows("SELECT id, severity, summary FROM check_state")
    }
    found: list[tuple[Any, ...]] = []
    for position, at in _after_cause(run, after):
        sql = (
            "SELECT id, check_id, key, line, findings, pages, gain, first_seen, times_returned FROM cause"
            f" WHERE {' AND '.join([*where, position])} ORDER BY gain DESC, findings DESC, id LIMIT ?"
        )
        found += run.rows(sql, *values, *at, limit - len(found))
        if len(found) == limit:
            break
    rows = [dict(zip(CAUSE_COLUMNS, row, strict=True)) for row in found]
    for row in rows:
        row["severity"], row["summary"] = texts_of[row["check"]]
    return rows


def causes_by_id(run: RunFile, numbers: Iterable[int]) -> list[Row]:
    """Causes by their ids, without their ages. Raises :class:`InvalidInput` for one that the run does not have."""
    found = []
    for number in numbers:
        rows = run.rows("SELECT id, check_id, line, findings, gain FROM cause WHERE id = ? AND findings > 0", number)
        if not rows:
            raise InvalidInput(f"The run has no cause {number} with open findings.", "Choose among those that it has.", "causes")
        found.append(dict(zip(("id", "check", "line", "findings", "gain"), rows[0], strict=True)))
    return found


def top_cause(run: RunFile, check_id: str) -> str:
    """The line of a check's weightiest cause; empty when it has none."""
    found = run.rows(
        "SELECT line FROM cause WHERE check_id = ? AND findings > 0 ORDER BY gain DESC, findings DESC, id LIMIT ?", check_id, 1
    )
    return str(found[0][0]) if found else ""


def _after_cause(run: RunFile, after: int) -> list[tuple[str, tuple[Any, ...]]]:
    """The stretches of the list of causes behind one of them, in their order."""
    if not after:
        return [("1", ())]
    last = run.rows("SELECT gain, findings FROM cause WHERE id = ?", after)
    if not last:
        raise InvalidInput(f"The list has no place {after}.", "Give the id of the last cause of the part before.", "after")
    gain, findings = last[0]
    return [
        ("gain = ? AND findings = ? AND id > ?", (gain, findings, after)),
        ("gain = ? AND findings < ?", (gain, findings)),
        ("gain < ?", (gain,)),
    ]


def each_cause(run: RunFile, part: int = 1_000) -> Iterator[Row]:
    """All causes with open findings, the most valuable first, while the file is open."""
    after = 0
    while rows := causes(run, limit=part, after=after):
        yield from rows
        after = rows[-1]["id"]
