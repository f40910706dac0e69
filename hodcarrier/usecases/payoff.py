"""Whether a to-do paid: clicks to its pages before it was done and after it was confirmed."""

from __future__ import annotations

from datetime import date, timedelta

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from hodcarrier.core.errors import Conflict
from hodcarrier.core.figures.payoff import DAYS, paid
from hodcarrier.core.figures.words import paid_sentence
from hodcarrier.core.states import FigureKind, PaidEnd, TodoEventKind, TodoState
from hodcarrier.figurefile import search
from hodcarrier.figurefile.reading import last_day
from hodcarrier.register.models import Todo, TodoEvent, TodoFinding
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.figures import PaidOut


def get_paid(work: Workspace, todo_id: int) -> PaidOut:
    """Compare. Raises :class:`Conflict` for a to-do that no audit has confirmed: nothing was fixed as far as anybody knows."""
    with work.reading() as session:
        todo = fetch(session, Todo, todo_id, "to-do")
        if todo.state != TodoState.CONFIRMED or todo.closed_at is None:
            raise Conflict("No audit has confirmed this to-do yet.", "Ask again four weeks after it was confirmed.")
        confirmed = todo.closed_at.date()
        done = min(_done_on(session, todo) or confirmed, confirmed)
        subjects = session.scalars(select(TodoFinding.subject).where(TodoFinding.todo_id == todo_id).distinct())
        pages = [each for each in subjects if each.startswith(("http://", "https://"))]
        site_id = todo.site_id
    before_first, first = done - timedelta(days=DAYS), confirmed + timedelta(days=1)
    first += timedelta(days=(before_first - first).days % 7)  # so that days of one weekday stand side by side
    last = first + timedelta(days=DAYS - 1)
    out = PaidOut(
        end=PaidEnd.TOO_EARLY,
        sentence="",
        pages=len(pages),
        before_first=before_first,
        before_last=done - timedelta(days=1),
        first=first,
        last=last,
    )
    with work.figures.read(site_id) as db:
        known = last_day(db, FigureKind.SEARCH) if db is not None else None
        if db is None or known is None:
            out.sentence = "There are no search figures of this site: import them, and it can be told four weeks after the fix."
            return out
        if known < last:
            out.sentence = f"Too early to tell: figures up to {_day(last)} are needed, the last are of {_day(known)}."
            return out
        of, rest, known_days = search.clicks_of_pages(db, pages, before_first, last)
    gap = (first - before_first).days
    missing = 2 * DAYS - int(known_days[:DAYS].sum() + known_days[gap : gap + DAYS].sum())
    if missing:
        days_words = "one day" if missing == 1 else f"{missing} days"
        out.end, out.sentence = PaidEnd.TOO_FEW, f"It cannot be told: of {days_words} there are no figures by page."
        return out
    found = paid(of[:DAYS], of[gap : gap + DAYS], rest[:DAYS], rest[gap : gap + DAYS])
    return out.model_copy(update={**vars(found), "sentence": paid_sentence(found, len(pages))})


def _done_on(session: Session, todo: Todo) -> date | None:
    """The day on which somebody last said that it was done."""
    said = session.scalar(
        select(func.max(TodoEvent.at)).where(
            TodoEvent.todo_id == todo.id, TodoEvent.kind == TodoEventKind.STATE, TodoEvent.text.like("From % to done.%")
        )
    )
    return said.date() if said is not None else None


def _day(day: date) -> str:
    return f"{day:%d %B %Y}".lstrip("0")
