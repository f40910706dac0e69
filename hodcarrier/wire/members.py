"""Members, sessions and tokens."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from hodcarrier.core.mailing import HOUR, ZONE
from hodcarrier.core.permissions import PERMISSIONS, Role
from hodcarrier.core.states import DateOrder, MailKind, MailTime, TokenScope
from hodcarrier.wire.base import Wire, Words


class SignInBody(Wire):
    """What a member types to sign in."""

    email: str = Field(examples=["imke@cobble-lantern.example"])
    password: str
    code: str = Field(
        default="", max_length=40, description="for who signs in by two steps: of an authenticator, or a recovery code"
    )


class MemberOut(Wire):
    """A member. ``invited``: no password is chosen yet. ``may`` names the operations this role may do, in answers about oneself."""

    id: int
    name: str
    email: str
    role: Role
    client_id: int | None = None
    active: bool = True
    invited: bool = False
    second_on: bool = False
    open_todos: int = 0
    overdue_todos: int = 0
    date_order: DateOrder = DateOrder.DAY_FIRST
    mail_times: dict[MailKind, MailTime] = {}
    morning: bool = False
    mail_hour: int = HOUR
    mail_zone: str = ZONE
    may: Annotated[list[str], Field(json_schema_extra={"items": {"type": "string", "enum": sorted(PERMISSIONS)}})] = []


class MemberBody(Wire):
    """A new member."""

    name: Words = Field(min_length=1, max_length=200, examples=["Oona Featherby"])
    email: str = Field(min_length=3, max_length=320, examples=["oona@cobble-lantern.example"])
    role: Role = Role.ANALYST
    password: str = Field(min_length=10, max_length=500)
    client_id: int | None = None


class MemberChange(Wire):
    """Changes to a member; what is left out stays."""

    name: Words | None = Field(default=None, min_length=1, max_length=200)
    role: Role | None = None
    active: bool | None = None
    client_id: int | None = Field(default=None, description="the client whose guest the member becomes")
    password: str | None = Field(default=None, min_length=10, max_length=500)
    second_on: Literal[False] | None = Field(default=None, description="false: the member signs in by the password alone again")
    hand_to: int | None = Field(
        default=None, description="who takes over the to-dos of a member who is switched off; null: nobody, when it is given"
    )


class PasswordBody(Wire):
    """One's own password, for what needs it again."""

    password: str = Field(max_length=500)


class CodeBody(Wire):
    """A code that an authenticator shows."""

    code: str = Field(min_length=6, max_length=40)


class SecondStepOut(Wire):
    """A secret for an authenticator app: as text, as an otpauth address, and that address as a QR code (a data URL of an SVG)."""

    secret: str
    uri: str
    picture: str


class CodesOut(Wire):
    """Recovery codes, each good once instead of a code of the authenticator."""

    codes: list[str]


class InvitationBody(Wire):
    """Somebody who is invited, and chooses a password by a link in a mail."""

    name: Words = Field(min_length=1, max_length=200)
    email: str = Field(min_length=3, max_length=320)
    role: Role = Role.ANALYST
    client_id: int | None = None


class ResetBody(Wire):
    """Whose password is to be reset."""

    email: str = Field(min_length=3, max_length=320)


class NewPasswordBody(Wire):
    """A password, chosen with the secret of a link from a mail."""

    secret: str = Field(max_length=200)
    password: str = Field(min_length=10, max_length=500)


class SessionOut(Wire):
    """A session of the console. ``program`` is the browser, as it calls itself; ``current``: the one that asks."""

    id: str
    program: str
    created_at: datetime | None
    seen_at: datetime | None
    expires_at: datetime
    current: bool


class LogEntryOut(Wire):
    """Something that was done."""

    id: int
    at: datetime
    who: str
    action: str
    subject: str


class PreferencesChange(Wire):
    """Changes to one's own name, password, date format or mails; what is left out stays, kinds of mail too."""

    name: Words | None = Field(default=None, min_length=1, max_length=200)
    date_order: DateOrder | None = None
    mail_times: dict[MailKind, MailTime] | None = None
    morning: bool | None = None
    mail_hour: int | None = Field(default=None, ge=0, le=23)
    mail_zone: str | None = Field(default=None, max_length=60)
    password: str | None = Field(default=None, max_length=500)
    current_password: str | None = Field(default=None, max_length=500, description="needed for a new password")


class TokenBody(Wire):
    """A new token."""

    name: Words = Field(min_length=1, max_length=200, examples=["build server"])
    scope: TokenScope = TokenScope.ALL
    days: int = Field(default=365, ge=1, le=3650)


class FeedBody(Wire):
    """A new calendar feed."""

    client_id: int | None = None


class FeedOut(Wire):
    """A calendar feed; ``url`` is there only in the answer that made it."""

    id: int
    client_id: int | None
    client_name: str
    created_at: datetime
    read_at: datetime | None = None
    url: str | None = None


class TokenOut(Wire):
    """A token; ``secret`` is there only in the answer that made it."""

    id: int
    name: str
    begins: str
    scope: TokenScope
    member_name: str
    created_at: datetime
    expires_at: datetime | None = None
    revoked_at: datetime | None = None
    secret: str | None = None
