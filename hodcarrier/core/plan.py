"""A plan: how one site is crawled and judged. Defaults make an address enough."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, fields, replace
from typing import Any
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import msgspec

from hodcarrier.core.errors import InvalidPlan, InvalidUrl
from hodcarrier.core.states import Appearance, Severity
from hodcarrier.core.stored import Format
from hodcarrier.core.web.patterns import compile_pattern
from hodcarrier.core.web.permits import ALL_PRIVATE, read_permit
from hodcarrier.core.web.urls import read_address, split

AGENT = "HodcarrierBot/1.0 (+https://hodcarrier.example/bot)"
APPEARANCES = {
    Appearance.DESKTOP: "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0.0.0 Safari/537.36",
    Appearance.PHONE: "Mozilla/5.0 (Linux; Android 15) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0.0.0 Mobile Safari/537.36",
}
LIST_MAX = 50_000


@dataclass(frozen=True)
class SeverityChange:
    """Another severity for a check than the catalogue gives it, and why."""

    severity: Severity
    reason: str


@dataclass(frozen=True)
class Plan:
    """All settings of a crawl.

    Units: ``rate_per_s`` requests per second and host, ``parallel`` requests at once and host, ``bytes_max`` bytes of
    one decoded answer, ``answer_timeout_s`` and ``time_max_s`` seconds. ``host_map`` sends ``host:port`` to
    ``address:port``; ``private_addresses`` are addresses and ranges inside that the site's own hosts may lead to; ``thresholds`` overrides limits of checks by their names, ``severities`` the severities of checks by their ids. ``profile`` names the profile
    (:mod:`hodcarrier.core.profile`); the plan of a run has what the profile says among its own settings.
    """

    start: tuple[str, ...] = ()
    subdomains: bool = False
    path_prefix: str = ""
    include: tuple[str, ...] = ()
    exclude: tuple[str, ...] = ()
    use_links: bool = True
    use_sitemaps: bool = True
    sitemaps: tuple[str, ...] = ()
    addresses: tuple[str, ...] = ()
    check_files: bool = True
    check_external: bool = True
    pages_max: int = 10_000
    depth_max: int = 50
    time_max_s: int = 4 * 3600
    bytes_max: int = 20 * 1024 * 1024
    url_chars_max: int = 2048
    pattern_pages_max: int = 20_000
    query_pages_max: int = 1_000
    answer_timeout_s: float = 20.0
    rate_per_s: float = 5.0
    parallel: int = 4
    adaptive: bool = True
    obey_crawl_delay: bool = True
    appearance: Appearance = Appearance.OWN
    agent: str = AGENT
    robots_token: str = "HodcarrierBot"
    obey_robots: bool = True
    obey_nofollow: bool = True
    obey_noindex: bool = True
    obey_canonical: bool = True
    drop_parameters: tuple[str, ...] = ()
    keep_parameters: tuple[str, ...] = ()
    thresholds: dict[str, float] = field(default_factory=dict)
    checks_off: tuple[str, ...] = ()
    severities: dict[str, SeverityChange] = field(default_factory=dict)
    profile: str = ""
    expected: tuple[str, ...] = ()
    host_map: dict[str, str] = field(default_factory=dict)
    private_addresses: tuple[str, ...] = ()
    ca_file: str = ""
    time_zone: str = "UTC"

    @property
    def user_agent(self) -> str:
        """The ``User-Agent`` header that is sent: ``agent``, unless the crawl appears as a browser."""
        return APPEARANCES.get(self.appearance, self.agent)

    @property
    def host(self) -> str:
        """The host (with a port that is not the default) of the first start address."""
        parts = split(self.start[0])
        return parts.host if parts.port in (80, 443) else f"{parts.host}:{parts.port}"


FIELDS: tuple[str, ...] = tuple(f.name for f in fields(Plan))
# The settings that say how the facts of a crawl are judged; all others decide what is fetched.
JUDGING = ("obey_noindex", "obey_canonical", "thresholds", "checks_off", "severities")


def _without_unknown(values: dict[str, Any]) -> dict[str, Any]:
    """Plans that were stored before they had a version may hold settings that are no longer there."""
    return {name: value for name, value in values.items() if name in (*FIELDS, "allow_private")}


def _with_ranges(values: dict[str, Any]) -> dict[str, Any]:
    """The permission for private addresses was one for all of them."""
    allowed = {"private_addresses": ALL_PRIVATE} if values.get("allow_private") else {}
    return {**{name: value for name, value in values.items() if name != "allow_private"}, **allowed}


STORED = Format(Plan, "plan", 2, {0: _without_unknown, 1: _with_ranges})


def read_stored_plan(stored: dict[str, Any]) -> Plan:
    """A plan as it was stored by this release or an older one; settings that came later have their defaults. It was checked when
    it was given, so ranges that changed since do not make it unreadable. Raises :class:`DamagedRecord`."""
    return STORED.load(stored)


# Of each figure: the least, the most, its unit.
RANGES: dict[str, tuple[float, float, str]] = {
    "pages_max": (1, 5_000_000, "pages"),
    "depth_max": (0, 10_000, "clicks"),
    "time_max_s": (10, 7 * 24 * 3600, "seconds"),
    "bytes_max": (10_000, 500 * 1024 * 1024, "bytes"),
    "url_chars_max": (100, 100_000, "characters"),
    "pattern_pages_max": (1, 5_000_000, "pages"),
    "query_pages_max": (1, 5_000_000, "pages"),
    "answer_timeout_s": (0.5, 300, "seconds"),
    "rate_per_s": (0.01, 1000, "requests per second"),
    "parallel": (1, 64, "requests at once"),
}


def read_plan(values: dict[str, Any]) -> Plan:
    """A plan from plain values, each checked. Raises :class:`InvalidPlan` naming the field and its range."""
    unknown = sorted(set(values) - set(FIELDS))
    if unknown:
        raise InvalidPlan(
            f"The plan cannot be used: there is no setting “{unknown[0]}”.", "See `hodcarrier plan explain`.", unknown[0]
        )
    if (appearance := values.get("appearance", Appearance.OWN)) not in tuple(Appearance):
        raise InvalidPlan(f"There is no appearance “{appearance}”.", f"Choose {', '.join(Appearance)}.", "appearance")
    try:
        plan = msgspec.convert(values, Plan, strict=False)
    except msgspec.ValidationError as error:
        raise InvalidPlan(f"The plan cannot be used: {error}.", "Correct that value and save again.") from None
    if not plan.start:
        raise InvalidPlan("The plan has no start address.", "Give the address where the crawl begins.", "start")
    starts, sitemaps, addresses = (_read_addresses(name, getattr(plan, name)) for name in ("start", "sitemaps", "addresses"))
    for name, (low, high, unit) in RANGES.items():
        value = getattr(plan, name)
        if not low <= value <= high:
            raise InvalidPlan(f"{name} is {value:g}.", f"Give {low:g} to {high:g} {unit}.", name)
    if plan.path_prefix and not plan.path_prefix.startswith("/"):
        raise InvalidPlan(f"path_prefix “{plan.path_prefix}” is not a path.", "Begin it with a slash.", "path_prefix")
    if not plan.robots_token.replace("-", "").replace("_", "").isalpha():
        raise InvalidPlan(
            f"robots_token “{plan.robots_token}” is not a product token.", "Use letters, - and _ only (RFC 9309).", "robots_token"
        )
    if plan.drop_parameters and plan.keep_parameters:
        raise InvalidPlan("Parameters are both dropped and kept.", "Name those to drop, or those to keep.", "keep_parameters")
    check_patterns(plan)
    check_rules(plan.thresholds, plan.severities)
    if not (plan.agent.isascii() and plan.agent.isprintable()):
        raise InvalidPlan("agent holds characters that no header may carry.", "Use plain ASCII on one line.", "agent")
    try:
        ZoneInfo(plan.time_zone)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise InvalidPlan(f"“{plan.time_zone}” is no time zone.", "Give one such as Europe/London.", "time_zone") from None
    for source, target in plan.host_map.items():
        host, _, port = target.rpartition(":")
        if not host or not port.isdigit() or ":" not in source:
            raise InvalidPlan(f"host_map “{source}={target}” cannot be read.", "Write host:port=address:port.", "host_map")
    for text in plan.private_addresses:
        try:
            read_permit(text)
        except ValueError:
            raise InvalidPlan(
                f"“{text}” is no address or range.", "Write 127.0.0.1:8080, 10.1.0.0/16 or [fd00::1]:8080.", "private_addresses"
            ) from None
    return replace(plan, start=starts, sitemaps=sitemaps, addresses=addresses)


def _read_addresses(name: str, given: tuple[str, ...]) -> tuple[str, ...]:
    if len(given) > LIST_MAX:
        raise InvalidPlan(f"{name} holds {len(given):,} addresses.", f"Give {LIST_MAX:,} at most.", name)
    try:
        return tuple(dict.fromkeys(read_address(address) for address in given))
    except InvalidUrl as error:
        raise InvalidPlan(error.message, error.hint, name) from None


def check_rules(thresholds: Mapping[str, float], severities: Mapping[str, SeverityChange]) -> None:
    """Raise :class:`InvalidPlan` for a limit that is none, or a severity that is changed without a reason."""
    for name, value in thresholds.items():
        if not 0 <= value < math.inf:
            raise InvalidPlan(f"The limit {name} is {value:g}.", "Give a number, 0 or more.", "thresholds")
    for check, change in severities.items():
        if not change.reason.strip():
            raise InvalidPlan(
                f"The severity of {check} is changed without a reason.",
                "Add the reason, so that others can follow it.",
                "severities",
            )


def check_patterns(plan: Plan) -> None:
    """Raise :class:`InvalidPlan` naming the first pattern that cannot be read."""
    for name in ("include", "exclude"):
        for pattern in getattr(plan, name):
            try:
                compile_pattern(pattern)
            except InvalidPlan as error:
                raise InvalidPlan(error.message, error.hint, name) from None


def plan_values(plan: Plan) -> dict[str, Any]:
    """The plan as plain values, ready for JSON or TOML."""
    values: dict[str, Any] = msgspec.to_builtins(plan)
    return values


def differences(base: Plan, head: Plan) -> list[tuple[str, str, str]]:
    """Settings that differ between two plans: (name, base value, head value) in words, in the order of the fields."""
    return [
        (name, _in_words(getattr(base, name)), _in_words(getattr(head, name)))
        for name in FIELDS
        if name != "host_map" and getattr(base, name) != getattr(head, name)
    ]


def _in_words(value: object) -> str:
    """The value of a setting as a person reads it."""
    if isinstance(value, bool):
        return "on" if value else "off"
    if isinstance(value, SeverityChange):
        return f"{value.severity} ({value.reason})"
    if isinstance(value, dict):
        return ", ".join(f"{name} {_in_words(each)}" for name, each in value.items()) or "none"
    if isinstance(value, tuple):
        return ", ".join(map(_in_words, value)) or "none"
    return f"{value:,.10g}" if isinstance(value, (int, float)) else str(value) or "none"
