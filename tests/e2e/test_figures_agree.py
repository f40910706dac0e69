"""Whatever two surfaces say of one thing is the same, and what a reader adds up comes out as shown.

For the demo's sites, and for a site of its own whose faults are drawn at random and change from run to run.
"""

from __future__ import annotations

import csv
import io
import json
import random
import re
from collections import Counter
from collections.abc import Iterator
from email import message_from_bytes, policy
from pathlib import Path

import pytest
from selectolax.lexbor import LexborHTMLParser

from hodcarrier.cli.main import run as command_line
from hodcarrier.client import Hodcarrier
from hodcarrier.core.catalogue import AREAS, Sample, doc, page
from hodcarrier.core.states import NEW_CHANGES, Change, ComparedList, Severity
from hodcarrier.core.words import difference, figure
from hodcarrier.demo.mailsink import start_sink
from hodcarrier.demo.scenario import CLIENTS
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.comparisons import ComparisonOut
from hodcarrier.wire.reports import ReportBody
from hodcarrier.wire.runs import RunOut
from hodcarrier.wire.schedules import ScheduleBody
from hodcarrier.wire.sites import SiteBody, SiteOut
from hodcarrier.wire.todos import TodoBody
from tests.conftest import Demo
from tests.running import free_ports, local_site, start_service, wait_for_mails

GONE = (Change.FIXED, Change.GONE_WITH_PAGE, Change.UNVERIFIED, Change.CHECK_CHANGED)
CAME = (*NEW_CHANGES, Change.RETURNED, Change.WAIVER_ENDED)
SITES = [host for _, host, _ in CLIENTS]


PART, CAUSES_SHOWN = 2000, 200


def shown(figure: float | None, digits: int = 1) -> str:
    return "–" if figure is None else f"{figure:,.{digits}f}"


def latest(desk: Hodcarrier, site: SiteOut) -> RunOut:
    return desk.get_run(f"latest-{site.id}")


def compared(desk: Hodcarrier, run: RunOut) -> ComparisonOut | None:
    """The comparison with the run before, with all of its findings."""
    if not run.base_id:
        return None
    found = part = desk.compare_runs(run.base_id, run.id, limit=PART)
    findings = list(found.findings)
    while part.after is not None:
        part = desk.compare_runs(run.base_id, run.id, limit=PART, after=int(part.after))
        findings += part.findings
    return found.model_copy(update={"findings": findings})


# -- one site, by every call -------------------------------------------------------------------------------------


def check_site_and_desk(desk: Hodcarrier, site: SiteOut) -> None:
    """Lists of sites, clients and runs, and the desk, against the run."""
    run = latest(desk, site)
    assert run.summary is not None
    mine = [c for c in desk.list_clients() if c.id == site.client_id]
    assert [s.health for s in mine[0].sites if s.id == site.id] == [run.health] == [site.health]
    runs = [r for r in desk.list_runs(site.id, "audit") if r.health is not None]
    assert (runs[0].health, runs[0].pages, runs[0].findings) == (run.health, run.pages, run.findings)
    assert site.last_run is not None and site.last_run.id == run.id and site.runs == len(runs)

    whole = desk.get_desk()
    row = next(r for r in whole.sites if r.site.id == site.id)
    severities = run.summary.severities
    assert (row.site, row.change) == (site, run.health_change)
    assert (row.critical, row.high) == (severities[Severity.CRITICAL].findings, severities[Severity.HIGH].findings)
    line = [r.health for r in reversed(runs)][-len(row.line) :]
    assert row.line == line
    if run.changes:
        counts = run.changes.counts
        assert row.new == sum(counts.get(c, 0) for c in NEW_CHANGES)
        assert (row.returned, row.fixed) == (counts.get(Change.RETURNED, 0), counts.get(Change.FIXED, 0))


