"""Run files outlive releases: old ones are lifted, unreadable ones mean no base, and the document alone decodes a file."""

from __future__ import annotations

import asyncio
import gzip
import hashlib
import json
import re
import sqlite3
import zlib
from datetime import timedelta
from pathlib import Path
from typing import Any

import msgspec
import pytest

import hodcarrier
from hodcarrier.audit.audit import Audited, audit
from hodcarrier.core.catalogue import doc, load, page
from hodcarrier.core.errors import DamagedRun
from hodcarrier.core.plan import plan_values
from hodcarrier.core.states import Change
from hodcarrier.examine.examination import examine
from hodcarrier.runfile import results
from hodcarrier.runfile.causes import causes as causes_in
from hodcarrier.runfile.comparison import compare
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.writer import RunWriter
from tests.listing import listed
from tests.runfile.test_runfile import SITE, save
from tests.sample_site import NOW, ORIGIN, crawl, make_plan
from tests.sample_site import audit as audit_samples

DOCUMENT = Path(hodcarrier.__file__).parent.parent / "docs" / "run-file.md"
HERE = Path(__file__).parent


def unpacked_file(version: int, folder: Path) -> Path:
    """A file of an earlier version, as the release that wrote such files left it."""
    path = folder / f"v{version}.sqlite"
    path.write_bytes(gzip.decompress((HERE / f"v{version}.sqlite.gz").read_bytes()))
    return path


def test_a_file_of_version_4_has_no_marks_and_reads_as_it_did(tmp_path: Path) -> None:
    with RunFile.open(unpacked_file(4, tmp_path)) as run:
        assert run.rows("SELECT * FROM mark") == run.rows("SELECT * FROM page_mark") == []
        assert results.count_findings(run, waived=None) == run.rows("SELECT count(*) FROM finding")[0][0] > 10
        assert listed(run, [("status", "", "200")], "-words").rows


def test_a_file_of_version_5_does_not_say_what_was_asked(tmp_path: Path) -> None:
    with RunFile.open(unpacked_file(5, tmp_path)) as run:
        assert run.rows("SELECT * FROM page_fragment") == run.rows("SELECT * FROM file_fact") == []
        assert set(run.rows("SELECT examined, passed FROM check_state")) == {(None, None)}
        assert results.checks(run) and listed(run, [("status", "", "200")], "-words").rows


def test_a_file_of_version_6_has_no_sources(tmp_path: Path) -> None:
    with RunFile.open(unpacked_file(6, tmp_path)) as run:
        assert run.source(1) is None and run.facts(1) is not None
        assert {row["outcome"] for row in results.checks(run)} == {"failing"}


def test_a_file_of_version_7_has_the_columns_of_its_tables(tmp_path: Path) -> None:
    with RunFile.open(unpacked_file(7, tmp_path)) as run:
        assert run.is_current and not run.has_columns
        (row,) = listed(run, where="status = 404").rows
        assert (row["url"], row["folder"], row["levels"]) == (ORIGIN + "/gone", "/", 1)
        assert row["images"] is None and row["kind"] == "", "what only an examination of today tells"
        assert listed(run, where="images is empty").total == listed(run).total == 4


@pytest.fixture
def old(tmp_path: Path) -> Path:
    """A file of the oldest version that is read."""
    return unpacked_file(2, tmp_path)


def test_a_file_of_version_3_reads_like_one_of_today(tmp_path: Path) -> None:
    with RunFile.open(unpacked_file(3, tmp_path)) as run:
        fortnight = (NOW - timedelta(days=14)).isoformat()
        links = results.findings(run, check_id="link-broken", severity="high", waived=None)
        assert [(f["since"], f["severity"]) for f in links] == [(fortnight, "high")] * 2
        assert {c["since"] for c in causes_in(run)} == {fortnight} == {c["since"] for c in results.checks(run)}
        assert results.count_findings(run, waived=None) == len(results.findings(run, waived=None)) == 23
        pages = listed(run, [("status", "", "200")], "-words")
        assert [row["url"] for row in pages.rows] == [ORIGIN + "/", ORIGIN + "/a"] and pages.rows[0]["title"] == "T"
        assert run.rows("SELECT state, count(*) FROM history GROUP BY 1") == [("gone", 2), ("open", 23), ("passed", 2)]
        assert results.page(run, ORIGIN + "/a")["title"] == "T"


