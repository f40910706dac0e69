"""Clients that a member may not see: for whoever asks on their behalf they are not there, nor is anything that belongs to them.

The condition is added to every question that the register is asked, wherever it is asked, so that no list and no lookup can forget it.
"""

from __future__ import annotations

from typing import Any

from sqlalchemy import ColumnElement, event, select
from sqlalchemy.orm import ORMExecuteState, Session, sessionmaker, with_loader_criteria

from hodcarrier.register.models import Base, Client, Site

_HIDDEN = "hidden clients"


def without(register: sessionmaker[Session], hidden: frozenset[int]) -> sessionmaker[Session]:
    """Sessions for which these clients are not there."""
    return sessionmaker(register.kw["bind"], expire_on_commit=False, info={_HIDDEN: hidden})


def _of_sites() -> list[type[Any]]:
    """The tables whose records belong to a site."""
    return [mapper.class_ for mapper in Base.registry.mappers if "site_id" in mapper.columns and mapper.class_ is not Site]


def _is_seen(kind: type[Any], hidden: frozenset[int]) -> ColumnElement[bool]:
    if kind is Client:
        return Client.id.not_in(hidden)
    if kind is Site:
        return Site.client_id.not_in(hidden)
    table = Site.__table__
    column: ColumnElement[int] = kind.site_id
    return column.not_in(select(table.c.id).where(table.c.client_id.in_(hidden)))


@event.listens_for(Session, "do_orm_execute")
def _leave_out(state: ORMExecuteState) -> None:
    hidden = state.session.info.get(_HIDDEN)
    if not hidden or not state.is_select or state.is_column_load:
        return
    kinds: list[type[Any]] = [Client, Site, *_of_sites()]
    for kind in kinds:
        # An expression: a function would be cached by its code, whatever it holds.
        condition = with_loader_criteria(kind, _is_seen(kind, hidden), include_aliases=True)
        state.statement = state.statement.options(condition)