def check_findings(desk: Hodcarrier, site: SiteOut) -> None:
    """Checks, causes, findings and pages of a run against its summary."""
    run = latest(desk, site)
    summary = run.summary
    assert summary is not None
    checks = desk.list_checks(run.id)
    findings = list(desk.list_findings(run.id))
    causes = desk.list_causes(run.id, limit=1000)
    assert summary.findings == run.findings == len(findings) == sum(c.findings for c in checks)
    assert summary.waived == sum(c.waived for c in checks) == len(list(desk.list_findings(run.id, waived=True)))
    by_check, by_severity = Counter(f.check for f in findings), Counter(f.severity for f in findings)
    assert {s: f.findings for s, f in summary.severities.items() if f.findings} == by_severity
    for severity, figures in summary.severities.items():
        assert figures.checks == sum(1 for c in checks if c.severity == severity and c.findings)
    changes = {c.check: c.change for c in run.changes.by_check} if run.changes else {}
    for row in checks:
        figures = summary.checks[row.id]
        of_check = [c for c in causes if c.check == row.id]
        alone = desk.get_check(run.id, row.id)
        assert row.findings == by_check[row.id] == figures.findings == alone.findings == sum(c.findings for c in of_check)
        assert row.fixes == figures.fixes == alone.fixes == len(of_check) and len(alone.causes) == min(
            len(of_check), CAUSES_SHOWN
        )
        assert (row.pages, row.waived, row.unverified) == (figures.pages, figures.waived, figures.unverified)
        assert (alone.pages, alone.waived, alone.unverified) == (row.pages, row.waived, row.unverified)
        assert row.gain == figures.gain == alone.gain and row.summary == alone.summary == figures.summary
        assert alone.history[-1] == (run.requested_at, row.findings)
        if run.changes:
            assert row.change == changes.get(row.id, 0)
    pages = [p.values for p in desk.list_inventory(run.id, columns="url,health,status,title,words")]
    scored = [p for p in pages if p["health"] is not None]
    assert run.pages == summary.pages_scored == len(scored)
    of_pages = Counter(f.subject for f in findings)
    for found in scored:
        one = desk.get_page(run.id, found["url"])
        assert (one.health, one.status, one.title or "", one.words) == tuple(
            found[n] for n in ("health", "status", "title", "words")
        )
        own = [f for f in one.findings if not f.waived and f.subject == found["url"]]
        assert len(own) == of_pages[found["url"]]
    if run.health is not None and scored:
        mean = sum(p["health"] for p in scored) / len(scored)
        assert shown(mean * summary.site_factor) == shown(run.health)


def check_comparison(desk: Hodcarrier, site: SiteOut) -> None:
    """The comparison with the run before, by its own call and as the run keeps it; its sums as displayed."""
    run = latest(desk, site)
    found = compared(desk, run)
    if found is None:
        assert run.changes is None and run.health_change is None
        return
    base = desk.get_run(found.base)
    assert run.changes is not None and run.changes.counts == found.counts
    assert (found.base_health, found.head_health, found.health_change) == (base.health, run.health, run.health_change)
    assert (found.base_findings, found.head_findings) == (base.findings, run.findings)
    assert run.changes.by_check == found.by_check and run.changes.health == found.health and run.changes.areas == found.areas
    assert run.changes.newly_blocked == found.lists.get(ComparedList.BLOCKED, 0)
    if found.health_change is not None and found.base_health is not None and found.head_health is not None:
        assert found.health_change == difference(found.base_health, found.head_health)
    assert found.reconciles
    count = found.counts.get
    came, went = sum(count(c, 0) for c in CAME), sum(count(c, 0) for c in GONE)
    assert found.base_findings - went - found.waived_now + came == found.head_findings
    total: Counter[Change] = Counter()
    for check in found.by_check:
        total.update(check.counts)
    quiet = (Change.STILL_THERE, Change.WAIVED)  # checks of which nothing else is to be said are not listed
    assert {c: n for c, n in total.items() if n and c not in quiet} == {
        c: n for c, n in found.counts.items() if n and c not in quiet
    }
    assert found.findings_total == len(found.findings)
    listed = Counter(f.change for f in found.findings)
    assert {c: n for c, n in found.counts.items() if n and c in listed} == dict(listed)


