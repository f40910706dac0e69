"""The run file: what is written is read, damage is told in words, results are found again."""

from __future__ import annotations

import sqlite3
import threading
from pathlib import Path

import msgspec
import pytest

from hodcarrier.core.catalogue import Sample, doc, gone, moved, page, sitemap, text_file
from hodcarrier.core.errors import DamagedRun, InvalidInput, NotFound
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.page import collect
from hodcarrier.core.facts.values import Link
from hodcarrier.core.plan import plan_values
from hodcarrier.runfile import results, schema
from hodcarrier.runfile.causes import causes as causes_in
from hodcarrier.runfile.packing import link_edges, pack_facts, pack_ids, pack_links, unpack_facts, unpack_ids, unpack_links
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.writer import RunWriter
from tests.listing import listed
from tests.sample_site import NOW, ORIGIN, audit, make_plan

SITE = (
    page(doc('<a href="/a">A</a><a href="/gone">Gone</a><a href="/old">Old</a><img src="/i.png">', "<title>T</title>")),
    page(doc('<a href="/gone">Gone</a>', "<title>T</title>"), "/a"),
    moved("/old", "/a"),
    gone("/gone"),
    sitemap("/", "/a"),
    text_file("/i.png", "x", content_type="image/png"),
)


@pytest.fixture(scope="module")
def run() -> RunFile:
    return audit(SITE)[0]


def save(run: RunFile, path: Path) -> Path:
    with sqlite3.connect(path) as copy:
        run.db.backup(copy)
    copy.close()
    return path


def test_facts_and_links_come_back_as_they_were() -> None:
    read = collect(doc('<nav><a href="/b" rel=nofollow>B</a></nav>').encode(), ORIGIN + "/", "text/html")
    assert read.template.marks == ("nav",), "kept by themselves"
    facts = msgspec.structs.replace(read, template=msgspec.structs.replace(read.template, marks=()))
    ids = {link.url: n for n, link in enumerate(facts.links.all, 1)}
    urls = {n: url for url, n in ids.items()}
    links = unpack_links(pack_links(facts.links.all, ids.__getitem__), urls.__getitem__)
    assert links == facts.links.all
    assert unpack_facts(pack_facts(read), links) == facts


def test_edges_say_which_links_are_followed() -> None:
    links = [
        Link("u", "anchor", "u"),
        Link("u", "anchor", "u", rel=("nofollow",)),
        Link("u", "image", "u"),
        Link("u", "image-link", "u"),
    ]
    targets, codes = link_edges(pack_links(links, lambda _url: 7))
    assert targets == [7, 7, 7, 7]
    assert [code & 1 for code in codes] == [1, 0, 0, 1]
    assert [schema.KINDS[code >> 1] for code in codes] == ["anchor", "anchor", "image", "image-link"]


@pytest.mark.parametrize("ids", [[], [1], [1, 4_000_000_000, 3]])
def test_ids_are_packed(ids: list[int]) -> None:
    assert unpack_ids(pack_ids(ids)) == ids


def test_a_finished_file_opens_read_only(run: RunFile, tmp_path: Path) -> None:
    with RunFile.open(save(run, tmp_path / "run.sqlite")) as opened:
        assert opened.meta("summary")["pages_scored"] == 3
        assert opened.plan == make_plan()
        with pytest.raises(DamagedRun):
            opened.rows("DELETE FROM finding")


def test_missing_file(tmp_path: Path) -> None:
    with pytest.raises(DamagedRun, match="no run file at"):
        RunFile.open(tmp_path / "nothing.sqlite")


def test_something_else(tmp_path: Path) -> None:
    (tmp_path / "x.sqlite").write_text("hello, this is a letter and no database at all")
    with pytest.raises(DamagedRun, match="damaged"):
        RunFile.open(tmp_path / "x.sqlite")


def test_another_database(tmp_path: Path) -> None:
    with sqlite3.connect(tmp_path / "x.sqlite") as db:
        db.execute("CREATE TABLE t (a)")
    db.close()
    with pytest.raises(DamagedRun, match="is not a run file"):
        RunFile.open(tmp_path / "x.sqlite")


def test_cut_file(run: RunFile, tmp_path: Path) -> None:
    path = save(run, tmp_path / "run.sqlite")
    path.write_bytes(path.read_bytes()[:9000])
    with pytest.raises(DamagedRun), RunFile.open(path) as opened:
        results.checks(opened)
        results.findings(opened)


def test_scribbled_file(run: RunFile, tmp_path: Path) -> None:
    path = save(run, tmp_path / "run.sqlite")
    content = bytearray(path.read_bytes())
    content[4096:] = b"\xff" * (len(content) - 4096)
    path.write_bytes(bytes(content))
    with pytest.raises(DamagedRun), RunFile.open(path) as opened:
        results.checks(opened)


