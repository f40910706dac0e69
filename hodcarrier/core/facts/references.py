"""Every reference of a document: links, files, alternates, canonicals, forms, refreshes."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator, Mapping

from selectolax.lexbor import LexborNode

from hodcarrier.core.facts.values import Alternate, Image, Link, Placed
from hodcarrier.core.web.refresh import AT_ONCE_S, read_refresh
from hodcarrier.core.web.urls import WEB, is_web

Elements = Mapping[str, list[LexborNode]]
Resolve = Callable[[str], str]

_DOCUMENT = re.compile(r"^[^?#]*\.x?html?\s*(?:[?#]|$)", re.I)
_FEED_TYPES = frozenset({"application/rss+xml", "application/atom+xml", "application/feed+json"})
_LINK_KINDS = {
    "stylesheet": "style",
    "amphtml": "amp",
    "icon": "icon",
    "apple-touch-icon": "icon",
    "preload": "preload",
    "modulepreload": "preload",
    "manifest": "manifest",
    "next": "next",
    "prev": "prev",
}
_EMBEDDED = {"script": "script", "iframe": "iframe", "frame": "iframe", "object": "object", "embed": "object"}
_ROLES = {"complementary": "aside", "banner": "header", "contentinfo": "footer", "navigation": "navigation"}
_ABSOLUTE = re.compile(r"\s*[a-z][a-z0-9+.-]*:", re.I)
_SMALL = re.compile(r"handheld|max-(?:device-)?width", re.I)
_MODERN_TYPES = frozenset({"image/avif", "image/webp", "image/jxl"})
_MODERN_NAMES = re.compile(r"\.(?:avif|webp|jxl)\b", re.I)
_PIXELS = re.compile(r"\s*(\d{1,5})(?:px)?\s*")
TEXT_MAX = 300
REGIONS_MAX = 200
RAW_MAX = 2000


def clean(text: str) -> str:
    """Text with every run of white space as one blank, none at the ends."""
    return " ".join(text.split())


def _pixels(value: str | None) -> int:
    """A declared length in pixels; 0 when it is none."""
    found = _PIXELS.fullmatch(value or "")
    return int(found.group(1)) if found else 0


class References:
    """Collects the references of one document. ``resolve`` gives a normalised URL, or empty text for none."""

    def __init__(
        self, elements: Elements, roles: Iterable[tuple[str, LexborNode]], head_ids: frozenset[int], resolve: Resolve
    ) -> None:
        self.resolve = resolve
        self.head_ids = head_ids
        self.links: list[Link] = []
        self.images: list[Image] = []
        self.alternates: list[Alternate] = []
        self.canonicals: list[Placed] = []
        self.malformed: list[str] = []
        self.insecure_forms: list[str] = []
        self.anchor_names: list[str] = []
        self.scripted: list[tuple[str, str]] = []
        self.bare_images: list[tuple[str, str]] = []
        self.reachable = False
        self.refresh = ""
        self.refresh_s: int | None = None
        self._places = _landmarks(elements, roles)
        self._lone: dict[int, bool] = {}
        self._anchors(elements.get("a", ()), has_text=True)
        self._anchors(elements.get("area", ()), has_text=False)
        for node in elements.get("link", ()):
            self._link_element(node)
        for node in elements.get("img", ()):
            self._image(node)
        for node in elements.get("input", ()):
            if (node.attributes.get("type") or "").strip().lower() == "image" and (raw := node.attributes.get("src")):
                self._add(raw, "image")
        for tag in ("source", "video", "audio", "track", "embed", "object", "script", "iframe", "frame"):
            for node in elements.get(tag, ()):
                self._embedded(node, tag)
        for node in elements.get("form", ()):
            raw = node.attributes.get("action")
            if raw and self._add(raw, "form").startswith("http://"):
                self.insecure_forms.append(self.links[-1].url)
        for tag in ("button", "input"):
            for node in elements.get(tag, ()):
                raw = node.attributes.get("formaction")
                if raw and self._add(raw, "form").startswith("http://"):
                    self.insecure_forms.append(self.links[-1].url)
        for node in elements.get("meta", ()):
            self._refresh(node)

    def _add(self, raw: str, kind: str, text: str = "", landmark: str = "main", rel: tuple[str, ...] = ()) -> str:
        url = self.resolve(raw)
        if not url:
            self.malformed.append(raw[:TEXT_MAX])
        elif is_web(url):
            self.links.append(Link(url, kind, raw[:RAW_MAX], text[:TEXT_MAX], landmark, rel))
        return url

    def add_image(self, raw: str, kind: str) -> None:
        """Note an image that nobody sees on the page itself: of its preview, or of its data."""
        self._add(raw, kind)

    def _anchors(self, nodes: Iterable[LexborNode], has_text: bool) -> None:
        """Anchors and areas. They are most of what a page refers to, so this loop is written to be fast."""
        resolve, places, links = self.resolve, self._places, self.links
        for node in nodes:
            attributes = node.attributes
            raw = attributes.get("href")
            if "name" in attributes:
                self.anchor_names.append(attributes["name"] or "")
            if raw is None:
                if "onclick" in attributes or attributes.get("role") == "link":
                    self.scripted.append((clean(node.text_lexbor())[:TEXT_MAX], ""))
                continue
            text = " ".join(node.text_lexbor().split()) if has_text else ""
            kind = "anchor"
            if not text:
                picture = node.css_first("img")
                if picture is not None:
                    kind = "image-link"
                text = _name_without_text(node, attributes)
                if picture is not None and not text and "alt" not in picture.attributes:
                    source = picture.attributes.get("src") or ""
                    self.bare_images.append((resolve(source) if source else "", raw[:RAW_MAX]))
            url = resolve(raw)
            if url.startswith(WEB):
                rel = attributes.get("rel")
                place = places.get(node.mem_id, "main") if places else "main"
                links.append(Link(url, kind, raw[:RAW_MAX], text[:TEXT_MAX], place, tuple(rel.lower().split()) if rel else ()))
            elif not url:
                self.malformed.append(raw[:TEXT_MAX])
            elif url.startswith("javascript:"):
                self.scripted.append((text[:TEXT_MAX], raw[:TEXT_MAX]))
            elif url.startswith(("mailto:", "tel:")):
                self.reachable = True

    def _link_element(self, node: LexborNode) -> None:
        attributes = node.attributes
        raw = attributes.get("href")
        if not raw:
            return
        rel = tuple((attributes.get("rel") or "").lower().split())
        if "canonical" in rel:
            url = self._add(raw, "canonical")
            self.canonicals.append(Placed(raw[:RAW_MAX], node.mem_id in self.head_ids, url if is_web(url) else ""))
        elif "alternate" in rel and "stylesheet" not in rel:
            if attributes.get("hreflang"):
                url = self._add(raw, "alternate")
                code, relative = (attributes["hreflang"] or "").strip(), not _ABSOLUTE.match(raw)
                self.alternates.append(Alternate(code, url, node.mem_id in self.head_ids, "html", relative))
            elif _SMALL.search(attributes.get("media") or ""):
                self._add(raw, "mobile")
            elif (attributes.get("type") or "").strip().lower() in _FEED_TYPES:
                self._add(raw, "feed")
        else:
            kind = next((_LINK_KINDS[token] for token in rel if token in _LINK_KINDS), "")
            if kind:
                self._add(raw, kind, rel=rel if kind == "icon" else ())

    def _image(self, node: LexborNode) -> None:
        attributes = node.attributes
        raw = attributes.get("src") or ""
        modern = self._has_modern_source(node)
        url = self._add(raw, "image-fallback" if modern else "image") if raw else ""
        self._srcset(attributes.get("srcset"))
        alt = clean(attributes.get("alt") or "") if "alt" in attributes else None
        sized = "width" in attributes and "height" in attributes
        # Where the browser has a choice, the declared size says nothing of the one file that is known.
        chooses = bool(attributes.get("srcset")) or modern
        box = (0, 0) if chooses else (_pixels(attributes.get("width")), _pixels(attributes.get("height")))
        lazy, alone = attributes.get("loading") == "lazy", self._alone_in_link(node)
        self.images.append(Image(url, raw[:RAW_MAX], alt, sized, lazy, alone, *box))

    def _has_modern_source(self, node: LexborNode) -> bool:
        """Whether browsers that know newer formats get another file: the picture around it has a source for them."""
        parent = node.parent
        if parent is None or parent.tag != "picture":
            return False
        sources = (source.attributes for source in parent.css("source"))
        return any(
            (source.get("type") or "").lower() in _MODERN_TYPES or _MODERN_NAMES.search(source.get("srcset") or "")
            for source in sources
        )

    def _alone_in_link(self, node: LexborNode) -> bool:
        """Whether a picture is all that a link holds."""
        parent = node.parent
        while parent is not None and parent.tag in ("picture", "span", "figure", "div"):
            parent = parent.parent
        if parent is None or parent.tag != "a":
            return False
        if parent.mem_id not in self._lone:
            self._lone[parent.mem_id] = not parent.text_lexbor().strip() and len(parent.css("img")) == 1
        return self._lone[parent.mem_id]

    def _srcset(self, value: str | None) -> None:
        for raw in srcset_urls(value or ""):
            self._add(raw, "srcset")

    def _embedded(self, node: LexborNode, tag: str) -> None:
        attributes = node.attributes
        if tag == "source":
            self._srcset(attributes.get("srcset"))
        if tag == "video" and attributes.get("poster"):
            self._add(attributes["poster"] or "", "image")
        raw = attributes.get("data" if tag == "object" else "src")
        if raw and raw.strip():
            kind = _EMBEDDED.get(tag, "media")
            if tag in ("object", "embed") and (attributes.get("type") == "text/html" or _DOCUMENT.search(raw)):
                kind = "iframe"  # it is shown as one (WHATWG HTML, 4.8.7)
            self._add(raw, kind)

    def _refresh(self, node: LexborNode) -> None:
        attributes = node.attributes
        if self.refresh_s is not None or (attributes.get("http-equiv") or "").strip().lower() != "refresh":
            return
        asked = read_refresh(attributes.get("content") or "")
        if asked is None:
            return
        seconds, raw = asked
        self.refresh_s = seconds
        if raw:
            self.refresh = self._add(raw, "refresh" if seconds <= AT_ONCE_S else "delayed-refresh")


def _landmarks(elements: Elements, roles: Iterable[tuple[str, LexborNode]]) -> dict[int, str]:
    """The landmark of every anchor that stands in one other than main, by the node's memory address."""
    regions: list[tuple[str, LexborNode]] = [("aside", n) for n in elements.get("aside", ())]
    regions += [("header", n) for n in elements.get("header", ()) if _belongs_to_body(n)]
    regions += [("footer", n) for n in elements.get("footer", ())]
    regions += [("navigation", n) for n in elements.get("nav", ())]
    regions += [(_ROLES[role], n) for role, n in roles if role in _ROLES]
    places: dict[int, str] = {}
    for landmark, region in regions[:REGIONS_MAX]:  # regions within regions would take the square of their number
        for node in region.css("a, area"):
            places[node.mem_id] = landmark
    return places


