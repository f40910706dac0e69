"""Comparing two run files: classes of findings, page changes, robots.txt."""

from __future__ import annotations

import difflib
from collections import Counter, defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from hodcarrier.core.catalogue import load
from hodcarrier.core.compare import Balance, classify
from hodcarrier.core.plan import differences
from hodcarrier.runfile import schema
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.sights import Sights

WORDS_CHANGE_RATIO = 0.10
_TEXT_FIELDS = ("title", "description", "h1", "canonical", "robots")


@dataclass(frozen=True, slots=True)
class Classed:
    """A fingerprint with its class."""

    change: str
    fingerprint: bytes
    check: str
    subject: str
    place: str


@dataclass
class Comparison:
    """All that differs between a base run and a head run."""

    items: list[Classed]
    balance: Balance
    settings: list[tuple[str, str, str]]
    page_changes: list[tuple[str, str, str, str]] = field(default_factory=list)
    appeared: list[str] = field(default_factory=list)
    gone: list[str] = field(default_factory=list)
    robots_diff: list[str] = field(default_factory=list)
    newly_blocked: list[str] = field(default_factory=list)

    def by_check(self) -> list[dict[str, Any]]:
        """Counts of the classes for every check that changed, the weightiest first."""
        entries = load()
        counts: defaultdict[str, Counter[str]] = defaultdict(Counter)
        for item in self.items:
            counts[item.check][item.change] += 1
        rows = []
        for check, classes in counts.items():
            if set(classes) - {"still-there", "waived"}:
                entry = entries.get(check)
                severity = entry.check.severity if entry else "low"
                rows.append(
                    {
                        "check": check,
                        "severity": severity,
                        "summary": entry.check.summary if entry else check,
                        "counts": dict(classes),
                    }
                )
        order = ("critical", "high", "medium", "low")
        return sorted(rows, key=lambda r: (order.index(r["severity"]), -sum(r["counts"].values()), r["check"]))


def compare(base: RunFile, head: RunFile) -> Comparison:
    """Compare two runs of one site. The caller has made sure that they are of one site."""
    sights_base = Sights(base.db, base.meta("end", "complete") == "complete")
    sights_head = Sights(head.db, head.meta("end", "complete") == "complete", base.db)
    passed = {fp for (fp,) in base.rows("SELECT fingerprint FROM history WHERE state = 'passed'")}
    items = list(_classed(base, head, sights_base, sights_head, passed))
    counts = Counter(item.change for item in items)
    base_open = sum(1 for waived in sights_base.found.values() if not waived)
    head_open = sum(1 for waived in sights_head.found.values() if not waived)
    waived_now = sum(1 for item in items if item.change == "waived" and sights_base.found.get(item.fingerprint) is False)
    comparison = Comparison(
        items, Balance(base_open, head_open, waived_now, dict(counts)), _settings(base, head, sights_base, sights_head)
    )
    _compare_pages(comparison, base, head)
    _compare_robots(comparison, base, head, sights_base)
    return comparison


def _classed(base: RunFile, head: RunFile, sights_base: Sights, sights_head: Sights, passed: set[bytes]) -> Iterator[Classed]:
    seen: set[bytes] = set()
    for run in (head, base):
        for fp, check, subject, place in run.rows("SELECT fingerprint, check_id, subject, place FROM finding"):
            if fp not in seen:
                seen.add(fp)
                change = classify(sights_base.of(fp, check, subject), sights_head.of(fp, check, subject), fp in passed)
                yield Classed(change, fp, check, subject, place)


def _settings(base: RunFile, head: RunFile, sights_base: Sights, sights_head: Sights) -> list[tuple[str, str, str]]:
    """Plan settings, catalogue version and revisions of checks that differ: they explain jumps."""
    found = differences(base.plan, head.plan)
    if base.meta("catalogue") != head.meta("catalogue"):
        found.append(("catalogue", str(base.meta("catalogue")), str(head.meta("catalogue"))))
    for check, (_, _, revision) in sights_head.checks.items():
        before = sights_base.checks.get(check)
        if before is None:
            found.append((check, "not yet in the catalogue", f"revision {revision}"))
        elif before[2] != revision:
            found.append((check, f"revision {before[2]}", f"revision {revision}"))
    return found


def _pages(run: RunFile) -> dict[str, dict[str, Any]]:
    sql = (
        "SELECT a.url, n.status, r.url, p.title, p.description, p.h1, p.canonical, p.robots, p.words, p.template, v.why_not"
        " FROM address a LEFT JOIN answer n ON n.address_id = a.id LEFT JOIN address r ON r.id = n.redirect_id"
        " LEFT JOIN page p ON p.address_id = a.id LEFT JOIN verdict v ON v.address_id = a.id WHERE a.role = 0 AND a.state IN (1, 2)"
    )
    names = ("status", "redirect target", "title", "description", "h1", "canonical", "robots", "words", "template", "why_not")
    return {row[0]: dict(zip(names, row[1:], strict=True)) for row in run.rows(sql)}


def _compare_pages(comparison: Comparison, base: RunFile, head: RunFile) -> None:
    before, after = _pages(base), _pages(head)
    comparison.appeared = sorted(after.keys() - before.keys())
    comparison.gone = sorted(before.keys() - after.keys())
    for url in sorted(before.keys() & after.keys()):
        old, new = before[url], after[url]
        for name in ("status", "redirect target"):
            if old[name] != new[name]:
                comparison.page_changes.append((url, name, _shown(old[name]), _shown(new[name])))
        if (old["why_not"] == "") != (new["why_not"] == ""):
            comparison.page_changes.append((url, "indexable", _indexable(old["why_not"]), _indexable(new["why_not"])))
        if old["title"] is None or new["title"] is None:
            continue
        for name in _TEXT_FIELDS:
            if old[name] != new[name]:
                comparison.page_changes.append((url, name, old[name], new[name]))
        if abs(new["words"] - old["words"]) > WORDS_CHANGE_RATIO * max(old["words"], 1):
            comparison.page_changes.append((url, "words", str(old["words"]), str(new["words"])))
        if old["template"] != new["template"]:
            comparison.page_changes.append((url, "template", old["template"], new["template"]))


def _shown(value: Any) -> str:
    return "none" if value is None else str(value)


def _indexable(why_not: str | None) -> str:
    return "yes" if why_not == "" else f"no ({why_not})"


def _compare_robots(comparison: Comparison, base: RunFile, head: RunFile, sights_base: Sights) -> None:
    old, new = base.robots_file(), head.robots_file()
    if old.robots.text != new.robots.text:
        diff = difflib.unified_diff(old.robots.text.splitlines(), new.robots.text.splitlines(), "base", "head", lineterm="", n=2)
        comparison.robots_diff = list(diff)
    token = head.plan.robots_token
    if not new.usable:
        return
    for url, (state, *_rest) in sights_base.address.items():
        if state == schema.DONE and old.robots.allows(token, url) and not new.robots.allows(token, url):
            comparison.newly_blocked.append(url)
    comparison.newly_blocked.sort()
