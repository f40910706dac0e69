"""The work list of a site for a developer: what to fix, where, and how, check by check in the order of work, as Markdown or as a page."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache

from jinja2 import Environment

from hodcarrier.core.states import Effort, Severity
from hodcarrier.report.templating import make_environment


@dataclass(frozen=True)
class WorkPlace:
    """A place with the element as written and mended, where these can be shown; ``at`` is its line in words, empty where it stands at none."""

    subject: str
    message: str
    at: str
    selector: str
    before: str
    after: str


@dataclass(frozen=True)
class WorkCause:
    """A cause with some of its places; ``more`` are not told."""

    line: str
    findings: int
    places: Sequence[WorkPlace]
    more: int


@dataclass(frozen=True)
class WorkCheck:
    """A check with its causes; ``more`` are not told. ``gain`` is in words."""

    check: str
    summary: str
    severity: Severity
    effort: Effort
    findings: int
    gain: str
    why: str
    fix: str
    standard: str
    causes: Sequence[WorkCause]
    more: int


@dataclass(frozen=True)
class Worklist:
    """What is on the list. ``health`` is in words, empty where there is none."""

    host: str
    run_at: datetime
    health: str
    checks: Sequence[WorkCheck]


@lru_cache(maxsize=1)
def _environment() -> Environment:
    return make_environment({"day": lambda day: f"{day:%a} {day.day} {day:%b %Y}"})


def draw_worklist(found: Worklist) -> str:
    """The list as a page of its own, with the code as it is and as it should be."""
    return _environment().get_template("worklist.html").render(w=found)


def write_worklist(found: Worklist) -> str:
    """The list in Markdown (CommonMark), with a box to tick at every cause."""
    lines = [f"# Fixes for {found.host}", "", f"Audit of {found.run_at:%Y-%m-%d}." + (f" {found.health}" if found.health else "")]
    if not found.checks:
        lines += ["", "Nothing to fix: all checks pass."]
    for check in found.checks:
        lines += ["", f"## {_plain(check.summary)}", ""]
        lines += [f"{check.severity.capitalize()}, {check.effort} effort for each cause; worth {check.gain}.", ""]
        lines += [_plain(check.why), "", f"**Fix:** {_plain(check.fix)}", "", f"Based on {_plain(check.standard)}", ""]
        for cause in check.causes:
            lines.append(f"- [ ] {_plain(cause.line)}")
            for place in cause.places:
                where = f", {place.at}" if place.at else ""
                lines.append(f"  - {_plain(place.subject)}{where}: {_plain(place.message)}")
                if place.selector:
                    lines.append(f"    `{_code(place.selector)}`")
                for code, sign in ((place.before, "-"), (place.after, "+")):
                    if code:
                        lines += ["", *_fenced(code, sign), ""]
            if cause.more:
                lines.append(f"  - and {cause.more:,} more places")
        if check.more:
            lines += ["", f"And {check.more:,} more causes."]
    return "\n".join(lines) + "\n"


def _plain(text: str) -> str:
    """A text on one line in which nothing is taken for markup."""
    return re.sub(r"([\\`*_\[\]<>#|])", r"\\\1", " ".join(text.split()))


def _code(text: str) -> str:
    return " ".join(text.split()).replace("`", "'")


def _fenced(code: str, sign: str) -> list[str]:
    """Code as the lines of a difference, in a fence that is longer than any in it."""
    fence = "`" * max(3, 1 + max(map(len, re.findall("`+", code)), default=0))
    return [f"    {fence}diff", *(f"    {sign} {line}" for line in code.splitlines()), f"    {fence}"]
