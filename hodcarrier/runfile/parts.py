"""The findings of a comparison by cause, page, folder and template: how many there were, how many there are, and their classes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from hodcarrier.core.catalogue import load
from hodcarrier.core.states import Change, PartKind
from hodcarrier.core.web.urls import split
from hodcarrier.runfile.comparison import CHANGES, Comparing
from hodcarrier.runfile.prints import Ints, ints, joined
from hodcarrier.runfile.reader import RunFile

NONE = -1
FOLDER_LEVELS = 2
_ALIKE = [CHANGES.index(change) for change in (Change.STILL_THERE, Change.WAIVED)]


@dataclass(frozen=True)
class Part:
    """A cause, page, folder or template of which findings differ. ``check`` is that of a cause, empty for all others; ``then`` and ``now`` are open
    findings of the base and of the head."""

    kind: PartKind
    name: str
    check: str
    then: int
    now: int
    counts: dict[Change, int]


@dataclass(frozen=True)
class Parts:
    """The parts, those with most to tell first within each kind, and of every classed finding the place of its part of each kind (:data:`NONE`: it is in none)."""

    parts: list[Part]
    of: Mapping[PartKind, Ints]


def parts_of(comparing: Comparing) -> Parts:
    """Take the findings of two runs together in every way."""
    parts: list[Part] = []
    of: dict[PartKind, Ints] = {}
    numbered = {PartKind.CAUSE: _by_cause(comparing), **_by_subject(comparing)}
    for kind, (number, names) in numbered.items():
        told, places = _counted(comparing, kind, number, names)
        of[kind] = np.where(places == NONE, NONE, places + len(parts))
        parts += told
    return Parts(parts, of)


def folder_of(url: str) -> str:
    """The folder a URL is in, to the second level: ``/shop/ropes`` for ``/shop/ropes/hemp/12``."""
    folders = [part for part in split(url).path.split("/")[:-1] if part][:FOLDER_LEVELS]
    return "/" + "/".join(folders)


_Numbered = tuple[Ints, list[tuple[str, str]]]


def _by_subject(comparing: Comparing) -> dict[PartKind, _Numbered]:
    """Number every classed finding by the page or file it is on, by the folder of that, and by its template; those on the site itself are in none."""
    classes = comparing.classes
    kinds = (PartKind.PAGE, PartKind.FOLDER, PartKind.TEMPLATE)
    found = {kind: np.full(len(classes.change), NONE, dtype=np.int64) for kind in kinds}
    names: dict[PartKind, dict[str, int]] = {kind: {} for kind in kinds}
    for in_head, run in ((False, comparing.base), (True, comparing.head)):
        rows = np.flatnonzero(classes.in_head == in_head)
        subjects = comparing.columns[in_head].subject[classes.finding[rows]]
        number = {kind: np.full(int(subjects.max(initial=0)) + 1, NONE, dtype=np.int64) for kind in kinds}
        wanted = set(np.unique(subjects).tolist())
        for address, url, template in run.each("SELECT id, url, template FROM inventory"):
            if address in wanted:
                for kind, name in zip(kinds, (url, folder_of(url), template), strict=True):
                    if name:
                        number[kind][address] = names[kind].setdefault(name, len(names[kind]))
        for kind in kinds:
            found[kind][rows] = number[kind][subjects]
    return {kind: (found[kind], [(name, "") for name in names[kind]]) for kind in kinds}


def _by_cause(comparing: Comparing) -> _Numbered:
    """Number every classed finding by its cause: those of both runs with one check and one key are the same."""
    classes, current = comparing.classes, load().current
    found: Ints = np.full(len(classes.change), NONE, dtype=np.int64)
    numbers: dict[tuple[str, str], int] = {}
    names: list[tuple[str, str]] = []
    # The head goes first: its line says how the cause stands now.
    for in_head, run in ((True, comparing.head), (False, comparing.base)):
        of_cause = {}
        for cause, check, key, line in run.each("SELECT id, check_id, key, line FROM cause"):
            of_cause[cause] = numbers.setdefault((current(check), key), len(numbers))
            if of_cause[cause] == len(names):
                names.append((line, current(check)))
        rows = np.flatnonzero(classes.in_head == in_head)
        causes = _causes(run, len(comparing.columns[in_head].subject))
        table = np.full(int(causes.max(initial=0)) + 1, NONE, dtype=np.int64)
        table[list(of_cause)] = list(of_cause.values())
        found[rows] = table[causes[classes.finding[rows]]]
    return found, names


def _causes(run: RunFile, size: int) -> Ints:
    causes = np.zeros(size, np.int64)
    ids, cause_ids = run.rows(f"SELECT {joined('id')}, {joined('cause_id')} FROM finding")[0]
    causes[ints(ids)] = ints(cause_ids)
    return causes


def _counted(comparing: Comparing, kind: PartKind, number: Ints, names: list[tuple[str, str]]) -> tuple[list[Part], Ints]:
    """The parts of one kind in which anything differs, and of every finding the place of its part among them."""
    known = np.flatnonzero(number != NONE)
    before, after = comparing.open
    table = np.bincount(number[known] * len(CHANGES) + comparing.classes.change[known], minlength=len(names) * len(CHANGES))
    table = table.reshape(len(names), len(CHANGES))
    then, now = (np.bincount(number[known[there[known]]], minlength=len(names)) for there in (before, after))
    differing = table.sum(axis=1) - table[:, _ALIKE].sum(axis=1)
    chosen = np.flatnonzero(differing)
    order = chosen[np.lexsort((chosen, -differing[chosen], (then - now)[chosen]))]
    place_of: Ints = np.full(len(names) + 1, NONE, dtype=np.int64)
    place_of[order] = np.arange(len(order))
    parts = [
        Part(
            kind,
            names[at][0],
            names[at][1],
            int(then[at]),
            int(now[at]),
            {change: count for change, count in zip(CHANGES, table[at].tolist(), strict=True) if count},
        )
        for at in order.tolist()
    ]
    return parts, place_of[number]
