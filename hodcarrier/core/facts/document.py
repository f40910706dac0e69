"""One HTML document, parsed once, with what several areas of facts need of it.

The tree is built as browsers build it (WHATWG HTML, 13.2), because where ``<head>`` really ends decides whether a
canonical or a robots directive counts.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from selectolax.lexbor import LexborHTMLParser, LexborNode

from hodcarrier.core.facts.references import Elements, References, clean, roles_of
from hodcarrier.core.facts.values import Placed
from hodcarrier.core.web import encodings
from hodcarrier.core.web.urls import Resolver

_ASCII_ALIKE = frozenset({"utf-8", "windows-1252"})
_NAMED_METAS = ("description", "robots", "viewport")


class Document:
    """A parsed document. Never raises for any bytes.

    ``elements`` are the nodes by name, ``names`` the names by the parser's numbers, ``head_ids`` the nodes inside the real head,
    ``metas`` the named metas that areas ask for, ``social`` those of previews, ``references`` everything it refers to.
    """

    __slots__ = (
        "base_raw",
        "elements",
        "encoding",
        "encoding_source",
        "everything",
        "expected",
        "head_ids",
        "html_bytes",
        "metas",
        "names",
        "references",
        "roles",
        "social",
        "text",
        "tree",
        "url",
    )

    def __init__(self, body: bytes, url: str, content_type: str, resolver: Resolver, expected: Sequence[str]) -> None:
        self.url = url
        self.html_bytes = len(body)
        self.expected = expected
        self.encoding, self.encoding_source = encodings.sniff(body, content_type)
        self.text = encodings.decode(body, self.encoding)
        self.tree = LexborHTMLParser(_source(self.text, body, self.encoding))
        self.everything = self.tree.css("*")
        self.elements, self.names = _by_name(self.everything)
        head = self.tree.head
        self.head_ids = frozenset(n.mem_id for n in head.css("*")) if head is not None else frozenset()
        base, self.base_raw = _base(self.elements, url, resolver)
        self.roles = roles_of(self.tree)
        self.references = References(self.elements, self.roles, self.head_ids, resolver.on(base))
        self.metas: dict[str, list[Placed]] = {name: [] for name in _NAMED_METAS}
        self.social: list[tuple[str, str]] = []
        self._read_metas()

    def _read_metas(self) -> None:
        for node in self.elements.get("meta", ()):
            attributes = node.attributes
            name = (attributes.get("name") or "").strip().lower()
            key = (attributes.get("property") or name).strip().lower()
            if name in self.metas:
                self.metas[name].append(Placed(clean(attributes.get("content") or "")[:4000], node.mem_id in self.head_ids))
            elif key.startswith(("og:", "twitter:")):
                self.social.append((key, clean(attributes.get("content") or "")[:500]))


def attribute(node: LexborNode, name: str) -> str:
    """An attribute's value; empty when it is absent or has none."""
    return node.attributes.get(name) or ""


def _by_name(nodes: Iterable[LexborNode]) -> tuple[dict[str, list[LexborNode]], dict[int, str]]:
    """The elements of a document by their names, and the names by the parser's numbers, which are read faster."""
    by_number: dict[int, list[LexborNode]] = {}
    for node in nodes:
        number = node.tag_id
        if number in by_number:
            by_number[number].append(node)
        else:
            by_number[number] = [node]
    names = {number: alike[0].tag or "" for number, alike in by_number.items()}
    return {names[number]: alike for number, alike in by_number.items()}, names


def _source(text: str, body: bytes, encoding: str) -> str | bytes:
    """What the parser gets: the text, or the bytes where it would only encode the text into just them again."""
    if "\x00" in text:
        return text.replace("\x00", "\ufffd")
    return body if encoding in _ASCII_ALIKE and body.isascii() else text


def _base(elements: Elements, url: str, resolver: Resolver) -> tuple[str, str]:
    """The base URL of the document (WHATWG HTML, 2.4.3) and the raw ``<base href>``."""
    for node in elements.get("base", ()):
        raw = node.attributes.get("href")
        if raw is not None:
            return resolver.resolve(raw, url) or url, raw
    return url, ""
