"""What became of the pages of a site between two runs, gathered into groups that one thing explains: a rule of robots.txt, a folder that is gone."""

from __future__ import annotations

from collections import Counter, defaultdict
from dataclasses import dataclass, field, replace
from typing import NamedTuple

from hodcarrier.core.judge.events import Fate, fate
from hodcarrier.core.states import Area, EventKind
from hodcarrier.core.summary import BEHIND
from hodcarrier.core.web.urls import split
from hodcarrier.runfile.page_changes import PageChanges
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.sights import Sights

EXAMPLES_MAX = 3
# Beyond so many folders with the same fate the folder explains nothing.
FOLDERS_MAX = 3
# So many pages of a template that the earlier run did not have are a new template, not some pages that were added.
TEMPLATE_PAGES_MIN = 3
_BY_FOLDER = (EventKind.BROKEN, EventKind.MOVED, EventKind.GONE)
# The areas whose checks look at a fact of a page.
AREAS_OF_FIELDS: dict[str, tuple[Area, ...]] = {
    "title": (Area.TITLES,),
    "description": (Area.TITLES,),
    "h1": (Area.TEXT,),
    "canonical": (Area.INDEX,),
    "robots": (Area.INDEX,),
    "words": (Area.TEXT, Area.COPIES),
    "template": tuple(Area),
}


@dataclass(frozen=True, slots=True)
class GroupKey:
    """What pages, or findings, must share to be one event: see :class:`~hodcarrier.core.judge.events.Event` for the parts."""

    kind: EventKind
    about: str = ""
    way: str = ""


class Edited(NamedTuple):
    """A page of which a fact changed, by its ids."""

    base_id: int
    head_id: int


@dataclass
class Fates:
    """Groups of pages by their fate: the number of each page's group by its id in the base and in the head, and by URL.

    ``targets`` says where the pages of a group moved to, ``examples`` are the first of each, ``pages`` how many there are. ``edited`` are
    the pages of which a fact changed and nothing else became, by the fact.
    """

    keys: list[GroupKey] = field(default_factory=list)
    of_base: dict[int, int] = field(default_factory=dict)
    of_head: dict[int, int] = field(default_factory=dict)
    of_url: dict[str, int] = field(default_factory=dict)
    targets: dict[int, str] = field(default_factory=dict)
    examples: dict[int, list[str]] = field(default_factory=lambda: defaultdict(list))
    pages: Counter[int] = field(default_factory=Counter)
    edited: dict[str, list[Edited]] = field(default_factory=lambda: defaultdict(list))


@dataclass(slots=True)
class _Page:
    url: str
    fate: Fate
    base_id: int
    head_id: int
    named_before: tuple[str, str]
    named: tuple[str, str]
    template: str
    about: str = ""
    target: str = ""


