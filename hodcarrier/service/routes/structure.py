"""How a site hangs together, and what fixes would bring."""

from __future__ import annotations

from fastapi import APIRouter

from hodcarrier.core.states import BranchKind
from hodcarrier.service.deps import Work, actual_run
from hodcarrier.service.guard import serves
from hodcarrier.usecases import fixes, site_files, structure
from hodcarrier.wire.site_files import SiteFileOut
from hodcarrier.wire.structure import FixesBody, FixesOut, StructureOut, TemplateLinksOut

router = APIRouter()


@serves(router, "get_structure")
def get_structure(run_id: str, work: Work, by: BranchKind = BranchKind.FOLDER, below: str = "/") -> StructureOut:
    return structure.get_structure(work, actual_run(work, run_id), by, below)


@serves(router, "get_template_links")
def get_template_links(run_id: str, work: Work) -> TemplateLinksOut:
    return structure.get_template_links(work, actual_run(work, run_id))


@serves(router, "list_site_files")
def list_site_files(run_id: str, work: Work) -> list[SiteFileOut]:
    return site_files.list_site_files(work, actual_run(work, run_id))


@serves(router, "plan_fixes")
def plan_fixes(run_id: str, body: FixesBody, work: Work) -> FixesOut:
    return fixes.plan_fixes(work, actual_run(work, run_id), body)
