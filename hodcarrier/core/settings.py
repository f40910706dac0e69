"""What each setting of a plan means, for the console, the command line and the documentation: one text for all."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from hodcarrier.core.states import Appearance


class SettingKind(StrEnum):
    """How a setting is entered."""

    NUMBER = "number"
    TEXT = "text"
    LINES = "lines"
    SWITCH = "switch"
    CHOICE = "choice"
    PAIRS = "pairs"
    FIGURES = "figures"
    SEVERITIES = "severities"
    PROFILE = "profile"


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
    SettingGroup.EXTENT: "Scope",
    SettingGroup.SOURCES: "URL sources",
    SettingGroup.LIMITS: "Limits",
    SettingGroup.PACE: "Crawl rate",
    SettingGroup.APPEARANCE: "User agent",
    SettingGroup.RULES: "Robots rules",
    SettingGroup.JUDGEMENT: "Checks",
    SettingGroup.SURROUNDINGS: "Environment",
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
        "Start URLs",
        "Where the crawl begins. The first one decides which site it is. One per line.",
        SettingKind.LINES,
    ),
    Setting(
        "subdomains",
        SettingGroup.EXTENT,
        "Include subdomains",
        "Pages on subdomains of the start host count as pages of the site.",
        SettingKind.SWITCH,
    ),
    Setting(
        "path_prefix",
        SettingGroup.EXTENT,
        "Path prefix",
        "Crawl only below this path, e.g. /shop/. Empty means the whole host.",
        SettingKind.TEXT,
    ),
    Setting(
        "include",
        SettingGroup.EXTENT,
        "Include",
        "Crawl only URLs that match: patterns such as /shop/* for path and query, or regex: and a regular expression. One per line; empty means all.",
        SettingKind.LINES,
    ),
    Setting(
        "exclude",
        SettingGroup.EXTENT,
        "Exclude",
        "Never crawl URLs that match these patterns. Exclude wins over include. One per line.",
        SettingKind.LINES,
    ),
    Setting(
        "drop_parameters",
        SettingGroup.EXTENT,
        "Query parameters to drop",
        "Names such as sessionid. URLs that differ only in these count as one page; ;sessionid= in a path counts too. One per line.",
        SettingKind.LINES,
        True,
    ),
    Setting(
        "keep_parameters",
        SettingGroup.EXTENT,
        "Query parameters to keep",
        "If any are named, all others are dropped. One per line.",
        SettingKind.LINES,
        True,
    ),
    Setting("use_links", SettingGroup.SOURCES, "Follow links", "Crawl the pages that other pages link to.", SettingKind.SWITCH),
    Setting(
        "use_sitemaps",
        SettingGroup.SOURCES,
        "Use sitemaps",
        "Sitemaps named in robots.txt, and the usual locations.",
        SettingKind.SWITCH,
    ),
    Setting(
        "sitemaps",
        SettingGroup.SOURCES,
        "Additional sitemaps",
        "URLs of sitemaps that the site does not name itself. One per line.",
        SettingKind.LINES,
        True,
    ),
    Setting(
        "addresses",
        SettingGroup.SOURCES,
        "URL list",
        "URLs to crawl whether or not anything links to them, up to 50,000. One per line.",
        SettingKind.LINES,
        True,
    ),
    Setting(
        "check_files",
        SettingGroup.SOURCES,
        "Check page resources",
        "Check that images, scripts and stylesheets load, once per run.",
        SettingKind.SWITCH,
        True,
    ),
    Setting(
        "check_external",
        SettingGroup.SOURCES,
        "Check external links",
        "Check that they respond, once per run, one request per second and host.",
        SettingKind.SWITCH,
        True,
    ),
    Setting(
        "pages_max",
        SettingGroup.LIMITS,
        "Page limit",
        "The crawl stops here. Pages beyond the limit are unverified, not gone.",
        SettingKind.NUMBER,
    ),
    Setting(
        "depth_max",
        SettingGroup.LIMITS,
        "Crawl depth",
        "Clicks from the start URL. Pages further away are not crawled.",
        SettingKind.NUMBER,
        True,
    ),
    Setting(
        "time_max_s",
        SettingGroup.LIMITS,
        "Time limit",
        "What was crawled by then is examined, and the run is marked as partial.",
        SettingKind.NUMBER,
        True,
    ),
    Setting(
        "bytes_max",
        SettingGroup.LIMITS,
        "Response size limit",
        "Larger responses are read up to this size.",
        SettingKind.NUMBER,
        True,
    ),
    Setting(
        "url_chars_max",
        SettingGroup.LIMITS,
        "URL length limit",
        "Longer URLs are not crawled.",
        SettingKind.NUMBER,
        True,
    ),
    Setting(
        "pattern_pages_max",
        SettingGroup.LIMITS,
        "Pages per URL pattern",
        "Stops calendars and other crawl traps. Digits count as alike: /day-1 and /day-2 are one pattern.",
        SettingKind.NUMBER,
        True,
    ),
    Setting(
        "query_pages_max",
        SettingGroup.LIMITS,
        "Pages per query pattern",
        "Stops faceted navigation that combines every filter.",
        SettingKind.NUMBER,
        True,
    ),
    Setting(
        "answer_timeout_s",
        SettingGroup.LIMITS,
        "Response timeout",
        "How long to wait for a response before it counts as timed out.",
        SettingKind.NUMBER,
        True,
    ),
    Setting(
        "rate_per_s",
        SettingGroup.PACE,
        "Requests per second",
        "The highest rate per host. Lower it for fragile servers.",
        SettingKind.NUMBER,
    ),
    Setting(
        "parallel", SettingGroup.PACE, "Parallel requests", "The highest number of open requests per host.", SettingKind.NUMBER
    ),
    Setting(
        "adaptive",
        SettingGroup.PACE,
        "Adapt to server load",
        "Slow down after timeouts, when the server asks to wait or when responses take twice as long, and speed up again gradually.",
        SettingKind.SWITCH,
        True,
    ),
    Setting(
        "obey_crawl_delay",
        SettingGroup.PACE,
        "Obey Crawl-delay",
        "Wait between requests as the Crawl-delay line of robots.txt asks.",
        SettingKind.SWITCH,
        True,
    ),
    Setting(
        "appearance",
        SettingGroup.APPEARANCE,
        "User agent",
        "Crawl with our own user agent, or as a desktop or phone browser. Compare two runs to see what differs.",
        SettingKind.CHOICE,
        choices=tuple(Appearance),
    ),
    Setting(
        "agent",
        SettingGroup.APPEARANCE,
        "Own user agent",
        "The User-Agent header sent when crawling as ourselves.",
        SettingKind.TEXT,
        True,
    ),
    Setting(
        "robots_token",
        SettingGroup.APPEARANCE,
        "robots.txt token",
        "The product token whose robots.txt rules are obeyed, whichever user agent is sent.",
        SettingKind.TEXT,
        True,
    ),
    Setting(
        "obey_robots",
        SettingGroup.RULES,
        "Obey robots.txt",
        "Switch off only for sites you are hired to audit; the rules are then reported but not obeyed.",
        SettingKind.SWITCH,
    ),
    Setting(
        "obey_nofollow",
        SettingGroup.RULES,
        "Obey nofollow",
        "Do not crawl pages that are linked with nofollow only.",
        SettingKind.SWITCH,
        True,
    ),
    Setting(
        "obey_noindex",
        SettingGroup.RULES,
        "Obey noindex",
        "Switch off for a staging site that is noindex as a whole: its pages are then examined as if they were public.",
        SettingKind.SWITCH,
        True,
    ),
    Setting(
        "obey_canonical",
        SettingGroup.RULES,
        "Obey canonicals to other hosts",
        "Switch off for a staging site whose pages name the public site as canonical: they are then examined as if they were public.",
        SettingKind.SWITCH,
        True,
    ),
    Setting(
        "profile",
        SettingGroup.JUDGEMENT,
        "Profile",
        "A set of checks, limits and severities shared by several sites. Settings of this site take precedence.",
        SettingKind.PROFILE,
    ),
    Setting(
        "thresholds",
        SettingGroup.JUDGEMENT,
        "Limits of checks",
        "Name and figure, e.g. words_min = 120. One per line. The catalogue lists them.",
        SettingKind.FIGURES,
        True,
    ),
    Setting(
        "checks_off",
        SettingGroup.JUDGEMENT,
        "Checks switched off",
        "Ids such as text-thin. One per line.",
        SettingKind.LINES,
        True,
    ),
    Setting(
        "severities",
        SettingGroup.JUDGEMENT,
        "Changed severities",
        "Check, severity and reason, e.g. text-thin = low, product pages are short here. One per line.",
        SettingKind.SEVERITIES,
        True,
    ),
    Setting(
        "expected",
        SettingGroup.JUDGEMENT,
        "Expected text",
        "Text that the source of every page must contain, such as the name of a tracking script. One per line.",
        SettingKind.LINES,
        True,
    ),
    Setting(
        "time_zone", SettingGroup.SURROUNDINGS, "Time zone", "The client's time zone, e.g. Europe/London.", SettingKind.TEXT, True
    ),
    Setting(
        "host_map",
        SettingGroup.SURROUNDINGS,
        "Host mapping",
        "host:port = address:port, for staging sites. Only an owner may set it. One per line.",
        SettingKind.PAIRS,
        True,
    ),
    Setting(
        "ca_file",
        SettingGroup.SURROUNDINGS,
        "Certificate authority",
        "A file on the server with certificates to trust in addition to the usual ones. Only an owner may set it.",
        SettingKind.TEXT,
        True,
    ),
    Setting(
        "private_addresses",
        SettingGroup.SURROUNDINGS,
        "Private addresses",
        "For sites inside your own network: addresses and ranges that the site's own hosts may lead to, such as 10.1.0.0/16 or"
        " 127.0.0.1:8080. Only an owner may set them. One per line.",
        SettingKind.LINES,
        True,
    ),
)
# What reaches into the agency's own network.
SURROUNDINGS = frozenset(setting.name for setting in SETTINGS if setting.group == SettingGroup.SURROUNDINGS)
# What stays with a site when a plan is copied to it.
OWN_TO_A_SITE = frozenset({"start", "sitemaps", "addresses", "host_map", "path_prefix"})
