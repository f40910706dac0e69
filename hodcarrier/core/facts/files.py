"""Facts of a file that pages use: what it is, how large it is drawn, whether it is packed tightly, and what it loads by itself."""

from __future__ import annotations

import io
import re
import struct
from urllib.parse import urljoin

import filetype
import imagesize
import msgspec
import rcssmin
import rjsmin
import tinycss2
from defusedxml import DefusedXmlException, ElementTree
from xxhash import xxh3_128_hexdigest

from hodcarrier.core.web.urls import split

SCRIPT_TYPES = frozenset({"text/javascript", "application/javascript", "application/x-javascript", "text/ecmascript"})
STYLE_TYPES = frozenset({"text/css"})
SVG_TYPE = "image/svg+xml"
FONTS_MAX = 40
_RASTER = re.compile(r"\.(?:png|jpe?g|gif|webp|avif|ico|bmp)$", re.I)
_TEXT = re.compile(r"\.(?:m?js|css|svg)$", re.I)
_FACE = re.compile(r"@font-face\s*\{[^}]*\}", re.I)
_ALIASES = {
    "image/jpg": "image/jpeg",
    "image/pjpeg": "image/jpeg",
    "image/x-png": "image/png",
    "image/vnd.microsoft.icon": "image/x-icon",
    "image/ico": "image/x-icon",
    "image/x-ms-bmp": "image/bmp",
    "application/font-woff": "font/woff",
    "application/font-woff2": "font/woff2",
    "application/x-font-ttf": "font/ttf",
    "application/x-font-woff": "font/woff",
}


class FileFacts(msgspec.Struct, frozen=True, array_like=True):
    """What was read of a file.

    ``type`` is what its bytes say it is (a media type; empty: they do not tell), ``width`` and ``height`` are its own pixels (0: unknown),
    ``digest`` that of all its bytes (empty: only its beginning was read), ``waste`` the share of white space and comments in a script or
    style sheet (-1: not measured), ``fonts`` the addresses that a style sheet loads fonts from, ``scripted``: an SVG with a script in it.
    """

    type: str = ""
    width: int = 0
    height: int = 0
    digest: str = ""
    waste: float = -1.0
    fonts: tuple[str, ...] = ()
    scripted: bool = False


def is_raster(url: str) -> bool:
    """Whether an address names an image whose beginning tells what is to be known of it."""
    return _RASTER.search(split(url).path) is not None


def is_text(url: str) -> bool:
    """Whether an address names a script, a style sheet or a drawing, which have to be read whole."""
    return _TEXT.search(split(url).path) is not None


def plain_type(declared: str) -> str:
    """A media type by its common name: several are in use for one format."""
    return _ALIASES.get(declared, declared)


def read_file(body: bytes, url: str, declared: str, whole: bool) -> FileFacts:
    """The facts of a file by its bytes; ``declared`` is its Content-Type without parameters, ``whole``: these are all of them. Never raises
    for any bytes."""
    digest = xxh3_128_hexdigest(body) if whole and body else ""
    if declared in SCRIPT_TYPES or declared in STYLE_TYPES:
        text = body.decode("utf-8", "replace")
        style = declared in STYLE_TYPES
        return FileFacts(
            declared, digest=digest, waste=_waste(text, style) if whole else -1.0, fonts=_fonts(text, url) if style else ()
        )
    if declared == SVG_TYPE:
        return FileFacts(SVG_TYPE if b"<svg" in body else "", digest=digest, scripted=whole and _is_scripted(body))
    kind = filetype.guess_mime(body) or ""
    width, height = _size(body) if kind.startswith("image/") else (0, 0)
    return FileFacts(plain_type(kind), width, height, digest)


def _size(body: bytes) -> tuple[int, int]:
    try:
        width, height = imagesize.get(io.BytesIO(body))
    except (ValueError, KeyError, IndexError, OverflowError, OSError, ArithmeticError, struct.error):
        return 0, 0
    return (int(width), int(height)) if width > 0 and height > 0 else (0, 0)


def _waste(text: str, style: bool) -> float:
    """The share of a text that is only there for those who write it."""
    if not text:
        return 0.0
    short = rcssmin.cssmin(text) if style else rjsmin.jsmin(text)
    return round(max(0.0, 1 - len(short) / len(text)), 3)


def _fonts(text: str, url: str) -> tuple[str, ...]:
    """The first source of every ``@font-face``: browsers load one of each, the first that they know."""
    if "@font-face" not in text:
        return ()
    found: dict[str, None] = {}
    # Only these rules are parsed: the rest of a style sheet may be a hundred times as long.
    faces = "".join(match.group() for match in _FACE.finditer(text))
    for rule in tinycss2.parse_stylesheet(faces, skip_comments=True, skip_whitespace=True):
        if rule.type == "at-rule" and rule.lower_at_keyword == "font-face" and rule.content:
            for declaration in tinycss2.parse_blocks_contents(rule.content):
                if declaration.type == "declaration" and declaration.lower_name == "src":
                    source = next((_url_of(token) for token in declaration.value if _url_of(token)), "")
                    if source and not source.startswith("data:"):
                        found.setdefault(urljoin(url, source))
    return tuple(found)[:FONTS_MAX]


def _url_of(token: tinycss2.ast.Node) -> str:
    if token.type == "url":
        return str(token.value)
    if token.type == "function" and token.lower_name == "url":
        return next((str(part.value) for part in token.arguments if part.type == "string"), "")
    return ""


def _is_scripted(body: bytes) -> bool:
    """Whether a drawing holds a script, a handler of events, or a link to one."""
    try:
        root = ElementTree.fromstring(body)
    except (ElementTree.ParseError, DefusedXmlException, ValueError, LookupError):
        return False
    for node in root.iter():
        if str(node.tag).rpartition("}")[2].lower() == "script":
            return True
        for name, value in node.attrib.items():
            plain = name.rpartition("}")[2].lower()
            if plain.startswith("on") or (plain == "href" and value.strip().lower().startswith("javascript:")):
                return True
    return False