class Gathering:
    """Takes in what became of pages, one after the other, and groups them at the end."""

    def __init__(self, base: RunFile, head: RunFile, sights: tuple[Sights, Sights]) -> None:
        self._base, self._head, self._sights = base, head, sights
        self._pages: list[_Page] = []
        self._fates = Fates()

    def add(self, page: PageChanges) -> None:
        """Take in one page that differs."""
        whole = [s.complete and not s.hidden.covers(page.url) for s in self._sights]
        found = fate(page.before, page.after, *whole)
        if found is not None:
            if found.kind == EventKind.UNREACHED and page.url in self._sights[1].hidden.pages:
                found = Fate(found.kind, BEHIND)
            self._pages.append(_Page(page.url, found, page.base_id, page.head_id, page.named_before, page.named, page.template))
            return
        for name, _, _ in page.facts:
            if name in AREAS_OF_FIELDS:
                self._fates.edited[name].append(Edited(page.base_id, page.head_id))

    def groups(self) -> Fates:
        """All pages in groups."""
        self._find_rules()
        self._find_moves()
        self._find_templates()
        folders: dict[Fate, set[str]] = defaultdict(set)
        for page in self._pages:
            if page.fate.kind in _BY_FOLDER:
                page.about = folder(page.url)
                folders[page.fate].add(page.about)
        numbers: dict[GroupKey, int] = {}
        new = {page.url for page in self._pages if page.fate.kind == EventKind.APPEARED}
        # A new page is a part of the move that led to it, so moves are numbered first.
        for page in sorted(self._pages, key=lambda each: each.fate.kind != EventKind.MOVED):
            if len(folders.get(page.fate, ())) > FOLDERS_MAX:
                page.about = ""
            self._put(page, numbers, new)
        return self._fates

    def _put(self, page: _Page, numbers: dict[GroupKey, int], new: set[str]) -> None:
        fates = self._fates
        if page.url in fates.of_url:
            group = fates.of_url[page.url]  # where a page moved to
        else:
            key = GroupKey(page.fate.kind, page.about, page.fate.way)
            group = numbers.setdefault(key, len(fates.keys))
            if group == len(fates.keys):
                fates.keys.append(key)
            fates.pages[group] += 1
            if len(fates.examples[group]) < EXAMPLES_MAX:
                fates.examples[group].append(page.url)
        fates.of_url[page.url] = group
        if page.base_id:
            fates.of_base[page.base_id] = group
        if page.head_id:
            fates.of_head[page.head_id] = group
        if page.target:
            fates.targets.setdefault(group, page.target)
            if page.target in new:
                fates.of_url.setdefault(page.target, group)

    def _find_rules(self) -> None:
        """Name the rule of robots.txt that blocks, or blocked, a page."""
        for kind, run in ((EventKind.BLOCKED, self._head), (EventKind.FREED, self._base)):
            pages = [page for page in self._pages if page.fate.kind == kind]
            if pages:
                rules = dict(run.rows("SELECT id, rule FROM address WHERE rule <> ''"))
                for page in pages:
                    page.about = rules.get(page.head_id if kind == EventKind.BLOCKED else page.base_id, "")

    def _find_moves(self) -> None:
        """Tell where pages went: by their redirect, or by the one new page that has their title and heading."""
        new: dict[tuple[str, str], list[str]] = defaultdict(list)
        for page in self._pages:
            if page.fate.kind == EventKind.APPEARED and page.named[0]:
                new[page.named].append(page.url)
        lost = Counter(page.named_before for page in self._pages if page.fate.kind in (EventKind.BROKEN, EventKind.GONE))
        for page in self._pages:
            if page.fate.kind == EventKind.MOVED:
                found = self._head.rows(
                    "SELECT r.url FROM inventory i JOIN address r ON r.id = i.redirect_id WHERE i.id = ?", page.head_id
                )
                page.target = found[0][0] if found else ""
                page.fate = replace(page.fate, way="redirect")
            elif page.fate.kind in (EventKind.BROKEN, EventKind.GONE):
                candidates = new.get(page.named_before, [])
                if len(candidates) == 1 and lost[page.named_before] == 1:
                    page.fate, page.target = Fate(EventKind.MOVED, page.fate.way or "gone"), candidates[0]

    def _find_templates(self) -> None:
        """Tell new pages that are built like none before apart from those that were merely added."""
        patterns = Counter(pattern_of(page.template) for page in self._pages if page.fate.kind == EventKind.APPEARED)
        many = {pattern for pattern, pages in patterns.items() if pattern and pages >= TEMPLATE_PAGES_MIN}
        if many:
            known = {
                pattern_of(template) for (template,) in self._base.rows("SELECT DISTINCT template FROM inventory WHERE role = 0")
            }
            for page in self._pages:
                if page.fate.kind == EventKind.APPEARED and pattern_of(page.template) in many - known:
                    page.about = pattern_of(page.template)


def pattern_of(template: str | None) -> str:
    """The URL pattern of a template: its name without what tells templates of one pattern apart."""
    return (template or "").partition(" ")[0]


def folder(url: str) -> str:
    """The first part of a URL's path, as in ``/guides``; ``/`` for pages at the top."""
    parts = [part for part in split(url).path.split("/") if part]
    return f"/{parts[0]}" if len(parts) > 1 else "/"
