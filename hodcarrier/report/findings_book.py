"""Findings as a workbook: a sheet for each severity, the most severe first, and one for what is waived."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import Any, BinaryIO

from hodcarrier.core.states import Severity
from hodcarrier.report.tables import CAUSE_FIELDS, FINDING_FIELDS
from hodcarrier.report.workbook import Sheet, write_workbook

Rows = Iterable[Mapping[str, Any]]
HEADS = {
    "id": "Id",
    "check": "Check",
    "severity": "Severity",
    "summary": "What",
    "subject": "URL",
    "place": "Place",
    "message": "Finding",
    "since": "Since",
    "times_returned": "Returned",
    "waived": "Waived",
    "fingerprint": "Fingerprint",
    "evidence": "Evidence",
    "line": "Cause",
    "findings": "Places",
    "pages": "Pages",
    "gain": "Gain",
}


def write_findings(out: BinaryIO, of_severity: Callable[[Severity], Rows], waived: Rows) -> None:
    """Write findings; ``of_severity`` gives the open ones of a severity."""
    sheets: dict[str, Sheet] = {severity.value: (HEADS, FINDING_FIELDS, _flat(of_severity(severity))) for severity in Severity}
    sheets["waived"] = (HEADS, FINDING_FIELDS, _flat(waived))
    write_workbook(out, sheets)


def write_causes(out: BinaryIO, rows: Rows) -> None:
    """Write causes on one sheet."""
    write_workbook(out, {"causes": (HEADS, CAUSE_FIELDS, rows)})


def _flat(rows: Rows) -> Iterator[Mapping[str, Any]]:
    """Evidence as JSON: a cell holds no other."""
    for row in rows:
        yield {**row, "evidence": json.dumps(row["evidence"], ensure_ascii=False)}
