"""Members, tokens, clients, sites, waivers, figures and reports as use cases, each with what it refuses."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

import pytest
from sqlalchemy import select
from sqlalchemy.exc import IntegrityError

from hodcarrier.core.bound import Bound
from hodcarrier.core.catalogue import doc, gone, page
from hodcarrier.core.errors import Conflict, HodcarrierError, InvalidInput, NotAllowed, NotFound, SignInNeeded
from hodcarrier.core.permissions import PERMISSIONS, Extent, Role
from hodcarrier.core.plan import Plan, read_plan
from hodcarrier.core.states import NEW_CHANGES, RunPurpose, TokenScope
from hodcarrier.core.summary import RoundResult, RoundSite, SiteFigures
from hodcarrier.register.models import LogEntry, Member, Run, Site
from hodcarrier.service.guard import Grant, require
from hodcarrier.service.postman import deliver_due
from hodcarrier.usecases import (
    benchmark_setup,
    benchmarks,
    clients,
    comparisons,
    finishing,
    members,
    metrics,
    plans,
    remarks,
    reports,
    results,
    runs,
    schedules,
    sites,
    trends,
    waivers,
)
from hodcarrier.wire.benchmarks import BenchmarkBody
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.members import MemberBody, MemberChange, TokenBody
from hodcarrier.wire.plans import AccessBody, AccessOut
from hodcarrier.wire.remarks import RemarkBody
from hodcarrier.wire.reports import ReportBody
from hodcarrier.wire.schedules import ScheduleBody
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.waivers import WaiverBody
from tests.usecases.conftest import START, Office
from tests.usecases.test_reports import facts_of

PASSWORD = "long enough words"
SHOP = [page(doc('<h1>Shop</h1><a href="/a">a</a>')), page(doc("<h1>A</h1><p>short"), "/a")]


def add(office: Office, name: str, role: str = "analyst", **more: object) -> int:
    email = f"{name.split()[0].lower()}@agency.example"
    return members.add_member(
        office.work, MemberBody.model_validate({"name": name, "email": email, "role": role, "password": PASSWORD, **more})
    ).id


def record(office: Office, number: int) -> Member:
    with office.work.session() as session:
        found = session.get(Member, number)
        assert found is not None
        session.expunge(found)
        return found


def test_signing_in_and_out(office: Office) -> None:
    add(office, "Imke Aldersgate", "lead")
    secret, member = members.sign_in(office.work, " IMKE@agency.example ", PASSWORD)
    assert member.name == "Imke Aldersgate" and members.member_of_session(office.work, secret).id == member.id
    members.sign_out(office.work, secret)
    with pytest.raises(SignInNeeded):
        members.member_of_session(office.work, secret)


def test_a_session_ends_by_itself(office: Office) -> None:
    add(office, "Imke Aldersgate")
    secret, _ = members.sign_in(office.work, "imke@agency.example", PASSWORD)
    late = office.at(START + timedelta(days=members.SESSION_DAYS, seconds=1))
    with pytest.raises(SignInNeeded):
        members.member_of_session(late, secret)


def test_nobody_who_was_switched_off_gets_in(office: Office) -> None:
    owner = record(office, add(office, "Owner One", "owner"))
    number = add(office, "Tobin Wraysbury")
    secret, _ = members.sign_in(office.work, "tobin@agency.example", PASSWORD)
    token = members.add_token(office.work, record(office, number), TokenBody(name="laptop")).secret or ""
    members.change_member(office.work, number, MemberChange(active=False), owner)
    for attempt in (
        lambda: members.member_of_session(office.work, secret),
        lambda: members.member_of_token(office.work, token),
        lambda: members.sign_in(office.work, "tobin@agency.example", PASSWORD),
    ):
        with pytest.raises(SignInNeeded):
            attempt()


def test_the_last_owner_stays(office: Office) -> None:
    owner = record(office, add(office, "Owner One", "owner"))
    for change in (MemberChange(active=False), MemberChange(role="lead")):
        with pytest.raises(Conflict, match="last owner"):
            members.change_member(office.work, owner.id, change, owner)
    add(office, "Second Owner", "owner")
    assert members.change_member(office.work, owner.id, MemberChange(role="lead"), owner).role == "lead"


def test_the_first_owner_is_made_once(office: Office) -> None:
    assert members.first_owner(office.work, "o@agency.example", "Owner", PASSWORD) == PASSWORD
    assert members.first_owner(office.work, "p@agency.example", "Other", PASSWORD) is None
    assert [m.email for m in members.list_members(office.work)] == ["o@agency.example"]


def test_a_new_password_replaces_the_old_one(office: Office) -> None:
    owner = record(office, add(office, "Owner One", "owner"))
    members.change_member(office.work, owner.id, MemberChange(password="another long one"), owner)
    with pytest.raises(SignInNeeded):
        members.sign_in(office.work, "owner@agency.example", PASSWORD)
    assert members.sign_in(office.work, "owner@agency.example", "another long one")


def test_tokens_belong_to_their_member(office: Office) -> None:
    imke, tobin = record(office, add(office, "Imke A")), record(office, add(office, "Tobin W"))
    token = members.add_token(office.work, imke, TokenBody(name="laptop"))
    assert token.secret and token.secret.startswith(token.begins)
    assert members.member_of_token(office.work, token.secret).member.id == imke.id
    assert members.list_tokens(office.work, tobin) == [] and members.list_tokens(office.work, imke)[0].secret is None
    with pytest.raises(NotFound):
        members.revoke_token(office.work, tobin, token.id, any_member=False)
    assert [t.member_name for t in members.list_tokens(office.work, None)] == ["Imke A"]
    members.revoke_token(office.work, tobin, token.id, any_member=True)
    with pytest.raises(SignInNeeded, match="revoked"):
        members.member_of_token(office.work, token.secret)


def test_a_token_ends(office: Office) -> None:
    imke = record(office, add(office, "Imke A"))
    token = members.add_token(office.work, imke, TokenBody(name="laptop", days=30))
    assert token.expires_at == START + timedelta(days=30) and token.secret
    last = office.at(START + timedelta(days=30, seconds=-1))
    assert members.member_of_token(last, token.secret).scope == TokenScope.ALL
    with pytest.raises(SignInNeeded, match="ended on Thu 03 Dec 2026"):
        members.member_of_token(office.at(START + timedelta(days=30)), token.secret)


@pytest.mark.parametrize(
    ("email", "role", "more"), [("nobody", "analyst", {}), ("@", "analyst", {}), ("x@y.example", "guest", {})]
)
def test_members_that_cannot_be(office: Office, email: str, role: str, more: dict[str, object]) -> None:
    with pytest.raises((InvalidInput, ValueError)):
        members.add_member(
            office.work, MemberBody.model_validate({"name": "X", "email": email, "role": role, "password": PASSWORD, **more})
        )


def test_roles_are_told_when_they_do_not_suffice() -> None:
    with pytest.raises(NotAllowed, match="needs an owner or lead; you are a fixer"):
        require(Member(role=Role.FIXER), PERMISSIONS["remove_site"], "Removing a site")
    assert require(Member(role=Role.LEAD), PERMISSIONS["remove_site"], "Removing a site") == Extent.ANY_CLIENT
    assert require(Member(role=Role.GUEST), PERMISSIONS["get_portal"], "Seeing a portal") == Extent.OWN_CLIENT


def test_removing_a_client_takes_its_sites_and_records(office: Office) -> None:
    owner = record(office, add(office, "Owner One", "owner"))
    office.audit(START, SHOP)
    remarks.add_remark(office.work, office.site.id, RemarkBody(day=START.date(), text="x"), None)
    clients.remove_client(office.work, office.site.client_id, owner)
    assert sites.list_sites(office.work) == [] and runs.list_runs(office.work).items == []
    with office.work.session() as session:
        assert "client removed" in {entry.action for entry in session.query(LogEntry)}


def test_removing_a_client_switches_its_guests_off(office: Office) -> None:
    client = clients.add_client(office.work, ClientBody(name="Rope"), None).id
    guest, boss = add(office, "Gwen Guest", "guest", client_id=client), record(office, add(office, "Olga Owner", "owner"))
    clients.remove_client(office.work, client, boss)
    assert not record(office, guest).active
    with pytest.raises(InvalidInput, match="belongs to a client"):
        members.change_member(office.work, guest, MemberChange(active=True), boss)


def test_whoever_becomes_a_guest_belongs_to_a_client(office: Office) -> None:
    boss, other = record(office, add(office, "Olga Owner", "owner")), add(office, "Ann Analyst")
    with pytest.raises(InvalidInput, match="belongs to a client"):
        members.change_member(office.work, other, MemberChange(role=Role.GUEST), boss)
    assert record(office, other).role == Role.ANALYST
    members.change_member(office.work, other, MemberChange(role=Role.GUEST, client_id=office.site.client_id), boss)
    assert record(office, other).client_id == office.site.client_id


def test_the_register_itself_keeps_guests_with_a_client(office: Office) -> None:
    guest = add(office, "Gwen Guest", "guest", client_id=office.site.client_id)
    with pytest.raises(IntegrityError, match="belongs to a client"), office.work.session() as session:
        session.get_one(Member, guest).client_id = None
    other = add(office, "Ann Analyst")
    with pytest.raises(IntegrityError, match="belongs to a client"), office.work.session() as session:
        session.get_one(Member, other).role = Role.GUEST
    with office.work.session() as session:
        found = session.get_one(Member, guest)
        found.active, found.client_id = False, None


def test_a_guest_of_nobody_sees_nothing() -> None:
    assert Grant(Member(role=Role.GUEST, client_id=None), Extent.OWN_CLIENT).only_client == 0


def test_the_clients_list_shows_audits_not_benchmarks(office: Office) -> None:
    office.audit(START, SHOP)
    audited = sites.get_site(office.work, office.site.id).health
    run = runs.queue_run(office.at(START + timedelta(days=1)), office.site.id, purpose=RunPurpose.BENCHMARK)
    with office.work.session() as session:
        from hodcarrier.register.models import Run

        row = session.get(Run, run.id)
        assert row is not None
        row.state, row.health = "done", 1.0
    brief = clients.list_clients(office.work)[0].sites[0]
    assert brief.health == audited != 1.0


@pytest.mark.parametrize(
    ("pattern", "waived"),
    [
        ("", {"/", "/a"}),
        ("https://shop.example/a", {"/a"}),
        ("https://shop.example/*", {"/", "/a"}),
    ],
)
def test_waivers_by_pattern(office: Office, pattern: str, waived: set[str]) -> None:
    office.audit(START, SHOP)
    waivers.add_waiver(office.work, office.site.id, WaiverBody(check="desc-missing", pattern=pattern, reason="Meant so"), None)
    run = office.audit(START + timedelta(days=7), SHOP)
    with office.work.open_run(run) as opened:
        rows = opened.rows("SELECT subject FROM finding WHERE check_id = 'desc-missing' AND waived")
    assert {url.removeprefix("https://shop.example") for (url,) in rows} == waived


def test_a_waiver_holds_to_its_last_day(office: Office) -> None:
    last = (START + timedelta(days=7)).date()
    made = waivers.add_waiver(office.work, office.site.id, WaiverBody(check="desc-missing", reason="Until then", end=last), None)
    for days, waived in ((7, 2), (8, 0)):
        run = office.audit(START + timedelta(days=days), SHOP)
        with office.work.open_run(run) as opened:
            assert opened.rows("SELECT waived FROM check_state WHERE id = 'desc-missing'") == [(waived,)]
    assert waivers.list_waivers(office.at(START + timedelta(days=8)), office.site.id)[0].in_force is False
    assert made.in_force


def test_a_benchmark_needs_others_and_runs_them_all(office: Office) -> None:
    other = sites.add_site(
        office.work, SiteBody(client_id=office.site.client_id, address="https://other.example/", kind="competitor"), None
    )
    for wrong in ([], [office.site.id], [999]):
        with pytest.raises((HodcarrierError, ValueError)):
            benchmark_setup.add_benchmark(
                office.work, BenchmarkBody(name="B", site_id=office.site.id, competitor_ids=wrong), None
            )
    made = benchmark_setup.add_benchmark(
        office.work, BenchmarkBody(name="B", site_id=office.site.id, competitor_ids=[other.id], pages_max=50), None
    )
    assert benchmarks.get_benchmark(office.work, made.id).state == "no round yet"
    benchmarks.start_round(office.work, made.id, None)
    queued = runs.list_runs(office.work, purpose=RunPurpose.BENCHMARK).items
    assert {r.site_id for r in queued} == {office.site.id, other.id}
    plan = runs.get_run(office.work, queued[0].id).plan
    assert plan is not None and plan.pages_max == 50 and plan.thresholds == {} and plan.checks_off == ()
    today = office.work.now().date()
    for day, text in ((today - timedelta(days=1), "Before the first round"), (today, "They moved")):
        remarks.add_remark(office.work, other.id, RemarkBody(day=day, text=text), None)
    found = benchmarks.get_benchmark(office.work, made.id)
    assert found.state == "running"
    assert [[remark.text for remark in of_site] for of_site in found.remarks] == [[], ["They moved"]]


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ({"check": "desc-missing", "pattern": "https://shop.example/b*"}, "matches none of the URLs"),
        ({"check": "desc-missing", "pattern": "/sohp/*"}, "matches none of the URLs"),
        ({"check": "desc-missing", "pattern": "https://other.example/"}, "matches none of the URLs"),
        ({"check": "desc-missing", "pattern": "shop"}, "not a pattern"),
        ({"check": "files-robots-missing", "pattern": "/*"}, "the site as a whole"),
        ({"check": "desc-missing", "fingerprint": "abc"}, "no fingerprint"),
    ],
)
def test_a_waiver_that_can_cover_nothing_is_refused(office: Office, body: dict[str, str], words: str) -> None:
    office.audit(START, SHOP)
    with pytest.raises(InvalidInput, match=words):
        waivers.add_waiver(office.work, office.site.id, WaiverBody(reason="Meant so", **body), None)
    assert waivers.list_waivers(office.work, office.site.id) == []


def test_the_plan_of_a_benchmark_is_its_own(office: Office) -> None:
    """Whatever a site's plan says of what is audited and how, a round audits all sites alike."""
    other = sites.add_site(
        office.work, SiteBody(client_id=office.site.client_id, address="https://other.example/", kind="competitor"), None
    )
    body = BenchmarkBody(name="B", site_id=office.site.id, competitor_ids=[other.id], pages_max=50, rate_per_s=9)
    made = benchmark_setup.add_benchmark(office.work, body, None)
    own = {
        "start": ("https://shop.example/",),
        "addresses": ("https://shop.example/broken",),
        "exclude": ("/rope/*",),
        "appearance": "phone",
        "rate_per_s": 1.0,
        "thresholds": {"title_chars_max": 30},
        "host_map": {"shop.example:443": "127.0.0.1:8443"},
        "private_addresses": ["127.0.0.0/8"],
    }
    with office.work.session() as session:
        session.get_one(Site, office.site.id).plan = read_plan(own)
    benchmarks.start_round(office.work, made.id, None)
    plans = [runs.get_run(office.work, r.id).plan for r in runs.list_runs(office.work, purpose=RunPurpose.BENCHMARK).items]
    of = {plan.start[0]: plan for plan in plans if plan is not None}
    mine, theirs = of["https://shop.example/"], of["https://other.example/"]
    assert mine.host_map and mine.private_addresses, "it must be reached all the same"
    alike = replace(mine, start=theirs.start, host_map={}, private_addresses=())
    assert alike == theirs == Plan(("https://other.example/",), pages_max=50, rate_per_s=9)


