"""Whether a page may be indexed: defined once, used by every check, the funnel and the comparison."""

from __future__ import annotations

from collections.abc import Iterable

from hodcarrier.core.states import AddressState, WhyNot

REASONS: dict[str, str] = {
    WhyNot.DISALLOWED: "blocked by robots.txt",
    WhyNot.LEFT_OUT: "excluded by the plan",
    WhyNot.NOT_REACHED: "not reached in this run",
    WhyNot.NO_ANSWER: "no response",
    WhyNot.REDIRECT: "redirect",
    WhyNot.REFRESH: "redirects by meta refresh",
    WhyNot.ERROR: "returns an error",
    WhyNot.NOT_HTML: "not an HTML page",
    WhyNot.NOINDEX: "noindex",
    WhyNot.CANONICAL_ELSEWHERE: "canonical points elsewhere",
}


def header_directives(values: Iterable[str]) -> frozenset[str]:
    """Robots directives of ``X-Robots-Tag`` headers that address every agent, in lower case.

    A value may begin with an agent's name and a colon; those lines concern that agent alone and are left out.
    """
    found: set[str] = set()
    for value in values:
        head = value.partition(",")[0]
        name, colon, _ = head.partition(":")
        if colon and name.strip().lower() not in ("unavailable_after", "max-snippet", "max-image-preview", "max-video-preview"):
            continue
        found.update(part.strip().lower() for part in value.split(",") if part.strip())
    return frozenset(found)


def is_noindex(directives: frozenset[str]) -> bool:
    """``noindex`` and ``none`` both keep a page out of the index."""
    return bool(directives & {"noindex", "none"})


def why_not_indexable(
    *, state: str, status: int | None, html: bool, directives: frozenset[str], canonical: str, url: str, stub: bool = False
) -> WhyNot:
    """The first reason (a key of :data:`REASONS`) why a page cannot be indexed; empty when it can.

    ``state`` is the address's state in the run, ``html`` whether it answered with a document, ``directives`` those of metas and headers together, ``canonical`` the
    one that counts, from the document or a ``Link`` header (RFC 8288), ``stub`` whether the document gives way to another at once by a refresh.
    """
    if state == AddressState.DISALLOWED:
        return WhyNot.DISALLOWED
    if state == AddressState.SKIPPED:
        return WhyNot.LEFT_OUT
    if state == AddressState.QUEUED:
        return WhyNot.NOT_REACHED
    if status is None:
        return WhyNot.NO_ANSWER
    if 300 <= status < 400:
        return WhyNot.REDIRECT
    if status != 200:
        return WhyNot.ERROR
    if not html:
        return WhyNot.NOT_HTML
    if stub:
        return WhyNot.REFRESH
    if is_noindex(directives):
        return WhyNot.NOINDEX
    if canonical and canonical != url:
        return WhyNot.CANONICAL_ELSEWHERE
    return WhyNot.INDEXABLE
