"""A stand-in for a registry of domains (RDAP: RFC 9082, 9083): it knows those of the demo's clients, and sends on to another server for one of them."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from typing import Any

from aiohttp import web

REGISTRY_HOST = "registry.example"
# By domain: registered in which year, through whom, and how many days from now the registration ends.
DOMAINS = {
    "tidewrack.example": (2009, "Anchor Names Ltd", 212),
    "pellow-kiln.example": (2016, "Foundry Registrations", 301),
    "ardmoor-seeds.example": (2004, "Anchor Names Ltd", 24),
}
SENT_ON = "pellow-kiln.example"


def answer(request: web.Request) -> web.Response:
    """One answer."""
    asked, _, name = request.path.strip("/").rpartition("/")
    if name not in DOMAINS or asked not in ("domain", "elsewhere/domain"):
        return web.json_response({"errorCode": 404, "title": "Not found"}, status=404, content_type="application/rdap+json")
    if name == SENT_ON and asked == "domain":
        return web.Response(status=302, headers={"Location": f"https://{REGISTRY_HOST}/elsewhere/domain/{name}"})
    return web.json_response(described(name, datetime.now(UTC).date()), content_type="application/rdap+json")


def described(name: str, today: date) -> dict[str, Any]:
    """A domain as the registry describes it."""
    year, registrar, days = DOMAINS[name]
    return {
        "objectClassName": "domain",
        "rdapConformance": ["rdap_level_0"],
        "ldhName": name.upper(),
        "status": ["active"],
        "events": [
            {"eventAction": "registration", "eventDate": f"{year}-03-09T10:12:00Z"},
            {"eventAction": "expiration", "eventDate": f"{today + timedelta(days=days)}T10:12:00Z"},
        ],
        "nameservers": [
            {"objectClassName": "nameserver", "ldhName": f"{which}.anchor-names.example"} for which in ("NS1", "NS2")
        ],
        "entities": [
            {
                "objectClassName": "entity",
                "roles": ["registrar"],
                "handle": "1041",
                "vcardArray": ["vcard", [["version", {}, "text", "4.0"], ["fn", {}, "text", registrar]]],
            }
        ],
    }