def test_a_report_counts_what_the_comparison_of_its_first_and_last_run_says(office: Office) -> None:
    titled = page(doc('<a href="/a">a</a><h1>Rope</h1>', "<title>Rope and more rope for everybody</title>"))
    plain = page(doc('<a href="/a">a</a><h1>Rope</h1>'))
    there, missing = page(doc("<h1>A</h1>"), "/a"), gone("/a")
    first = office.audit(START, [plain, there])
    for days, answers in ((7, [titled, missing]), (14, [plain, there]), (21, [titled, missing])):
        last = office.audit(START + timedelta(days=days), answers)
    body = ReportBody(site_id=office.site.id, from_day=date(2026, 11, 4), to_day=date(2026, 11, 30))
    made = reports.add_report(office.at(START + timedelta(days=22)), body, None, "Our agency")
    month = facts_of(office.work, made.id, "month")
    said = comparisons.compare_runs(office.work, first, last).counts
    assert month["fixed"] == said["fixed"] > 0
    assert month["new"] == sum(said.get(change, 0) for change in NEW_CHANGES)


def test_health_is_not_compared_when_a_plan_was_narrowed(office: Office) -> None:
    shop = [page(doc("".join(f'<a href="/{n}">n</a>' for n in range(1, 8)) + "<h1>Rope</h1>"))]
    shop += [page(doc(f"<h1>Page {n}</h1>"), f"/{n}") for n in range(1, 8)]
    office.audit(START, shop)
    run = office.audit(START + timedelta(days=7), shop, {"exclude": ["/2", "/3", "/4", "/5", "/6", "/7"]})
    found = runs.get_run(office.work, run)
    assert found.health_change is None and found.changes is not None and found.changes.health is not None
    assert (found.changes.health.pages, found.changes.health.pages_base) == (2, 8)
    trend = trends.get_trend(office.work, office.site.id)
    assert [(p.comparable, p.note) for p in trend.points] == [
        (False, "too different a number of pages to compare"),
        (True, "plan changed"),
    ]
    assert "1 earlier run is left out" in trend.words
    office.audit(START + timedelta(days=14), shop, {})
    found = runs.get_run(office.work, office.audit(START + timedelta(days=21), shop))
    assert found.health_change == 0


