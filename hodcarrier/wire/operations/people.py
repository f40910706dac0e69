"""Operations on members, sessions and tokens."""

from datetime import date

from hodcarrier.wire.base import Listed
from hodcarrier.wire.members import (
    FeedBody,
    FeedOut,
    InvitationBody,
    LogEntryOut,
    MemberBody,
    MemberChange,
    MemberOut,
    NewPasswordBody,
    PreferencesChange,
    ResetBody,
    SessionOut,
    SignInBody,
    TokenBody,
    TokenOut,
)
from hodcarrier.wire.operations.operation import Operation, Parameter

OPERATIONS = (
    Operation(
        "sign_in",
        "POST",
        "/session",
        "Sign in; the session is kept in a cookie that scripts cannot read.",
        MemberOut,
        SignInBody,
        throttled=True,
    ),
    Operation("who_am_i", "GET", "/session", "Who is signed in, and which operations that member may do.", MemberOut),
    Operation("sign_out", "DELETE", "/session", "Sign out.", console_only=True),
    Operation(
        "ask_reset",
        "POST",
        "/session/reset",
        "Send whoever has an address a link to a new password. The answer is the same when there is nobody.",
        None,
        ResetBody,
        throttled=True,
        console_only=True,
    ),
    Operation(
        "set_password",
        "POST",
        "/session/password",
        "Choose a password with the secret of a link from a mail.",
        MemberOut,
        NewPasswordBody,
        console_only=True,
    ),
    Operation("list_sessions", "GET", "/sessions", "One's own sessions of the console.", list[SessionOut], console_only=True),
    Operation("end_session", "DELETE", "/sessions/{session_id}", "End one of one's own sessions.", console_only=True),
    Operation(
        "list_log",
        "GET",
        "/log",
        "Who did what, the latest first.",
        Listed[LogEntryOut],
        query=(
            Parameter("who", int | None, None),
            Parameter("text", str, ""),
            Parameter("from_day", date | None, None, "from"),
            Parameter("to_day", date | None, None, "to"),
            Parameter("limit", int, 200),
            Parameter("after", int, 0),
        ),
    ),
    Operation("invite_member", "POST", "/members/invitations", "Invite somebody by mail.", MemberOut, InvitationBody, status=201),
    Operation("invite_again", "POST", "/members/{member_id}/invitation", "Send another invitation.", MemberOut),
    Operation("change_preferences", "PATCH", "/session", "Change one's own name or date format.", MemberOut, PreferencesChange),
    Operation("list_members", "GET", "/members", "All members with their load.", list[MemberOut]),
    Operation("add_member", "POST", "/members", "Add a member.", MemberOut, MemberBody, status=201),
    Operation("change_member", "PATCH", "/members/{member_id}", "Change a member.", MemberOut, MemberChange),
    Operation("list_tokens", "GET", "/tokens", "One's own tokens.", list[TokenOut]),
    Operation("list_all_tokens", "GET", "/tokens/everybody", "The tokens of all members.", list[TokenOut]),
    Operation(
        "add_token", "POST", "/tokens", "Make a token; its secret is shown in this answer only.", TokenOut, TokenBody, status=201
    ),
    Operation("list_feeds", "GET", "/feeds", "One's own calendar feeds.", list[FeedOut]),
    Operation(
        "add_feed",
        "POST",
        "/feeds",
        "Make a calendar feed of one's own to-dos, or of a client's; its address is shown in this answer only.",
        FeedOut,
        FeedBody,
        status=201,
    ),
    Operation("remove_feed", "DELETE", "/feeds/{feed_id}", "Remove a calendar feed of one's own."),
    Operation("revoke_token", "DELETE", "/tokens/{token_id}", "Revoke a token of one's own; an owner, that of anybody."),
)
