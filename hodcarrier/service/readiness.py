"""Whether the service can do its work now, for those who watch it."""

from __future__ import annotations

import os

from sqlalchemy import select
from sqlalchemy.exc import SQLAlchemyError

from hodcarrier.audit.supervisor import FREE_BYTES_MIN, Supervisor, free_bytes
from hodcarrier.register.models import Run
from hodcarrier.usecases.workspace import Workspace


def why_not_ready(work: Workspace, supervisor: Supervisor) -> str:
    """What keeps the service from its work, in a sentence; empty when nothing does."""
    try:
        with work.reading() as session:
            session.scalar(select(Run.id).limit(1))
    except SQLAlchemyError as error:
        return f"The register does not answer: {error.__class__.__name__}."
    return why_not_working(supervisor)


def why_not_working(supervisor: Supervisor) -> str:
    """What keeps runs from being audited, in a sentence, without asking the register."""
    if not os.access(supervisor.data, os.W_OK):
        return "The data folder cannot be written."
    free = free_bytes(supervisor.data)
    if free < FREE_BYTES_MIN:
        return f"Only {free // 1024**2:,} MiB are free in the data folder; runs need {FREE_BYTES_MIN // 1024**2:,} MiB or more."
    return "" if supervisor.is_running else "Runs are not supervised: nothing would be audited."
