"""Waivers applied to a run that has been examined: its findings stay, and every figure that counts them follows.

An examination with the same waivers would write the same figures; a test compares the two over generated sites.
"""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

from hodcarrier.core.catalogue import Area, Severity, load
from hodcarrier.core.judge.health import RANK, SITE_ROW
from hodcarrier.core.judge.waivers import Waiver, covered, named_now
from hodcarrier.core.states import InventoryKind
from hodcarrier.core.summary import SUMMARY, RunSummary
from hodcarrier.core.web.urls import split
from hodcarrier.examine.scoring import Scores, Tape
from hodcarrier.examine.summary import SEVERE, by_severity, figures_of_checks, points
from hodcarrier.examine.writing import line_of
from hodcarrier.runfile.column_writer import write_judged
from hodcarrier.runfile.losses import losses
from hodcarrier.runfile.packing import unpack_ids
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.scores import ScoredRun


def apply_waivers(db: sqlite3.Connection, waivers: Sequence[Waiver]) -> RunSummary | None:
    """Let these waivers, all in force, and no others cover findings of the run in ``db``, in one transaction; gives its new summary, or ``None`` when
    nothing differs. The file is one that this release wrote."""
    changed = _flags(db, [named_now(waiver, load().current) for waiver in waivers])
    if not changed:
        return None
    db.executemany("UPDATE finding SET waived = ? WHERE id = ?", changed)
    run = RunFile(db)
    scored = ScoredRun.read(run)
    checks = run.rows("SELECT id, area, severity, subject FROM check_state WHERE state = 'on' ORDER BY id")
    causes = run.rows("SELECT id, check_id FROM cause ORDER BY id")
    tape = _tape(
        db, scored, {check: n for n, (check, *_) in enumerate(checks)}, causes, {c for c, *_, s in checks if s == "file"}
    )
    scores = Scores(
        tape,
        scored.seen.tolist(),
        scored.secure.tolist(),
        [RANK[Severity(severity)] for _, _, severity, _ in checks],
        [Area(area) for _, area, _, _ in checks],
        scored.least,
    )
    _write_pages(db, scored, scores)
    if run.has_columns:
        for role in (InventoryKind.PAGE, InventoryKind.FILE):
            write_judged(db, role)
    _write_causes(run, causes, tape, scores)
    totals = {check: [0, 0] for check, *_ in checks}
    for (_, check), findings, waived in zip(causes, tape.cause_findings, tape.cause_waived, strict=True):
        totals[check][0] += findings
        totals[check][1] += waived
    db.executemany(
        "UPDATE check_state SET findings = ?, waived = ?, pages = ?, fixes = ?, gain = ? WHERE id = ?",
        (
            (*totals[check], int(scores.check_pages[n]), int(scores.check_fixes[n]), float(scores.check_gains[n]), check)
            for n, (check, *_) in enumerate(checks)
        ),
    )
    tape.close()
    summary = _summary(db, SUMMARY.load(run.meta("summary")), scored, scores)
    for key, value in (("summary", SUMMARY.dump(summary)), ("revision", int(run.meta("revision", 0)) + 1)):
        db.execute("INSERT OR REPLACE INTO meta VALUES (?, ?)", (key, json.dumps(value)))
    db.commit()
    return summary


def _flags(db: sqlite3.Connection, waivers: Sequence[Waiver]) -> list[tuple[bool, int]]:
    """The findings whose flag is to be turned, as new flag and id."""
    concerned = sorted({waiver.check for waiver in waivers})
    marks = ",".join("?" * len(concerned))
    rows = db.execute(
        f"SELECT id, check_id, subject, fingerprint, waived FROM finding WHERE check_id IN ({marks}) OR waived = 1", concerned
    )
    return [
        (now, number)
        for number, check, subject, fingerprint, before in rows
        if (now := covered(waivers, check, subject, fingerprint)) != bool(before)
    ]


