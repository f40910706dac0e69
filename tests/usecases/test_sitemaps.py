"""Sitemaps of runs: what they list, when pages changed, and the address from which a site fetches the latest."""

from __future__ import annotations

from datetime import timedelta

import pytest

from hodcarrier.core.catalogue import Sample, doc, gone, page
from hodcarrier.core.errors import InvalidInput, NotFound
from hodcarrier.core.permissions import Role
from hodcarrier.core.web.sitemaps import read
from hodcarrier.register.models import Member
from hodcarrier.usecases import sitemaps
from hodcarrier.wire.sitemaps import SitemapOptions
from tests.usecases.conftest import START, Office
from tests.usecases.test_many_todos import person


@pytest.fixture
def member(office: Office) -> Member:
    return person(office, "Imke Aldersgate", Role.ANALYST)


LINKS = '<a href="/a">A</a><a href="/b">B</a><a href="/gone">G</a>'
ALTERNATE = '<link rel=alternate hreflang=de href="/de">'


def site(text: str) -> tuple[Sample, ...]:
    return (
        page(doc(f"<h1>Home</h1>{LINKS}<img src=/i.png>", f"<title>Home</title>{ALTERNATE}")),
        page(doc(f"<p>{text}</p>", "<title>A</title>"), "/a"),
        page(doc("<p>Never shown</p>", "<title>B</title><meta name=robots content=noindex>"), "/b"),
        gone("/gone"),
    )


def entries(office: Office, run: str, options: SitemapOptions) -> dict[str, str]:
    found = sitemaps.export_sitemap(office.work, run, options)
    return {entry.loc.removeprefix("https://shop.example"): entry.lastmod for entry in read(found.body).entries}


def test_it_lists_indexable_pages_with_the_day_of_their_change(office: Office) -> None:
    for week, text in enumerate(("one", "one", "two words", "two words")):
        run = office.audit(START + timedelta(weeks=week), site(text))
    changed = (START + timedelta(weeks=2)).date().isoformat()
    assert entries(office, run, SitemapOptions()) == {"/": "", "/a": changed}
    assert entries(office, run, SitemapOptions(where='indexable and url ends with "/a"')) == {"/a": changed}
    preview = sitemaps.preview_sitemap(office.work, run, SitemapOptions(images=True))
    assert (preview.pages, preview.dated, [file.name for file in preview.files]) == (2, 1, ["sitemap.xml"])
    assert "<image:loc>https://shop.example/i.png" in preview.text and 'hreflang="de"' in preview.text
    assert "xhtml:link " not in sitemaps.preview_sitemap(office.work, run, SitemapOptions(versions=False)).text


def test_a_site_fetches_what_its_latest_run_says(office: Office, member: Member) -> None:
    office.audit(START, site("one"))
    published = sitemaps.publish_sitemap(office.work, office.site.id, SitemapOptions(), member)
    assert published.url and published.url.endswith("/sitemap.xml")
    secret = published.url.split("/")[-2]
    assert len(read(sitemaps.read_published(office.work, secret, "sitemap.xml").body).entries) == 2
    office.audit(START + timedelta(weeks=1), site("one")[:1])
    assert len(read(sitemaps.read_published(office.work, secret, "sitemap.xml").body).entries) == 1
    assert sitemaps.get_published_sitemap(office.work, office.site.id).read_at is not None
    with pytest.raises(NotFound, match=r"no file other\.xml"):
        sitemaps.read_published(office.work, secret, "other.xml")
    again = sitemaps.publish_sitemap(office.work, office.site.id, SitemapOptions(images=True), member)
    with pytest.raises(NotFound, match="no such sitemap"):
        sitemaps.read_published(office.work, secret, "sitemap.xml")
    sitemaps.withdraw_sitemap(office.work, office.site.id, member)
    with pytest.raises(NotFound):
        sitemaps.read_published(office.work, (again.url or "").split("/")[-2], "sitemap.xml")
    with pytest.raises(NotFound, match="published"):
        sitemaps.get_published_sitemap(office.work, office.site.id)


def test_a_filter_that_cannot_be_read_is_refused(office: Office, member: Member) -> None:
    run = office.audit(START, site("one"))
    for call in (
        lambda: sitemaps.preview_sitemap(office.work, run, SitemapOptions(where="nothing = 1")),
        lambda: sitemaps.publish_sitemap(office.work, office.site.id, SitemapOptions(where="("), member),
    ):
        with pytest.raises(InvalidInput):
            call()
