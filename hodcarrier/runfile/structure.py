"""How a run's site hangs together, from the columns of its inventory: branches by folder, host, language or template, and links between templates."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.inventory.filters import Condition, Filter
from hodcarrier.core.states import BranchKind, InventoryKind, Operator
from hodcarrier.core.structure.folders import Branch, below
from hodcarrier.runfile.columns import Columns
from hodcarrier.runfile.links import LinkColumns
from hodcarrier.runfile.reader import RunFile

COLUMN_OF = {
    BranchKind.FOLDER: "folder",
    BranchKind.HOST: "host",
    BranchKind.LANGUAGE: "lang",
    BranchKind.TEMPLATE: "template",
}
TEMPLATES_SHOWN = 12
PARTS_SHOWN = 20


@dataclass(frozen=True)
class Branches:
    """Branches of a site, the pages that are in none of them, and for each branch what asks the inventory for its pages, and of folders the largest ones in
    it."""

    own: Branch | None
    branches: list[Branch]
    wheres: list[Filter]
    parts: list[list[Branch]]


def branches(run: RunFile, by: BranchKind, path: str) -> Branches:
    """The branches of a site. Folders are those directly below ``path``; the others are all there are."""
    columns = Columns(run, InventoryKind.PAGE)
    name = COLUMN_OF[by]
    every = _by_value(columns, name)
    if by == BranchKind.FOLDER:
        own, found = below(every, path)
        wheres: list[Filter] = [Condition(name, Operator.STARTS, (branch.name,)) for branch in found]
        return Branches(own, found, wheres, [_parts(every, branch) for branch in found])
    ranked = sorted((branch for branch in every if branch.name), key=lambda branch: (-branch.pages, branch.name))
    rest = next((branch for branch in every if not branch.name), None)
    return Branches(rest, ranked, [Condition(name, Operator.IS, (branch.name,)) for branch in ranked], [[] for _ in ranked])


def _parts(every: list[Branch], branch: Branch) -> list[Branch]:
    """The largest folders in a folder; with the pages that lie directly in it where there are any."""
    own, inside = (
        below((each for each in every if each.name.startswith(branch.name)), branch.name) if branch.inner else (None, [])
    )
    return [*inside[:PARTS_SHOWN], *([own] if own and inside else [])]


def _by_value(columns: Columns, name: str) -> list[Branch]:
    """The figures of all pages by the values of a column."""
    texts = columns.texts(name)
    codes, count = texts.codes, len(texts)

    def total(values: NDArray[np.float64]) -> list[float]:
        return [float(value) for value in np.bincount(codes, np.nan_to_num(values), minlength=count)]

    health = columns.figures("health")
    figures = zip(
        np.bincount(codes, minlength=count).tolist(),
        total(columns.figures("indexable")),
        total((~np.isnan(health)).astype("f8")),
        total(health),
        total(columns.figures("findings")),
        total(columns.figures("critical") + columns.figures("high")),
        total(columns.figures("link_flow")),
        strict=True,
    )
    return [
        Branch(texts[code], pages, int(indexable), int(scored), sums, int(findings), int(severe), flow)
        for code, (pages, indexable, scored, sums, findings, severe, flow) in enumerate(figures)
        if pages
    ]


@dataclass(frozen=True)
class TemplateLinks:
    """Followed links between the templates with most pages: ``links[a][b]`` go from pages of template a to pages of template b. ``where`` asks the
    inventory for the pages of each."""

    branches: list[Branch]
    wheres: list[Filter]
    links: list[list[int]]


def template_links(run: RunFile) -> TemplateLinks:
    """The links between the :data:`TEMPLATES_SHOWN` templates with most pages."""
    found = branches(run, BranchKind.TEMPLATE, "")
    shown, wheres = found.branches[:TEMPLATES_SHOWN], found.wheres[:TEMPLATES_SHOWN]
    links = LinkColumns(run)
    templates = links.of_addresses("template")
    place = np.full(len(templates), -1)
    for number, branch in enumerate(shown):
        place[templates.find(branch.name)] = number
    place_of = place[templates.codes]
    sources, targets = links.followed_ends()
    from_, to = place_of[sources], place_of[targets]
    between = (from_ >= 0) & (to >= 0)
    size = len(shown)
    counts = np.bincount(from_[between] * size + to[between], minlength=size * size).reshape(size, size)
    return TemplateLinks(shown, wheres, [[int(n) for n in row] for row in counts])
