"""What each setting of a plan means, for the console, the command line and the documentation: one text for all."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class SettingKind(StrEnum):
    """How a setting is entered."""

    NUMBER = "number"
    TEXT = "text"
    LINES = "lines"
    SWITCH = "switch"
    CHOICE = "choice"
    PAIRS = "pairs"
    FIGURES = "figures"


class SettingGroup(StrEnum):
    """What a setting is about."""

    EXTENT = "extent"
    SOURCES = "sources"
    LIMITS = "limits"
    PACE = "pace"
    APPEARANCE = "appearance"
    RULES = "rules"
    JUDGEMENT = "judgement"
    SURROUNDINGS = "surroundings"


GROUPS: dict[SettingGroup, str] = {
    SettingGroup.EXTENT: "What belongs to the crawl",
    SettingGroup.SOURCES: "Where addresses come from",
    SettingGroup.LIMITS: "How far it goes",
    SettingGroup.PACE: "How gently it goes",
    SettingGroup.APPEARANCE: "Who it appears as",
    SettingGroup.RULES: "Which rules it obeys",
    SettingGroup.JUDGEMENT: "How it is judged",
    SettingGroup.SURROUNDINGS: "Where it runs",
}


@dataclass(frozen=True, slots=True)
class Setting:
    """One setting: its name in the plan, its group, a label, a sentence or two, and how it is entered.

    ``advanced`` ones are folded away until somebody asks for them.
    """

    name: str
    group: SettingGroup
    label: str
    text: str
    kind: SettingKind
    advanced: bool = False
    choices: tuple[str, ...] = ()


SETTINGS = (
    Setting(
        "start",
        SettingGroup.EXTENT,
        "Start addresses",
        "The crawl begins here. The first one decides which site it is. One a line.",
        SettingKind.LINES,
    ),
    Setting(
        "subdomains",
        SettingGroup.EXTENT,
        "Subdomains belong to it",
        "Pages on hosts below the start host count as pages of the site.",
        SettingKind.SWITCH,
    ),
    Setting(
        "path_prefix",
        SettingGroup.EXTENT,
        "Only below this path",
        "Such as /shop/. Empty means the whole host.",
        SettingKind.TEXT,
    ),
    Setting(
        "include",
        SettingGroup.EXTENT,
        "Only these pages",
        "Patterns such as /shop/* for path and query, or regex: and a regular expression. One a line; empty means all.",
        SettingKind.LINES,
    ),
    Setting(
        "exclude",
        SettingGroup.EXTENT,
        "Not these pages",
        "Patterns of pages to leave out, written alike. They win over the ones above.",
        SettingKind.LINES,
    ),
    Setting(
        "drop_parameters",
        SettingGroup.EXTENT,
        "Query parameters to drop",
        "Names such as sessionid. Addresses that differ in these only are one page; ;sessionid= in a path counts too. One a line.",
        SettingKind.LINES,
        True,
    ),
    Setting(
        "keep_parameters",
        SettingGroup.EXTENT,
        "Query parameters to keep",
        "When any are named, all others are dropped. One a line.",
        SettingKind.LINES,
        True,
    ),
    Setting("use_links", SettingGroup.SOURCES, "Follow links", "Pages that other pages link to are fetched.", SettingKind.SWITCH),
    Setting(
        "use_sitemaps",
        SettingGroup.SOURCES,
        "Read the site's sitemaps",
        "Those that robots.txt names, and the usual places.",
        SettingKind.SWITCH,
    ),
    Setting(
        "sitemaps",
        SettingGroup.SOURCES,
        "Further sitemaps",
        "Addresses of sitemaps that the site does not name itself. One a line.",
        SettingKind.LINES,
        True,
    ),
    Setting(
        "addresses",
        SettingGroup.SOURCES,
        "A list of pages",
        "Pages to fetch whether anything links to them or not, up to 50,000. One a line.",
        SettingKind.LINES,
        True,
    ),
    Setting(
        "check_files",
        SettingGroup.SOURCES,
        "Check files",
        "Whether pictures, scripts and style sheets answer, once in a run.",
        SettingKind.SWITCH,
        True,
    ),
    Setting(
        "check_external",
        SettingGroup.SOURCES,
        "Check links to other sites",
        "Whether they answer, once in a run and one a second for every host.",
        SettingKind.SWITCH,
        True,
    ),
    Setting(
        "pages_max",
        SettingGroup.LIMITS,
        "Pages at most",
        "The crawl ends here. Pages beyond it are unverified, not gone.",
        SettingKind.NUMBER,
    ),
    Setting(
        "depth_max",
        SettingGroup.LIMITS,
        "Clicks from the start at most",
        "Pages that are further away are not fetched.",
        SettingKind.NUMBER,
        True,
    ),
    Setting(
        "time_max_s",
        SettingGroup.LIMITS,
        "Seconds at most",
        "What was fetched by then is examined, and the run says that it is partial.",
        SettingKind.NUMBER,
        True,
    ),
    Setting(
        "bytes_max",
        SettingGroup.LIMITS,
        "Bytes of one answer at most",
        "What is larger is read up to here.",
        SettingKind.NUMBER,
        True,
    ),
    Setting(
        "url_chars_max",
        SettingGroup.LIMITS,
        "Characters of an address at most",
        "Longer addresses are not fetched.",
        SettingKind.NUMBER,
        True,
    ),
    Setting(
        "pattern_pages_max",
        SettingGroup.LIMITS,
        "Pages of one pattern at most",
        "Ends calendars and other traps. Digits count as alike: /day-1 and /day-2 are one pattern.",
        SettingKind.NUMBER,
        True,
    ),
    Setting(
        "query_pages_max",
        SettingGroup.LIMITS,
        "Pages of one pattern with a query at most",
        "Ends filters in every combination.",
        SettingKind.NUMBER,
        True,
    ),
    Setting(
        "answer_timeout_s",
        SettingGroup.LIMITS,
        "Seconds to wait for an answer",
        "A host that says nothing for so long has timed out.",
        SettingKind.NUMBER,
        True,
    ),
    Setting(
        "rate_per_s",
        SettingGroup.PACE,
        "Requests per second",
        "Never more than this in any second, for each host. Fewer is gentler.",
        SettingKind.NUMBER,
    ),
    Setting(
        "parallel", SettingGroup.PACE, "Requests at once", "Never more than this under way, for each host.", SettingKind.NUMBER
    ),
    Setting(
        "adaptive",
        SettingGroup.PACE,
        "Slow down when the host struggles",
        "After time-outs, when it asks to wait, or when answers take twice as long; and back, slowly.",
        SettingKind.SWITCH,
        True,
    ),
    Setting(
        "obey_crawl_delay",
        SettingGroup.PACE,
        "Keep the pause robots.txt asks for",
        "The Crawl-delay line, where there is one.",
        SettingKind.SWITCH,
        True,
    ),
    Setting(
        "appearance",
        SettingGroup.APPEARANCE,
        "Appear as",
        "Our own agent, or a browser on a desktop or a phone. Compare two runs to see what differs.",
        SettingKind.CHOICE,
        choices=("own", "desktop", "phone"),
    ),
    Setting(
        "agent",
        SettingGroup.APPEARANCE,
        "Our own agent",
        "The User-Agent header when we appear as ourselves.",
        SettingKind.TEXT,
        True,
    ),
    Setting(
        "robots_token",
        SettingGroup.APPEARANCE,
        "Name for robots.txt",
        "The product token whose rules we obey, whoever we appear as.",
        SettingKind.TEXT,
        True,
    ),
    Setting(
        "obey_robots",
        SettingGroup.RULES,
        "Obey robots.txt",
        "Switch it off only for sites we are hired to audit; its rules are then only reported.",
        SettingKind.SWITCH,
    ),
    Setting(
        "obey_nofollow",
        SettingGroup.RULES,
        "Obey nofollow",
        "Pages that are linked with nofollow only are not fetched.",
        SettingKind.SWITCH,
        True,
    ),
    Setting(
        "obey_noindex",
        SettingGroup.RULES,
        "Take noindex at its word",
        "Switch it off for a staging site that is noindex as a whole: its pages are then judged as if they were public.",
        SettingKind.SWITCH,
        True,
    ),
    Setting(
        "thresholds",
        SettingGroup.JUDGEMENT,
        "Limits of checks",
        "Name and figure, such as words_min = 120. One a line. The catalogue names them.",
        SettingKind.FIGURES,
        True,
    ),
    Setting(
        "checks_off", SettingGroup.JUDGEMENT, "Checks switched off", "Ids such as text-thin. One a line.", SettingKind.LINES, True
    ),
    Setting(
        "expected",
        SettingGroup.JUDGEMENT,
        "Texts every page must carry",
        "Sought in the source of each page, such as the name of a script. One a line.",
        SettingKind.LINES,
        True,
    ),
    Setting("time_zone", SettingGroup.SURROUNDINGS, "Time zone", "The client's, such as Europe/London.", SettingKind.TEXT, True),
    Setting(
        "host_map",
        SettingGroup.SURROUNDINGS,
        "Host mapping",
        "host:port = address:port, for staging sites. Only an owner may set it. One a line.",
        SettingKind.PAIRS,
        True,
    ),
    Setting(
        "ca_file",
        SettingGroup.SURROUNDINGS,
        "Further authority",
        "File on the server with certificates to trust besides the usual ones. Only an owner may set it.",
        SettingKind.TEXT,
        True,
    ),
    Setting(
        "allow_private",
        SettingGroup.SURROUNDINGS,
        "Permit private addresses",
        "Needed for sites inside our own network. Only an owner may set it.",
        SettingKind.SWITCH,
        True,
    ),
)
# What stays with a site when a plan is copied to it.
OWN_TO_A_SITE = frozenset({"start", "sitemaps", "addresses", "host_map", "path_prefix"})
