"""The references of a run's pages as columns of the inventory: a row is one reference, in the order of pages and as they stand in each."""

from __future__ import annotations

from functools import cached_property
from typing import Any

import numpy as np
from isal import isal_zlib as zlib
from numpy.typing import NDArray

from hodcarrier.core.facts.values import FOLLOWED_KINDS
from hodcarrier.core.inventory.columns import COLUMNS
from hodcarrier.core.states import InventoryKind
from hodcarrier.runfile.column_format import BREAK, Figures, Texts, unpack
from hodcarrier.runfile.columns import Beside, Columns
from hodcarrier.runfile.link_writer import LinkWriter
from hodcarrier.runfile.packing import unpack_small
from hodcarrier.runfile.reader import RunFile

_ROLES = (InventoryKind.PAGE, InventoryKind.FILE, InventoryKind.EXTERNAL)
# What a column says of the address at one end of a reference, and the columns of addresses that say it.
_OF_TARGET = {"status": "status", "target_indexable": "indexable", "target_depth": "depth", "target_bytes": "decoded_bytes"}
_TEXTS_OF_TARGET = {"failure": "failure", "redirect_to": "redirect_to"}
ALL = slice(None)
# Rows that stand in no more parts than these are read part by part.
PARTS_APART = 3
_OF_SOURCE = {"source_depth": "depth", "source_indexable": "indexable"}


class LinkColumns(Columns):
    """The columns of references. They are made from five rows of numbers and the columns of addresses as they are asked for."""

    def __init__(self, run: RunFile) -> None:
        self.run = run
        self._beside = None
        self._read: dict[str, Figures | Texts] = {}
        self._lists: dict[str, Texts] = {}
        self._whole: dict[str, NDArray[np.uint32]] = {}
        if not run.rows("SELECT 1 FROM link_values LIMIT 1"):
            _write_of_earlier(run)  # into a table that goes with the connection

    @cached_property
    def ids(self) -> NDArray[np.int64]:
        """Numbers of the references, from 1 on."""
        return np.arange(1, len(self) + 1)

    @cached_property
    def names(self) -> frozenset[str]:
        """All columns: every run recorded what they are made of."""
        return frozenset(COLUMNS[InventoryKind.LINK])

    def __len__(self) -> int:
        return int(self._ends[-1])

    @cached_property
    def _ends(self) -> NDArray[np.int64]:
        """Behind which row each part ends."""
        return np.cumsum([rows for (rows,) in self.run.rows("SELECT rows FROM link_values WHERE name = 'source' ORDER BY part")])

    def _numbers(self, name: str, rows: NDArray[np.int64] | slice = ALL) -> NDArray[np.uint32]:
        """A row of numbers, or some of them, for which only the parts are read that they stand in."""
        if name not in self._whole and not isinstance(rows, slice):
            places = np.searchsorted(self._ends, rows, "right")
            parts = np.unique(places)
            if len(parts) <= PARTS_APART:
                found = np.empty(len(rows), np.uint32)
                for part in parts.tolist():
                    here = places == part
                    first = int(self._ends[part - 1]) if part else 0
                    found[here] = self._part(name, part)[rows[here] - first]
                return found
        if name not in self._whole:
            parts_of = [self._part(name, part) for part in range(len(self._ends))]
            self._whole[name] = np.concatenate(parts_of) if parts_of else np.zeros(0, np.uint32)
        return self._whole[name][rows]

    def _part(self, name: str, part: int) -> NDArray[np.uint32]:
        return np.frombuffer(zlib.decompress(self._blob(name, part)), "<u4")

    def _blob(self, name: str, part: int | None = None) -> bytes:
        """A part of a row of numbers, or a list, which has one part only."""
        where, values = ("AND part = ?", (part,)) if part is not None else ("", ())
        found = self.run.rows(f"SELECT data FROM link_values WHERE name = ? {where}", name, *values)
        return bytes(found[0][0])

    @cached_property
    def _faces(self) -> list[tuple[str, str, list[str]]]:
        found: list[tuple[str, str, list[str]]] = unpack_small(self._blob("faces"))
        return found

    @cached_property
    def _addresses(self) -> dict[InventoryKind, Columns]:
        return {role: Columns(self.run, role) for role in _ROLES}

    @cached_property
    def _count(self) -> int:
        """One more than the greatest id of an address."""
        return len(self._listed("urls").codes)

    def _listed(self, name: str) -> Texts:
        """A list that is kept once: URLs and hosts by id, texts by the order in which they were met."""
        if name not in self._lists:
            found = unpack(self._blob(name))
            assert isinstance(found, Texts)
            self._lists[name] = found
        return self._lists[name]

    def figures_at(self, name: str, rows: NDArray[np.int64]) -> Figures:
        """The figures of some rows, looked up for these alone."""
        found = self._made(name, rows) if name not in self._read else None
        return found if isinstance(found, np.ndarray) else super().figures_at(name, rows)

    def texts_at(self, name: str, rows: NDArray[np.int64]) -> Texts:
        """The texts of some rows, looked up for these alone."""
        found = self._made(name, rows) if name not in self._read else None
        return found if isinstance(found, Texts) else super().texts_at(name, rows)

    def _get(self, name: str) -> Figures | Texts | None:
        if name not in self._read:
            found = self._made(name, ALL)
            if found is None:
                return None
            self._read[name] = found
        return self._read[name]

    def _made(self, name: str, rows: NDArray[np.int64] | slice) -> Figures | Texts | None:
        """A column, or some rows of it."""
        if name in ("source", "target"):
            urls = self._listed("urls")
            return Texts(urls.codes[self._numbers(name, rows)], urls.starts, urls.listed)
        if name == "target_host":
            hosts = self._listed("hosts")
            return Texts(hosts.codes[self._numbers("target", rows)], hosts.starts, hosts.listed)
        if name == "text":
            texts = self._listed("texts")
            return Texts(texts.codes[self._numbers("text", rows)], texts.starts, texts.listed)
        if name in ("kind", "landmark", "rel", "follow"):
            return self._of_face(name, rows)
        if name == "number":
            return self._place_on_page[rows]
        if name == "target_is":
            return self._role_of_target(rows)
        if name in _OF_TARGET:
            return self._figures_of(_OF_TARGET[name])[self._numbers("target", rows)]
        if name in _OF_SOURCE:
            return self._figures_of(_OF_SOURCE[name])[self._numbers("source", rows)]
        if name in _TEXTS_OF_TARGET:
            return self._texts_of(_TEXTS_OF_TARGET[name], self._numbers("target", rows))
        if name in ("source_template", "target_template"):
            return self._texts_of("template", self._numbers(name.partition("_")[0], rows))
        return None

    def _of_face(self, name: str, rows: NDArray[np.int64] | slice) -> Figures | Texts:
        faces, codes = self._faces, self._numbers("face", rows)
        if name == "follow":
            flags: Figures = np.array([kind in FOLLOWED_KINDS and "nofollow" not in rel for kind, _, rel in faces], "f8")
            return flags[codes] if len(faces) else np.zeros(0)
        at = ("kind", "landmark", "rel").index(name)
        said = [" ".join(face[at]) if name == "rel" else str(face[at]) for face in faces]
        return _texts(said, codes)

    @cached_property
    def _place_on_page(self) -> Figures:
        sources = self._numbers("source")
        begins = np.flatnonzero(np.r_[True, sources[1:] != sources[:-1]]) if len(sources) else np.zeros(0, np.int64)
        lengths = np.diff(np.r_[begins, len(sources)])
        found: Figures = (np.arange(len(sources)) - np.repeat(begins, lengths) + 1).astype("f8")
        return found

    def _role_of_target(self, rows: NDArray[np.int64] | slice) -> Texts:
        codes = np.zeros(self._count, np.uint32)
        for number, role in enumerate(_ROLES, 1):
            codes[self._addresses[role].ids] = number
        return _texts(["", "page", "file", "other site"], codes[self._numbers("target", rows)])

    def _figures_of(self, name: str) -> Figures:
        found = np.full(self._count, np.nan)
        for role, columns in self._addresses.items():
            if name in COLUMNS[role]:
                found[columns.ids] = columns.figures(name)
        return found

    def _texts_of(self, name: str, addresses: NDArray[np.uint32]) -> Texts:
        """A text of the addresses at one end."""
        texts = self.of_addresses(name)
        return Texts(texts.codes[addresses], texts.starts, texts.listed)

    def of_addresses(self, name: str) -> Texts:
        """A text of every address by its id. The lists of pages, files and other sites become one."""
        if name not in self._lists:
            said: list[str] = [""]
            codes = np.zeros(self._count, np.uint32)
            for role, columns in self._addresses.items():
                if name in COLUMNS[role]:
                    texts = columns.texts(name)
                    codes[columns.ids] = texts.codes + len(said)
                    said += [texts[code] for code in range(len(texts))]
            self._lists[name] = _texts(said, codes)
        return self._lists[name]

    def followed_ends(self) -> tuple[NDArray[np.uint32], NDArray[np.uint32]]:
        """The ids of the pages that followed links stand on, and of the addresses that they lead to."""
        follow = self.figures("follow") == 1
        return self._numbers("source")[follow], self._numbers("target")[follow]