def check_trends(desk: Hodcarrier, site: SiteOut) -> None:
    """Each figure's line ends with what the run says; the change in words is that of the figures shown."""
    run = latest(desk, site)
    summary = run.summary
    assert summary is not None
    wanted: dict[str, float | None] = {"health": run.health}
    wanted |= {f"severity.{s}": f.findings for s, f in summary.severities.items()}
    wanted |= {f"area.{area}": score for area, score in summary.areas.items()}
    for name, value in wanted.items():
        trend = desk.get_trend(site.id, name)
        last = next(p for p in reversed(trend.points) if p.run_id == run.id)
        assert last.value == value, name
        known = [p.value for p in trend.points if p.value is not None and p.comparable]
        if trend.change is not None:
            assert shown(abs(trend.change)) == shown(abs(difference(known[0], known[-1])))
    healths = {p.run_id: p.value for p in desk.get_trend(site.id, "health").points}
    assert healths == {r.id: r.health for r in desk.list_runs(site.id, "audit") if r.id in healths}


def check_todos(desk: Hodcarrier, site: SiteOut) -> None:
    """A to-do's counts are those of its places; the site and the members count the same to-dos."""
    everything = list(desk.list_todos())
    mine = [t for t in everything if t.site_id == site.id]
    assert site.open_todos == sum(t.state in ("open", "doing") for t in mine)
    for row in mine:
        one = desk.get_todo(row.id)
        assert one.places == row.places == len(one.linked)
        assert one.cleared == row.cleared == sum(p.outcome == "cleared" for p in one.linked)
        assert one.overdue == row.overdue and one.days_late == row.days_late
    for member in desk.list_members():
        theirs = [t for t in everything if t.assignee_id == member.id and t.state in ("open", "doing")]
        assert (member.open_todos, member.overdue_todos) == (len(theirs), sum(t.overdue for t in theirs))


def check_benchmark(desk: Hodcarrier, site: SiteOut) -> None:
    for brief in desk.list_benchmarks():
        if brief.site_id != site.id or not brief.rounds:
            continue
        found = desk.get_benchmark(brief.id)
        assert found.audit_health == site.health and found.rounds == brief.rounds
        health = next(r for r in found.rows if r.id == "health")
        assert (brief.rank, found.rank_history[-1].ranks[0]) == (health.ranks[0], health.ranks[0])
        assert [shown(h) for h in found.rank_history[-1].values] == [shown(v) for v in health.values]
        for row in found.rows:
            own = row.values[0]
            if own is not None and row.gap_to_best is not None:
                ranked = [v for v, rank in zip(row.values[1:], row.ranks[1:], strict=True) if v is not None and rank]
                best = max(ranked) if row.high_is_good else min(ranked)
                assert figure(abs(row.gap_to_best), row.unit) == figure(abs(own - best), row.unit), row.id
        for other, value in zip(found.hosts[1:], health.values[1:], strict=True):
            rival = next(s for s in desk.list_sites() if s.host == other)
            assert shown(rival.health) == shown(value), other


def check_report(desk: Hodcarrier, site: SiteOut) -> None:
    """A report over all runs gives the figures of the last run, and of the comparison of the first and the last."""
    runs = [r for r in desk.list_runs(site.id, "audit") if r.health is not None]
    first, last = runs[-1], latest(desk, site)
    assert last.summary is not None
    made = desk.add_report(
        ReportBody(site_id=site.id, from_day=first.requested_at.date(), to_day=last.requested_at.date(), title="All of it")
    )
    text = LexborHTMLParser(desk.get_report_page(made.id).decode()).body
    assert text is not None
    words = re.sub(r"\s+", " ", text.text(separator=" "))
    assert f"{shown(last.health)} of 100" in words
    assert f"{last.pages:,} pages were scored" in words or "One page was scored" in words
    if len(runs) > 1:
        found = desk.compare_runs(first.id, last.id, limit=1)
        fixed, new = found.counts.get(Change.FIXED, 0), sum(found.counts.get(c, 0) for c in NEW_CHANGES)
        told = f"{fixed:,} faults were fixed" if fixed > 1 else "One fault was fixed" if fixed else "No fault was fixed"
        came = (
            f"{new:,} new faults appeared"
            if new > 1
            else "one new fault appeared"
            if new
            else "none appeared|no new one appeared"
        )
        assert re.search(f"{told}, and ({came})", words)
        if found.health_change:
            assert f"{'rose' if found.health_change > 0 else 'fell'} by {abs(found.health_change):.1f} points" in words
    rows = [[cell.text(separator=" ", strip=True) for cell in row.css("td")] for row in text.css("tr")]
    for area, score in last.summary.areas.items():
        pages = last.summary.area_pages.get(area)
        assert any(row[:2] == [AREAS[area], shown(score)] and row[-1] == ("–" if pages is None else f"{pages:,}") for row in rows)
    severities = {"critical": "critical", "high": "serious", "medium": "moderate", "low": "minor"}
    for check in desk.list_checks(last.id):
        if check.findings:
            name = f"{check.summary} {severities[check.severity]}"
            assert any(row and row[0] == name and row[-1] == f"{check.findings:,}" for row in rows), name
    assert last.summary.measures.health == last.health


