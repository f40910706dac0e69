"""XHTML as browsers read it: as XML (WHATWG HTML, 14), made into HTML that builds the same elements."""

from __future__ import annotations

from html import escape
from html.entities import name2codepoint
from xml.parsers import expat

# Elements without an end tag in HTML (WHATWG HTML, 13.1.2), and those whose text is not escaped there (13.3).
_VOID = frozenset({"area", "base", "br", "col", "embed", "hr", "img", "input", "link", "meta", "source", "track", "wbr"})
_RAW = frozenset({"style", "script", "xmp", "iframe", "noembed", "noframes", "plaintext"})
_XML = "http://www.w3.org/XML/1998/namespace "
DEPTH_MAX = 2_000


class NotWellFormed(ValueError):
    """The document is no XML: browsers show an error instead of it. ``line`` and ``column`` count from 1."""

    def __init__(self, reason: str, line: int, column: int) -> None:
        super().__init__(reason)
        self.reason, self.line, self.column = reason, line, column


def to_html(body: bytes, encoding: str | None = None) -> str:
    """The document as HTML. ``encoding`` is the one that a header declares. Entities of documents of their own are refused.

    Raises :class:`NotWellFormed`.
    """
    parser = expat.ParserCreate(encoding, " ")
    parser.buffer_text = True
    parser.UseForeignDTD(True)  # so that entities of HTML, which no declaration is read for, are told and not an error
    parts: list[str] = ["<!doctype html>"]
    above: list[str] = []

    def start(name: str, attributes: dict[str, str]) -> None:
        if len(above) >= DEPTH_MAX:
            raise NotWellFormed("nested too deeply", parser.CurrentLineNumber, parser.CurrentColumnNumber + 1)
        tag = name.rpartition(" ")[2]
        above.append(tag)
        named = ((key.replace(_XML, "xml:").rpartition(" ")[2], value) for key, value in attributes.items())
        parts.append(f"<{tag}" + "".join(f' {key}="{escape(value)}"' for key, value in named) + ">")

    def end(_name: str) -> None:
        tag = above.pop()
        if tag not in _VOID:
            parts.append(f"</{tag}>")

    def text(data: str) -> None:
        parts.append(data if above and above[-1] in _RAW else escape(data, quote=False))

    def skipped(name: str, is_parameter: bool) -> None:
        if not is_parameter and name in name2codepoint:
            parts.append(f"&#{name2codepoint[name]};")

    def declared(name: str, *_: object) -> None:
        raise NotWellFormed(f"it declares the entity {name}", parser.CurrentLineNumber, parser.CurrentColumnNumber + 1)

    parser.StartElementHandler, parser.EndElementHandler = start, end
    parser.CharacterDataHandler, parser.SkippedEntityHandler = text, skipped
    parser.EntityDeclHandler = declared
    parser.ExternalEntityRefHandler = lambda *_: 1
    try:
        parser.Parse(body, True)
    except expat.ExpatError as error:
        raise NotWellFormed(expat.ErrorString(error.code), error.lineno, error.offset + 1) from None
    return "".join(parts)
