"""The runs of a site before one of them, to see since when something is as it is."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from datetime import datetime
from typing import TypeVar

from sqlalchemy import select

from hodcarrier.core.errors import DamagedRun
from hodcarrier.register.models import EXAMINED, Run
from hodcarrier.runfile.reader import RunFile
from hodcarrier.usecases.workspace import Workspace, fetch

Read = TypeVar("Read")


def requested_at(work: Workspace, run_id: str) -> datetime:
    """When a run was asked for. Raises :class:`NotFound` for one that there is not."""
    with work.reading() as session:
        return fetch(session, Run, run_id, "run").requested_at


def each_earlier(work: Workspace, run_id: str, most: int, read: Callable[[RunFile], Read]) -> Iterator[tuple[datetime, Read]]:
    """The runs of the same site and purpose before a run, the latest first and ``most`` at most, each with what ``read`` gives of its file. Runs whose file
    is not there any more, or cannot be read, are left out."""
    with work.reading() as session:
        run = fetch(session, Run, run_id, "run")
        earlier = session.execute(
            select(Run.id, Run.requested_at)
            .where(Run.site_id == run.site_id, EXAMINED, Run.purpose == run.purpose, Run.sequence < run.sequence)
            .order_by(Run.sequence.desc())
            .limit(most)
        ).all()
    for number, at in earlier:
        if work.store.has(number):
            try:
                with work.open_run(number) as opened:
                    then = read(opened)
            except DamagedRun:
                continue
            yield at, then
