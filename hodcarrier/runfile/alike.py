"""Changed facts of pages and files, those that one edit explains together: a suffix put behind every title is one change, not a thousand."""

from __future__ import annotations

from dataclasses import dataclass, field
from itertools import count

from hodcarrier.core.judge.edits import edit

# Fields of figures and structures, where a changed value has no words that an edit could tell: alike by their direction, or by their field.
_FIGURES = frozenset({"words", "links", "size"})
_STRUCTURES = frozenset({"template"})


@dataclass(slots=True)
class AlikeChange:
    """A change that ``pages`` of one role have in common: what was taken out and put in, and the first of them with its whole values."""

    id: int
    role: int
    field: str
    removed: str
    added: str
    url: str
    base: str
    head: str
    pages: int = 0


@dataclass
class AlikeChanges:
    """Takes in changed facts one by one and tells which have an edit in common."""

    groups: dict[tuple[int, str, str, str], AlikeChange] = field(default_factory=dict)
    _ids: count[int] = field(default_factory=lambda: count(1))

    def add(self, role: int, url: str, name: str, base: str, head: str) -> int:
        """Put a changed fact to those that are alike; gives their number."""
        removed, added = _what_changed(name, base, head)
        key = (role, name, removed, added)
        group = self.groups.get(key)
        if group is None:
            group = self.groups[key] = AlikeChange(next(self._ids), role, name, removed, added, url, base, head)
        group.pages += 1
        return group.id


def _what_changed(name: str, base: str, head: str) -> tuple[str, str]:
    if name in _STRUCTURES:
        return "", ""
    if name in _FIGURES:
        return ("", "more") if int(head) > int(base) else ("", "fewer")
    return edit(base, head)
