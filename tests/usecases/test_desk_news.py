"""What the desk tells of the night: events, to-dos that runs judged, what rose on several clients' sites; runs that are stuck, sites without a
recent one; and the same by mail in the morning."""

from __future__ import annotations

from datetime import datetime, timedelta

import pytest

from hodcarrier.core.judge.todos import last_working_day
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import RunState
from hodcarrier.register.models import Member, Run, RunProgress, Site, SiteState
from hodcarrier.service.postman import deliver_due
from hodcarrier.usecases import clients, desk, due_mails, finishing, members, runs, sites, todo_changes
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.desk import DeskItemKind, DeskOut
from hodcarrier.wire.members import MemberChange, PreferencesChange
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.todos import TodoChange
from tests.usecases.conftest import START, Office
from tests.usecases.test_many_todos import person
from tests.usecases.test_todos import WEEK, make, shop

HOUR = timedelta(hours=1)
DAY = timedelta(days=1)


@pytest.fixture
def imke(office: Office) -> Member:
    return person(office, "Imke Aldersgate", Role.LEAD)


def look(office: Office, imke: Member, at: datetime) -> DeskOut:
    return desk.get_desk(office.at(at), imke)


@pytest.mark.parametrize(
    ("day", "before"), [("2026-12-01", "2026-11-30"), ("2026-11-30", "2026-11-27"), ("2026-11-29", "2026-11-27")]
)
def test_a_monday_looks_back_on_the_weekend(day: str, before: str) -> None:
    assert last_working_day(datetime.fromisoformat(day).date()).isoformat() == before


def test_nothing_to_tell_is_quiet(office: Office, imke: Member) -> None:
    office.audit(START, shop(0))
    found = look(office, imke, START + 3 * DAY)
    assert found.quiet and (found.items, found.events, found.judged, found.patterns) == ([], [], [], [])


def test_events_of_the_night_stand_by_weight_and_add_up(office: Office, imke: Member) -> None:
    office.audit(START, shop(0))
    office.audit(START + WEEK, shop(3))
    found = look(office, imke, START + WEEK + HOUR)
    assert found.events and not found.quiet
    shares = [abs(event.shown or 0) for event in found.events]
    assert shares == sorted(shares, reverse=True) and all(shares)
    assert sum(event.shown or 0 for event in found.events) == pytest.approx(found.sites[0].change)
    assert found.events[0].link == f"/sites/{office.site.id}/changes"
    assert look(office, imke, START + WEEK + 2 * DAY).events == []


def test_to_dos_that_runs_judged_are_told_once_each(office: Office, imke: Member) -> None:
    office.audit(START, shop(3))
    todo = make(office, 0)
    todo_changes.change_todo(office.at(START + 2 * HOUR), todo, TodoChange(state="done"), None, imke)
    office.audit(START + WEEK, shop(1))
    [reopened] = look(office, imke, START + WEEK + HOUR).judged
    assert (reopened.todo_id, reopened.reopened, reopened.text) == (todo, True, "Opened again: still there on 1 of 3.")
    office.audit(START + 2 * WEEK, shop(0))
    [confirmed] = look(office, imke, START + 2 * WEEK + HOUR).judged
    assert not confirmed.reopened and confirmed.text.startswith("Confirmed: all 3 places passed.")


def _rise(office: Office, host: str, client: int, run: str, **rises: int) -> int:
    """A site whose latest run found more, as the end of a run leaves it."""
    site = sites.add_site(office.work, SiteBody(client_id=client, address=f"https://{host}/"), None).id
    with office.work.session() as session:
        state = session.get(SiteState, site) or SiteState(site_id=site)
        state.done_id, state.last_id, state.runs = run, run, 2
        state.rises = {name.replace("_", "-"): n for name, n in rises.items()}
        session.add(state)
    return site


def test_what_rose_on_three_sites_of_several_clients_is_a_pattern(office: Office, imke: Member) -> None:
    run = office.audit(START, shop(0))
    own = office.site.client_id
    other = clients.add_client(office.work, ClientBody(name="Another"), imke).id
    _rise(office, "one.example", own, run, link_broken=4, text_thin=1)
    _rise(office, "two.example", own, run, link_broken=9, text_thin=1, title_missing=3)
    _rise(office, "three.example", own, run, text_thin=1, title_missing=1)
    assert look(office, imke, START + HOUR).patterns == [], "of one client it is that client's business"
    _rise(office, "four.example", other, run, link_broken=2, title_missing=1, no_such_check=1)
    found = look(office, imke, START + HOUR).patterns
    assert [(p.check, len(p.sites)) for p in found] == [("link-broken", 3), ("title-missing", 3)]
    assert [(site.host, site.findings) for site in found[0].sites] == [
        ("two.example", 9),
        ("one.example", 4),
        ("four.example", 2),
    ]
    assert look(office, imke, START + 8 * DAY).patterns == [], "a week later it is old"


def test_what_rose_is_kept_with_the_end_of_a_run(office: Office) -> None:
    office.audit(START, shop(0))
    office.audit(START + WEEK, shop(3))
    with office.work.reading() as session:
        assert session.get_one(SiteState, office.site.id).rises["link-broken"] == 3


def test_a_run_without_a_sign_of_life_is_stuck(office: Office, imke: Member) -> None:
    office.audit(START, shop(0))
    run = runs.queue_run(office.at(START + DAY), office.site.id).id
    later = START + DAY + 7 * HOUR
    [waiting] = look(office, imke, later).items
    assert (waiting.kind, waiting.text) == ("stuck", "The audit has been waiting in the queue for 7 hours")
    runs.claim_run(office.at(later), "a worker")
    finishing.begin_run(office.at(later), run)
    assert look(office, imke, later + timedelta(minutes=29)).items == []
    [silent] = look(office, imke, later + timedelta(minutes=31)).items
    assert silent.text == "The audit has not moved for 31 minutes"
    with office.work.session() as session:
        session.merge(RunProgress(run_id=run, at=later + timedelta(minutes=20), figures={}))
    assert look(office, imke, later + timedelta(minutes=31)).items == []


