"""Folders: figures of each with all that lies below, and nothing counted twice."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.structure.folders import Branch, below

PARTS = st.sampled_from(["shop", "guides", "a", "shop-old"])
PATHS = st.lists(PARTS, max_size=4).map(lambda parts: "/" + "".join(f"{part}/" for part in parts))
FOLDERS = st.dictionaries(PATHS, st.integers(1, 9), max_size=12).map(
    lambda found: [
        Branch(path, pages, pages, pages, 50.0 * pages, 2 * pages, pages, float(pages)) for path, pages in found.items()
    ]
)


@given(FOLDERS, PATHS)
def test_branches_and_own_pages_are_all_that_lies_below(folders: list[Branch], path: str) -> None:
    own, found = below(folders, path)
    inside = [folder for folder in folders if folder.name.startswith(path)]
    assert sum(branch.pages for branch in found) + (own.pages if own else 0) == sum(folder.pages for folder in inside)
    assert all(branch.health == 50.0 and branch.findings == 2 * branch.pages for branch in found)
    for branch in found:
        _, deeper = below(folders, branch.name)
        assert branch.inner == len(deeper)


def test_a_folder_without_pages_of_its_own_is_there_for_what_lies_in_it() -> None:
    own, found = below([Branch("/shop/ropes/", 3), Branch("/shop/tar/", 1), Branch("/", 2)], "/")
    assert own == Branch("/", 2)
    assert [(branch.name, branch.pages, branch.inner, branch.health) for branch in found] == [("/shop/", 4, 2, None)]


def test_names_that_begin_alike_are_different_folders() -> None:
    _, found = below([Branch("/shop/", 1), Branch("/shop-old/", 2)], "/")
    assert [branch.name for branch in found] == ["/shop-old/", "/shop/"]
