"""The template of every page of a run, by the marks that the crawl has noted, with a name that people know it by."""

from __future__ import annotations

import sqlite3
from collections import Counter, defaultdict
from collections.abc import Iterable, Sequence

import numpy as np

from hodcarrier.core.judge.causes import EVERYWHERE
from hodcarrier.core.judge.templates import path_marks, templates_of
from hodcarrier.core.web.urls import path_pattern
from hodcarrier.runfile.packing import unpack_ids

# A template is called by the pattern of paths that so large a part of its pages has, else by that of all paths; so is the only one of a site.
NAMED_MIN = 0.6


def read_templates(db: sqlite3.Connection, documents: Iterable[tuple[int, str]]) -> dict[int, str]:
    """The name of the template of every document, by address id. ``documents`` are their ids and URLs; pages without marks are left out."""
    names = dict(db.execute("SELECT id, name FROM mark"))
    known = {name: number for number, name in names.items()}
    packed = dict(db.execute("SELECT address_id, marks FROM page_mark"))
    ids, patterns, marks = [], [], []
    for address, url in documents:
        if address not in packed:
            continue
        pattern = path_pattern(url)
        of_path = [known.setdefault(mark, len(known) + 1) for mark in path_marks(pattern)]
        ids.append(address)
        patterns.append(pattern)
        marks.append(np.array(sorted({*unpack_ids(packed.pop(address)), *of_path}), dtype=np.uint32))
    numbers = templates_of(marks, {number: name for name, number in known.items()})
    called = _names(numbers, patterns)
    return {address: called[number] for address, number in zip(ids, numbers, strict=True)}


def _names(numbers: Sequence[int], patterns: Sequence[str]) -> dict[int, str]:
    """A name for every template, no two alike: those of more pages come first to theirs."""
    found: defaultdict[int, Counter[str]] = defaultdict(Counter)
    for number, pattern in zip(numbers, patterns, strict=True):
        found[number][pattern] += 1
    names: dict[int, str] = {}
    for number, counted in sorted(found.items(), key=lambda item: (-item[1].total(), min(item[1]))):
        pattern, pages = min(counted.items(), key=lambda item: (-item[1], item[0]))
        name = pattern if len(found) > 1 and pages >= NAMED_MIN * counted.total() else EVERYWHERE
        alike = sum(other == name or other.startswith(f"{name} (") for other in names.values())
        names[number] = f"{name} ({alike + 1})" if alike else name
    return names
