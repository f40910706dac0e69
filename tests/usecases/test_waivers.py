"""Waivers hold in the latest run at once: its findings, its figures, the register and the desk; and they say before what they do."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

import pytest
from sqlalchemy import select

from hodcarrier.core.errors import Conflict, InvalidInput, NotFound, Unavailable
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import Change, RunPurpose, SiteKind
from hodcarrier.register.models import Alert, Member, Run
from hodcarrier.usecases import comparisons, members, results, sites, trends, waivers, waiving
from hodcarrier.wire.members import MemberBody
from hodcarrier.wire.waivers import WaiverBody, WaiverChange, WaiverPreviewBody
from tests.usecases.conftest import START, Office
from tests.usecases.test_todos import WEEK, make, shop

LATER = timedelta(days=1)


@pytest.fixture
def imke(office: Office) -> Member:
    body = MemberBody(name="Imke Aldersgate", email="imke@agency.example", role=Role.LEAD, password="long enough words")
    made = members.add_member(office.work, body)
    with office.work.session() as session:
        found = session.get_one(Member, made.id)
        session.expunge(found)
        return found


def preview(office: Office, **scope: str) -> waiving.WaiverEffect:
    return waiving.preview_waivers(office.work, office.site.id, WaiverPreviewBody.model_validate({"waivers": [scope]}))


def add(office: Office, *scopes: dict[str, str], at: timedelta = LATER, **more: object) -> list[int]:
    bodies = [WaiverBody.model_validate({"reason": "Meant so", **scope, **more}) for scope in scopes]
    return [made.id for made in waivers.add_waivers(office.at(START + at), office.site.id, bodies, None)]


def health(office: Office, run: str) -> float | None:
    with office.work.reading() as session:
        return session.get_one(Run, run).health


def print_of(office: Office, run: str, check: str) -> str:
    with office.work.open_run(run) as opened:
        return str(opened.rows("SELECT hex(fingerprint) FROM finding WHERE check_id = ? ORDER BY id", check)[0][0]).lower()


def alerts_of(office: Office) -> list[str]:
    with office.work.reading() as session:
        return list(session.scalars(select(Alert.check_id)))


SCOPES = [{}, {"pattern": "https://shop.example/1"}, {"pattern": "/1"}, {"fingerprint": ""}]


@pytest.mark.parametrize("scope", SCOPES, ids=["site", "page", "pattern", "finding"])
def test_what_is_said_before_is_what_comes_of_it(office: Office, scope: dict[str, str]) -> None:
    office.audit(START, shop(0))
    run = office.audit(START + WEEK, shop(2))
    if "fingerprint" in scope:
        scope = {"fingerprint": print_of(office, run, "link-broken")}
    said, before = preview(office, check="link-broken", **scope), health(office, run)
    assert said.findings == (2 if not scope else 1) and said.subjects == said.findings
    assert health(office, run) == said.health_before == before, "nothing is changed by asking"
    add(office, {"check": "link-broken", **scope}, at=WEEK)
    after = health(office, run)
    assert after == said.health_after and after is not None and before is not None and after > before
    assert f"Health rises {after - before:.1f} points to {after:.1f}." in said.sentence
    rows = {row.id: row for row in results.list_checks(office.work, run)}
    assert (rows["link-broken"].findings, rows["link-broken"].waived) == (2 - said.findings, said.findings)


def test_everything_that_tells_of_the_run_follows(office: Office, imke: Member) -> None:
    first = office.audit(START, shop(0))
    run = office.audit(START + WEEK, shop(2))
    work = office.at(START + WEEK + LATER)
    assert "link-broken" in alerts_of(office)
    (number,) = add(office, {"check": "link-broken"}, at=WEEK + LATER)
    after = health(office, run)
    assert sites.get_site(work, office.site.id).last_run.health == after  # type: ignore[union-attr]
    assert trends.get_trend(work, office.site.id).points[-1].value == after
    found = comparisons.compare_runs(work, first, run)
    assert found.head_health == after and found.counts.get(Change.WAIVED) == 2 and found.reconciles
    assert "link-broken" not in alerts_of(office)
    with work.reading() as session:
        kept = session.get_one(Run, run)
        assert kept.changes is not None and kept.changes.counts == found.counts and kept.changes.events == found.events
    waivers.remove_waivers(work, [number], imke)
    assert health(office, run) != after
    assert comparisons.compare_runs(work, first, run).counts.get(Change.WAIVED) is None


def test_older_runs_keep_their_figures(office: Office) -> None:
    first, second = office.audit(START, shop(2)), office.audit(START + WEEK, shop(2))
    before = health(office, first)
    add(office, {"check": "link-broken"}, at=WEEK)
    assert health(office, first) == before != health(office, second)


def test_all_or_none(office: Office) -> None:
    run = office.audit(START, shop(2))
    before = health(office, run)
    with pytest.raises(InvalidInput, match="matches none"):
        add(office, {"check": "link-broken"}, {"check": "link-broken", "pattern": "/nowhere"})
    assert waivers.list_waivers(office.work, office.site.id) == [] and health(office, run) == before
    made = add(office, {"check": "link-broken"}, {"check": "text-thin"})
    with pytest.raises(Conflict, match="already"):
        add(office, {"check": "desc-missing"}, {"check": "text-thin"})
    assert [w.id for w in waivers.list_waivers(office.work, office.site.id)] == made


def test_several_end_together(office: Office, imke: Member) -> None:
    run = office.audit(START, shop(2))
    before, made = health(office, run), add(office, {"check": "link-broken"}, {"check": "desc-missing"})
    with pytest.raises(NotFound, match="no waiver 99"):
        waivers.remove_waivers(office.work, [made[0], 99], imke)
    assert len(waivers.list_waivers(office.work, office.site.id)) == 2
    waivers.remove_waivers(office.work, made, imke)
    assert waivers.list_waivers(office.work, office.site.id) == [] and health(office, run) == before


def test_the_list_says_what_matches_nothing_and_what_ends_soon(office: Office, imke: Member) -> None:
    office.audit(START, shop(2))
    add(office, {"check": "link-broken"}, end=(START + timedelta(days=10)).date())
    add(office, {"check": "desc-missing"}, end=(START + timedelta(days=90)).date())
    assert [w.covers for w in waivers.list_waivers(office.at(START + LATER), office.site.id)] == [2, 3]
    office.audit(START + WEEK, shop(0))
    rows = waivers.list_waivers(office.at(START + WEEK), office.site.id)
    assert [(w.covers, w.ends_soon) for w in rows] == [(0, True), (3, False)]
    changed = waivers.change_waiver(office.at(START + WEEK), rows[0].id, WaiverChange(end=None, reason="For good"), imke)
    assert (changed.end, changed.reason, changed.ends_soon) == (None, "For good", False)
    with pytest.raises(InvalidInput, match="in the past"):
        waivers.change_waiver(office.at(START + WEEK), rows[0].id, WaiverChange(end=START.date()), imke)
    assert not waivers.list_waivers(office.at(START + 4 * WEEK), office.site.id)[1].ends_soon
    past = waivers.list_waivers(office.at(START + timedelta(days=91)), office.site.id)[1]
    assert (past.in_force, past.ends_soon) == (False, False), "what has ended does not end soon"


def test_without_a_run_it_holds_from_the_next(office: Office) -> None:
    assert "next run" in preview(office, check="link-broken").sentence
    made = waivers.add_waiver(office.work, office.site.id, WaiverBody(check="link-broken", reason="Meant so"), None)
    assert made.note == "" and waivers.list_waivers(office.work, office.site.id)[0].covers is None
    run = office.audit(START, shop(2))
    assert {row.id: row.waived for row in results.list_checks(office.work, run)}["link-broken"] == 2


def test_benchmark_runs_count_no_waivers(office: Office) -> None:
    run = office.audit(START, shop(2))
    before = health(office, run)
    with office.work.session() as session:
        kept = session.get_one(Run, run)
        kept.purpose, kept.site.kind = RunPurpose.BENCHMARK, SiteKind.COMPETITOR
    assert "count no waivers" in preview(office, check="link-broken").sentence
    add(office, {"check": "link-broken"})
    assert health(office, run) == before
    with office.work.open_run(run) as opened:
        assert opened.rows("SELECT count(*) FROM finding WHERE waived = 1") == [(0,)]


def test_what_covers_nothing_says_so(office: Office) -> None:
    office.audit(START, shop(0))
    said = preview(office, check="link-broken")
    assert (said.findings, said.sentence) == (0, "It covers no open finding of the latest run.")
    assert said.health_after == said.health_before


def test_to_dos_with_those_findings_are_named(office: Office) -> None:
    office.audit(START, shop(2))
    todo = make(office, 0)
    assert [ref.id for ref in preview(office, check="link-broken").todos] == [todo]


def test_a_run_that_cannot_be_written_anew_is_told_and_the_waiver_kept(office: Office) -> None:
    run = office.audit(START, shop(2))
    before = health(office, run)

    def full(*_: object) -> bool:
        raise Unavailable("The disk is full.", "Make room.")

    work = replace(office.work, revise=full)
    made = waivers.add_waiver(work, office.site.id, WaiverBody(check="link-broken", reason="Meant so"), None)
    assert made.note == "The disk is full. Make room." and made.in_force and health(office, run) == before
    again = office.audit(START + WEEK, shop(2))
    assert {row.id: row.waived for row in results.list_checks(office.work, again)}["link-broken"] == 2


def test_a_large_run_is_written_anew_in_a_process_of_its_own(office: Office, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("hodcarrier.audit.reviser.SMALL_BYTES", 0)
    run = office.audit(START, shop(2))
    before, (number,) = health(office, run), add(office, {"check": "link-broken"})
    after = health(office, run)
    assert after is not None and before is not None and after > before
    add(office, {"check": "link-redirects"})
    assert health(office, run) == after and number
    part = office.work.store.whole_path(run).with_name(f"{run}.revised.part")
    assert not part.exists()
    office.work.store.whole_path(run).write_bytes(b"broken")
    with pytest.raises(Unavailable, match="could not be applied"):
        office.work.revise(run, [])
    assert not part.exists()