def test_the_change_of_a_check_counts_what_both_runs_examined(office: Office) -> None:
    links = "".join(f'<a href="/{n}">{n}</a>' for n in range(1, 8))
    shop = [page(doc(links + "<h1>Rope</h1>"))] + [page(doc(f"<h1>Page {n}</h1>"), f"/{n}") for n in range(1, 8)]
    office.audit(START, shop)
    cut = office.audit(START + timedelta(days=7), shop, {"pages_max": 3, "use_sitemaps": False})
    rows = {row.id: row for row in results.list_checks(office.work, cut)}
    assert rows["desc-missing"].findings == 3 and rows["desc-missing"].change == 0, "not reached is not fixed"
    office.audit(START + timedelta(days=14), shop, {})
    described = page(doc(links + "<h1>Rope</h1>", "<meta name=description content='All about rope'>"))
    last = office.audit(START + timedelta(days=21), [described, *shop[1:]])
    rows = {row.id: row for row in results.list_checks(office.work, last)}
    assert rows["desc-missing"].change == -1


def test_a_trend_marks_a_changed_catalogue(office: Office) -> None:
    for weeks in range(2):
        office.audit(START + timedelta(weeks=weeks), SHOP)
    with office.work.session() as session:
        run = session.scalars(select(Run).order_by(Run.requested_at)).first()
        assert run is not None and run.summary is not None
        run.summary = replace(run.summary, catalogue="an older one")
    points = trends.get_trend(office.work, office.site.id).points
    assert [(p.catalogue_changed, p.note) for p in points] == [(False, ""), (True, "catalogue changed")]


