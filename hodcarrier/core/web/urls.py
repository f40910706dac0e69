"""URL identity: the WHATWG-serialised URL without its fragment.

Source: WHATWG URL Standard, sections 4.4 (parsing) and 4.5 (serialising). Nothing else is folded: a trailing slash or
a letter case in the path makes another page.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache
from typing import NamedTuple

import ada_url

from hodcarrier.core.errors import InvalidUrl

_SURROGATES = re.compile("[\ud800-\udfff]")
_PATH_PARAMETER = re.compile(r";([^;=/?#]*)=[^;/?#]*")
_SCHEME = re.compile(r"^[A-Za-z][A-Za-z0-9+.-]*:")
_HOST_AND_PORT = re.compile(r"^[^/?#@:\s]+:\d{1,5}(?:[/?#]|$)")


class Parts(NamedTuple):
    """The parts of a normalised http(s) URL; ``port`` is filled in with the scheme's default."""

    scheme: str
    host: str
    port: int
    path: str
    query: str

    @property
    def origin(self) -> str:
        """Scheme, host and port as the fetch standard writes an origin (default ports left out)."""
        default = {"http": 80, "https": 443}.get(self.scheme)
        return f"{self.scheme}://{self.host}" + ("" if self.port == default else f":{self.port}")


def normalize(url: str, base: str | None = None) -> str:
    """The identity of ``url`` (resolved against ``base``): serialised, without fragment.

    Raises :class:`InvalidUrl` when the WHATWG parser reports failure, or ``base`` itself is no URL.
    """
    try:
        href = ada_url.URL(_scalar(url)).href if base is None else ada_url.join_url(_scalar(base), _scalar(url))
    except ValueError:
        raise InvalidUrl(f"“{url[:200]}” is not an address a browser could open.", "Check it for typing errors.") from None
    return str(href).partition("#")[0]


def _scalar(text: str) -> str:
    """Lone surrogates become U+FFFD, as the conversion to USVString does (Web IDL, 3.2.12)."""
    return _SURROGATES.sub("�", text)


WEB = ("https://", "http://")
RESOLVED_MAX = 150_000
FOLDERS_MAX = 2_000
# References whose meaning may hang on the query of their base: "?x", "https:?x", and odd beginnings.
_NEEDS_WHOLE_BASE = re.compile(r"[^!-~]|[?\\]|[A-Za-z][A-Za-z0-9+.-]*:(?!//)")
# A path that resolving leaves as it is, but for putting it behind the origin or the folder: no dot segments, no marks.
_PLAIN_PATH = re.compile(r"/?[A-Za-z0-9_~-][A-Za-z0-9_.~-]*(?:/(?!\.)[A-Za-z0-9_.~-]*)*")


class Resolver:
    """Resolves references as :func:`normalize` does and remembers them.

    Most references of a site come again on page after page. One that begins with a slash resolves alike on every page of an
    origin, a relative path or one with a scheme alike on every page of a folder.
    """

    def __init__(self) -> None:
        self._by_origin: dict[str, dict[str, str]] = {}
        self._by_folder: dict[str, dict[str, str]] = {}
        self._count = 0

    def resolve(self, raw: str, base: str) -> str:
        """The identity of ``raw`` on ``base`` (a normalised http or https URL), empty when it is no URL."""
        return self.on(base)(raw)

    def on(self, base: str) -> Callable[[str], str]:
        """A function that gives the identity of references on one base."""
        if self._count > RESOLVED_MAX or len(self._by_folder) > FOLDERS_MAX:
            self._by_origin.clear()
            self._by_folder.clear()
            self._count = 0
        path_start = base.find("/", base.find("//") + 2)
        path_end = base.find("?") if "?" in base else len(base)
        origin, folder = base[:path_start], base[: base.rfind("/", 0, path_end) + 1]
        rooted = self._by_origin.setdefault(origin, {})
        relative = self._by_folder.setdefault(folder, {})

        def resolve(raw: str) -> str:
            if "#" in raw:
                # All places of one page are that page: it is remembered once.
                whole = raw.partition("#")[0]
                if not whole:
                    return base
                if whole[0] > " " and whole[-1] > " ":
                    raw = whole
            known = rooted if raw[:1] == "/" else relative
            found = known.get(raw)
            if found is None:
                if _PLAIN_PATH.fullmatch(raw):
                    found, alike = (origin if raw[0] == "/" else folder) + raw, True
                else:
                    found, alike = _resolve(raw, base)
                if alike:
                    known[raw] = found
                    self._count += 1
            return found

        return resolve


def _resolve(raw: str, base: str) -> tuple[str, bool]:
    """The identity of a reference, and whether it is alike on every page of the folder (or origin, for one with a slash)."""
    text, mark, _ = raw.strip(" \t\n\r\f").partition("#")
    if not text:
        return base, False
    if mark and text[-1] <= " ":
        text += mark  # a blank before the fragment belongs to the path; without the mark it would be stripped
    try:
        return normalize(text, base), text[0] == "/" or _NEEDS_WHOLE_BASE.match(text) is None
    except InvalidUrl:
        return "", text[0] == "/" or _NEEDS_WHOLE_BASE.match(text) is None


