"""Settings of a plan that reach into the agency's own network: only an owner may set them, or the operator for all."""

from __future__ import annotations

from typing import Any

from hodcarrier.core.permissions import OWNERS, Extent
from hodcarrier.core.plan import Plan, plan_values
from hodcarrier.register.models import Member
from hodcarrier.service.guard import require
from hodcarrier.service.settings import Settings

FOR_OWNERS = ("private_addresses", "host_map", "ca_file")


def may_set(settings: Settings, member: Member) -> bool:
    """Whether a member may set them."""
    return settings.allow_private or OWNERS.of(member.role) != Extent.NONE


def check_surroundings(settings: Settings, member: Member, values: dict[str, Any], now: Plan | None = None) -> None:
    """Raise :class:`NotAllowed` when somebody else sets them. Sending back what is set already is open to everybody."""
    current = plan_values(now) if now is not None else {}
    changed = any(values.get(name) and values.get(name) != current.get(name) for name in FOR_OWNERS)
    if changed and not settings.allow_private:
        require(member, OWNERS, "Reaching private hosts")
