"""Members, their sessions and tokens, and the log of what they changed."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ForeignKey, Index, String, Text, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from hodcarrier.core.mailing import HOUR, ZONE
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import DateOrder, TokenScope, ViewPlace
from hodcarrier.register.models.base import Base


class Member(Base):
    """Somebody who signs in. A guest belongs to one client.

    ``second_on``: by two steps; the secret is sealed, ``second_last`` is the period of the last code that was used, ``recovery`` the hashes of codes
    that are left.

    ``mail_times`` holds, by kind of mail, what the member wants otherwise than by default; the daily mail goes out at ``mail_hour`` o'clock in
    the zone ``mail_zone``. ``morning``: the desk comes by mail too, next at ``morning_at``.
    """

    __tablename__ = "member"
    __table_args__ = (Index("member_name", text("name COLLATE NOCASE"), unique=True),)
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(200))
    email: Mapped[str] = mapped_column(String(320), unique=True)
    role: Mapped[Role]
    password_hash: Mapped[str] = mapped_column(String(200))
    client_id: Mapped[int | None] = mapped_column(ForeignKey("client.id", ondelete="CASCADE"))
    created_at: Mapped[datetime]
    active: Mapped[bool] = mapped_column(default=True)
    second_on: Mapped[bool] = mapped_column(default=False)
    second_sealed: Mapped[str] = mapped_column(Text, default="")
    second_last: Mapped[int] = mapped_column(default=0)
    recovery: Mapped[list[str]] = mapped_column(default=list)
    date_order: Mapped[DateOrder] = mapped_column(default=DateOrder.DAY_FIRST)
    mail_times: Mapped[dict[str, str]] = mapped_column(default=dict)
    morning: Mapped[bool] = mapped_column(default=False)
    morning_at: Mapped[datetime | None]
    mail_hour: Mapped[int] = mapped_column(default=HOUR)
    mail_zone: Mapped[str] = mapped_column(String(60), default=ZONE)


class SignIn(Base):
    """A session of the console; only the hash of its secret is kept. ``program`` is the browser, as it calls itself."""

    __tablename__ = "sign_in"
    secret_hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    member_id: Mapped[int] = mapped_column(ForeignKey("member.id", ondelete="CASCADE"))
    expires_at: Mapped[datetime]
    created_at: Mapped[datetime | None]
    seen_at: Mapped[datetime | None]
    program: Mapped[str] = mapped_column(String(300), default="")


class PasswordLink(Base):
    """A link with which a member chooses a password, once; only the hash of its secret is kept. Of each member there is one."""

    __tablename__ = "password_link"
    __table_args__ = (Index("password_link_member", "member_id"),)
    secret_hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    member_id: Mapped[int] = mapped_column(ForeignKey("member.id", ondelete="CASCADE"))
    invites: Mapped[bool]
    expires_at: Mapped[datetime]


class Token(Base):
    """A bearer token; shown once, kept as a hash. Without ``expires_at`` it was made before tokens had an end."""

    __tablename__ = "token"
    id: Mapped[int] = mapped_column(primary_key=True)
    member_id: Mapped[int] = mapped_column(ForeignKey("member.id", ondelete="CASCADE"))
    name: Mapped[str] = mapped_column(String(200))
    secret_hash: Mapped[str] = mapped_column(String(64), unique=True)
    begins: Mapped[str] = mapped_column(String(12))
    scope: Mapped[TokenScope] = mapped_column(default=TokenScope.ALL)
    created_at: Mapped[datetime]
    expires_at: Mapped[datetime | None]
    revoked_at: Mapped[datetime | None]
    member: Mapped[Member] = relationship()


class SavedView(Base):
    """Filters of a screen under a name: the query of its address. ``shared``: others see it too."""

    __tablename__ = "saved_view"
    __table_args__ = (Index("saved_view_name", "member_id", "place", text("name COLLATE NOCASE"), unique=True),)
    id: Mapped[int] = mapped_column(primary_key=True)
    member_id: Mapped[int] = mapped_column(ForeignKey("member.id", ondelete="CASCADE"))
    place: Mapped[ViewPlace]
    name: Mapped[str] = mapped_column(String(100))
    query: Mapped[str] = mapped_column(Text)
    shared: Mapped[bool] = mapped_column(default=False)
    created_at: Mapped[datetime]
    member: Mapped[Member] = relationship()


class LogEntry(Base):
    """Who changed what, when."""

    __tablename__ = "log_entry"
    __table_args__ = (Index("log_entry_at", "at"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime]
    member_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    action: Mapped[str] = mapped_column(String(80))
    subject: Mapped[str] = mapped_column(String(300))
