"""What people are told of to-dos by mail: when they want it, all of it in one mail, nothing twice, and nothing that is no longer so."""

from __future__ import annotations

from datetime import datetime, timedelta

import pytest
from sqlalchemy import select

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.permissions import Role
from hodcarrier.register.models import Member, TodoMail
from hodcarrier.service.postman import deliver_due
from hodcarrier.usecases import due_mails, members, todo_changes, todo_lists, todo_mails, todos
from hodcarrier.usecases.todo_runs import judge_look
from hodcarrier.wire.members import MemberChange, PreferencesChange
from hodcarrier.wire.todos import TodoBody, TodoChange, TodoEdit, TodosBody, TodosChange
from tests.usecases.conftest import START, Office
from tests.usecases.test_many_todos import person
from tests.usecases.test_todos import WEEK, shop

HOUR = timedelta(hours=1)
DAY = timedelta(days=1)
NOON = START + 10 * HOUR


@pytest.fixture
def imke(office: Office) -> Member:
    return person(office, "Imke Aldersgate", Role.LEAD)


@pytest.fixture
def oona(office: Office) -> Member:
    return person(office, "Oona Featherby")


def prefers(office: Office, member: Member, **times: str) -> None:
    chosen = {name.replace("_", "-"): when for name, when in times.items()}
    members.change_preferences(office.work, member.id, PreferencesChange(mail_times=chosen))


def hand_out(office: Office, by: Member, at: datetime = NOON, **more: object) -> int:
    body = TodoBody.model_validate({"site_id": office.site.id, "title": "Repair the guide", **more})
    return todos.add_todo(office.at(at), body, by).id


def change(office: Office, todo: int, by: Member, at: datetime = NOON, **more: object) -> None:
    todo_changes.change_todo(office.at(at), todo, TodoChange.model_validate(more), None, by)


def post(office: Office, at: datetime = NOON) -> list[tuple[str, str, str]]:
    """The mails that go out at a moment."""
    before = len(office.mail.sent)
    due_mails.gather(office.at(at))
    deliver_due(office.at(at), office.mail)
    return office.mail.sent[before:]


def test_whoever_is_given_a_to_do_is_told_at_once_with_a_link(office: Office, imke: Member, oona: Member) -> None:
    todo = hand_out(office, imke, assignee=oona.id, due="2026-11-20")
    [(to, subject, text)] = post(office)
    assert (to, subject) == (oona.email, "Assigned to you: Repair the guide (shop.example)")
    assert (
        f"https://desk.example/todos/{todo}" in text
        and "Imke Aldersgate gave it to you." in text
        and "due Fri 20 Nov 2026" in text
    )
    assert f'<a href="https://desk.example/todos/{todo}"' in office.mail.html[-1]
    assert "https://desk.example/team?tab=you#mails" in text
    assert post(office) == [], "and only once"


def test_nobody_is_told_of_what_they_did_themselves(office: Office, imke: Member) -> None:
    todo = hand_out(office, imke, assignee=imke.id, watchers=[imke.id])
    change(office, todo, imke, comment="I, @Imke, take this.")
    assert post(office) == []


def test_many_at_once_are_one_mail(office: Office, imke: Member, oona: Member) -> None:
    office.audit(START, shop(2))
    body = TodosBody.model_validate({"site_id": office.site.id, "check": "desc-missing", "per": "page", "assignees": [oona.id]})
    made = todos.add_todos(office.at(NOON), body, imke)
    [(_, subject, text)] = post(office)
    assert subject == f"Assigned to you: {len(made)} to-dos" and len(made) == 3
    assert all(f"/todos/{todo.id}\n" in text for todo in made)


def test_what_is_taken_back_before_it_is_told_is_not_told(office: Office, imke: Member, oona: Member) -> None:
    todo = hand_out(office, imke, assignee=oona.id)
    undo = TodosChange(changes=[TodoEdit(id=todo, assignee=None)], undo=True)
    todo_changes.change_todos(office.at(NOON), undo, imke)
    assert post(office) == []


def test_a_comment_tells_those_it_mentions_and_those_it_concerns(office: Office, imke: Member, oona: Member) -> None:
    casper = person(office, "Casper Dunmore")
    tobin = person(office, "Tobin Ferris")
    todo = hand_out(office, imke, assignee=oona.id, watchers=[tobin.id])
    post(office)
    change(office, todo, oona, comment="@casper, is <b>this</b> the page?\nI am not sure.")
    found = {to: (subject, text) for to, subject, text in post(office)}
    assert set(found) == {casper.email, imke.email, tobin.email}
    assert found[casper.email][0].startswith("You were mentioned") and found[imke.email][0].startswith("Comments")
    assert "  > @casper, is <b>this</b> the page?\n  > I am not sure.\n" in found[casper.email][1]
    assert all("&lt;b&gt;this" in html and "<b>this" not in html for html in office.mail.html[-3:])


