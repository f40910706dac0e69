"""Lists from columns: each filter as a plain reading of the rows says, sums and spreads that add up, and blobs that come back as they were."""

from __future__ import annotations

import re
from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hodcarrier.core.catalogue import Sample, doc, gone, moved, page
from hodcarrier.core.inventory.columns import COLUMNS
from hodcarrier.core.inventory.filters import EVERYTHING, AllOf, AnyOf, Condition, Filter, Not, read_filter
from hodcarrier.core.judge.waivers import Waiver
from hodcarrier.core.states import ColumnKind, ColumnTotal, InventoryKind, Operator
from hodcarrier.core.summary import SUMMARY
from hodcarrier.examine.waiving import apply_waivers
from hodcarrier.runfile.column_format import Texts, pack_figures, pack_texts, unpack
from hodcarrier.runfile.columns import Columns
from hodcarrier.runfile.listing import met, spread, sums
from hodcarrier.runfile.reader import RunFile
from tests.listing import listed
from tests.sample_site import ORIGIN, audit

PAGES = COLUMNS[InventoryKind.PAGE]
HEAD = "<title>{}</title><meta name=description content='Été at the quay'><link rel=canonical href='{}'>"
LINKS = '<a href="/a">A</a><a href="/b/c">B</a><a href="/gone">G</a><a href="https://elsewhere.example/" rel=nofollow>E</a><a href="/old">O</a>'
SITE = (
    page(doc(f"<h1>Rope</h1>{LINKS}<img src=/i.png><img src=/i.png alt=x>", HEAD.format("Rope and tar", "/"))),
    page(doc(f"<h1>Rope</h1>{LINKS}<p>{'word ' * 60}", HEAD.format("Ropes", "/")), "/a"),
    page(doc("<h1>Tar</h1><h2>x</h2>", HEAD.format("Rope and tar", "https://other.example/")), "/b/c"),
    gone("/gone"),
    moved("/old", "/a"),
    Sample("/i.png", b"x", headers=(("content-type", "image/png"), ("cache-control", "max-age=60"))),
)  # fmt: skip


@pytest.fixture(scope="module")
def run() -> RunFile:
    return audit(SITE)[0]


def paths(run: RunFile, where: str, role: str = "page") -> list[str]:
    return [str(row["url"]).removeprefix(ORIGIN) for row in listed(run, where=where, role=role).rows]


@pytest.mark.parametrize(
    ("where", "expected"),
    [
        ("status = 200 and not indexable", ["/a", "/b/c"]),
        ('canonical_is = "another page"', ["/a"]),
        ('canonical_is = "another site" or status >= 400', ["/b/c", "/gone"]),
        ("title_copies > 1", ["/", "/b/c"]),
        ("h1_copies = 2 and title_copies = 1", ["/a"]),
        ('redirect_to ends with "/a" and hops = 1 and final_status = 200', ["/old"]),
        ("levels = 2", ["/b/c"]),
        ('folder = "/b/"', ["/b/c"]),
        ("images = 2 and images_without_alt = 1", ["/"]),
        ("links_nofollow = 1 and links_external = 1", ["/", "/a"]),
        ("words between 50 and 100", ["/a"]),
        ('title contains "ROPE"', ["/", "/a", "/b/c"]),
        ('title = "ROPES"', []),
        ('title starts with "rope and"', ["/", "/b/c"]),
        ('title ends with "es"', ["/a"]),
        ('title matches "^Rope[^ ]*$"', ["/a"]),
        ('description contains "éTÉ"', ["/", "/a", "/b/c"]),
        ('description contains "été" and h1 = Tar', ["/b/c"]),
        ("title in (Ropes, Tar)", ["/a"]),
        ("images is empty", ["/old"]),
        ("title is empty", ["/gone", "/old"]),
        ("depth = 0 or depth is empty", ["/"]),
    ],
)  # fmt: skip
def test_filters_on_what_pages_have(run: RunFile, where: str, expected: list[str]) -> None:
    assert paths(run, where) == expected


def test_files_and_other_sites_have_columns_of_their_own(run: RunFile) -> None:
    (file,) = listed(run, role="file").rows
    assert (file["used_as"], file["used_by"], file["content_type"], file["fresh_s"]) == ("image", 1, "image/png", 60)
    others = {str(row["url"]): row["used_by"] for row in listed(run, role="external").rows}
    assert others["https://elsewhere.example/"] == 2


KINDS = (ColumnKind.TEXT, ColumnKind.NUMBER, ColumnKind.FLAG)


