"""Templates are told by marks that come and go together, not by what authors put here and there."""

from __future__ import annotations

import random
from collections import defaultdict

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.judge.templates import path_marks, templates_of

FRAME = ("header", "nav", "div.page", "footer")
PRODUCT = ("div.product", "div.gallery", "form.buy", "data Product")
ARTICLE = ("article", "div.byline", "div.body")


def numbers(pages: list[tuple[str, ...]]) -> list[int]:
    ids: dict[str, int] = {}
    marks = [np.array(sorted({ids.setdefault(name, len(ids)) for name in page}), dtype=np.uint32) for page in pages]
    return templates_of(marks, {number: name for name, number in ids.items()})


def groups(found: list[int]) -> set[frozenset[int]]:
    members = defaultdict(set)
    for page, number in enumerate(found):
        members[number].add(page)
    return {frozenset(pages) for pages in members.values()}


def test_products_articles_and_the_rest_of_a_shop_stay_apart() -> None:
    pages = [(*FRAME, *PRODUCT)] * 20 + [(*FRAME, *ARTICLE)] * 10 + [FRAME] * 4
    assert groups(numbers(pages)) == {frozenset(range(20)), frozenset(range(20, 30)), frozenset(range(30, 34))}


def test_what_authors_put_here_and_there_makes_no_template() -> None:
    """Documentation: one frame, and tables, notes, examples and code wherever they are needed."""
    draw = random.Random(11)
    content = ("div.note", "table.data", "div.example", "pre", "dl.method", "figure", "div.warning")
    pages = [(*FRAME, *(mark for mark in content if draw.random() < 0.4)) for _ in range(300)]
    assert len(set(numbers(pages))) == 1


def test_optional_parts_of_a_template_do_not_divide_it() -> None:
    optional = ("div.rating", "div.offer")
    pages = [(*FRAME, *PRODUCT, *(mark for mark in optional if n % 3 == 0)) for n in range(30)] + [FRAME] * 10
    assert groups(numbers(pages)) == {frozenset(range(30)), frozenset(range(30, 40))}


def test_a_single_mark_makes_a_template_only_with_the_path_that_goes_with_it() -> None:
    shop, rest = path_marks("/shop/*"), path_marks("/*")
    assert len(set(numbers([("main>img", *shop)] * 9 + [("nav", *rest)] * 9))) == 2
    assert len(set(numbers([("main>img", "nav")] * 9 + [("nav",)] * 9))) == 1
    assert len(set(numbers([("nav", *shop)] * 9 + [("nav", *rest)] * 9))) == 1, "a path alone is no template"


def test_few_pages_are_of_one_template() -> None:
    assert numbers([]) == [] and numbers([PRODUCT, ARTICLE]) == [0, 0]


@given(st.lists(st.sets(st.sampled_from([*FRAME, *PRODUCT, *ARTICLE, "at /a/*", "at /b/*"])), max_size=40), st.randoms())
def test_the_order_of_pages_does_not_matter(pages: list[set[str]], draw: random.Random) -> None:
    order = list(range(len(pages)))
    draw.shuffle(order)
    plain = numbers([tuple(sorted(page)) for page in pages])
    shuffled = numbers([tuple(sorted(pages[i])) for i in order])
    assert [plain[i] for i in order] == shuffled
