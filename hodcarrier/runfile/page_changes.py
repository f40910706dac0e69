"""What became of pages and files between two runs."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from hodcarrier.core.judge.events import Outcome
from hodcarrier.core.states import InventoryKind
from hodcarrier.runfile import schema
from hodcarrier.runfile.columns import Columns
from hodcarrier.runfile.reader import RunFile

WORDS_CHANGE_RATIO = 0.10
LINKS_CHANGE_RATIO = 0.10
SIZE_CHANGE_RATIO = 0.10
_TEXT_FIELDS = ("title", "description", "h1", "canonical", "robots")
_REACHED = (schema.DONE, schema.DISALLOWED)
PAGE_FIELDS = (
    "status",
    "redirect target",
    "title",
    "description",
    "h1",
    "canonical",
    "robots",
    "words",
    "template",
    "why_not",
    "links",
)


@dataclass(frozen=True, slots=True)
class PageChanges:
    """What became of one page: it ``appeared``, is ``gone``, or facts of it changed (field, before, after).

    ``before`` and ``after`` are what each run says of it, ``base_id`` and ``head_id`` its ids there (0: not known), ``named_before``
    and ``named`` its title and H1, ``template`` the template it has in the head.
    """

    url: str
    appeared: bool = False
    gone: bool = False
    facts: tuple[tuple[str, str, str], ...] = ()
    before: Outcome | None = None
    after: Outcome | None = None
    base_id: int = 0
    head_id: int = 0
    named_before: tuple[str, str] = ("", "")
    named: tuple[str, str] = ("", "")
    template: str = ""


def compare_pages(base: RunFile, head: RunFile) -> Iterator[PageChanges]:
    """Pages that came, went or changed between two runs, by URL. Both are read in streams, side by side."""
    for old, new in _side_by_side(_pages(base), _pages(head)):
        row = new or old
        assert row is not None
        reached_old, reached_new = (each is not None and each[2] in _REACHED for each in (old, new))
        if (not reached_old and not reached_new) or (old and new and old[2:] == new[2:]):
            continue
        facts: tuple[tuple[str, str, str], ...] = ()
        if old and new and reached_old and reached_new:
            before, after = (dict(zip(PAGE_FIELDS, each[3:], strict=True)) for each in (old, new))
            facts = tuple(_changed_facts(before, after))
        yield PageChanges(
            row[0],
            reached_new and not reached_old,
            reached_old and not reached_new,
            facts,
            _outcome(old),
            _outcome(new),
            old[1] if old else 0,
            new[1] if new else 0,
            _named(old),
            _named(new),
            (new[11] if new else "") or "",
        )


@dataclass(frozen=True, slots=True)
class FileChanges:
    """What became of one file: it ``appeared``, is ``gone``, or facts of it changed (field, before, after)."""

    url: str
    appeared: bool = False
    gone: bool = False
    facts: tuple[tuple[str, str, str], ...] = ()


def compare_files(base: RunFile, head: RunFile) -> Iterator[FileChanges]:
    """Files that came, went or changed between two runs, by URL: their status, media type, and size beyond :data:`SIZE_CHANGE_RATIO`. One that
    a run did not fetch says nothing."""
    for old, new in _side_by_side(_files(base), _files(head)):
        if old is None or new is None:
            row = new or old
            assert row is not None
            if row[1] == schema.DONE:
                yield FileChanges(row[0], old is None, new is None)
            continue
        if old[1] != schema.DONE or new[1] != schema.DONE:
            continue
        before, after = old[2:], new[2:]
        facts = [(name, _shown(b), _shown(a)) for name, b, a in zip(("status", "type"), before, after, strict=False) if b != a]
        size, now = before[2], after[2]
        if size and now and abs(now - size) > SIZE_CHANGE_RATIO * size:
            facts.append(("size", str(size), str(now)))
        if facts:
            yield FileChanges(old[0], facts=tuple(facts))


def _files(run: RunFile) -> Iterator[tuple[Any, ...]]:
    """All files, by URL: the URL, the state, status, media type and size in bytes."""
    sql = "SELECT url, state, status, content_type, decoded_bytes FROM inventory WHERE role = 1 ORDER BY url"
    return run.each(sql)


def _outcome(row: tuple[Any, ...] | None) -> Outcome | None:
    return None if row is None else Outcome(row[12], row[3])


def _named(row: tuple[Any, ...] | None) -> tuple[str, str]:
    return ("", "") if row is None else (row[5] or "", row[7] or "")


_Pair = tuple[tuple[Any, ...] | None, tuple[Any, ...] | None]


def _side_by_side(base: Iterator[tuple[Any, ...]], head: Iterator[tuple[Any, ...]]) -> Iterator[_Pair]:
    """Rows of two streams, each in the order of its first column; those that are alike in it come together."""
    old, new = next(base, None), next(head, None)
    while old is not None or new is not None:
        if new is None or (old is not None and old[0] < new[0]):
            yield old, None
            old = next(base, None)
        elif old is None or new[0] < old[0]:
            yield None, new
            new = next(head, None)
        else:
            yield old, new
            old, new = next(base, None), next(head, None)


def _pages(run: RunFile) -> Iterator[tuple[Any, ...]]:
    """All pages, by URL: the URL, the id and the state, then :data:`PAGE_FIELDS`."""
    links_of = _links(run) if run.has_columns else {}
    rows = run.each(
        "SELECT i.url, i.id, i.state, i.status, r.url, i.title, i.description, i.h1, i.canonical, i.robots, i.words, i.template, i.why_not"
        " FROM inventory i LEFT JOIN address r ON r.id = i.redirect_id WHERE i.role = 0 ORDER BY i.url"
    )
    return ((*row, links_of.get(row[1])) for row in rows)


def _links(run: RunFile) -> dict[int, int]:
    """How many pages of the site each page links to, by id."""
    columns = Columns(run, InventoryKind.PAGE)
    links = columns.figures("links_out")
    known = np.isfinite(links)
    return dict(zip(columns.ids[known].tolist(), links[known].astype(int).tolist(), strict=True))


def _changed_facts(old: dict[str, Any], new: dict[str, Any]) -> Iterator[tuple[str, str, str]]:
    """The facts of a page that differ: field, before, after."""
    for name in ("status", "redirect target"):
        if old[name] != new[name]:
            yield name, _shown(old[name]), _shown(new[name])
    if (old["why_not"] == "") != (new["why_not"] == ""):
        yield "indexable", _indexable(old["why_not"]), _indexable(new["why_not"])
    if old["title"] is None or new["title"] is None:
        return
    for name in _TEXT_FIELDS:
        if old[name] != new[name]:
            yield name, old[name], new[name]
    if abs(new["words"] - old["words"]) > WORDS_CHANGE_RATIO * max(old["words"], 1):
        yield "words", str(old["words"]), str(new["words"])
    if None not in (old["links"], new["links"]) and abs(new["links"] - old["links"]) > LINKS_CHANGE_RATIO * max(old["links"], 1):
        yield "links", str(old["links"]), str(new["links"])
    if old["template"] != new["template"]:
        yield "template", old["template"], new["template"]


def _shown(value: Any) -> str:
    return "none" if value is None else str(value)


def _indexable(why_not: str | None) -> str:
    return "yes" if why_not == "" else f"no ({why_not})"