def holds(found: Filter, row: dict[str, Any]) -> bool:
    """What a filter says of a row, read off its values."""
    match found:
        case Not(part):
            return not holds(part, row)
        case AllOf(parts):
            return all(holds(part, row) for part in parts)
        case AnyOf(parts):
            return any(holds(part, row) for part in parts)
        case Condition(name, operator, values):
            return _condition_holds(operator, row[name], values)


def _condition_holds(operator: Operator, there: Any, values: tuple[Any, ...]) -> bool:
    missing = there in (None, "") and there is not False
    if operator == Operator.EMPTY:
        return missing
    if operator == Operator.IS_NOT:
        return bool(there != values[0])
    if operator in (Operator.IS, Operator.IN):
        return there is not None and there in values
    if operator in (Operator.CONTAINS, Operator.STARTS, Operator.ENDS):
        text, wanted = str(there).casefold(), str(values[0]).casefold()
        return {"contains": wanted in text, "starts with": text.startswith(wanted), "ends with": text.endswith(wanted)}[operator]
    if operator == Operator.MATCHES:
        return re.search(str(values[0]), str(there)) is not None
    if missing:
        return False
    low, high = values[0], values[-1]
    return bool(
        {"<": there < low, "<=": there <= low, ">": there > low, ">=": there >= low, "between": low <= there <= high}[operator]
    )


ROWS = {"title": ["Rope", "rope and tar", "", "Été", "a\nb"], "words": [None, 3, 60.5, 200], "indexable": [None, True, False]}
CONDITIONS = st.one_of(
    st.builds(
        Condition,
        st.just("title"),
        st.sampled_from([Operator.IS, Operator.IS_NOT, Operator.CONTAINS, Operator.STARTS, Operator.ENDS]),
        st.tuples(st.sampled_from(["rope", "Rope", "é", "É", "tar", "x", "a", "\n"])),
    ),
    st.builds(Condition, st.just("title"), st.just(Operator.EMPTY)),
    st.builds(Condition, st.just("title"), st.just(Operator.MATCHES), st.tuples(st.sampled_from(["^R", "e$", "[ae] "]))),
    st.builds(
        Condition,
        st.just("words"),
        st.sampled_from([Operator.IS, Operator.IS_NOT, *(op for op in Operator if op in ("<", "<=", ">", ">="))]),
        st.tuples(st.sampled_from([3.0, 60.5, 61.0])),
    ),
    st.builds(Condition, st.just("words"), st.just(Operator.BETWEEN), st.just((3.0, 60.5))),
    st.builds(Condition, st.just("indexable"), st.sampled_from([Operator.IS, Operator.IS_NOT]), st.tuples(st.booleans())),
    st.builds(Condition, st.sampled_from(["words", "indexable"]), st.just(Operator.EMPTY)),
)
FILTERS = st.recursive(
    CONDITIONS,
    lambda parts: (
        st.lists(parts, max_size=3).map(lambda p: AllOf(tuple(p)))
        | st.lists(parts, max_size=3).map(lambda p: AnyOf(tuple(p)))
        | parts.map(Not)
    ),
    max_leaves=6,
)


class Held(Columns):
    """Columns that are there without a file."""

    def __init__(self, rows: list[dict[str, Any]]) -> None:
        self._read = {
            "title": unpack(pack_texts(row["title"] for row in rows)),
            **{name: unpack(pack_figures([row[name] for row in rows])) for name in ("words", "indexable")},
            "id": unpack(pack_figures(range(1, len(rows) + 1))),
        }


@given(
    st.lists(st.fixed_dictionaries({name: st.sampled_from(values) for name, values in ROWS.items()}), min_size=1, max_size=12),
    FILTERS,
)
def test_a_filter_lets_through_what_it_says(rows: list[dict[str, Any]], found: Filter) -> None:
    assert met(Held(rows), found, PAGES).tolist() == [holds(found, row) for row in rows]


@given(
    st.lists(st.one_of(st.none(), st.booleans(), st.integers(-(2**40), 2**40), st.floats(allow_infinity=False, allow_nan=False)))
)
def test_figures_come_back_as_they_were(values: list[Any]) -> None:
    back = unpack(pack_figures(values))
    assert isinstance(back, np.ndarray)
    assert [None if x != x else x for x in back.tolist()] == [None if v is None else float(v) for v in values]