def test_a_file_of_version_3_is_a_base(tmp_path: Path) -> None:
    again = page(doc('<a href="/gone">Gone</a><img src=/x.png>', "<title>T</title>"), "/a")
    with RunFile.open(unpacked_file(3, tmp_path)) as base:
        head, _ = audit_samples((*SITE, again), {"thresholds": {"title_chars_min": 5}}, base)
        found = compare(base, head)
    assert found.balance.reconciles and found.balance.counts[Change.RETURNED] == 1
    fortnight = (NOW - timedelta(days=14)).isoformat()
    known = "SELECT state, times_returned, count(*) FROM history WHERE first_seen = ? GROUP BY 1, 2 ORDER BY 2, 1"
    assert head.rows(known, fortnight) == [("gone", 0, 1), ("open", 0, 24), ("passed", 0, 1), ("open", 1, 1)]


def test_a_file_of_version_2_reads_like_one_of_today(old: Path) -> None:
    with RunFile.open(old) as run:
        page_id = run.address_id(ORIGIN + "/") or 0
        facts = run.facts(page_id)
        assert facts is not None
        assert (facts.head.title, facts.text.h1, facts.preview.social) == ("T", "Rope", (("og:title", "T"),))
        assert facts.forms.insecure == ("http://shop.example/x",) and facts.language.alternates[0].code == "cy"
        assert [link.landmark for link in facts.links.all if link.text == "A"] == ["navigation"]
        broken = results.findings(run, check_id="link-broken")
        assert broken and broken[0]["severity"] == "high" and "leads to" in broken[0]["message"]
        assert results.texts(run)["title-short"].limits == {"title_chars_min": 5.0}, "the plan's own limit"
        assert results.check(run, "title-short")["state"] == "on" and results.checks(run)
        assert results.page(run, ORIGIN + "/a")["title"] == "T"
        assert run.probes().tls is None


def test_a_file_of_version_2_is_a_base(old: Path) -> None:
    with RunFile.open(old) as base:
        head, _ = audit_samples(SITE, {"thresholds": {"title_chars_min": 5}}, base)
        found = compare(base, head)
    assert found.balance.reconciles and found.balance.counts[Change.STILL_THERE] > 5
    raised = {entry.id for entry in load().values() if entry.check.revision > 1}
    assert {item.check for item in found.items if item.change == Change.CHECK_CHANGED} <= raised
    first = head.rows("SELECT min(first_seen) FROM history WHERE state = 'open'")[0][0]
    assert first == (NOW - timedelta(days=7)).isoformat(), "ages go on"


def run_audit(base: Path | None) -> tuple[RunFile, Audited]:
    """The worker's way: a base that cannot be read means none."""
    facts, _, _ = crawl(SITE)

    def open_base() -> RunFile | None:
        if base is None:
            return None
        opened = RunFile.open(base)
        opened.check_whole()
        return opened

    done = asyncio.run(audit(facts, make_plan(), lambda: NOW, open_base=open_base))
    return RunFile(facts.db), done


@pytest.mark.parametrize(
    ("spoil", "words"),
    [
        (lambda path: path.unlink(), "no run file"),
        (lambda path: path.write_bytes(b"a letter"), "damaged"),
        (lambda path: path.write_bytes(path.read_bytes()[:30_000]), "damaged"),
        (lambda path: path.write_bytes(path.read_bytes()[:20_000] + b"\xff" * 9_000 + path.read_bytes()[29_000:]), "damaged"),
        (lambda path: set_version(path, 1), "version 1;"),
        (lambda path: set_version(path, 77), "version 77"),
    ],
    ids=["missing", "other", "cut", "scribbled", "version 1", "later"],
)
def test_an_unreadable_base_means_no_base_and_a_notice(old: Path, spoil: Any, words: str) -> None:
    spoil(old)
    _, done = run_audit(old)
    assert done.summary is not None and done.summary.health is not None
    assert [n for n in done.summary.notices if "run before cannot be read" in n and words in n], done.summary.notices


