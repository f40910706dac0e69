"""The tables of the register."""

from __future__ import annotations

from datetime import UTC, date, datetime
from typing import Any

from sqlalchemy import JSON, DateTime, Dialect, ForeignKey, Index, LargeBinary, String, Text, TypeDecorator, UniqueConstraint
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship


class UtcTime(TypeDecorator[datetime]):
    """Aware UTC moments; SQLite keeps no zone, so it is put back when a row is read."""

    impl = DateTime
    cache_ok = True

    def process_bind_param(self, value: datetime | None, dialect: Dialect) -> datetime | None:  # noqa: ARG002
        """To naive UTC."""
        return value.astimezone(UTC).replace(tzinfo=None) if value is not None else None

    def process_result_value(self, value: datetime | None, dialect: Dialect) -> datetime | None:  # noqa: ARG002
        """To aware UTC."""
        return value.replace(tzinfo=UTC) if value is not None else None


class Base(DeclarativeBase):
    """All tables."""

    type_annotation_map = {datetime: UtcTime, dict[str, Any]: JSON, list[str]: JSON, list[int]: JSON, list[dict[str, Any]]: JSON}


class Member(Base):
    """Somebody who signs in. A guest belongs to one client."""

    __tablename__ = "member"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(200))
    email: Mapped[str] = mapped_column(String(320), unique=True)
    role: Mapped[str] = mapped_column(String(20))
    password_hash: Mapped[str] = mapped_column(String(200))
    client_id: Mapped[int | None] = mapped_column(ForeignKey("client.id", ondelete="CASCADE"))
    created_at: Mapped[datetime]
    active: Mapped[bool] = mapped_column(default=True)


class SignIn(Base):
    """A session of the console; only the hash of its secret is kept."""

    __tablename__ = "sign_in"
    secret_hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    member_id: Mapped[int] = mapped_column(ForeignKey("member.id", ondelete="CASCADE"))
    expires_at: Mapped[datetime]


class Token(Base):
    """A bearer token; shown once, kept as a hash."""

    __tablename__ = "token"
    id: Mapped[int] = mapped_column(primary_key=True)
    member_id: Mapped[int] = mapped_column(ForeignKey("member.id", ondelete="CASCADE"))
    name: Mapped[str] = mapped_column(String(200))
    secret_hash: Mapped[str] = mapped_column(String(64), unique=True)
    begins: Mapped[str] = mapped_column(String(12))
    created_at: Mapped[datetime]
    revoked_at: Mapped[datetime | None]


class Client(Base):
    """A client of the agency."""

    __tablename__ = "client"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(200), unique=True)
    created_at: Mapped[datetime]
    sites: Mapped[list[Site]] = relationship(back_populates="client", cascade="all, delete-orphan", order_by="Site.id")


