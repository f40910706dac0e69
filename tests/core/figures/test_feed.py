"""The protocol of figure feeds, and what registries say."""

from __future__ import annotations

import json
from datetime import date, timedelta
from itertools import pairwise

import jsonschema_rs
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.figures.domains import DomainFacts, candidates, domain_sentence, ends_soon, read_domain
from hodcarrier.core.figures.feed import (
    STALE_DAYS,
    Manifest,
    Offer,
    Week,
    check_site,
    is_stale,
    read_manifest,
    read_page,
    read_rows,
    said,
    state_of,
    weeks_to_ask,
)
from hodcarrier.core.figures.feed_schema import feed_schema
from hodcarrier.core.states import FeedState, FigureKind
from hodcarrier.demo.registry import DOMAINS, described

MONDAY = date(2026, 11, 23)
WEEK = Week(MONDAY)
DAYS = st.dates(date(2025, 1, 1), date(2027, 1, 1))


def rows_of(kind: FigureKind, *rows: dict[str, object]) -> list[tuple[object, ...]]:
    return [tuple(row) for row in read_rows(kind, rows, "https://shop.example/", WEEK)]


def test_a_manifest_is_read() -> None:
    text = json.dumps({
        "site": "Shop.example",
        "kinds": {"search": {"first": "2026-01-01", "last": "2026-11-29"}, "moods": {}, "site": {"first": "2026-11-01", "last": "2026-11-01", "settle_days": 0}},
        "more": 1,
    })  # fmt: skip
    found = read_manifest(text)
    assert found == Manifest(
        "shop.example",
        {
            FigureKind.SEARCH: Offer(date(2026, 1, 1), date(2026, 11, 29), 3),
            FigureKind.SITE: Offer(date(2026, 11, 1), date(2026, 11, 1), 0),
        },
    )
    jsonschema_rs.validate({**feed_schema(), "$ref": "#/$defs/manifest"}, json.loads(text))


@pytest.mark.parametrize(
    "text, words",
    [
        ("<html>", "no JSON"),
        ("[" * 100_000, "no JSON"),
        ("[]", "no object"),
        ("{}", "names no site"),
        ('{"site": "a.example", "kinds": []}', "names no site"),
        ('{"site": "a.example", "kinds": {"search": null}}', "first and last day of search"),
        ('{"site": "a.example", "kinds": {"search": {"first": "2026-11-02", "last": "2026-11-01"}}}', "first and last day"),
        ('{"site": "a.example", "kinds": {"search": {"first": "2026-11-02T00:00", "last": "2026-11-03"}}}', "first and last day"),
        ('{"site": "a.example", "kinds": {"search": {"first": "2026-11-02", "last": "2026-11-02", "settle_days": 99}}}', "settle_days"),
        ('{"site": "a.example", "kinds": {"search": {"first": "2026-11-02", "last": "2026-11-02", "settle_days": true}}}', "settle_days"),
    ],
)  # fmt: skip
def test_what_is_no_manifest_is_refused(text: str, words: str) -> None:
    with pytest.raises(InvalidInput, match=words):
        read_manifest(text)


def test_a_feed_of_another_site_is_refused() -> None:
    check_site(Manifest("www.shop.example"), "shop.example")
    with pytest.raises(InvalidInput, match=r"figures of other\.example, not of shop\.example"):
        check_site(Manifest("other.example"), "shop.example")


def test_a_page_is_read_up_to_its_closing_line() -> None:
    page = read_page('{"day": "2026-11-23"}\n\n{"day": "2026-11-24"}\n{"rows": 2, "after": "b"}\n')
    assert (len(page.rows), page.after) == (2, "b")
    assert read_page('{"rows": 0, "after": null}').after == ""


