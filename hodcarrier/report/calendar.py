"""To-dos as a calendar by RFC 5545, for programs that subscribe to one."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta

from icalendar import Calendar, Event

from hodcarrier import __version__
from hodcarrier.core.states import Priority, TodoState
from hodcarrier.wire.todos import TodoOut

# 1 is the most pressing, 9 the least (RFC 5545, 3.8.1.9).
_PRIORITY = {Priority.URGENT: 1, Priority.HIGH: 3, Priority.NORMAL: 5, Priority.LOW: 9}
# How long a program may keep what it read before it asks again (RFC 7986, 5.7).
REFRESH = timedelta(hours=1)


def todo_calendar(name: str, todos: Sequence[TodoOut], address: str, now: datetime) -> bytes:
    """A calendar with a whole-day event on the due date of every to-do that has one.

    Events, because programs that subscribe to a calendar show those and leave to-dos out; they block nobody's time. ``address`` is where the
    console answers, for the links.
    """
    calendar = Calendar()
    calendar.add("prodid", f"-//Hodcarrier//To-dos {__version__}//EN")
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    calendar.add("name", name)
    calendar.add("x-wr-calname", name)
    calendar.add("refresh-interval", REFRESH, parameters={"value": "DURATION"})
    for todo in todos:
        if todo.due is not None:
            calendar.add_component(_event(todo, address, now))
    content: bytes = calendar.to_ical()
    return content


def _event(todo: TodoOut, address: str, now: datetime) -> Event:
    event = Event()
    event.add("uid", f"todo-{todo.id}@hodcarrier")
    event.add("dtstamp", now)
    event.add("dtstart", todo.due)
    event.add("dtend", todo.due + timedelta(days=1) if todo.due else None)
    event.add("transp", "TRANSPARENT")
    event.add("created", todo.created_at)
    event.add("sequence", todo.version)
    event.add("summary", f"{todo.title} ({todo.site_host})")
    event.add("description", _description(todo))
    event.add("priority", _PRIORITY[todo.priority])
    event.add("categories", [todo.client_name, *todo.labels])
    if address:
        event.add("url", f"{address.rstrip('/')}/todos/{todo.id}")
    return event


def _description(todo: TodoOut) -> str:
    lines = [
        f"{todo.client_name}, {todo.site_host}",
        f"{todo.severity}, {todo.state}" + (", awaits audit" if todo.state == TodoState.DONE else ""),
        *([f"Assignee: {todo.assignee}"] if todo.assignee else []),
        *([f"{todo.cleared} of {todo.places} places cleared"] if todo.places else []),
        *([todo.flag] if todo.flag else []),
        *(["", todo.note] if todo.note else []),
    ]
    return "\n".join(lines)
