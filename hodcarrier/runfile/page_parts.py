"""What a run file tells of one page beyond its facts: terms, structured data as a tree, versions in other languages, the way to it, its source."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field

from hodcarrier.core.errors import NotFound
from hodcarrier.core.facts.page import PageFacts
from hodcarrier.core.facts.parse_errors import ParseError, parse_errors
from hodcarrier.core.facts.source import Source
from hodcarrier.core.facts.terms import PageTerms, read_terms
from hodcarrier.core.facts.things import Thing
from hodcarrier.core.facts.values import FOLLOWED_KINDS
from hodcarrier.core.states import InventoryKind
from hodcarrier.core.web.link_header import alternates_from_header
from hodcarrier.runfile.columns import Columns
from hodcarrier.runfile.packing import unpack_ids
from hodcarrier.runfile.reader import RunFile

ANCHORS_FROM = 300
VERSIONS_SHOWN = 60
STEPS_MAX = 100
SOURCE_CHARS_MAX = 1_000_000


def kept_source(run: RunFile, url: str) -> tuple[bytes, PageFacts, str]:
    """The source of a page, its facts, and the type that it was sent as. Raises :class:`NotFound` where it is no page or its source was not kept."""
    address = run.known_id(url)
    facts, body, answer = run.facts(address), run.source(address), run.answer(address)
    if facts is None or body is None:
        raise NotFound(
            f"The run has no source of {url}.",
            "Only pages of HTML that answered are kept; fetch it again to see it as it is now.",
        )
    return body, facts, answer.content_type if answer else ""


def anchors_to(run: RunFile, url: str) -> list[tuple[str, str]]:
    """The links that lead to a page: who links, and the anchor text; those of the first :data:`ANCHORS_FROM` pages that link."""
    blob = run.rows("SELECT sources FROM inlink WHERE target_id = ?", run.known_id(url))
    sources = unpack_ids(blob[0][0])[:ANCHORS_FROM] if blob else []
    found = []
    for source in sources:
        facts = run.facts(source)
        if facts is not None:
            found += [(facts.url, link.text) for link in facts.links.all if link.url == url and link.kind in FOLLOWED_KINDS]
    return found


def terms_of(run: RunFile, url: str, focus: str) -> PageTerms:
    """The main terms of a page, and where a focus term stands. Raises :class:`NotFound` like :func:`kept_source`."""
    body, _, content_type = kept_source(run, url)
    return read_terms(body, url, content_type, (text for _, text in anchors_to(run, url)), focus)


@dataclass(frozen=True)
class Node:
    """A thing in structured data with what is said of it; values that are things themselves stand as ``parts``."""

    types: tuple[str, ...]
    id: str
    values: tuple[tuple[str, str], ...]
    parts: tuple[tuple[str, Node], ...]


@dataclass(frozen=True)
class Block:
    """What is written in one place: a block of JSON-LD with its number, or all microdata or RDFa of the page (number 0). ``error``: why it cannot be read."""

    form: str
    number: int
    error: str = ""
    things: tuple[Node, ...] = field(default=())


def data_of(run: RunFile, url: str) -> list[Block]:
    """The structured data of a page, block by block as they stand. Raises :class:`NotFound` for a URL that the run does not know."""
    facts = run.facts(run.known_id(url))
    if facts is None:
        return []
    data = facts.data
    wrong = {number: error for (number, _), error in zip(data.wrong_blocks, data.errors, strict=True)}
    places = dict.fromkeys([*(("JSON-LD", number) for number in wrong), *((thing.form, thing.block) for thing in data.things)])
    return [
        Block(
            form,
            number,
            wrong.get(number, "") if form == "JSON-LD" else "",
            tuple(
                _node(data.things, n, frozenset())
                for n, thing in enumerate(data.things)
                if (thing.form, thing.block) == (form, number) and thing.part_of < 0
            ),
        )
        for form, number in sorted(places, key=lambda place: (place[0] != "JSON-LD", place))
    ]


def _node(things: tuple[Thing, ...], number: int, above: frozenset[int]) -> Node:
    thing = things[number]
    above |= {number}
    values = [(name, value) for name, said in thing.values.items() for value in said if isinstance(value, str)]
    inner = [
        (name, value) for name, said in thing.values.items() for value in said if isinstance(value, int) and value not in above
    ]
    return Node(thing.types, thing.id, tuple(values), tuple((name, _node(things, value, above)) for name, value in inner))


@dataclass(frozen=True)
class Version:
    """One version of a page: the URL, what it answered and says of its language, whether it may be indexed (``None``: it was not examined), and which
    URL it names for each code."""

    url: str
    status: int | None
    lang: str
    indexable: bool | None
    names: tuple[tuple[str, str], ...]


def versions_of(run: RunFile, url: str) -> list[Version]:
    """A page and the versions in other languages that it names, itself first. Raises :class:`NotFound` for a URL that the run does not know."""
    run.known_id(url)
    listed = list(run.sitemap_alternates())
    own = list(_named(run, url, listed))
    urls = dict.fromkeys([url, *(target for _, target in own)])
    return [_version(run, each, listed) for each in list(urls)[:VERSIONS_SHOWN]] if own else []


def _version(run: RunFile, url: str, listed: Iterable[tuple[str, str, str]]) -> Version:
    found = run.rows("SELECT status, why_not FROM inventory WHERE id = ?", run.address_id(url) or 0)
    status, why_not = found[0] if found else (None, None)
    address = run.address_id(url)
    facts = run.facts(address) if address is not None else None
    return Version(
        url,
        status,
        facts.language.lang if facts else "",
        None if why_not is None else why_not == "",
        tuple(dict.fromkeys(_named(run, url, listed))),
    )


def _named(run: RunFile, url: str, listed: Iterable[tuple[str, str, str]]) -> Iterator[tuple[str, str]]:
    """The versions that a page names: in its head, in the headers of its answer, or in a sitemap."""
    address = run.address_id(url)
    if address is None:
        return
    facts, answer = run.facts(address), run.answer(address)
    if facts is not None:
        yield from ((each.code, each.url) for each in facts.language.alternates if each.in_head)
    if answer is not None:
        yield from alternates_from_header(answer.header_values("link"), url)
    yield from ((code, version) for page, code, version in listed if page == url)


@dataclass(frozen=True)
class Step:
    """A page on the way to another, and the text of the link that was followed to it; empty on the first and over a redirect."""

    url: str
    title: str
    text: str


def way_to(run: RunFile, url: str) -> list[Step]:
    """The shortest way of clicks from the start to a page, both included; empty where none leads to it. Raises :class:`NotFound` for a URL that the run
    does not know."""
    here = run.known_id(url)
    columns = Columns(run, InventoryKind.PAGE)
    before = columns.texts("reached_from")
    places = {int(number): row for row, number in enumerate(columns.ids.tolist())}
    if here not in places:
        return []
    way = [url]
    while (
        (row := places.get(run.address_id(way[-1]) or 0)) is not None
        and (last := before[int(before.codes[row])])
        and len(way) < STEPS_MAX
    ):
        way.append(last)
    if len(way) == 1:
        return []
    steps = []
    for at, target in enumerate(reversed(way)):
        text = _text_of(run, way[len(way) - at], target) if at else ""
        title = run.rows("SELECT title FROM page WHERE address_id = ?", run.address_id(target) or 0)
        steps.append(Step(target, str(title[0][0]) if title else "", text))
    return steps


def _text_of(run: RunFile, source: str, target: str) -> str:
    facts = run.facts(run.address_id(source) or 0)
    links = facts.links.all if facts else ()
    return next((link.text for link in links if link.url == target and link.kind in FOLLOWED_KINDS), "")


@dataclass(frozen=True)
class KeptSource:
    """The source of a page as text, whether it is all of it, and where its HTML breaks the rules of parsing."""

    text: str
    whole: bool
    errors: tuple[ParseError, ...]


def source_of(run: RunFile, url: str) -> KeptSource:
    """The source of a page as it was sent. Raises :class:`NotFound` like :func:`kept_source`."""
    body, facts, _ = kept_source(run, url)
    text = Source(body, facts.language.encoding).text
    return KeptSource(text[:SOURCE_CHARS_MAX], len(text) <= SOURCE_CHARS_MAX, parse_errors(text))
