"""To-dos, their places and their story."""

from __future__ import annotations

from datetime import date, datetime

from sqlalchemy import ForeignKey, Index, LargeBinary, String, Text, UniqueConstraint, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from hodcarrier.core.states import Approval, MailKind, PlaceOutcome, Priority, Severity, TodoEventKind, TodoState
from hodcarrier.register.models.base import Base
from hodcarrier.register.models.people import Member
from hodcarrier.register.models.sites import Site


class Todo(Base):
    """A piece of work handed to somebody. ``gain`` is what health would rise by in the latest run if all its places passed, in points."""

    __tablename__ = "todo"
    __table_args__ = (Index("todo_site", "site_id", "state"), Index("todo_assignee", "assignee_id", "state"))
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    title: Mapped[str] = mapped_column(String(300))
    note: Mapped[str] = mapped_column(Text, default="")
    check_id: Mapped[str] = mapped_column(String(80), default="")
    severity: Mapped[Severity]
    state: Mapped[TodoState]
    flag: Mapped[str] = mapped_column(String(300), default="")
    drop_reason: Mapped[str] = mapped_column(Text, default="")
    assignee_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    due: Mapped[date | None]
    priority: Mapped[Priority] = mapped_column(default=Priority.NORMAL)
    estimate_hours: Mapped[float | None]
    gain: Mapped[float | None]
    approval: Mapped[Approval] = mapped_column(default=Approval.NONE)
    labels: Mapped[list[str]] = mapped_column(default=list)
    places: Mapped[int] = mapped_column(default=0)
    cleared: Mapped[int] = mapped_column(default=0)
    version: Mapped[int] = mapped_column(default=1)
    created_at: Mapped[datetime]
    closed_at: Mapped[datetime | None]
    site: Mapped[Site] = relationship()
    assignee: Mapped[Member | None] = relationship(foreign_keys=[assignee_id])
    author: Mapped[Member | None] = relationship(foreign_keys=[author_id])
    watchers: Mapped[list[Member]] = relationship(secondary="todo_watcher", order_by="Member.name")
    linked: Mapped[list[TodoFinding]] = relationship(cascade="all, delete-orphan")
    events: Mapped[list[TodoEvent]] = relationship(cascade="all, delete-orphan", order_by="TodoEvent.id")


class TodoWatcher(Base):
    """Somebody who is told of a to-do without doing it."""

    __tablename__ = "todo_watcher"
    __table_args__ = (Index("todo_watcher_member", "member_id"),)
    todo_id: Mapped[int] = mapped_column(ForeignKey("todo.id", ondelete="CASCADE"), primary_key=True)
    member_id: Mapped[int] = mapped_column(ForeignKey("member.id", ondelete="CASCADE"), primary_key=True)


class TodoFinding(Base):
    """A finding a to-do is about, by its fingerprint; ``outcome`` is what the last run said of it.

    ``rule`` is what decided when it was seen last: the check's revision and limits. ``live`` follows the state of the to-do, so
    that the database itself keeps a finding out of a second one.
    """

    __tablename__ = "todo_finding"
    __table_args__ = (Index("todo_finding_live", "site_id", "fingerprint", unique=True, sqlite_where=text("live")),)
    todo_id: Mapped[int] = mapped_column(ForeignKey("todo.id", ondelete="CASCADE"), primary_key=True)
    fingerprint: Mapped[bytes] = mapped_column(LargeBinary(16), primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    live: Mapped[bool] = mapped_column(default=True)
    check_id: Mapped[str] = mapped_column(String(80))
    rule: Mapped[str] = mapped_column(Text, default="")
    subject: Mapped[str] = mapped_column(Text)
    place: Mapped[str] = mapped_column(Text)
    outcome: Mapped[PlaceOutcome] = mapped_column(default=PlaceOutcome.STILL)


class TodoEvent(Base):
    """Something that happened to a to-do: a change by a member, a comment, or what a run said. ``by_link`` names who had a share link."""

    __tablename__ = "todo_event"
    __table_args__ = (Index("todo_event_todo", "todo_id"), Index("todo_event_at", "kind", "at"))
    id: Mapped[int] = mapped_column(primary_key=True)
    todo_id: Mapped[int] = mapped_column(ForeignKey("todo.id", ondelete="CASCADE"))
    at: Mapped[datetime]
    member_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    run_id: Mapped[str | None] = mapped_column(String(20))
    kind: Mapped[TodoEventKind]
    text: Mapped[str] = mapped_column(Text)
    by_link: Mapped[str] = mapped_column(String(100), default="")
    member: Mapped[Member | None] = relationship()


class TodoMail(Base):
    """Something that a member is to be told of a to-do by mail, once ``due_at`` has come.

    ``occasion`` is what it is about, such as one event or one due date: of each, everybody is told once. ``taken_at`` is when it went into a mail
    (``delivery_id``), or was found to be no longer so.
    """

    __tablename__ = "todo_mail"
    __table_args__ = (
        UniqueConstraint("todo_id", "member_id", "kind", "occasion"),
        Index("todo_mail_due", "due_at", sqlite_where=text("taken_at IS NULL")),
        Index("todo_mail_member", "member_id"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    todo_id: Mapped[int] = mapped_column(ForeignKey("todo.id", ondelete="CASCADE"))
    member_id: Mapped[int] = mapped_column(ForeignKey("member.id", ondelete="CASCADE"))
    kind: Mapped[MailKind]
    occasion: Mapped[str] = mapped_column(String(40))
    at: Mapped[datetime]
    due_at: Mapped[datetime]
    text: Mapped[str] = mapped_column(Text)
    quote: Mapped[str] = mapped_column(Text, default="")
    taken_at: Mapped[datetime | None]
    delivery_id: Mapped[int | None] = mapped_column(ForeignKey("delivery.id", ondelete="SET NULL"))
    todo: Mapped[Todo] = relationship()


class TodoLink(Base):
    """A share link of a to-do for somebody without an account, kept as the hash of the secret in its address. ``seen`` is how often it was opened."""

    __tablename__ = "todo_link"
    __table_args__ = (Index("todo_link_todo", "todo_id"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    todo_id: Mapped[int] = mapped_column(ForeignKey("todo.id", ondelete="CASCADE"))
    name: Mapped[str] = mapped_column(String(100))
    secret_hash: Mapped[str] = mapped_column(String(64), unique=True)
    asks_approval: Mapped[bool] = mapped_column(default=False)
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    created_at: Mapped[datetime]
    expires_at: Mapped[datetime]
    revoked_at: Mapped[datetime | None]
    seen: Mapped[int] = mapped_column(default=0)
    seen_at: Mapped[datetime | None]
    todo: Mapped[Todo] = relationship()
