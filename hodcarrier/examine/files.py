"""What a run knows of the files that pages use: their weight, and what was read in them."""

from __future__ import annotations

import sqlite3
from collections import defaultdict
from collections.abc import Mapping
from functools import cached_property

from hodcarrier.core.catalogue.views import SeenFile
from hodcarrier.core.facts.files import FileFacts
from hodcarrier.runfile.packing import unpack_file

KEPT = 20_000


class Files:
    """Files by the ids of their addresses, read when they are asked for: a site may have more of them than pages."""

    def __init__(self, db: sqlite3.Connection, ids: Mapping[str, int]) -> None:
        self._db = db
        self._ids = ids
        self._seen: dict[int, SeenFile | None] = {}

    def of(self, url: str) -> SeenFile | None:
        """What is known of a file, by its URL; ``None`` when it gave no answer of 200."""
        i = self._ids.get(url, 0)
        if i not in self._seen:
            if len(self._seen) >= KEPT:
                self._seen.clear()
            self._seen[i] = self._read(i)
        return self._seen[i]

    def _read(self, i: int) -> SeenFile | None:
        row = self._db.execute(
            "SELECT status, wire_bytes, facts FROM answer LEFT JOIN file_fact USING (address_id) WHERE address_id = ?",
            (i,),
        ).fetchone()
        if row is None or row[0] != 200:
            return None
        return SeenFile(row[1], unpack_file(row[2]) if row[2] is not None else FileFacts())

    @cached_property
    def _known(self) -> tuple[dict[int, tuple[int, ...]], dict[int, tuple[str, ...]]]:
        by_digest: defaultdict[str, list[int]] = defaultdict(list)
        fonts: dict[int, tuple[str, ...]] = {}
        for i, blob in self._db.execute("SELECT address_id, facts FROM file_fact ORDER BY address_id"):
            facts = unpack_file(blob)
            if facts.digest:
                by_digest[facts.digest].append(i)
            if facts.fonts:
                fonts[i] = facts.fonts
        alike = {i: tuple(k for k in ids if k != i) for ids in by_digest.values() if len(ids) > 1 for i in ids}
        return alike, fonts

    @property
    def alike(self) -> dict[int, tuple[int, ...]]:
        """Of files that hold the same bytes, each with the others."""
        return self._known[0]

    @property
    def fonts(self) -> dict[int, tuple[str, ...]]:
        """Of style sheets that load fonts, their addresses."""
        return self._known[1]
