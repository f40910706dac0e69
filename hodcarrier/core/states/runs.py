"""Runs, their files, and the URLs they meet."""

from __future__ import annotations

from enum import StrEnum


class RunState(StrEnum):
    """The state of a run, in the order it goes through them."""

    QUEUED = "queued"
    CRAWLING = "crawling"
    EXAMINING = "examining"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


class RunPurpose(StrEnum):
    """What a run is for: an audit of a client's site, one site's part of a benchmark round, to judge anew what another run has fetched, or to see
    what the site serves to another user agent."""

    AUDIT = "audit"
    BENCHMARK = "benchmark"
    RE_EXAMINATION = "re-examination"
    USER_AGENT = "user-agent"


class Appearance(StrEnum):
    """As whom a crawl appears: with our own user agent, or with that of a browser."""

    OWN = "own"
    DESKTOP = "desktop"
    PHONE = "phone"


class FileState(StrEnum):
    """What became of a run's file: kept, removed by the rule of retention, or found to be damaged and set aside."""

    KEPT = "kept"
    REMOVED = "removed"
    DAMAGED = "damaged"


class AddressRole(StrEnum):
    """What a URL is to a site: a page of it, a file that its pages need, or something of another site."""

    PAGE = "page"
    FILE = "file"
    EXTERNAL = "external"


class AddressState(StrEnum):
    """What a run did with a URL."""

    QUEUED = "queued"
    DONE = "done"
    DISALLOWED = "disallowed"
    SKIPPED = "skipped"


class WhyNot(StrEnum):
    """Why a page cannot be indexed; empty when it can."""

    INDEXABLE = ""
    DISALLOWED = "disallowed"
    LEFT_OUT = "left-out"
    NOT_REACHED = "not-reached"
    NO_ANSWER = "no-answer"
    REDIRECT = "redirect"
    REFRESH = "refresh"
    ERROR = "error"
    NOT_HTML = "not-html"
    NOINDEX = "noindex"
    CANONICAL_ELSEWHERE = "canonical-elsewhere"


class ExportForm(StrEnum):
    """What a run is exported as: its findings in one of several forms, or its whole file."""

    CSV = "csv"
    JSON = "json"
    LINES = "jsonl"
    XLSX = "xlsx"
    SARIF = "sarif"
    FILE = "file"


class SiteFileKind(StrEnum):
    """What speaks for a whole site."""

    ROBOTS = "robots"
    SITEMAP = "sitemap"
    CERTIFICATE = "certificate"


class ExportOf(StrEnum):
    """What of a run is exported: every finding, or every cause."""

    FINDINGS = "findings"
    CAUSES = "causes"


class WorklistForm(StrEnum):
    """What a work list is written as: text in Markdown (CommonMark), or a page."""

    MARKDOWN = "md"
    PAGE = "html"


class TableForm(StrEnum):
    """What a list is exported as: a table, a workbook, or an object on each line."""

    CSV = "csv"
    XLSX = "xlsx"
    LINES = "jsonl"


ACTIVE_RUN = (RunState.QUEUED, RunState.CRAWLING, RunState.EXAMINING)
# Runs of these purposes are a site's line over time; all others look at one moment of it once more.
IN_LINE = (RunPurpose.AUDIT, RunPurpose.BENCHMARK)
CLAIMED_RUN = (RunState.CRAWLING, RunState.EXAMINING)