@pytest.mark.parametrize(
    "text, words",
    [
        ("", "cut off"),
        ('{"day": "2026-11-23"}\n', "cut off"),
        ('{"day": "2026-11-23"}\n{"rows": 2, "after": null}', "1 rows, but says 2"),
        ('{"rows": 0, "after": 7}', "neither a text nor null"),
        ('{"rows": 0, "after": ""}', "neither a text nor null"),
        ('[1]\n{"rows": 1, "after": null}', "Line 1 is no object"),
        ('{"day"\n{"rows": 1, "after": null}', "Line 1 is no JSON"),
    ],
)
def test_a_page_that_is_cut_off_is_refused(text: str, words: str) -> None:
    with pytest.raises(InvalidInput, match=words):
        read_page(text)


@given(first=DAYS, length=st.integers(0, 500), settle=st.integers(0, 31), back=st.integers(-3, 600))
def test_weeks_that_are_asked_for_cover_what_is_missing_and_nothing_else(
    first: date, length: int, settle: int, back: int
) -> None:
    offer = Offer(first, first + timedelta(days=length), settle)
    until = None if back < 0 else offer.last - timedelta(days=back)
    if until is not None and until < first:
        until = None
    weeks = weeks_to_ask(offer, until)
    assert all(week.first.weekday() == 0 for week in weeks)
    assert all(later.first - earlier.last == timedelta(days=1) for earlier, later in pairwise(weeks))
    needed = offer.first if until is None else max(offer.first, until - timedelta(days=settle))
    assert weeks[0].first <= needed <= weeks[0].last
    assert weeks[-1].first <= offer.last <= weeks[-1].last


def test_a_feed_is_stale_when_its_figures_should_have_come() -> None:
    offer = Offer(MONDAY, MONDAY, settle_days=2)
    assert not is_stale(offer, MONDAY + timedelta(days=2 + STALE_DAYS))
    assert is_stale(offer, MONDAY + timedelta(days=3 + STALE_DAYS))


def test_how_a_feed_fares_is_said() -> None:
    offer, today = Offer(MONDAY, MONDAY), MONDAY + timedelta(days=1)
    assert state_of([offer], 3, today, active=False, asked=True) == FeedState.OFF
    assert state_of([offer], 1, today, active=True, asked=True) == FeedState.FAILING
    assert state_of([], 0, today, active=True, asked=False) == FeedState.WAITING
    assert state_of([offer], 0, today, active=True, asked=True) == FeedState.CURRENT
    later = today + timedelta(days=20)
    assert state_of([offer], 0, later, active=True, asked=True) == FeedState.STALE
    assert said(FeedState.CURRENT, MONDAY, today, "") == "Figures up to 23 November 2026, yesterday."
    assert said(FeedState.STALE, MONDAY, later, "") == "Nothing newer than 23 November 2026, 21 days ago."
    assert said(FeedState.CURRENT, None, today, "") == "It has no figures of the kinds that are wanted."
    assert said(FeedState.FAILING, MONDAY, today, "It answered 503.") == "It answered 503."


def test_rows_come_out_as_they_are_kept() -> None:
    [row] = rows_of(
        FigureKind.SEARCH,
        {"day": "2026-11-24", "page": "/rope", "query": "rope", "clicks": 3, "impressions": 40, "position": 4.5, "mood": "good"},
    )
    assert row == (date(2026, 11, 24), "https://shop.example/rope", "rope", None, None, 3, 40, 4.5)
    [row] = rows_of(FigureKind.POSITIONS, {"day": "2026-11-24", "keyword": "rope", "rank": None})
    assert row[5] is None
    [row] = rows_of(
        FigureKind.LINKS,
        {"source_page": "https://a.example/", "page": "/", "first_seen": "2020-01-01", "last_seen": "2026-11-24"},
    )
    assert row[4:6] == (date(2020, 1, 1), date(2026, 11, 24))  # fmt: skip


