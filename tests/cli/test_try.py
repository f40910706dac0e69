"""``hodcarrier try`` and ``export`` on a real site on loopback, without a service."""

from __future__ import annotations

import csv
import io
import json
import sqlite3
from collections.abc import Iterator
from pathlib import Path

import pytest

from hodcarrier.cli.main import run
from hodcarrier.core.catalogue import Sample, doc, moved, page, text_file
from hodcarrier.crawl.guard import Guard
from tests.running import LocalSite, free_ports, local_site

FAST = ("--allow-private", "--rate", "500")


@pytest.fixture
def site() -> Iterator[LocalSite]:
    with local_site(
        page(doc('<h1>Rope</h1><a href="/b">b</a> <a href="/gone">gone</a> <a href="/old">old</a> <img src="/p.png">')),
        page(doc("<p>no heading"), "/b"),
        moved("/old", "/b", 302),
        Sample("/p.png", b"\x89PNG", headers=(("content-type", "image/png"),)),
        text_file("/robots.txt", "User-agent: *\nDisallow: /secret\n"),
    ) as served:
        yield served


def test_a_summary_that_a_person_can_read(site: LocalSite, capsys: pytest.CaptureFixture[str]) -> None:
    assert run(["try", site.address, *FAST]) == 0
    printed = capsys.readouterr().out
    assert f"127.0.0.1:{site.port}" in printed and "of 100, high is good" in printed
    assert "Worth doing first" in printed and "link-broken" in printed


def test_json_has_every_finding_with_its_evidence(site: LocalSite, capsys: pytest.CaptureFixture[str]) -> None:
    assert run(["try", site.address, *FAST, "--format", "json"]) == 0
    printed = capsys.readouterr()
    found = json.loads(printed.out)
    assert found["address"] == site.address and 0 < found["summary"]["health"] < 100
    assert all({"check", "subject", "place", "severity", "evidence"} <= set(row) for row in found["findings"])
    broken = next(row for row in found["findings"] if row["check"] == "link-broken")
    assert (broken["subject"], broken["place"], broken["severity"]) == (site.address, site.address + "gone", "high")


