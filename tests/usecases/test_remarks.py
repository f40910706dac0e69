"""What the service notes on a site's timeline by itself."""

from __future__ import annotations

from datetime import timedelta

import pytest

from hodcarrier.core.catalogue import Sample
from hodcarrier.core.states import RemarkOrigin
from hodcarrier.core.summary import RunChanges, SettingChange
from hodcarrier.register.models import Run
from hodcarrier.usecases import finishing, remarks, runs
from hodcarrier.wire.remarks import RemarkBody
from tests.usecases.conftest import START, Office
from tests.usecases.test_todos import shop

WEEK = timedelta(days=7)


def noted(office: Office) -> list[tuple[RemarkOrigin, str]]:
    return [(r.origin, r.text) for r in remarks.list_remarks(office.work, office.site.id)]


def robots(rules: str) -> Sample:
    return Sample("/robots.txt", f"User-agent: *\n{rules}\n", headers=(("content-type", "text/plain"),))


def test_a_run_like_the_one_before_is_noted_nowhere(office: Office) -> None:
    office.audit(START, shop(2))
    office.audit(START + WEEK, shop(1))
    assert noted(office) == []


def test_a_changed_plan_is_noted_on_the_day_of_the_first_run_with_it(office: Office) -> None:
    office.audit(START, shop(1))
    run = office.audit(START + WEEK, shop(1), {"pages_max": 40})
    found = remarks.list_remarks(office.work, office.site.id)
    assert [(r.origin, r.run_id, r.day, r.author) for r in found] == [(RemarkOrigin.PLAN, run, (START + WEEK).date(), "")]
    assert found[0].text.startswith("Plan changed: Page limit ") and found[0].text.endswith("→ 40")


def test_robots_txt_that_changed_says_how_many_pages_it_blocks(office: Office) -> None:
    office.audit(START, [*shop(1), robots("Disallow:")])
    office.audit(START + WEEK, [*shop(1), robots("Disallow: /gone")])
    office.audit(START + 2 * WEEK, [*shop(1), robots("Disallow: /")])
    texts = [text for origin, text in noted(office) if origin == RemarkOrigin.ROBOTS]
    assert texts[0] == "robots.txt changed" and texts[1].startswith("robots.txt changed: ") and texts[1].endswith("newly blocked")


def test_a_failed_run_is_noted_with_its_reason_once(office: Office) -> None:
    run_id = runs.queue_run(office.work, office.site.id).id
    assert runs.claim_run(office.work, "the test") == run_id
    finishing.note_failure(office.work, run_id, "the test", "the site did not answer")
    finishing.note_failure(office.work, run_id, "the test", "the site did not answer")
    assert noted(office) == [(RemarkOrigin.FAILED, "The audit failed: the site did not answer")]


@pytest.mark.parametrize(
    ("settings", "text"),
    [
        ([("catalogue", "3", "4")], "Catalogue changed from 3 to 4"),
        (
            [("catalogue", "3", "4"), ("title-long", "revision 1", "revision 2")],
            "Catalogue changed from 3 to 4: 1 check new, revised or retired",
        ),
        (
            [("title-long", "revision 1", "retired"), ("desc-long", "revision 1", "retired")],
            "Catalogue changed: 2 checks new, revised or retired",
        ),
    ],
)
def test_a_catalogue_that_changed_is_told_from_a_plan(office: Office, settings: list[tuple[str, str, str]], text: str) -> None:
    office.audit(START, shop(1))
    run_id = office.audit(START + WEEK, shop(1))
    with office.work.session() as session:
        run = session.get_one(Run, run_id)
        run.changes = RunChanges(counts={}, by_check=[], settings=[SettingChange(*row) for row in settings])
        remarks.remark_on_run(session, run)
    assert noted(office) == [(RemarkOrigin.CATALOGUE, text)]


def test_many_settings_are_told_briefly(office: Office) -> None:
    office.audit(START, shop(1))
    office.audit(START + WEEK, shop(1), {"pages_max": 40, "depth_max": 3, "rate_per_s": 1, "parallel": 1, "obey_nofollow": False})
    (text,) = [text for _, text in noted(office)]
    assert text.count("→") == remarks.SETTINGS_TOLD and text.endswith(" more")


def test_members_may_take_a_remark_of_the_service_away(office: Office) -> None:
    office.audit(START, shop(1))
    office.audit(START + WEEK, shop(1), {"pages_max": 40})
    own = remarks.add_remark(office.work, office.site.id, RemarkBody(day=START.date(), text="New theme"), None)
    for remark in remarks.list_remarks(office.work, office.site.id):
        if remark.id != own.id:
            remarks.remove_remark(office.work, remark.id)
    assert noted(office) == [(RemarkOrigin.MEMBER, "New theme")]
