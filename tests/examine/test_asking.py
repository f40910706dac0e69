"""A check is asked only where it has something to look at, and what it was asked of is counted."""

from __future__ import annotations

import pytest

from hodcarrier.core.catalogue import When, doc, gone, load, moved, page
from hodcarrier.core.catalogue.conditions import OF_ANSWERS, OF_DOCUMENTS
from hodcarrier.core.states import CheckOutcome
from hodcarrier.runfile import results
from tests.sample_site import audit

SITE = (
    page(doc("<a href=/a>a</a><a href=/gone>b</a><a href=/old>c</a><img src=/i.png>")),
    page(doc("<img src=/i.png alt=x>"), "/a"),
    gone("/gone"),
    moved("/old", "/a"),
)


def asked(check: str) -> tuple[str, int, int, int, int]:
    run, _ = audit(SITE)
    found = results.check(run, check)
    return found["outcome"], found["examined"], found["failing"], found["passed"], found["not_applicable"]


@pytest.mark.parametrize(
    ("check", "figures"),
    [
        ("media-alt-missing", (CheckOutcome.FAILING, 2, 1, 1, 2)),  # two documents have images; an error and a redirect have not
        ("media-alt-long", (CheckOutcome.PASSED, 2, 0, 2, 2)),
        ("lang-alt-broken", (CheckOutcome.NOT_APPLICABLE, 0, 0, 0, 4)),
        ("reach-redirect-temporary", (CheckOutcome.PASSED, 1, 0, 1, 3)),
        ("reach-not-found", (CheckOutcome.FAILING, 4, 1, 3, 0)),
        ("copy-text", (CheckOutcome.NOT_APPLICABLE, 0, 0, 0, 2)),
        ("secure-none", (CheckOutcome.PASSED, 1, 0, 1, 0)),
    ],
)
def test_what_a_check_was_asked_of(check: str, figures: tuple[str, int, int, int, int]) -> None:
    assert asked(check) == figures


def test_outcomes_divide_the_checks() -> None:
    run, _ = audit(SITE, {"checks_off": ["title-long"]})
    by_outcome = {outcome: {row["id"] for row in results.checks(run, [outcome])} for outcome in CheckOutcome}
    assert sum(map(len, by_outcome.values())) == len(set().union(*by_outcome.values())) == len(load())
    assert by_outcome[CheckOutcome.OFF] == {"title-long"}
    assert {row["id"] for row in results.checks(run)} == by_outcome[CheckOutcome.FAILING] | by_outcome[CheckOutcome.WAIVED]


def test_every_condition_is_used_and_can_be_decided_where_it_is_used() -> None:
    used = {entry.check.when for entry in load().values()}
    assert used == set(When) == {When.ALWAYS, *OF_ANSWERS, *OF_DOCUMENTS}
    for entry in load().values():
        if entry.check.when in OF_DOCUMENTS:
            assert entry.check.reach in ("document", "indexable"), entry.id
