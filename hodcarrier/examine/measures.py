"""Measures of a run that sites are compared by: shares, medians and percentiles."""

from __future__ import annotations

from array import array
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from hodcarrier.core.catalogue import PageView
from hodcarrier.core.summary import Measures


@dataclass
class Gathered:
    """Counts gathered page by page while a run is examined."""

    addresses: int = 0
    documents: int = 0
    indexable: int = 0
    described: int = 0
    secure: int = 0
    compressed: int = 0
    listed: int = 0
    with_data: int = 0
    images: int = 0
    images_with_alt: int = 0
    # Whether any page says where to find the company, or under what number it is registered.
    postal: bool = False
    first_bytes: array[float] = field(default_factory=lambda: array("d"))
    sizes: array[int] = field(default_factory=lambda: array("q"))
    words: array[int] = field(default_factory=lambda: array("q"))
    depths: array[int] = field(default_factory=lambda: array("q"))

    def add(self, view: PageView) -> None:
        """Count one page; only documents that answer 200 are measured.

        ``addresses`` are what a share of indexable pages is taken of: pages kept out by robots.txt and errors count in it,
        redirects and what was never reached do not.
        """
        facts, answer = view.facts, view.answer
        redirects = bool(view.refresh_to) or (answer is not None and answer.status is not None and 300 <= answer.status < 400)
        self.addresses += view.state in ("done", "disallowed") and not redirects
        if facts is None or answer is None or answer.status != 200 or view.refresh_to:
            return
        self.documents += 1
        self.postal = self.postal or facts.trust.postal
        self.indexable += view.indexable
        self.described += bool(facts.head.description)
        self.secure += view.is_secure
        self.compressed += answer.is_encoded
        self.listed += view.indexable and view.listed
        self.with_data += bool(facts.data.types)
        self.images += len(facts.media.images)
        self.images_with_alt += sum(1 for image in facts.media.images if image.alt is not None)
        if answer.first_byte_ms is not None:
            self.first_bytes.append(answer.first_byte_ms)
        self.sizes.append(facts.markup.html_bytes)
        self.words.append(facts.text.words)
        if view.depth is not None:
            self.depths.append(view.depth)

    def figures(self, health: float | None, severe_free_ratio: float | None) -> Measures:
        """The measures, with those that scoring gives."""

        def share(part: int, whole: int) -> float | None:
            return 100.0 * part / whole if whole else None

        def at(values: Sequence[float], percentile: float) -> float | None:
            return float(np.percentile(np.asarray(values), percentile)) if values else None

        return Measures(
            documents=self.documents,
            known=self.addresses,
            health=health,
            severe_free_ratio=severe_free_ratio,
            indexable_ratio=share(self.indexable, self.addresses),
            description_ratio=share(self.described, self.documents),
            alt_ratio=share(self.images_with_alt, self.images),
            https_ratio=share(self.secure, self.documents),
            compressed_ratio=share(self.compressed, self.documents),
            listed_ratio=share(self.listed, self.indexable),
            data_ratio=share(self.with_data, self.documents),
            first_byte_ms_median=at(self.first_bytes, 50),
            html_bytes_median=at(self.sizes, 50),
            words_median=at(self.words, 50),
            depth_p90=at(self.depths, 90),
        )