def _tape(
    db: sqlite3.Connection, scored: ScoredRun, numbers: Mapping[str, int], causes: Sequence[tuple[Any, ...]], of_files: set[str]
) -> Tape:
    """The findings as the examination noted them, with the flags as they are now."""
    tape, row_of = Tape(db), {address: row for row, address in enumerate(scored.ids)}
    cause_of = {cause: tape.new_cause(numbers[check]) for cause, check in causes}
    users: dict[int, list[int]] = {}

    def rows_of(check: str, address: int | None) -> Sequence[int]:
        if address is None:
            return (SITE_ROW,)
        if check not in of_files:
            return (row_of[address],) if address in row_of else ()
        if address not in users:
            blob = db.execute("SELECT sources FROM inlink WHERE target_id = ?", (address,)).fetchone()
            users[address] = [row_of[user] for user in unpack_ids(blob[0]) if user in row_of] if blob else []
        return users[address]

    for check, address, cause, waived in db.execute("SELECT check_id, subject_id, cause_id, waived FROM finding ORDER BY id"):
        if waived:
            tape.cause_waived[cause_of[cause]] += 1
        else:
            tape.note(numbers[check], cause_of[cause], rows_of(check, address))
    return tape


def _write_pages(db: sqlite3.Connection, scored: ScoredRun, scores: Scores) -> None:
    before = {
        address: counts
        for address, *counts in db.execute("SELECT id, critical, high, medium, low FROM inventory WHERE role = 0 AND +scored")
    }
    after = dict(zip(scored.ids, scores.counts.tolist(), strict=True))
    db.executemany(
        "UPDATE inventory SET health = ?, critical = ?, high = ?, medium = ?, low = ? WHERE id = ?",
        (
            (float(scores.page_healths[row]), *after[address], address)
            for row, address in enumerate(scored.ids)
            if after[address] != before[address]
        ),
    )


def _write_causes(run: RunFile, causes: Sequence[tuple[Any, ...]], tape: Tape, scores: Scores) -> None:
    """The causes of which the figures differ, each with a new line, which tells some of them."""
    found = {figures.cause: (figures.pages, figures.gain) for figures in scores.causes()}
    before = {row[0]: row[1:] for row in run.rows("SELECT id, findings, waived, pages, gain FROM cause")}
    origin = split(run.plan.start[0]).origin
    for n, (cause, _) in enumerate(causes):
        now = (tape.cause_findings[n], tape.cause_waived[n], *found.get(n, (0, 0.0)))
        if now != before[cause]:
            run.db.execute(
                "UPDATE cause SET findings = ?, waived = ?, pages = ?, gain = ?, line = coalesce(?, line) WHERE id = ?",
                (*now, _line(run, cause, now[0], now[2], origin), cause),
            )


def _line(run: RunFile, cause: int, findings: int, pages: int, origin: str) -> str | None:
    """The line of a cause with new figures; ``None`` where the catalogue has its check no more."""
    check_id, key, subject, message, evidence = run.rows(
        "SELECT f.check_id, c.key, f.subject, f.message, f.evidence FROM finding f JOIN cause c ON c.id = f.cause_id"
        " WHERE f.cause_id = ? ORDER BY f.id LIMIT 1",
        cause,
    )[0]
    catalogue = load()
    if check_id not in catalogue:
        return None
    example = subject.removeprefix(origin)
    return line_of(catalogue[check_id], key, message, json.loads(evidence), findings, pages, example)


def _summary(db: sqlite3.Connection, before: RunSummary, scored: ScoredRun, scores: Scores) -> RunSummary:
    """The summary with the figures that waivers change."""
    checks = figures_of_checks(db)
    severe = db.execute(
        "SELECT count(*) FROM inventory WHERE role = 0 AND +scored AND words IS NOT NULL AND status = 200 AND why_not = '' AND critical + high > 0"
    ).fetchone()[0]
    indexable = next(step.count for step in before.funnel if step.id == "indexable")
    dropouts = {reason: count for reason, count in before.dropouts.items() if reason != SEVERE}
    if severe:
        dropouts[SEVERE] = severe
    health, pages = points(scores.health), before.pages_scored
    free = 100.0 * scores.free_of_severe() / pages if pages else None
    return replace(
        before,
        health=health,
        site_factor=scores.site_factor,
        areas={area: points(score) for area, score in scores.areas.items()},
        findings=sum(c.findings for c in checks.values()),
        waived=sum(c.waived for c in checks.values()),
        severities=by_severity(checks),
        checks=checks,
        funnel=[replace(step, count=indexable - severe) if step.id == "free" else step for step in before.funnel],
        dropouts=dropouts,
        measures=replace(before.measures, health=health, severe_free_ratio=free),
        lost=losses(scored, health),
    )
