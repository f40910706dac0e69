"""What belongs to to-dos beside themselves: attachments, and those that come back."""

from __future__ import annotations

from datetime import date, datetime

from sqlalchemy import ForeignKey, Index, LargeBinary, String, Text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from hodcarrier.core.states import Priority
from hodcarrier.register.models.base import Base
from hodcarrier.register.models.people import Member
from hodcarrier.register.models.sites import Site


class RecurringTodo(Base):
    """A to-do that is made again and again, on the days of a rule (RFC 5545); next on ``next_on``, due ``days`` working days later. ``last_id`` is the one
    that was made last: while it is not done, none is made."""

    __tablename__ = "recurring_todo"
    __table_args__ = (Index("recurring_todo_site", "site_id"), Index("recurring_todo_next", "next_on"))
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    title: Mapped[str] = mapped_column(String(300))
    note: Mapped[str] = mapped_column(Text, default="")
    rule: Mapped[str] = mapped_column(String(300))
    anchor: Mapped[date]
    next_on: Mapped[date | None]
    days: Mapped[int]
    assignee_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    priority: Mapped[Priority] = mapped_column(default=Priority.NORMAL)
    estimate_hours: Mapped[float | None]
    labels: Mapped[list[str]] = mapped_column(default=list)
    last_id: Mapped[int | None] = mapped_column(ForeignKey("todo.id", ondelete="SET NULL"))
    created_at: Mapped[datetime]
    site: Mapped[Site] = relationship()
    assignee: Mapped[Member | None] = relationship(foreign_keys=[assignee_id])


class TodoFile(Base):
    """An attachment of a to-do. ``media`` is what it is by its content, not by what its name says."""

    __tablename__ = "todo_file"
    __table_args__ = (Index("todo_file_todo", "todo_id"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    todo_id: Mapped[int] = mapped_column(ForeignKey("todo.id", ondelete="CASCADE"))
    name: Mapped[str] = mapped_column(String(200))
    media: Mapped[str] = mapped_column(String(100))
    size: Mapped[int]
    content: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    created_at: Mapped[datetime]
    author: Mapped[Member | None] = relationship()
