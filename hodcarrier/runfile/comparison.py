"""Comparing two run files: classes of findings, page changes, robots.txt."""

from __future__ import annotations

import difflib
from collections import Counter, defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from hodcarrier.core.catalogue import load
from hodcarrier.core.judge.compare import Balance, classify
from hodcarrier.core.judge.health import RANK
from hodcarrier.core.plan import differences
from hodcarrier.core.states import Area, Change, Severity
from hodcarrier.core.summary import CheckChange, SettingChange, SharedScore
from hodcarrier.runfile import schema
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.results import texts
from hodcarrier.runfile.scores import shared_scores
from hodcarrier.runfile.sights import Sights, has_changed

WORDS_CHANGE_RATIO = 0.10
_TEXT_FIELDS = ("title", "description", "h1", "canonical", "robots")


@dataclass(frozen=True, slots=True)
class Classed:
    """A fingerprint with its class, and what the run that has it says of its check."""

    change: Change
    fingerprint: bytes
    check: str
    severity: Severity
    summary: str
    subject: str
    place: str


@dataclass
class Comparison:
    """All that differs between a base run and a head run."""

    items: list[Classed]
    balance: Balance
    settings: list[SettingChange]
    health: SharedScore
    areas: dict[Area, SharedScore]
    page_changes: list[tuple[str, str, str, str]] = field(default_factory=list)
    appeared: list[str] = field(default_factory=list)
    gone: list[str] = field(default_factory=list)
    robots_diff: list[str] = field(default_factory=list)
    newly_blocked: list[str] = field(default_factory=list)

    def by_check(self) -> list[CheckChange]:
        """Counts of the classes for every check that changed, the weightiest first."""
        counts: defaultdict[str, Counter[Change]] = defaultdict(Counter)
        first: dict[str, Classed] = {}
        for item in self.items:
            counts[item.check][item.change] += 1
            first.setdefault(item.check, item)
        rows = [
            CheckChange(check, first[check].severity, first[check].summary, dict(classes))
            for check, classes in counts.items()
            if set(classes) - {Change.STILL_THERE, Change.WAIVED}
        ]
        return sorted(rows, key=lambda r: (RANK[r.severity], -sum(r.counts.values()), r.check))


def compare(base: RunFile, head: RunFile) -> Comparison:
    """Compare two runs of one site. The caller has made sure that they are of one site."""
    sights_base = Sights(base.db, base.meta("end", "complete") == "complete", keep=True)
    sights_head = Sights(head.db, head.meta("end", "complete") == "complete", base.db, keep=True)
    passed = {fp for (fp,) in base.rows("SELECT fingerprint FROM history WHERE state = 'passed'")}
    items = list(_classed(base, head, sights_base, sights_head, passed))
    counts = Counter(item.change for item in items)
    base_open, head_open = (int(run.rows("SELECT count(*) FROM finding WHERE waived = 0")[0][0]) for run in (base, head))
    waived_now = sum(1 for i in items if i.change == Change.WAIVED and sights_base.found(i.fingerprint) is False)
    changed_in_head = sum(1 for i in items if i.change == Change.CHECK_CHANGED and sights_head.found(i.fingerprint) is not None)
    balance = Balance(base_open, head_open, waived_now, changed_in_head, dict(counts))
    comparison = Comparison(items, balance, _settings(base, head, sights_base, sights_head), *shared_scores(base, head))
    _compare_pages(comparison, base, head)
    _compare_robots(comparison, base, head)
    comparison.newly_blocked = _newly_blocked(head, sights_base)
    return comparison


def _classed(base: RunFile, head: RunFile, sights_base: Sights, sights_head: Sights, passed: set[bytes]) -> Iterator[Classed]:
    catalogue = load()
    changed = {check: has_changed(check, sights_base, sights_head) for check in {*sights_base.checks, *sights_head.checks}}
    known_head, known_base = texts(head), texts(base)
    current = {check: catalogue.current(check) for check in {*known_head, *known_base}}
    seen: set[bytes] = set()
    for run, known in ((head, known_head), (base, known_base)):
        for fp, check, subject, place in run.rows("SELECT fingerprint, check_id, subject, place FROM finding"):
            if fp not in seen:
                seen.add(fp)
                now = current[check]
                change = classify(sights_base.of(fp, now, subject), sights_head.of(fp, now, subject), fp in passed, changed[now])
                text = known_head.get(now) or known[check]
                yield Classed(change, fp, now, text.severity, text.summary, subject, place)


def _settings(base: RunFile, head: RunFile, sights_base: Sights, sights_head: Sights) -> list[SettingChange]:
    """Plan settings, catalogue version and revisions of checks that differ: they explain jumps."""
    found = [SettingChange(*row) for row in differences(base.plan, head.plan)]
    if base.meta("catalogue") != head.meta("catalogue"):
        found.append(SettingChange("catalogue", str(base.meta("catalogue")), str(head.meta("catalogue"))))
    for check, used in sights_head.checks.items():
        before = sights_base.checks.get(check)
        if before is None:
            found.append(SettingChange(check, "not yet in the catalogue", f"revision {used.revision}"))
        elif before.revision != used.revision:
            found.append(SettingChange(check, f"revision {before.revision}", f"revision {used.revision}"))
    for check in sights_base.checks.keys() - sights_head.checks.keys():
        found.append(SettingChange(check, f"revision {sights_base.checks[check].revision}", "retired"))
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


def _compare_robots(comparison: Comparison, base: RunFile, head: RunFile) -> None:
    old, new = base.robots_file(), head.robots_file()
    if old.robots.text != new.robots.text:
        diff = difflib.unified_diff(old.robots.text.splitlines(), new.robots.text.splitlines(), "base", "head", lineterm="", n=2)
        comparison.robots_diff = list(diff)


def _newly_blocked(head: RunFile, sights_base: Sights) -> list[str]:
    """Pages that were indexable once, could be fetched in the base, and are blocked in the head: those that the check for lost
    pages finds, so that both give one figure."""
    blocked = head.rows(
        "SELECT url FROM verdict JOIN address ON id = address_id WHERE scored AND state = ? ORDER BY url", schema.DISALLOWED
    )
    return [url for (url,) in blocked if url in sights_base.address and sights_base.address[url][0] == schema.DONE]
