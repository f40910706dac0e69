"""One HTML document, parsed once, with what several areas of facts need of it.

The tree is built as browsers build it (WHATWG HTML, 13.2), because where ``<head>`` really ends decides whether a
canonical or a robots directive counts.
"""

from __future__ import annotations

from codecs import BOM_UTF8
from collections.abc import Iterable, Sequence
from typing import Any

from selectolax.lexbor import LexborHTMLParser, LexborNode

from hodcarrier.core.facts.references import Elements, References, clean
from hodcarrier.core.facts.values import Placed
from hodcarrier.core.web import encodings
from hodcarrier.core.web.encodings import EncodingSource
from hodcarrier.core.web.urls import Resolver
from hodcarrier.core.web.xhtml import NotWellFormed, to_html

_ASCII_ALIKE = frozenset({"utf-8", "windows-1252"})
_PREVIEW_IMAGES = frozenset({"og:image", "og:image:url", "og:image:secure_url", "twitter:image", "twitter:image:src"})
_NAMED_METAS = ("description", "robots", "viewport")


class Document:
    """A parsed document. Never raises for any bytes.

    ``elements`` are the nodes by name, of those names that facts are read from, ``headings`` the headings with their levels in the order of
    the document, ``elements_count`` how many elements there are, ``head_ids`` the nodes inside the real head, ``ids`` every ``id`` that an
    element has, ``hidden`` the elements that are hidden from assistive technology, ``roles`` the elements with a ``role``, each with it in lower case,
    ``metas`` the named metas that areas ask for, ``xml_error`` why a document that is XML by its type is none, ``social`` those of previews, ``references`` everything it refers to.
    """

    __slots__ = (
        "base_raw",
        "blocks",
        "elements",
        "elements_count",
        "encoding",
        "encoding_source",
        "expected",
        "head_ids",
        "headings",
        "hidden",
        "html_bytes",
        "ids",
        "metas",
        "references",
        "roles",
        "social",
        "text",
        "tree",
        "url",
        "xml_error",
    )

    def __init__(self, body: bytes, url: str, content_type: str, resolver: Resolver, expected: Sequence[str]) -> None:
        self.url = url
        self.html_bytes = len(body)
        self.expected = expected
        self.xml_error = ""
        self.blocks: list[Any] | None = None  # of JSON-LD, once they were asked for
        if content_type.partition(";")[0].strip().lower() == "application/xhtml+xml":
            body, content_type = self._from_xml(body, content_type)
        self.encoding, self.encoding_source = encodings.sniff(body, content_type)
        self.elements: dict[str, list[LexborNode]] = {}
        self.headings: list[tuple[int, LexborNode]] = []
        self.elements_count = 0
        self._parse(body)
        if self.encoding_source == EncodingSource.DEFAULT and (late := self.declared_encoding()):
            known, self.encoding, self.encoding_source = self.encoding, late, EncodingSource.LATE
            if late != known:
                self.headings.clear()
                self._parse(body)
        head = self.tree.head
        self.head_ids = frozenset(n.mem_id for n in head.css("*")) if head is not None else frozenset()
        base, self.base_raw = _base(self.elements, url, resolver)
        self.ids: list[str] = []
        self.hidden: list[LexborNode] = []
        self.roles: list[tuple[str, LexborNode]] = []
        self._read_ids_and_roles()
        self.references = References(self.elements, self.roles, self.head_ids, resolver.on(base))
        self.metas: dict[str, list[Placed]] = {name: [] for name in _NAMED_METAS}
        self.social: list[tuple[str, str]] = []
        self._read_metas()

    def _from_xml(self, body: bytes, content_type: str) -> tuple[bytes, str]:
        """The document as HTML where it is XML; where it is none, as it came, as if it were HTML, and what is wrong."""
        declared = encodings.of_header(content_type)
        try:
            return to_html(body, declared or None).encode("utf-8", "replace"), "text/html; charset=utf-8"
        except (NotWellFormed, ValueError, LookupError) as error:
            where = f"line {error.line}, column {error.column}: " if isinstance(error, NotWellFormed) else ""
            self.xml_error = f"{where}{error}"
            return body, content_type

    def _parse(self, body: bytes) -> None:
        self.text = encodings.decode(body, self.encoding)
        self.tree = LexborHTMLParser(_source(self.text, body, self.encoding))
        self._sort_elements()

    def declared_encoding(self) -> str:
        """The encoding that the first meta element declares that does; empty when none does."""
        return next(filter(None, (encodings.of_meta(node.attributes) for node in self.elements.get("meta", ()))), "")

    def _sort_elements(self) -> None:
        """Look at every element once: most of a page's elements are read no further than this."""
        by_number: dict[int, list[LexborNode]] = {number: [] for number in READ}
        count = 0
        root = self.tree.root
        for node in root.traverse(include_text=False) if root is not None else ():
            number = node.tag_id
            if number in by_number:
                by_number[number].append(node)
                if number in HEADINGS:
                    self.headings.append((int(READ[number][1]), node))
            elif not node.is_element_node:
                continue
            count += 1
        self.elements = {READ[number]: alike for number, alike in by_number.items() if alike}
        self.elements_count = count

    def _read_ids_and_roles(self) -> None:
        # A list of two selectors would give an element that both match twice.
        hides = "aria-hidden" in self.text
        for node in self.tree.css(":is([id], [role], [aria-hidden])" if hides else ":is([id], [role])"):
            attributes = node.attributes
            if hides and attributes.get("aria-hidden") == "true":
                self.hidden.append(node)
            if name := attributes.get("id"):
                self.ids.append(name)
            if "role" in attributes:
                self.roles.append(((attributes["role"] or "").strip().lower(), node))

    def _read_metas(self) -> None:
        for node in self.elements.get("meta", ()):
            attributes = node.attributes
            name = (attributes.get("name") or "").strip().lower()
            key = (attributes.get("property") or name).strip().lower()
            if name in self.metas:
                self.metas[name].append(Placed(clean(attributes.get("content") or "")[:4000], node.mem_id in self.head_ids))
            elif key.startswith(("og:", "twitter:")):
                content = clean(attributes.get("content") or "")[:500]
                self.social.append((key, content))
                if key in _PREVIEW_IMAGES and content:
                    self.references.add_image(content, "preview-image")


