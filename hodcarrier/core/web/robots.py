"""robots.txt by RFC 9309.

Parsing follows the grammar of section 2.2 with the tolerance that section 2.2.4 asks for: a byte order mark, any line
ending, blanks around the colon, comments, and lines of other kinds are read past and never end a group. Groups of one
product token are merged (2.2.1); the longest matching rule wins and ``Allow`` wins a tie (2.2.2); at least 500 KiB are
read (2.5).
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field

READ_LIMIT_BYTES = 512_000
# What stands in place of a rule when robots.txt gave no answer and everything is therefore kept out (2.3.1.4).
UNREACHABLE = "robots.txt unreachable"
# Longer than the letters that the standard allows in a token: "ropebot2" is another crawler than "ropebot".
_TOKEN = re.compile(r"[^\s/]+")
_SCHEME = re.compile(r"[A-Za-z][A-Za-z0-9+.-]*://")
_LINES = re.compile(r"\r\n|\n|\r")
_PLAIN = re.compile(r"[!#-$&-;=?-Z\[\]_a-z~]*")  # as most paths are: nothing to encode and nothing encoded
_ESCAPE = re.compile(r"%([0-9A-Fa-f]{2})")
_UNRESERVED = frozenset("ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-._~")
_NEVER_RAW = frozenset('"<>\\^`{|}')
_OTHER_KEYS = frozenset({"host", "clean-param", "request-rate", "visit-time", "noindex", "content-signal", "content-usage"})


@dataclass(frozen=True, slots=True)
class Rule:
    """One ``Allow`` or ``Disallow`` line. ``path`` is as written, ``pattern`` normalised; its length tells which rule wins."""

    allow: bool
    path: str
    line: int
    pattern: str

    def matches(self, path: str) -> bool:
        """Whether the rule is about a path that :func:`normalize_path` and :func:`escape_special` have prepared."""
        anchored = self.pattern.endswith("$")
        body = self.pattern[:-1] if anchored else self.pattern
        return _matches(body.replace("$", "%24"), anchored, path)

    def __str__(self) -> str:
        return f"{'Allow' if self.allow else 'Disallow'}: {self.path}"


@dataclass(frozen=True, slots=True)
class UnreadLine:
    """A line that neither the standard nor a common extension knows."""

    number: int
    text: str


@dataclass(frozen=True, slots=True)
class Verdict:
    """Whether an agent may fetch a URL, and the rule that said so (``None``: no rule matched)."""

    allowed: bool
    rule: Rule | None

    @property
    def words(self) -> str:
        """The rule that blocks the URL and its line; empty when it is allowed."""
        return f"{self.rule} (line {self.rule.line})" if self.rule and not self.allowed else ""


@dataclass(frozen=True)
class RobotsTxt:
    """A parsed robots.txt. ``groups`` maps lower-case product tokens (and ``*``) to their merged rules."""

    groups: dict[str, tuple[Rule, ...]] = field(default_factory=dict)
    delays: dict[str, float] = field(default_factory=dict)
    sitemaps: tuple[str, ...] = ()
    unread: tuple[UnreadLine, ...] = ()
    orphans: tuple[Rule, ...] = ()
    text: str = ""
    size_bytes: int = 0

    def allows(self, agent: str, url: str) -> bool:
        """Whether ``agent`` (a product token, or a whole User-Agent text) may fetch ``url``."""
        return self.verdict(agent, url).allowed

    def verdict(self, agent: str, url: str) -> Verdict:
        """Like :meth:`allows`, with the rule that decided."""
        path = _path_of(url)
        if path == "/robots.txt":
            return Verdict(True, None)
        path = escape_special(path)
        best: Rule | None = None
        for rule in self._rules_for(agent):
            longer = best is None or len(rule.pattern) > len(best.pattern)
            tie = best is not None and len(rule.pattern) == len(best.pattern) and rule.allow and not best.allow
            if (longer or tie) and rule.matches(path):
                best = rule
        return Verdict(best is None or best.allow, best)

    def crawl_delay(self, agent: str) -> float | None:
        """Seconds between requests that the group of ``agent`` asks for (a common extension), or ``None``."""
        return self.delays.get(self._group_key(agent))

    def _group_key(self, agent: str) -> str:
        token = product_token(agent)
        return token if token in self.groups else "*"

    def _rules_for(self, agent: str) -> tuple[Rule, ...]:
        return self.groups.get(self._group_key(agent), ())


def product_token(agent: str) -> str:
    """The product token at the start of a User-Agent text, in lower case (RFC 9309, 2.2.1)."""
    found = _TOKEN.match(agent.strip())
    return found.group().lower() if found else agent.strip().lower()


def parse(body: bytes) -> RobotsTxt:
    """Read a robots.txt. Never fails: what cannot be read is listed in ``unread``."""
    text = _whole_lines(body).decode("utf-8", "replace").removeprefix("\ufeff")
    groups: dict[str, list[Rule]] = {}
    delays: dict[str, float] = {}
    sitemaps: list[str] = []
    unread: list[UnreadLine] = []
    orphans: list[Rule] = []
    current: list[str] = []
    in_rules = False
    for number, raw in enumerate(_LINES.split(text), 1):
        line = raw.partition("#")[0].strip(" \t\ufeff\x00")
        if not line:
            continue
        key, colon, value = line.partition(":")
        key, value = key.strip().lower(), value.strip()
        if not colon:
            unread.append(UnreadLine(number, raw.strip()[:200]))
        elif key == "user-agent":
            if in_rules:
                current, in_rules = [], False
            token = "*" if value.split()[:1] == ["*"] else product_token(value)
            current.append(token)
            groups.setdefault(token, [])
        elif key in ("allow", "disallow"):
            rule = Rule(key == "allow", value, number, normalize_path(value))
            in_rules = bool(current)
            if not current:
                orphans.append(rule)
            elif value:
                for token in current:
                    groups[token].append(rule)
        elif key == "sitemap":
            if value:
                sitemaps.append(value)
        elif key == "crawl-delay":
            seconds = _seconds(value)
            if seconds is None:
                unread.append(UnreadLine(number, raw.strip()[:200]))
            for token in current:
                if seconds is not None:
                    delays.setdefault(token, seconds)
        elif key not in _OTHER_KEYS:
            unread.append(UnreadLine(number, raw.strip()[:200]))
    return RobotsTxt(
        {token: tuple(rules) for token, rules in groups.items()},
        delays,
        tuple(dict.fromkeys(sitemaps)),
        tuple(unread),
        tuple(orphans),
        text,
        len(body),
    )


def _whole_lines(body: bytes) -> bytes:
    """What is read of a file: a line that the limit cuts in two is left out, because half a rule is another rule."""
    if len(body) <= READ_LIMIT_BYTES:
        return body
    read = body[:READ_LIMIT_BYTES]
    return read[: max(read.rfind(b"\n"), read.rfind(b"\r")) + 1]


def escape_special(path: str) -> str:
    """A path with ``*`` and ``$`` escaped, so that ``%2A`` and ``%24`` in a rule mean just them (RFC 9309, 2.2.3)."""
    return path.replace("*", "%2A").replace("$", "%24")


def normalize_path(path: str) -> str:
    """A path or pattern in the form that is compared (RFC 9309, 2.2.2).

    Octets outside ASCII and characters that no URI holds are percent-encoded, escapes of unreserved characters are undone,
    the others get upper-case hexadecimal digits.
    """
    if _PLAIN.fullmatch(path):
        return path
    encoded = "".join(
        c if " " < c < "\x7f" and c not in _NEVER_RAW else "".join(f"%{b:02X}" for b in c.encode("utf-8", "replace"))
        for c in path
    )
    return _ESCAPE.sub(_unescape, encoded)


def _unescape(found: re.Match[str]) -> str:
    char = chr(int(found.group(1), 16))
    return char if char in _UNRESERVED else f"%{found.group(1).upper()}"


def _path_of(url: str) -> str:
    """Path and query of a URL, or of a path alone, as they are compared."""
    rest = url.partition("#")[0]
    if _SCHEME.match(rest):
        rest = rest.partition("://")[2]
        rest = rest[min((i for i in (rest.find("/"), rest.find("?")) if i >= 0), default=len(rest)) :]
    return normalize_path(rest if rest.startswith("/") else "/" + rest)


def _seconds(value: str) -> float | None:
    try:
        seconds = float(value)
    except ValueError:
        return None
    return seconds if 0 <= seconds < 1e6 else None


def _matches(pattern: str, anchored: bool, path: str) -> bool:
    """Whether a pattern with ``*`` matches the beginning of a path, or (``anchored``) all of it.

    The parts between the stars are sought from the left, each as early as possible: linear in the path for every part,
    whatever a site writes into its robots.txt.
    """
    parts = pattern.split("*")
    if not path.startswith(parts[0]):
        return False
    at = len(parts[0])
    if len(parts) == 1:
        return not anchored or at == len(path)
    for part in parts[1:-1]:
        found = path.find(part, at)
        if found < 0:
            return False
        at = found + len(part)
    last = parts[-1]
    if anchored:
        return len(path) - len(last) >= at and path.endswith(last)
    return path.find(last, at) >= 0
