"""What a sitemap made from a run lists: pages that a filter lets through, with what the run knows of each."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

import numpy as np

from hodcarrier.core.inventory.columns import COLUMNS
from hodcarrier.core.inventory.filters import Filter
from hodcarrier.core.states import InventoryKind
from hodcarrier.core.web.link_header import alternates_from_header
from hodcarrier.core.web.sitemap_writer import Listing
from hodcarrier.runfile.columns import Columns
from hodcarrier.runfile.listing import in_order, met
from hodcarrier.runfile.reader import RunFile


def listings(run: RunFile, chosen: Filter, changed: Mapping[str, str], *, images: bool, versions: bool) -> Iterator[Listing]:
    """The pages of a sitemap by URL. ``changed`` tells the day of the last change where no header does; ``images`` and ``versions`` say what is listed
    besides."""
    kinds, columns = COLUMNS[InventoryKind.PAGE], Columns(run, InventoryKind.PAGE)
    rows = in_order(columns, np.nonzero(met(columns, chosen, kinds))[0], kinds["url"], descending=False)
    urls, modified = columns.texts("url"), columns.texts("last_modified")
    has_images, has_versions = columns.figures("images") > 0, columns.figures("hreflang") > 0
    for row in rows.tolist():
        url = urls[int(urls.codes[row])]
        facts = answer = None
        if (images and has_images[row]) or (versions and has_versions[row]):
            number = int(columns.ids[row])
            facts, answer = run.facts(number), run.answer(number)
        named: list[tuple[str, str]] = []
        if versions and facts is not None:
            named = [(each.code, each.url) for each in facts.language.alternates if each.in_head and each.url]
            named += alternates_from_header(answer.header_values("link"), url) if answer is not None else []
        shown = (
            [image.url for image in facts.media.images if image.url.startswith("http")] if images and facts is not None else []
        )
        yield Listing(
            url,
            modified[int(modified.codes[row])] or changed.get(url, ""),
            tuple(dict.fromkeys(shown)),
            tuple(dict.fromkeys(named)),
        )


def text_hashes(run: RunFile) -> dict[str, str]:
    """What tells whether the main text of a page is as it was, by URL."""
    sql = "SELECT url, text_hash FROM page JOIN address ON address.id = address_id WHERE text_hash != ''"
    return {str(url): str(digest) for url, digest in run.each(sql)}
