"""Causes: findings that one fix would clear. Every finding belongs to exactly one."""

from __future__ import annotations

from hodcarrier.core.catalogue import Entry, Fail, fill


def cause_key(entry: Entry, subject: str, template: str, fail: Fail) -> str:
    """What findings of one check must share to have one cause."""
    if fail.cause:
        return fail.cause
    grouping = entry.check.cause
    if grouping in ("target", "element"):
        return fail.place or subject
    if grouping == "template":
        return f"{fail.key} {template}" if template else subject
    if grouping == "site":
        return "site"
    return subject


def cause_line(entry: Entry, key: str, fail: Fail, findings: int, pages: int) -> str:
    """One plain line for a cause, such as "/delivery/ answers 404; linked from 312 pages"."""
    data = {**fail.data, "cause": key, "findings": findings, "pages": pages}
    if entry.check.cause_line:
        return fill(entry.check.cause_line, data)
    if entry.check.cause == "template":
        pattern = key.split(" ")[1] if " " in key else key
        return fill("{pages:page} built like {pattern}", {"pages": pages, "pattern": pattern})
    return entry.message(fail.key, fail.data)
