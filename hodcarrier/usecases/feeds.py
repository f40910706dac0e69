"""Calendar feeds: an address with a secret in it, under which a program reads due dates."""

from __future__ import annotations

import secrets

from sqlalchemy import select

from hodcarrier.core.errors import NotAllowed, NotFound
from hodcarrier.core.states import LIVE_TODO, TodoOrder
from hodcarrier.register.models import Client, Feed, Member, Site, Todo
from hodcarrier.usecases.passwords import hash_secret
from hodcarrier.usecases.todo_lists import in_order, todo_out
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.members import FeedBody, FeedOut
from hodcarrier.wire.todos import TodoOut


def add_feed(work: Workspace, body: FeedBody, member: Member) -> FeedOut:
    """Make a feed: of one's own to-dos, or of all to-dos of a client. Its address is in this answer and never again."""
    secret = secrets.token_urlsafe(32)
    with work.session() as session:
        client = fetch(session, Client, body.client_id, "client") if body.client_id is not None else None
        feed = Feed(
            member_id=member.id,
            client_id=client.id if client else None,
            secret_hash=hash_secret(secret),
            created_at=work.now(),
        )
        session.add(feed)
        session.flush()
        log(session, work.now(), member.id, "calendar feed added", client.name if client else "own to-dos")
        return _feed_out(feed, f"{work.address.rstrip('/')}/calendar/{secret}.ics")


def list_feeds(work: Workspace, member: Member) -> list[FeedOut]:
    """The feeds of a member, the latest last."""
    with work.reading() as session:
        return [_feed_out(feed) for feed in session.scalars(select(Feed).where(Feed.member_id == member.id).order_by(Feed.id))]


def remove_feed(work: Workspace, feed_id: int, member: Member) -> None:
    """Remove a feed of one's own: its address answers no more. Raises :class:`NotAllowed` for a colleague's."""
    with work.session() as session:
        feed = fetch(session, Feed, feed_id, "feed")
        if feed.member_id != member.id:
            raise NotAllowed("This feed belongs to somebody else.", "Ask them to remove it.")
        log(session, work.now(), member.id, "calendar feed removed", feed.client.name if feed.client else "own to-dos")
        session.delete(feed)


def read_feed(work: Workspace, secret: str) -> tuple[str, list[TodoOut]]:
    """The name of a feed and its live to-dos by due date: those that its member does or watches, or those of its client. Raises :class:`NotFound` for an
    address that there is not, also when its member has left."""
    now = work.now()
    with work.session() as session:
        feed = session.scalar(select(Feed).where(Feed.secret_hash == hash_secret(secret)))
        if feed is None or not feed.member.active:
            raise NotFound("There is no such calendar.", "Make a new feed under Team & settings.")
        feed.read_at = now
        chosen = select(Todo).join(Site).where(Todo.state.in_(LIVE_TODO), Todo.due.is_not(None), ~Site.archived)
        if feed.client_id is not None:
            name, chosen = f"To-dos: {feed.client.name if feed.client else ''}", chosen.where(Site.client_id == feed.client_id)
        else:
            name = f"To-dos of {feed.member.name}"
            chosen = chosen.where((Todo.assignee_id == feed.member_id) | Todo.watchers.any(Member.id == feed.member_id))
        return name, [todo_out(todo, now.date()) for todo in session.scalars(in_order(chosen, TodoOrder.DUE))]


def _feed_out(feed: Feed, url: str | None = None) -> FeedOut:
    return FeedOut(
        id=feed.id,
        client_id=feed.client_id,
        client_name=feed.client.name if feed.client else "",
        created_at=feed.created_at,
        read_at=feed.read_at,
        url=url,
    )
