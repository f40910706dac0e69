"""What a catalogue judges by: severities, efforts, areas, subjects, outcomes of checks."""

from __future__ import annotations

from enum import StrEnum


class Severity(StrEnum):
    """How much a failing check costs, the worst first."""

    CRITICAL = "critical"
    HIGH = "high"
    MEDIUM = "medium"
    LOW = "low"


class Effort(StrEnum):
    """How much work one fix takes, the least first."""

    SMALL = "small"
    MEDIUM = "medium"
    LARGE = "large"


class CheckOutcome(StrEnum):
    """What became of a check in a run. ``not-applicable``: it had nothing to look at, so it has not passed."""

    FAILING = "failing"
    WAIVED = "waived"
    UNVERIFIED = "unverified"
    PASSED = "passed"
    NOT_APPLICABLE = "not-applicable"
    OFF = "off"


class Area(StrEnum):
    """A group of checks; the folder that they lie in."""

    REACH = "reach"
    INDEX = "index"
    FILES = "files"
    TITLES = "titles"
    COPIES = "copies"
    TEXT = "text"
    LINKS = "links"
    MEDIA = "media"
    SPEED = "speed"
    SECURE = "secure"
    LANG = "lang"
    DATA = "data"
    SHARE = "share"
    MOBILE = "mobile"
    MARKUP = "markup"
    TRUST = "trust"


class Subject(StrEnum):
    """What a check looks at."""

    PAGE = "page"
    FILE = "file"
    SITE = "site"
    GROUP = "group"


class SourceDocument(StrEnum):
    """In what a finding stands: the source of its page, the headers of the answer, or robots.txt."""

    PAGE = "page"
    HEADERS = "headers"
    ROBOTS = "robots.txt"


class MeasureGroup(StrEnum):
    """What a measure of a benchmark is about."""

    HEALTH = "health"
    INDEXING = "indexing"
    CONTENT = "content"
    LINKS = "links"
    SPEED = "speed"
    HTTPS = "https"
    DATA = "data"
    MOBILE = "mobile"
    LANGUAGES = "languages"


class Statistic(StrEnum):
    """How a measure is taken: a score of the run's summary, a share, a median, or a 90th percentile."""

    SCORE = "score"
    SHARE = "share"
    MEDIAN = "median"
    P90 = "p90"


class Lead(StrEnum):
    """How the own site stands to the best other one by a measure: ahead, behind, or without a difference that tells."""

    AHEAD = "ahead"
    BEHIND = "behind"
    LEVEL = "level"
