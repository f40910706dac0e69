"""Sitemaps as they are written: read back as they were meant, divided where the protocol wants it, the same bytes for the same pages."""

from __future__ import annotations

import gzip

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.web import sitemap_writer
from hodcarrier.core.web.sitemap_writer import Listing, write_files
from hodcarrier.core.web.sitemaps import read

URLS = st.text(st.characters(min_codepoint=33, max_codepoint=0x2FF, exclude_categories=("C", "Z")), min_size=1, max_size=20).map(
    lambda t: f"https://a.example/{t}"
)


@given(st.lists(URLS, max_size=8, unique=True), st.booleans())
def test_what_is_written_is_read_as_it_was(urls: list[str], packed: bool) -> None:
    listings = [Listing(url, "2026-11-03", (f"{url}.png",), (("de", f"{url}/de"), ("x-default", url))) for url in urls]
    (file,) = write_files(listings, "https://a.example/", packed=packed)
    found = read(file.body)
    assert (file.name, file.entries, found.kind) == ("sitemap.xml", len(urls), "urlset")
    assert [(e.loc, e.lastmod) for e in found.entries] == [(url, "2026-11-03") for url in urls]
    assert all(e.alternates == (("de", f"{e.loc}/de"), ("x-default", e.loc)) for e in found.entries)
    assert not set(found.problems) - {"no-loc"}


@pytest.mark.parametrize("packed", [False, True])
def test_many_pages_make_an_index_with_parts(monkeypatch: pytest.MonkeyPatch, packed: bool) -> None:
    monkeypatch.setattr(sitemap_writer, "ENTRIES_MAX", 3)
    listings = [Listing(f"https://a.example/{n}") for n in range(7)]
    index, *parts = write_files(listings, "https://a.example/maps/", packed=packed)
    assert [part.entries for part in parts] == [3, 3, 1] and index.entries == 3
    assert [e.loc for e in read(index.body).entries] == [f"https://a.example/maps/{part.name}" for part in parts]
    bodies = [gzip.decompress(part.body) if packed else part.body for part in parts]
    assert [e.loc for body in bodies for e in read(body).entries] == [listing.url for listing in listings]
    assert write_files(listings, "https://a.example/maps/", packed=packed) == [index, *parts]


def test_a_file_has_no_more_bytes_than_allowed(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sitemap_writer, "BYTES_MAX", 500)
    _, *parts = write_files([Listing(f"https://a.example/{n}") for n in range(20)], "https://a.example/", packed=False)
    assert len(parts) > 1 and all(len(part.body) <= 500 for part in parts)


def test_a_page_has_a_thousand_images_at_most() -> None:
    (file,) = write_files(
        [Listing("https://a.example/", images=[f"https://a.example/{n}.png" for n in range(1_500)])], "", packed=False
    )
    assert file.body.count(b"<image:image>") == 1_000
