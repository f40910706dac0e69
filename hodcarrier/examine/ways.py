"""How a page of a run is reached: who leads to it, and the shortest way by clicks."""

from __future__ import annotations

from typing import TYPE_CHECKING

from hodcarrier.core.words import fill
from hodcarrier.runfile import schema

if TYPE_CHECKING:
    from hodcarrier.examine.views import RunViews

TRAIL_MAX = 50
# How kinds of references other than links name a page.
NAMED_AS = {
    "canonical": "named as canonical by",
    "alternate": "named as a version in another language by",
    "refresh": "named in a meta refresh by",
    "delayed-refresh": "named in a meta refresh by",
    "iframe": "shown in a frame of",
    "amp": "named as AMP version by",
    "next": "named as the next page by",
    "prev": "named as the page before by",
}


def how_found(views: RunViews, i: int) -> str:
    """Who leads to a page, in words: links, else what names it otherwise, else where it was listed."""
    item, links = views.known[i], len(views.inlinks.get(i, ()))
    if links:
        return fill("linked from {links:page}", {"links": links})
    if i in views.named:
        kind, source = views.named[i]
        return f"{NAMED_AS[kind]} {views.known[source].url}"
    if i in views.listed:
        return "listed in a sitemap"
    if item.found_by & schema.FOUND_LIST:
        return "in the list of the plan"
    if item.found_by & schema.FOUND_REDIRECT:
        return "the target of a redirect"
    return "the start URL" if item.found_by & schema.FOUND_START else "linked with nofollow only"


def trail_of(views: RunViews, url: str) -> tuple[str, ...]:
    """The pages on a shortest way by clicks from the start to a page, both included; empty where no clicks lead to it."""
    i = views.ids.get(url, 0)
    trail = [i]
    while (i := views.before.get(i, 0)) and len(trail) < TRAIL_MAX:
        trail.append(i)
    return tuple(views.known[i].url for i in reversed(trail)) if len(trail) > 1 else ()
