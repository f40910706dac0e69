"""Small values that several areas of facts are made of: links, placed texts, images, headings."""

from __future__ import annotations

from typing import Literal

import msgspec

# A run file stores the places of these two lists: add at the end only.
Landmark = Literal["main", "navigation", "header", "footer", "aside"]
LinkKind = Literal[
    "anchor",
    "image-link",
    "canonical",
    "alternate",
    "refresh",
    "iframe",
    "script",
    "style",
    "image",
    "icon",
    "amp",
    "form",
    "srcset",
    "preload",
    "media",
    "manifest",
    "feed",
    "next",
    "prev",
    "delayed-refresh",
    "object",
    "image-fallback",
    "preview-image",
    "mobile",
    "font",
    "data-image",
]
PAGE_KINDS: frozenset[str] = frozenset(
    {"anchor", "image-link", "canonical", "alternate", "refresh", "iframe", "amp", "next", "prev", "delayed-refresh", "mobile"}
)
FOLLOWED_KINDS: frozenset[str] = frozenset({"anchor", "image-link"})
# What brings a visitor one step on, whether by a click or by itself.
STEP_KINDS: frozenset[str] = FOLLOWED_KINDS | {"iframe", "refresh", "delayed-refresh"}
FILE_KINDS: frozenset[str] = frozenset(
    {
        "script",
        "style",
        "image",
        "icon",
        "srcset",
        "preload",
        "media",
        "manifest",
        "object",
        "image-fallback",
        "preview-image",
        "font",
        "data-image",
    }
)
PICTURE_KINDS: frozenset[str] = frozenset({"image", "srcset", "image-fallback"})
# What visitors follow or browsers load: worth checking on other sites too.
CHECKED_KINDS: frozenset[str] = FOLLOWED_KINDS | FILE_KINDS | {"iframe"}


# None of these can be part of a cycle, so the garbage collector need not follow them: a run has millions.
class Link(msgspec.Struct, frozen=True, array_like=True, gc=False):
    """A reference from a page.

    ``url`` is normalised, or empty when ``raw`` (the attribute as written) is no URL. ``text`` is the accessible name:
    anchor text, label or alternative text. ``rel`` holds the tokens in lower case.
    """

    url: str
    kind: str
    raw: str
    text: str = ""
    landmark: str = "main"
    rel: tuple[str, ...] = ()

    @property
    def followed(self) -> bool:
        """Whether a search engine would pass from the page to the target over this link."""
        return self.kind in FOLLOWED_KINDS and "nofollow" not in self.rel


class Placed(msgspec.Struct, frozen=True, array_like=True, gc=False):
    """A text that counts only inside the real ``<head>``: a title, description, canonical or directive."""

    text: str
    in_head: bool
    url: str = ""


class Image(msgspec.Struct, frozen=True, array_like=True, gc=False):
    """An ``<img>``: ``alt`` is ``None`` when the attribute is absent, empty when it is declared decorative. ``width`` and ``height`` are the
    declared pixels of an image that has one file only, 0 where none are declared."""

    url: str
    raw: str
    alt: str | None
    sized: bool
    lazy: bool
    alone_in_link: bool
    width: int = 0
    height: int = 0


class Heading(msgspec.Struct, frozen=True, array_like=True, gc=False):
    """A heading in document order; ``level`` 1 to 6."""

    level: int
    text: str


class Alternate(msgspec.Struct, frozen=True, array_like=True, gc=False):
    """One hreflang annotation, and where it stands: in the ``html``, in a ``header`` of the answer or in a ``sitemap``. ``relative``: it is
    written without a scheme."""

    code: str
    url: str
    in_head: bool
    source: str = "html"
    relative: bool = False
