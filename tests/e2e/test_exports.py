"""A run and a comparison in every form that leaves the service, told by what they hold."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass

import httpx
import pytest

from hodcarrier.client import RequestFailed
from hodcarrier.core.catalogue import doc, gone, page
from hodcarrier.core.states import ExportForm, ExportOf, Severity, TableForm, WorklistForm
from hodcarrier.core.web.sitemaps import read
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.sitemaps import SitemapOptions
from hodcarrier.wire.sites import SiteBody
from tests.running import Service, local_site


@dataclass
class Exported:
    service: Service
    site: int
    runs: list[str]


@pytest.fixture(scope="module")
def exported(service: Service) -> Iterator[Exported]:
    with (
        local_site(
            page(doc('<h1>Front</h1><a href="/a">A</a><a href="/gone">gone</a>')),
            page(doc('<h1>=A</h1><a href="/gone">gone</a>', "<title>=1+1</title>"), "/a"),
            gone("/gone"),
        ) as site,
        service.client() as desk,
    ):
        client = desk.add_client(ClientBody(name="Exported"))
        plan = {"private_addresses": ["127.0.0.0/8"], "rate_per_s": 500}
        made = desk.add_site(SiteBody(client_id=client.id, address=site.address, plan=plan))
        runs = [desk.wait_for_run(desk.start_run(made.id).id, every_s=0.1).id for _ in range(2)]
        yield Exported(service, made.id, runs)


def sheets(document: bytes) -> list[str]:
    with zipfile.ZipFile(io.BytesIO(document)) as archive:
        return [line.split('"')[0] for line in archive.read("xl/workbook.xml").decode().split('<sheet name="')[1:]]


def test_findings_are_the_same_in_every_form(exported: Exported) -> None:
    run = exported.runs[1]
    with exported.service.client() as desk:
        total = desk.get_run(run).findings
        rows = list(csv.DictReader(io.StringIO(desk.export_run(run, ExportForm.CSV).decode())))
        lines = [json.loads(line) for line in desk.export_run(run, ExportForm.LINES).splitlines()]
        results = json.loads(desk.export_run(run, ExportForm.SARIF))["runs"][0]["results"]
        assert len(rows) == len(lines) == len(results) == total
        assert {result["baselineState"] for result in results} == {"unchanged"}
        assert sheets(desk.export_run(run, ExportForm.XLSX)) == [*Severity, "waived"]
        high = desk.export_run(run, ExportForm.LINES, severity=Severity.HIGH).splitlines()
        assert len(high) == sum(row["severity"] == "high" for row in rows)
        assert "baselineState" not in json.loads(desk.export_run(exported.runs[0], ExportForm.SARIF))["runs"][0]["results"][0]


def test_causes_are_exported_with_their_figures(exported: Exported) -> None:
    run = exported.runs[1]
    with exported.service.client() as desk:
        told = [(row.id, row.findings) for row in desk.list_causes(run, limit=1000)]
        lines = [json.loads(line) for line in desk.export_run(run, ExportForm.LINES, ExportOf.CAUSES).splitlines()]
        assert [(row["id"], row["findings"]) for row in lines] == told
        assert sheets(desk.export_run(run, ExportForm.XLSX, ExportOf.CAUSES)) == ["causes"]
        with pytest.raises(RequestFailed, match="SARIF holds findings"):
            desk.export_run(run, ExportForm.SARIF, ExportOf.CAUSES)


def test_a_work_list_names_places_of_what_was_chosen(exported: Exported) -> None:
    run = exported.runs[1]
    with exported.service.client() as desk:
        cause = next(row for row in desk.list_causes(run) if row.check == "link-broken")
        text = desk.export_worklist(run, WorklistForm.MARKDOWN, causes=str(cause.id)).decode()
        assert text.count("\n## ") == 1 and "- [ ] " in text and ", line " in text and "/gone" in text
        assert b"<h2 id=" in desk.export_worklist(run)
        with pytest.raises(RequestFailed, match="no list of causes"):
            desk.export_worklist(run, causes="x")


def test_a_comparison_is_a_table_of_classes(exported: Exported) -> None:
    base, head = exported.runs
    with exported.service.client() as desk:
        counts = desk.compare_runs(base, head).counts
        rows = list(csv.DictReader(io.StringIO(desk.export_comparison(base, head).decode())))
        assert len(rows) == sum(counts.values()) and {row["change"] for row in rows} == {"still-there"}
        assert sheets(desk.export_comparison(base, head, TableForm.XLSX)) == ["comparison"]
        assert desk.export_comparison(base, head, TableForm.LINES, check="title-short").count(b"\n") <= len(rows)


def test_a_site_fetches_its_sitemap_without_signing_in(exported: Exported) -> None:
    with exported.service.client() as desk:
        url = desk.publish_sitemap(exported.site, SitemapOptions()).url
        assert url
        answer = httpx.get(exported.service.url + httpx.URL(url).path, trust_env=False)
        assert answer.headers["content-type"].startswith("application/xml")
        assert len(read(answer.content).entries) == desk.preview_sitemap(exported.runs[1]).pages == 2
        desk.withdraw_sitemap(exported.site)
        assert httpx.get(exported.service.url + httpx.URL(url).path, trust_env=False).status_code == 404
