"""Writes a comparison of two runs into a file of its own."""

from __future__ import annotations

import json
import sqlite3
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

from hodcarrier.core.catalogue import load
from hodcarrier.core.event_words import served_headline
from hodcarrier.core.states import ComparedList, PartKind
from hodcarrier.runfile.alike import AlikeChanges
from hodcarrier.runfile.compared import APPLICATION_ID, FIGURES, INDEXES, TABLES, VERSION, CheckTold, Figures, revisions
from hodcarrier.runfile.comparison import Comparing
from hodcarrier.runfile.events import what_happened
from hodcarrier.runfile.fates import Fates, Gathering
from hodcarrier.runfile.page_changes import compare_files
from hodcarrier.runfile.parts import Parts, parts_of
from hodcarrier.runfile.reader import RunFile

PAGE, FILE = 0, 1


def write_comparison(base: RunFile, head: RunFile, path: Path) -> None:
    """Compare two runs of one site into a new file. Memory: some 200 bytes a finding that only one of them has."""
    comparing = Comparing(base, head)
    classes, balance = comparing.classes, comparing.balance()
    db = sqlite3.connect(path)
    try:
        db.executescript(
            f"PRAGMA journal_mode=OFF; PRAGMA application_id={APPLICATION_ID}; PRAGMA user_version={VERSION}; {TABLES}"
        )
        alike, listed, fates = _write_pages(db, comparing)
        happened = what_happened(comparing, fates)
        parts = parts_of(comparing)
        _write_parts(db, parts)
        # What is as it was is in no event, and in no part either: nobody asks for it by one.
        differs = happened.event_of >= 0
        of_parts = [((parts.of[kind] + 1) * differs).tolist() for kind in PartKind]
        columns = (classes.change, classes.check, classes.in_head.astype(int), classes.finding, happened.event_of)
        db.executemany(
            "INSERT INTO classed (change, check_id, in_head, finding, event, cause, page, folder, template)"
            " VALUES (?,?,?,?,nullif(?, -1),nullif(?, 0),nullif(?, 0),nullif(?, 0),nullif(?, 0))",
            zip(*(column.tolist() for column in columns), *of_parts, strict=True),
        )
        health, areas = comparing.scores
        figures = Figures(
            dict(balance.counts),
            balance.base_findings,
            balance.head_findings,
            balance.waived_now,
            balance.changed_in_head,
            [CheckTold(check, comparing.texts[check].severity, comparing.texts[check].summary) for check in classes.checks],
            comparing.by_check(),
            comparing.settings(),
            health,
            areas,
            comparing.robots_lines(),
            sum(group.pages for group in alike.groups.values()),
            len(alike.groups),
            dict(listed),
            dict(Counter(part.kind for part in parts.parts)),
            _sentence(db, base, head, listed) or happened.sentence,
            happened.events,
        )
        meta = {"figures": FIGURES.dump(figures), "catalogue": load().version, "revisions": revisions(base, head)}
        db.executemany("INSERT INTO meta VALUES (?, ?)", ((key, json.dumps(value)) for key, value in meta.items()))
        db.commit()
        db.executescript(INDEXES)
    finally:
        db.close()


def _sentence(db: sqlite3.Connection, base: RunFile, head: RunFile, listed: Counter[ComparedList]) -> str:
    """What is said of two runs that appeared as different user agents; empty of others, where events say it."""
    one, other = base.plan.appearance, head.plan.appearance
    if one == other:
        return ""
    differing = db.execute("SELECT count(DISTINCT url) FROM page_change WHERE role = ?", (PAGE,)).fetchone()[0]
    return served_headline(one, other, differing, listed[ComparedList.APPEARED], listed[ComparedList.GONE])


def _write_parts(db: sqlite3.Connection, parts: Parts) -> None:
    db.executemany(
        "INSERT INTO part (id, kind, name, check_id, before, after, counts) VALUES (?,?,?,?,?,?,?)",
        (
            (number, part.kind, part.name, part.check, part.then, part.now, json.dumps(part.counts))
            for number, part in enumerate(parts.parts, 1)
        ),
    )


def _write_pages(db: sqlite3.Connection, comparing: Comparing) -> tuple[AlikeChanges, Counter[ComparedList], Fates]:
    """Write what became of pages, files and sitemap entries; gives the changes that are alike, how many URLs each list has, and the pages in
    groups by their fate."""
    counts, alike = Counter[ComparedList](), AlikeChanges()
    gathering = Gathering(comparing.base, comparing.head, (comparing.sights_base, comparing.sights_head))

    def note(role: int, url: str, facts: tuple[tuple[str, str, str], ...]) -> None:
        db.executemany(
            "INSERT INTO page_change (role, alike, url, field, base, head) VALUES (?,?,?,?,?,?)",
            ((role, alike.add(role, url, *fact), url, *fact) for fact in facts),
        )

    def listed() -> Iterator[tuple[ComparedList, str]]:
        for page in comparing.pages():
            if page.appeared or page.gone:
                yield ComparedList.APPEARED if page.appeared else ComparedList.GONE, page.url
            gathering.add(page)
            note(PAGE, page.url, page.facts)
        for file in compare_files(comparing.base, comparing.head):
            if file.appeared or file.gone:
                yield ComparedList.FILES_APPEARED if file.appeared else ComparedList.FILES_GONE, file.url
            note(FILE, file.url, file.facts)
        yield from ((ComparedList.BLOCKED, url) for url in comparing.newly_blocked())
        for kind, urls in zip((ComparedList.LISTED, ComparedList.UNLISTED), comparing.sitemap_entries(), strict=True):
            yield from ((kind, url) for url in urls)

    for kind, url in listed():
        counts[kind] += 1
        db.execute("INSERT INTO page_listed (list, url) VALUES (?,?)", (kind, url))
    groups = sorted(alike.groups.values(), key=lambda group: (-group.pages, group.id))
    db.executemany(
        "INSERT INTO alike (id, place, role, field, removed, added, pages, url, base, head) VALUES (?,?,?,?,?,?,?,?,?,?)",
        ((g.id, place, g.role, g.field, g.removed, g.added, g.pages, g.url, g.base, g.head) for place, g in enumerate(groups, 1)),
    )
    return alike, counts, gathering.groups()
