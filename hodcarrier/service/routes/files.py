"""Run files."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from hodcarrier.service.deps import Work
from hodcarrier.service.guard import Asker, serves
from hodcarrier.usecases import files
from hodcarrier.wire.files import RetentionBody, RetentionOut

router = APIRouter()


@serves(router, "get_retention")
def get_retention(work: Work, weeks: Annotated[int, Query(ge=1, le=5200)] = 26) -> RetentionOut:
    return files.plan_retention(work, weeks)


@serves(router, "apply_retention")
def apply_retention(body: RetentionBody, work: Work, member: Asker) -> RetentionOut:
    return files.apply_retention(work, body.weeks, member)
