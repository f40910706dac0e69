"""How a run's site hangs together, as the surfaces show it."""

from __future__ import annotations

from collections.abc import Sequence

from hodcarrier.core.inventory.filters import Condition, Filter, write_filter
from hodcarrier.core.states import BranchKind, Operator
from hodcarrier.core.structure.folders import Branch
from hodcarrier.runfile import structure
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.structure import BranchOut, StructureOut, TemplateLinksOut


def get_structure(work: Workspace, run_id: str, by: BranchKind, below: str) -> StructureOut:
    """The pages of a run by what they have in common; folders are those directly below a path."""
    path = _folder(below) if by == BranchKind.FOLDER else ""
    with work.open_run(run_id) as opened:
        found = structure.branches(opened, by, path)
    column = structure.COLUMN_OF[by]
    own = Condition(column, Operator.IS, (path,)) if by == BranchKind.FOLDER else Condition(column, Operator.EMPTY)
    return StructureOut(
        by=by,
        below=path,
        own=_branch(found.own, own) if found.own else None,
        branches=[
            _branch(branch, where, parts) for branch, where, parts in zip(found.branches, found.wheres, found.parts, strict=True)
        ],
    )


def _folder(path: str) -> str:
    return f"/{path.strip('/')}/" if path.strip("/") else "/"


def _branch(branch: Branch, where: Filter, parts: Sequence[Branch] = ()) -> BranchOut:
    return BranchOut(
        name=branch.name,
        pages=branch.pages,
        indexable=branch.indexable,
        health=branch.health,
        findings=branch.findings,
        severe=branch.severe,
        flow=branch.flow,
        inner=branch.inner,
        where=write_filter(where),
        parts=[_branch(part, Condition("folder", Operator.STARTS, (part.name,))) for part in parts],
    )


def get_template_links(work: Workspace, run_id: str) -> TemplateLinksOut:
    """How the templates of a run link to one another."""
    with work.open_run(run_id) as opened:
        found = structure.template_links(opened)
    return TemplateLinksOut(
        branches=[_branch(branch, where) for branch, where in zip(found.branches, found.wheres, strict=True)], links=found.links
    )