def _texts(said: list[str], codes: NDArray[Any]) -> Texts:
    """A column of texts from a list of them, in any order and not each once, and the places in it."""
    kept = sorted({"", *said}, key=lambda text: text.encode("utf-8", "surrogatepass"))
    place = {text: n for n, text in enumerate(kept)}
    encoded = [text.encode("utf-8", "surrogatepass") for text in kept]
    starts = np.concatenate(([1], 1 + np.cumsum([len(text) + 1 for text in encoded[:-1]]))).astype(np.int64)
    ranks = np.array([place[text] for text in said] or [0], np.int32)
    return Texts(ranks[codes], starts, BREAK + b"".join(text + BREAK for text in encoded))


def _write_of_earlier(run: RunFile) -> None:
    """The rows of references of a file that has none yet, made from the links of its pages."""
    writer = LinkWriter(run.db)
    known = dict(run.rows("SELECT url, id FROM address"))
    for (source,) in run.rows("SELECT address_id FROM page ORDER BY address_id"):
        if (facts := run.facts(source)) is not None:
            writer.add(source, facts, lambda url: known.get(url, 0))
    writer.close()


def columns_of(run: RunFile, of: InventoryKind, beside: Beside | None = None) -> Columns:
    """The columns of pages, of files, of addresses of other sites, or of references; ``beside`` are columns of pages of which the run itself knows nothing."""
    if of == InventoryKind.LINK:
        return LinkColumns(run)
    return Columns(run, of, beside if of == InventoryKind.PAGE else None)
