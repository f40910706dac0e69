"""Dated notes on a site's timeline."""

from __future__ import annotations

from sqlalchemy import select

from hodcarrier.register.models import Member, Remark, Site
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.remarks import RemarkBody, RemarkOut


def add_remark(work: Workspace, site_id: int, body: RemarkBody, member: Member | None) -> RemarkOut:
    """Pin a note to a day of a site's timeline."""
    with work.session() as session:
        fetch(session, Site, site_id, "site")
        row = Remark(
            site_id=site_id, day=body.day, text=body.text, author_id=member.id if member else None, created_at=work.now()
        )
        session.add(row)
        session.flush()
        return RemarkOut(id=row.id, day=row.day, text=row.text)


def list_remarks(work: Workspace, site_id: int) -> list[RemarkOut]:
    """Remarks of a site by day."""
    with work.reading() as session:
        fetch(session, Site, site_id, "site")
        rows = session.scalars(select(Remark).where(Remark.site_id == site_id).order_by(Remark.day))
        return [RemarkOut(id=r.id, day=r.day, text=r.text) for r in rows]


def remove_remark(work: Workspace, remark_id: int) -> None:
    """Take a remark away."""
    with work.session() as session:
        session.delete(fetch(session, Remark, remark_id, "remark"))
