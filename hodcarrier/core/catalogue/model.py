"""What a check is: its metadata, what its rule yields, and the areas it may belong to."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, Generic, Literal, TypeVar

from hodcarrier.core.catalogue.conditions import WORDS, When
from hodcarrier.core.catalogue.mending import Mend
from hodcarrier.core.catalogue.samples import Example
from hodcarrier.core.catalogue.views import FileView, GroupView, PageView, SiteView
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.states import Area, Effort, Severity, Subject
from hodcarrier.core.words import fill

AREAS: dict[Area, str] = {
    Area.REACH: "Reachability",
    Area.INDEX: "Indexing",
    Area.FILES: "robots.txt and sitemaps",
    Area.TITLES: "Titles and descriptions",
    Area.COPIES: "Duplication",
    Area.TEXT: "Headings and text",
    Area.LINKS: "Links",
    Area.MEDIA: "Images",
    Area.SPEED: "Weight and speed",
    Area.SECURE: "Safety",
    Area.LANG: "Languages and encoding",
    Area.DATA: "Structured data",
    Area.SHARE: "Previews",
    Area.MOBILE: "Small screens",
    Area.MARKUP: "Soundness of the HTML",
    Area.TRUST: "Trust",
}
VIEWS: dict[Subject, type] = {Subject.PAGE: PageView, Subject.FILE: FileView, Subject.SITE: SiteView, Subject.GROUP: GroupView}
Grouping = Literal["target", "element", "template", "group", "site", "alone"]
Limits = Mapping[str, float]


@dataclass(frozen=True, slots=True)
class Fail:
    """The check fails: a message key, the place (never a position), data for the message and the evidence.

    ``cause`` names the cause when the check's grouping needs more than the place (an element's signature, a rule).
    """

    key: str
    place: str = ""
    data: Mapping[str, Any] = field(default_factory=dict)
    cause: str = ""


@dataclass(frozen=True, slots=True)
class Unsure:
    """The check could not be examined at this place; neither passed nor failed."""

    place: str = ""
    reason: str = ""


Outcome = Fail | Unsure


@dataclass(frozen=True, slots=True)
class Limit:
    """A threshold of a check that a plan may change."""

    default: float
    unit: str
    meaning: str


@dataclass(frozen=True)
class Check:
    """The declared part of a check. ``terms`` are further words that people search it by. See ``docs/catalogue.md`` for the words these fields become.

    ``needs`` names the facts that the rule reads: structs of :mod:`hodcarrier.core.facts`. A changed rule raises ``revision``;
    a test fails when it does not. ``about``: pages that may not be indexed are none of its business; groups are made of such as may. ``when``: what a page must have
    for the check to apply. ``across``: the rule looks beyond its subject (at sitemaps, at the pages that link to it), so
    that a run that reaches less of the site than another cannot say that the check passes now; see :attr:`across_pages`. ``element`` is a CSS
    selector, with the evidence to be filled in, of the element that a finding is about, where its evidence names none; ``mend`` shows the fix as code.
    """

    severity: Severity
    subject: Subject
    summary: str
    why: str
    fix: str
    effort: Effort
    standard: str
    messages: Mapping[str, str]
    cause: Grouping
    examples: tuple[Example, ...]
    needs: tuple[type, ...] = ()
    about: Literal["any", "indexable"] = "any"
    when: When = When.ALWAYS
    cause_line: str = ""
    limits: Mapping[str, Limit] = field(default_factory=dict)
    revision: int = 1
    since: str = "0.1.0"
    across: bool = False
    terms: tuple[str, ...] = ()
    element: str = ""
    mend: Mend | None = None

    @property
    def applies_to(self) -> str:
        """What a page must have for the check to apply, in words; empty when it always does."""
        return WORDS[self.when]

    @property
    def across_pages(self) -> bool:
        """Whether a pass holds only for a run that reached as much as the one it is compared with; so for every group."""
        return self.across or self.subject == Subject.GROUP

    @cached_property
    def reach(self) -> str:
        """How far a fetch must come before the check can be examined: ``address``, ``answer`` or ``document``; ``indexable``: a document
        that may be indexed."""
        if self.subject == Subject.SITE:
            return "address"
        if self.about == "indexable" or self.subject == Subject.GROUP:
            return "indexable"
        if any(need is not Answer for need in self.needs):
            return "document"
        return "answer" if self.needs else "address"


View = TypeVar("View")


@dataclass(frozen=True)
class Entry(Generic[View]):
    """A check with the id and area that its file gives it, and its rule over what it looks at.

    ``identity`` is the id it first had: fingerprints are made with it, so that a renamed check finds the same findings.
    """

    id: str
    area: Area
    check: Check
    find: Callable[[View, Limits], Iterable[Outcome]]
    key: Callable[[PageView], str]
    identity: str = ""
    # Of a group check: which keys belong together though they are not equal, as sets of them.
    join: Callable[[Sequence[str], Limits], Iterable[Sequence[str]]] | None = None

    def limits(self, thresholds: Mapping[str, float]) -> dict[str, float]:
        """The check's limits by name, with a plan's thresholds in place of the defaults."""
        return {name: float(thresholds.get(name, limit.default)) for name, limit in self.check.limits.items()}

    def with_severity(self, severity: Severity | None) -> Entry[View]:
        """The check as a plan weighs it; ``None``: as the catalogue does."""
        return self if severity in (None, self.check.severity) else replace(self, check=replace(self.check, severity=severity))

    def message(self, key: str, data: Mapping[str, Any]) -> str:
        """The sentence for a finding; data that is missing shows as a dash."""
        template = self.check.messages.get(key)
        return fill(template, data) if template else self.check.summary
