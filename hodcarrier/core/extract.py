"""From the bytes of an HTML document to :class:`~hodcarrier.core.facts.PageFacts`.

The tree is built as browsers build it (WHATWG HTML, 13.2), because where ``<head>`` really ends decides whether a
canonical or a robots directive counts.
"""

from __future__ import annotations

import hashlib
import json
import re
from collections import Counter
from collections.abc import Iterator
from typing import Any

from selectolax.lexbor import LexborHTMLParser, LexborNode

from hodcarrier.core import encodings
from hodcarrier.core.errors import InvalidUrl
from hodcarrier.core.facts import Alternate, Heading, Image, Link, PageFacts, Placed
from hodcarrier.core.urls import is_web, normalize, path_pattern

_SPACE = re.compile(r"[ \t\n\r\f]+")
_WORD = re.compile(r"[^\W_]+(?:['’-][^\W_]+)*")
_REFRESH = re.compile(r"^\s*\d*[.\d]*\s*[;,]?\s*(?:url\s*=\s*)?[\"']?([^\"']*)", re.I)
_LANDMARKS = (
    ("aside", "aside, [role=complementary]"),
    ("header", "body > header, body > * > header, [role=banner]"),
    ("footer", "footer, [role=contentinfo]"),
    ("navigation", "nav, [role=navigation]"),
)
_NOT_MAIN = "nav, header, footer, aside, script, style, noscript, template, [role=navigation], [role=banner], [role=contentinfo]"
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
        "h1",
        "h2",
        "dl",
        "figure",
    ]
)
_TEXT_MAX = 300


def extract(body: bytes, url: str, content_type: str = "") -> PageFacts:
    """All facts of a document fetched from ``url`` (normalised). Never raises for any bytes."""
    encoding, source = encodings.sniff(body, content_type)
    text = encodings.decode(body, encoding)
    tree = LexborHTMLParser(text.replace("\x00", "�"))
    base, base_raw = _base(tree, url)
    links = _Links(tree, base)
    head = tree.head
    data_types, data_errors = _structured_data(tree)
    return PageFacts(
        url=url,
        html_bytes=len(body),
        encoding=encoding,
        encoding_source=source,
        base=base_raw,
        doctype=bool(re.match(r"\s*(?:<!--.*?-->\s*)*<!doctype\s+html", text[:4096].lstrip("\ufeff"), re.I | re.S)),
        lang=_attribute(tree.root, "lang").strip() if tree.root else "",
        titles=tuple(_titles(tree)),
        descriptions=tuple(_metas(tree, "description")),
        robots=tuple(_metas(tree, "robots")),
        canonicals=tuple(links.canonicals),
        viewport=next((m.text for m in _metas(tree, "viewport")), None),
        refresh=links.refresh,
        headings=tuple(_headings(tree)),
        images=tuple(links.images),
        alternates=tuple(links.alternates),
        links=tuple(links.found),
        malformed=tuple(links.malformed),
        insecure_forms=tuple(links.insecure_forms),
        password_fields=len(tree.css("input[type=password i]")),
        social=tuple(_social(tree)),
        data_types=data_types,
        data_errors=data_errors,
        twice_ids=_twice_ids(tree),
        elements=len(tree.css("*")),
        blocking_scripts=tuple(_blocking(head)) if head else (),
        template=path_pattern(url) + " " + _skeleton(tree),
        **_main_text(tree),
    )


def _attribute(node: LexborNode, name: str) -> str:
    return node.attributes.get(name) or ""


def _clean(text: str) -> str:
    return _SPACE.sub(" ", text).strip()


def _base(tree: LexborHTMLParser, url: str) -> tuple[str, str]:
    """The base URL of the document (WHATWG HTML, 2.4.3) and the raw ``<base href>``."""
    node = tree.css_first("base[href]")
    if node is None:
        return url, ""
    raw = _attribute(node, "href")
    try:
        return normalize(raw.strip(), url), raw
    except InvalidUrl:
        return url, raw


def _in_head(tree: LexborHTMLParser, selector: str) -> Iterator[tuple[LexborNode, bool]]:
    """Matches in document order, each with whether it stands inside the head element."""
    inside = {n.mem_id for n in tree.head.css(selector)} if tree.head else set()
    for node in tree.css(selector):
        yield node, node.mem_id in inside


def _titles(tree: LexborHTMLParser) -> Iterator[Placed]:
    for node, inside in _in_head(tree, "title"):
        parent = node.parent
        if not inside and parent is not None and _inside_svg(parent):
            continue
        yield Placed(_clean(node.text(deep=True))[:2000], inside)


