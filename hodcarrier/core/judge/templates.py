"""Which pages of a site are made from one template: what one edit would change.

Documents hold marks of their templates (classes of blocks, landmarks, types of data) beside those of their own content. A template's
marks come and go together, on the same pages, and often under the same paths; a table or an example that an author puts here and there
brings single marks, scattered over pages of all kinds. So marks that stand on nearly the same pages are tied into bundles, bundles that are
large enough are taken for templates, and pages with the same bundles for pages of one template.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

Ids = NDArray[np.uint32]
Bits = NDArray[np.uint8]
# Marks belong together when so large a part of the pages that have one of them have both.
TOGETHER_MIN = 0.9
# A bundle has so many marks; fewer when a path goes with them.
MARKS_MIN, MARKS_MIN_WITH_PATH = 3, 1
# What nearly all pages have is the frame of the site, what hardly any has is no template.
SHARE_MIN, SHARE_MAX, PAGES_MIN = 0.02, 0.95, 3
# So many marks are looked at, those of the most pages first, and so many bundles kept.
CANDIDATES_MAX, BUNDLES_MAX = 600, 24
PATH = "at "


def templates_of(marks: Sequence[Ids], names: Mapping[int, str]) -> list[int]:
    """The number of the template of every page, given the ids of the marks that it has. ``names`` are those of the ids.

    Numbers begin with 0 and depend on what pages hold, not on their order. The path of a page is a mark that begins with :data:`PATH`.
    """
    bundles = _bundles(marks, names)
    if not bundles:
        return [0] * len(marks)
    held = np.zeros((len(bundles), len(marks)), dtype=bool)
    bundle_of = {mark: (number, len(bundle)) for number, bundle in enumerate(bundles) for mark in bundle}
    wanted = np.array(sorted(bundle_of), dtype=np.uint32)
    for page, ids in enumerate(marks):
        counts = [0] * len(bundles)
        for mark in np.intersect1d(ids, wanted).tolist():
            counts[bundle_of[mark][0]] += 1
        held[:, page] = [2 * count >= len(bundle) for count, bundle in zip(counts, bundles, strict=True)]
    _, numbers = np.unique(held, axis=1, return_inverse=True)
    return [int(number) for number in np.ravel(numbers)]


def _bundles(marks: Sequence[Ids], names: Mapping[int, str]) -> list[list[int]]:
    """Marks that come and go together, by id; bundles of more pages first, in an order that the order of pages leaves alone."""
    pages = len(marks)
    if pages < PAGES_MIN:
        return []
    flat = np.concatenate(marks) if pages else np.empty(0, np.uint32)
    counts = np.bincount(flat, minlength=1)
    least = max(PAGES_MIN, SHARE_MIN * pages)
    candidates = sorted(
        (int(i) for i in np.flatnonzero((counts >= least) & (counts <= SHARE_MAX * pages))), key=lambda i: (-counts[i], names[i])
    )[:CANDIDATES_MAX]
    rows = _rows(marks, flat, candidates)
    bundles: list[list[int]] = []
    for mark in candidates:
        near = (
            bundle
            for bundle in bundles
            if counts[mark] >= TOGETHER_MIN * counts[bundle[0]] and _together(rows[mark], rows[bundle[0]]) >= TOGETHER_MIN
        )
        found = next(near, None)
        if found is None:
            bundles.append([mark])
        else:
            found.append(mark)
    return [bundle for bundle in bundles if _is_template([names[mark] for mark in bundle])][:BUNDLES_MAX]


def _is_template(names: Sequence[str]) -> bool:
    paths = sum(name.startswith(PATH) for name in names)
    return len(names) - paths >= (MARKS_MIN_WITH_PATH if paths else MARKS_MIN)


def _rows(marks: Sequence[Ids], flat: Ids, wanted: Sequence[int]) -> dict[int, Bits]:
    """For every mark a bit for each page, packed."""
    owners = np.repeat(np.arange(len(marks), dtype=np.uint32), [len(ids) for ids in marks])
    order = np.argsort(flat, kind="stable")
    ordered, owners = flat[order], owners[order]
    rows = {}
    for mark in wanted:
        begin, end = np.searchsorted(ordered, [mark, mark + 1])
        row = np.zeros(len(marks), dtype=bool)
        row[owners[begin:end]] = True
        rows[mark] = np.packbits(row)
    return rows


def _together(one: Bits, other: Bits) -> float:
    both, either = (int(np.bitwise_count(row).sum()) for row in (one & other, one | other))
    return both / either if either else 0.0


def path_marks(pattern: str) -> tuple[str, ...]:
    """The marks of a page's path, given its pattern (``/shop/*/*``): the pattern, and the folder it lies under."""
    folder = pattern.split("/")[1]
    return (PATH + pattern, f"{PATH}/{folder}/**") if pattern.count("/") > 1 else (PATH + pattern,)
