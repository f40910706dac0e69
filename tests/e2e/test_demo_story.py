"""The whole job on the demo, through the client library: what the agency would see."""

from __future__ import annotations

import csv
import io
import json
import re
from collections.abc import Callable
from email import message_from_bytes, policy
from functools import partial
from itertools import pairwise
from typing import Any

import httpx
import openpyxl
import pypdf
import pytest

from hodcarrier.client import RequestFailed
from hodcarrier.core.states import (
    NEW_CHANGES,
    BacklinkState,
    ComparedList,
    DeliveryState,
    RemarkOrigin,
    ReportState,
    SearchView,
    TableForm,
)
from hodcarrier.demo.scenario import CLIENTS
from hodcarrier.demo.sites.parts import EDITIONS, ROUNDS
from hodcarrier.wire.reports import ReportBody
from hodcarrier.wire.todos import TodoBody, TodoChange
from tests.conftest import Demo
from tests.running import wait_for_mails

HOSTS = [host for _, own, others in CLIENTS for host in (own, *others)]


def test_every_site_has_its_audits_or_rounds(demo: Demo) -> None:
    with demo.client() as desk:
        sites = {s.host: s for s in desk.list_sites()}
        assert set(sites) == set(HOSTS)
        assert {s.runs for s in sites.values() if s.kind == "own"} == {EDITIONS}
        assert {s.runs for s in sites.values() if s.kind != "own"} == {len(ROUNDS)}
        states = {run.state for run in desk.list_runs()}
    assert states == {"done"}


def test_the_desk_says_what_got_worse(demo: Demo) -> None:
    with demo.client() as desk:
        found = desk.get_desk()
    first = found.items[0]
    assert (first.severity, first.host) == ("critical", "tidewrack.example")
    assert "Disallow: /shop" in first.detail
    assert found.sites[0].site.host == "tidewrack.example"
    assert found.sites[0].change is not None and found.sites[0].change < -20
    assert found.overdue >= 1


def test_one_line_of_robots_txt_is_one_cause(demo: Demo) -> None:
    with demo.client() as desk:
        site = desk.find_site("tidewrack")
        check = desk.get_check(f"latest-{site.id}", "index-lost-robots")
        findings = list(desk.list_findings(f"latest-{site.id}", check="index-lost-robots"))
    assert check.fixes == 1 and check.findings == len(findings) > 40
    assert {f.place for f in findings} == {""}


def test_every_comparison_of_neighbouring_runs_reconciles(demo: Demo) -> None:
    seen: set[str] = set()
    with demo.client() as desk:
        for _, host, _ in CLIENTS:
            runs = list(desk.list_runs(desk.find_site(host).id, "audit"))[::-1]
            for base, head in pairwise(runs):
                found = desk.compare_runs(base.id, head.id, limit=2000)
                assert found.reconciles
                count = found.counts.get
                gained = sum(count(name, 0) for name in (*NEW_CHANGES, "returned", "waiver-ended"))
                lost = sum(count(name, 0) for name in ("fixed", "gone-with-page", "unverified")) + found.waived_now
                assert found.base_findings - lost + gained == found.head_findings
                seen |= set(found.counts)
    assert {"new", "fixed", "gone-with-page", "still-there", "unverified", "new-with-page", "waived"} <= seen


def test_page_and_robots_changes_are_shown(demo: Demo) -> None:
    with demo.client() as desk:
        runs = list(desk.list_runs(desk.find_site("tidewrack").id, "audit"))[::-1]
        theme = desk.compare_runs(runs[0].id, runs[1].id)
        shut = desk.compare_runs(runs[-2].id, runs[-1].id)
        shut_urls = list(desk.list_compared_urls(runs[-2].id, runs[-1].id, ComparedList.BLOCKED))
    assert any(c.field == "description" and c.head == "" for c in theme.page_changes)
    # It blocks what lies behind those pages and broken ones as well.
    line = next(line for line in shut.robots_lines if line.text == "Disallow: /shop")
    assert line.change == "added" and line.blocks > len(shut_urls) > 100
    assert "https://tidewrack.example/shop/" in shut_urls


def test_todos_were_confirmed_reopened_and_left_as_they_are(demo: Demo) -> None:
    with demo.client() as desk:
        todos = list(desk.list_todos())
        told = {t.state for t in todos}
        assert {"open", "doing", "confirmed"} <= told
        assert any("places unverified" in t.flag for t in todos)
        assert any("still there on" in t.flag for t in todos)
        assert any(t.overdue and t.days_late > 0 for t in todos)
        story = [event.text for t in todos for event in desk.get_todo(t.id).events if event.kind == "run"]
    assert any(text.startswith("Confirmed") for text in story)


def test_a_finding_sits_in_one_live_todo(demo: Demo) -> None:
    with demo.client() as desk:
        site = desk.find_site("pellow")
        with pytest.raises(RequestFailed) as refused:
            desk.add_todo(TodoBody(site_id=site.id, check="secure-expiring"))
        assert refused.value.problem.status == 409 and "in to-do" in refused.value.problem.detail


