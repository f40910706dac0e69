"""From the bytes of an HTML document to :class:`~hodcarrier.core.facts.PageFacts`.

The tree is built as browsers build it (WHATWG HTML, 13.2), because where ``<head>`` really ends decides whether a
canonical or a robots directive counts.
"""

from __future__ import annotations

import hashlib
import json
import re
from collections import Counter, deque
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Any

import numpy as np
from selectolax.lexbor import LexborHTMLParser, LexborNode
from xxhash import xxh3_64_hexdigest

from hodcarrier.core import encodings
from hodcarrier.core.facts import Heading, PageFacts, Placed
from hodcarrier.core.references import TEXT_MAX, Elements, References, clean, roles_of
from hodcarrier.core.urls import Resolver, path_pattern

# Atomic and possessive: a page that begins with many comments must not be tried in every way to divide them.
_DOCTYPE = re.compile(r"\s*+(?>(?><!--.*?-->)\s*+)*+<!doctype\s+html", re.I | re.S)
_MARKS = b'.,;:!?()[]{}<>"`|/\\*_=+~^#@&%$'
_BLANKS = b"\t\n\r\x0b\x0c"
_JOINING_MARKS = b"'-"
_LOWER_WITHOUT_MARKS = bytes(ord(" ") if c in _MARKS + _BLANKS else ord(chr(c).lower()) if c < 128 else c for c in range(256))
_WIDE_JOINING_MARKS = [mark.encode() for mark in "’‐‑\u00ad"]
_WIDE_MARKS = [mark.encode() for mark in "´“”„‘‚«»‹›…–—·•¶§©®™→←\u00a0\u2028\u3000"]
_ASCII_ALIKE = frozenset({"utf-8", "windows-1252"})
_HEADINGS = frozenset({"h1", "h2", "h3", "h4", "h5", "h6"})
_NOT_MAIN_TAGS = ("nav", "header", "footer", "aside", "script", "style", "noscript", "template")
_NOT_MAIN_ROLES = frozenset({"navigation", "banner", "contentinfo"})
_SKELETON_TAGS = frozenset(
    [
        "body",
        "header",
        "nav",
        "main",
        "article",
        "section",
        "aside",
        "footer",
        "div",
        "ul",
        "ol",
        "table",
        "form",
        "dl",
        "figure",
    ]
)


_SKELETON_LEAVES = frozenset({"h1", "h2"})


def extract(
    body: bytes, url: str, content_type: str = "", resolver: Resolver | None = None, expected: Sequence[str] = ()
) -> PageFacts:
    """All facts of a document fetched from ``url`` (normalised). Never raises for any bytes.

    A ``resolver`` that is kept from page to page remembers what it has resolved. ``expected`` are texts that the source is
    searched for.
    """
    encoding, source = encodings.sniff(body, content_type)
    text = encodings.decode(body, encoding)
    tree = LexborHTMLParser(_source(text, body, encoding))
    everything = tree.css("*")
    elements, names = _by_name(everything)
    head = tree.head
    head_ids = frozenset(n.mem_id for n in head.css("*")) if head is not None else frozenset()
    resolver = resolver or Resolver()
    base, base_raw = _base(elements, url, resolver)
    roles = roles_of(tree)
    references = References(elements, roles, head_ids, resolver.on(base))
    metas = _Metas(elements, head_ids)
    data_types, data_errors = _structured_data(elements)
    return PageFacts(
        url=url,
        html_bytes=len(body),
        encoding=encoding,
        encoding_source=source,
        base=base_raw,
        doctype=bool(_DOCTYPE.match(text[:4096].lstrip("\ufeff"))),
        lang=_attribute(tree.root, "lang").strip() if tree.root else "",
        titles=tuple(_titles(elements, head_ids)),
        descriptions=tuple(metas.named["description"]),
        robots=tuple(metas.named["robots"]),
        canonicals=tuple(references.canonicals),
        viewport=next((m.text for m in metas.named["viewport"]), None),
        refresh=references.refresh,
        headings=tuple(_headings(everything, names)),
        images=tuple(references.images),
        alternates=tuple(references.alternates),
        links=tuple(references.links),
        malformed=tuple(references.malformed),
        insecure_forms=tuple(references.insecure_forms),
        password_fields=sum(1 for n in elements.get("input", ()) if _attribute(n, "type").strip().lower() == "password"),
        social=tuple(metas.social),
        data_types=data_types,
        data_errors=data_errors,
        twice_ids=_twice_ids(tree),
        elements=len(everything),
        blocking_scripts=tuple(_blocking(elements, head_ids)),
        expected_missing=tuple(snippet for snippet in expected if snippet not in text),
        template=path_pattern(url) + " " + _skeleton(tree, names),
        **_main_text(tree, elements, roles),
    )


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


def _attribute(node: LexborNode, name: str) -> str:
    return node.attributes.get(name) or ""


def _base(elements: Elements, url: str, resolver: Resolver) -> tuple[str, str]:
    """The base URL of the document (WHATWG HTML, 2.4.3) and the raw ``<base href>``."""
    for node in elements.get("base", ()):
        raw = node.attributes.get("href")
        if raw is not None:
            return resolver.resolve(raw, url) or url, raw
    return url, ""


def _titles(elements: Elements, head_ids: frozenset[int]) -> Iterator[Placed]:
    for node in elements.get("title", ()):
        inside = node.mem_id in head_ids
        if inside or not _inside_svg(node.parent):
            yield Placed(clean(node.text_lexbor())[:2000], inside)


def _inside_svg(node: LexborNode | None) -> bool:
    while node is not None:
        if node.tag == "svg":
            return True
        node = node.parent
    return False


