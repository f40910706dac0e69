"""Facts of a document's structured data: JSON-LD, microdata and RDFa."""

from __future__ import annotations

import json
import re
from collections import deque
from collections.abc import Iterator
from hashlib import blake2b
from typing import Any, NamedTuple

import msgspec
from selectolax.lexbor import LexborNode

from hodcarrier.core.facts.document import Document, attribute
from hodcarrier.core.facts.things import Thing, of_kind, parts_of, things_of

VERSION = 1
IMAGES = ("image", "logo", "thumbnailUrl", "photo")
PRODUCTS_MAX = 20
_WORD = re.compile(r"\w{3,}")
_PRICE = re.compile(r"(?:[€$£¥]|\b[A-Z]{3}|kr|zł|Fr\.) ?\d|\d ?(?:[€$£¥]|[A-Z]{3}\b|kr\b|zł)")


class DataFacts(msgspec.Struct, frozen=True, array_like=True):
    """The types that JSON-LD blocks name, each once, and of each block that is not JSON (RFC 8259) the reader's words, its number among the
    blocks of the document, from 1 on, and a digest of its text. ``other_forms``: there is microdata or RDFa. ``things`` are what all of them
    describe; ``unseen`` are names and prices of products, by property, that the page does not show. Collect it before the links: it adds
    images to them."""

    types: tuple[str, ...] = ()
    errors: tuple[str, ...] = ()
    wrong_blocks: tuple[tuple[int, str], ...] = ()
    other_forms: bool = False
    things: tuple[Thing, ...] = ()
    unseen: tuple[tuple[str, str], ...] = ()

    @classmethod
    def collect(cls, document: Document) -> DataFacts:
        """From a parsed document."""
        types: list[str] = []
        errors: list[str] = []
        wrong: list[tuple[int, str]] = []
        read: list[tuple[int, Any]] = []
        for number, block in enumerate(blocks_of(document), 1):
            if block.error:
                errors.append(block.error)
                wrong.append((number, blake2b(block.text.encode("utf-8", "replace"), digest_size=4).hexdigest()))
            else:
                types.extend(_types_in(block.value))
                read.append((number, block.value))
        items = document.tree.css("[itemscope]") if "itemscope" in document.text else []
        subjects = document.tree.css("[typeof]") if "typeof" in document.text else []
        things = things_of(read, items, subjects) if read or items or subjects else ()
        for raw in dict.fromkeys(_images_in(things)):
            document.references.add_image(raw, "data-image")
        unseen = tuple(_unseen(document, things)) if things else ()
        return cls(tuple(dict.fromkeys(types)), tuple(errors), tuple(wrong), bool(items or subjects), things, unseen)


def _images_in(things: tuple[Thing, ...]) -> Iterator[str]:
    for thing in things:
        for name in IMAGES:
            yield from (text for text in thing.texts(name) if "://" in text or text.startswith("/"))
        if "ImageObject" in thing.types:
            yield from thing.texts("url")
            yield from thing.texts("contentUrl")


def _unseen(document: Document, things: tuple[Thing, ...]) -> Iterator[tuple[str, str]]:
    """Names and prices of products in JSON-LD that the visible text does not have. Prices are looked for on pages that show some."""
    products = [thing for thing in of_kind(things, "Product") if thing.form == "JSON-LD"]
    if not products or len(products) > PRODUCTS_MAX or document.tree.body is None:
        return
    text = " ".join(document.tree.body.text(deep=True, separator=" ").replace("\u202f", " ").split())
    for node in document.elements.get("script", ()):
        if said := " ".join(node.text_lexbor().split()):
            text = text.replace(said, " ")
    lower = text.casefold()
    shows_prices = _PRICE.search(text) is not None
    for product in products:
        name = next(iter(product.texts("name")), "")
        words = _WORD.findall(name.casefold())
        if words and sum(word in lower for word in words) * 2 < len(words):
            yield "name", name
        for offer in parts_of(things, product, "offers"):
            for price in (*offer.texts("price"), *offer.texts("lowPrice")):
                if shows_prices and (forms := _forms_of(price)) and not any(form in text for form in forms):
                    yield "price", price


def _forms_of(price: str) -> tuple[str, ...]:
    """How a price may stand on a page; empty when it is no number."""
    try:
        value = float(price)
    except ValueError:
        return ()
    plain = (f"{value:.2f}", f"{value:.2f}".rstrip("0").rstrip("."))
    forms = [form for text in plain for form in (text, text.replace(".", ","))]
    grouped = f"{value:,.2f}"
    for mark in (",", ".", " ", "’", "'"):
        whole, _, cents = grouped.partition(".")
        whole = whole.replace(",", mark)
        forms += [f"{whole}.{cents}", f"{whole},{cents}", *([whole] if cents == "00" else [])]
    return tuple(dict.fromkeys(forms))


class Block(NamedTuple):
    """A block of JSON-LD: its text, and what it says, or the reader's words for why it is no JSON (RFC 8259)."""

    text: str
    value: Any
    error: str


def blocks_of(document: Document) -> list[Block]:
    """The blocks of JSON-LD of a document, read once for all who ask."""
    if document.blocks is None:
        scripts = document.elements.get("script", ())
        document.blocks = [_read(n.text_lexbor()) for n in scripts if _is_json_ld(n)]
    return document.blocks


def _is_json_ld(node: LexborNode) -> bool:
    return attribute(node, "type").partition(";")[0].strip().lower() == "application/ld+json"


def _read(text: str) -> Block:
    try:
        return Block(text, json.loads(text, parse_constant=_refuse), "")
    except (ValueError, RecursionError) as error:
        return Block(text, None, (str(error) or "nested too deeply")[:200])


def main_types(document: Document) -> Iterator[str]:
    """The types of the things that blocks of JSON-LD are about, without those inside them."""
    for block in blocks_of(document):
        value = block.value
        things = value if isinstance(value, list) else value.get("@graph", [value]) if isinstance(value, dict) else []
        for thing in things if isinstance(things, list) else ():
            named = thing.get("@type") if isinstance(thing, dict) else None
            if named:
                yield from (str(kind) for kind in (named if isinstance(named, list) else [named]))


def _refuse(constant: str) -> None:
    raise ValueError(f"{constant} is no number of JSON")


def _types_in(value: Any) -> Iterator[str]:
    queue = deque([value])
    while queue:
        item = queue.popleft()
        if isinstance(item, list):
            queue.extend(item)
        elif isinstance(item, dict):
            named = item.get("@type", [])
            yield from (str(t) for t in (named if isinstance(named, list) else [named]))
            queue.extend(v for v in item.values() if isinstance(v, dict | list))
