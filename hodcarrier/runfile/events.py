"""What happened between two runs: the groups of what differs told as events, with what each did to health.

:mod:`hodcarrier.runfile.groups` makes the groups, :mod:`hodcarrier.runfile.bridge` the steps that each takes from the one health to the other.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

import numpy as np

from hodcarrier.core.event_words import event_detail, event_title, headline
from hodcarrier.core.judge.health import RANK
from hodcarrier.core.judge.shares import EVENTS_MAX, shown
from hodcarrier.core.states import EventKind
from hodcarrier.core.summary import Event, EventCheck
from hodcarrier.core.web.urls import split
from hodcarrier.core.words import difference
from hodcarrier.runfile import schema
from hodcarrier.runfile.bridge import steps_between
from hodcarrier.runfile.comparison import CHANGES, Comparing
from hodcarrier.runfile.fates import EXAMPLES_MAX, Fates, GroupKey
from hodcarrier.runfile.groups import NONE, Groups
from hodcarrier.runfile.prints import Ints

CHECKS_MAX = 5
# Of more groups than this only those with the most steps are tried for what they do to health.
WEIGHED_MAX = 40
# A page would count twice in these, once in each run.
_MIXED = (EventKind.JUDGING, EventKind.OTHER)


@dataclass(frozen=True)
class Happened:
    """The events, those that did most to health first, and of every classed finding the place of its event (:data:`NONE`: it is as it was)."""

    events: list[Event]
    event_of: Ints
    sentence: str


def what_happened(comparing: Comparing, fates: Fates) -> Happened:
    """Put everything that differs between two runs into events, and divide the change in health among them."""
    groups = Groups(comparing, fates)
    other = groups.number(GroupKey(EventKind.OTHER))
    steps = steps_between(comparing, groups, other)
    findings = np.bincount(groups.group_of[groups.group_of != NONE], minlength=len(groups.keys))
    touched = steps.touched()
    there = [g for g in range(len(groups.keys)) if findings[g] or touched[g] or fates.pages[g] or g in groups.edited]
    weighed = sorted((group for group in there if touched[group]), key=lambda group: -touched[group])[:WEIGHED_MAX]
    weight = dict(zip(weighed, steps.weights(weighed), strict=True))
    order = sorted(there, key=lambda g: (g == other, -round(weight.get(g, 0.0), 9), -findings[g], -fates.pages[g], g))
    into = [0] * len(groups.keys)
    for place, group in enumerate(order):
        into[group] = min(place, EVENTS_MAX - 1)
    shares = steps.joined(into).shares() if order else None
    return _told(comparing, groups, order, into, shares)


def _told(
    comparing: Comparing, groups: Groups, order: Sequence[int], into: Sequence[int], shares: Sequence[Fraction] | None
) -> Happened:
    before, after = (run.meta("summary")["health"] for run in (comparing.base, comparing.head))
    origin = split(comparing.head.plan.start[0]).origin
    rounded = shown(shares, difference(before, after)) if shares and before is not None and after is not None else None
    event_of = np.append(np.array(into, np.int64), NONE)[groups.group_of]
    events = []
    for place in range(min(len(order), EVENTS_MAX)):
        members = [group for group in order if into[group] == place]
        event = _event(comparing, groups, members, np.flatnonzero(event_of == place))
        if shares is not None and rounded is not None:
            event = replace(event, share=float(shares[place]), shown=rounded[place])
        events.append(replace(event, title=event_title(event, origin), detail=event_detail(event)))

    def weight(place: int) -> tuple[bool, float, int]:
        event = events[place]
        return event.kind == EventKind.OTHER, -abs(event.share or 0.0), -sum(event.counts.values())

    by_weight = sorted(range(len(events)), key=weight)
    place_of = np.full(len(events) + 1, NONE, dtype=np.int64)
    place_of[by_weight] = np.arange(len(events))
    told = [events[place] for place in by_weight]
    comparable = comparing.scores[0].change is not None
    return Happened(told, place_of[event_of], headline(before, after, told, origin, comparable))


def _event(comparing: Comparing, groups: Groups, members: Sequence[int], rows: Ints) -> Event:
    """One event, of the groups that it joins and its findings (places in the classes)."""
    classes, fates, group = groups.classes, groups.fates, members[0]
    several = len(members) > 1
    key, files = GroupKey(EventKind.OTHER) if several else groups.keys[group], False
    if group in groups.edited and not several:
        pages, examples = groups.edited[group]
    elif group < len(fates.keys) and not several:
        pages, examples = fates.pages[group], fates.examples[group]
    else:
        pages, examples, files = _pages_of(comparing, groups, rows, key.kind)
    found = np.bincount(classes.change[rows], minlength=len(CHANGES)).tolist()
    per_check = np.bincount(classes.check[rows], minlength=len(classes.checks))
    numbers = np.flatnonzero(per_check)
    texts = [(comparing.texts[classes.checks[n]], classes.checks[n], int(per_check[n])) for n in numbers.tolist()]
    checks = [EventCheck(check, text.summary, text.severity, count) for text, check, count in texts]
    checks.sort(key=lambda each: (RANK[each.severity], -each.findings, each.check))
    return Event(
        key.kind,
        key.about,
        key.way,
        pages,
        examples,
        {change: count for change, count in zip(CHANGES, found, strict=True) if count},
        checks[:CHECKS_MAX],
        len(checks),
        fates.targets.get(group, "") if pages == 1 else "",
        joined=len(members) if several else 0,
        files=files,
    )


def _pages_of(comparing: Comparing, groups: Groups, rows: Ints, kind: EventKind) -> tuple[int, list[str], bool]:
    """How many URLs some findings are on, the first of them, and whether they are files; not of events that mix both runs, where a page
    would count twice."""
    on = rows[groups.subject[rows] > 0]
    if kind in _MIXED or not len(on):
        return 0, [], False
    in_head = bool(groups.classes.in_head[on[0]])
    own = groups.subject[on[groups.classes.in_head[on] == in_head]]
    _, first = np.unique(own, return_index=True)
    run = comparing.head if in_head else comparing.base
    files = bool(run.rows("SELECT 1 FROM address WHERE id = ? AND role = ?", int(own[0]), schema.FILE))
    return len(first), [run.url(address) for address in own[np.sort(first)[:EXAMPLES_MAX]].tolist()], files
