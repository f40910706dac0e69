"""What is said of an event: a title, a line of detail, and the sentence above them all."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence

from hodcarrier.core.states import Appearance, Change, EventKind, WhyNot
from hodcarrier.core.summary import BEHIND, Event
from hodcarrier.core.words import difference, fill, signed

_RULE = re.compile(r"^(?P<rule>(?:dis)?allow:\s*(?P<path>\S+))(?:\s+\(line (?P<line>\d+)\))?", re.IGNORECASE)
_FIELDS = {
    "title": "Titles",
    "description": "Meta descriptions",
    "h1": "H1 headings",
    "canonical": "Canonicals",
    "robots": "Robots directives",
    "words": "Texts",
    "links": "Links",
    "template": "Templates",
}
_APPEARANCES = {
    Appearance.OWN: "our own user agent",
    Appearance.DESKTOP: "a desktop browser",
    Appearance.PHONE: "a phone browser",
}
_NAMED_MAX = 3
# From this part of a change on an event explains nearly all of it, or most.
NEARLY_ALL, MOST = 0.95, 0.5


def event_title(event: Event, origin: str) -> str:
    """What happened, in a few words that start with the thing it happened to. URLs of ``origin`` are shown without it."""
    return _TITLES[event.kind](event, origin)


def event_detail(event: Event) -> str:
    """What else there is to know: how many pages, which checks; empty when the title says it all."""
    parts = [*(_DETAILS[event.kind](event) if event.kind in _DETAILS else []), *_checks(event)]
    if event.kind in (EventKind.BLOCKED, EventKind.UNREACHED, EventKind.FAILING) and (
        lost := event.counts.get(Change.UNVERIFIED)
    ):
        parts.append(fill("{n:earlier finding} unverified", {"n": lost}))
    return " · ".join(part for part in parts if part)


def headline(before: float | None, after: float | None, events: Sequence[Event], origin: str, comparable: bool = True) -> str:
    """One or two sentences: how health changed, and what explains it."""
    if before is None or after is None:
        return "Health cannot be compared: one of the runs has no scored page."
    change = difference(before, after)
    if not change:
        said = f"Health is unchanged at {after:.1f}."
        return said if events else f"{said} Nothing differs between the two runs."
    said = f"Health {'rose' if change > 0 else 'fell'} {abs(change):.1f} points to {after:.1f}."
    if not comparable:
        said += " The runs share too few pages to compare them by this figure."
    leading = [event for event in events if event.shown and (event.shown > 0) == (change > 0) and event.kind != EventKind.OTHER]
    if not leading:
        return said
    top = leading[0]
    part = (top.shown or 0.0) / change
    how_much = "nearly all of it" if part >= NEARLY_ALL else "most of it" if part >= MOST else "the largest part of it"
    return f"{said} {event_title(top, origin)}; that accounts for {how_much} ({signed(top.shown or 0.0)})."


def served_headline(base: Appearance, head: Appearance, differing: int, appeared: int, gone: int) -> str:
    """What a site serves to one user agent and not to another: pages that differ, that only the head's reached, and that it did not."""
    one, other = _APPEARANCES[base], _APPEARANCES[head]
    if not (differing or appeared or gone):
        return f"{other[0].upper()}{other[1:]} is served the same as {one}."
    counted = (
        (differing, "differs", "differ"),
        (appeared, "is reached only so", "are reached only so"),
        (gone, "is not reached", "are not reached"),
    )
    listed = ", ".join(f"{fill('{n:page}', {'n': n})} {single if n == 1 else many}" for n, single, many in counted if n)
    return f"{other[0].upper()}{other[1:]} is served a different site from {one}: {listed}."


def _path(origin: str, url: str) -> str:
    """The path of a URL of the site; the whole URL of any other."""
    return url[len(origin) :] if url.startswith(f"{origin}/") else url


def _one(event: Event, origin: str) -> str:
    return _path(origin, event.examples[0]) if event.pages == 1 and event.examples else ""


def _subject(event: Event, origin: str, noun: str = "page") -> str:
    """The one page, or how many there are and where."""
    where = f" under {event.about}" if event.about.startswith("/") and event.about != "/" else ""
    return _one(event, origin) or fill(f"{{n:{noun}}}{where}", {"n": event.pages})


