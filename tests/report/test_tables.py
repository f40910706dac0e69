"""Tables and documents for other programs, and the report's page: safe whatever a site or client is called."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterator
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.cli.output import out, table
from hodcarrier.core.catalogue import load
from hodcarrier.core.states import ExportForm
from hodcarrier.core.words import visible
from hodcarrier.report.document import css_string, draw_html
from hodcarrier.report.drawn import drawn
from hodcarrier.report.tables import FINDING_FIELDS, PART_CHARS, export_parts, json_parts, safe_cell, sarif_parts, to_csv
from hodcarrier.report.values import STORED, ReportValues


def finding(**more: Any) -> dict[str, Any]:
    row = {
        "check": "link-broken",
        "severity": "high",
        "summary": "Links lead nowhere",
        "subject": "https://shop.example/",
        "place": "https://shop.example/gone",
        "message": "The link “old” leads to nothing",
        "since": "2026-11-24T02:04:00+00:00",
        "times_returned": 0,
        "waived": False,
        "fingerprint": "ab" * 16,
        "evidence": {"target": "https://shop.example/gone"},
    }
    return {**row, **more}


@pytest.mark.parametrize("text", ["=1+1", "+1", "-1", "@SUM(A1)", "\t=1", "\r=1", "=cmd|' /C calc'!A0"])
def test_no_spreadsheet_takes_a_cell_for_a_formula(text: str) -> None:
    row = next(csv.DictReader(io.StringIO(to_csv([finding(message=text)], FINDING_FIELDS))))
    assert row["message"].startswith("'")


@given(st.text(alphabet=st.characters(blacklist_categories=("Cs",), blacklist_characters="\r\n\0"), max_size=40))
def test_tables_come_back_as_they_were(text: str) -> None:
    row = next(csv.DictReader(io.StringIO(to_csv([finding(message=text)], FINDING_FIELDS))))
    assert row["message"] == safe_cell(text)


@pytest.mark.parametrize(
    ("text", "shown"),
    [
        ("Rope \x1b[31mred\x1b[0m", "Rope ␛[31mred␛[0m"),
        ("a\u202egpj.exe", "a<U+202E>gpj.exe"),
        ("bell\x07 back\x08 del\x7f csi\x9b", "bell␇ back␈ del␡ csi<9B>"),
        ("two\nlines\tand a tab, Ünïcödé, עברית, 綱", "two\nlines\tand a tab, Ünïcödé, עברית, 綱"),
    ],
)
def test_what_a_site_says_steers_nothing(text: str, shown: str) -> None:
    assert visible(text) == shown
    assert next(csv.DictReader(io.StringIO(to_csv([finding(message=text)], FINDING_FIELDS))))["message"] == shown
    with out.capture() as captured:
        table([{"message": text.replace("\n", " ").replace("\t", " ")}], [("message", "Finding")], "")
    printed = captured.get()
    assert not {c for c in printed if c not in "\n" and (ord(c) < 32 or 0x7F <= ord(c) < 0xA0 or c in "\u202e\u2066")}


def test_nested_values_are_json_and_nothing_is_empty() -> None:
    row = next(csv.DictReader(io.StringIO(to_csv([finding(since=None)], FINDING_FIELDS))))
    assert json.loads(row["evidence"]) == {"target": "https://shop.example/gone"} and row["since"] == ""
    assert json.loads("".join(json_parts([finding()])))[0]["check"] == "link-broken"


def test_sarif_names_rules_levels_and_suppressions() -> None:
    rows = [
        finding(),
        finding(check="text-thin", severity="medium", waived=True),
        finding(severity="critical"),
        finding(severity="low"),
    ]
    log = json.loads("".join(sarif_parts(rows, "9.9", {name: entry.check for name, entry in load().items()})))
    run = log["runs"][0]
    assert run["tool"]["driver"]["version"] == "9.9"
    assert [r["id"] for r in run["tool"]["driver"]["rules"]] == ["link-broken", "text-thin"]
    assert [r["level"] for r in run["results"]] == ["error", "warning", "error", "note"]
    assert [bool(r.get("suppressions")) for r in run["results"]] == [False, True, False, False]
    assert all(rule["help"]["text"] and rule["fullDescription"]["text"] for rule in run["tool"]["driver"]["rules"])


def test_findings_of_a_check_that_is_gone_are_still_exported() -> None:
    log = json.loads("".join(sarif_parts([finding(check="no-longer-there")], "1", {})))
    assert log["runs"][0]["tool"]["driver"]["rules"][0]["help"]["text"] == "no-longer-there"


@given(st.text(max_size=30))
def test_no_text_ends_a_string_of_css(text: str) -> None:
    shown = str(css_string(text))
    assert shown[0] == shown[-1] == '"'
    assert not set(shown[1:-1]) & set('"<>\n\r&')


def values(**more: Any) -> ReportValues:
    """A report as it was stored before reports had a version, lifted to what templates draw today."""
    base: dict[str, Any] = {
        "title": "Rope & Sail: November", "agency": "Cobble & Lantern", "client": "Rope </style><script>x</script>", "host": "rope.example",
        "from": "2026-11-01", "to": "2026-11-30", "span": "November 2026", "made": "2026-12-01", "note": "<b>busy</b>", "health": 91.5,
        "health_before": None, "before_day": "2026-11-01", "pages": 12, "trend": "steady",
        "line": [{"day": "2026-11-03", "health": 90.0}, {"day": "2026-11-10", "health": None}, {"day": "2026-11-17", "health": 91.5}],
        "remarks": [{"day": "2026-11-05", "text": "New <theme>"}], "counts": {"new": 0, "fixed": 2, "returned": 0}, "fixed": [], "in_hand": [],
        "next": [], "areas": [], "funnel": [], "appendix": [], "standing": None, "sentences": ["All is <well>."],
    }  # fmt: skip
    return STORED.load({**base, **more})


def test_a_report_of_an_earlier_release_is_drawn_with_what_it_has() -> None:
    page = draw_html(drawn(values()))
    assert "<script>x" not in page and "<b>busy" not in page and "<theme>" not in page
    assert "&lt;b&gt;busy" in page and "Cobble &amp; Lantern" in page and "91.5" in page and "<circle" in page


def test_a_report_of_an_earlier_release_without_health_says_so() -> None:
    page = draw_html(drawn(values(health=None, line=[])))
    assert "there is no health" in page and "<circle" not in page


@pytest.mark.parametrize("count", [0, 1, 3, 2_000])
@pytest.mark.parametrize("form", [ExportForm.CSV, ExportForm.JSON, ExportForm.LINES, ExportForm.SARIF])
def test_an_export_comes_in_parts_of_bounded_size(form: ExportForm, count: int) -> None:
    made = 0

    def rows() -> Iterator[dict[str, object]]:
        nonlocal made
        for made in range(1, count + 1):
            yield finding(message=f"number {made}")

    parts = export_parts(form, rows(), "1", {})
    first = next(parts)
    assert made < 500, "the first part is there long before the last row"
    rest = list(parts)
    assert all(len(part) < 2 * PART_CHARS for part in rest)
    text = first + "".join(rest)
    if form == ExportForm.CSV:
        told = [row["message"] for row in csv.DictReader(io.StringIO(text))]
    elif form == ExportForm.LINES:
        told = [json.loads(line)["message"] for line in text.splitlines()]
    elif form == ExportForm.JSON:
        told = [row["message"] for row in json.loads(text)]
    else:
        told = [row["message"]["text"] for row in json.loads(text)["runs"][0]["results"]]
    assert told == [f"number {n}" for n in range(1, count + 1)]


def test_sarif_tells_what_is_new_where_there_is_a_run_before() -> None:
    rows = [
        finding(since="2026-11-24T02:00:00+00:00", times_returned=0),
        finding(since="2026-11-03T02:00:00+00:00", times_returned=0),
        finding(since="2026-11-24T02:00:00+00:00", times_returned=1),
    ]

    def states(examined_at: str) -> list[str | None]:
        log = json.loads("".join(sarif_parts(rows, "1", {}, examined_at)))
        return [result.get("baselineState") for result in log["runs"][0]["results"]]

    assert states("2026-11-24T02:00:00+00:00") == ["new", "unchanged", "unchanged"]
    assert states("") == [None, None, None]


def test_a_run_file_is_no_text() -> None:
    with pytest.raises(ValueError, match="file"):
        export_parts(ExportForm.FILE, [], "1", {})
