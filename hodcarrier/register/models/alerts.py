"""What runs changed for the worse, until it is fixed or somebody has taken note."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ForeignKey, Index, LargeBinary, String, Text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from hodcarrier.core.states import Severity
from hodcarrier.register.models.base import Base
from hodcarrier.register.models.sites import Site


class Alert(Base):
    """New findings of a severe check on a site; one for each check.

    ``fingerprints`` are those findings, 16 bytes each; ``findings`` is how many of them are left. The alert goes when none is,
    and is not shown once acknowledged, until further findings come.
    """

    __tablename__ = "alert"
    __table_args__ = (Index("alert_check", "site_id", "check_id", unique=True),)
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    check_id: Mapped[str] = mapped_column(String(80))
    severity: Mapped[Severity]
    summary: Mapped[str] = mapped_column(Text)
    detail: Mapped[str] = mapped_column(Text, default="")
    findings: Mapped[int]
    fingerprints: Mapped[bytes] = mapped_column(LargeBinary)
    raised_at: Mapped[datetime]
    acknowledged_at: Mapped[datetime | None]
    acknowledged_by: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    site: Mapped[Site] = relationship()
