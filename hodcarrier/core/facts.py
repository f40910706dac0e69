"""Facts: what a run knows of a page before any check judges it. Frozen values, ready to be packed."""

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
]
PAGE_KINDS: frozenset[str] = frozenset(
    {"anchor", "image-link", "canonical", "alternate", "refresh", "iframe", "amp", "next", "prev"}
)
FOLLOWED_KINDS: frozenset[str] = frozenset({"anchor", "image-link"})
# What brings a visitor one step on, whether by a click or by itself.
STEP_KINDS: frozenset[str] = FOLLOWED_KINDS | {"iframe", "refresh"}
FILE_KINDS: frozenset[str] = frozenset({"script", "style", "image", "icon", "srcset", "preload", "media", "manifest"})
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
    """An ``<img>``: ``alt`` is ``None`` when the attribute is absent, empty when it is declared decorative."""

    url: str
    raw: str
    alt: str | None
    sized: bool
    lazy: bool
    alone_in_link: bool


class Heading(msgspec.Struct, frozen=True, array_like=True, gc=False):
    """A heading in document order; ``level`` 1 to 6."""

    level: int
    text: str


class Alternate(msgspec.Struct, frozen=True, array_like=True, gc=False):
    """One hreflang annotation."""

    code: str
    url: str
    in_head: bool


class PageFacts(msgspec.Struct, frozen=True):
    """All facts of one HTML document. Sizes in bytes, lengths in characters or words as the names say."""

    url: str
    html_bytes: int
    encoding: str
    encoding_source: str
    base: str = ""
    doctype: bool = False
    lang: str = ""
    titles: tuple[Placed, ...] = ()
    descriptions: tuple[Placed, ...] = ()
    robots: tuple[Placed, ...] = ()
    canonicals: tuple[Placed, ...] = ()
    viewport: str | None = None
    refresh: str = ""
    headings: tuple[Heading, ...] = ()
    words: int = 0
    text_hash: str = ""
    template: str = ""
    images: tuple[Image, ...] = ()
    alternates: tuple[Alternate, ...] = ()
    links: tuple[Link, ...] = ()
    malformed: tuple[str, ...] = ()
    insecure_forms: tuple[str, ...] = ()
    password_fields: int = 0
    social: tuple[tuple[str, str], ...] = ()
    data_types: tuple[str, ...] = ()
    data_errors: tuple[str, ...] = ()
    twice_ids: tuple[str, ...] = ()
    elements: int = 0
    blocking_scripts: tuple[str, ...] = ()
    expected_missing: tuple[str, ...] = ()

    @property
    def title(self) -> str:
        """The title browsers show: the first in the document; empty if there is none."""
        return self.titles[0].text if self.titles else ""

    @property
    def description(self) -> str:
        """The first meta description inside the head; empty if there is none."""
        return next((d.text for d in self.descriptions if d.in_head), "")

    @property
    def h1(self) -> str:
        """The first H1 with text."""
        return next((h.text for h in self.headings if h.level == 1 and h.text), "")

    @property
    def canonical(self) -> str:
        """The URL the document itself names as canonical, if it counts (inside the head); empty if none."""
        return next((c.url for c in self.canonicals if c.in_head and c.url), "")

    def directives(self) -> frozenset[str]:
        """Robots directives of the document's metas that count, in lower case."""
        return frozenset(
            part.strip().lower() for meta in self.robots if meta.in_head for part in meta.text.split(",") if part.strip()
        )
