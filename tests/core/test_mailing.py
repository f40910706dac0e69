"""When mails are due, and whom a comment mentions."""

from datetime import UTC, date, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.judge.todos import is_due_soon
from hodcarrier.core.mailing import DEFAULT_TIMES, mail_due, mail_times
from hodcarrier.core.mentions import mentioned
from hodcarrier.core.states import MailKind, MailTime

PEOPLE = {1: "Imke Aldersgate", 2: "Oona Featherby", 3: "Oona Brack", 4: "Jean-Luc", 5: "Øyvind Å"}
NOON = datetime(2026, 12, 1, 12, tzinfo=UTC)


@pytest.mark.parametrize(
    ("text", "called"),
    [
        ("@Imke Aldersgate, please look", [1]),
        ("please look, @imke", [1]),
        ("(@imke)", [1]),
        ("@Oona knows", []),  # two have that first name
        ("@Oona Brack and @oona   featherby and @Oona Brack again", [3, 2]),
        ("imke@cobble.example and x@imke", []),
        ("@imkes list", []),
        ("@jean-luc: done", [4]),
        ("@øyvind å", [5]),
        ("Imke", []),
        ("@@imke", []),
        ("", []),
    ],
)
def test_who_is_mentioned(text: str, called: list[int]) -> None:
    assert mentioned(text, PEOPLE) == called


def test_nobody_can_be_mentioned_where_nobody_is() -> None:
    assert mentioned("@imke", {}) == []
    assert mentioned("@ ", {1: " "}) == []


@given(st.text(max_size=80), st.sampled_from(sorted(PEOPLE)), st.text(max_size=80))
def test_a_full_name_is_found_in_any_text(before: str, member: int, after: str) -> None:
    assert member in mentioned(f"{before} @{PEOPLE[member]} {after}", PEOPLE)


def test_the_daily_mail_goes_out_at_the_members_own_hour() -> None:
    assert mail_due(MailTime.DAILY, NOON, "UTC", 13) == datetime(2026, 12, 1, 13, tzinfo=UTC)
    assert mail_due(MailTime.DAILY, NOON, "UTC", 12) == datetime(2026, 12, 2, 12, tzinfo=UTC)
    assert mail_due(MailTime.DAILY, NOON, "Asia/Kolkata", 7) == datetime(2026, 12, 2, 1, 30, tzinfo=UTC)


@given(
    st.datetimes(datetime(2020, 1, 1), datetime(2035, 1, 1)),
    st.sampled_from(["UTC", "Europe/Oslo", "Pacific/Apia"]),
    st.integers(0, 23),
)
def test_the_daily_mail_comes_within_a_day_and_a_turn_of_the_clocks(moment: datetime, zone: str, hour: int) -> None:
    now = moment.replace(tzinfo=UTC)
    due = mail_due(MailTime.DAILY, now, zone, hour)
    assert due is not None and now < due <= now + timedelta(hours=25)


def test_what_is_chosen_stands_beside_the_defaults() -> None:
    times = mail_times({"overdue": "never"})
    assert times == {**DEFAULT_TIMES, MailKind.OVERDUE: MailTime.NEVER}
    assert mail_due(MailTime.NEVER, NOON, "UTC", 7) is None
    assert mail_due(MailTime.AT_ONCE, NOON, "UTC", 7) == NOON


@pytest.mark.parametrize(
    ("due", "soon"),
    [("2026-12-03", False), ("2026-12-04", True), ("2026-12-05", True), ("2026-12-07", True), ("2026-12-08", False)],
)
def test_what_is_due_by_the_next_working_day_is_due_soon(due: str, soon: bool) -> None:
    friday = date(2026, 12, 4)
    assert is_due_soon(date.fromisoformat(due), friday) == soon


def test_a_holiday_is_no_working_day() -> None:
    assert is_due_soon(date(2026, 12, 8), date(2026, 12, 4), [date(2026, 12, 7)])
