"""What waivers would do to a run before they are made."""

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
from hodcarrier.runfile.scores import ScoredRun


@dataclass(frozen=True)
class WhatIf:
    """The open findings that waivers cover, on how many URLs they are, and the health without them as it would be shown."""

    prints: list[bytes]
    subjects: int
    health: float | None


def if_waived(run: RunFile, waivers: Sequence[Waiver]) -> WhatIf:
    """What these waivers would cover, beside those that hold already. Health is computed from the counts of every page, so it is exact."""
    named = [named_now(waiver, load().current) for waiver in waivers]
    checks = sorted({waiver.check for waiver in named})
    rows = run.rows(
        f"SELECT id, check_id, subject, fingerprint FROM finding WHERE check_id IN ({','.join('?' * len(checks))}) AND waived = 0",
        *checks,
    )
    found = [(number, subject, key) for number, check, subject, key in rows if covered(named, check, subject, key)]
    columns = Columns.read(run)
    waived = columns.waived.copy()
    waived[[number for number, _, _ in found]] = True
    scored = ScoredRun.read(run, replace(columns, waived=waived))
    page, check_of, severity, _ = scored.faults(np.arange(len(scored.urls)))
    health = Health(len(scored.urls))
    health.add(Faults(health.pages, page, check_of, severity))
    shown = None if health.value is None else as_shown(health.value, "points")
    return WhatIf([key for _, _, key in found], len({subject for _, subject, _ in found}), shown)


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
