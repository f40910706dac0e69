"""Where findings stand in the source, on every failing example of the catalogue, and what is shown of them."""

from __future__ import annotations

from typing import Any

import pytest

from hodcarrier.core.catalogue import Entry, doc, load, moved, page, text_file
from hodcarrier.core.facts.source import Source
from hodcarrier.runfile import results
from hodcarrier.runfile.evidence import Located, Locator
from hodcarrier.runfile.sights import SITE
from tests.core.catalogue.test_catalogue import run_example
from tests.sample_site import ORIGIN, audit

ON_PAGES = [entry for entry in load().values() if entry.check.subject in ("page", "group")]
# Elements that may be left out of a source; browsers add them.
IMPLIED = {"html", "head", "body"}


@pytest.mark.parametrize("entry", ON_PAGES, ids=lambda entry: entry.id)
def test_the_examples_of_a_check_are_located(entry: Entry[Any]) -> None:
    for example in entry.check.examples:
        if not example.expect:
            continue
        run, _ = run_example(example)
        locator = Locator(run)
        for finding in results.findings(run, check_id=entry.id, waived=None):
            found = locator.of(finding)
            if found is None or finding["subject"] == SITE:
                continue
            address = run.address_id(finding["subject"])
            body = run.source(address) if address is not None else None
            if found.selector:
                assert body is not None
                source = Source(body, run.facts(address or 0).language.encoding)  # type: ignore[union-attr]
                assert len(source.tree.css(found.selector)) == 1, found
                assert found.line or found.selector in IMPLIED, found
                if found.line:
                    written = source.text.splitlines()[found.line - 1][found.column - 1 :]
                    assert written.startswith(found.before.removesuffix("…").splitlines()[0])
            assert not found.after or found.after != found.before


def located(*answers: Any, check: str) -> Located | None:
    run, _ = audit(answers)
    (finding,) = results.findings(run, check_id=check)
    return Locator(run).of(finding)


def test_a_link_is_shown_with_its_new_target() -> None:
    found = located(
        page(doc('\n<p><a class="x" href="/a">Anchors</a></p>')), moved("/a", "/b"), page(doc(), "/b"), check="link-redirects"
    )
    assert found == Located(
        "page", 2, 4, 'a[href="/a"]', '<a class="x" href="/a">Anchors</a>', f'<a class="x" href="{ORIGIN}/b">Anchors</a>'
    )


def test_a_header_has_no_line_and_a_missing_one_is_shown() -> None:
    found = located(page(doc()), check="secure-sniff")
    assert found == Located("headers", 0, 0, "", "", "X-Content-Type-Options: nosniff")
    found = located(page(doc(), headers=(("content-type", "text/html"), ("server", "hut/1.2"))), check="secure-version-shown")
    assert found is not None and (found.line, found.before) == (0, "Server: hut/1.2")


def test_a_line_of_robots_txt_is_shown() -> None:
    found = located(page(doc()), text_file("/robots.txt", "User-agent: *\nDisalow: /a"), check="files-robots-syntax")
    assert found is not None and (found.document, found.line, found.before) == ("robots.txt", 2, "Disalow: /a")
    run, _ = audit((page(doc('<a href="/b">b</a>')), text_file("/robots.txt", "User-agent: *\nDisallow: /b")))
    (finding,) = results.findings(run, check_id="reach-disallowed")
    blocked = Locator(run).of(finding)
    assert blocked is not None and (blocked.document, blocked.line, blocked.before) == ("robots.txt", 2, "Disallow: /b")


def test_the_language_of_the_text_mends_a_missing_one() -> None:
    text = "<p>" + "Die Bohnen werden im Mai gesät und im August geerntet, wenn die Hülsen trocken sind. " * 20 + "</p>"
    found = located(page(f"<!doctype html>\n<html>\n<title>Bohnen</title>{text}"), check="lang-missing")
    assert found == Located("page", 2, 1, "html", "<html>", '<html lang="de">')


def test_a_page_whose_source_was_not_kept_still_has_its_fix() -> None:
    run, _ = audit((page(doc()),))
    run.db.execute("DELETE FROM page_source")
    (finding,) = results.findings(run, check_id="desc-missing")
    found = Locator(run).of(finding)
    assert found is not None and found.line == 0 and '<meta name="description"' in found.after
    assert Locator(run).of({**finding, "check": "no-such-check", "evidence": {}}) is None