def test_a_report_keeps_what_it_said(office: Office) -> None:
    office.audit(START, SHOP)
    body = ReportBody(site_id=office.site.id, from_day=date(2026, 11, 1), to_day=date(2026, 11, 30), note="Good")
    made = reports.add_report(office.at(START + timedelta(days=2)), body, None, "Our agency")
    before = reports.draw_report(office.work, made.id)[1]
    office.audit(START + timedelta(days=7), [SHOP[0], gone("/a")])
    assert reports.draw_report(office.work, made.id)[1] == before
    assert made.title == "Rope & Sail: November 2026"
    with pytest.raises(InvalidInput, match="ends before"):
        reports.add_report(office.work, body.model_copy(update={"to_day": date(2026, 10, 1)}), None, "x")


@pytest.mark.parametrize("figure", ["health", "findings", "pages", "area.links", "severity.high", "check.desc-missing"])
def test_every_kind_of_figure_has_a_trend(office: Office, figure: str) -> None:
    for weeks in range(3):
        office.audit(START + timedelta(weeks=weeks), SHOP)
    found = trends.get_trend(office.work, office.site.id, figure, None, None)
    assert len(found.points) == 3 and all(point.value is not None for point in found.points)
    assert found.state == "steady" and found.label
    part = trends.get_trend(office.work, office.site.id, figure, (START + timedelta(days=1)).date(), None)
    assert len(part.points) == 2