def _inside_svg(node: LexborNode | None) -> bool:
    while node is not None:
        if node.tag == "svg":
            return True
        node = node.parent
    return False


def _metas(tree: LexborHTMLParser, name: str) -> Iterator[Placed]:
    for node, inside in _in_head(tree, f"meta[name='{name}' i]"):
        yield Placed(_clean(_attribute(node, "content"))[:4000], inside)


def _headings(tree: LexborHTMLParser) -> Iterator[Heading]:
    for node in tree.css("h1, h2, h3, h4, h5, h6"):
        name = _clean(node.text(deep=True))
        if not name:
            name = _clean(" ".join(_attribute(i, "alt") for i in node.css("img[alt]")))
        yield Heading(int((node.tag or "h1")[1]), name[:_TEXT_MAX])


def _main_text(tree: LexborHTMLParser) -> dict[str, Any]:
    """Words of the main text and a hash that is equal for pages with equal main text.

    The main text is that of ``<main>`` where there is one, else of the body without navigation, header, footer and
    asides. The tree is cut for this, so it is read last.
    """
    where = tree.css_first("main, [role=main]") or tree.body
    if where is None:
        return {"words": 0, "text_hash": ""}
    for node in where.css(_NOT_MAIN):
        if node.mem_id != where.mem_id:
            node.decompose()
    text = where.text(deep=True, separator=" ")
    words = _WORD.findall(text)
    digest = hashlib.blake2b(" ".join(words).lower().encode("utf-8", "replace"), digest_size=8).hexdigest() if words else ""
    return {"words": len(words), "text_hash": digest}


def _skeleton(tree: LexborHTMLParser) -> str:
    """A short hash of the document's structure: which block elements with which classes stand in which, not how often."""
    shapes: set[str] = set()
    body = tree.body
    if body is None:
        return ""
    stack: list[tuple[LexborNode, str, int]] = [(body, "", 0)]
    while stack:
        node, path, depth = stack.pop()
        child = node.child
        while child is not None:
            if child.tag in _SKELETON_TAGS:
                here = f"{path}/{child.tag}.{_attribute(child, 'class')}"
                if here not in shapes:
                    shapes.add(here)
                if depth < 2:
                    stack.append((child, here, depth + 1))
            child = child.next
    return hashlib.blake2b("\n".join(sorted(shapes)).encode("utf-8", "replace"), digest_size=4).hexdigest()


def _social(tree: LexborHTMLParser) -> Iterator[tuple[str, str]]:
    for node in tree.css("meta[property^='og:'], meta[name^='twitter:']"):
        yield (_attribute(node, "property") or _attribute(node, "name")).lower(), _clean(_attribute(node, "content"))[:500]


def _structured_data(tree: LexborHTMLParser) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Types named by JSON-LD blocks, and the reader's words for each block that is not JSON."""
    types: list[str] = []
    errors: list[str] = []
    for node in tree.css("script[type='application/ld+json' i]"):
        try:
            value = json.loads(node.text(deep=True), strict=False)
        except (ValueError, RecursionError) as error:
            errors.append(str(error)[:200])
            continue
        types.extend(_types_in(value))
    return tuple(dict.fromkeys(types)), tuple(errors)


def _types_in(value: Any) -> Iterator[str]:
    queue = [value]
    while queue:
        item = queue.pop(0)
        if isinstance(item, list):
            queue.extend(item)
        elif isinstance(item, dict):
            named = item.get("@type", [])
            yield from (str(t) for t in (named if isinstance(named, list) else [named]))
            queue.extend(v for v in item.values() if isinstance(v, dict | list))


def _twice_ids(tree: LexborHTMLParser) -> tuple[str, ...]:
    counted = Counter(_attribute(n, "id") for n in tree.css("[id]"))
    return tuple(name for name, times in counted.items() if times > 1 and name)


def _blocking(head: LexborNode) -> Iterator[str]:
    for node in head.css("script[src]"):
        attributes = node.attributes
        if "async" not in attributes and "defer" not in attributes and attributes.get("type") != "module":
            yield attributes.get("src") or ""


