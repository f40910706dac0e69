"""The columns of a run's inventory, read from its file as they are asked for."""

from __future__ import annotations

from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.states import InventoryKind
from hodcarrier.runfile import schema
from hodcarrier.runfile.column_format import BREAK, Figures, Texts, unpack
from hodcarrier.runfile.column_writer import write_stored
from hodcarrier.runfile.reader import RunFile


class Columns:
    """The columns of the addresses of one role, read as they are asked for."""

    def __init__(self, run: RunFile, role: InventoryKind) -> None:
        self.run = run
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
        """The columns that the run recorded."""
        return frozenset(name for (name,) in self.run.rows("SELECT name FROM column_values WHERE role = ?", self.role))

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
        if name not in self._read:
            blobs = self.run.rows("SELECT data FROM column_values WHERE role = ? AND name = ?", self.role, name)
            if not blobs:
                return None
            self._read[name] = unpack(blobs[0][0])
        return self._read[name]
