"""Saved views: filters of a screen under a name, one's own and those that others share."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import joinedload

from hodcarrier.core.errors import NotAllowed
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import ViewPlace
from hodcarrier.register.models import Member, SavedView
from hodcarrier.usecases.workspace import Workspace, fetch, unless_taken
from hodcarrier.wire.views import ViewBody, ViewOut


def list_views(work: Workspace, place: ViewPlace | None, member: Member) -> list[ViewOut]:
    """A member's views and those that others share, by name."""
    chosen = select(SavedView).where((SavedView.member_id == member.id) | SavedView.shared)
    if place is not None:
        chosen = chosen.where(SavedView.place == place)
    ordered = chosen.order_by(SavedView.name.collate("NOCASE"), SavedView.id).options(joinedload(SavedView.member))
    with work.reading() as session:
        return [_out(row, member) for row in session.scalars(ordered)]


def add_view(work: Workspace, body: ViewBody, member: Member) -> ViewOut:
    """Keep filters under a name. Raises :class:`Conflict` when the member has a view of that name there."""
    with work.session() as session:
        row = SavedView(
            member_id=member.id,
            place=body.place,
            name=body.name,
            query=body.query.removeprefix("?"),
            shared=body.shared,
            created_at=work.now(),
        )
        with unless_taken(session, f"You have a view called {body.name} here already.", "Give another name, or remove that one."):
            session.add(row)
        return _out(row, member)


def remove_view(work: Workspace, view_id: int, member: Member) -> None:
    """Remove a view. Raises :class:`NotAllowed` for somebody else's, unless a lead or an owner asks."""
    with work.session() as session:
        row = fetch(session, SavedView, view_id, "view")
        if row.member_id != member.id and not (row.shared and member.role in (Role.OWNER, Role.LEAD)):
            raise NotAllowed("This view is somebody else’s.", "Ask who made it, or a lead.")
        session.delete(row)


def _out(row: SavedView, member: Member) -> ViewOut:
    return ViewOut(
        id=row.id,
        place=row.place,
        name=row.name,
        query=row.query,
        shared=row.shared,
        author=row.member.name,
        own=row.member_id == member.id,
    )
