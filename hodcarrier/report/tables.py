"""Findings as tables and documents: CSV, JSON and SARIF 2.1.0."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Any, Protocol

from hodcarrier.core.states import ExportForm, Severity
from hodcarrier.core.words import visible

FINDING_FIELDS = (
    "check",
    "severity",
    "subject",
    "place",
    "message",
    "since",
    "times_returned",
    "waived",
    "fingerprint",
    "evidence",
)
CAUSE_FIELDS = ("id", "check", "severity", "summary", "line", "findings", "pages", "gain", "since", "times_returned")
PART_CHARS = 64_000
_FORMULA_STARTS = ("=", "+", "-", "@", "\t", "\r")
_SARIF_LEVEL: dict[str, str] = {
    Severity.CRITICAL: "error",
    Severity.HIGH: "error",
    Severity.MEDIUM: "warning",
    Severity.LOW: "note",
}


class Explained(Protocol):
    """A check in words."""

    @property
    def summary(self) -> str:
        """What it finds."""
        ...

    @property
    def why(self) -> str:
        """Why it matters."""
        ...

    @property
    def fix(self) -> str:
        """How to fix it."""
        ...


def safe_cell(value: Any) -> Any:
    """A cell that no spreadsheet takes for a formula, and that steers no terminal: text that begins like a formula gets an apostrophe in front,
    control characters are made visible."""
    if not isinstance(value, str):
        return value
    text = visible(value)
    return "'" + text if value.startswith(_FORMULA_STARTS) else text


def csv_parts(rows: Iterable[dict[str, Any]], fields: Sequence[str]) -> Iterator[str]:
    """A CSV table (RFC 4180) with a head row, in parts; nested values are written as JSON."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(fields)
    for row in rows:
        cells = [row.get(name) for name in fields]
        writer.writerow(
            [
                safe_cell(json.dumps(c, ensure_ascii=False) if isinstance(c, dict | list) else "" if c is None else c)
                for c in cells
            ]
        )
        if out.tell() > PART_CHARS:
            yield out.getvalue()
            out.seek(0)
            out.truncate()
    yield out.getvalue()


def to_csv(rows: Iterable[dict[str, Any]], fields: Sequence[str]) -> str:
    """The parts of :func:`csv_parts` in one."""
    return "".join(csv_parts(rows, fields))


def json_parts(rows: Iterable[dict[str, Any]]) -> Iterator[str]:
    """The rows as a JSON array, in parts."""
    yield "[\n"
    yield from _gathered(_items(rows, 2))
    yield "]\n"


def json_lines(rows: Iterable[dict[str, Any]]) -> Iterator[str]:
    """The rows as JSON Lines, in parts."""
    yield from _gathered(json.dumps(row, ensure_ascii=False) + "\n" for row in rows)


def _items(rows: Iterable[Any], indent: int) -> Iterator[str]:
    """Elements of a JSON array, each on lines of its own."""
    blanks = " " * indent
    before = ""
    for row in rows:
        yield before + blanks + json.dumps(row, ensure_ascii=False, indent=indent).replace("\n", "\n" + blanks)
        before = ",\n"
    if before:
        yield "\n"


def _gathered(parts: Iterable[str]) -> Iterator[str]:
    """Small parts put together to larger ones."""
    held, size = [], 0
    for part in parts:
        held.append(part)
        size += len(part)
        if size > PART_CHARS:
            yield "".join(held)
            held, size = [], 0
    yield "".join(held)


def sarif_parts(
    rows: Iterable[dict[str, Any]], version: str, texts: Mapping[str, Explained], examined_at: str = ""
) -> Iterator[str]:
    """Findings as a SARIF 2.1.0 log (OASIS) with one run, in parts; waived findings carry a suppression. ``examined_at``: when the run was, where
    there was one before it: findings of that moment are new to it, all others unchanged.

    ``texts`` explain the checks as the run file tells them. The results come before the rules, of which only those that were used are
    told: which they are is known at the end.
    """
    used: dict[str, int] = {}
    yield '{\n "$schema": "https://json.schemastore.org/sarif-2.1.0.json",\n "version": "2.1.0",\n "runs": [\n  {\n   "results": [\n'
    yield from _gathered(_items((_sarif_result(row, used.setdefault(row["check"], len(used)), examined_at) for row in rows), 1))
    rules = [
        {
            "id": name,
            "shortDescription": {"text": texts[name].summary if name in texts else name},
            "fullDescription": {"text": texts[name].why if name in texts else name},
            "help": {"text": texts[name].fix if name in texts else name},
        }
        for name in used
    ]
    tool = {"driver": {"name": "Hodcarrier", "version": version, "rules": rules}}
    yield f'   ],\n   "tool": {json.dumps(tool, ensure_ascii=False)}\n  }}\n ]\n}}\n'


def _sarif_result(row: Mapping[str, Any], rule: int, examined_at: str) -> dict[str, Any]:
    result: dict[str, Any] = {
        "ruleId": row["check"],
        "ruleIndex": rule,
        "level": _SARIF_LEVEL[row["severity"]],
        "message": {"text": row["message"]},
        "locations": [{"physicalLocation": {"artifactLocation": {"uri": row["subject"]}}}],
        "partialFingerprints": {"hodcarrier/v1": row["fingerprint"]},
        "properties": {"place": row["place"], "evidence": row["evidence"]},
    }
    if examined_at:
        result["baselineState"] = "new" if row["since"] == examined_at and not row["times_returned"] else "unchanged"
    if row.get("waived"):
        result["suppressions"] = [{"kind": "external"}]
    return result


def export_parts(
    form: ExportForm, rows: Iterable[dict[str, Any]], version: str, texts: Mapping[str, Explained], examined_at: str = ""
) -> Iterator[str]:
    """Findings in one of the forms that are text. Raises :class:`ValueError` for another."""
    if form == ExportForm.CSV:
        return csv_parts(rows, FINDING_FIELDS)
    if form == ExportForm.JSON:
        return json_parts(rows)
    if form == ExportForm.LINES:
        return json_lines(rows)
    if form == ExportForm.SARIF:
        return sarif_parts(rows, version, texts, examined_at)
    raise ValueError(form)
