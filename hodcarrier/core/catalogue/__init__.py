"""What a check is, and all of them. Checks import everything they need from here and from the facts."""

from hodcarrier.core.catalogue.conditions import When
from hodcarrier.core.catalogue.model import (
    AREAS,
    Check,
    Entry,
    Fail,
    Grouping,
    Limit,
    Limits,
    Outcome,
    Unsure,
)
from hodcarrier.core.catalogue.registry import Catalogue, get, load
from hodcarrier.core.catalogue.retired import Retired
from hodcarrier.core.catalogue.rules import broken_references, lack, lacks_of, without_return
from hodcarrier.core.catalogue.samples import (
    Example,
    Sample,
    certificate,
    doc,
    doc_of_size,
    fails,
    gone,
    ld,
    moved,
    page,
    passes,
    script,
    sitemap,
    text_file,
)
from hodcarrier.core.catalogue.views import FileView, GroupView, PageView, SiteView
from hodcarrier.core.states import Area, Effort, Severity, Subject, WhyNot

__all__ = [
    "AREAS",
    "Area",
    "Catalogue",
    "Check",
    "Effort",
    "Entry",
    "Example",
    "Fail",
    "FileView",
    "GroupView",
    "Grouping",
    "Limit",
    "Limits",
    "Outcome",
    "PageView",
    "Retired",
    "Sample",
    "Severity",
    "SiteView",
    "Subject",
    "Unsure",
    "When",
    "WhyNot",
    "broken_references",
    "certificate",
    "doc",
    "doc_of_size",
    "fails",
    "get",
    "gone",
    "lack",
    "lacks_of",
    "ld",
    "load",
    "moved",
    "page",
    "passes",
    "script",
    "sitemap",
    "text_file",
    "without_return",
]