def check_command_line(url: str, token: str, desk: Hodcarrier, site: SiteOut, capsys: pytest.CaptureFixture[str]) -> None:
    """Commands print what the calls give, as tables and as data."""

    def say(*words: str) -> str:
        capsys.readouterr()
        assert command_line([*words, "--url", url, "--token", token]) == 0
        return capsys.readouterr().out

    run, checks = latest(desk, site), desk.list_checks(f"latest-{site.id}")
    key = str(site.id)
    text = say("run", "show", key)
    assert f"{shown(run.health)} of 100" in text and f"{run.pages} page" in text
    for row in checks:
        if row.findings:
            line = next(x for x in text.splitlines() if x.rstrip().endswith(row.id))
            assert re.search(rf"\s{row.findings:,}\s+{row.pages:,}\s+{row.fixes:,}\s", line), line
    found = list(csv.DictReader(io.StringIO(say("finding", "list", key, "--format", "csv"))))
    assert len(found) == run.findings and Counter(f["check"] for f in found) == {r.id: r.findings for r in checks if r.findings}
    assert json.loads(say("site", "show", key, "--format", "json"))["health"] == site.health
    row = next(r for r in json.loads(say("desk", "--format", "json"))["sites"] if r["site"]["id"] == site.id)
    assert (row["change"], row["site"]["health"]) == (run.health_change, run.health)
    if run.base_id:
        data = json.loads(say("compare", run.base_id, run.id, "--format", "json"))
        assert (data["health_change"], data["head_health"]) == (run.health_change, run.health)
    points = json.loads(say("trend", key, "--format", "json"))["points"]
    assert points[-1]["value"] == run.health


CHECKS = (
    check_site_and_desk,
    check_findings,
    check_comparison,
    check_trends,
    check_todos,
    check_benchmark,
    check_report,
)


@pytest.mark.parametrize("check", CHECKS, ids=lambda c: c.__name__.removeprefix("check_"))
@pytest.mark.parametrize("host", SITES)
def test_the_demos_surfaces_agree(demo: Demo, host: str, check: object) -> None:
    with demo.client() as desk:
        check(desk, desk.find_site(host))  # type: ignore[operator]


@pytest.mark.parametrize("host", SITES)
def test_the_command_line_says_the_same_of_the_demo(demo: Demo, host: str, capsys: pytest.CaptureFixture[str]) -> None:
    with demo.client() as desk:
        check_command_line(demo.url, demo.token, desk, desk.find_site(host), capsys)


# -- a site with faults drawn at random --------------------------------------------------------------------------

PAGES = 24


