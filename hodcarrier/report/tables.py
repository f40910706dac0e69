"""Findings as tables and documents: CSV, JSON and SARIF 2.1.0."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterable, Mapping, Sequence
from typing import Any, Protocol

from hodcarrier.core.states import Severity
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


def to_csv(rows: Iterable[dict[str, Any]], fields: Sequence[str]) -> str:
    """A CSV table (RFC 4180) with a head row; nested values are written as JSON."""
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
    return out.getvalue()


def to_json(rows: Iterable[dict[str, Any]]) -> str:
    """The rows as a JSON array."""
    return json.dumps(list(rows), ensure_ascii=False, indent=2) + "\n"


def to_sarif(rows: Iterable[dict[str, Any]], version: str, texts: Mapping[str, Explained]) -> str:
    """Findings as a SARIF 2.1.0 log (OASIS) with one run; waived findings carry a suppression.

    ``texts`` explain the checks as the run file tells them.
    """
    used: dict[str, int] = {}
    results = []
    for row in rows:
        index = used.setdefault(row["check"], len(used))
        result: dict[str, Any] = {
            "ruleId": row["check"],
            "ruleIndex": index,
            "level": _SARIF_LEVEL[row["severity"]],
            "message": {"text": row["message"]},
            "locations": [{"physicalLocation": {"artifactLocation": {"uri": row["subject"]}}}],
            "partialFingerprints": {"hodcarrier/v1": row["fingerprint"]},
            "properties": {"place": row["place"], "evidence": row["evidence"]},
        }
        if row.get("waived"):
            result["suppressions"] = [{"kind": "external"}]
        results.append(result)
    rules = [
        {
            "id": name,
            "shortDescription": {"text": texts[name].summary if name in texts else name},
            "fullDescription": {"text": texts[name].why if name in texts else name},
            "help": {"text": texts[name].fix if name in texts else name},
        }
        for name in used
    ]
    log = {
        "$schema": "https://json.schemastore.org/sarif-2.1.0.json",
        "version": "2.1.0",
        "runs": [{"tool": {"driver": {"name": "Hodcarrier", "version": version, "rules": rules}}, "results": results}],
    }
    return json.dumps(log, ensure_ascii=False, indent=1) + "\n"
