"""A round of a benchmark: what is taken of each run, who stands where, and what keeps a site behind."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from datetime import timedelta

import pytest

from hodcarrier.core.benchmark.measures import BY_ID
from hodcarrier.core.catalogue import Sample, doc, page
from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.states import Lead, RunPurpose, Statistic
from hodcarrier.core.summary import ROUND, SUMMARY
from hodcarrier.core.words import as_shown
from hodcarrier.register.models import Member
from hodcarrier.report.benchmark_book import check_table, measure_table, missing_table
from hodcarrier.usecases import benchmark_setup, benchmarks, clients, inventory, runs, sites, week
from hodcarrier.wire.benchmarks import BenchmarkBody, BenchmarkChange, BenchmarkOut, RoundScheduleBody
from hodcarrier.wire.clients import ClientChange
from hodcarrier.wire.sites import SiteBody
from tests.usecases.conftest import START, Office

NOBODY = Member(id=None, name="")
OTHER = "https://other.example"


def shop(origin: str, pages: int, described: int, words: int = 250) -> list[Sample]:
    """A front page that links to so many pages, the first of them with a description."""
    links = "".join(f'<a href="/{n}">Rope number {n} of the shed</a>' for n in range(pages))
    made = [page(doc(f"<h1>Ropes</h1>{links}", head="<title>Ropes</title><meta name=description content=Ropes>"), f"{origin}/")]
    for n in range(pages):
        head = f"<title>Rope {n}</title>" + (f"<meta name=description content='Rope {n}'>" if n < described else "")
        made.append(page(doc(f"<h1>Rope {n}</h1><p>{f'rope{n} ' * words}</p>", head=head), f"{origin}/{n}"))
    return made


@pytest.fixture
def made(office: Office) -> int:
    body = SiteBody(client_id=office.site.client_id, address=f"{OTHER}/", kind="competitor")
    other = sites.add_site(office.work, body, None)
    return benchmark_setup.add_benchmark(
        office.work, BenchmarkBody(name="Ropes", site_id=office.site.id, competitor_ids=[other.id]), None
    ).id


def play(
    office: Office, made: int, own: Sequence[Sample], other: Sequence[Sample], week: int = 0, end: str = "complete"
) -> BenchmarkOut:
    at = START + timedelta(weeks=week)
    benchmarks.start_round(office.at(at), made, None)
    waiting = sorted(runs.list_runs(office.work, purpose=RunPurpose.BENCHMARK, limit=2).items, key=lambda run: run.site_id)
    for run, answers in zip(waiting, (own, other), strict=True):
        office.bring_to_end(at, run.id, answers, end)
    return benchmarks.get_benchmark(office.work, made)


def test_a_round_says_who_stands_where_and_lists_what_keeps_us_behind(office: Office, made: int) -> None:
    found = play(office, made, shop("", 8, 3, words=120), shop(OTHER, 6, 6))
    rows = {row.id: row for row in found.rows}
    described = rows["description_ratio"]
    assert (described.values, described.ranks, described.lead) == ([44.4, 100.0], [2, 1], Lead.BEHIND)
    assert described.intervals == [None, None] and described.sizes == [9, 7] and found.sampled == [False, False]
    assert rows["words_median"].lead == Lead.BEHIND and rows["https_ratio"].lead == Lead.LEVEL
    for row in found.rows:
        if row.behind:
            where = inventory.filter_of(row.of, row.behind)
            listed = inventory.list_inventory(office.work, found.runs[0], row.of, where, "", "", 100, 0).total
            assert listed > 0, row.id
            if BY_ID[row.id].statistic == Statistic.SHARE:
                value, size = row.values[0], row.sizes[0]
                assert value is not None and size is not None
                missed = 100 - value if row.high_is_good else value
                assert listed == round(missed * size / 100), row.id


def test_what_is_taken_agrees_with_what_the_run_says(office: Office, made: int) -> None:
    found = play(office, made, shop("", 8, 3), shop(OTHER, 6, 6))
    rows = {row.id: row.values[0] for row in found.rows}
    with office.work.open_run(found.runs[0]) as opened:
        said = asdict(SUMMARY.load(opened.meta("summary")).measures)
    both = {name for name, value in said.items() if name in rows and value is not None}
    assert len(both) >= 10
    for name in both:
        assert rows[name] == as_shown(said[name], BY_ID[name].unit), name


def test_a_part_of_a_site_has_intervals(office: Office, made: int) -> None:
    found = play(office, made, shop("", 8, 3), shop(OTHER, 6, 6), end="pages")
    described = next(row for row in found.rows if row.id == "description_ratio")
    assert found.sampled == [True, True]
    assert not {row.id for row in found.rows} & {"unlinked_ratio", "depth_p90", "title_unique_ratio"}, "a part cannot tell"
    (low, high), _ = described.intervals
    assert low < 44.4 < high and described.lead == Lead.LEVEL, "nine pages and seven are too few to tell"
    shares = next(row for row in found.shares if row.check == "desc-missing")
    assert shares.shares[0] is not None and shares.shares[0][1] < shares.shares[0][0] < shares.shares[0][2]


def test_a_round_as_tables(office: Office, made: int) -> None:
    found = play(office, made, shop("", 8, 3), shop(OTHER, 6, 6), end="pages")
    heads, fields, rows = measure_table(found)
    described = next(row for row in rows if row["measure"] == "Pages with a meta description")
    assert set(described) == set(fields) == set(heads)
    assert (described["shop.example"], described["rank shop.example"], described["lead"]) == (44.4, 1, "level")
    assert described["shop.example low"] < 44.4 < described["shop.example high"]
    _, fields, rows = check_table(found)
    missed = next(row for row in rows if row["check"] == "desc-missing")
    assert set(missed) == set(fields) and 0 < missed["shop.example"] < 100
    _, _, rows = missing_table(found)
    assert [dict(row) for row in rows] == [
        {"kind": m.kind, "name": m.name, "shop.example": m.pages[0], "other.example": m.pages[1]} for m in found.missing
    ]


def test_a_measure_is_followed_from_round_to_round(office: Office, made: int) -> None:
    play(office, made, shop("", 8, 3), shop(OTHER, 6, 6))
    play(office, made, shop("", 8, 8), shop(OTHER, 6, 2), week=1)
    trend = benchmarks.get_benchmark_trend(office.work, made, "description_ratio")
    assert [(each.values, each.ranks) for each in trend] == [([44.4, 100.0], [2, 1]), ([100.0, 42.9], [1, 2])]
    with pytest.raises(InvalidInput, match="no measure"):
        benchmarks.get_benchmark_trend(office.work, made, "charm")


def test_rounds_begin_by_themselves(office: Office, made: int) -> None:
    """On their day, once, also when the service was down on it; never while a site of theirs still runs, nor on a day that the client rules out."""
    kept = benchmark_setup.set_round_schedule(office.work, made, RoundScheduleBody(rule="weekly:WE", at="03:00"), NOBODY)
    due = START.replace(day=4, hour=3, minute=0)
    assert kept.next_due_at == due and "Wednesday" in kept.words
    planned = week.get_week(office.work).runs
    assert [(run.host, run.at, run.benchmark, run.scheduled) for run in planned] == [
        ("other.example", due, True, True),
        ("shop.example", due, True, True),
    ]
    assert benchmark_setup.start_due_rounds(office.at(due - timedelta(minutes=1))) == []
    assert benchmark_setup.start_due_rounds(office.at(due + timedelta(days=15))) == [made], "caught up with once"
    assert benchmark_setup.start_due_rounds(office.at(due + timedelta(days=15))) == []
    assert len(runs.list_runs(office.work, purpose=RunPurpose.BENCHMARK).items) == 2
    # The next one falls due while these still wait: it is left out, and the one after it is planned.
    assert benchmark_setup.start_due_rounds(office.at(due + timedelta(days=21))) == []
    schedule = benchmarks.get_benchmark(office.work, made).schedule
    assert schedule is not None and schedule.next_due_at == due + timedelta(days=28)
    clients.change_client(office.work, office.site.client_id, ClientChange(blackout_days=[schedule.next_due_at.date()]), NOBODY)
    assert benchmark_setup.set_round_schedule(
        office.at(due + timedelta(days=22)), made, RoundScheduleBody(rule="weekly:WE", at="03:00"), NOBODY
    ).next_due_at == due + timedelta(days=35)
    benchmark_setup.remove_round_schedule(office.work, made, NOBODY)
    assert benchmarks.get_benchmark(office.work, made).schedule is None
    with pytest.raises(NotFound, match="no schedule"):
        benchmark_setup.remove_round_schedule(office.work, made, NOBODY)


def test_other_competitors_leave_earlier_rounds_as_they_were(office: Office, made: int) -> None:
    play(office, made, shop("", 8, 3), shop(OTHER, 6, 6))
    third = sites.add_site(
        office.work, SiteBody(client_id=office.site.client_id, address="https://third.example/", kind="competitor"), None
    )
    benchmark_setup.change_benchmark(office.work, made, BenchmarkChange(competitor_ids=[third.id], pages_max=40), NOBODY)
    before = benchmarks.get_benchmark(office.work, made)
    assert (
        before.hosts == ["shop.example", "other.example"] and before.competitors == ["third.example"] and before.pages_max == 40
    )
    found = play(office, made, shop("", 8, 8), shop("https://third.example", 4, 1), week=1)
    assert found.hosts == ["shop.example", "third.example"]
    trend = benchmarks.get_benchmark_trend(office.work, made, "description_ratio")
    assert [each.values for each in trend] == [[44.4, None], [100.0, 40.0]]
    for wrong in ([office.site.id], [third.id, third.id]):
        with pytest.raises(InvalidInput, match="against itself"):
            benchmark_setup.change_benchmark(office.work, made, BenchmarkChange(competitor_ids=wrong), NOBODY)
    benchmarks.start_round(office.work, made, None)
    with pytest.raises(Conflict, match="is running"):
        benchmark_setup.remove_benchmark(office.work, made, NOBODY)
    for run in runs.list_runs(office.work, purpose=RunPurpose.BENCHMARK, limit=2).items:
        runs.stop_run(office.work, run.id, NOBODY)
    benchmark_setup.remove_benchmark(office.work, made, NOBODY)
    assert benchmarks.list_benchmarks(office.work) == []


def test_rounds_of_older_releases_are_read() -> None:
    measures = {"documents": 40, "known": 44, "health": 81.5, "description_ratio": 50.0, "depth_p90": None}
    old = {
        "sites": [
            {"site_id": 1, "host": "a.example", "run_id": "r", "pages": 40, "measures": measures, "failing_pages": {"x": 1}}
        ]
    }
    old["sites"].append({"site_id": 2, "host": "b.example", "run_id": "", "pages": None, "measures": None})
    first, second = ROUND.load({"version": 1, **old}).sites
    assert first.figures is not None and second.figures is None
    assert {name: taken.value for name, taken in first.figures.taken.items()} == {"health": 81.5, "description_ratio": 50.0}
    assert (first.documents, first.known, first.failing_pages) == (40, 44, {"x": 1})
