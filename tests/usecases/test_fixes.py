"""What fixes bring together: exact, whatever each brings alone, and the same as a run in which they are fixed."""

from __future__ import annotations

import pytest

from hodcarrier.core.catalogue import doc, gone, page
from hodcarrier.core.errors import InvalidInput
from hodcarrier.usecases import fixes, results
from hodcarrier.wire.structure import FixesBody
from tests.usecases.conftest import START, Office

SITE = (
    page(doc('<h1>Home</h1><a href="/gone">Gone</a><a href="/a">A</a><img src=/i.png>')),
    page(doc('<a href="/gone">Gone</a><p>short</p>', "<title>Same</title>"), "/a"),
    page(doc('<a href="/lost">Lost</a><p>short</p>', "<title>Same</title>"), "/b"),
    gone("/gone"),
    gone("/lost"),
)


def test_all_that_fails_on_pages_brings_health_to_the_top_of_what_waivers_would(office: Office) -> None:
    run = office.audit(START, SITE)
    rows = results.list_checks(office.work, run)
    found = fixes.plan_fixes(office.work, run, FixesBody(checks=[row.id for row in rows]))
    assert found.health is not None and found.health_after == pytest.approx(100.0)
    assert found.findings == sum(row.findings for row in rows)
    assert found.fixes == sum(row.fixes for row in rows) == sum(found.effort.values())


def test_a_check_alone_brings_its_gain(office: Office) -> None:
    run = office.audit(START, SITE)
    row = max(results.list_checks(office.work, run), key=lambda row: row.gain)
    found = fixes.plan_fixes(office.work, run, FixesBody(checks=[row.id]))
    assert found.health is not None and found.health_after is not None
    assert found.health_after - found.health == pytest.approx(row.gain)
    assert found.singly == pytest.approx(row.gain)


def test_a_cause_of_a_chosen_check_counts_once(office: Office) -> None:
    run = office.audit(START, SITE)
    cause = results.list_causes(office.work, run)[0]
    alone = fixes.plan_fixes(office.work, run, FixesBody(checks=[cause.check]))
    both = fixes.plan_fixes(office.work, run, FixesBody(checks=[cause.check], causes=[cause.id, cause.id]))
    assert both == alone
    one = fixes.plan_fixes(office.work, run, FixesBody(causes=[cause.id]))
    assert (one.findings, one.fixes, one.items[0].text) == (cause.findings, 1, cause.line)


def test_nothing_chosen_changes_nothing(office: Office) -> None:
    found = fixes.plan_fixes(office.work, office.audit(START, SITE), FixesBody())
    assert (found.findings, found.fixes, found.singly) == (0, 0, 0)
    assert found.health == found.health_after


@pytest.mark.parametrize(
    "body", [FixesBody(checks=["no-such-check"]), FixesBody(causes=[99_999]), FixesBody(causes=list(range(501)))]
)
def test_what_the_run_does_not_have_is_refused(office: Office, body: FixesBody) -> None:
    with pytest.raises(InvalidInput):
        fixes.plan_fixes(office.work, office.audit(START, SITE), body)
