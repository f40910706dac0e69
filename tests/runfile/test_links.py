"""References as rows: each as the page has it, with what is known of both ends; of files of earlier versions the same."""

from __future__ import annotations

import sqlite3
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.catalogue import Sample, doc, gone, moved, page
from hodcarrier.core.facts.values import FOLLOWED_KINDS
from hodcarrier.core.inventory.columns import COLUMNS
from hodcarrier.core.inventory.filters import EVERYTHING
from hodcarrier.core.inventory.views import VIEWS
from hodcarrier.core.states import InventoryKind
from hodcarrier.runfile import link_writer, links, listing
from hodcarrier.runfile.listing import met
from hodcarrier.runfile.reader import RunFile
from tests.listing import listed
from tests.sample_site import ORIGIN, audit

NAV = '<nav><a href="/">Home</a><a href="/a">A</a></nav>'
SITE = (
    page(doc(f'{NAV}<a href="/gone">Gone</a><img src=/i.png alt="Knot"><a href="https://elsewhere.example/x" rel="nofollow ugc">E</a>')),
    page(doc(f'{NAV}<a href="/old"><img src=/i.png></a><a href="mailto:a@b.example">Mail</a>'), "/a"),
    page(doc(f"{NAV}<p>Alone</p>"), "/b"),
    gone("/gone"),
    moved("/old", "/b"),
    Sample("/i.png", b"x" * 300, headers=(("content-type", "image/png"),)),
)  # fmt: skip


@pytest.fixture(scope="module", params=[1 << 18, 3], ids=["one part", "many parts"])
def run(request: pytest.FixtureRequest) -> RunFile:
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(link_writer, "PART", request.param)
        return audit(SITE)[0]


def rows_of(run: RunFile, where: str = "", sort: str = "") -> list[dict[str, Any]]:
    return [dict(row) for row in listed(run, where=where, role="link", sort=sort).rows]


def test_every_reference_is_a_row_in_the_order_of_its_page(run: RunFile) -> None:
    expected = []
    for (number,) in run.rows("SELECT address_id FROM page ORDER BY address_id"):
        facts = run.facts(number)
        assert facts
        for place, link in enumerate(facts.links.all, 1):
            answer = run.answer(run.address_id(link.url) or 0)
            expected.append(
                {
                    "source": facts.url,
                    "target": link.url,
                    "kind": link.kind,
                    "text": "Knot" if link.kind == "image" and facts.url == f"{ORIGIN}/" else link.text,
                    "rel": " ".join(link.rel),
                    "follow": link.kind in FOLLOWED_KINDS and "nofollow" not in link.rel,
                    "landmark": link.landmark,
                    "number": place,
                    "status": answer.status if answer else None,
                }
            )
    assert len(expected) > 10
    assert [{name: row[name] for name in expected[0]} for row in rows_of(run)] == expected


@pytest.mark.parametrize(
    ("where", "count"),
    [
        ("status = 404 and target_is = page", 1),
        ('target_is = page and redirect_to ends with "/b"', 1),
        ('target_is = "other site" and not follow', 1),
        ('kind = image and text = "Knot"', 1),
        ('kind = "image-link" and text is empty', 1),
        ('landmark = navigation and source ends with "/a"', 2),
        ("target_bytes = 300", 2),
        ("target_indexable and follow", 6),
        ("source_depth = 1", 4),
        ('target_host = "elsewhere.example"', 1),
        ("number = 1", 3),
    ],
)
def test_filters_know_both_ends(run: RunFile, where: str, count: int) -> None:
    assert len(rows_of(run, where)) == count


def test_a_view_of_broken_links_names_who_links(run: RunFile) -> None:
    broken = next(view for view in VIEWS if view.of == InventoryKind.LINK and view.name == "Broken links")
    found = [(row["source"], row["target"]) for row in rows_of(run, broken.where, "-target")]
    assert found == [(f"{ORIGIN}/", f"{ORIGIN}/gone"), (f"{ORIGIN}/", "https://elsewhere.example/x")]


@pytest.mark.parametrize("column", COLUMNS[InventoryKind.LINK])
def test_any_stretch_of_any_order_is_that_of_the_whole(run: RunFile, column: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(listing, "SORTED_WHOLE", 2)
    kinds, columns = COLUMNS[InventoryKind.LINK], links.LinkColumns(run)
    everything = np.nonzero(met(columns, EVERYTHING, kinds))[0]
    for sort in (column, f"-{column}"):
        whole = [r + 1 for r in listing.in_order(columns, everything, kinds[column], descending=sort.startswith("-")).tolist()]
        got: list[int] = []
        after: int | None = 0
        while after is not None:
            part = listed(run, role="link", sort=sort, limit=3, after=after)
            got += [int(row["id"] or 0) for row in part.rows]
            after = part.after
        assert got == whole


@given(st.lists(st.one_of(st.none(), st.integers(0, 5)), max_size=30), st.booleans(), st.data())
def test_a_row_stands_where_its_rank_says(values: list[int | None], backwards: bool, data: st.DataObject) -> None:
    figures = np.array([np.nan if v is None else v for v in values], "f8")
    gaps = np.isnan(figures)
    order = listing.Order(figures[~gaps], np.nonzero(~gaps)[0], np.nonzero(gaps)[0], backwards)
    places = order.places(0, len(values)).tolist()
    assert sorted(places) == list(range(len(values)))
    assert [order.rank(place) for place in places] == list(range(len(values)))
    begin = data.draw(st.integers(0, len(values)))
    assert order.places(begin, begin + 4).tolist() == places[begin : begin + 4]


def test_files_of_earlier_versions_have_the_same_rows(run: RunFile) -> None:
    earlier = sqlite3.connect(":memory:")
    run.db.backup(earlier)
    earlier.execute("DELETE FROM link_values")
    assert rows_of(RunFile(earlier)) == rows_of(run)
