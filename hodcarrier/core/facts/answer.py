"""What an HTTP request brought: the answer, its redirects, or why there is none."""

from __future__ import annotations

from dataclasses import dataclass

import msgspec

from hodcarrier.core.web.caching import freshness_s


@dataclass(frozen=True, slots=True)
class Answer:
    """An HTTP answer, or the failure to get one (``status`` is ``None``, ``failure`` one of :data:`FAILURES`).

    ``first_byte_ms`` is the time from sending the request to the first byte, ``None`` when it could not be measured.
    """

    status: int | None
    failure: str = ""
    detail: str = ""
    content_type: str = ""
    headers: tuple[tuple[str, str], ...] = ()
    http_version: str = ""
    wire_bytes: int = 0
    decoded_bytes: int = 0
    first_byte_ms: float | None = None
    total_ms: float = 0.0
    remote: str = ""

    def header(self, name: str) -> str:
        """The first value of a header, name in lower case; empty if absent."""
        return next((value for key, value in self.headers if key == name), "")

    def header_values(self, name: str) -> list[str]:
        """All values of a header, name in lower case."""
        return [value for key, value in self.headers if key == name]

    @property
    def is_encoded(self) -> bool:
        """Whether the body came compressed: with a content coding other than ``identity`` (RFC 9110, 8.4.1)."""
        codings = {coding.strip().lower() for value in self.header_values("content-encoding") for coding in value.split(",")}
        return bool(codings - {"", "identity"})

    @property
    def fresh_s(self) -> int | None:
        """For how many seconds a browser may use it without asking (RFC 9111, 4.2.1); ``None`` when it does not say."""
        return freshness_s(self.header("cache-control"), self.header("expires"), self.header("date"))

    @property
    def has_validator(self) -> bool:
        """Whether it can be asked for only if it has changed (RFC 9110, 8.8)."""
        return bool(self.header("etag") or self.header("last-modified"))

    @property
    def announced_bytes(self) -> int | None:
        """Its ``Content-Length``; ``None`` when it has none that is a number."""
        size = self.header("content-length")
        return int(size) if size.isdigit() else None

    @property
    def is_success(self) -> bool:
        """Whether the answer is what was asked for (RFC 9110, 15.3), not an error page or a redirect."""
        return self.status is not None and 200 <= self.status < 300

    @property
    def is_html(self) -> bool:
        """Whether the declared type is HTML or XHTML."""
        return self.content_type in ("text/html", "application/xhtml+xml")


# Statuses that browsers follow (WHATWG Fetch, 2.2.3: redirect status).
REDIRECTS = frozenset({301, 302, 303, 307, 308})
# How many of them in a row browsers follow (WHATWG Fetch, 4.4: HTTP-redirect fetch).
REDIRECTS_MAX = 20
FAILURES = {
    "dns": "the host name does not resolve",
    "connect": "no connection could be made",
    "tls": "the secure connection failed",
    "timeout": "no answer came in time",
    "reset": "the connection broke off",
    "protocol": "the answer is not valid HTTP",
    "too-large": "the answer is larger than the limit",
    "decode": "the body could not be decompressed",
    "tangled": "the document is nested too deeply to be read in time",
    "refused-address": "the address is private and not permitted",
    "robots-unreachable": "robots.txt gave no answer, so nothing may be fetched",
}


class Hop(msgspec.Struct, frozen=True, gc=False):
    """One redirect on the way to an answer."""

    url: str
    status: int


class Target(msgspec.Struct, frozen=True, gc=False):
    """What a run knows of an address a page refers to, with its redirects followed to the end.

    ``state``: ``done``, ``queued`` (never reached), ``disallowed``, ``skipped`` (outside limits), ``unknown``.
    """

    url: str
    internal: bool
    state: str
    status: int | None = None
    failure: str = ""
    hops: tuple[Hop, ...] = ()
    loop: bool = False
    final_url: str = ""
    final_state: str = ""
    final_status: int | None = None
    final_failure: str = ""

    @property
    def settled(self) -> bool:
        """Whether it is known what becomes of who goes there: the run holds an outcome, or robots.txt keeps it out."""
        return self.examined or self.state == "disallowed"

    @property
    def leads_nowhere(self) -> bool:
        """Whether the end is a redirect without a ``Location`` that a browser could follow."""
        return self.final_status in REDIRECTS and not self.loop

    @property
    def examined(self) -> bool:
        """Whether the run holds a final outcome for the address."""
        return self.state == "done" and (self.final_state == "done" or self.loop)

    @property
    def broken(self) -> bool:
        """Whether a visitor would end at an error or at nothing."""
        return self.examined and (self.loop or self.leads_nowhere or bool(self.final_failure) or (self.final_status or 0) >= 400)

    @property
    def outcome(self) -> str:
        """The final outcome in a word or two: a status, or why there is none."""
        if self.loop:
            return "redirects without an end"
        if self.leads_nowhere:
            return f"{self.final_status} without a usable Location"
        if self.final_failure:
            return FAILURES.get(self.final_failure, self.final_failure)
        return str(self.final_status or "not reached")
