"""What a finding is about, in the source: the element with its line, a selector that finds it alone, and how it looks once it is mended.

Worked out when somebody asks, from the source that the run file keeps: most findings are never looked at singly.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from contextlib import suppress
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from hodcarrier.core.catalogue import Check, load
from hodcarrier.core.catalogue.mending import filled
from hodcarrier.core.errors import InvalidUrl
from hodcarrier.core.facts.page import PageFacts
from hodcarrier.core.facts.source import Source, Spot
from hodcarrier.core.states import SourceDocument
from hodcarrier.core.web.urls import normalize, split
from hodcarrier.runfile.packing import unpack_file
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.sights import SITE

# What evidence may say of the text of the element that is meant, where several fit its selector.
HOLDS = ("text", "heading", "start", "title", "value", "alt")
# A rule of robots.txt as findings quote it.
_RULE = re.compile(r"(?P<rule>.+) \(line (?P<line>\d+)\)")
# What marks a thing in structured data that stands among the elements; JSON-LD is told by the number of its block.
FORMS = {"microdata": "[itemscope]", "RDFa": "[typeof]"}


@dataclass(frozen=True)
class Located:
    """Where a finding stands: in the source of the page, in the headers of its answer, or in robots.txt. ``line`` and ``column`` from 1 on, 0
    where there is none (a header, an element that browsers add); ``selector`` finds the element alone in the document as browsers build it; ``before`` is the element as written, ``after`` the same
    mended, empty where a fix cannot be shown as code."""

    document: SourceDocument
    line: int
    column: int
    selector: str
    before: str
    after: str


class Locator:
    """Locates findings of one run; the source of a page is read once for all of its findings that are asked for one after the other."""

    def __init__(self, run: RunFile) -> None:
        self._run = run
        self._page = lru_cache(maxsize=2)(self._read)
        self._start = str(run.plan.start[0])

    def of(self, finding: Mapping[str, Any]) -> Located | None:
        """Where a finding (a row of :mod:`hodcarrier.runfile.results`) stands; ``None`` when that is nowhere in particular."""
        entry = load().get(finding["check"])
        check = entry.check if entry is not None else None
        source, facts = self._page(finding["subject"])
        data = self._known(finding, facts)
        document, spot = SourceDocument.PAGE, _spot(source, check, data)
        if spot is None:
            document, spot = _elsewhere(data)
        at = spot or Spot(0, 0, "", "")
        after = check.mend(at.snippet, data) if check is not None and check.mend is not None else ""
        if spot is None and not after:
            return None
        return Located(document, at.line, at.column, at.selector, at.snippet, "" if after == at.snippet else after)

    def _read(self, subject: str) -> tuple[Source | None, PageFacts | None]:
        address = None if subject == SITE else self._run.address_id(subject)
        facts = self._run.facts(address) if address is not None else None
        body = self._run.source(address) if address is not None and facts is not None else None
        return (Source(body, facts.language.encoding), facts) if body is not None and facts is not None else (None, facts)

    def _known(self, finding: Mapping[str, Any], facts: PageFacts | None) -> dict[str, Any]:
        """The evidence, with what else is known of the page and of the file that it names."""
        page = self._start if finding["subject"] == SITE else finding["subject"]
        data: dict[str, Any] = {"page": page, "origin": split(page).origin}
        if facts is not None:
            data |= {"title": facts.head.title, "lang": facts.language.lang, "spoken": facts.text.language}
        data |= finding["evidence"]
        if "value" in data:
            with suppress(InvalidUrl):
                data["absolute"] = normalize(str(data["value"]), page)
        if isinstance(data.get("before"), int):
            data["next"] = data["before"] + 1
        if isinstance(data.get("url"), str) and (size := self._pixels(data["url"])):
            data["pixel_width"], data["pixel_height"] = size
        return data

    def _pixels(self, url: str) -> tuple[int, int] | None:
        found = self._run.rows("SELECT facts FROM file_fact WHERE address_id = (SELECT id FROM address WHERE url = ?)", url)
        facts = unpack_file(found[0][0]) if found else None
        return (facts.width, facts.height) if facts is not None and facts.width and facts.height else None


def _spot(source: Source | None, check: Check | None, data: Mapping[str, Any]) -> Spot | None:
    """The element that the evidence or the check names; where neither does, the text that the evidence quotes."""
    if source is None:
        return None
    if isinstance(data.get("line"), int) and isinstance(data.get("column"), int):
        return source.line(data["line"], data["column"])
    if (form := str(data.get("form"))) in FORMS:
        return source.find(FORMS[form])
    selector = str(data.get("selector") or (filled(check.element, data) if check is not None else ""))
    quoted = next((str(data[name]) for name in HOLDS if data.get(name)), "")
    if not selector:
        return source.find_text(str(data["text"])) if data.get("text") else None
    block = data.get("block")
    return source.find(selector, quoted, block if isinstance(block, int) else 1)


def _elsewhere(data: Mapping[str, Any]) -> tuple[SourceDocument, Spot | None]:
    """A header of the answer, or a line of robots.txt."""
    if data.get("header"):
        return SourceDocument.HEADERS, Spot(0, 0, f"{data['header']}: {data.get('value', '')}", "")
    said = str(data.get("rule") or data.get("text") or "")
    if numbered := _RULE.fullmatch(said):
        return SourceDocument.ROBOTS, Spot(int(numbered["line"]), 1, numbered["rule"], "")
    if data.get("line") and said:
        return SourceDocument.ROBOTS, Spot(int(data["line"]), 1, said, "")
    return SourceDocument.HEADERS, None


def located(run: RunFile, findings: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """Findings with their ``source``."""
    locator = Locator(run)
    return [{**finding, "source": locator.of(finding)} for finding in findings]
