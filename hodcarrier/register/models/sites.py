"""Clients, their sites, and what is noted about them."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any

from sqlalchemy import ForeignKey, Index, String, Text, UniqueConstraint, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from hodcarrier.core.plan import Plan
from hodcarrier.core.profile import Rules
from hodcarrier.core.states import FigureKind, FileStage, RemarkOrigin, SiteKind
from hodcarrier.register.models.base import Base
from hodcarrier.register.models.people import Member


class Client(Base):
    """A client of the agency. ``holidays`` are days (ISO 8601) that are no working days for it, ``targets`` working days until to-dos are due,
    by severity, where they are not the agency's own. On ``blackout_days`` no audit starts by itself. ``owner`` is who is in charge, ``colour`` that of
    the client's brand (``#rrggbb``). One that is archived rests: its sites are ``archived`` too. ``approves``: its to-dos wait until somebody of the client has
    agreed. ``brand_names`` are names by which people look for it, ``language`` is what its reports are written in."""

    __tablename__ = "client"
    __table_args__ = (Index("client_name", text("name COLLATE NOCASE"), unique=True), Index("client_owner", "owner_id"))
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(200))
    holidays: Mapped[list[str]] = mapped_column(default=list)
    targets: Mapped[dict[str, int]] = mapped_column(default=dict)
    created_at: Mapped[datetime]
    archived_at: Mapped[datetime | None]
    tags: Mapped[list[str]] = mapped_column(default=list)
    note: Mapped[str] = mapped_column(Text, default="")
    colour: Mapped[str] = mapped_column(String(7), default="")
    language: Mapped[str] = mapped_column(String(10), default="en")
    logo_id: Mapped[int | None] = mapped_column(ForeignKey("logo.id"))
    blackout_days: Mapped[list[str]] = mapped_column(default=list)
    approves: Mapped[bool] = mapped_column(default=False)
    brand_names: Mapped[list[str]] = mapped_column(default=list)
    owner_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    owner: Mapped[Member | None] = relationship(foreign_keys=[owner_id])
    members: Mapped[list[Member]] = relationship(secondary="client_member", order_by="Member.name")
    sites: Mapped[list[Site]] = relationship(back_populates="client", cascade="all, delete-orphan", order_by="Site.id")

    @property
    def blackout_dates(self) -> list[date]:
        """The days on which nothing starts by itself."""
        return [date.fromisoformat(day) for day in self.blackout_days]

    @property
    def holiday_dates(self) -> list[date]:
        """The days that are no working days."""
        return [date.fromisoformat(day) for day in self.holidays]


class ClientMember(Base):
    """Somebody who works for a client that not everybody at the agency may see. A client without any is open to all."""

    __tablename__ = "client_member"
    __table_args__ = (Index("client_member_member", "member_id"),)
    client_id: Mapped[int] = mapped_column(ForeignKey("client.id", ondelete="CASCADE"), primary_key=True)
    member_id: Mapped[int] = mapped_column(ForeignKey("member.id", ondelete="CASCADE"), primary_key=True)


class Profile(Base):
    """What several sites share of how they are judged."""

    __tablename__ = "profile"
    __table_args__ = (Index("profile_name", text("name COLLATE NOCASE"), unique=True),)
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(100))
    note: Mapped[str] = mapped_column(Text, default="")
    rules: Mapped[Rules]
    version: Mapped[int] = mapped_column(default=1)
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]


class Preset(Base):
    """What sites are set up with: settings of a plan, a schedule (rule, hours between which starts are spread, zone), and to-dos that a new client's
    site begins with."""

    __tablename__ = "preset"
    __table_args__ = (Index("preset_name", text("name COLLATE NOCASE"), unique=True),)
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(100))
    note: Mapped[str] = mapped_column(Text, default="")
    settings: Mapped[dict[str, Any]] = mapped_column(default=dict)
    schedule: Mapped[dict[str, Any] | None]
    todos: Mapped[list[dict[str, Any]]] = mapped_column(default=list)
    version: Mapped[int] = mapped_column(default=1)
    created_at: Mapped[datetime]
    changed_at: Mapped[datetime]


class Site(Base):
    """A site of a client (``own``) or one it competes with (``competitor``). Its ``plan`` names no profile: ``profile_id`` does. It is ``archived``
    with its client."""

    __tablename__ = "site"
    __table_args__ = (UniqueConstraint("client_id", "host"), Index("site_profile", "profile_id"))
    id: Mapped[int] = mapped_column(primary_key=True)
    client_id: Mapped[int] = mapped_column(ForeignKey("client.id", ondelete="CASCADE"))
    host: Mapped[str] = mapped_column(String(300))
    kind: Mapped[SiteKind]
    plan: Mapped[Plan] = mapped_column(deferred=True)
    plan_version: Mapped[int] = mapped_column(default=1)
    profile_id: Mapped[int | None] = mapped_column(ForeignKey("profile.id"))
    created_at: Mapped[datetime]
    archived: Mapped[bool] = mapped_column(default=False)
    tags: Mapped[list[str]] = mapped_column(default=list)
    client: Mapped[Client] = relationship(back_populates="sites")
    profile: Mapped[Profile | None] = relationship()
    schedule: Mapped[Schedule | None] = relationship(back_populates="site", cascade="all, delete-orphan")


class SiteAccess(Base):
    """What opens a site that is not public, sealed by the vault, and the origins it may be sent to (``bound``)."""

    __tablename__ = "site_access"
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"), primary_key=True)
    sealed: Mapped[str] = mapped_column(Text)
    bound: Mapped[dict[str, Any]]
    changed_at: Mapped[datetime]


class ByRule:
    """What falls due by a rule: a recurrence at a time of day in a zone, counted from ``anchor``. One that can be kept no more is due never."""

    rule: Mapped[str] = mapped_column(String(300))
    at: Mapped[str] = mapped_column(String(8))
    zone: Mapped[str] = mapped_column(String(60))
    anchor: Mapped[datetime]
    next_due_at: Mapped[datetime | None]


class Schedule(ByRule, Base):
    """When a site's runs are due, and who is told. While it is paused none is. One that failed is tried again once, at ``retry_at``."""

    __tablename__ = "schedule"
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"), primary_key=True)
    mail_to: Mapped[list[str]]
    paused_at: Mapped[datetime | None]
    retry_at: Mapped[datetime | None]
    retry_of: Mapped[str | None] = mapped_column(String(20))
    site: Mapped[Site] = relationship(back_populates="schedule")