class _Links:
    """Collects every reference of a document in one pass over the elements that can carry one."""

    def __init__(self, tree: LexborHTMLParser, base: str) -> None:
        self.base = base
        self.found: list[Link] = []
        self.images: list[Image] = []
        self.alternates: list[Alternate] = []
        self.canonicals: list[Placed] = []
        self.malformed: list[str] = []
        self.insecure_forms: list[str] = []
        self.refresh = ""
        self.places: dict[int, str] = {}
        for landmark, selector in _LANDMARKS:
            for region in tree.css(selector):
                for node in region.css("a[href], area[href]"):
                    self.places[node.mem_id] = landmark
        self.head_ids = {n.mem_id for n in tree.head.css("link")} if tree.head else set()
        for node in tree.css("a[href], area[href]"):
            self._anchor(node)
        for node in tree.css("link[href]"):
            self._link_element(node)
        for node in tree.css("img"):
            self._image(node)
        for node in tree.css("script[src]"):
            self._add(_attribute(node, "src"), "script")
        for node in tree.css("iframe[src], frame[src]"):
            self._add(_attribute(node, "src"), "iframe")
        for node in tree.css("form[action]"):
            url = self._add(_attribute(node, "action"), "form")
            if url.startswith("http://"):
                self.insecure_forms.append(url)
        for node in tree.css("meta[http-equiv='refresh' i]"):
            target = _REFRESH.match(_attribute(node, "content"))
            if target and target.group(1).strip():
                self.refresh = self._add(target.group(1).strip(), "refresh")

    def resolve(self, raw: str) -> str:
        """The normalised URL of an attribute, or empty text when it is none (noted as malformed)."""
        try:
            return normalize(raw.strip(" \t\n\r\f"), self.base)
        except InvalidUrl:
            self.malformed.append(raw[:_TEXT_MAX])
            return ""

    def _add(self, raw: str, kind: str, text: str = "", landmark: str = "main", rel: tuple[str, ...] = ()) -> str:
        url = self.resolve(raw)
        if url and is_web(url):
            self.found.append(Link(url, kind, raw[:2000], text[:_TEXT_MAX], landmark, rel))
        return url

    def _anchor(self, node: LexborNode) -> None:
        raw = _attribute(node, "href")
        text = _clean(node.text(deep=True)) if node.tag == "a" else ""
        kind = "anchor"
        if not text:
            named = [_attribute(i, "alt") for i in node.css("img[alt]")]
            if node.css_first("img") is not None:
                kind = "image-link"
            labels = [_attribute(node, "aria-label"), _attribute(node, "title"), _attribute(node, "alt")]
            titles = [_clean(t.text(deep=True)) for t in node.css("svg title")] + [
                _attribute(n, "aria-label") for n in node.css("[aria-label]") if n.mem_id != node.mem_id
            ]
            text = _clean(" ".join(filter(None, [*named, *labels, *titles])))
            if not text and _attribute(node, "aria-labelledby"):
                text = "#" + _attribute(node, "aria-labelledby")
        rel = tuple(_attribute(node, "rel").lower().split())
        self._add(raw, kind, text, self.places.get(node.mem_id, "main"), rel)

    def _link_element(self, node: LexborNode) -> None:
        rel = tuple(_attribute(node, "rel").lower().split())
        raw = _attribute(node, "href")
        inside = node.mem_id in self.head_ids
        if "canonical" in rel:
            url = self._add(raw, "canonical")
            self.canonicals.append(Placed(raw[:2000], inside, url if is_web(url) else ""))
        elif "alternate" in rel and _attribute(node, "hreflang"):
            url = self._add(raw, "alternate")
            self.alternates.append(Alternate(_attribute(node, "hreflang").strip(), url, inside))
        elif "stylesheet" in rel:
            self._add(raw, "style")
        elif "amphtml" in rel:
            self._add(raw, "amp")
        elif "icon" in rel or "apple-touch-icon" in rel:
            self._add(raw, "icon")

    def _image(self, node: LexborNode) -> None:
        attributes = node.attributes
        raw = attributes.get("src") or ""
        url = self._add(raw, "image") if raw else ""
        alt = _clean(attributes.get("alt") or "") if "alt" in attributes else None
        self.images.append(
            Image(
                url,
                raw[:2000],
                alt,
                "width" in attributes and "height" in attributes,
                attributes.get("loading") == "lazy",
                _alone_in_link(node),
            )
        )


def _alone_in_link(node: LexborNode) -> bool:
    parent = node.parent
    while parent is not None and parent.tag in ("picture", "span", "figure", "div"):
        parent = parent.parent
    if parent is None or parent.tag != "a":
        return False
    return not parent.text(deep=True).strip() and len(parent.css("img")) == 1
