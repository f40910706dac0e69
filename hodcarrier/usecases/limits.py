"""Which clients a member may not see."""

from __future__ import annotations

from dataclasses import replace

from sqlalchemy import select

from hodcarrier.core.permissions import Role
from hodcarrier.register.hiding import without
from hodcarrier.register.models import Client, ClientMember, Member
from hodcarrier.usecases.workspace import Workspace

SEE_ALL = (Role.OWNER, Role.LEAD)


def hidden_clients(work: Workspace, member: Member) -> frozenset[int]:
    """The clients that are limited to other members. Owners and leads see all; guests have one client of their own anyway."""
    if member.role in SEE_ALL or member.role == Role.GUEST:
        return frozenset()
    own = select(ClientMember.client_id).where(ClientMember.member_id == member.id)
    limited = select(ClientMember.client_id).distinct().where(ClientMember.client_id.not_in(own))
    with work.reading() as session:
        return frozenset(session.scalars(limited))


def sees(member: Member, client: Client) -> bool:
    """Whether a client is open to a member of the agency."""
    return member.role in SEE_ALL or not client.members or member in client.members


def seen_by(work: Workspace, member: Member) -> Workspace:
    """The workspace as a member sees it: what belongs to clients that are limited to others is not there."""
    hidden = hidden_clients(work, member)
    return replace(work, register=without(work.register, hidden)) if hidden else work
