"""Causes: findings that one fix would clear. Every finding belongs to exactly one."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from hodcarrier.core.words import fill

# What stands for the name of a template whose pages lie under paths of all kinds.
EVERYWHERE = "/**"


def cause_key(grouping: str, subject: str, template: str, message: str, place: str) -> str:
    """What findings of one check must share to have one cause, by the check's grouping."""
    if grouping in ("target", "element"):
        return place or subject
    if grouping == "template":
        return f"{message} {template}" if template else subject
    if grouping == "site":
        return "site"
    return subject


def cause_line(line: str, grouping: str, key: str, data: Mapping[str, Any], findings: int, pages: int, example: str = "") -> str:
    """One plain line for a cause, such as "/delivery/ answers 404; linked from 312 pages"; empty when there is no pattern for one.

    ``line`` is the check's own pattern, ``data`` that of the first finding, ``example`` its page.
    """
    if line:
        return fill(line, {**data, "cause": key, "findings": findings, "pages": pages})
    if grouping == "template":
        pattern = key.split(" ")[1] if " " in key else key
        if pages <= 1 or not example:
            return example or pattern
        like = "all over the site" if pattern == EVERYWHERE else "built like {pattern}"
        return fill("{pages:page} " + like + ", such as {example}", {"pages": pages, "pattern": pattern, "example": example})
    return ""
