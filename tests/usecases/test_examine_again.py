"""Examining again: what a run has fetched is judged anew, beside the result that there is."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from typing import Any

import pytest

from hodcarrier.audit.channel import LocalJobChannel
from hodcarrier.audit.worker import EXIT_DONE, do_run
from hodcarrier.core.catalogue import doc, moved, page
from hodcarrier.core.errors import Conflict, HodcarrierError, InvalidPlan, NotFound
from hodcarrier.core.plan import SeverityChange
from hodcarrier.core.states import CheckOutcome, RunPurpose, RunState, Severity
from hodcarrier.register.models import Member, Run
from hodcarrier.usecases import (
    comparisons,
    finishing,
    plans,
    profiles,
    re_examinations,
    results,
    runs,
    sites,
    todo_lists,
    todos,
    waivers,
)
from hodcarrier.wire.profiles import ProfileBody
from hodcarrier.wire.runs import ExamineBody, RunOut
from hodcarrier.wire.todos import TodoBody
from hodcarrier.wire.waivers import WaiverBody
from tests.usecases.conftest import START, Office

NOBODY = Member(id=None, name="")
LATER = START + timedelta(days=3)
LINKS = "".join(f"<a href=/{n}>Page {n} of the guide</a>" for n in range(4))
SITE = (
    page(doc(LINKS + "<img src=/a.png><p>" + "strong rope " * 40, head="<title>Ropes</title>")),
    page(doc("<p>" + "thin line " * 20, head="<title>Lines</title>"), "/1"),
    page(doc(head="<title>Lines</title>"), "/2", status=404),
    moved("/3", "/1"),
)
FACTS = ("meta", "address", "answer", "page", "mark", "page_mark", "page_fragment", "file_fact", "site_file", "probe", "listed")
RESULTS = ("inventory", "inlink", "check_state", "cause", "finding", "unverified", "earlier", "once_indexable")


def again(office: Office, run_id: str, **body: Any) -> RunOut:
    work = office.at(LATER)
    asked = re_examinations.examine_again(work, run_id, ExamineBody(**body), NOBODY)
    assert runs.claim_run(work, "the test") == asked.id
    assert do_run(LocalJobChannel(work, asked.id, "the test"), asked.id, lambda: False) == EXIT_DONE
    finishing.finish_run(work, asked.id)
    return runs.get_run(work, asked.id)


def stored(office: Office, run_id: str, tables: tuple[str, ...]) -> dict[str, list[Any]]:
    with office.work.open_run(run_id) as opened:
        return {table: sorted(opened.rows(f"SELECT * FROM {table}"), key=repr) for table in tables}


def test_the_same_settings_give_the_same_result(office: Office) -> None:
    office.audit(START - timedelta(days=7), SITE[:2])
    waivers.add_waiver(
        office.work, office.site.id, WaiverBody(check="text-thin", pattern="/1", reason="Short on purpose"), NOBODY
    )
    source = office.audit(START, SITE)
    found = again(office, source)
    assert stored(office, found.id, (*FACTS[1:], *RESULTS)) == stored(office, source, (*FACTS[1:], *RESULTS))
    first = runs.get_run(office.work, source)
    assert first.summary is not None and found.summary is not None
    assert replace(found.summary, notices=first.summary.notices) == first.summary
    assert found.summary.notices[0] == "Re-examined without a new crawl: these are results for the crawl of Tue 03 Nov 2026."
    assert (found.state, found.purpose, found.source_id, found.health) == (
        RunState.DONE,
        RunPurpose.RE_EXAMINATION,
        source,
        first.health,
    )
    assert found.source_at == START and found.requested_at == LATER
    assert found.health_change == 0 and found.changes is not None
    assert set(found.changes.counts) <= {"still-there", "waived"}


def test_other_settings_give_another_result_beside_the_old_one(office: Office) -> None:
    source = office.audit(START, SITE)
    before = stored(office, source, (*FACTS, *RESULTS))
    body = ProfileBody(
        name="Before launch",
        checks_off=["title-short"],
        severities={"text-thin": SeverityChange(Severity.HIGH, "Texts come first.")},
    )
    profiles.add_profile(office.work, body, None)
    found = again(office, source, profile="before launch", values={"thresholds": {"words_min": 10}})
    thin = results.get_check(office.work, found.id, "text-thin")
    assert (thin.severity, thin.outcome, thin.limits["words_min"].value) == (Severity.HIGH, CheckOutcome.PASSED, 10)
    assert results.get_check(office.work, found.id, "title-short").outcome == CheckOutcome.OFF
    assert found.health is not None and found.health_change is not None and found.health_change > 0
    assert found.changes is not None and found.changes.counts.get("fixed", 0) == 0, "nothing was fixed by judging otherwise"
    settings = {s.name for s in found.changes.settings} - {"rate_per_s"}  # the test crawls faster than its plan says
    assert settings == {"profile", "checks_off", "severities", "thresholds"}
    assert stored(office, source, (*FACTS, *RESULTS)) == before
    compared = comparisons.compare_runs(office.work, source, found.id)
    assert {c.change for c in compared.findings if c.check == "text-thin"} == {"check-changed"}
    assert {c.change for c in compared.findings if c.check == "title-short"} == {"unverified"}


def test_it_stands_beside_the_audits_of_the_site(office: Office) -> None:
    source = office.audit(START, SITE)
    todo = todos.add_todo(office.work, TodoBody(site_id=office.site.id, check="text-thin"), NOBODY)
    plans.change_plan(office.work, office.site.id, {"thresholds": {"words_min": 10}}, None, NOBODY)
    found = again(office, source)
    assert found.plan is not None and found.plan.thresholds == {"words_min": 10}, "by the site's own settings when none are named"
    site = sites.get_site(office.work, office.site.id)
    assert site.last_run is not None and site.last_run.id == source and site.runs == 1 and site.running is None
    assert todo_lists.get_todo(office.work, todo.id).state == "open", "to-dos wait for an audit"
    after = office.audit(LATER, SITE)
    assert runs.get_run(office.work, after).base_id == source
    listed = runs.list_runs(office.work, office.site.id, RunPurpose.RE_EXAMINATION).items
    assert [(run.id, run.source_id) for run in listed] == [(found.id, source)]


def test_one_that_broke_off_begins_again(office: Office) -> None:
    source = office.audit(START, SITE)
    asked = re_examinations.examine_again(office.work, source, ExamineBody(), NOBODY)
    assert runs.claim_run(office.work, "the test") == asked.id
    job = finishing.begin_run(office.work, asked.id)
    office.work.store.begin_again(asked.id, source, job.plan).close()
    assert do_run(LocalJobChannel(office.work, asked.id, "the test"), asked.id, lambda: False) == EXIT_DONE
    finishing.finish_run(office.work, asked.id)
    assert stored(office, asked.id, RESULTS) == stored(office, source, RESULTS)


def test_of_a_re_examination_the_run_behind_it_is_taken(office: Office) -> None:
    office.audit(START - timedelta(days=7), SITE[:2])
    source = office.audit(START, SITE)
    stricter = again(office, source, values={"thresholds": {"words_min": 900}})
    usual = again(office, stricter.id, values={"thresholds": {}})
    assert usual.source_id == usual.base_id == source
    assert stored(office, usual.id, RESULTS) == stored(office, source, RESULTS)


def test_the_history_of_a_check_has_it_in_place_of_the_run_that_it_judges(office: Office) -> None:
    first = office.audit(START - timedelta(days=7), SITE)
    source = office.audit(START, SITE)
    found = again(office, source, values={"thresholds": {"words_min": 10}})
    history = results.get_check(office.work, found.id, "text-thin").history
    thin = results.get_check(office.work, first, "text-thin").findings
    assert thin > 0 and [count for _, count in history] == [thin, 0]


@pytest.mark.parametrize(
    ("body", "error", "words"),
    [
        ({"profile": "Shop"}, NotFound, "There is no profile called “Shop”"),
        ({"values": {"rate_per_s": 2}}, InvalidPlan, "rate_per_s cannot be changed for a re-examination"),
        ({"values": {"thresholds": {"words_min": -2}}}, InvalidPlan, "The limit words_min is -2"),
        ({"values": {"checks_off": ["nothing"]}}, NotFound, "No check is called “nothing”"),
    ],
)
def test_settings_that_cannot_judge(office: Office, body: dict[str, Any], error: type[HodcarrierError], words: str) -> None:
    source = office.audit(START, SITE)
    with pytest.raises(error, match=words):
        re_examinations.examine_again(office.work, source, ExamineBody(**body), NOBODY)
    assert runs.list_runs(office.work).total == 1


def test_a_run_without_results_cannot_be_judged_anew(office: Office) -> None:
    waiting = runs.queue_run(office.work, office.site.id).id
    with pytest.raises(Conflict, match="has no results yet"):
        re_examinations.examine_again(office.work, waiting, ExamineBody(), NOBODY)


def test_files_of_an_earlier_release_lack_facts(office: Office) -> None:
    source = office.audit(START, SITE)
    import sqlite3

    with sqlite3.connect(office.work.store.whole_path(source)) as db:
        db.execute("PRAGMA user_version=5")
    with pytest.raises(Conflict, match="written by an earlier release"):
        re_examinations.examine_again(office.work, source, ExamineBody(), NOBODY)


def test_one_at_a_time_for_a_site(office: Office) -> None:
    source = office.audit(START, SITE)
    re_examinations.examine_again(office.work, source, ExamineBody(), NOBODY)
    with pytest.raises(Conflict, match=r"shop\.example is being examined already"):
        re_examinations.examine_again(office.work, source, ExamineBody(), NOBODY)


def test_a_source_that_went_away_fails_it_in_words(office: Office) -> None:
    source = office.audit(START, SITE)
    asked = re_examinations.examine_again(office.work, source, ExamineBody(), NOBODY)
    assert runs.claim_run(office.work, "the test") == asked.id
    office.work.store.remove(source)
    do_run(LocalJobChannel(office.work, asked.id, "the test"), asked.id, lambda: False)
    with office.work.reading() as session:
        run = session.get_one(Run, asked.id)
        assert run.state == RunState.FAILED and run.reason.startswith(f"The file of run {source} is not there.")
