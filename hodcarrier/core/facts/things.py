"""The things that a document describes as structured data, in one form, however they are written.

Read are JSON-LD 1.1 (blocks of the document, without contexts from elsewhere), microdata (WHATWG HTML, 5) and RDFa Lite 1.1.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

import msgspec
from selectolax.lexbor import LexborNode

from hodcarrier.core.facts.references import clean
from hodcarrier.core.web.vocabulary import vocabulary

THINGS_MAX = 300
VALUE_MAX = 300
VALUES_MAX = 50
_SCHEMA = re.compile(r"^(?:https?://(?:www\.)?schema\.org/|schema:)", re.I)
_ABOUT = frozenset({"@context", "@type", "@id", "@graph", "@reverse"})
_URL_ATTRIBUTES = {
    "a": "href",
    "area": "href",
    "link": "href",
    "img": "src",
    "audio": "src",
    "embed": "src",
    "iframe": "src",
    "source": "src",
    "track": "src",
    "video": "src",
    "object": "data",
}


class Thing(msgspec.Struct, frozen=True, array_like=True):
    """One thing: its types, what is said of it by property, how it is written (``JSON-LD``, ``microdata``, ``RDFa``), the number of the
    thing that it is part of (-1: of none), the number of its JSON-LD block among the blocks of the document, from 1 on, and its ``@id``.

    A value that is a thing itself stands as its number. Types and properties of schema.org go by their short names. ``known``: the words
    are those of schema.org.
    """

    types: tuple[str, ...]
    values: dict[str, list[str | int]]
    form: str
    part_of: int = -1
    block: int = 0
    id: str = ""
    known: bool = True

    def texts(self, name: str) -> list[str]:
        """The values of a property that are texts, without empty ones."""
        return [value for value in self.values.get(name, ()) if isinstance(value, str) and value]

    def has(self, *names: str) -> bool:
        """Whether one of the properties has a value that is not empty."""
        return any(value != "" for name in names for value in self.values.get(name, ()))


class _Gathering:
    """Things found so far; their values may be added to until the end."""

    def __init__(self) -> None:
        self.things: list[Thing] = []

    @property
    def full(self) -> bool:
        return len(self.things) >= THINGS_MAX

    def begin(self, types: tuple[str, ...], form: str, part_of: int, block: int = 0, name: str = "", known: bool = True) -> int:
        self.things.append(Thing(types, {}, form, part_of, block, name, known))
        return len(self.things) - 1

    def say(self, number: int, name: str, value: str | int) -> None:
        values = self.things[number].values.setdefault(_SCHEMA.sub("", name)[:80], [])
        if len(values) < VALUES_MAX:
            values.append(value if isinstance(value, int) else value[:VALUE_MAX])


def things_of(blocks: list[tuple[int, Any]], items: list[LexborNode], subjects: list[LexborNode]) -> tuple[Thing, ...]:
    """The things of a document: of its JSON-LD ``blocks`` with their numbers, its elements with ``itemscope``, and those with ``typeof``."""
    found = _Gathering()
    for number, value in blocks:
        _read_json(found, value, number)
    _read_elements(found, items, "itemscope", "itemprop", "itemtype", "microdata")
    _read_elements(found, subjects, "typeof", "property", "typeof", "RDFa")
    return tuple(found.things)


def _names(value: Any) -> tuple[str, ...]:
    listed = value if isinstance(value, list) else [value]
    return tuple(_SCHEMA.sub("", name.strip())[:80] for name in listed if isinstance(name, str) and name.strip())


def _in_schema(context: Any) -> bool:
    """Whether a JSON-LD context is that of schema.org, as far as it can be told without fetching it."""
    if isinstance(context, str):
        return "schema.org" in context.lower()
    if isinstance(context, list):
        return any(_in_schema(part) for part in context)
    return isinstance(context, dict) and _in_schema(context.get("@vocab"))


def _read_json(found: _Gathering, top: Any, block: int) -> None:
    """Read one block. Values that only name another thing are bound to it once all are known."""
    queue: list[tuple[Any, int, str, bool]] = [
        (item, -1, "", False) for item in reversed(top if isinstance(top, list) else [top])
    ]
    first = len(found.things)
    while queue and not found.full:
        item, part_of, prop, known = queue.pop()
        if isinstance(item, list):
            queue.extend((part, part_of, prop, known) for part in reversed(item))
        elif not isinstance(item, dict):
            if part_of >= 0 and item is not None:
                found.say(part_of, prop, _text(item))
        elif "@value" in item:
            if part_of >= 0:
                found.say(part_of, prop, _text(item["@value"]))
        elif "@list" in item or "@set" in item:
            queue.append((item.get("@list", item.get("@set")), part_of, prop, known))
        elif part_of >= 0 and item.keys() <= {"@id"}:
            found.say(part_of, prop, str(item.get("@id", "")))
        else:
            known = _in_schema(item["@context"]) if "@context" in item else known
            graph = item.get("@graph")
            if isinstance(graph, list | dict) and "@type" not in item:
                queue.append((graph, -1, "", known))
                continue
            number = found.begin(
                _names(item.get("@type")), "JSON-LD", part_of, block, str(item.get("@id") or "")[:VALUE_MAX], known
            )
            if part_of >= 0:
                found.say(part_of, prop, number)
            queue.extend((value, number, name, known) for name, value in reversed(item.items()) if name not in _ABOUT)
    _bind(found, first)


def _bind(found: _Gathering, first: int) -> None:
    ids = {thing.id: number for number, thing in enumerate(found.things) if thing.id and number >= first and thing.types}
    if not ids:
        return
    for number, thing in enumerate(found.things[first:], first):
        for values in thing.values.values():
            for at, value in enumerate(values):
                if isinstance(value, str) and value in ids and ids[value] != number:
                    values[at] = ids[value]


def _text(value: Any) -> str:
    if isinstance(value, bool):
        return "true" if value else "false"
    return clean(str(value)) if value is not None else ""


def _read_elements(found: _Gathering, tops: list[LexborNode], scope: str, prop: str, typed: str, form: str) -> None:
    """Microdata and RDFa Lite, which mark elements alike: ``scope`` begins a thing, ``prop`` names what an element says of it."""
    numbers: dict[int, int] = {}
    for node in tops:
        if found.full:
            return
        attributes = node.attributes
        types = tuple(_SCHEMA.sub("", name)[:80] for name in (attributes.get(typed) or "").split())
        name = (attributes.get("itemid") or attributes.get("resource") or "")[:VALUE_MAX]
        known = any(_SCHEMA.match(part) for part in (attributes.get(typed) or "").split()) or _vocabulary(node)
        owner = _owner(node, scope, numbers) if attributes.get(prop) else -1
        number = numbers[node.mem_id] = found.begin(types, form, owner, 0, name, known)
        if owner >= 0:
            for said in (attributes.get(prop) or "").split():
                found.say(owner, said, number)
        for part in node.css(f"[{prop}]"):
            about = part.attributes
            if scope in about or part.mem_id == node.mem_id or _nearest(part, scope) != node.mem_id:
                continue
            for said in (about.get(prop) or "").split():
                found.say(number, said, _value_of(part))


def _vocabulary(node: LexborNode) -> bool:
    """Whether an element stands in RDFa whose vocabulary is schema.org."""
    above: LexborNode | None = node
    while above is not None:
        if "vocab" in above.attributes:
            return "schema.org" in (above.attributes["vocab"] or "")
        above = above.parent
    return False


def _nearest(node: LexborNode, scope: str) -> int:
    above = node.parent
    while above is not None and scope not in above.attributes:
        above = above.parent
    return above.mem_id if above is not None else -1


def _owner(node: LexborNode, scope: str, numbers: dict[int, int]) -> int:
    return numbers.get(_nearest(node, scope), -1)


def _value_of(node: LexborNode) -> str:
    """What an element says (WHATWG HTML, 5.2.4: values of properties)."""
    attributes = node.attributes
    if "content" in attributes:
        return clean(attributes["content"] or "")
    tag = node.tag or ""
    if tag in _URL_ATTRIBUTES:
        return (attributes.get(_URL_ATTRIBUTES[tag]) or "").strip()
    if tag in ("data", "meter"):
        return attributes.get("value") or ""
    if tag == "time" and attributes.get("datetime"):
        return attributes["datetime"] or ""
    return clean(node.text_lexbor())


def of_kind(things: tuple[Thing, ...], kind: str, *, parts: bool = False) -> Iterator[Thing]:
    """The things of a kind by schema.org that are described here: more is said of them than which thing is meant. Those that are part of
    another thing are left out unless ``parts``: they may well be told in short."""
    known = vocabulary()
    for thing in things:
        if (parts or thing.part_of < 0) and thing.known and thing.values and known.is_a(thing.types, kind):
            yield thing


def called(thing: Thing) -> str:
    """What a thing is called in a sentence: its type and its name."""
    kind = thing.types[0] if thing.types else "thing without a type"
    name = next(iter(thing.texts("name") or thing.texts("headline") or thing.texts("title")), "") or thing.id
    return f"{kind} “{name[:80]}”" if name else kind


def lacking(thing: Thing, *needed: str) -> str:
    """Which of the needed properties a thing lacks, in words; each may name several, divided by ``|``, of which one is enough."""
    return ", ".join(names.replace("|", " or ") for names in needed if not thing.has(*names.split("|")))


def parts_of(things: tuple[Thing, ...], thing: Thing, name: str) -> Iterator[Thing]:
    """The things that a property of a thing holds."""
    return (things[value] for value in thing.values.get(name, ()) if isinstance(value, int))