def test_confirmed_and_opened_again_are_told_to_all_whom_it_concerns(office: Office, imke: Member, oona: Member) -> None:
    prefers(office, imke, confirmed="at-once")
    prefers(office, oona, confirmed="never")
    office.audit(START, shop(3))
    todo = hand_out(office, imke, check="link-broken", assignee=oona.id)
    post(office)
    change(office, todo, oona, state="done")
    office.audit(START + WEEK, shop(0))
    assert [(to, subject) for to, subject, _ in post(office, START + 2 * WEEK)] == [
        (imke.email, "Confirmed: Repair the guide (shop.example)")
    ]
    office.audit(START + 2 * WEEK, shop(1))
    told = post(office, START + 3 * WEEK)
    assert sorted(to for to, *_ in told) == sorted([imke.email, oona.email])
    assert all("Opened again: the findings are back on 1 of 3 places." in text for *_, text in told)


def test_whoever_looks_now_is_not_told_what_was_seen(office: Office, imke: Member, oona: Member) -> None:
    prefers(office, imke, confirmed="at-once")
    prefers(office, oona, confirmed="at-once")
    office.audit(START, shop(1))
    todo = hand_out(office, imke, check="link-broken", assignee=oona.id)
    post(office)
    linked = todo_lists.get_todo(office.work, todo).linked
    judge_look(office.at(NOON), todo, {bytes.fromhex(place.fingerprint): "cleared" for place in linked}, oona)
    assert [to for to, *_ in post(office)] == [imke.email]


def test_the_daily_mail_has_all_of_the_day(office: Office, imke: Member, oona: Member) -> None:
    prefers(office, oona, assigned="daily", commented="daily")
    todo = hand_out(office, imke, assignee=oona.id)
    hand_out(office, imke, NOON + HOUR, assignee=oona.id, title="Write the descriptions")
    change(office, todo, imke, NOON + HOUR, comment="No hurry.")
    assert post(office, NOON + 2 * HOUR) == []
    [(to, subject, text)] = post(office, NOON + DAY)
    assert (to, subject) == (oona.email, "News of 2 to-dos")
    assert text.startswith("2 to-dos assigned to you and 1 comment.\n") and "  > No hurry.\n" in text


def test_reminders_come_once_for_each_due_date(office: Office, imke: Member, oona: Member) -> None:
    prefers(office, oona, due_soon="at-once", overdue="at-once", assigned="never")
    todo = hand_out(office, imke, assignee=oona.id, due="2026-11-09")  # a Monday

    def reminded(day: int) -> list[str]:
        moment = NOON + timedelta(days=day - 3)
        todo_mails.remind(office.at(moment))
        todo_mails.remind(office.at(moment))
        return [subject.partition(":")[0] for _, subject, _ in post(office, moment)]

    assert [reminded(day) for day in (5, 6, 9, 10, 11)] == [[], ["Due by the next working day"], [], ["Overdue"], []]
    change(office, todo, imke, NOON + timedelta(days=8), due="2026-11-12")
    assert [reminded(day) for day in (11, 12, 13)] == [["Due by the next working day"], [], ["Overdue"]]
    change(office, todo, oona, NOON + timedelta(days=11), state="done")
    assert reminded(14) == []


def test_a_reminder_of_what_is_done_by_then_is_left_out(office: Office, imke: Member, oona: Member) -> None:
    todo = hand_out(office, imke, assignee=oona.id, due="2026-11-04")
    post(office)
    todo_mails.remind(office.at(NOON))
    change(office, todo, oona, NOON + HOUR, state="done")
    assert post(office, NOON + DAY) == []
    with office.work.reading() as session:
        assert session.scalars(select(TodoMail.taken_at).where(TodoMail.taken_at.is_(None))).all() == [], "nor kept for later"


def test_who_has_left_gets_no_mail(office: Office, imke: Member, oona: Member) -> None:
    hand_out(office, imke, assignee=oona.id)
    members.change_member(office.work, oona.id, MemberChange(active=False, hand_to=None), imke)
    assert post(office) == []


def test_choices_are_kept_beside_one_another(office: Office, imke: Member) -> None:
    prefers(office, imke, overdue="never")
    prefers(office, imke, confirmed="at-once")
    change = PreferencesChange(mail_hour=6, mail_zone="Europe/Oslo")
    found = members.change_preferences(office.work, imke.id, change)
    assert (found.mail_times["overdue"], found.mail_times["confirmed"], found.mail_times["assigned"]) == (
        "never",
        "at-once",
        "at-once",
    )
    assert (found.mail_hour, found.mail_zone) == (6, "Europe/Oslo")
    with pytest.raises(InvalidInput, match="no time zone “Mars/Olympus”"):
        members.change_preferences(office.work, imke.id, PreferencesChange(mail_zone="Mars/Olympus"))
