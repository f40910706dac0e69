"""Figures that are fetched: feeds of figures, and what registries say of domains."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any

from sqlalchemy import ForeignKey, Index, String, Text, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column, relationship

from hodcarrier.register.models.base import Base
from hodcarrier.register.models.sites import Site


class FigureFeed(Base):
    """An address that serves figures of a site, of all ``kinds`` it has when it names none. Its token is sealed by the vault (empty: it needs none). A puller claims it while it asks.

    ``offers`` is what its manifest said last (by kind ``first``, ``last``, ``settle_days``) and ``tag`` that manifest's entity tag; ``progress`` is by kind the last day that was taken in
    (``until``), the rows taken in (``rows``), and the entity tags of weeks that are asked for again (``tags``). ``failures`` is how many times it has failed since it last went well.
    """

    __tablename__ = "figure_feed"
    __table_args__ = (UniqueConstraint("site_id", "url"), Index("figure_feed_due", "next_at"))
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    name: Mapped[str] = mapped_column(String(100))
    url: Mapped[str] = mapped_column(Text)
    sealed: Mapped[str] = mapped_column(Text, default="")
    kinds: Mapped[list[str]] = mapped_column(default=list)
    active: Mapped[bool] = mapped_column(default=True)
    created_at: Mapped[datetime]
    next_at: Mapped[datetime]
    claimed_until: Mapped[datetime | None]
    asked_at: Mapped[datetime | None]
    went_well_at: Mapped[datetime | None]
    failures: Mapped[int] = mapped_column(default=0)
    error: Mapped[str] = mapped_column(Text, default="")
    tag: Mapped[str] = mapped_column(Text, default="")
    offers: Mapped[dict[str, Any]] = mapped_column(default=dict)
    progress: Mapped[dict[str, Any]] = mapped_column(default=dict)
    site: Mapped[Site] = relationship()


class DomainCheck(Base):
    """When the registry of a site's domain is asked next, and how that went last. Somebody claims it while asking."""

    __tablename__ = "domain_check"
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"), primary_key=True)
    next_at: Mapped[datetime]
    claimed_until: Mapped[datetime | None]
    asked_at: Mapped[datetime | None]
    failures: Mapped[int] = mapped_column(default=0)
    error: Mapped[str] = mapped_column(Text, default="")


class DomainRecord(Base):
    """What a registry said of a site's domain, from the first day that it said so to the last. What differs from the day before is another record."""

    __tablename__ = "domain_record"
    __table_args__ = (UniqueConstraint("site_id", "first_seen"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    first_seen: Mapped[date]
    last_seen: Mapped[date]
    domain: Mapped[str] = mapped_column(String(300))
    registrar: Mapped[str] = mapped_column(String(300), default="")
    created: Mapped[date | None]
    expires: Mapped[date | None]
    name_servers: Mapped[list[str]] = mapped_column(default=list)
