"""What figures from outside are of, and how they are looked at."""

from __future__ import annotations

from enum import StrEnum


class FigureKind(StrEnum):
    """What rows of figures are of: search results, visits, positions of keywords, links from other sites, or the site as a whole."""

    SEARCH = "search"
    VISITS = "visits"
    POSITIONS = "positions"
    LINKS = "links"
    SITE = "site"


class DayOrder(StrEnum):
    """In which order days are written."""

    YMD = "ymd"
    DMY = "dmy"
    MDY = "mdy"
    YDM = "ydm"
    WORDS = "words"


class DecimalMark(StrEnum):
    """What stands before the decimals of a number."""

    POINT = "point"
    COMMA = "comma"


class FileStage(StrEnum):
    """How far a file of figures has come: it waits for somebody to say what its columns are, or its rows are in."""

    WAITING = "waiting"
    IMPORTED = "imported"


class FeedState(StrEnum):
    """How a feed of figures fares: it was not asked yet, its figures are as new as they can be, it has had nothing new for days, it cannot be read, or it is switched off."""

    WAITING = "waiting"
    CURRENT = "current"
    STALE = "stale"
    FAILING = "failing"
    OFF = "off"


class SearchBy(StrEnum):
    """What search figures are added up by."""

    QUERY = "query"
    PAGE = "page"


class SearchView(StrEnum):
    """Which queries or pages are shown: all, or those that something is to be said of."""

    ALL = "all"
    RISING = "rising"
    AT_RISK = "at-risk"
    NEAR_TOP = "near-top"
    LOW_CTR = "low-ctr"


class Brand(StrEnum):
    """Queries with a name of the client's in them, those without, or both."""

    BOTH = "both"
    ONLY = "only"
    WITHOUT = "without"


class PaidEnd(StrEnum):
    """What can be said of whether a fix paid: more or fewer clicks than without it, no telling difference, too few clicks, or too early."""

    ROSE = "rose"
    FELL = "fell"
    NO_DIFFERENCE = "no-difference"
    TOO_FEW = "too-few"
    TOO_EARLY = "too-early"


class Every(StrEnum):
    """How far apart the points of a line over time are: each run, or what runs and days come to by week or by month."""

    RUN = "run"
    WEEK = "week"
    MONTH = "month"


class VisitBy(StrEnum):
    """What visits are added up by."""

    PAGE = "page"
    CHANNEL = "channel"


class VisitView(StrEnum):
    """Which pages or channels are shown: all, or those whose visits rise or fall."""

    ALL = "all"
    RISING = "rising"
    AT_RISK = "at-risk"


class Weight(StrEnum):
    """What work is put in order by: what fixes give back to health, or what the pages concerned get from outside."""

    GAIN = "gain"
    CLICKS = "clicks"
    IMPRESSIONS = "impressions"
    VISITS = "visits"


class BacklinkState(StrEnum):
    """Which links from other sites are shown: those that are there, new ones, those that were lost, those to pages that are gone, and lost ones to pages that are
    gone, which a redirect may win back."""

    LIVE = "live"
    NEW = "new"
    LOST = "lost"
    TO_GONE = "to-gone"
    WIN_BACK = "win-back"
