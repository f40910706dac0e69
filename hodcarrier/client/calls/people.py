"""Calls about people, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from collections.abc import AsyncIterator, Iterator
from datetime import date

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.wire.members import (
    CodeBody,
    CodesOut,
    FeedBody,
    FeedOut,
    InvitationBody,
    LogEntryOut,
    MemberBody,
    MemberChange,
    MemberOut,
    NewPasswordBody,
    PasswordBody,
    PreferencesChange,
    ResetBody,
    SecondStepOut,
    SessionOut,
    SignInBody,
    TokenBody,
    TokenOut,
)


class People(SyncCalls):
    """Calls about people."""

    def sign_in(self, body: SignInBody) -> MemberOut:
        """Sign in; the session is kept in a cookie that scripts cannot read."""
        found: MemberOut = self._call("sign_in", {}, body=body)
        return found

    def who_am_i(self) -> MemberOut:
        """Who is signed in, and which operations that member may do."""
        found: MemberOut = self._call("who_am_i", {})
        return found

    def sign_out(self) -> None:
        """Sign out."""
        self._call("sign_out", {})

    def ask_reset(self, body: ResetBody) -> None:
        """Send whoever has an address a link to a new password. The answer is the same when there is nobody."""
        self._call("ask_reset", {}, body=body)

    def set_password(self, body: NewPasswordBody) -> MemberOut:
        """Choose a password with the secret of a link from a mail."""
        found: MemberOut = self._call("set_password", {}, body=body)
        return found

    def begin_second_step(self, body: PasswordBody) -> SecondStepOut:
        """Begin to set up signing in by two steps: a secret for an authenticator."""
        found: SecondStepOut = self._call("begin_second_step", {}, body=body)
        return found

    def confirm_second_step(self, body: CodeBody) -> CodesOut:
        """Switch the second step on with a first code; the recovery codes are shown in this answer only."""
        found: CodesOut = self._call("confirm_second_step", {}, body=body)
        return found

    def end_second_step(self, body: PasswordBody) -> None:
        """Switch one's own second step off."""
        self._call("end_second_step", {}, body=body)

    def list_sessions(self) -> list[SessionOut]:
        """One's own sessions of the console."""
        found: list[SessionOut] = self._call("list_sessions", {})
        return found

    def end_session(self, session_id: str) -> None:
        """End one of one's own sessions."""
        self._call("end_session", {"session_id": session_id})

    def list_log(
        self, who: int | None = None, text: str = "", from_day: date | None = None, to_day: date | None = None
    ) -> Iterator[LogEntryOut]:
        """Who did what, the latest first."""
        yield from self._parts("list_log", {}, query={"who": who, "text": text, "from_day": from_day, "to_day": to_day})

    def invite_member(self, body: InvitationBody) -> MemberOut:
        """Invite somebody by mail."""
        found: MemberOut = self._call("invite_member", {}, body=body)
        return found

    def invite_again(self, member_id: int) -> MemberOut:
        """Send another invitation."""
        found: MemberOut = self._call("invite_again", {"member_id": member_id})
        return found

    def change_preferences(self, body: PreferencesChange) -> MemberOut:
        """Change one's own name or date format."""
        found: MemberOut = self._call("change_preferences", {}, body=body)
        return found

    def list_members(self) -> list[MemberOut]:
        """All members with their load."""
        found: list[MemberOut] = self._call("list_members", {})
        return found

    def add_member(self, body: MemberBody) -> MemberOut:
        """Add a member."""
        found: MemberOut = self._call("add_member", {}, body=body)
        return found

    def change_member(self, member_id: int, body: MemberChange) -> MemberOut:
        """Change a member."""
        found: MemberOut = self._call("change_member", {"member_id": member_id}, body=body)
        return found

    def list_tokens(self) -> list[TokenOut]:
        """One's own tokens."""
        found: list[TokenOut] = self._call("list_tokens", {})
        return found

    def list_all_tokens(self) -> list[TokenOut]:
        """The tokens of all members."""
        found: list[TokenOut] = self._call("list_all_tokens", {})
        return found

    def add_token(self, body: TokenBody) -> TokenOut:
        """Make a token; its secret is shown in this answer only."""
        found: TokenOut = self._call("add_token", {}, body=body)
        return found

    def list_feeds(self) -> list[FeedOut]:
        """One's own calendar feeds."""
        found: list[FeedOut] = self._call("list_feeds", {})
        return found

    def add_feed(self, body: FeedBody) -> FeedOut:
        """Make a calendar feed of one's own to-dos, or of a client's; its address is shown in this answer only."""
        found: FeedOut = self._call("add_feed", {}, body=body)
        return found

    def remove_feed(self, feed_id: int) -> None:
        """Remove a calendar feed of one's own."""
        self._call("remove_feed", {"feed_id": feed_id})

    def revoke_token(self, token_id: int) -> None:
        """Revoke a token of one's own; an owner, that of anybody."""
        self._call("revoke_token", {"token_id": token_id})


