"""The columns of the inventory, gathered page by page while a run is examined, and written at its end."""

from __future__ import annotations

import sqlite3
from array import array
from collections import Counter, defaultdict
from collections.abc import Iterator

import numpy as np

from hodcarrier.core.catalogue import PageView
from hodcarrier.core.facts.length import DESCRIPTION_PX, TITLE_PX, pixels
from hodcarrier.core.facts.values import FOLLOWED_KINDS
from hodcarrier.core.inventory.columns import COLUMNS
from hodcarrier.core.states import ColumnKind, InventoryKind
from hodcarrier.core.structure.flow import flow, groups
from hodcarrier.examine.views import RunViews
from hodcarrier.runfile import schema
from hodcarrier.runfile.column_writer import Store, copies, write_stored
from hodcarrier.runfile.link_writer import LinkWriter
from hodcarrier.runfile.packing import unpack_file

NAN = float("nan")
ROLES = (InventoryKind.PAGE, InventoryKind.FILE, InventoryKind.EXTERNAL)


class Gathering:
    """What only the facts of pages tell, by column: a figure or a text for every page, in the order of ids."""

    def __init__(self, views: RunViews) -> None:
        self._views = views
        self._figures: defaultdict[str, array[float]] = defaultdict(lambda: array("d"))
        self._texts: defaultdict[str, list[str]] = defaultdict(list)
        self._hashes: list[str] = []
        # On how many pages an address of another site stands.
        self._linked: Counter[int] = Counter()
        self._links = LinkWriter(views.db)

    def add(self, view: PageView) -> None:
        """Note one page."""
        figures, texts = self._figures, self._texts
        hops, final = self._end_of(view)
        for name, figure in (("hops", hops), ("final_status", final), ("in_sitemap", view.listed)):
            figures[name].append(NAN if figure is None else figure)
        figures["indexable"].append(view.indexable)
        texts["canonical_is"].append(_canonical_is(view))
        for name, value in self._of_document(view):
            if isinstance(value, str):
                texts[name].append(value)
            else:
                figures[name].append(value)

    def _end_of(self, view: PageView) -> tuple[int | None, int | None]:
        """Over how many redirects a page leads, and the status at their end."""
        answer = view.answer
        if answer is None or answer.status is None:
            return None, None
        if not 300 <= answer.status < 400:
            return 0, answer.status
        target = view.lookup(view.url)
        return len(target.hops), target.final_status

    def _of_document(self, view: PageView) -> Iterator[tuple[str, float | str]]:
        facts = view.facts
        if facts is None:
            self._hashes.append("")
            yield from _NOTHING
            return
        self._hashes.append(facts.text.text_hash if facts.text.words else "")
        known, ids = self._views.known, self._views.ids
        self._links.add(ids[view.url], facts, lambda url: ids.get(url, 0))
        own = external = nofollow = 0
        others: set[int] = set()
        for link in facts.links.all:
            if link.kind in FOLLOWED_KINDS:
                nofollow += "nofollow" in link.rel
                role = known[ids.get(link.url, 0)].role
                own += role == schema.PAGE
                external += role == schema.EXTERNAL and link.url.startswith("http")
            if number := ids.get(link.url):
                others.add(number)
        self._linked.update(number for number in others if known[number].role == schema.EXTERNAL)
        kinds = Counter(link.kind for link in facts.links.all)
        yield "links_out", own
        yield "links_external", external
        yield "links_nofollow", nofollow
        yield "scripts", kinds["script"]
        yield "styles", kinds["style"]
        yield "iframes", kinds["iframe"]
        yield "kind", str(view.kind or "")
        yield "h1_count", sum(heading.level == 1 for heading in facts.text.headings)
        yield "headings", len(facts.text.headings)
        yield "lang", facts.language.lang
        yield "language", facts.text.language
        yield "hreflang", len(view.alternates)
        yield "images", len(facts.media.images)
        yield "images_without_alt", sum(image.alt is None for image in facts.media.images)
        yield "author", facts.trust.author
        yield "dated", facts.trust.dated
        yield "data_types", ", ".join(sorted(set(facts.data.types)))
        yield "data_errors", len(facts.data.errors)
        yield "social", len(facts.preview.social)
        markup = facts.markup
        yield "html_bytes", markup.html_bytes
        visible = facts.text.visible_bytes
        yield "text_share", round(100 * visible / markup.html_bytes, 1) if visible >= 0 and markup.html_bytes else NAN
        yield "elements", markup.elements
        yield "blocking_scripts", len(markup.blocking_scripts)
        yield "inline_bytes", markup.inline_bytes
        yield "viewport", facts.head.viewport is not None
        yield "doctype", markup.doctype
        yield "encoding", facts.language.encoding
        for name, text, size in (("title", facts.head.title, TITLE_PX), ("description", facts.head.description, DESCRIPTION_PX)):
            yield f"{name}_length", len(text)
            yield f"{name}_px", round(pixels(text, size))

    def write(self, db: sqlite3.Connection) -> None:
        """Write all columns of pages, files and addresses of other sites, from what was gathered and from the tables."""
        self._links.close()
        for role in ROLES:
            write_stored(db, role)
        store = Store(db, InventoryKind.PAGE)
        for name, figures in self._figures.items():
            store.figures(name, np.frombuffer(figures, "f8") if len(figures) else [])
        for name, texts in self._texts.items():
            store.texts(name, texts)
        store.figures("text_copies", copies(self._hashes))
        self._write_files(db)
        if not self._views.borrowed:
            self._write_flow(store)

    def _write_flow(self, store: Store) -> None:
        """How links flow to each page, the group it is in, and how it is reached."""
        views, ids = self._views, np.array(store.ids, np.int64)
        place = np.zeros(len(views.known) + 1, np.int64)
        place[ids] = np.arange(len(ids))
        sources = [np.asarray(found) for found in views.inlinks.values()]
        targets = [np.full(len(found), target) for target, found in views.inlinks.items()]
        hops = [(i, item.redirect_id) for i in ids.tolist() if (item := views.known[i]).redirect_id is not None]
        onward = [(i, hop) for i, hop in hops if views.known[hop].role == schema.PAGE]
        sources.append(np.array([i for i, _ in onward], "u4"))
        targets.append(np.array([hop for _, hop in onward], np.int64))
        edges = place[np.concatenate(sources)], place[np.concatenate(targets)]
        store.figures("link_flow", np.round(flow(*edges, len(ids)), 4))
        store.figures("link_group", groups(*edges, len(ids)).astype("f8"))
        store.texts("reached_from", (views.known[before].url if (before := views.before.get(i)) else "" for i in ids.tolist()))

    def _write_files(self, db: sqlite3.Connection) -> None:
        views, store = self._views, Store(db, InventoryKind.FILE)
        ids = store.ids
        store.texts("used_as", (", ".join(views.file_kinds.get(i, ())) for i in ids))
        store.figures("used_by", [len(views.file_users.get(i, ())) for i in ids])
        facts = {i: unpack_file(blob) for i, blob in db.execute("SELECT address_id, facts FROM file_fact")}
        read = [facts.get(i) for i in ids]
        store.texts("file_type", (each.type if each else "" for each in read))
        store.figures("width", [each.width or None if each else None for each in read])
        store.figures("height", [each.height or None if each else None for each in read])
        store.figures("copies", copies([each.digest if each else "" for each in read]))
        others = Store(db, InventoryKind.EXTERNAL)
        others.figures("used_by", [self._linked[i] for i in others.ids])


# What is said of a page that was not read as a document: nothing.
_NOTHING: tuple[tuple[str, float | str], ...] = tuple(
    (column.name, "" if column.kind == ColumnKind.TEXT else NAN)
    for column in COLUMNS[InventoryKind.PAGE].values()
    if column.name
    in {
        "links_out", "links_external", "links_nofollow", "scripts", "styles", "iframes", "kind", "h1_count", "headings", "lang", "language",
        "hreflang", "images", "images_without_alt", "author", "dated", "data_types", "data_errors", "social", "html_bytes", "text_share",
        "elements", "blocking_scripts", "inline_bytes", "viewport", "doctype", "encoding", "title_length", "title_px", "description_length",
        "description_px",
    }
)  # fmt: skip


def _canonical_is(view: PageView) -> str:
    if view.facts is None:
        return ""
    if not view.canonical:
        return "nothing"
    if view.canonical == view.url:
        return "itself"
    return "another page" if view.lookup(view.canonical).internal else "another site"