@lru_cache(maxsize=8192)
def split(url: str) -> Parts:
    """The parts of a normalised http or https URL. Raises :class:`InvalidUrl` for other schemes."""
    scheme, found, rest = url.partition("://")
    if not found or scheme not in ("http", "https"):
        raise InvalidUrl(f"“{url[:200]}” is not an http or https address.", "Give one that begins with https://.")
    rest = rest.partition("#")[0]
    head, asked, query = rest.partition("?")
    place, slash, path = head.partition("/")
    host = place.rpartition("@")[2]
    name, colon, digits = host.rpartition(":")
    port = 443 if scheme == "https" else 80
    if colon and digits.isdigit():
        host, port = name, int(digits)
    if not host:
        raise InvalidUrl(f"“{url[:200]}” is not an http or https address.", "Give one that begins with https://.")
    return Parts(scheme, host, port, slash + path, query if asked else "")


def is_web(url: str) -> bool:
    """Whether a normalised URL is http or https, the only schemes a crawl follows."""
    return url.startswith(WEB)


def read_address(text: str) -> str:
    """A start address as a person types it, made a full URL: ``shop.example`` becomes ``https://shop.example/``.

    Raises :class:`InvalidUrl` with words for the person when it is not a web address.
    """
    text = text.strip()
    if not text:
        raise InvalidUrl("No address was given.", "Give one such as https://shop.example/.", field="address")
    if _HOST_AND_PORT.match(text) or not _SCHEME.match(text):
        text = "https://" + text.lstrip("/")
    try:
        url = normalize(text)
        parts = split(url)
    except InvalidUrl as error:
        raise InvalidUrl(f"“{text[:200]}” is not a web address.", "Give one such as https://shop.example/.", "address") from error
    if "." not in parts.host and parts.host != "localhost" and not parts.host.startswith("["):
        raise InvalidUrl(
            f"“{parts.host}” is not a full host name.", "Give the name with its domain, such as shop.example.", "address"
        )
    if " " in parts.host or "%" in parts.host:
        raise InvalidUrl(f"“{text[:200]}” is not a web address.", "A host name has no spaces.", "address")
    return url


def drop_parameters(url: str, names: frozenset[str]) -> str:
    """``url`` without the query parameters in ``names``, and without path parameters (``;name=value``) of these names.

    The order and spelling of the others is kept.
    """
    if not names or ("?" not in url and ";" not in url):
        return url
    head, mark, query = url.partition("?")
    if ";" in head:
        head = _PATH_PARAMETER.sub(lambda found: "" if found.group(1) in names else found.group(), head)
    kept = [pair for pair in query.split("&") if pair.partition("=")[0] not in names] if mark else []
    return head + ("?" + "&".join(kept) if kept else "")


def keep_parameters(url: str, names: frozenset[str]) -> str:
    """``url`` with only the query parameters in ``names``; their order and spelling is kept."""
    if "?" not in url:
        return url
    head, _, query = url.partition("?")
    kept = [pair for pair in query.split("&") if pair.partition("=")[0] in names]
    return head + ("?" + "&".join(kept) if kept else "")


def path_pattern(url: str) -> str:
    """The shape of a page's path: first segment as it is, deeper ones as ``*``; a query shows as ``?*``.

    ``/shop/rope/dock-line-12`` becomes ``/shop/*/*``. Pages of one pattern and one document skeleton are taken for one
    template.
    """
    parts = split(url)
    segments = parts.path.split("/")[1:]
    shaped = [seg if i == 0 and len(segments) > 1 else ("*" if seg else "") for i, seg in enumerate(segments)]
    return "/" + "/".join(shaped) + ("?*" if parts.query else "")


def are_strangers(one: str, other: str) -> bool:
    """Whether two hosts have nothing to do with one another: neither is the other, or part of it, ``www.`` left aside."""
    one, other = one.removeprefix("www."), other.removeprefix("www.")
    return one != other and not one.endswith("." + other) and not other.endswith("." + one)


def same_site(url: str, scope_host: str, path_prefix: str = "", subdomains: bool = False) -> bool:
    """Whether a normalised URL belongs to a site: same host (or a subdomain of it), below the path prefix.

    Both http and https count, and any port of the start host given as ``host:port`` must agree.
    """
    try:
        parts = split(url)
    except InvalidUrl:
        return False
    host = parts.host if parts.port in (80, 443) else f"{parts.host}:{parts.port}"
    if host != scope_host and not (subdomains and host.endswith("." + scope_host)):
        return False
    return parts.path.startswith(path_prefix) if path_prefix else True


def place_on(host: str, url: str) -> str:
    """The path of an address of this host; the whole address of any other."""
    head = f"https://{host}/"
    return url[len(head) - 1 :] if url.startswith(head) else url
