"""One's own sessions: where one is signed in, and how to end that."""

from __future__ import annotations

from sqlalchemy import select

from hodcarrier.core.errors import NotFound
from hodcarrier.register.models import Member, SignIn
from hodcarrier.usecases.passwords import hash_secret
from hodcarrier.usecases.workspace import Workspace, log
from hodcarrier.wire.members import SessionOut

ID_CHARS = 16


def list_sessions(work: Workspace, member: Member, secret: str) -> list[SessionOut]:
    """The sessions of a member, the latest used first; ``secret`` is that of the one who asks, if it is a session."""
    own = hash_secret(secret) if secret else ""
    with work.reading() as session:
        rows = session.scalars(select(SignIn).where(SignIn.member_id == member.id, SignIn.expires_at > work.now())).all()
        found = [
            SessionOut(
                id=row.secret_hash[:ID_CHARS],
                program=row.program,
                created_at=row.created_at,
                seen_at=row.seen_at,
                expires_at=row.expires_at,
                current=row.secret_hash == own,
            )
            for row in rows
        ]
    return sorted(found, key=lambda each: (each.seen_at or each.expires_at).timestamp(), reverse=True)


def end_session(work: Workspace, member: Member, session_id: str) -> None:
    """End one of one's own sessions. Raises :class:`NotFound`."""
    with work.session() as session:
        rows = session.scalars(select(SignIn).where(SignIn.member_id == member.id)).all()
        row = next((each for each in rows if each.secret_hash[:ID_CHARS] == session_id), None)
        if row is None:
            raise NotFound("You have no session like that.", "It may have ended already.")
        session.delete(row)
        log(session, work.now(), member.id, "session ended", member.email)