def test_a_saved_run_is_exported_in_every_form(site: LocalSite, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    saved = tmp_path / "rope.sqlite"
    assert run(["try", site.address, *FAST, "--save", str(saved)]) == 0
    assert sorted(p.name for p in tmp_path.iterdir()) == ["rope.sqlite"]
    capsys.readouterr()
    tables = {}
    for form in ("csv", "json", "sarif"):
        assert run(["export", "findings", str(saved), "--format", form]) == 0
        tables[form] = capsys.readouterr().out
    rows = json.loads(tables["json"])
    assert len(list(csv.DictReader(io.StringIO(tables["csv"])))) == len(rows) > 5
    log = json.loads(tables["sarif"])
    assert log["version"] == "2.1.0" and len(log["runs"][0]["results"]) == len(rows)
    rules = log["runs"][0]["tool"]["driver"]["rules"]
    assert all(rules[r["ruleIndex"]]["id"] == r["ruleId"] for r in log["runs"][0]["results"])


def test_a_saved_file_is_not_overwritten(site: LocalSite, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    kept = tmp_path / "kept.sqlite"
    kept.write_text("mine")
    assert run(["try", site.address, *FAST, "--save", str(kept)]) == 2
    assert kept.read_text() == "mine" and site.asked == []
    assert run(["try", site.address, *FAST, "--save", str(tmp_path / "nowhere" / "x.sqlite")]) == 2
    assert "already there" in capsys.readouterr().err


@pytest.mark.parametrize(
    ("options", "code"),
    [
        (["--fail-on", "critical"], 4),
        (["--fail-on", "low"], 4),
        (["--min-health", "1"], 0),
        (["--min-health", "99.9"], 4),
        (["--max-pages", "1"], 0),
    ],
)
def test_thresholds_give_exit_code_4(site: LocalSite, options: list[str], code: int) -> None:
    assert run(["try", site.address, *FAST, *options]) == code


def test_the_page_limit_is_kept_and_said(site: LocalSite, capsys: pytest.CaptureFixture[str]) -> None:
    run(["try", site.address, *FAST, "--max-pages", "1"])
    printed = capsys.readouterr().out
    assert "page limit of 1 was reached" in printed
    assert "/b" not in site.asked


@pytest.mark.parametrize("address", ["http://", "not an address", "ftp://x.example/", "shop", ""])
def test_an_address_that_is_none(address: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert run(["try", address]) == 2
    assert "shop.example" in capsys.readouterr().err


def test_private_addresses_need_a_word(site: LocalSite, capsys: pytest.CaptureFixture[str]) -> None:
    assert run(["try", site.address]) == 1
    assert "--allow-private" in capsys.readouterr().err and site.asked == []


@pytest.mark.parametrize("address", ["https://no-such-host.invalid/", "closed"])
def test_a_site_that_does_not_answer(address: str, capsys: pytest.CaptureFixture[str]) -> None:
    address = f"http://127.0.0.1:{free_ports(1)}/" if address == "closed" else address
    assert run(["try", address, *FAST]) == 1
    said = capsys.readouterr()
    assert "Nothing was audited" in said.err and said.out == ""


def test_a_site_that_shuts_us_out_is_no_empty_success(capsys: pytest.CaptureFixture[str]) -> None:
    with local_site(page(doc()), text_file("/robots.txt", "User-agent: HodcarrierBot\nDisallow: /")) as shut:
        assert run(["try", shut.address, *FAST]) == 1
    printed = capsys.readouterr().out
    assert "blocks our user agent" in printed and "whole site reached" not in printed and "no page was audited" in printed


def test_words_of_the_site_are_never_taken_for_formatting(capsys: pytest.CaptureFixture[str]) -> None:
    with local_site(page(doc("<h1>x</h1>", "<title>[red]no[/red]</title>"))) as odd:
        assert run(["try", odd.address, *FAST]) == 0
    assert "[red]no[/red]" in capsys.readouterr().out


def test_damaged_files_are_told_apart(site: LocalSite, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    saved = tmp_path / "rope.sqlite"
    run(["try", site.address, *FAST, "--save", str(saved)])
    other = tmp_path / "other.sqlite"
    with sqlite3.connect(other) as db:
        db.execute("CREATE TABLE x (y)")
    db.close()
    newer = tmp_path / "newer.sqlite"
    newer.write_bytes(saved.read_bytes())
    with sqlite3.connect(newer) as db:
        db.execute("PRAGMA user_version=99")
    db.close()
    text = tmp_path / "text.sqlite"
    text.write_text("not a database" * 100)
    cut = tmp_path / "cut.sqlite"
    cut.write_bytes(saved.read_bytes()[:6000])
    for path, words in (
        (other, "not a run file"),
        (newer, "version 99"),
        (text, "damaged"),
        (cut, "damaged"),
        (tmp_path / "none.sqlite", "no run file"),
    ):
        capsys.readouterr()
        assert run(["export", "findings", str(path)]) == 1
        printed = capsys.readouterr()
        assert words in printed.err and printed.out == ""


def test_the_catalogue_is_read_without_a_service(capsys: pytest.CaptureFixture[str]) -> None:
    assert run(["catalogue", "list"]) == 0
    assert "link-broken" in capsys.readouterr().out
    assert run(["catalogue", "show", "text-thin"]) == 0
    assert "words_min" in capsys.readouterr().out
    assert run(["catalogue", "show", "text-thinn"]) == 3
    assert "catalogue list" in capsys.readouterr().err


def test_a_port_in_use_is_one_clear_line(site: LocalSite, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    for command in ("serve", "demo"):
        assert run([command, "--port", str(site.port), "--data", str(tmp_path / "d")]) == 1
        said = capsys.readouterr().err
        assert f"Port {site.port}" in said and len(said.strip().splitlines()) <= 2


def test_a_folder_that_is_not_ours_is_left_alone(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (tmp_path / "letter.txt").write_text("dear")
    assert run(["demo", "--port", str(free_ports(4)), "--data", str(tmp_path)]) == 1
    assert "something else" in capsys.readouterr().err
    assert (tmp_path / "letter.txt").read_text() == "dear"


@pytest.mark.parametrize("options", [[], ["--external"]])
def test_other_sites_are_asked_only_when_that_is_wanted(
    options: list[str], capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(Guard, "allows", lambda *_: True)  # another server on loopback stands for another site
    with local_site(page(doc())) as other:
        elsewhere = other.address.replace("127.0.0.1", "localhost")
        with local_site(page(doc(f'<h1>x</h1><a href="{elsewhere}gone">gone</a><a href="{elsewhere}">there</a>'))) as site:
            assert run(["try", site.address, *FAST, "--format", "json", *options]) == 0
    found = {row["check"] for row in json.loads(capsys.readouterr().out)["findings"]}
    assert bool(other.asked) == bool(options)
    assert ("link-broken-external" in found) == bool(options)