def _verb(event: Event, one: str, many: str) -> str:
    return one if event.pages == 1 else many


def _rule_path(event: Event) -> str:
    found = _RULE.match(event.about)
    return found["path"] if found else ""


def _blocked(event: Event, origin: str) -> str:
    return f"robots.txt now blocks {_rule_path(event) or _subject(event, origin)}"


def _freed(event: Event, origin: str) -> str:
    return f"robots.txt no longer blocks {_rule_path(event) or _subject(event, origin)}"


def _rule_detail(event: Event) -> list[str]:
    found = _RULE.match(event.about)
    line = f"line {found['line']}: {found['rule']}" if found and found["line"] else event.about
    said = "{n:page} that could be crawled before" if event.kind == EventKind.BLOCKED else "{n:page} can be crawled again"
    return [line, fill(said, {"n": event.pages})]


def _broken(event: Event, origin: str) -> str:
    return f"{_subject(event, origin)} {_verb(event, 'returns', 'return')} {event.way}"


def _failing(event: Event, origin: str) -> str:
    if event.way:
        return f"{_subject(event, origin)} {_verb(event, 'returns', 'return')} {event.way} errors"
    return f"{_subject(event, origin)} {_verb(event, 'does', 'do')} not respond"


def _recovered(event: Event, origin: str) -> str:
    if event.way == WhyNot.REDIRECT:
        return f"{_subject(event, origin, 'URL')} no longer {_verb(event, 'redirects', 'redirect')}"
    return f"{_subject(event, origin)} {_verb(event, 'responds', 'respond')} without an error again"


def _moved(event: Event, origin: str) -> str:
    target = f" to {_path(origin, event.target)}" if event.target else ""
    if event.way == "redirect":
        return f"{_subject(event, origin, 'URL')} now {_verb(event, 'redirects', 'redirect')}{target}"
    return f"{_subject(event, origin)} moved{target} without a redirect"


def _deindexed(event: Event, origin: str) -> str:
    pages = _subject(event, origin)
    if event.way == WhyNot.NOINDEX:
        return f"noindex on {pages}"
    if event.way == WhyNot.CANONICAL_ELSEWHERE:
        return f"Canonical of {pages} points elsewhere"
    return f"{pages} can no longer be indexed"


def _appeared(event: Event, origin: str) -> str:
    if event.about:
        return fill("{n:new page} built like ", {"n": event.pages}) + event.about
    return f"{_subject(event, origin)} appeared"


def _gone(event: Event, origin: str) -> str:
    if event.way:
        subject = (
            f"{one} ({event.way})" if (one := _one(event, origin)) else _subject(event, origin, f"URL that returned {event.way}")
        )
        if event.pages > 1:
            subject = subject.replace(f"URL that returned {event.way}s", f"URLs that returned {event.way}")
        return f"{subject} {_verb(event, 'is', 'are')} no longer linked"
    return f"{_subject(event, origin)} {_verb(event, 'is', 'are')} no longer linked or listed"


def _unreached(event: Event, origin: str) -> str:
    if event.way == WhyNot.LEFT_OUT:
        return f"The plan now excludes {_subject(event, origin)}"
    return f"The crawl could not reach {_subject(event, origin)}"


def _on(event: Event, origin: str) -> str:
    """Where the findings of an event are, after a colon; nothing for the site as a whole."""
    if not event.pages:
        return ""
    return ": " + (_one(event, origin) or fill(f"{{n:{'file' if event.files else 'page'}}}", {"n": event.pages}))


def _where(event: Event, origin: str) -> str:
    on = _on(event, origin).removeprefix(": ")
    return f" {'in' if event.files else 'on'} {on}" if on else ""


def _name(event: Event) -> str:
    return event.checks[0].summary if event.check_count == 1 and event.checks else ""


def _template(event: Event, _origin: str) -> str:
    pages = fill("{n:page}", {"n": event.pages}) + (f" built like {event.way}" if event.way and event.way != "/**" else "")
    if name := _name(event):
        return f"{name}: {pages}"
    return f"{pages} {_verb(event, 'has', 'have')} the same new faults"


