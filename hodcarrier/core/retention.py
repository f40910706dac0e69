"""Which run files are kept: all of the last weeks, then one a month, and always those that something else stands on."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

# The last runs of a site: the next one is compared with the latest, and people compare that with the one before.
LAST_KEPT = 2


@dataclass(frozen=True, slots=True)
class Dated:
    """A run that has a file, and the day it is of."""

    id: str
    day: date


def removable(runs: Sequence[Dated], today: date, weeks: int, named: Collection[str] = ()) -> list[str]:
    """The runs whose files may go, of the runs of one site in their order.

    Kept are those of the last ``weeks`` weeks, the last of every month, the first, the last two, and those that reports name (``named``).
    """
    since = today - timedelta(weeks=weeks)
    last_of_month = {(run.day.year, run.day.month): run.id for run in runs}
    kept = {*named, *last_of_month.values(), *(run.id for run in (*runs[:1], *runs[-LAST_KEPT:]))}
    return [run.id for run in runs if run.id not in kept and run.day < since]