def test_a_site_without_a_recent_run_is_told(office: Office, imke: Member) -> None:
    with office.work.session() as session:
        session.get_one(Site, office.site.id).created_at = START
    assert look(office, imke, START + HOUR).items == []
    [never] = look(office, imke, START + 2 * DAY).items
    assert (never.kind, never.text, never.detail) == ("stale", "Not audited yet", "It has no schedule.")
    office.audit(START + 2 * DAY, shop(0))
    assert look(office, imke, START + 5 * WEEK).items == []
    [stale] = look(office, imke, START + 6 * WEEK).items
    assert stale.text == "No audit since Thu 5 Nov 2026"
    run = runs.queue_run(office.at(START + 6 * WEEK), office.site.id).id
    assert look(office, imke, START + 6 * WEEK).items == [], "it is being audited"
    finishing.fail_run(office.at(START + 6 * WEEK), run, "The host name does not resolve.")
    assert [item.kind for item in look(office, imke, START + 6 * WEEK).items] == ["failed"], "and a failure is told as that"


def morning(office: Office, at: datetime) -> list[tuple[str, str, str]]:
    before = len(office.mail.sent)
    due_mails.gather(office.at(at))
    deliver_due(office.at(at), office.mail)
    return office.mail.sent[before:]


def test_the_desk_comes_by_mail_on_working_mornings(office: Office, imke: Member) -> None:
    change = PreferencesChange(morning=True, mail_hour=7, mail_zone="UTC")
    members.change_preferences(office.at(START), imke.id, change)
    office.audit(START, shop(0))
    office.audit(START + WEEK, shop(3))
    assert morning(office, START + HOUR) == []
    tuesday = START.replace(hour=7, minute=0) + WEEK
    [(to, subject, text)] = morning(office, tuesday)
    assert to == imke.email and subject.startswith("Desk, Tue 10 Nov: 1 site got worse, ")
    found = look(office, imke, tuesday)
    assert text.startswith(f"{found.sentence}.\n")
    assert found.items[0].text in text and found.events[0].title in text and "https://desk.example/sites/1/changes" in text
    assert morning(office, tuesday + HOUR) == [], "once a morning"
    saturday = tuesday + 4 * DAY
    assert len(morning(office, saturday)) == 1, "what was due on Wednesday comes when the service is back"
    assert morning(office, saturday + DAY) == [], "but none on a Sunday"
    monday = saturday + 2 * DAY
    assert len(morning(office, monday)) == 1


def test_a_quiet_morning_says_so_and_news_of_to_dos_come_along(office: Office, imke: Member) -> None:
    members.change_preferences(office.at(START), imke.id, PreferencesChange(morning=True))
    office.audit(START, shop(3))
    oona = person(office, "Oona Featherby")
    todo = make(office, 0, assignee=imke.id)
    due_mails.gather(office.at(START + 2 * HOUR))
    members.change_preferences(office.at(START + 2 * HOUR), imke.id, PreferencesChange(mail_times={"commented": "daily"}))
    todo_changes.change_todo(office.at(START + 2 * HOUR), todo, TodoChange(comment="Which page?"), None, oona)
    deliver_due(office.at(START + 2 * HOUR), office.mail)
    wednesday = START.replace(hour=7, minute=0) + DAY
    [(_, subject, text)] = morning(office, wednesday)
    assert subject == "Desk, Wed 4 Nov: everything is quiet" and text.startswith("Everything is quiet. ")
    assert "Comments\n--------" in text and "> Which page?" in text


def test_who_does_not_want_it_or_has_left_gets_no_desk(office: Office, imke: Member) -> None:
    members.change_preferences(office.at(START), imke.id, PreferencesChange(morning=True))
    members.change_preferences(office.at(START), imke.id, PreferencesChange(morning=False))
    assert morning(office, START + DAY) == []
    members.change_preferences(office.at(START), imke.id, PreferencesChange(morning=True))
    members.change_member(office.work, imke.id, MemberChange(active=False), imke)
    assert morning(office, START + DAY) == []


def test_a_failed_run_of_a_queue_is_no_event(office: Office, imke: Member) -> None:
    office.audit(START, shop(0))
    run = runs.queue_run(office.at(START + DAY), office.site.id).id
    finishing.fail_run(office.at(START + DAY), run, "No answer.")
    with office.work.reading() as session:
        assert session.get_one(Run, run).state == RunState.FAILED
    assert look(office, imke, START + DAY + HOUR).events == []


@pytest.mark.parametrize(
    ("days", "words"),
    [(22, None), (21, "in 21 days"), (1.5, "in 1 day"), (0, "ended on"), (-3, "ended on")],
)
def test_a_certificate_that_ends_has_a_line(office: Office, imke: Member, days: float, words: str | None) -> None:
    office.audit(START, shop(1))
    with office.work.session() as session:
        session.get_one(SiteState, office.site.id).certificate_ends = START + timedelta(days=days)
    lines = [item for item in look(office, imke, START).items if item.kind == DeskItemKind.CERTIFICATE]
    assert [words in line.text for line in lines if words] == ([True] if words else []) and bool(lines) == bool(words)


def test_an_audit_notes_until_when_the_certificate_holds(office: Office) -> None:
    run_id = office.audit(START, shop(1))
    with office.work.open_run(run_id) as run, office.work.reading() as session:
        seen = run.certificate_ends("https://shop.example/")
        assert session.get_one(SiteState, office.site.id).certificate_ends == seen
