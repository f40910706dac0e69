"""One page in depth: anchors, data as a tree, versions that name one another or do not, the way of clicks, the source; and links between templates."""

from __future__ import annotations

import pytest

from hodcarrier.core.catalogue import Sample, doc, gone, moved, page
from hodcarrier.core.errors import NotFound
from hodcarrier.core.states import BranchKind
from hodcarrier.runfile import page_parts, structure
from hodcarrier.runfile.reader import RunFile
from tests.sample_site import ORIGIN, audit

JSON = '<script type="application/ld+json">{}</script>'
PRODUCT = (
    '{"@context": "https://schema.org", "@type": "Product", "name": "Rope", "offers": {"@type": "Offer", "price": "3",'
    ' "seller": {"@type": "Organization", "name": "Tide"}}}'
)
ALTERNATES = '<link rel=alternate hreflang=en href="/en"><link rel=alternate hreflang=de href="/de"><link rel=alternate hreflang=fr href="/fr">'
SITE = (
    page(doc('<h1>Home</h1><a href="/old">Over there</a><a href="/en">English</a><a href="/gone">Gone</a><img src=/i.png>', "<title>Home</title>")),
    page(doc(f'<h1>A</h1>{JSON.format(PRODUCT)}{JSON.format("{broken")}<div itemscope itemtype="https://schema.org/Person"><b itemprop=name>Ada</b></div>'
             '<a href="/deep">Deep down</a>', "<title>A</title>"), "/a"),
    page(doc('<h1>D</h1><p>one</i><a href="/de">D</a>', "<title>Deep</title>"), "/deep"),
    page(doc('<h1>E</h1><a href="/fr">F</a>', f"<title>E</title>{ALTERNATES}"), "/en"),
    page(doc("<h1>D</h1>", f"<title>D</title>{ALTERNATES}"), "/de"),
    page(doc("<h1>F</h1>", "<title>F</title><link rel=alternate hreflang=en href='/fr'>"), "/fr"),
    moved("/old", "/a"),
    gone("/gone"),
    Sample("/i.png", b"x", headers=(("content-type", "image/png"),)),
)  # fmt: skip


@pytest.fixture(scope="module")
def run() -> RunFile:
    return audit(SITE)[0]


def path(url: str) -> str:
    return url.removeprefix(ORIGIN)


def test_structured_data_is_a_tree_by_block(run: RunFile) -> None:
    first, second, third = page_parts.data_of(run, f"{ORIGIN}/a")
    assert (first.form, first.number, first.error, len(first.things)) == ("JSON-LD", 1, "", 1)
    product = first.things[0]
    assert product.types == ("Product",) and ("name", "Rope") in product.values
    ((offers, offer),) = product.parts
    ((seller, organisation),) = offer.parts
    assert (offers, seller, organisation.values) == ("offers", "seller", (("name", "Tide"),))
    assert (second.number, second.things) == (2, ()) and second.error
    assert (third.form, third.number, third.things[0].values) == ("microdata", 0, (("name", "Ada"),))
    assert page_parts.data_of(run, f"{ORIGIN}/gone") == []


def test_versions_say_what_each_names(run: RunFile) -> None:
    found = page_parts.versions_of(run, f"{ORIGIN}/en")
    assert [path(version.url) for version in found] == ["/en", "/de", "/fr"]
    assert dict(found[0].names)["de"] == f"{ORIGIN}/de"
    assert found[2].names == (("en", f"{ORIGIN}/fr"),)
    assert found[0].status == 200 and found[0].indexable
    assert page_parts.versions_of(run, f"{ORIGIN}/a") == []


def test_the_way_goes_over_redirects_with_the_texts_of_links(run: RunFile) -> None:
    way = page_parts.way_to(run, f"{ORIGIN}/deep")
    assert [(path(step.url), step.text) for step in way] == [
        ("/", ""),
        ("/old", "Over there"),
        ("/a", ""),
        ("/deep", "Deep down"),
    ]
    assert way[-1].title == "Deep"
    assert page_parts.way_to(run, f"{ORIGIN}/") == []
    assert page_parts.way_to(run, f"{ORIGIN}/i.png") == []


def test_the_source_comes_with_its_errors(run: RunFile) -> None:
    found = page_parts.source_of(run, f"{ORIGIN}/deep")
    assert found.whole and "<h1>D</h1>" in found.text
    assert any("</i>" in error.problem for error in found.errors)
    with pytest.raises(NotFound, match="no source"):
        page_parts.source_of(run, f"{ORIGIN}/old")


def test_terms_count_the_anchors_that_lead_to_a_page(run: RunFile) -> None:
    found = page_parts.terms_of(run, f"{ORIGIN}/deep", "deep down")
    assert found.focus and found.focus.term.anchors == 1
    with pytest.raises(NotFound, match="does not know"):
        page_parts.terms_of(run, f"{ORIGIN}/nowhere", "")


def test_branches_hold_every_page_once(run: RunFile) -> None:
    pages = run.rows("SELECT count(*) FROM inventory WHERE role = 0")[0][0]
    for by in BranchKind:
        found = structure.branches(run, by, "/" if by == BranchKind.FOLDER else "")
        assert sum(branch.pages for branch in found.branches) + (found.own.pages if found.own else 0) == pages
        assert len(found.wheres) == len(found.branches)


def test_links_between_templates_are_the_followed_ones_between_pages(run: RunFile) -> None:
    between = structure.template_links(run)
    documents = {
        str(url) for (url,) in run.rows("SELECT url FROM inventory WHERE role = 0 AND template IS NOT NULL AND template != ''")
    }
    expected = 0
    for (number,) in run.rows("SELECT address_id FROM page"):
        facts = run.facts(number)
        expected += (
            sum(link.followed and link.url in documents for link in facts.links.all) if facts and facts.url in documents else 0
        )
    assert sum(map(sum, between.links)) == expected > 0