def test_a_todo_by_hand_and_its_steps(demo: Demo) -> None:
    with demo.client() as desk:
        made = desk.add_todo(TodoBody(site_id=desk.find_site("ardmoor").id, title="Ring the printer"))
        assert (made.state, made.places, made.due is not None) == ("open", 0, True)
        with pytest.raises(RequestFailed, match="needs a reason"):
            desk.change_todo(made.id, TodoChange(state="dropped"))
        dropped = desk.change_todo(made.id, TodoChange(state="dropped", drop_reason="They rang us"), version=made.version)
        assert dropped.state == "dropped"
        with pytest.raises(RequestFailed, match="in the meantime"):
            desk.change_todo(made.id, TodoChange(note="late"), version=made.version)


def test_the_benchmark_ranks_sites_fairly(demo: Demo) -> None:
    with demo.client() as desk:
        desk_benchmarks = desk.list_benchmarks()
        brief = next(b for b in desk_benchmarks if b.site_host == "tidewrack.example")
        found = desk.get_benchmark(brief.id)
    assert len(found.rank_history) == len(ROUNDS)
    health = next(row for row in found.rows if row.id == "health")
    assert health.ranks[0] is None and sorted(r for r in health.ranks if r) == [1, 2]
    assert found.unranked and re.search(r"only 2\d of its 1\d\d known pages", found.unranked[0])
    other = next(b for b in desk_benchmarks if b.id != brief.id)
    assert other.rank in (1, 2, 3)
    indexable = next(row for row in found.rows if row.id == "indexable_ratio")
    assert indexable.values[0] is not None and indexable.values[0] < 50, "a shop shut out by robots.txt counts"
    names = {m.name for m in found.metrics}
    assert {"Visits", "Ranking keywords", "Referring domains", "Keywords at positions 1 to 10, of 24"} <= names
    assert all(value is not None for m in found.metrics for value in m.values), "everybody was looked at"
    for row in found.shares:
        for share in row.shares:
            assert share is None or share[1] <= share[0] <= share[2]


def test_the_trend_has_remarks_and_words(demo: Demo) -> None:
    with demo.client() as desk:
        found = desk.get_trend(desk.find_site("tidewrack").id)
    assert [(r.origin, r.text) for r in found.remarks] == [
        (RemarkOrigin.MEMBER, "New theme went live"),
        (RemarkOrigin.ROBOTS, "robots.txt changed: 122 pages newly blocked"),
    ]
    assert len(found.points) == EDITIONS and re.search(r"until the last run, which fell by [67]\d\.\d", found.words)


def test_reports_as_page_and_pdf(demo: Demo) -> None:
    with demo.client() as desk:
        site = desk.find_site("ardmoor")
        runs = list(desk.list_runs(site.id, "audit"))
        made = desk.add_report(
            ReportBody(
                site_id=site.id, from_day=runs[-1].requested_at.date(), to_day=runs[0].requested_at.date(), note="A good month."
            )
        )
        page = desk.get_report_page(made.id).decode()
        document = pypdf.PdfReader(io.BytesIO(desk.get_report_pdf(made.id)))
    text = "\n".join(sheet.extract_text() for sheet in document.pages)
    assert "Ardmoor Seed Library" in page and "A good month." in page
    assert len(document.pages) >= 3 and "A good month." in text
    assert "Cobble & Lantern · audits, figures and what to do about them" in text
    for words in ("two-rivers-seedbank.example", "confirmed"):
        assert words in page


def test_a_report_without_a_run_in_its_days_says_so(demo: Demo) -> None:
    with demo.client() as desk, pytest.raises(RequestFailed, match="had no finished run by"):
        desk.add_report(ReportBody(site_id=desk.find_site("ardmoor").id, from_day="2020-01-01", to_day="2020-02-01"))  # type: ignore[arg-type]


def test_a_run_now_is_watched_and_told_by_mail(demo: Demo) -> None:
    with demo.client() as desk:
        before = len(desk.list_deliveries(DeliveryState.SENT, limit=1000))
        wait_for_mails(desk, before)
        site = desk.find_site("pellow")
        started = desk.start_run(site.id)
        with pytest.raises(RequestFailed, match="is being audited already"):
            desk.start_run(site.id)
        done = desk.wait_for_run(started.id, every_s=0.2)
        wait_for_mails(desk, before + 1)
    assert done.state == "done" and done.health is not None
    mails = sorted((demo.folder / "mail").glob("*.eml"))[before:]
    mail = message_from_bytes(mails[0].read_bytes(), policy=policy.default)
    assert mail["To"] == "imke@cobble-lantern.example"
    assert "pellow-kiln.example" in mail["Subject"]
    body = mail.get_content()
    assert f"{done.health:.1f}" in body and f"/sites/{site.id}" in body