class AsyncPeople(AsyncCalls):
    """Calls about people."""

    async def sign_in(self, body: SignInBody) -> MemberOut:
        """Sign in; the session is kept in a cookie that scripts cannot read."""
        found: MemberOut = await self._call("sign_in", {}, body=body)
        return found

    async def who_am_i(self) -> MemberOut:
        """Who is signed in, and which operations that member may do."""
        found: MemberOut = await self._call("who_am_i", {})
        return found

    async def sign_out(self) -> None:
        """Sign out."""
        await self._call("sign_out", {})

    async def ask_reset(self, body: ResetBody) -> None:
        """Send whoever has an address a link to a new password. The answer is the same when there is nobody."""
        await self._call("ask_reset", {}, body=body)

    async def set_password(self, body: NewPasswordBody) -> MemberOut:
        """Choose a password with the secret of a link from a mail."""
        found: MemberOut = await self._call("set_password", {}, body=body)
        return found

    async def begin_second_step(self, body: PasswordBody) -> SecondStepOut:
        """Begin to set up signing in by two steps: a secret for an authenticator."""
        found: SecondStepOut = await self._call("begin_second_step", {}, body=body)
        return found

    async def confirm_second_step(self, body: CodeBody) -> CodesOut:
        """Switch the second step on with a first code; the recovery codes are shown in this answer only."""
        found: CodesOut = await self._call("confirm_second_step", {}, body=body)
        return found

    async def end_second_step(self, body: PasswordBody) -> None:
        """Switch one's own second step off."""
        await self._call("end_second_step", {}, body=body)

    async def list_sessions(self) -> list[SessionOut]:
        """One's own sessions of the console."""
        found: list[SessionOut] = await self._call("list_sessions", {})
        return found

    async def end_session(self, session_id: str) -> None:
        """End one of one's own sessions."""
        await self._call("end_session", {"session_id": session_id})

    async def list_log(
        self, who: int | None = None, text: str = "", from_day: date | None = None, to_day: date | None = None
    ) -> AsyncIterator[LogEntryOut]:
        """Who did what, the latest first."""
        async for item in self._parts("list_log", {}, query={"who": who, "text": text, "from_day": from_day, "to_day": to_day}):
            yield item

    async def invite_member(self, body: InvitationBody) -> MemberOut:
        """Invite somebody by mail."""
        found: MemberOut = await self._call("invite_member", {}, body=body)
        return found

    async def invite_again(self, member_id: int) -> MemberOut:
        """Send another invitation."""
        found: MemberOut = await self._call("invite_again", {"member_id": member_id})
        return found

    async def change_preferences(self, body: PreferencesChange) -> MemberOut:
        """Change one's own name or date format."""
        found: MemberOut = await self._call("change_preferences", {}, body=body)
        return found

    async def list_members(self) -> list[MemberOut]:
        """All members with their load."""
        found: list[MemberOut] = await self._call("list_members", {})
        return found

    async def add_member(self, body: MemberBody) -> MemberOut:
        """Add a member."""
        found: MemberOut = await self._call("add_member", {}, body=body)
        return found

    async def change_member(self, member_id: int, body: MemberChange) -> MemberOut:
        """Change a member."""
        found: MemberOut = await self._call("change_member", {"member_id": member_id}, body=body)
        return found

    async def list_tokens(self) -> list[TokenOut]:
        """One's own tokens."""
        found: list[TokenOut] = await self._call("list_tokens", {})
        return found

    async def list_all_tokens(self) -> list[TokenOut]:
        """The tokens of all members."""
        found: list[TokenOut] = await self._call("list_all_tokens", {})
        return found

    async def add_token(self, body: TokenBody) -> TokenOut:
        """Make a token; its secret is shown in this answer only."""
        found: TokenOut = await self._call("add_token", {}, body=body)
        return found

    async def list_feeds(self) -> list[FeedOut]:
        """One's own calendar feeds."""
        found: list[FeedOut] = await self._call("list_feeds", {})
        return found

    async def add_feed(self, body: FeedBody) -> FeedOut:
        """Make a calendar feed of one's own to-dos, or of a client's; its address is shown in this answer only."""
        found: FeedOut = await self._call("add_feed", {}, body=body)
        return found

    async def remove_feed(self, feed_id: int) -> None:
        """Remove a calendar feed of one's own."""
        await self._call("remove_feed", {"feed_id": feed_id})

    async def revoke_token(self, token_id: int) -> None:
        """Revoke a token of one's own; an owner, that of anybody."""
        await self._call("revoke_token", {"token_id": token_id})