@pytest.mark.parametrize("figure", ["luck", "area.nowhere", "severity.dire", "check.none", ""])
def test_figures_that_are_none_say_which_there_are(office: Office, figure: str) -> None:
    with pytest.raises(InvalidInput, match="no figure") as refused:
        trends.get_trend(office.work, office.site.id, figure, None, None)
    assert "check.ID" in refused.value.hint


def test_the_same_client_twice(office: Office) -> None:
    with pytest.raises(Conflict):
        clients.add_client(office.work, ClientBody(name="Rope & Sail"), None)


def test_removing_a_site_takes_it_alone(office: Office) -> None:
    boss = record(office, add(office, "Olga Owner", "owner"))
    other = sites.add_site(office.work, SiteBody(client_id=office.site.client_id, address="https://other.example/"), None)
    office.audit(START, SHOP)
    sites.remove_site(office.work, office.site.id, boss)
    assert [site.id for site in sites.list_sites(office.work)] == [other.id]
    assert runs.list_runs(office.work).items == []
    with pytest.raises(NotFound):
        sites.remove_site(office.work, office.site.id, boss)


def test_what_was_done_is_in_the_log(office: Office) -> None:
    """Who did what, in the words of the log."""
    boss = record(office, add(office, "Olga Owner", "owner"))
    rival = sites.add_site(
        office.work, SiteBody(client_id=office.site.client_id, address="https://rival.example/", kind="competitor"), boss
    )
    made = benchmark_setup.add_benchmark(
        office.work, BenchmarkBody(name="B", site_id=office.site.id, competitor_ids=[rival.id]), boss
    )
    runs.queue_run(office.work, office.site.id, boss)
    benchmarks.start_round(office.work, made.id, boss)
    with office.work.reading() as session:
        entries = [(e.member_id, e.action, e.subject) for e in session.scalars(select(LogEntry).order_by(LogEntry.id))]
    assert (boss.id, "run queued", "shop.example") in entries
    assert (boss.id, "round started", "B") in entries
    assert (boss.id, "site added", "rival.example") in entries


