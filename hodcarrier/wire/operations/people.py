"""Operations on members, sessions and tokens."""

from hodcarrier.wire.members import (
    FeedBody,
    FeedOut,
    MemberBody,
    MemberChange,
    MemberOut,
    PreferencesChange,
    SignInBody,
    TokenBody,
    TokenOut,
)
from hodcarrier.wire.operations.operation import Operation

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