def test_a_guest_sees_their_reports_and_nothing_else(demo: Demo) -> None:
    credentials = {"email": "guest@ardmoor.example", "password": "heather-and-gravel"}
    with httpx.Client(base_url=demo.url + "/api/v1", trust_env=False) as guest:
        me = guest.post("/session", json=credentials).json()
        own = guest.get("/reports").json()
        assert {r["client_name"] for r in own} == {"Ardmoor Seed Library"} and {r["state"] for r in own} == {"sent"}
        assert guest.get(f"/reports/{own[0]['id']}/html").status_code == 200
        portal = guest.get(f"/clients/{me['client_id']}/portal").json()
        assert [r["id"] for r in portal["reports"]] == [r["id"] for r in own]
        paths = (
            "/sites",
            "/clients",
            "/todos",
            "/desk",
            "/runs",
            "/members",
            "/catalogue",
            "/sites/3",
            "/sites/3/trend",
            "/sites/1",
        )
        for path in (*paths, f"/reports/{own[0]['id']}", "/clients/1/portal", "/report-templates"):
            assert guest.get(path).status_code in (403, 404), path


def test_last_months_reports_were_made_by_schedule_approved_mailed_and_opened(demo: Demo) -> None:
    with demo.client() as desk:
        made = desk.list_reports()
        assert {r.site_host for r in made if r.scheduled} == {host for _, host, _ in CLIENTS}
        waits = [r for r in made if r.scheduled and r.state == ReportState.DRAFT]
        assert [r.site_host for r in waits] == ["tidewrack.example"], "one waits for whoever is in charge"
        for report in made:
            if report.scheduled and report.state == ReportState.SENT:
                (link,) = desk.get_report(report.id).links
                assert link.seen == 1 and link.email.startswith("guest@")
        assert any(item.kind == "report" and item.link == f"/reports/{waits[0].id}" for item in desk.get_desk().items)
        wait_for_mails(desk, 1)
    mails = [message_from_bytes(path.read_bytes(), policy=policy.default) for path in (demo.folder / "mail").glob("*.eml")]
    enclosed = [part for mail in mails for part in mail.iter_attachments()]
    assert enclosed and all(part.get_content_type() == "application/pdf" for part in enclosed)
    assert all(part.get_content().startswith(b"%PDF") for part in enclosed)


def test_the_inventory_filters_sorts_and_pages(demo: Demo) -> None:
    with demo.client() as desk:
        run = f"latest-{desk.find_site('tidewrack').id}"
        everything = list(desk.list_inventory(run))
        few = list(desk.list_inventory(run, sort="-words", **{"words.lt": 100}))
        written = list(desk.list_inventory(run, where="words < 100", sort="-words"))
        assert 0 < len(few) < len(everything) and few == written
        assert [p.values["words"] for p in few] == sorted((p.values["words"] for p in few), reverse=True)
        figures = desk.get_inventory_figures(run, where="words < 100", by="status,why_not")
        assert (figures.total, figures.all) == (len(few), len(everything))
        assert all(sum(share.count for share in spread.shares) == len(few) for spread in figures.spreads)
        page = desk.get_page(run, "https://tidewrack.example/")
    assert page.status == 200 and page.links_out and page.headings
    assert any(f.check == "media-heavy" for f in page.findings), "a heavy picture counts for the page that shows it"


def test_lists_of_figures_are_tables_in_every_form(demo: Demo) -> None:
    with demo.client() as desk:
        site = desk.find_site("tidewrack").id
        lists: dict[str, tuple[list[Any], int | None, Callable[[TableForm], bytes], str]] = {}
        search = desk.get_search_figures(site, view=SearchView.LOW_CTR)
        lists["search"] = (search.items, search.total, partial(desk.export_search_figures, site, view=SearchView.LOW_CTR), "text")
        visits = desk.get_visits(site)
        lists["visits"] = (visits.items, visits.total, partial(desk.export_visits, site), "text")
        positions = desk.get_positions(site, moved=True)
        lists["positions"] = (positions.items, positions.total, partial(desk.export_positions, site, moved=True), "keyword")
        links = desk.get_backlinks(site, state=BacklinkState.LIVE)
        lists["links"] = (links.items, links.total, partial(desk.export_backlinks, site), "source_page")
        for name, (items, total, export, key) in lists.items():
            rows = list(csv.DictReader(io.StringIO(export(TableForm.CSV).decode())))
            lines = [json.loads(line) for line in export(TableForm.LINES).splitlines()]
            sheet = openpyxl.load_workbook(io.BytesIO(export(TableForm.XLSX)), read_only=True).worksheets[0]
            cells = [list(row) for row in sheet.iter_rows(values_only=True)]
            assert len(rows) == len(lines) == len(cells) - 1 == total, name
            shown = [getattr(each, key) for each in items]
            assert shown and [row[key] for row in rows][: len(shown)] == [line[key] for line in lines][: len(shown)] == shown
            assert set(rows[0]) == set(lines[0]) and len(cells[0]) == len(rows[0])
        assert lists["links"][1] is not None and lists["links"][1] > 100, "more than a part of the list"
