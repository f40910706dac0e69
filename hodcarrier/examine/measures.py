"""Measures of a run that sites are compared by: shares, medians and percentiles."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np

from hodcarrier.core.views import PageView


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
    first_bytes: list[float] = field(default_factory=list)
    sizes: list[int] = field(default_factory=list)
    words: list[int] = field(default_factory=list)
    depths: list[int] = field(default_factory=list)

    def add(self, view: PageView) -> None:
        """Count one page; only documents that answer 200 are measured.

        ``addresses`` are what a share of indexable pages is taken of: pages kept out by robots.txt and errors count in it,
        redirects and what was never reached do not.
        """
        facts, answer = view.facts, view.answer
        redirects = answer is not None and answer.status is not None and 300 <= answer.status < 400
        self.addresses += view.state in ("done", "disallowed") and not redirects
        if facts is None or answer is None or answer.status != 200:
            return
        self.documents += 1
        self.indexable += view.indexable
        self.described += bool(facts.description)
        self.secure += view.is_secure
        self.compressed += bool(answer.header("content-encoding"))
        self.listed += view.indexable and view.listed
        self.with_data += bool(facts.data_types)
        self.images += len(facts.images)
        self.images_with_alt += sum(1 for image in facts.images if image.alt is not None)
        self.first_bytes.append(answer.first_byte_ms)
        self.sizes.append(facts.html_bytes)
        self.words.append(facts.words)
        if view.depth is not None:
            self.depths.append(view.depth)

    def figures(self) -> dict[str, Any]:
        """The measures by the ids of :data:`hodcarrier.core.benchmark.MEASURES`; shares in percent, ``None`` without a base."""

        def share(part: int, whole: int) -> float | None:
            return 100.0 * part / whole if whole else None

        def at(values: list[Any], percentile: float) -> float | None:
            return float(np.percentile(values, percentile)) if values else None

        return {
            "documents": self.documents,
            "indexable_ratio": share(self.indexable, self.addresses),
            "description_ratio": share(self.described, self.documents),
            "alt_ratio": share(self.images_with_alt, self.images),
            "https_ratio": share(self.secure, self.documents),
            "compressed_ratio": share(self.compressed, self.documents),
            "listed_ratio": share(self.listed, self.indexable),
            "data_ratio": share(self.with_data, self.documents),
            "first_byte_ms_median": at(self.first_bytes, 50),
            "html_bytes_median": at(self.sizes, 50),
            "words_median": at(self.words, 50),
            "depth_p90": at(self.depths, 90),
        }
