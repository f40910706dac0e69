"""The columns of a run's inventory, read from its file as they are asked for."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from functools import cached_property
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.states import InventoryKind
from hodcarrier.runfile import schema
from hodcarrier.runfile.column_format import BREAK, Figures, Texts, unpack
from hodcarrier.runfile.column_writer import write_stored
from hodcarrier.runfile.reader import RunFile


class Beside(Protocol):
    """Columns of figures that come from elsewhere."""

    @property
    def names(self) -> Collection[str]:
        """The columns that there are."""
        ...

    def figures(self) -> Mapping[str, Mapping[str, float]]:
        """For each column, figures by URL. A URL without one has 0, but in columns of :attr:`unknown`."""
        ...

    @property
    def unknown(self) -> Collection[str]:
        """Columns in which nothing is known of a URL without a figure."""
        ...


class Columns:
    """The columns of the addresses of one role, read as they are asked for. ``beside`` are columns of which the run itself knows nothing: their figures by URL, and what stands
    where a URL has none; they are asked for once, when one of them is."""

    def __init__(self, run: RunFile, role: InventoryKind, beside: Beside | None = None) -> None:
        self.run = run
        self._beside = beside
        self.role = schema.ROLES.index(role)
        self._read: dict[str, Figures | Texts] = {}
        if not self.names:
            write_stored(run.db, role)  # of a file of an earlier version, into a table that goes with the connection
            del self.names

    @cached_property
    def ids(self) -> NDArray[np.int64]:
        """The ids of the addresses, in rising order: the rows of all columns."""
        return self.figures("id").astype(np.int64)

    @cached_property
    def names(self) -> frozenset[str]:
        """The columns that the run recorded, and those beside it."""
        recorded = {name for (name,) in self.run.rows("SELECT name FROM column_values WHERE role = ?", self.role)}
        return frozenset(recorded | (set(self._beside.names) if recorded and self._beside is not None else set()))

    def __len__(self) -> int:
        return len(self.ids)

    def figures(self, name: str) -> Figures:
        """A column of figures, NaN where there is none; a column that the run did not record has none at all."""
        found = self._get(name)
        return np.full(len(self), np.nan) if found is None or isinstance(found, Texts) else found

    def texts(self, name: str) -> Texts:
        """A column of texts; one that the run did not record is empty."""
        found = self._get(name)
        if isinstance(found, Texts):
            return found
        return Texts(np.zeros(len(self), np.int32), np.ones(1, np.int64), BREAK + BREAK)

    def figures_at(self, name: str, rows: NDArray[np.int64]) -> Figures:
        """The figures of some rows of a column."""
        return self.figures(name)[rows]

    def texts_at(self, name: str, rows: NDArray[np.int64]) -> Texts:
        """The texts of some rows of a column."""
        texts = self.texts(name)
        return Texts(texts.codes[rows], texts.starts, texts.listed)

    def _get(self, name: str) -> Figures | Texts | None:
        if name not in self._read and self._beside is not None and name in self._beside.names:
            self._lay_beside(self._beside)
        if name not in self._read:
            blobs = self.run.rows("SELECT data FROM column_values WHERE role = ? AND name = ?", self.role, name)
            if not blobs:
                return None
            self._read[name] = unpack(blobs[0][0])
        return self._read[name]

    def _lay_beside(self, beside: Beside) -> None:
        """Put figures by URL into the rows of the URLs."""
        urls = self.texts("url")
        code_of = {url: code for code, url in enumerate(urls.listed[1:-1].split(BREAK))}
        for name, figures in beside.figures().items():
            of_code = np.full(len(urls), np.nan if name in beside.unknown else 0.0)
            for url, value in figures.items():
                code = code_of.get(url.encode("utf-8", "surrogatepass"))
                if code is not None:
                    of_code[code] = value
            self._read[name] = of_code[urls.codes]
