"""Runs, comparisons and benchmarks as documents for other programs and other people."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from datetime import date
from functools import partial
from typing import Annotated, Any

from fastapi import APIRouter, Query, Response
from fastapi.responses import FileResponse, StreamingResponse

from hodcarrier import __version__
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.states import Change, Every, ExportForm, ExportOf, Severity, TableForm, WorklistForm
from hodcarrier.report.benchmark_book import check_table, measure_table, missing_table
from hodcarrier.report.findings_book import write_causes, write_findings
from hodcarrier.report.tables import CAUSE_FIELDS, csv_parts, export_parts, json_lines, json_parts
from hodcarrier.report.trend_table import trend_table
from hodcarrier.report.workbook import Sheet, write_workbook
from hodcarrier.report.worklist import draw_worklist, write_worklist
from hodcarrier.runfile import results
from hodcarrier.runfile.causes import each_cause
from hodcarrier.runfile.compared import Chosen
from hodcarrier.runfile.reader import RunFile
from hodcarrier.service.deps import Work, actual_run
from hodcarrier.service.guard import serves
from hodcarrier.service.spooled import spooled
from hodcarrier.usecases import benchmarks, comparisons, trends
from hodcarrier.usecases.worklists import worklist

router = APIRouter()
TYPES = {
    ExportForm.CSV: "text/csv; charset=utf-8",
    ExportForm.JSON: "application/json",
    ExportForm.LINES: "application/jsonl",
    ExportForm.XLSX: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    ExportForm.SARIF: "application/sarif+json",
    ExportForm.FILE: "application/vnd.sqlite3",
}
Rows = Iterable[dict[str, Any]]


@serves(router, "export_run")
def export_run(
    run_id: str,
    form: ExportForm,
    work: Work,
    what: ExportOf = ExportOf.FINDINGS,
    check: str = "",
    severity: Severity | None = None,
) -> Response:
    run_id = actual_run(work, run_id)
    if form == ExportForm.FILE:
        with work.open_run(run_id):
            return FileResponse(work.store.whole_path(run_id), filename=f"{run_id}.sqlite", media_type=TYPES[form])
    if what == ExportOf.CAUSES and form == ExportForm.SARIF:
        raise InvalidInput("SARIF holds findings, not causes.", "Choose findings, or another form.", "form")
    headers = {"Content-Disposition": f'attachment; filename="{what}-{run_id}.{form}"'}
    opened = work.open_run(run_id)
    if form == ExportForm.XLSX:
        with opened:
            write = partial(_write_book, opened, what, check, severity)
            return spooled(write, TYPES[form], headers)
    parts = _causes(opened, form, check, severity) if what == ExportOf.CAUSES else _findings(opened, form, check, severity)
    return StreamingResponse(parts, media_type=TYPES[form], headers=headers)


def _findings(run: RunFile, form: ExportForm, check: str, severity: Severity | None) -> Iterator[str]:
    """Findings in parts, from the first byte on; whatever their number, no more than a part is held."""
    with run:
        rows = results.each_finding(run, check_id=check, severity=severity or "", waived=None)
        yield from export_parts(form, rows, __version__, results.texts(run), results.compared_at(run))


def _causes(run: RunFile, form: ExportForm, check: str, severity: Severity | None) -> Iterator[str]:
    with run:
        rows = _chosen_causes(run, check, severity)
        if form == ExportForm.CSV:
            yield from csv_parts(rows, CAUSE_FIELDS)
        else:
            yield from json_parts(rows) if form == ExportForm.JSON else json_lines(rows)


def _chosen_causes(run: RunFile, check: str, severity: Severity | None) -> Iterator[dict[str, Any]]:
    for row in each_cause(run):
        if (not check or row["check"] == check) and severity in (None, row["severity"]):
            yield row


def _write_book(run: RunFile, what: ExportOf, check: str, severity: Severity | None, out: Any) -> None:
    if what == ExportOf.CAUSES:
        write_causes(out, _chosen_causes(run, check, severity))
        return

    def open_ones(of: Severity) -> Iterable[Mapping[str, Any]]:
        return results.each_finding(run, check_id=check, severity=of) if severity in (None, of) else ()

    write_findings(out, open_ones, results.each_finding(run, check_id=check, severity=severity or "", waived=True))


@serves(router, "export_worklist")
def export_worklist(
    run_id: str, work: Work, form: WorklistForm = WorklistForm.PAGE, checks: str = "", causes: str = ""
) -> Response:
    run_id = actual_run(work, run_id)
    found = worklist(work, run_id, _listed(checks), _numbers(causes))
    headers = {"X-Robots-Tag": "noindex"}
    if form == WorklistForm.MARKDOWN:
        headers["Content-Disposition"] = f'attachment; filename="fixes-{run_id}.md"'
        return Response(write_worklist(found), media_type="text/markdown; charset=utf-8", headers=headers)
    return Response(draw_worklist(found), media_type="text/html; charset=utf-8", headers=headers)


def _listed(text: str) -> list[str]:
    return [part.strip() for part in text.split(",") if part.strip()]


def _numbers(text: str) -> list[int]:
    try:
        return [int(part) for part in _listed(text)]
    except ValueError:
        raise InvalidInput(f"“{text}” is no list of causes.", "Give ids with commas between.", "causes") from None


@serves(router, "export_comparison")
def export_comparison(
    base: str,
    head: str,
    work: Work,
    form: TableForm = TableForm.CSV,
    change: Change | None = None,
    check: str = "",
    event: Annotated[int | None, Query(ge=0)] = None,
    part: Annotated[int | None, Query(ge=1)] = None,
) -> Response:
    base, head = actual_run(work, base), actual_run(work, head)
    rows = comparisons.each_compared(work, base, head, Chosen(change, check, event, part))
    media_type = TYPES[ExportForm(form)]
    headers = {"Content-Disposition": f'attachment; filename="comparison-{base}-{head}.{form}"'}
    fields = comparisons.COMPARED_FIELDS
    if form == TableForm.XLSX:
        return spooled(
            lambda out: write_workbook(out, {"comparison": (comparisons.COMPARED_HEADS, fields, rows)}), media_type, headers
        )
    return StreamingResponse(
        csv_parts(rows, fields) if form == TableForm.CSV else json_lines(rows), media_type=media_type, headers=headers
    )


@serves(router, "export_benchmark")
def export_benchmark(benchmark_id: int, work: Work, form: TableForm = TableForm.XLSX) -> Response:
    found = benchmarks.get_benchmark(work, benchmark_id)
    media_type = TYPES[ExportForm(form)]
    headers = {"Content-Disposition": f'attachment; filename="benchmark-{benchmark_id}.{form}"'}
    measures = measure_table(found)
    if form == TableForm.XLSX:
        book = {"Measures": measures, "Failing checks": check_table(found), "What they have": missing_table(found)}
        return spooled(lambda out: write_workbook(out, book), media_type, headers)
    return _table(measures, form, headers)


@serves(router, "export_trend")
def export_trend(
    site_id: int,
    work: Work,
    form: TableForm = TableForm.CSV,
    figure: str = "health",
    start: Annotated[date | None, Query(alias="from")] = None,
    end: Annotated[date | None, Query(alias="to")] = None,
    every: Every = Every.RUN,
) -> Response:
    return table_answer(trend_table(trends.get_trend(work, site_id, figure, start, end, every)), form, f"trend-{site_id}")


def table_answer(sheet: Sheet, form: TableForm, name: str) -> Response:
    """A table as a document of that name."""
    headers = {"Content-Disposition": f'attachment; filename="{name}.{form}"'}
    if form == TableForm.XLSX:
        return spooled(lambda out: write_workbook(out, {"Table": sheet}), TYPES[ExportForm(form)], headers)
    return _table(sheet, form, headers)


def _table(sheet: Sheet, form: TableForm, headers: Mapping[str, str]) -> Response:
    """A table as text, part by part."""
    _, fields, rows = sheet
    plain = map(dict, rows)
    return StreamingResponse(
        csv_parts(plain, fields) if form == TableForm.CSV else json_lines(plain),
        media_type=TYPES[ExportForm(form)],
        headers=dict(headers),
    )