class Site(Base):
    """A site of a client (``own``) or one it competes with (``competitor``)."""

    __tablename__ = "site"
    __table_args__ = (UniqueConstraint("client_id", "host"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    client_id: Mapped[int] = mapped_column(ForeignKey("client.id", ondelete="CASCADE"))
    host: Mapped[str] = mapped_column(String(300))
    kind: Mapped[Any] = mapped_column(String(20))
    plan: Mapped[dict[str, Any]]
    plan_version: Mapped[int] = mapped_column(default=1)
    created_at: Mapped[datetime]
    client: Mapped[Client] = relationship(back_populates="sites")
    schedule: Mapped[Schedule | None] = relationship(back_populates="site", cascade="all, delete-orphan")


class SiteAccess(Base):
    """What opens a site that is not public, sealed by the vault."""

    __tablename__ = "site_access"
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"), primary_key=True)
    sealed: Mapped[str] = mapped_column(Text)
    changed_at: Mapped[datetime]


class Schedule(Base):
    """When a site's runs are due, and who is told."""

    __tablename__ = "schedule"
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"), primary_key=True)
    rule: Mapped[str] = mapped_column(String(300))
    at: Mapped[str] = mapped_column(String(8))
    zone: Mapped[str] = mapped_column(String(60))
    anchor: Mapped[datetime]
    next_due_at: Mapped[datetime | None]
    mail_to: Mapped[list[str]]
    site: Mapped[Site] = relationship(back_populates="schedule")


class Run(Base):
    """One audit. ``summary`` is there when it is done; page-level results are in its run file."""

    __tablename__ = "run"
    __table_args__ = (Index("run_site", "site_id", "purpose", "state", "requested_at"),)
    id: Mapped[str] = mapped_column(String(20), primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    state: Mapped[str] = mapped_column(String(20))
    purpose: Mapped[str] = mapped_column(String(20))
    round_id: Mapped[int | None] = mapped_column(ForeignKey("benchmark_round.id", ondelete="CASCADE"))
    plan: Mapped[dict[str, Any]]
    reason: Mapped[str] = mapped_column(Text, default="")
    requested_at: Mapped[datetime]
    started_at: Mapped[datetime | None]
    finished_at: Mapped[datetime | None]
    clock_offset_s: Mapped[float] = mapped_column(default=0.0)
    base_id: Mapped[str | None] = mapped_column(String(20))
    health: Mapped[float | None]
    summary: Mapped[dict[str, Any] | None]
    changes: Mapped[dict[str, Any] | None]
    site: Mapped[Site] = relationship()


class Todo(Base):
    """A piece of work handed to somebody."""

    __tablename__ = "todo"
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    title: Mapped[str] = mapped_column(String(300))
    note: Mapped[str] = mapped_column(Text, default="")
    check_id: Mapped[str] = mapped_column(String(80), default="")
    severity: Mapped[Any] = mapped_column(String(20))
    state: Mapped[Any] = mapped_column(String(20))
    flag: Mapped[str] = mapped_column(String(300), default="")
    drop_reason: Mapped[str] = mapped_column(Text, default="")
    assignee_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    due: Mapped[date | None]
    places: Mapped[int] = mapped_column(default=0)
    cleared: Mapped[int] = mapped_column(default=0)
    version: Mapped[int] = mapped_column(default=1)
    created_at: Mapped[datetime]
    closed_at: Mapped[datetime | None]
    site: Mapped[Site] = relationship()
    assignee: Mapped[Member | None] = relationship(foreign_keys=[assignee_id])
    linked: Mapped[list[TodoFinding]] = relationship(cascade="all, delete-orphan")
    events: Mapped[list[TodoEvent]] = relationship(cascade="all, delete-orphan", order_by="TodoEvent.id")


class TodoFinding(Base):
    """A finding a to-do is about, by its fingerprint; ``outcome`` is what the last run said of it."""

    __tablename__ = "todo_finding"
    todo_id: Mapped[int] = mapped_column(ForeignKey("todo.id", ondelete="CASCADE"), primary_key=True)
    fingerprint: Mapped[bytes] = mapped_column(LargeBinary(16), primary_key=True)
    check_id: Mapped[str] = mapped_column(String(80))
    subject: Mapped[str] = mapped_column(Text)
    place: Mapped[str] = mapped_column(Text)
    outcome: Mapped[str] = mapped_column(String(20), default="still")


class TodoEvent(Base):
    """Something that happened to a to-do: a change by a member, a comment, or what a run said."""

    __tablename__ = "todo_event"
    id: Mapped[int] = mapped_column(primary_key=True)
    todo_id: Mapped[int] = mapped_column(ForeignKey("todo.id", ondelete="CASCADE"))
    at: Mapped[datetime]
    member_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    run_id: Mapped[str | None] = mapped_column(String(20))
    kind: Mapped[str] = mapped_column(String(20))
    text: Mapped[str] = mapped_column(Text)
    member: Mapped[Member | None] = relationship()


class WaiverRow(Base):
    """A waiver with its reason."""

    __tablename__ = "waiver"
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    check_id: Mapped[str] = mapped_column(String(80))
    pattern: Mapped[str] = mapped_column(Text, default="")
    fingerprint: Mapped[str] = mapped_column(String(32), default="")
    reason: Mapped[str] = mapped_column(Text)
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    start: Mapped[date]
    end: Mapped[date | None]
    created_at: Mapped[datetime]
    author: Mapped[Member | None] = relationship()


class Remark(Base):
    """A dated note on a site's timeline."""

    __tablename__ = "remark"
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    day: Mapped[date]
    text: Mapped[str] = mapped_column(Text)
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    created_at: Mapped[datetime]


class Benchmark(Base):
    """An own site and its competitors under one plan."""

    __tablename__ = "benchmark"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(200), unique=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    competitor_ids: Mapped[list[int]]
    pages_max: Mapped[int]
    created_at: Mapped[datetime]
    site: Mapped[Site] = relationship()
    rounds: Mapped[list[BenchmarkRound]] = relationship(cascade="all, delete-orphan", order_by="BenchmarkRound.id")


class BenchmarkRound(Base):
    """One run of every site of a benchmark within one window."""

    __tablename__ = "benchmark_round"
    id: Mapped[int] = mapped_column(primary_key=True)
    benchmark_id: Mapped[int] = mapped_column(ForeignKey("benchmark.id", ondelete="CASCADE"))
    requested_at: Mapped[datetime]


class Metric(Base):
    """A figure the crawl cannot know, with its date and source."""

    __tablename__ = "metric"
    __table_args__ = (UniqueConstraint("site_id", "name", "day"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    name: Mapped[str] = mapped_column(String(80))
    day: Mapped[date]
    value: Mapped[float]
    source: Mapped[str] = mapped_column(String(200))


class Report(Base):
    """A report as it was made: the values are kept, so that it can be drawn again as it was."""

    __tablename__ = "report"
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    title: Mapped[str] = mapped_column(String(300))
    from_day: Mapped[date]
    to_day: Mapped[date]
    note: Mapped[str] = mapped_column(Text, default="")
    values: Mapped[dict[str, Any]]
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    created_at: Mapped[datetime]
    site: Mapped[Site] = relationship()


class Delivery(Base):
    """A mail that was sent, or could not be."""

    __tablename__ = "delivery"
    id: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime]
    run_id: Mapped[str | None] = mapped_column(String(20))
    recipient: Mapped[str] = mapped_column(String(320))
    subject: Mapped[str] = mapped_column(String(300))
    error: Mapped[str] = mapped_column(Text, default="")


class LogEntry(Base):
    """Who changed what, when."""

    __tablename__ = "log_entry"
    id: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime]
    member_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    action: Mapped[str] = mapped_column(String(80))
    subject: Mapped[str] = mapped_column(String(300))