def set_version(path: Path, version: int) -> None:
    db = sqlite3.connect(path)
    db.execute(f"PRAGMA user_version = {version}")
    db.close()


def test_without_a_base_nothing_is_said() -> None:
    _, done = run_audit(None)
    assert done.summary is not None and not any("run before" in n for n in done.summary.notices)


def test_a_part_of_another_release_is_begun_anew(tmp_path: Path) -> None:
    from hodcarrier.runfile.store import LocalRunStore

    store = LocalRunStore(tmp_path)
    store.begin("r", make_plan(), {}).close()
    set_version(tmp_path / "r.part", 2)
    with pytest.raises(DamagedRun, match="begun by another release"):
        RunWriter.resume(tmp_path / "r.part")
    writer = store.begin("r", make_plan(), {})
    assert writer.ids == {} and writer.meta("plan") == json.loads(json.dumps(plan_values(make_plan())))
    writer.close()


# -- decoding with nothing but the document ----------------------------------------------------------------------


def codes(name: str) -> dict[int, str]:
    """A list of codes as the document writes it."""
    line = next(row for row in DOCUMENT.read_text().splitlines() if row.startswith(f"| {name} |"))
    return {int(number): word for number, word in re.findall(r"(\d+) ([a-z-]+)", line)}


def fields(area: str) -> int:
    """The place of an area in the array of facts, as the document lists them."""
    areas = re.findall(r"^\| (\w+) \| [^|]+ \|$", DOCUMENT.read_text().split("### `page.facts`")[1].split("## Results")[0], re.M)
    return areas.index(area)  # the head row of the table stands where the URL is in the array


@pytest.fixture(scope="module")
def whole(tmp_path_factory: pytest.TempPathFactory) -> sqlite3.Connection:
    run, _ = audit_samples(SITE)
    return sqlite3.connect(save(run, tmp_path_factory.mktemp("run") / "run.sqlite"))


def unpacked(blob: bytes) -> Any:
    return msgspec.msgpack.decode(zlib.decompress(blob))


def test_the_version_is_the_documents(whole: sqlite3.Connection) -> None:
    version = re.search(r"`user_version` (\d+)", DOCUMENT.read_text())
    assert version and whole.execute("PRAGMA user_version").fetchone() == (int(version.group(1)),)


def test_roles_and_states_decode_by_the_document(whole: sqlite3.Connection) -> None:
    roles, states, bits = codes("`address.role`"), codes("`address.state`"), codes("`address.found_by`")
    rows = dict(whole.execute("SELECT url, role FROM address"))
    assert roles[rows[ORIGIN + "/i.png"]] == "file" and roles[rows[ORIGIN + "/a"]] == "page"
    assert {states[s] for (s,) in whole.execute("SELECT state FROM address WHERE role = 0")} == {"done"}
    found = whole.execute("SELECT found_by FROM address WHERE url = ?", (ORIGIN + "/",)).fetchone()[0]
    assert {word for bit, word in bits.items() if found & bit} >= {"start", "sitemap"}