class Remark(Base):
    """A dated note on a site's timeline, by a member, or by the service at a run: of each origin one."""

    __tablename__ = "remark"
    __table_args__ = (
        Index("remark_site", "site_id", "day"),
        Index("remark_run", "run_id", "origin", unique=True, sqlite_where=text("run_id IS NOT NULL")),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    day: Mapped[date]
    text: Mapped[str] = mapped_column(Text)
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    created_at: Mapped[datetime]
    origin: Mapped[RemarkOrigin] = mapped_column(default=RemarkOrigin.MEMBER)
    run_id: Mapped[str | None] = mapped_column(String(20))
    author: Mapped[Member | None] = relationship()


class WaiverRow(Base):
    """A waiver with its reason. ``replaced``: it had ended when another one of the same scope was made."""

    __tablename__ = "waiver"
    __table_args__ = (
        Index("waiver_scope", "site_id", "check_id", "pattern", "fingerprint", unique=True, sqlite_where=text("NOT replaced")),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    check_id: Mapped[str] = mapped_column(String(80))
    pattern: Mapped[str] = mapped_column(Text, default="")
    fingerprint: Mapped[str] = mapped_column(String(32), default="")
    reason: Mapped[str] = mapped_column(Text)
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    start: Mapped[date]
    end: Mapped[date | None]
    replaced: Mapped[bool] = mapped_column(default=False)
    created_at: Mapped[datetime]
    author: Mapped[Member | None] = relationship()


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


class FigureFile(Base):
    """A table of figures that somebody has sent: it waits in a file until its columns are agreed on, and is kept as a record once its rows are in.

    ``heads`` tells tables of one form apart from others; ``layout`` is how it is understood (``sheet`` and the fields of
    :class:`~hodcarrier.core.figures.tables.Layout`); ``outcome`` is what its rows have done.
    """

    __tablename__ = "figure_file"
    __table_args__ = (Index("figure_file_site", "site_id", "id"), Index("figure_file_heads", "heads"))
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    at: Mapped[datetime]
    name: Mapped[str] = mapped_column(String(200))
    source: Mapped[str] = mapped_column(String(200))
    kind: Mapped[FigureKind]
    stage: Mapped[FileStage] = mapped_column(default=FileStage.WAITING)
    heads: Mapped[str] = mapped_column(String(32), default="")
    layout: Mapped[dict[str, Any]] = mapped_column(default=dict)
    outcome: Mapped[dict[str, Any]] = mapped_column(default=dict)
    author: Mapped[Member | None] = relationship()
