"""Version 2: facts in one struct for all areas, and checks without their texts."""

from __future__ import annotations

import json
import sqlite3
import zlib
from functools import cache
from pathlib import Path
from typing import Any

import msgspec

from hodcarrier.core.facts.data import DataFacts
from hodcarrier.core.facts.forms import FormFacts
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.language import LanguageFacts
from hodcarrier.core.facts.links import LinkFacts
from hodcarrier.core.facts.markup import MarkupFacts
from hodcarrier.core.facts.media import MediaFacts
from hodcarrier.core.facts.page import PageFacts
from hodcarrier.core.facts.preview import PreviewFacts
from hodcarrier.core.facts.template import TemplateFacts
from hodcarrier.core.facts.text import TextFacts
from hodcarrier.core.facts.values import Alternate, Heading, Image, Link, Placed
from hodcarrier.core.plan import read_stored_plan
from hodcarrier.core.web.encodings import EncodingSource
from hodcarrier.runfile.versions import v3

TEXTS = Path(__file__).parent / "v2_checks.json"


class Facts(msgspec.Struct, frozen=True):
    """The facts of a page as version 2 kept them: a map by field names."""

    url: str
    html_bytes: int
    encoding: str
    encoding_source: EncodingSource
    base: str = ""
    doctype: bool = False
    lang: str = ""
    titles: tuple[Placed, ...] = ()
    descriptions: tuple[Placed, ...] = ()
    robots: tuple[Placed, ...] = ()
    canonicals: tuple[Placed, ...] = ()
    viewport: str | None = None
    refresh: str = ""
    headings: tuple[Heading, ...] = ()
    words: int = 0
    text_hash: str = ""
    template: str = ""
    images: tuple[Image, ...] = ()
    alternates: tuple[Alternate, ...] = ()
    links: tuple[Link, ...] = ()
    malformed: tuple[str, ...] = ()
    insecure_forms: tuple[str, ...] = ()
    password_fields: int = 0
    social: tuple[tuple[str, str], ...] = ()
    data_types: tuple[str, ...] = ()
    data_errors: tuple[str, ...] = ()
    twice_ids: tuple[str, ...] = ()
    elements: int = 0
    blocking_scripts: tuple[str, ...] = ()
    expected_missing: tuple[str, ...] = ()


_decoder = msgspec.msgpack.Decoder(Facts)
_encoder = msgspec.msgpack.Encoder()


def lift_facts(blob: bytes | None) -> bytes | None:
    """The facts blob of today for one of version 2."""
    if blob is None:
        return None
    old = _decoder.decode(zlib.decompress(blob))
    new = PageFacts(
        url=old.url,
        head=HeadFacts(old.titles, old.descriptions, old.robots, old.canonicals, old.viewport, old.refresh, old.base),
        language=LanguageFacts(old.lang, old.encoding, old.encoding_source, old.alternates),
        text=TextFacts(old.headings, old.words, old.text_hash, old.expected_missing),
        links=LinkFacts((), old.malformed),
        media=MediaFacts(old.images),
        forms=FormFacts(old.insecure_forms, old.password_fields),
        preview=PreviewFacts(old.social),
        data=DataFacts(old.data_types, old.data_errors),
        markup=MarkupFacts(old.html_bytes, old.doctype, old.twice_ids, old.elements, old.blocking_scripts),
        template=TemplateFacts(old.template),
    )
    return zlib.compress(_encoder.encode(new), 1)


@cache
def texts() -> dict[str, dict[str, Any]]:
    """The checks of the release that wrote version 2, with their texts and limits as they were."""
    found: dict[str, dict[str, Any]] = json.loads(TEXTS.read_text("utf-8"))
    return found


def lift(db: sqlite3.Connection) -> None:
    """Put today's views over a file of version 2."""
    db.create_function("lift_facts", 1, lift_facts, deterministic=True)
    thresholds = read_stored_plan(json.loads(db.execute("SELECT value FROM meta WHERE key = 'plan'").fetchone()[0])).thresholds

    def text(check: str, name: str) -> str:
        found = texts().get(check, {})
        if name == "messages":
            return json.dumps(found.get("messages", {}))
        if name == "limits":
            return json.dumps({n: float(thresholds.get(n, default)) for n, default in found.get("limits", {}).items()})
        return str(found.get(name, check if name == "summary" else ""))

    db.create_function("text_of", 2, text, deterministic=True)
    db.executescript(
        f"""
        CREATE TEMP VIEW page AS SELECT address_id, title, description, h1, canonical, robots, lang, words, text_hash, template,
          lift_facts(facts) AS facts, links FROM main.page;
        CREATE TEMP VIEW check_state AS SELECT id, id AS identity, area, text_of(id, 'area_name') AS area_name, severity, subject,
          needs, text_of(id, 'effort') AS effort, text_of(id, 'summary') AS summary, text_of(id, 'why') AS why,
          text_of(id, 'fix') AS fix, text_of(id, 'standard') AS standard, text_of(id, 'messages') AS messages,
          text_of(id, 'limits') AS limits, revision, state, findings, waived, pages, fixes, gain, unverified, crashed,
          {v3.ages("check_id", "main.check_state")} FROM main.check_state;
        CREATE TEMP TABLE probe (name TEXT PRIMARY KEY, facts TEXT NOT NULL) WITHOUT ROWID;
        """
    )
    v3.lift(db)