def test_access_is_kept_sealed_and_forgotten(office: Office) -> None:
    boss = record(office, add(office, "Olga Owner", "owner"))
    body = AccessBody(username="u", password="", headers={"X-Preview": "yes"}, cookies={"beta": "1"})
    kept = plans.set_access(office.work, office.site.id, body, boss)
    assert (kept.password, kept.headers, kept.cookies) == (True, ["X-Preview"], ["beta"])
    opened = plans.open_access(office.work, office.site.id)
    assert opened == {**body.model_dump(), "bound": Bound(("https://shop.example",))}
    plans.remove_access(office.work, office.site.id, boss)
    assert plans.get_access(office.work, office.site.id) == AccessOut()
    assert plans.open_access(office.work, office.site.id) is None
    plans.remove_access(office.work, office.site.id, boss)


@pytest.mark.parametrize("name", ["", " ", "X:Y", "X\nY", "Zoë"])
def test_a_header_that_cannot_be_sent_is_refused(office: Office, name: str) -> None:
    boss = record(office, add(office, "Olga Owner", "owner"))
    with pytest.raises(InvalidInput, match="cannot be sent"):
        plans.set_access(office.work, office.site.id, AccessBody(headers={name: "x"}), boss)


def test_those_who_asked_are_told_of_a_failure(office: Office) -> None:
    schedules.set_schedule(office.work, office.site.id, ScheduleBody(rule="daily", mail_to=["imke@agency.example"]), None)
    run = runs.queue_run(office.work, office.site.id).id
    assert runs.claim_run(office.work, "w") == run
    finishing.note_failure(office.work, run, "another worker", "not mine")
    assert runs.get_run(office.work, run).state == "crawling"
    finishing.note_failure(office.work, run, "w", "The disk is full.")
    deliver_due(office.work, office.mail)
    ((to, subject, text),) = office.mail.sent
    assert to == "imke@agency.example" and subject == "shop.example: the audit failed" and "The disk is full." in text


