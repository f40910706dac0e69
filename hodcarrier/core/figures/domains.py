"""Domains as registries describe them: answers of the Registration Data Access Protocol (RFC 9082, 9083), and what they mean for a site."""

from __future__ import annotations

import ipaddress
import json
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.words import fill

# A domain that ends within this is to be renewed now: registrars take some days, and a payment that fails is noticed in time.
SOON_DAYS = 30
_LABELS_MAX = 127


@dataclass(frozen=True)
class DomainFacts:
    """What a registry says of a domain: who registered it for its holder, since when and until when, and its name servers in the order of the alphabet."""

    domain: str
    registrar: str = ""
    created: date | None = None
    expires: date | None = None
    name_servers: tuple[str, ...] = ()


def candidates(host: str) -> list[str]:
    """The names to ask a registry for, the longest first: it knows the one that is registered, and of the others nothing. Empty for addresses and single labels."""
    name = host.partition(":")[0].strip("[]").rstrip(".").lower()
    try:
        ipaddress.ip_address(name)
    except ValueError:
        labels = name.removeprefix("www.").split(".")[-_LABELS_MAX:]
        return [".".join(labels[n:]) for n in range(len(labels) - 1)]
    return []


def read_domain(text: str) -> DomainFacts:
    """A domain from the answer of a registry (RFC 9083, 5.3). Raises :class:`InvalidInput` for what is none."""
    try:
        data = json.loads(text)
    except (ValueError, RecursionError):
        data = None
    if not isinstance(data, dict) or data.get("objectClassName") != "domain" or not isinstance(data.get("ldhName"), str):
        raise InvalidInput("The registry's answer describes no domain.", "See that the address of the registry is right.")
    events = {each.get("eventAction"): each.get("eventDate") for each in _objects(data, "events")}
    servers = {
        each["ldhName"].lower().rstrip(".") for each in _objects(data, "nameservers") if isinstance(each.get("ldhName"), str)
    }
    return DomainFacts(
        data["ldhName"].lower().rstrip("."),
        _registrar(data),
        _day(events.get("registration")),
        _day(events.get("expiration")),
        tuple(sorted(servers)),
    )


def _objects(data: Mapping[str, Any], name: str) -> list[Mapping[str, Any]]:
    found = data.get(name)
    return [each for each in found if isinstance(each, dict)] if isinstance(found, list) else []


def _registrar(data: Mapping[str, Any]) -> str:
    """The name of the entity with the role of registrar, out of its card (jCard, RFC 7095)."""
    for entity in _objects(data, "entities"):
        if "registrar" not in (entity.get("roles") or ()):
            continue
        card = entity.get("vcardArray")
        for line in card[1] if isinstance(card, list) and len(card) > 1 and isinstance(card[1], list) else ():
            if isinstance(line, list) and len(line) > 3 and line[0] == "fn" and isinstance(line[3], str):
                return line[3].strip()[:300]
        return str(entity.get("handle") or "")[:300]
    return ""


def _day(value: object) -> date | None:
    """The day of a moment (RFC 3339)."""
    try:
        return datetime.fromisoformat(value).date() if isinstance(value, str) else None
    except ValueError:
        return None


def ends_soon(expires: date | None, today: date) -> bool:
    """Whether a domain is to be renewed now, or has ended."""
    return expires is not None and (expires - today).days <= SOON_DAYS


def ends_words(expires: date, today: date) -> str:
    """When a registration ends: ``ends on 3 January 2027, in 32 days``."""
    day = f"{expires.day} {expires:%B %Y}"
    days = (expires - today).days
    if days < 0:
        return f"ended on {day}"
    return f"ends today, {day}" if days == 0 else f"ends on {day}, in {fill('{n:day}', {'n': days})}"


def domain_sentence(facts: DomainFacts, today: date) -> str:
    """A domain in a sentence: since when it is registered, with whom, and until when."""
    day = facts.created
    since = f"has been registered since {day.day} {day:%B %Y}" if day is not None else "is registered"
    by = f" through {facts.registrar}" if facts.registrar else ""
    until = f"; the registration {ends_words(facts.expires, today)}" if facts.expires is not None else ""
    return f"{facts.domain} {since}{by}{until}."
