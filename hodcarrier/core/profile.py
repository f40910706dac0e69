"""A profile: checks switched off, limits and severities that several sites share under a name. A site's own settings win over it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from hodcarrier.core.plan import Plan, SeverityChange
from hodcarrier.core.stored import Format


@dataclass(frozen=True)
class Rules:
    """What a profile says: ids of checks that are switched off, limits by their names, severities by the ids of checks."""

    checks_off: tuple[str, ...] = ()
    thresholds: Mapping[str, float] = field(default_factory=dict)
    severities: Mapping[str, SeverityChange] = field(default_factory=dict)


RULES = Format(Rules, "profile")


def under(plan: Plan, name: str, rules: Rules) -> Plan:
    """The plan as a run uses it, with what the profile called ``name`` says. Checks are off where either switches them off."""
    return replace(
        plan,
        profile=name,
        checks_off=tuple(dict.fromkeys((*rules.checks_off, *plan.checks_off))),
        thresholds={**rules.thresholds, **plan.thresholds},
        severities={**rules.severities, **plan.severities},
    )
