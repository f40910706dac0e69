"""Scores of two runs over the pages that both have examined."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from hodcarrier.core.judge.areas import Seen, comparable, examines, least_seen, seen_of
from hodcarrier.core.judge.health import RANK, SITE_ROW, Faults, Health
from hodcarrier.core.states import Area
from hodcarrier.core.summary import SharedScore
from hodcarrier.runfile import schema
from hodcarrier.runfile.packing import unpack_ids
from hodcarrier.runfile.reader import RunFile


@dataclass(frozen=True)
class _Run:
    """What scores need of a run: how much it saw of each scored page, and what each area asks for."""

    run: RunFile
    seen: Mapping[str, Seen]
    least: Mapping[Area, Seen]

    @classmethod
    def read(cls, run: RunFile) -> _Run:
        seen = {
            url: seen_of(state == schema.DISALLOWED, status, bool(has_page) and status == 200 and not failure)
            for url, state, status, failure, has_page in run.rows(
                "SELECT a.url, a.state, n.status, n.failure, p.address_id IS NOT NULL FROM verdict v JOIN address a ON a.id = v.address_id"
                " LEFT JOIN answer n ON n.address_id = a.id LEFT JOIN page p ON p.address_id = a.id WHERE v.scored"
            )
        }
        checks = run.rows("SELECT area, subject, needs FROM check_state WHERE state = 'on'")
        return cls(run, seen, least_seen((Area(area), subject, needs) for area, subject, needs in checks))

    def examined(self, area: Area) -> set[str]:
        """The pages that an area speaks of."""
        least = self.least.get(area)
        return (
            set()
            if least is None
            else {url for url, seen in self.seen.items() if examines(area, least, seen, url.startswith("https:"))}
        )

    def faults(self) -> tuple[list[tuple[str, int]], list[str], list[int]]:
        """Failing (URL, check) pairs, "" for the site; the area and the severity of every check."""
        checks = self.run.rows("SELECT id, area, severity FROM check_state WHERE state = 'on'")
        number = {check: n for n, (check, _, _) in enumerate(checks)}
        pairs = set(self._pairs(number))
        return sorted(pairs), [area for _, area, _ in checks], [RANK[severity] for _, _, severity in checks]

    def _pairs(self, number: Mapping[str, int]) -> Iterator[tuple[str, int]]:
        urls = dict(self.run.rows("SELECT id, url FROM address WHERE role < 2"))
        rows = self.run.rows(
            "SELECT DISTINCT f.check_id, f.subject_id, s.subject = 'file' FROM finding f JOIN check_state s ON s.id = f.check_id"
            " WHERE NOT f.waived"
        )
        users: dict[int, list[int]] = {}
        for check, subject, is_file in rows:
            if subject is None:
                yield "", number[check]
            elif not is_file:
                yield urls[subject], number[check]
            else:
                if subject not in users:
                    blob = self.run.rows("SELECT sources FROM inlink WHERE target_id = ?", subject)
                    users[subject] = list(unpack_ids(blob[0][0])) if blob else []
                for user in users[subject]:
                    yield urls[user], number[check]


def shared_scores(base: RunFile, head: RunFile) -> tuple[SharedScore, dict[Area, SharedScore]]:
    """Health and the score of every area, compared over the pages that both runs examined."""
    before, after = _Run.read(base), _Run.read(head)
    old, new = before.faults(), after.faults()
    both = before.seen.keys() & after.seen.keys()
    health = _shared(len(before.seen), len(after.seen), len(both), _score(old, both, None), _score(new, both, None))
    areas = {}
    for area in Area:
        if area not in before.least and area not in after.least:
            continue
        pages_base, pages_head = before.examined(area), after.examined(area)
        shared = pages_base & pages_head
        areas[area] = _shared(len(pages_base), len(pages_head), len(shared), _score(old, shared, area), _score(new, shared, area))
    return health, areas


def _shared(pages_base: int, pages_head: int, pages: int, base: float | None, head: float | None) -> SharedScore:
    change = None
    if base is not None and head is not None and comparable(pages_base, pages_head, pages):
        change = head - base
    return SharedScore(pages_base, pages_head, pages, change)


def _score(found: tuple[list[tuple[str, int]], list[str], list[int]], pages: set[str], area: Area | None) -> float | None:
    """The score of an area, or health, with the faults of some pages and of the site alone."""
    pairs, areas, severities = found
    row = {url: n for n, url in enumerate(sorted(pages))}
    row[""] = SITE_ROW
    chosen = [(row[url], check) for url, check in pairs if url in row and (area is None or areas[check] == area)]
    table = np.array(chosen, dtype=np.int64).reshape(-1, 2)
    severity = np.array(severities, dtype=np.int64)[table[:, 1]] if len(table) else table[:, 1]
    health = Health(len(pages))
    health.add(Faults(len(pages), table[:, 0], table[:, 1], severity))
    return health.value
