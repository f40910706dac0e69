"""Writing the references of a run's pages as rows: which page, which target, and how they are written, each in parts of its own.

What pages say alike is kept once: how a reference is written (kind, landmark, rel) and its text are numbers of places in lists. So a part is three
rows of numbers, and memory holds no more than one part and the lists.
"""

from __future__ import annotations

import sqlite3
from array import array
from collections import defaultdict, deque
from collections.abc import Callable, Iterator

import numpy as np
from isal import isal_zlib as zlib

from hodcarrier.core.facts.page import PageFacts
from hodcarrier.core.web.urls import split
from hodcarrier.runfile.column_format import pack_texts
from hodcarrier.runfile.packing import pack_small

PART = 1 << 18
NUMBERS = ("source", "target", "face", "text")


def _texts_of(facts: PageFacts) -> Iterator[str]:
    """The text of each reference; of an image its alternative text, which stands with the image."""
    alts: defaultdict[str, deque[str]] = defaultdict(deque)
    for image in facts.media.images:
        alts[image.raw].append(image.alt or "")
    for link in facts.links.all:
        yield alts[link.raw].popleft() if link.kind == "image" and alts.get(link.raw) else link.text


class LinkWriter:
    """Takes the references of page after page, in the order of their ids."""

    def __init__(self, db: sqlite3.Connection) -> None:
        self._db = db
        self._part = 0
        self._faces: dict[tuple[str, str, tuple[str, ...]], int] = {}
        self._texts: dict[str, int] = {"": 0}
        self._numbers = {name: array("I") for name in NUMBERS}

    def add(self, source: int, facts: PageFacts, id_of: Callable[[str], int]) -> None:
        """Note the references of a page; ``id_of`` is 0 for a target that is no address."""
        faces, texts, links = self._faces, self._texts, facts.links.all
        self._numbers["source"].extend([source] * len(links))
        self._numbers["target"].extend([id_of(link.url) for link in links])
        self._numbers["face"].extend([faces.setdefault((k.kind, k.landmark, k.rel), len(faces)) for k in links])
        self._numbers["text"].extend([texts.setdefault(text, len(texts)) for text in _texts_of(facts)])
        if len(self._numbers["source"]) >= PART:
            self._flush()

    def _put(self, name: str, rows: int, data: bytes) -> None:
        self._db.execute("INSERT INTO link_values (name, part, rows, data) VALUES (?, ?, ?, ?)", (name, self._part, rows, data))

    def _flush(self) -> None:
        for name, numbers in self._numbers.items():
            packed = zlib.compress(np.frombuffer(numbers, "u4").astype("<u4").tobytes() if numbers else b"", 1)
            self._put(name, len(numbers), packed)
            del numbers[:]
        self._part += 1

    def close(self) -> None:
        """Write what is left, and the lists."""
        self._flush()
        self._put("faces", 0, pack_small(list(self._faces)))
        self._put("texts", 0, pack_texts(self._texts))
        urls = [url for (url,) in self._db.execute("SELECT url FROM address ORDER BY id")]
        self._put("urls", 0, pack_texts(["", *urls]))
        self._put("hosts", 0, pack_texts(["", *(split(url).host for url in urls)]))
