"""Benchmarks, deliveries and calendar feeds."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ForeignKey, Index, String, Text, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from hodcarrier.core.states import DeliveryState
from hodcarrier.core.summary import RoundResult
from hodcarrier.register.models.base import Base
from hodcarrier.register.models.people import Member
from hodcarrier.register.models.sites import ByRule, Client, Site


class Benchmark(Base):
    """An own site and its competitors under one plan."""

    __tablename__ = "benchmark"
    __table_args__ = (Index("benchmark_name", text("name COLLATE NOCASE"), unique=True),)
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(200))
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    competitor_ids: Mapped[list[int]]
    pages_max: Mapped[int]
    rate_per_s: Mapped[float] = mapped_column(default=5.0)
    created_at: Mapped[datetime]
    site: Mapped[Site] = relationship()
    schedule: Mapped[BenchmarkSchedule | None] = relationship(cascade="all, delete-orphan", uselist=False)
    rounds: Mapped[list[BenchmarkRound]] = relationship(cascade="all, delete-orphan", order_by="BenchmarkRound.id")


class BenchmarkSchedule(ByRule, Base):
    """When rounds of a benchmark begin by themselves."""

    __tablename__ = "benchmark_schedule"
    benchmark_id: Mapped[int] = mapped_column(ForeignKey("benchmark.id", ondelete="CASCADE"), primary_key=True)


class BenchmarkRound(Base):
    """One run of every site of a benchmark within one window. ``result`` is there when all of them have ended."""

    __tablename__ = "benchmark_round"
    id: Mapped[int] = mapped_column(primary_key=True)
    benchmark_id: Mapped[int] = mapped_column(ForeignKey("benchmark.id", ondelete="CASCADE"))
    requested_at: Mapped[datetime]
    result: Mapped[RoundResult | None]


class Delivery(Base):
    """A mail in the outbox: it waits for its next attempt, was sent, or was given up. A postman claims it while he sends it."""

    __tablename__ = "delivery"
    __table_args__ = (Index("delivery_due", "state", "next_at"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime]
    run_id: Mapped[str | None] = mapped_column(String(20))
    recipient: Mapped[str] = mapped_column(String(320))
    subject: Mapped[str] = mapped_column(String(300))
    text: Mapped[str] = mapped_column(Text, default="")
    html: Mapped[str] = mapped_column(Text, default="")
    state: Mapped[DeliveryState]
    attempts: Mapped[int] = mapped_column(default=0)
    next_at: Mapped[datetime | None]
    sent_at: Mapped[datetime | None]
    claimed_until: Mapped[datetime | None]
    error: Mapped[str] = mapped_column(Text, default="")
    report_id: Mapped[int | None] = mapped_column(ForeignKey("report.id", ondelete="SET NULL"))


class SitemapFeed(Base):
    """The address under which a site fetches its sitemap, kept as the hash of the secret in it, and what the sitemap lists."""

    __tablename__ = "sitemap_feed"
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"), primary_key=True)
    secret_hash: Mapped[str] = mapped_column(String(64), unique=True)
    where: Mapped[str] = mapped_column(String(2000))
    images: Mapped[bool]
    versions: Mapped[bool]
    packed: Mapped[bool]
    created_at: Mapped[datetime]
    read_at: Mapped[datetime | None]


class Feed(Base):
    """A calendar feed, kept as the hash of the secret in its address: the to-dos of its member, or of a client."""

    __tablename__ = "feed"
    __table_args__ = (Index("feed_member", "member_id"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    member_id: Mapped[int] = mapped_column(ForeignKey("member.id", ondelete="CASCADE"))
    client_id: Mapped[int | None] = mapped_column(ForeignKey("client.id", ondelete="CASCADE"))
    secret_hash: Mapped[str] = mapped_column(String(64), unique=True)
    created_at: Mapped[datetime]
    read_at: Mapped[datetime | None]
    member: Mapped[Member] = relationship()
    client: Mapped[Client | None] = relationship()
