"""Whether a page may be indexed: defined once, used by every check, the funnel and the comparison."""

from __future__ import annotations

from collections.abc import Iterable

from hodcarrier.core.facts import PageFacts

REASONS = {
    "disallowed": "kept out by robots.txt",
    "left-out": "left out by the plan",
    "not-reached": "not reached in this run",
    "no-answer": "gave no answer",
    "redirect": "redirects elsewhere",
    "error": "answers an error",
    "not-html": "is not an HTML page",
    "noindex": "asks not to be indexed",
    "canonical-elsewhere": "names another page as canonical",
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
    *, state: str, status: int | None, facts: PageFacts | None, directives: frozenset[str], canonical: str, url: str
) -> str:
    """The first reason (a key of :data:`REASONS`) why a page cannot be indexed; empty when it can.

    ``state`` is the address's state in the run, ``directives`` those of metas and headers together, ``canonical`` the
    one that counts, from the document or a ``Link`` header (RFC 8288).
    """
    if state == "disallowed":
        return "disallowed"
    if state == "skipped":
        return "left-out"
    if state == "queued":
        return "not-reached"
    if status is None:
        return "no-answer"
    if 300 <= status < 400:
        return "redirect"
    if status != 200:
        return "error"
    if facts is None:
        return "not-html"
    if is_noindex(directives):
        return "noindex"
    if canonical and canonical != url:
        return "canonical-elsewhere"
    return ""
