"""The desk as a morning mail: the same lines that the console and the command show."""

from __future__ import annotations

from collections.abc import Sequence

from hodcarrier.core.words import fill, signed
from hodcarrier.report.mail import MailItem, MailPart
from hodcarrier.wire.desk import DeskOut

ITEMS_SHOWN = 15


def desk_parts(desk: DeskOut, address: str) -> list[MailPart]:
    """What a desk says, under the headings of the console. ``address`` is where the console answers; without one there are no links."""

    def url(path: str) -> str:
        return f"{address}{path}" if address else ""

    items = [
        MailItem(
            " · ".join(each for each in (item.text, item.client_name) if each),
            url(item.link),
            [each for each in (item.severity or "", item.detail) if each],
        )
        for item in desk.items[:ITEMS_SHOWN]
    ]
    happened = [
        MailItem(
            f"{signed(event.shown)} {event.title} · {event.client_name}", url(event.link), [event.detail] if event.detail else []
        )
        for event in desk.events
    ]
    judged = [MailItem(f"{todo.title} · {todo.client_name}", url(f"/todos/{todo.todo_id}"), [todo.text]) for todo in desk.judged]
    across = [
        MailItem(
            f"{pattern.summary}: rose on {len(pattern.sites)} sites since {pattern.since:%A}",
            url(f"/catalogue#{pattern.check}"),
            [f"{site.host} +{site.findings:,}" for site in pattern.sites],
        )
        for pattern in desk.patterns
    ]
    mine = [
        MailItem(
            f"{todo.title} · {todo.client_name}",
            url(f"/todos/{todo.id}"),
            [
                fill("{n:day} overdue", {"n": todo.days_late})
                if todo.overdue
                else f"due {todo.due:%a} {todo.due.day} {todo.due:%b}"
            ]
            if todo.due
            else [],
        )
        for todo in desk.my_todos
    ]
    return _filled(
        [
            MailPart("Needs attention", _with_rest(items, len(desk.items), url("/"))),
            MailPart(f"Since {desk.since:%A}", _with_rest(happened, len(happened) + desk.more_events, url("/"))),
            MailPart("To-dos confirmed or opened again", judged),
            MailPart("On several clients' sites", across),
            MailPart("Your to-dos", mine),
        ]
    )


def desk_subject(desk: DeskOut) -> str:
    """The subject of the morning mail: the day, and how it looks."""
    return f"Desk, {desk.now:%a} {desk.now.day} {desk.now:%b}: " + ("everything is quiet" if desk.quiet else desk_headline(desk))


def desk_headline(desk: DeskOut) -> str:
    """How the day looks, in a few words."""
    worse = sum(1 for site in desk.sites if site.change is not None and site.change < -0.5)
    said = [
        fill("{n:site} got worse", {"n": worse}) if worse else "",
        f"{len(desk.items):,} need attention" if len(desk.items) != 1 else "1 needs attention",
        fill("{n:to-do} overdue", {"n": desk.overdue}) if desk.overdue else "",
    ]
    return ", ".join(each for each in said if each and not each.startswith("0 "))


def _with_rest(items: Sequence[MailItem], total: int, url: str) -> list[MailItem]:
    return [*items, *([MailItem(f"{total - len(items)} more on the desk", url)] if total > len(items) else [])]


def _filled(parts: Sequence[MailPart]) -> list[MailPart]:
    return [part for part in parts if part.items]
