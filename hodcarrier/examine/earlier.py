"""Pages of the run before that this run could not even meet, because robots.txt blocks the way to them."""

from __future__ import annotations

import sqlite3

from hodcarrier.core.plan import Plan
from hodcarrier.core.scope import Scope
from hodcarrier.core.web.urls import split
from hodcarrier.runfile import schema
from hodcarrier.runfile.reader import RunFile


def know_blocked(db: sqlite3.Connection, plan: Plan, base: RunFile) -> None:
    """Know the pages that were indexable in ``base`` (or blocked there already), are met nowhere now, and are blocked by robots.txt.

    They are usually linked from pages that are blocked themselves. Without this, of a blocked section only its front page would
    count as lost.
    """
    run = RunFile(db)
    robots = run.robots_file()
    if not plan.obey_robots or not robots.usable:
        return
    scope, origin = Scope.of(plan), split(robots.url).origin
    known = {url for (url,) in db.execute("SELECT url FROM address")}
    rows = base.db.execute(
        "SELECT url FROM inventory WHERE scored AND (why_not = '' OR state = ?)",
        (schema.DISALLOWED,),
    )
    found = []
    for (url,) in rows:
        if url in known or split(url).origin != origin or not scope.belongs(url) or scope.why_excluded(url):
            continue
        verdict = robots.robots.verdict(plan.robots_token, url)
        if not verdict.allowed:
            found.append((url, schema.ROLES.index("page"), schema.DISALLOWED, schema.FOUND_EARLIER, verdict.words))
    db.executemany("INSERT INTO address (url, role, state, found_by, rule) VALUES (?,?,?,?,?)", found)