def test_newer_version(run: RunFile, tmp_path: Path) -> None:
    path = save(run, tmp_path / "run.sqlite")
    with sqlite3.connect(path) as db:
        db.execute("PRAGMA user_version = 99")
    db.close()
    with pytest.raises(DamagedRun, match="version 99"):
        RunFile.open(path)


def test_unfinished_file(tmp_path: Path) -> None:
    writer = RunWriter.create(tmp_path / "run.part", {"plan": plan_values(make_plan())})
    writer.close()
    with pytest.raises(DamagedRun, match="was not finished"):
        RunFile.open(tmp_path / "run.part")


def test_resume_of_nothing_of_ours(tmp_path: Path) -> None:
    (tmp_path / "x.part").write_bytes(b"garbage" * 1000)
    with pytest.raises(DamagedRun):
        RunWriter.resume(tmp_path / "x.part")


def test_what_is_not_committed_was_never_there(tmp_path: Path) -> None:
    writer = RunWriter.create(tmp_path / "run.part", {"plan": plan_values(make_plan())})
    first, _ = writer.know(ORIGIN + "/", "page", 1, 0)
    writer.commit()
    writer.add_answer(first, Answer(200), None, NOW.isoformat(), None)
    writer.know(ORIGIN + "/b", "page", 2, 1)
    writer.close()
    again = RunWriter.resume(tmp_path / "run.part")
    assert list(again.ids) == [ORIGIN + "/"]
    assert [w.url for w in again.waiting()] == [ORIGIN + "/"]
    again.close()


def test_sources_of_an_address_add_up() -> None:
    writer = RunWriter.create(":memory:", {})
    assert writer.know("u", "page", 1) == (1, True)
    assert writer.know("u", "page", 4) == (1, False)
    writer.commit()
    assert writer.db.execute("SELECT found_by FROM address").fetchone() == (5,)
    assert writer.counts() == {"page-queued": 1}


def test_checks_come_in_the_order_of_work(run: RunFile) -> None:
    rows = results.checks(run)
    ranks = [("critical", "high", "medium", "low").index(r["severity"]) for r in rows]
    assert ranks == sorted(ranks)
    assert rows[0]["id"] == "reach-not-found"
    assert all(r["summary"] and r["since"] for r in rows)


def test_causes_group_findings(run: RunFile) -> None:
    causes = causes_in(run, "link-broken")
    assert [(c["findings"], c["pages"]) for c in causes] == [(2, 2)]
    assert causes[0]["line"] == f"{ORIGIN}/gone: 404; linked from 2 pages"


def test_findings_carry_sentence_and_evidence(run: RunFile) -> None:
    found = results.findings(run, check_id="link-broken")
    assert [f["subject"] for f in found] == [ORIGIN + "/", ORIGIN + "/a"]
    assert found[0]["message"] == f"The link “Gone” leads to {ORIGIN}/gone: 404"
    assert found[0]["evidence"]["selector"] == 'a[href="/gone"]'
    assert found[0]["evidence"]["snippet"] == '<a href="/gone">Gone</a>'


def test_findings_are_filtered_and_turned_over(run: RunFile) -> None:
    every = results.findings(run)
    assert results.count_findings(run) == len(every)
    first = results.findings(run, limit=3)
    rest = results.findings(run, after=first[-1]["id"])
    assert [f["id"] for f in first + rest] == [f["id"] for f in every]
    assert {f["severity"] for f in results.findings(run, severity="high")} == {"high"}
    prints = [bytes.fromhex(every[0]["fingerprint"])]
    assert results.findings_by_print(run, prints * 2) == every[:1]
    assert results.findings(run, waived=True) == []


@pytest.mark.parametrize(
    ("filters", "paths"),
    [
        ([], ["/", "/a", "/gone", "/old"]),
        ([("status", "", "404")], ["/gone"]),
        ([("status", "ge", "300"), ("status", "lt", "400")], ["/old"]),
        ([("title", "has", "t")], ["/", "/a"]),
        ([("url", "has", "%")], []),
        ([("url", "has", "old")], ["/old"]),
        ([("words", "gt", "2")], ["/"]),
        ([("state", "", "done")], ["/", "/a", "/gone", "/old"]),
    ],
)
def test_inventory_filters(run: RunFile, filters: list[tuple[str, str, str]], paths: list[str]) -> None:
    part = listed(run, filters)
    assert [r["url"].removeprefix(ORIGIN) for r in part.rows] == paths
    assert part.total == len(paths)


