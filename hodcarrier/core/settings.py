"""What each setting of a plan means, for the console, the command line and the documentation: one text for all."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Kind = Literal["number", "text", "lines", "switch", "choice", "pairs", "figures"]

GROUPS = {
    "extent": "What belongs to the crawl",
    "sources": "Where addresses come from",
    "limits": "How far it goes",
    "pace": "How gently it goes",
    "appearance": "Who it appears as",
    "rules": "Which rules it obeys",
    "judgement": "How it is judged",
    "surroundings": "Where it runs",
}


@dataclass(frozen=True, slots=True)
class Setting:
    """One setting: its name in the plan, its group, a label, a sentence or two, and how it is entered.

    ``advanced`` ones are folded away until somebody asks for them.
    """

    name: str
    group: str
    label: str
    text: str
    kind: Kind
    advanced: bool = False
    choices: tuple[str, ...] = ()


SETTINGS = (
    Setting(
        "start",
        "extent",
        "Start addresses",
        "The crawl begins here. The first one decides which site it is. One a line.",
        "lines",
    ),
    Setting(
        "subdomains",
        "extent",
        "Subdomains belong to it",
        "Pages on hosts below the start host count as pages of the site.",
        "switch",
    ),
    Setting("path_prefix", "extent", "Only below this path", "Such as /shop/. Empty means the whole host.", "text"),
    Setting(
        "include",
        "extent",
        "Only these pages",
        "Patterns such as /shop/* for path and query, or regex: and a regular expression. One a line; empty means all.",
        "lines",
    ),
    Setting(
        "exclude",
        "extent",
        "Not these pages",
        "Patterns of pages to leave out, written alike. They win over the ones above.",
        "lines",
    ),
    Setting(
        "drop_parameters",
        "extent",
        "Query parameters to drop",
        "Names such as sessionid. Addresses that differ in these only are one page; ;sessionid= in a path counts too. One a line.",
        "lines",
        True,
    ),
    Setting(
        "keep_parameters",
        "extent",
        "Query parameters to keep",
        "When any are named, all others are dropped. One a line.",
        "lines",
        True,
    ),
    Setting("use_links", "sources", "Follow links", "Pages that other pages link to are fetched.", "switch"),
    Setting(
        "use_sitemaps", "sources", "Read the site's sitemaps", "Those that robots.txt names, and the usual places.", "switch"
    ),
    Setting(
        "sitemaps",
        "sources",
        "Further sitemaps",
        "Addresses of sitemaps that the site does not name itself. One a line.",
        "lines",
        True,
    ),
    Setting(
        "addresses",
        "sources",
        "A list of pages",
        "Pages to fetch whether anything links to them or not, up to 50,000. One a line.",
        "lines",
        True,
    ),
    Setting(
        "check_files",
        "sources",
        "Check files",
        "Whether pictures, scripts and style sheets answer, once in a run.",
        "switch",
        True,
    ),
    Setting(
        "check_external",
        "sources",
        "Check links to other sites",
        "Whether they answer, once in a run and one a second for every host.",
        "switch",
        True,
    ),
    Setting("pages_max", "limits", "Pages at most", "The crawl ends here. Pages beyond it are unverified, not gone.", "number"),
    Setting(
        "depth_max", "limits", "Clicks from the start at most", "Pages that are further away are not fetched.", "number", True
    ),
    Setting(
        "time_max_s",
        "limits",
        "Seconds at most",
        "What was fetched by then is examined, and the run says that it is partial.",
        "number",
        True,
    ),
    Setting("bytes_max", "limits", "Bytes of one answer at most", "What is larger is read up to here.", "number", True),
    Setting("url_chars_max", "limits", "Characters of an address at most", "Longer addresses are not fetched.", "number", True),
    Setting(
        "pattern_pages_max",
        "limits",
        "Pages of one pattern at most",
        "Ends calendars and other traps. Digits count as alike: /day-1 and /day-2 are one pattern.",
        "number",
        True,
    ),
    Setting(
        "query_pages_max",
        "limits",
        "Pages of one pattern with a query at most",
        "Ends filters in every combination.",
        "number",
        True,
    ),
    Setting(
        "answer_timeout_s",
        "limits",
        "Seconds to wait for an answer",
        "A host that says nothing for so long has timed out.",
        "number",
        True,
    ),
    Setting(
        "rate_per_s",
        "pace",
        "Requests per second",
        "Never more than this in any second, for each host. Fewer is gentler.",
        "number",
    ),
    Setting("parallel", "pace", "Requests at once", "Never more than this under way, for each host.", "number"),
    Setting(
        "adaptive",
        "pace",
        "Slow down when the host struggles",
        "After time-outs, when it asks to wait, or when answers take twice as long; and back, slowly.",
        "switch",
        True,
    ),
    Setting(
        "obey_crawl_delay",
        "pace",
        "Keep the pause robots.txt asks for",
        "The Crawl-delay line, where there is one.",
        "switch",
        True,
    ),
    Setting(
        "appearance",
        "appearance",
        "Appear as",
        "Our own agent, or a browser on a desktop or a phone. Compare two runs to see what differs.",
        "choice",
        choices=("own", "desktop", "phone"),
    ),
    Setting("agent", "appearance", "Our own agent", "The User-Agent header when we appear as ourselves.", "text", True),
    Setting(
        "robots_token",
        "appearance",
        "Name for robots.txt",
        "The product token whose rules we obey, whoever we appear as.",
        "text",
        True,
    ),
    Setting(
        "obey_robots",
        "rules",
        "Obey robots.txt",
        "Switch it off only for sites we are hired to audit; its rules are then only reported.",
        "switch",
    ),
    Setting(
        "obey_nofollow", "rules", "Obey nofollow", "Pages that are linked with nofollow only are not fetched.", "switch", True
    ),
    Setting(
        "obey_noindex",
        "rules",
        "Take noindex at its word",
        "Switch it off for a staging site that is noindex as a whole: its pages are then judged as if they were public.",
        "switch",
        True,
    ),
    Setting(
        "thresholds",
        "judgement",
        "Limits of checks",
        "Name and figure, such as words_min = 120. One a line. The catalogue names them.",
        "figures",
        True,
    ),
    Setting("checks_off", "judgement", "Checks switched off", "Ids such as text-thin. One a line.", "lines", True),
    Setting(
        "expected",
        "judgement",
        "Texts every page must carry",
        "Sought in the source of each page, such as the name of a script. One a line.",
        "lines",
        True,
    ),
    Setting("time_zone", "surroundings", "Time zone", "The client's, such as Europe/London.", "text", True),
    Setting(
        "host_map",
        "surroundings",
        "Host mapping",
        "host:port = address:port, for staging sites. Only an owner may set it. One a line.",
        "pairs",
        True,
    ),
    Setting(
        "ca_file",
        "surroundings",
        "Further authority",
        "File on the server with certificates to trust besides the usual ones. Only an owner may set it.",
        "text",
        True,
    ),
    Setting(
        "allow_private",
        "surroundings",
        "Permit private addresses",
        "Needed for sites inside our own network. Only an owner may set it.",
        "switch",
        True,
    ),
)
# What stays with a site when a plan is copied to it.
OWN_TO_A_SITE = frozenset({"start", "sitemaps", "addresses", "host_map", "path_prefix"})
