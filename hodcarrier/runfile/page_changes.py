"""What became of pages between two runs."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from hodcarrier.runfile import schema
from hodcarrier.runfile.reader import RunFile

WORDS_CHANGE_RATIO = 0.10
_TEXT_FIELDS = ("title", "description", "h1", "canonical", "robots")
PAGE_FIELDS = ("status", "redirect target", "title", "description", "h1", "canonical", "robots", "words", "template", "why_not")


@dataclass(frozen=True, slots=True)
class PageChanges:
    """What became of one page: it ``appeared``, is ``gone``, or facts of it changed (field, before, after)."""

    url: str
    appeared: bool = False
    gone: bool = False
    facts: tuple[tuple[str, str, str], ...] = ()


def compare_pages(base: RunFile, head: RunFile) -> Iterator[PageChanges]:
    """Pages that came, went or changed between two runs, by URL. Both are read in streams, side by side."""
    for old, new in _side_by_side(_pages(base), _pages(head)):
        if old is None or new is None:
            yield PageChanges((new or old)[0], appeared=old is None, gone=new is None)  # type: ignore[index]
        elif old[1:] != new[1:]:
            before, after = (dict(zip(PAGE_FIELDS, row[1:], strict=True)) for row in (old, new))
            if facts := tuple(_changed_facts(before, after)):
                yield PageChanges(new[0], facts=facts)


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
    """Pages that were reached, by URL: the URL, then :data:`PAGE_FIELDS`."""
    return run.each(
        "SELECT i.url, i.status, r.url, i.title, i.description, i.h1, i.canonical, i.robots, i.words, i.template, i.why_not"
        f" FROM inventory i LEFT JOIN address r ON r.id = i.redirect_id WHERE i.role = 0 AND +i.state IN ({schema.DONE}, {schema.DISALLOWED})"
        " ORDER BY i.url"
    )


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
    if old["template"] != new["template"]:
        yield "template", old["template"], new["template"]


def _shown(value: Any) -> str:
    return "none" if value is None else str(value)


def _indexable(why_not: str | None) -> str:
    return "yes" if why_not == "" else f"no ({why_not})"