def drawn_site(draw: random.Random) -> dict[str, Sample]:
    """A small site; every page may lack its title, description, language or heading, be thin, slow to a fault or gone."""
    samples = {}
    for number in range(PAGES):
        path = "/" if number == 0 else f"/{draw.choice('ab')}/{number}"
        if number and draw.random() < 0.1:
            continue
        head = (
            ""
            if draw.random() < 0.2
            else f"<title>{draw.choice(('Shop', f'Page number {number} of the shop', 'x' * 90))}</title>"
        )
        head += "" if draw.random() < 0.4 else f'<meta name="description" content="All about {draw.randint(1, 6)}">'
        head += '<meta name="robots" content="noindex">' if number and draw.random() < 0.1 else ""
        links = "".join(f'<a href="/{draw.choice("ab")}/{n}">{n}</a>' for n in range(1, PAGES))
        body = ("" if draw.random() < 0.2 else f"<h1>Part {number}</h1>") + f"<p>{'word ' * draw.choice((5, 150, 400))}</p>"
        body += '<img src="/none.png">' if draw.random() < 0.3 else ""
        samples[path] = page(doc(body + links, head=head), path)
    if draw.random() < 0.7:
        rules = draw.choice(("", "Disallow: /a/", "Disallow: /b/1"))
        samples["/robots.txt"] = Sample("/robots.txt", f"User-agent: *\n{rules}\n", 200, (("content-type", "text/plain"),))
    return samples


@pytest.fixture(scope="module")
def drawn(tmp_path_factory: pytest.TempPathFactory) -> Iterator[tuple[str, str, int, Path]]:
    """A site of its own, audited three times over while its faults change: address and token of its service, its id, its mails."""
    ports = free_ports(2)
    mails = tmp_path_factory.mktemp("mails")
    sink = start_sink(mails, ports + 1)
    service = start_service(tmp_path_factory.mktemp("drawn"), ports, smtp_host="127.0.0.1", smtp_port=str(ports + 1))
    draw = random.Random(20261126)
    try:
        with local_site(page(doc("<h1>Shop</h1>"))) as place, service.client() as desk:
            client = desk.add_client(ClientBody(name="Drawn"))
            body = SiteBody(
                client_id=client.id, address=place.address, plan={"private_addresses": ["127.0.0.0/8"], "rate_per_s": 1000}
            )
            site = desk.add_site(body)
            desk.set_schedule(site.id, ScheduleBody(rule="monthly:1", mail_to=["imke@agency.example"]))
            for number in range(3):
                place.samples = drawn_site(draw)
                desk.wait_for_run(desk.start_run(site.id).id)
                if number < 2:
                    for row in desk.list_checks(f"latest-{site.id}")[number : number + 3]:
                        if not row.todos:
                            desk.add_todo(TodoBody(site_id=site.id, check=row.id))
            wait_for_mails(desk, 3)
        yield service.url, service.token, site.id, mails
    finally:
        service.process.terminate()
        service.process.wait(30)
        sink.stop()


@pytest.mark.parametrize("check", CHECKS, ids=lambda c: c.__name__.removeprefix("check_"))
def test_surfaces_agree_on_faults_drawn_at_random(drawn: tuple[str, str, int, Path], check: object) -> None:
    url, token, site_id, _ = drawn
    with Hodcarrier(url, token) as desk:
        site = desk.get_site(site_id)
        assert site.runs == 3 and latest(desk, site).findings
        check(desk, site)  # type: ignore[operator]


def test_the_command_line_says_the_same_of_faults_drawn_at_random(
    drawn: tuple[str, str, int, Path], capsys: pytest.CaptureFixture[str]
) -> None:
    url, token, site_id, _ = drawn
    with Hodcarrier(url, token) as desk:
        check_command_line(url, token, desk, desk.get_site(site_id), capsys)


def test_mails_say_what_the_runs_say(drawn: tuple[str, str, int, Path]) -> None:
    url, token, site_id, folder = drawn
    mails = [message_from_bytes(path.read_bytes(), policy=policy.default) for path in sorted(folder.glob("*.eml"))]
    with Hodcarrier(url, token) as desk:
        runs = [desk.get_run(r.id) for r in desk.list_runs(site_id)][::-1]
    assert len(mails) == len(runs) == 3
    for mail, run in zip(mails, runs, strict=True):
        text = mail.get_content()
        assert f"health {shown(run.health)} of 100" in text and shown(run.health) in mail["Subject"]
        if run.health_change is not None:
            assert f"{run.health_change:+.1f} points".replace("-", "−") in text
        if run.changes:
            counts = run.changes.counts
            new = sum(counts.get(c, 0) for c in NEW_CHANGES)
            assert (
                f"New findings: {new}. Returned: {counts.get(Change.RETURNED, 0)}. Fixed: {counts.get(Change.FIXED, 0)}." in text
            )