def _belongs_to_body(node: LexborNode) -> bool:
    parent = node.parent
    return parent is not None and (parent.tag == "body" or (parent.parent is not None and parent.parent.tag == "body"))


def _name_without_text(node: LexborNode, attributes: Mapping[str, str | None]) -> str:
    """The accessible name of an anchor without text: alternative texts, labels, titles of pictures."""
    named = [n.attributes.get("alt") or "" for n in node.css("img[alt]")]
    labels = [attributes.get("aria-label") or "", attributes.get("title") or "", attributes.get("alt") or ""]
    inside = [n.text_lexbor() for n in node.css("svg title")]
    inside += [n.attributes.get("aria-label") or "" for n in node.css("[aria-label]") if n.mem_id != node.mem_id]
    text = clean(" ".join(filter(None, [*named, *labels, *inside])))
    if not text and attributes.get("aria-labelledby"):
        return f"#{attributes['aria-labelledby']}"
    return text


def srcset_urls(value: str) -> Iterator[str]:
    """The addresses in a ``srcset`` (WHATWG HTML, 4.8.4.2: parsing a srcset attribute)."""
    at, end = 0, len(value)
    while at < end:
        while at < end and (value[at].isspace() or value[at] == ","):
            at += 1
        start = at
        while at < end and not value[at].isspace():
            at += 1
        url = value[start:at]
        if not url:
            return
        if url.endswith(","):
            yield url.rstrip(",")
            continue
        yield url
        depth = 0
        while at < end and (depth or value[at] != ","):
            depth += {"(": 1, ")": -1}.get(value[at], 0) if depth or value[at] == "(" else 0
            at += 1
