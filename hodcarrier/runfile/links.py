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
from hodcarrier.runfile.columns import Columns
from hodcarrier.runfile.link_writer import LinkWriter
from hodcarrier.runfile.packing import unpack_small
from hodcarrier.runfile.reader import RunFile

_ROLES = (InventoryKind.PAGE, InventoryKind.FILE, InventoryKind.EXTERNAL)
# What a column says of the address at one end of a reference, and the columns of addresses that say it.
_OF_TARGET = {"status": "status", "target_indexable": "indexable", "target_depth": "depth", "target_bytes": "decoded_bytes"}
_TEXTS_OF_TARGET = {"failure": "failure", "redirect_to": "redirect_to"}
_OF_SOURCE = {"source_depth": "depth", "source_indexable": "indexable"}


class LinkColumns(Columns):
    """The columns of references. They are made from five rows of numbers and the columns of addresses as they are asked for."""

    def __init__(self, run: RunFile) -> None:
        self.run = run
        self._read: dict[str, Figures | Texts] = {}
        if not run.rows("SELECT 1 FROM link_values LIMIT 1"):
            _write_of_earlier(run)  # into a table that goes with the connection

    @cached_property
    def ids(self) -> NDArray[np.int64]:
        """Numbers of the references, from 1 on."""
        return np.arange(1, len(self._sources) + 1)

    @cached_property
    def names(self) -> frozenset[str]:
        """All columns: every run recorded what they are made of."""
        return frozenset(COLUMNS[InventoryKind.LINK])

    def __len__(self) -> int:
        return len(self._sources)

    def _numbers(self, name: str) -> NDArray[np.uint32]:
        parts = [zlib.decompress(data) for data in self._blobs(name)]
        return np.frombuffer(b"".join(parts), "<u4")

    def _blobs(self, name: str) -> list[bytes]:
        return [data for (data,) in self.run.rows("SELECT data FROM link_values WHERE name = ? ORDER BY part", name)]

    @cached_property
    def _sources(self) -> NDArray[np.uint32]:
        return self._numbers("source")

    @cached_property
    def _targets(self) -> NDArray[np.uint32]:
        return self._numbers("target")

    @cached_property
    def _faces(self) -> tuple[list[tuple[str, str, list[str]]], NDArray[np.uint32]]:
        return unpack_small(self._blobs("faces")[0]), self._numbers("face")

    @cached_property
    def _addresses(self) -> dict[InventoryKind, Columns]:
        return {role: Columns(self.run, role) for role in _ROLES}

    @cached_property
    def _count(self) -> int:
        """One more than the greatest id of an address."""
        return len(self._listed("urls").codes)

    def _listed(self, name: str) -> Texts:
        found = unpack(self._blobs(name)[0])
        assert isinstance(found, Texts)
        return found

    def _get(self, name: str) -> Figures | Texts | None:
        if name not in self._read:
            found = self._made(name)
            if found is None:
                return None
            self._read[name] = found
        return self._read[name]

    def _made(self, name: str) -> Figures | Texts | None:
        if name in ("source", "target"):
            urls = self._listed("urls")
            return Texts(urls.codes[self._sources if name == "source" else self._targets], urls.starts, urls.listed)
        if name == "target_host":
            hosts = self._listed("hosts")
            return Texts(hosts.codes[self._targets], hosts.starts, hosts.listed)
        if name == "text":
            texts = self._listed("texts")
            return Texts(texts.codes[self._numbers("text")], texts.starts, texts.listed)
        if name in ("kind", "landmark", "rel", "follow"):
            return self._of_face(name)
        if name == "number":
            return self._place_on_page()
        if name == "target_is":
            return self._role_of_target()
        if name in _OF_TARGET:
            return self._figures_of(_OF_TARGET[name])[self._targets]
        if name in _OF_SOURCE:
            return self._figures_of(_OF_SOURCE[name])[self._sources]
        if name in _TEXTS_OF_TARGET:
            return self._texts_of(_TEXTS_OF_TARGET[name], self._targets)
        if name in ("source_template", "target_template"):
            return self._texts_of("template", self._sources if name == "source_template" else self._targets)
        return None

    def _of_face(self, name: str) -> Figures | Texts:
        faces, codes = self._faces
        if name == "follow":
            flags: Figures = np.array([kind in FOLLOWED_KINDS and "nofollow" not in rel for kind, _, rel in faces], "f8")
            return flags[codes] if len(faces) else np.zeros(0)
        at = ("kind", "landmark", "rel").index(name)
        said = [" ".join(face[at]) if name == "rel" else str(face[at]) for face in faces]
        return _texts(said, codes)

    def _place_on_page(self) -> Figures:
        sources = self._sources
        begins = np.flatnonzero(np.r_[True, sources[1:] != sources[:-1]]) if len(sources) else np.zeros(0, np.int64)
        lengths = np.diff(np.r_[begins, len(sources)])
        found: Figures = (np.arange(len(sources)) - np.repeat(begins, lengths) + 1).astype("f8")
        return found

    def _role_of_target(self) -> Texts:
        codes = np.zeros(self._count, np.uint32)
        for number, role in enumerate(_ROLES, 1):
            codes[self._addresses[role].ids] = number
        return _texts(["", "page", "file", "other site"], codes[self._targets])

    def _figures_of(self, name: str) -> Figures:
        found = np.full(self._count, np.nan)
        for role, columns in self._addresses.items():
            if name in COLUMNS[role]:
                found[columns.ids] = columns.figures(name)
        return found

    def _texts_of(self, name: str, addresses: NDArray[np.uint32]) -> Texts:
        """A text of the addresses at one end. The lists of pages, files and other sites become one."""
        said: list[str] = [""]
        codes = np.zeros(self._count, np.uint32)
        for role, columns in self._addresses.items():
            if name in COLUMNS[role]:
                texts = columns.texts(name)
                codes[columns.ids] = texts.codes + len(said)
                said += [texts[code] for code in range(len(texts))]
        return _texts(said, codes[addresses])


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


def columns_of(run: RunFile, of: InventoryKind) -> Columns:
    """The columns of pages, of files, of addresses of other sites, or of references."""
    return LinkColumns(run) if of == InventoryKind.LINK else Columns(run, of)
