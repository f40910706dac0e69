"""One page of a run in full: where it redirects to, and whose findings it carries."""

from __future__ import annotations

import pytest

from hodcarrier.core.catalogue import doc, gone, moved, page
from hodcarrier.core.errors import NotFound
from hodcarrier.runfile import results
from tests.sample_site import ORIGIN, audit

SCRIPT = '<script src="/gone.js"></script>'


def test_a_page_carries_the_findings_of_its_files_and_no_other_page_does() -> None:
    site = (page(doc(f'<h1>Rope</h1><a href="/a">a</a>{SCRIPT}')), page(doc("<h1>A</h1>"), "/a"), gone("/gone.js"))
    run, _ = audit(site)
    of_files = {check for (check,) in run.rows("SELECT id FROM check_state WHERE subject = 'file' AND findings > 0")}
    assert of_files
    shown = {url: {f["check"] for f in results.page(run, ORIGIN + url)["findings"]} for url in ("/", "/a")}
    assert of_files <= shown["/"] and not of_files & shown["/a"]


def test_a_run_without_faulty_files_shows_none() -> None:
    run, _ = audit((page(doc("<h1>Rope</h1>")),))
    assert all(f["subject"] == ORIGIN + "/" for f in results.page(run, ORIGIN + "/")["findings"])


def test_redirects_are_followed_to_the_end_or_to_where_they_turn_round() -> None:
    """Twelve at most are shown, which is more than any client follows."""
    chain = [moved(f"/r{n}", f"/r{n + 1}") for n in range(20)]
    links = "".join(f'<a href="/{name}">{name}</a>' for name in ("r0", "r17", "loop"))
    run, _ = audit(
        (page(doc(links)), *chain, page(doc("<h1>End</h1>"), "/r20"), moved("/loop", "/pool"), moved("/pool", "/loop"))
    )

    def path(url: str) -> list[str]:
        return [hop["url"].removeprefix(ORIGIN) for hop in results.page(run, ORIGIN + url)["path"]]

    assert path("/r17") == ["/r17", "/r18", "/r19", "/r20"]
    assert path("/loop") == ["/loop", "/pool"]
    assert path("/r0") == [f"/r{n}" for n in range(12)]


def test_a_page_that_the_run_does_not_know() -> None:
    run, _ = audit((page(doc()),))
    with pytest.raises(NotFound, match="does not know"):
        results.page(run, ORIGIN + "/nowhere")
