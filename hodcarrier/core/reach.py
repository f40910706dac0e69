"""Whether one plan reaches less of a site than another. What a narrower plan did not meet is unverified, never gone."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any

from hodcarrier.core.plan import FIELDS, Plan


def _lost(base: Iterable[str], head: Iterable[str]) -> bool:
    return not set(base) <= set(head)


def _off(base: bool, head: bool) -> bool:
    return base and not head


def _on(base: bool, head: bool) -> bool:
    return head and not base


def _less(base: float, head: float) -> bool:
    return head < base


def _chosen_from(base: tuple[str, ...], head: tuple[str, ...]) -> bool:
    """Of a list that, left empty, stands for everything."""
    return bool(head) and (not base or _lost(base, head))


def _below(base: str, head: str) -> bool:
    return not base.startswith(head)


def _more(base: tuple[str, ...], head: tuple[str, ...]) -> bool:
    return _lost(head, base)


# Whether a setting of the head makes it reach less than the base. Limits of pages and time are told by how a crawl ended.
_NARROWS: dict[str, Callable[[Any, Any], bool]] = {
    "start": _lost,
    "subdomains": _off,
    "path_prefix": _below,
    "include": _chosen_from,
    "exclude": _more,
    "use_links": _off,
    "use_sitemaps": _off,
    "sitemaps": _lost,
    "addresses": _lost,
    "check_files": _off,
    "depth_max": _less,
    "url_chars_max": _less,
    "pattern_pages_max": _less,
    "query_pages_max": _less,
    "obey_robots": _on,
    "obey_nofollow": _on,
    "obey_noindex": _on,
    "obey_canonical": _on,
    "drop_parameters": _more,
    "keep_parameters": _chosen_from,
}


def narrowed(base: Plan, head: Plan) -> tuple[str, ...]:
    """The settings by which ``head`` reaches less than ``base``, in the order of the plan's fields; empty: it reaches all of it.

    Decided setting by setting: a plan that lists pages which its links would find anyway counts as narrower all the same when
    the list is taken away. Being wrong that way leaves a finding unverified; the other way would call it fixed.
    """
    return tuple(name for name in FIELDS if name in _NARROWS and _NARROWS[name](getattr(base, name), getattr(head, name)))