def test_inventory_sorts_and_turns_over(run: RunFile) -> None:
    assert listed(run, sort="-inlinks", limit=1).rows[0]["url"] == ORIGIN + "/gone"
    first = listed(run, limit=3)
    last = listed(run, limit=3, after=first.after or 0)
    assert (len(first.rows), len(last.rows), last.total, last.after) == (3, 1, 4, None)
    assert [r["url"] for r in listed(run, role="file").rows] == [ORIGIN + "/i.png"]


@pytest.mark.parametrize(
    ("filters", "sort"), [([("colour", "", "x")], "url"), ([("status", "about", "404")], "url"), ([], "colour")]
)
def test_wrong_filters_say_what_there_is(run: RunFile, filters: list[tuple[str, str, str]], sort: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        listed(run, filters, sort)
    assert caught.value.hint


def test_a_page_in_full(run: RunFile) -> None:
    shown = results.page(run, ORIGIN + "/old")
    assert [hop["status"] for hop in shown["path"]] == [301, 200]
    assert shown["links_in"] == [ORIGIN + "/"]
    shown = results.page(run, ORIGIN + "/")
    assert {link["url"].removeprefix(ORIGIN): link["status"] for link in shown["links_out"]} == {
        "/a": 200,
        "/gone": 404,
        "/old": 301,
        "/i.png": 200,
    }
    assert shown["listed"]
    assert {f["check"] for f in shown["findings"]} >= {"link-broken", "link-redirects", "copy-title"}


def test_an_unknown_page(run: RunFile) -> None:
    with pytest.raises(NotFound):
        results.page(run, ORIGIN + "/nope")


def test_depths_are_the_fewest_clicks() -> None:
    site = (
        page(doc('<a href="/far">x</a><a href="/near">y</a>')),
        page(doc('<a href="/deep">z</a>'), "/far"),
        moved("/near", "/deep"),
        page(doc(), "/deep"),
    )
    run, _ = audit(site)
    assert {u.removeprefix(ORIGIN): d for u, d in run.rows("SELECT url, depth FROM address WHERE role = 0")} == {
        "/": 0,
        "/far": 1,
        "/near": 1,
        "/deep": 1,
    }


@pytest.mark.parametrize(("obey", "depth"), [(True, 2), (False, 1)])
def test_frames_and_refreshes_lead_a_step_on_and_nofollow_where_it_is_not_obeyed(obey: bool, depth: int) -> None:
    site = (
        page(doc('<iframe src="/frame"></iframe><a rel="nofollow" href="/b">b</a>')),
        page(doc("", head='<meta http-equiv="refresh" content="0; url=/b">'), "/frame"),
        page(doc("", head='<link rel="alternate" hreflang="de" href="/de">'), "/b"),
        page(doc(), "/de"),
    )
    run, _ = audit(site, {"obey_nofollow": obey})
    depths = {u.removeprefix(ORIGIN): d for u, d in run.rows("SELECT url, depth FROM address WHERE role = 0")}
    assert depths == {"/": 0, "/frame": 1, "/b": depth, "/de": None}


def test_bytes_that_are_no_text_are_kept_apart() -> None:
    run, summary = audit(
        (page(doc('<a href="/b">b</a>')), Sample("/b", b"\x00\xff\xfe<title>\xe4", 200, (("content-type", "text/html"),)))
    )
    assert summary["crashes"] == []
    assert results.page(run, ORIGIN + "/b")["encoding"] == "windows-1252"


def test_a_file_that_somebody_reads_is_finished_when_they_are_done(tmp_path: Path) -> None:
    writer = RunWriter.create(tmp_path / "x.part", {"plan": {}})
    writer.db.executescript(schema.RESULTS)
    reader = sqlite3.connect(tmp_path / "x.part", check_same_thread=False)
    held = reader.execute("SELECT * FROM meta")
    held.fetchone()
    threading.Timer(0.2, reader.close).start()
    writer.finish()
    writer.close()
    assert sorted(p.name for p in tmp_path.iterdir()) == ["x.part"]


def test_a_file_is_opened_once_more_beside_itself(run: RunFile, tmp_path: Path) -> None:
    path = save(run, tmp_path / "run.sqlite")
    with RunFile.open(path) as first, first.again() as second:
        assert second.db is not first.db and second.meta("summary") == first.meta("summary")


def test_a_date_of_a_sitemap_is_kept_to_its_fortieth_character() -> None:
    writer = RunWriter.create(":memory:", {})
    address, _ = writer.know("https://shop.example/", "page", 1)
    for length in (40, 41):
        writer.add_listed(address, 1, "2" * length)
    writer.commit()
    assert writer.db.execute("SELECT length(lastmod) FROM listed").fetchall() == [(40,), (40,)]