def _worse(event: Event, origin: str) -> str:
    return f"{_name(event) or 'New findings'}{_on(event, origin)}"


def _returned(event: Event, origin: str) -> str:
    return f"Back{_where(event, origin)}: {_name(event) or fill('{n:check}', {'n': event.check_count})}"


def _fixed(event: Event, origin: str) -> str:
    return f"Fixed{_where(event, origin)}: {_name(event) or fill('{n:check}', {'n': event.check_count})}"


def _findings(said: str) -> Callable[[Event, str], str]:
    return lambda event, _origin: fill(said, {"n": sum(event.counts.values())})


def _edited(event: Event, origin: str) -> str:
    return f"{_FIELDS[event.about]} changed on {_subject(event, origin)}"


def _other(event: Event, _origin: str) -> str:
    return fill("{n:smaller change}", {"n": event.joined}) if event.joined else "Other changes"


_TITLES: dict[EventKind, Callable[[Event, str], str]] = {
    EventKind.BLOCKED: _blocked,
    EventKind.FREED: _freed,
    EventKind.BROKEN: _broken,
    EventKind.FAILING: _failing,
    EventKind.RECOVERED: _recovered,
    EventKind.MOVED: _moved,
    EventKind.DEINDEXED: _deindexed,
    EventKind.REINDEXED: lambda event, origin: f"{_subject(event, origin)} can be indexed again",
    EventKind.APPEARED: _appeared,
    EventKind.GONE: _gone,
    EventKind.UNREACHED: _unreached,
    EventKind.REACHED: lambda event, origin: f"The crawl reached {_subject(event, origin)} it had not reached before",
    EventKind.TEMPLATE: _template,
    EventKind.WORSE: _worse,
    EventKind.RETURNED: _returned,
    EventKind.FIXED: _fixed,
    EventKind.ENDED: _findings("{n:finding} went with their pages or files"),
    EventKind.UNVERIFIED: _findings("{n:finding} could not be checked again"),
    EventKind.JUDGING: _findings("Checks, limits or severities changed: {n:finding}"),
    EventKind.WAIVED: _findings("{n:finding} waived"),
    EventKind.WAIVER_ENDED: _findings("{n:finding} no longer waived"),
    EventKind.EDITED: _edited,
    EventKind.OTHER: _other,
}

_WHY_BACK = {WhyNot.NOINDEX: "noindex removed", WhyNot.CANONICAL_ELSEWHERE: "canonical corrected"}
_DETAILS: dict[EventKind, Callable[[Event], list[str]]] = {
    EventKind.BLOCKED: _rule_detail,
    EventKind.FREED: _rule_detail,
    EventKind.REINDEXED: lambda event: [_WHY_BACK.get(WhyNot(event.way), "")] if event.way else [],
    EventKind.UNREACHED: lambda event: (
        ["linked only from pages that are blocked or could not be read"] if event.way == BEHIND else []
    ),
    EventKind.UNVERIFIED: lambda _: ["unverified, so neither fixed nor still there"],
    EventKind.JUDGING: lambda _: ["neither new nor fixed: the rule made the difference, or may have"],
}
# Which checks these touch says nothing: all there are. The titles of the others name their check where there is but one.
_SELF_EVIDENT = (EventKind.BLOCKED, EventKind.FREED, EventKind.UNREACHED, EventKind.REACHED)
_NAMES_ITS_CHECK = (EventKind.TEMPLATE, EventKind.WORSE, EventKind.RETURNED, EventKind.FIXED)


def _checks(event: Event) -> list[str]:
    """The checks that an event's findings are of, those that weigh most first."""
    if not event.checks or event.kind in _SELF_EVIDENT or (event.kind in _NAMES_ITS_CHECK and event.check_count == 1):
        return []
    named = ", ".join(f"{each.summary} ({each.findings:,})" for each in event.checks[:_NAMED_MAX])
    more = event.check_count - min(_NAMED_MAX, len(event.checks))
    return [named + (fill(" and {n:more check}", {"n": more}) if more else "")]
