"""From facts to findings, causes, health and summary, over a whole run file, in one transaction."""

from __future__ import annotations

import json
import sqlite3
from collections import defaultdict
from collections.abc import Sequence
from datetime import datetime

from hodcarrier.core.catalogue import Catalogue, load
from hodcarrier.core.judge.areas import least_seen
from hodcarrier.core.judge.health import RANK
from hodcarrier.core.judge.waivers import Waiver, named_now
from hodcarrier.core.plan import Plan, read_plan
from hodcarrier.core.summary import SUMMARY, RunEnd, RunSummary
from hodcarrier.core.web.urls import split
from hodcarrier.examine.ages import Ages
from hodcarrier.examine.checking import Checking, Tally
from hodcarrier.examine.earlier import know_blocked
from hodcarrier.examine.history import carry_forward
from hodcarrier.examine.scoring import Scores, row_numbers
from hodcarrier.examine.site import make_site_view
from hodcarrier.examine.summary import make_summary
from hodcarrier.examine.views import Neighbourhood, RunViews
from hodcarrier.examine.writing import Results
from hodcarrier.runfile.reader import RunFile


def examine(
    db: sqlite3.Connection,
    now: datetime,
    base: RunFile | None = None,
    waivers: Sequence[Waiver] = (),
    *,
    notices: Sequence[str] = (),
    catalogue: Catalogue | None = None,
    neighbourhood: Neighbourhood | None = None,
) -> RunSummary:
    """Examine the facts in a run file and write the results into it.

    ``base`` is the run before of the same site, whose history is carried forward. ``notices`` are sentences for the reader that
    the caller has to say. ``neighbourhood`` places a run of a single page among the pages of another run. Returns the summary,
    which is also stored under ``summary`` in the file. An examination that is broken off leaves nothing behind and can be made
    anew.
    """
    catalogue = catalogue or load()
    run = RunFile(db)
    plan: Plan = read_plan(run.meta("plan"))
    results = Results(db, Ages.of_base(base, now.isoformat()), split(plan.start[0]).origin)
    results.clear()
    if base is not None:
        know_blocked(db, plan, base)
    views = RunViews.load(db, plan, neighbourhood)
    if base is not None:
        views.once_indexable = {row[0] for row in base.rows("SELECT url FROM once_indexable")}
    off = {catalogue.current(check) for check in plan.checks_off}
    changed = {catalogue.current(check): change.severity for check, change in plan.severities.items()}
    entries = [entry.with_severity(changed.get(entry.id)) for entry in catalogue.values()]
    tallies = [Tally(entry, entry.limits(plan.thresholds)) for entry in entries if entry.id not in off]
    rows = row_numbers(i for i in range(1, len(views.known)) if views.is_scored(i))
    in_force = [named_now(waiver, catalogue.current) for waiver in waivers if waiver.in_force(now.date())]
    checking = Checking(views, tallies, in_force, rows, results)
    checking.pages()
    checking.groups()
    checking.files(run)
    site = make_site_view(views, run, now, checking.gathered.postal)
    checking.site(site)
    results.flush()

    severities = [RANK[tally.entry.check.severity] for tally in tallies]
    areas = [tally.entry.area for tally in tallies]
    least = least_seen((tally.entry.area, tally.entry.check.subject, tally.entry.check.reach) for tally in tallies)
    scores = Scores(
        checking.tape,
        [views.seen(i) for i in rows],
        [views.known[i].url.startswith("https:") for i in rows],
        severities,
        areas,
        least,
    )
    results.write_inventory(views, rows, scores)
    checking.columns.write(db)
    results.write_causes(lambda n: tallies[n].entry, checking.tape, scores)
    checking.tape.close()
    causes_of = defaultdict(list)
    for cause, n in enumerate(checking.tape.cause_check):
        causes_of[n].append(cause)
    for n, t in enumerate(tallies):
        counted = (t.findings, t.waived, int(scores.check_pages[n]), int(scores.check_fixes[n]), float(scores.check_gains[n]))
        examined = t.examined - t.unsure - t.crashed
        asked = (examined, t.failing, examined - t.failing, checking.looked_at[t.entry.check.subject] - t.examined)
        figures = (*counted, t.unverified, t.crashed, *results.check_age(causes_of[n]), *asked)
        results.write_check(t.entry, t.limits, "on", figures)
    for entry in entries:
        if entry.id in off:
            results.write_check(entry, entry.limits(plan.thresholds), "off", (0, 0, 0, 0, 0.0, 0, 0, None, 0, 0, 0, 0, 0))

    end = RunEnd(run.meta("end", RunEnd.COMPLETE))
    db.execute("INSERT OR REPLACE INTO meta VALUES ('examined_at', ?)", (json.dumps(now.isoformat()),))
    db.execute("CREATE INDEX IF NOT EXISTS finding_print ON finding(fingerprint, waived)")
    carry_forward(db, base, end == RunEnd.COMPLETE, results.ages, views, catalogue)
    summary = make_summary(db, views, scores, rows, site, checking, end, notices, catalogue.version)
    for key, value in (("summary", SUMMARY.dump(summary)), ("catalogue", catalogue.version)):
        db.execute("INSERT OR REPLACE INTO meta VALUES (?, ?)", (key, json.dumps(value)))
    db.commit()
    return summary
