"""The values of a report: gathered when it is made, kept with it, and drawn by whatever there is to draw them when it is read.

They are stored, so they are typed and versioned (:mod:`hodcarrier.core.stored`). The facts of a section are those of its kind in
:mod:`hodcarrier.report.sections`; what an older report lacks gets its usual value there.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from hodcarrier.core.states import SectionKind, Typeface
from hodcarrier.core.stored import Format


@dataclass(frozen=True)
class Brand:
    """How a report looks: the colour (``#rrggbb``, empty for the usual one), the typeface, words for the foot of every page, and the numbers of the logos."""

    colour: str = ""
    typeface: Typeface = Typeface.SANS
    footer: str = ""
    agency_logo: int | None = None
    client_logo: int | None = None


@dataclass(frozen=True)
class SectionValues:
    """A section: its kind, its title (empty for the usual one), the words of the editor in Markdown, and its facts. ``key`` tells it from others of its kind."""

    kind: SectionKind
    title: str = ""
    note: str = ""
    facts: dict[str, Any] = field(default_factory=dict)
    key: str = ""


@dataclass(frozen=True)
class ReportValues:
    """Everything a report shows. Days are ISO 8601. ``language`` is a code of :mod:`hodcarrier.report.language`. ``figures`` and the numbers of the to-dos in ``hand`` are
    what the next report is compared with."""

    title: str
    agency: str
    client: str
    host: str
    from_day: str
    to_day: str
    made: str
    language: str = "en"
    brand: Brand = Brand()
    sections: list[SectionValues] = field(default_factory=list)
    figures: dict[str, float] = field(default_factory=dict)
    hand: list[int] = field(default_factory=list)


def _lift_0(values: dict[str, Any]) -> dict[str, Any]:
    """Before there was a version, the span was ``from`` and ``to``."""
    days = {"from_day": values["from"], "to_day": values["to"]}
    return {**{k: v for k, v in values.items() if k not in ("from", "to")}, **days}


def _lift_1(values: dict[str, Any]) -> dict[str, Any]:
    """Before there were sections, a report had always the same ones."""
    counts, standing = values["counts"], values.get("standing")
    month = {
        "health": values["health"],
        "health_before": values["health_before"],
        "before_day": values["before_day"],
        "fixed": counts.get("fixed", 0),
        "new": counts.get("new", 0),
        "done": len(values["fixed"]),
        "hand": len(values["in_hand"]),
        "hand_dated": sum(1 for each in values["in_hand"] if each["due"]),
    }
    if standing:
        told = standing["sentences"]
        month |= {"lead": len(told["lead"]), "trail": len(told["trail"]), "competitors": len(standing["hosts"]) - 1}
    health = {
        **{key: values[key] for key in ("health", "health_before", "before_day", "pages", "trend", "remarks")},
        "line": [{"day": each["day"], "value": each["health"]} for each in values["line"]],
    }
    explained = [{**each, "check": ""} | {"title": each["summary"]} for each in values["appendix"]]
    facts: dict[SectionKind, dict[str, Any]] = {
        SectionKind.COVER: {},
        SectionKind.MONTH: month,
        SectionKind.HEALTH: health,
        SectionKind.DONE: {
            "items": [{"title": each["title"], "places": each["places"], "day": each["closed"]} for each in values["fixed"]]
        },
        SectionKind.HAND: {"items": [{**each, "day": each["due"]} for each in values["in_hand"]]},
        SectionKind.BENCHMARK: {**standing, "rows": [{**row, "id": ""} for row in standing["rows"]]} if standing else {},
        SectionKind.NEXT: {
            "items": [
                {"title": each["summary"], "severity": each["severity"], "places": each["findings"], "gain": each["gain"]}
                for each in values["next"]
            ]
        },
        SectionKind.AREAS: {"areas": [{**each, "area": ""} for each in values["areas"]]},
        SectionKind.APPENDIX: {"faults": explained},
    }
    sections = [{"kind": kind.value, "facts": found, "key": kind.value} for kind, found in facts.items()]
    sections[1]["note"] = values["note"]
    figures = {"health": values["health"]} if values["health"] is not None else {}
    kept = ("title", "agency", "client", "host", "from_day", "to_day", "made")
    return {
        **{key: values[key] for key in kept},
        "brand": {"colour": values.get("colour", "")},
        "sections": sections,
        "figures": figures,
    }


STORED = Format(ReportValues, "report", 2, {0: _lift_0, 1: _lift_1})
