"""Review sheets, and the templates that the agency has written."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any

from sqlalchemy import ForeignKey, Index, LargeBinary, String, Text, UniqueConstraint, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from hodcarrier.core.states import SheetOutcome
from hodcarrier.register.models.base import Base
from hodcarrier.register.models.people import Member
from hodcarrier.register.models.sites import Site
from hodcarrier.register.models.todos import Todo


class SheetTemplate(Base):
    """A template of a sheet; ``sections`` are those of :class:`~hodcarrier.core.review.sheets.Section`."""

    __tablename__ = "sheet_template"
    __table_args__ = (Index("sheet_template_name", text("name COLLATE NOCASE"), unique=True),)
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(100))
    note: Mapped[str] = mapped_column(Text, default="")
    sections: Mapped[list[dict[str, Any]]] = mapped_column(default=list)
    version: Mapped[int] = mapped_column(default=1)
    created_at: Mapped[datetime]


class Sheet(Base):
    """A sheet of a site, begun on a ``day`` from a ``template`` (the name of one that ships, or the number of one of the agency's), whose sections it keeps as they were."""

    __tablename__ = "sheet"
    __table_args__ = (UniqueConstraint("site_id", "template", "day"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    site_id: Mapped[int] = mapped_column(ForeignKey("site.id", ondelete="CASCADE"))
    template: Mapped[str] = mapped_column(String(40))
    name: Mapped[str] = mapped_column(String(100))
    sections: Mapped[list[dict[str, Any]]] = mapped_column(default=list)
    day: Mapped[date]
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    created_at: Mapped[datetime]
    site: Mapped[Site] = relationship()
    author: Mapped[Member | None] = relationship()


class SheetAnswer(Base):
    """What came of an item of a sheet. ``source`` says what knew it; it is empty where a member did."""

    __tablename__ = "sheet_answer"
    sheet_id: Mapped[int] = mapped_column(ForeignKey("sheet.id", ondelete="CASCADE"), primary_key=True)
    item: Mapped[str] = mapped_column(String(80), primary_key=True)
    outcome: Mapped[SheetOutcome] = mapped_column(default=SheetOutcome.OPEN)
    number: Mapped[float | None]
    note: Mapped[str] = mapped_column(Text, default="")
    source: Mapped[str] = mapped_column(String(200), default="")
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    at: Mapped[datetime]
    todo_id: Mapped[int | None] = mapped_column(ForeignKey("todo.id", ondelete="SET NULL"))
    author: Mapped[Member | None] = relationship()
    todo: Mapped[Todo | None] = relationship()


class SheetFile(Base):
    """A file that shows what was found. ``media`` is what it is by its content."""

    __tablename__ = "sheet_file"
    __table_args__ = (Index("sheet_file_sheet", "sheet_id"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    sheet_id: Mapped[int] = mapped_column(ForeignKey("sheet.id", ondelete="CASCADE"))
    item: Mapped[str] = mapped_column(String(80))
    name: Mapped[str] = mapped_column(String(200))
    media: Mapped[str] = mapped_column(String(100))
    size: Mapped[int]
    content: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    created_at: Mapped[datetime]
