"""What a run's health would be without some of its findings: waived, or fixed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from hodcarrier.core.catalogue import load
from hodcarrier.core.judge.health import Faults, Health
from hodcarrier.core.judge.waivers import Waiver, covered, named_now
from hodcarrier.core.words import as_shown
from hodcarrier.runfile.prints import Columns
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.results import in_parts
from hodcarrier.runfile.scores import ScoredRun


@dataclass(frozen=True)
class WhatIf:
    """The open findings that waivers cover, on how many URLs they are, and the health without them as it would be shown."""

    prints: list[bytes]
    subjects: int
    health: float | None


class WhatIfRun:
    """A run of which it is asked what health would be without some of its findings. Reading it takes most of the time: ask all there is to ask."""

    def __init__(self, run: RunFile) -> None:
        self._run = run
        self._columns = Columns.read(run)
        self._scored = ScoredRun.read(run, self._columns)
        self.health = self.without([])

    def without(self, findings: Sequence[int]) -> float | None:
        """Health, in full precision, without some findings."""
        waived = self._columns.waived.copy()
        waived[list(findings)] = True
        scored = replace(self._scored, columns=replace(self._columns, waived=waived))
        page, check_of, severity, _ = scored.faults(np.arange(len(scored.urls)))
        health = Health(len(scored.urls))
        health.add(Faults(health.pages, page, check_of, severity))
        return health.value

    def shown(self, findings: Sequence[int]) -> float | None:
        """Health without some findings, as it is shown."""
        value = self.without(findings)
        return None if value is None else as_shown(value, "points")

    def gain(self, prints: Sequence[bytes]) -> float | None:
        """What health would rise by if the open findings among these fingerprints passed, in points; ``None`` when the run has no health."""
        findings: list[int] = []
        for part in in_parts(prints):
            marks = ",".join("?" * len(part))
            findings += [
                n for (n,) in self._run.rows(f"SELECT id FROM finding WHERE fingerprint IN ({marks}) AND waived = 0", *part)
            ]
        if self.health is None or not findings:
            return None if self.health is None else 0.0
        after = self.without(findings)
        return None if after is None else after - self.health


@dataclass(frozen=True)
class Fixed:
    """How many open findings some checks and causes have, on how many URLs, and the health with and without them, in full precision."""

    findings: int
    subjects: int
    health: float | None
    health_after: float | None


def if_fixed(run: RunFile, checks: Sequence[str], causes: Sequence[int]) -> Fixed:
    """What a run's health would be if some checks and causes passed. Health is computed from the counts of every page, so it is exact."""
    chosen: dict[int, str] = {}
    for column, values in (("check_id", list(checks)), ("cause_id", list(causes))):
        for value in values:
            chosen.update(run.rows(f"SELECT id, subject FROM finding WHERE {column} = ? AND waived = 0", value))
    what_if = WhatIfRun(run)
    after = what_if.without(list(chosen)) if chosen else what_if.health
    return Fixed(len(chosen), len(set(chosen.values())), what_if.health, after)


def if_waived(run: RunFile, waivers: Sequence[Waiver]) -> WhatIf:
    """What these waivers would cover, beside those that hold already. Health is computed from the counts of every page, so it is exact."""
    named = [named_now(waiver, load().current) for waiver in waivers]
    checks = sorted({waiver.check for waiver in named})
    rows = run.rows(
        f"SELECT id, check_id, subject, fingerprint FROM finding WHERE check_id IN ({','.join('?' * len(checks))}) AND waived = 0",
        *checks,
    )
    found = [(number, subject, key) for number, check, subject, key in rows if covered(named, check, subject, key)]
    health = WhatIfRun(run).shown([number for number, _, _ in found])
    return WhatIf([key for _, _, key in found], len({subject for _, subject, _ in found}), health)


def covers(run: RunFile, waivers: Sequence[Waiver]) -> list[int]:
    """How many findings of a run each waiver covers, whether it is in force or not."""
    named = [named_now(waiver, load().current) for waiver in waivers]
    checks = sorted({waiver.check for waiver in named})
    counts = [0] * len(named)
    sql = f"SELECT check_id, subject, fingerprint FROM finding WHERE check_id IN ({','.join('?' * len(checks))})"
    for check, subject, key in run.each(sql, *checks):
        for place, waiver in enumerate(named):
            counts[place] += waiver.covers(check, subject, key)
    return counts