@given(st.lists(st.one_of(st.none(), st.text(max_size=6))))
def test_texts_come_back_as_they_were_and_in_order(values: list[str | None]) -> None:
    back = unpack(pack_texts(values))
    assert isinstance(back, Texts)
    assert [back[code] for code in back.codes] == [value or "" for value in values]
    listed_texts = [back[code] for code in range(len(back))]
    assert [t.encode("utf-8", "surrogatepass") for t in listed_texts] == sorted(
        t.encode("utf-8", "surrogatepass") for t in {"", *(value or "" for value in values)}
    )
    assert all(back.has(back.find(text), text) for text in listed_texts)


@pytest.mark.parametrize("name", [*PAGES])
@pytest.mark.parametrize("where", ["", "status = 200", "words > 9999"])
def test_shares_add_up_and_ask_for_what_they_count(run: RunFile, name: str, where: str) -> None:
    columns = Columns(run, InventoryKind.PAGE)
    mask = met(columns, read_filter(where, PAGES), PAGES)
    shares = spread(columns, PAGES[name], mask)
    assert sum(share.count for share in shares) == int(mask.sum())
    for share in shares:
        assert int((mask & met(columns, share.where, PAGES)).sum()) == share.count > 0


def test_sums_are_those_of_the_rows(run: RunFile) -> None:
    columns = Columns(run, InventoryKind.PAGE)
    mask = met(columns, read_filter("status = 200", PAGES), PAGES)
    found = sums(columns, PAGES, mask, list(PAGES))
    rows = listed(run, where="status = 200").rows
    for name, figure in found.items():
        values = [float(row[name]) for row in rows if row[name] is not None]  # type: ignore[arg-type]
        assert figure.known == len(values)
        if values:
            total = sum(values) / (len(values) if PAGES[name].total == ColumnTotal.AVERAGE else 1)
            assert figure.value == pytest.approx(total)


def test_what_waivers_change_is_changed_in_the_columns_too() -> None:
    found, _ = audit(SITE)
    before = {row["url"]: row for row in listed(found).rows}
    apply_waivers(found.db, [Waiver("link-broken", "/a")])
    after = {row["url"]: row for row in listed(found).rows}
    assert after[ORIGIN + "/a"]["findings"] < before[ORIGIN + "/a"]["findings"]  # type: ignore[operator]
    assert after[ORIGIN + "/"] == before[ORIGIN + "/"]
    stored = dict(found.rows("SELECT url, health FROM inventory WHERE role = 0"))
    assert {url: row["health"] for url, row in after.items()} == stored
    assert met(Columns(found, InventoryKind.PAGE), EVERYTHING, PAGES).all()


def test_the_funnel_asks_for_what_drops_out() -> None:
    blocked = Sample("/robots.txt", "User-agent: *\nDisallow: /a", headers=(("content-type", "text/plain"),))
    for site in (SITE, (*SITE, blocked), SITE[:1]):
        found, _ = audit(site)
        summary = SUMMARY.load(found.meta("summary"))
        for before, step in pairwise(summary.funnel):
            assert listed(found, where=step.where).total == before.count - step.count, step.label
        assert listed(found).total == summary.funnel[0].count


FAULTS = ("", "<h1>a</h1><h1>b</h1>", "<img src=/x.png>", '<a href="/gone">x</a>', '<a href="http://shop.example/">x</a>')


@given(st.lists(st.tuples(st.sampled_from(FAULTS), st.booleans(), st.booleans()), min_size=1, max_size=5))
@settings(max_examples=25, deadline=None)
def test_what_is_lost_and_health_make_a_hundred(pages: list[tuple[str, bool, bool]]) -> None:
    links = "".join(f'<a href="/{n}">x</a>' for n in range(len(pages)))
    site = [
        page(doc(links + body, HEAD.format(f"Page {n}" if named else "", "/") if long else ""), f"/{n}" if n else "/")
        for n, (body, named, long) in enumerate(pages)
    ]
    found, _ = audit((*site, gone("/gone")))
    summary = SUMMARY.load(found.meta("summary"))
    assert summary.health is not None
    assert round(sum(loss.points for loss in summary.lost) + summary.health, 6) == 100
    assert all(loss.points >= 0 for loss in summary.lost) and len(summary.lost) <= 8
    failing = {check for check, figures in summary.checks.items() if figures.findings}
    assert {loss.check for loss in summary.lost} - {""} <= failing
    waiver = Waiver(next(iter(sorted(failing))), "*")
    revised = apply_waivers(found.db, [waiver]) or summary
    assert revised.health is None or round(sum(loss.points for loss in revised.lost) + revised.health, 6) == 100
    assert waiver.check not in {loss.check for loss in revised.lost}