@pytest.mark.parametrize(
    "row, words",
    [
        ({"day": "2026-11-24", "clicks": 1}, "Row 1: Impressions is empty"),
        ({"day": "24.11.2026", "clicks": 1, "impressions": 2}, "no day"),
        ({"day": "2026-11-30", "clicks": 1, "impressions": 2}, "of no day from 2026-11-23 to 2026-11-29"),
        ({"day": "2026-11-24", "clicks": -1, "impressions": 2}, "no count"),
        ({"day": "2026-11-24", "clicks": True, "impressions": 2}, "neither a text nor a number"),
        ({"day": "2026-11-24", "clicks": 1, "impressions": 2, "page": {"url": "/"}}, "Page: .* neither a text nor a number"),
        ({"day": "2026-11-24", "clicks": 1, "impressions": 2, "page": "mailto:a@b.example"}, "no web address"),
    ],
)
def test_rows_that_cannot_be_read_are_refused(row: dict[str, object], words: str) -> None:
    with pytest.raises(InvalidInput, match=words):
        rows_of(FigureKind.SEARCH, row)


def test_the_schema_says_what_a_row_needs() -> None:
    rows = jsonschema_rs.validator_for({**feed_schema(), "$ref": "#/$defs/search"})
    assert rows.is_valid({"day": "2026-11-24", "clicks": 1, "impressions": 2, "page": None, "more": 1})
    assert not rows.is_valid({"day": "2026-11-24", "clicks": 1})
    assert not rows.is_valid({"day": "2026-11-24", "clicks": -1, "impressions": 2})
    positions = jsonschema_rs.validator_for({**feed_schema(), "$ref": "#/$defs/positions"})
    assert positions.is_valid({"day": "2026-11-24", "keyword": "rope", "rank": None})
    assert not positions.is_valid({"day": "2026-11-24", "keyword": "rope", "rank": 0})


@pytest.mark.parametrize(
    "host, names",
    [
        ("shop.example", ["shop.example"]),
        ("www.shop.co.example:8443", ["shop.co.example", "co.example"]),
        ("a.b.shop.example.", ["a.b.shop.example", "b.shop.example", "shop.example"]),
        ("localhost", []),
        ("127.0.0.1:80", []),
        ("[::1]", []),
    ],
)
def test_the_longest_name_is_asked_for_first(host: str, names: list[str]) -> None:
    assert candidates(host) == names


def test_a_domain_is_read_from_the_answer_of_a_registry() -> None:
    today = date(2026, 12, 2)
    facts = read_domain(json.dumps(described("ardmoor-seeds.example", today)))
    days = DOMAINS["ardmoor-seeds.example"][2]
    servers = ("ns1.anchor-names.example", "ns2.anchor-names.example")
    ends = today + timedelta(days=days)
    assert facts == DomainFacts("ardmoor-seeds.example", "Anchor Names Ltd", date(2004, 3, 9), ends, servers)
    assert domain_sentence(facts, today) == (
        "ardmoor-seeds.example has been registered since 9 March 2004 through Anchor Names Ltd; the registration ends on "
        "26 December 2026, in 24 days."
    )
    assert ends_soon(ends, today) and not ends_soon(ends, today - timedelta(days=10))


def test_a_registry_that_says_little_is_believed_that_little() -> None:
    facts = read_domain(
        '{"objectClassName": "domain", "ldhName": "a.example", "events": [{}, 7], "entities": [{"roles": ["registrar"], "handle": "9"}]}'
    )
    assert facts == DomainFacts("a.example", "9")  # fmt: skip
    assert domain_sentence(facts, MONDAY) == "a.example is registered through 9."
    assert domain_sentence(DomainFacts("a.example", expires=MONDAY), MONDAY) == (
        "a.example is registered; the registration ends today, 23 November 2026."
    )
    assert "ended on 23 November 2026" in domain_sentence(DomainFacts("a.example", expires=MONDAY), MONDAY + timedelta(days=1))


@pytest.mark.parametrize("text", ["", "[]", '{"objectClassName": "entity"}', '{"objectClassName": "domain", "ldhName": 7}'])
def test_what_describes_no_domain_is_refused(text: str) -> None:
    with pytest.raises(InvalidInput, match="describes no domain"):
        read_domain(text)