def test_shares_of_pages_in_a_benchmark() -> None:
    """Own site: one of two pages fails; the competitor: none of four; a site without pages has no share."""
    sides = [
        RoundSite(
            1, "shop.example", "a", 2, SiteFigures(sampled=True), 2, 2, {"title-missing": 1, "gone-check": 2, "title-long": 0}
        ),
        RoundSite(2, "rival.example", "b", 4, SiteFigures(), 4, 4, {"title-missing": 0, "link-broken": 4}),
        RoundSite(3, "down.example", "c", None, None),
    ]
    found = {row.check: row.shares for row in benchmarks.shares(RoundResult(sides))}
    assert set(found) == {"title-missing", "link-broken"}, "neither what is in no catalogue nor what fails nowhere"
    own, theirs, down = found["title-missing"]
    assert own is not None and own[0] == 50 and own[1] < 50 < own[2] and own[1] >= 0 and own[2] <= 100
    assert theirs == (0, 0, 0), "no interval: the whole site was examined"
    assert down is None
    assert found["link-broken"][0] is None


def test_a_check_shows_the_cause_that_is_worth_most(office: Office) -> None:
    run = office.audit(START, [page(doc('<h1>Shop</h1><a href="/a">a</a><a href="/b">b</a>')), gone("/a"), gone("/b")])
    rows = results.list_checks(office.work, run)
    assert len(rows) > 3
    for row in rows:
        assert row.cause == results.list_causes(office.work, run, row.id)[0].line


def test_removing_a_client_leaves_the_files_of_others(office: Office) -> None:
    boss = record(office, add(office, "Olga Owner", "owner"))
    far = clients.add_client(office.work, ClientBody(name="Far"), None).id
    site = sites.add_site(office.work, SiteBody(client_id=far, address="https://far.example/"), None)
    ours = office.audit(START, SHOP)
    theirs = Office(office.work, office.mail, site).audit(START, SHOP)
    clients.remove_client(office.work, far, boss)
    assert office.work.store.has(ours) and not office.work.store.has(theirs)


@pytest.mark.parametrize("key", ["", " ", "nobody", "o"])
def test_who_is_not_found_is_told_with_who_there_is(office: Office, key: str) -> None:
    add(office, "Olga Owner", "owner")
    add(office, "Oona Featherby")
    with office.work.reading() as session:
        assert members.find_member(session, "olga").name == members.find_member(session, "1").name == "Olga Owner"
        with pytest.raises(NotFound) as missing:
            members.find_member(session, key)
    assert "Oona Featherby" in missing.value.hint


def test_what_is_done_to_members_is_in_the_log(office: Office) -> None:
    boss = record(office, add(office, "Olga Owner", "owner"))
    body = MemberBody(name="Ann", email="ann@agency.example", role=Role.FIXER, password=PASSWORD)
    ann = members.add_member(office.work, body, boss).id
    members.change_member(office.work, ann, MemberChange(role=Role.LEAD), boss)
    with office.work.reading() as session:
        entries = [(e.member_id, e.action, e.subject) for e in session.scalars(select(LogEntry).order_by(LogEntry.id))]
    assert (boss.id, "member added", "ann@agency.example") in entries
    assert (boss.id, "member changed", "ann@agency.example") in entries


def test_findings_come_in_parts_that_make_the_whole(office: Office) -> None:
    run = office.audit(START, SHOP)

    def part(limit: int, after: int) -> tuple[list[int], str | None, int]:
        found = results.list_findings(
            office.work, run, check="", cause=None, severity=None, waived=False, limit=limit, after=after
        )
        return [row.id for row in found.items], found.after, found.total

    whole, after, total = part(1000, 0)
    assert after is None and len(whole) == total > 5
    assert part(total, 0) == (whole, None, total)
    gathered: list[int] = []
    at: str | None = "0"
    while at is not None:
        ids, at, _ = part(2, int(at))
        assert 1 <= len(ids) <= 2
        gathered += ids
    assert gathered == whole


def test_a_trend_begins_and_ends_with_the_days_that_are_named(office: Office) -> None:
    for week in range(3):
        office.audit(START + timedelta(weeks=week), SHOP)
    days = [START.date() + timedelta(weeks=week) for week in range(3)]
    found = trends.get_trend(office.work, office.site.id, "health", days[1], days[2])
    assert [point.at.date() for point in found.points] == days[1:]
    assert len(trends.get_trend(office.work, office.site.id, "health", days[1], days[1]).points) == 1


def test_figures_of_a_site_that_there_is_not(office: Office) -> None:
    with pytest.raises(NotFound):
        metrics.list_metrics(office.work, 999)