def test_links_decode_by_the_document(whole: sqlite3.Connection) -> None:
    kinds, landmarks = codes("link kind"), codes("landmark")
    urls = dict(whole.execute("SELECT id, url FROM address"))
    (blob,) = whole.execute("SELECT links FROM page JOIN address ON id = address_id WHERE url = ?", (ORIGIN + "/",)).fetchone()
    count = int.from_bytes(blob[:4], "little")
    targets = [int.from_bytes(blob[4 + 4 * n : 8 + 4 * n], "little") for n in range(count)]
    packed_codes = blob[4 + 4 * count : 4 + 5 * count]
    rest = unpacked(blob[4 + 5 * count :])
    links = [
        (urls[target], kinds[code >> 1], bool(code & 1), text, landmarks[place])
        for target, code, (_, text, place, _) in zip(targets, packed_codes, rest, strict=True)
    ]
    assert (ORIGIN + "/a", "anchor", True, "A", "main") in links
    assert (ORIGIN + "/i.png", "image", False, "", "main") in links


def test_facts_decode_by_the_document(whole: sqlite3.Connection) -> None:
    (blob,) = whole.execute("SELECT facts FROM page JOIN address ON id = address_id WHERE url = ?", (ORIGIN + "/",)).fetchone()
    facts = unpacked(blob)
    assert facts[0] == ORIGIN + "/"
    titles = facts[fields("head")][0]
    assert titles == [["T", True, ""]]
    assert facts[fields("media")][0][0][2] is None, "the image has no alt text"
    assert facts[fields("links")][0] == [] and facts[fields("language")][1] == "utf-8"
    template = whole.execute("SELECT template FROM page WHERE title = 'T'").fetchone()[0]
    assert facts[fields("template")] == [template, []]


def test_headers_ids_and_bodies_decode_by_the_document(whole: sqlite3.Connection) -> None:
    (headers,) = whole.execute(
        "SELECT headers FROM answer JOIN address ON id = address_id WHERE url = ?", (ORIGIN + "/",)
    ).fetchone()
    assert ["content-type", "text/html; charset=utf-8"] in msgspec.msgpack.decode(headers)
    ids = dict(whole.execute("SELECT url, id FROM address"))
    (sources,) = whole.execute("SELECT sources FROM inlink WHERE target_id = ?", (ids[ORIGIN + "/gone"],)).fetchone()
    plain = zlib.decompress(sources)
    assert {int.from_bytes(plain[n : n + 4], "little") for n in range(0, len(plain), 4)} == {
        ids[ORIGIN + "/"],
        ids[ORIGIN + "/a"],
    }
    (body,) = whole.execute("SELECT body FROM site_file WHERE kind = 'sitemap'").fetchone()
    assert zlib.decompress(body).startswith(b"<?xml")


def test_fingerprints_and_messages_decode_by_the_document(whole: sqlite3.Connection) -> None:
    row = whole.execute(
        "SELECT fingerprint, identity, finding.subject, place, messages, message, evidence FROM finding JOIN check_state"
        " ON check_state.id = check_id WHERE check_id = 'link-broken'"
    ).fetchone()
    fingerprint, identity, subject, place, messages, key, evidence = row
    digest = hashlib.blake2b(digest_size=16)
    for part in (identity, subject, place):
        digest.update(len(part.encode()).to_bytes(4, "big") + part.encode())
    assert digest.digest() == fingerprint
    assert json.loads(messages)[key].format(**json.loads(evidence)).startswith("The link “Gone” leads to")


def test_the_document_names_every_area_and_code() -> None:
    from hodcarrier.core.facts.page import PageFacts
    from hodcarrier.runfile import schema

    assert [*codes("link kind").values()] == list(schema.KINDS) and [*codes("landmark").values()] == list(schema.LANDMARKS)
    assert [*codes("`address.role`").values()] == list(schema.ROLES)
    assert [*codes("`address.state`").values()] == list(schema.STATES)
    assert [fields(name) for name in PageFacts.__struct_fields__[1:]] == list(range(1, len(PageFacts.__struct_fields__)))


def test_examining_a_lifted_base_twice_gives_the_same(old: Path) -> None:
    with RunFile.open(old) as base:
        first, summary = audit_samples((page(doc()),), base=base)
        again = examine(first.db, NOW, base)
    assert msgspec.to_builtins(again, str_keys=True) == summary