def attribute(node: LexborNode, name: str) -> str:
    """An attribute's value; empty when it is absent or has none."""
    return node.attributes.get(name) or ""


def is_inside(node: LexborNode, *names: str) -> bool:
    """Whether an element stands in one of these names."""
    above = node.parent
    while above is not None:
        if above.tag in names:
            return True
        above = above.parent
    return False


def numbers_of(names: Iterable[str]) -> dict[int, str]:
    """The parser's numbers of elements, by which nodes are told apart faster than by their names."""
    parser = LexborHTMLParser("<p></p>")
    made = (parser.create_node(name) for name in names)
    return {node.tag_id: node.tag or "" for node in made}


# Elements that authors must not use (WHATWG HTML, 16.2), without frames and plug-ins.
OBSOLETE = (
    "acronym",
    "basefont",
    "bgsound",
    "big",
    "blink",
    "center",
    "dir",
    "font",
    "isindex",
    "keygen",
    "listing",
    "marquee",
    "nobr",
    "noframes",
    "plaintext",
    "strike",
    "tt",
    "xmp",
    "frameset",
    "applet",
)
# What facts are read from. Of everything else it only counts that it is there.
READ = numbers_of(
    [
        "title",
        "meta",
        "base",
        "a",
        "area",
        "link",
        "img",
        "source",
        "video",
        "audio",
        "track",
        "embed",
        "object",
        "script",
        "iframe",
        "frame",
        "form",
        "button",
        "input",
        "aside",
        "header",
        "footer",
        "nav",
        "main",
        "style",
        "noscript",
        "template",
        "h1",
        "h2",
        "h3",
        "h4",
        "h5",
        "h6",
        "p",
        "ul",
        "ol",
        "li",
        "table",
        "select",
        "textarea",
        "address",
        "article",
        "time",
        *OBSOLETE,
    ]
)
HEADINGS = frozenset(number for number, name in READ.items() if name in ("h1", "h2", "h3", "h4", "h5", "h6"))


def _source(text: str, body: bytes, encoding: str) -> str | bytes:
    """What the parser gets: the text, or the bytes where it would only encode the text into just them again."""
    # Where decoding has replaced nothing, encoding the text would give the same bytes.
    whole = encoding == "utf-8" and "\ufffd" not in text and not body.startswith(BOM_UTF8)
    if b"\x00" not in body and (whole or (encoding in _ASCII_ALIKE and body.isascii())):
        return body
    return text.replace("\x00", "\ufffd")


def _base(elements: Elements, url: str, resolver: Resolver) -> tuple[str, str]:
    """The base URL of the document (WHATWG HTML, 2.4.3) and the raw ``<base href>``."""
    for node in elements.get("base", ()):
        raw = node.attributes.get("href")
        if raw is not None:
            base = resolver.resolve(raw, url)
            return (url if not base or base.startswith(("data:", "javascript:")) else base), raw
    return url, ""