class _Metas:
    """Metas by their names in lower case, and the social ones."""

    def __init__(self, elements: Elements, head_ids: frozenset[int]) -> None:
        self.named: dict[str, list[Placed]] = {"description": [], "robots": [], "viewport": []}
        self.social: list[tuple[str, str]] = []
        for node in elements.get("meta", ()):
            attributes = node.attributes
            name = (attributes.get("name") or "").strip().lower()
            key = (attributes.get("property") or name).strip().lower()
            if name in self.named:
                self.named[name].append(Placed(clean(attributes.get("content") or "")[:4000], node.mem_id in head_ids))
            elif key.startswith(("og:", "twitter:")):
                self.social.append((key, clean(attributes.get("content") or "")[:500]))


def _headings(nodes: Iterable[LexborNode], names: Mapping[int, str]) -> Iterator[Heading]:
    levels = {number: int(name[1]) for number, name in names.items() if name in _HEADINGS}
    for node in nodes:
        level = levels.get(node.tag_id)
        if level is None:
            continue
        name = clean(node.text_lexbor())
        if not name:
            name = clean(" ".join(_attribute(i, "alt") for i in node.css("img[alt]")))
        yield Heading(level, name[:TEXT_MAX])


def _main_text(tree: LexborHTMLParser, elements: Elements, roles: list[tuple[str, LexborNode]]) -> dict[str, Any]:
    """Words of the main text and a hash that is equal for pages with equal main text.

    The main text is that of ``<main>`` where there is one, else of the body without navigation, header, footer and
    asides. The tree is cut for this, so it is read last.
    """
    where = next(iter(elements.get("main", ())), None) or next((n for role, n in roles if role == "main"), None) or tree.body
    if where is None:
        return {"words": 0, "text_hash": ""}
    others = [n for tag in _NOT_MAIN_TAGS for n in elements.get(tag, ())] + [n for role, n in roles if role in _NOT_MAIN_ROLES]
    for node in _outermost_inside(where, others):
        node.decompose()
    words, digest = measure_text(where.text(deep=True, separator=" "))
    return {"words": words, "text_hash": digest}


def _outermost_inside(where: LexborNode, nodes: list[LexborNode]) -> list[LexborNode]:
    """Those of the nodes that stand inside ``where`` and in none of the others: what is cut is never touched again."""
    ids = {node.mem_id for node in nodes}
    top = where.mem_id
    found = {}
    for node in nodes:
        above = node.parent
        while above is not None and above.mem_id != top and above.mem_id not in ids:
            above = above.parent
        if above is not None and above.mem_id == top:
            found[node.mem_id] = node
    return list(found.values())


def measure_text(text: str) -> tuple[int, str]:
    """How many words a text has, and a hash of its letters and digits that leaves case, marks and spacing aside.

    A word is what is left between white space when marks are taken away; hyphens and apostrophes join what they stand
    between. Worked on UTF-8, as a row of bytes, which is many times faster than on text.
    """
    if text.isascii():
        raw = text.encode()
    else:
        raw = text.lower().encode("utf-8", "replace")
        for mark in _WIDE_JOINING_MARKS:
            raw = raw.replace(mark, b"")
        for mark in _WIDE_MARKS:
            raw = raw.replace(mark, b" ")
    raw = raw.translate(_LOWER_WITHOUT_MARKS, _JOINING_MARKS)
    letters = np.frombuffer(b" " + raw, np.uint8) != ord(" ")
    words = int(np.count_nonzero(letters[1:] > letters[:-1]))  # a word begins where a letter follows a blank
    return words, xxh3_64_hexdigest(raw.translate(None, b" ")) if words else ""


def _skeleton(tree: LexborHTMLParser, names: Mapping[int, str]) -> str:
    """A short hash of the document's structure: which block elements with which classes stand in which, not how often."""
    shapes: set[str] = set()
    body = tree.body
    if body is None:
        return ""
    leaves = {number: name for number, name in names.items() if name in _SKELETON_LEAVES}
    blocks = {number: name for number, name in names.items() if name in _SKELETON_TAGS}
    stack: list[tuple[LexborNode, str, int]] = [(body, "", 0)]
    while stack:
        node, path, depth = stack.pop()
        for child in node.iter():
            number = child.tag_id
            if number in leaves:
                shapes.add(f"{path}/{leaves[number]}")
            elif number in blocks:
                here = f"{path}/{blocks[number]}.{child.attributes.get('class') or ''}"
                shapes.add(here)
                if depth < 2:
                    stack.append((child, here, depth + 1))
    return hashlib.blake2b("\n".join(sorted(shapes)).encode("utf-8", "replace"), digest_size=4).hexdigest()


def _structured_data(elements: Elements) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Types named by JSON-LD blocks, and the reader's words for each block that is not JSON."""
    types: list[str] = []
    errors: list[str] = []
    for node in elements.get("script", ()):
        if _attribute(node, "type").strip().lower() != "application/ld+json":
            continue
        try:
            value = json.loads(node.text_lexbor(), strict=False)
        except (ValueError, RecursionError) as error:
            errors.append(str(error)[:200])
            continue
        types.extend(_types_in(value))
    return tuple(dict.fromkeys(types)), tuple(errors)


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


def _twice_ids(tree: LexborHTMLParser) -> tuple[str, ...]:
    counted = Counter(_attribute(n, "id") for n in tree.css("[id]"))
    return tuple(name for name, times in counted.items() if times > 1 and name)


def _blocking(elements: Elements, head_ids: frozenset[int]) -> Iterator[str]:
    for node in elements.get("script", ()):
        attributes = node.attributes
        waits = "async" not in attributes and "defer" not in attributes and attributes.get("type") != "module"
        if waits and attributes.get("src") and node.mem_id in head_ids:
            yield attributes["src"] or ""
