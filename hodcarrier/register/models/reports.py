"""Reports, what they are made from, when they are made, who may read them, and how they look."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any

from sqlalchemy import ForeignKey, Index, LargeBinary, String, Text, UniqueConstraint, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from hodcarrier.core.states import ReportSpan, ReportState, Typeface
from hodcarrier.register.models.base import Base
from hodcarrier.register.models.people import Member
from hodcarrier.register.models.sites import Site


class Logo(Base):
    """A mark. It is never changed: another one takes its place, and reports keep the one that they were made with."""

    __tablename__ = "logo"
    id: Mapped[int] = mapped_column(primary_key=True)
    media: Mapped[str] = mapped_column(String(40))
    content: Mapped[bytes] = mapped_column(LargeBinary)
    created_at: Mapped[datetime]


class AgencyBrand(Base):
    """How the agency's reports look. There is one row."""

    __tablename__ = "agency_brand"
    id: Mapped[int] = mapped_column(primary_key=True)
    colour: Mapped[str] = mapped_column(String(7), default="")
    typeface: Mapped[Typeface] = mapped_column(default=Typeface.SANS)
    footer: Mapped[str] = mapped_column(String(200), default="")
    logo_id: Mapped[int | None] = mapped_column(ForeignKey("logo.id"))


class ReportTemplate(Base):
    """What reports of the agency are begun from; ``sections`` are those of :class:`~hodcarrier.wire.reports.ReportSection`."""

    __tablename__ = "report_template"
    __table_args__ = (Index("report_template_name", text("name COLLATE NOCASE"), unique=True),)
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(100))
    note: Mapped[str] = mapped_column(Text, default="")
    sections: Mapped[list[dict[str, Any]]] = mapped_column(default=list)
    version: Mapped[int] = mapped_column(default=1)
    created_at: Mapped[datetime]


class ReportSchedule(Base):
    """When reports of a site are made by themselves: at a time of day on the so-manieth working day after each span. Whoever is in charge (``owner``) approves them;
    then they go to the ``recipients`` (names and addresses) with the words of the cover."""

    __tablename__ = "report_schedule"
    __table_args__ = (
        Index("report_schedule_due", "next_due_at", sqlite_where=text("paused_at IS NULL")),
        UniqueConstraint("site_id", "template", "span"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    template: Mapped[str] = mapped_column(String(40))
    span: Mapped[ReportSpan]
    working_day: Mapped[int]
    at: Mapped[str] = mapped_column(String(8))
    zone: Mapped[str] = mapped_column(String(60))
    recipients: Mapped[list[dict[str, Any]]] = mapped_column(default=list)
    subject: Mapped[str] = mapped_column(String(200), default="")
    cover: Mapped[str] = mapped_column(Text, default="")
    owner_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    next_due_at: Mapped[datetime | None]
    paused_at: Mapped[datetime | None]
    trouble: Mapped[str] = mapped_column(Text, default="")
    created_at: Mapped[datetime]
    site: Mapped[Site] = relationship()
    owner: Mapped[Member | None] = relationship()


class Report(Base):
    """A report over a span of days of one site: its ``sections`` as the editor has chosen them, and its values as they were gathered. Of a schedule there is
    one for each span. What a client is shown is ``approved_version``, however far the draft has gone on."""

    __tablename__ = "report"
    __table_args__ = (
        Index("report_schedule_span", "schedule_id", "from_day", unique=True, sqlite_where=text("schedule_id IS NOT NULL")),
        Index("report_site", "site_id"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    title: Mapped[str] = mapped_column(String(300))
    from_day: Mapped[date]
    to_day: Mapped[date]
    note: Mapped[str] = mapped_column(Text, default="")
    values: Mapped[dict[str, Any]] = mapped_column(deferred=True)
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    created_at: Mapped[datetime]
    language: Mapped[str] = mapped_column(String(10), default="en")
    template: Mapped[str] = mapped_column(String(40), default="")
    sections: Mapped[list[dict[str, Any]]] = mapped_column(default=list)
    state: Mapped[ReportState] = mapped_column(default=ReportState.DRAFT)
    version: Mapped[int] = mapped_column(default=1)
    approved_version: Mapped[int | None]
    approved_at: Mapped[datetime | None]
    approver_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    sent_at: Mapped[datetime | None]
    schedule_id: Mapped[int | None] = mapped_column(ForeignKey("report_schedule.id", ondelete="SET NULL"))
    site: Mapped[Site] = relationship()
    author: Mapped[Member | None] = relationship(foreign_keys=[author_id])
    approver: Mapped[Member | None] = relationship(foreign_keys=[approver_id])
    schedule: Mapped[ReportSchedule | None] = relationship()
    links: Mapped[list[ReportLink]] = relationship(cascade="all, delete-orphan", order_by="ReportLink.id.desc()")


class ReportVersion(Base):
    """A report as it was saved, so that nothing is lost by going on: its title, days, sections and values."""

    __tablename__ = "report_version"
    report_id: Mapped[int] = mapped_column(ForeignKey("report.id", ondelete="CASCADE"), primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime]
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    what: Mapped[str] = mapped_column(String(200))
    title: Mapped[str] = mapped_column(String(300))
    from_day: Mapped[date]
    to_day: Mapped[date]
    language: Mapped[str] = mapped_column(String(10))
    sections: Mapped[list[dict[str, Any]]] = mapped_column(default=list)
    values: Mapped[dict[str, Any]] = mapped_column(deferred=True)
    author: Mapped[Member | None] = relationship()


class ReportLink(Base):
    """A share link of a report: who has its secret (and passphrase, where there is one) reads it until it expires or is revoked."""

    __tablename__ = "report_link"
    __table_args__ = (Index("report_link_report", "report_id"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    report_id: Mapped[int] = mapped_column(ForeignKey("report.id", ondelete="CASCADE"))
    name: Mapped[str] = mapped_column(String(100))
    email: Mapped[str] = mapped_column(String(320), default="")
    secret_hash: Mapped[str] = mapped_column(String(64), unique=True)
    passphrase_hash: Mapped[str] = mapped_column(String(200), default="")
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    created_at: Mapped[datetime]
    expires_at: Mapped[datetime]
    revoked_at: Mapped[datetime | None]
    seen: Mapped[int] = mapped_column(default=0)
    seen_at: Mapped[datetime | None]
    report: Mapped[Report] = relationship(back_populates="links")
