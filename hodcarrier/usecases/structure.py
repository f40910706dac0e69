"""How a run's site hangs together, as the surfaces show it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

from hodcarrier.core.inventory.filters import Condition, Filter, write_filter
from hodcarrier.core.states import BranchKind, Operator
from hodcarrier.core.structure.folders import Branch
from hodcarrier.runfile import structure
from hodcarrier.runfile.fates import pattern_of
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
        own=_branch(found.own, found.own.name, own) if found.own else None,
        branches=[
            _branch(branch, label, where, parts)
            for branch, label, where, parts in zip(
                found.branches, _labels(by, found.branches), found.wheres, found.parts, strict=True
            )
        ],
    )


def _folder(path: str) -> str:
    return f"/{path.strip('/')}/" if path.strip("/") else "/"


def _labels(by: BranchKind, branches: Sequence[Branch]) -> list[str]:
    """What branches are called: templates by the pattern of their URLs, numbered where several have the same."""
    if by != BranchKind.TEMPLATE:
        return [branch.name for branch in branches]
    seen: Counter[str] = Counter()
    labels = []
    for branch in branches:
        pattern = pattern_of(branch.name)
        seen[pattern] += 1
        labels.append(pattern if seen[pattern] == 1 else f"{pattern} ({seen[pattern]})")
    return labels


def _branch(branch: Branch, label: str, where: Filter, parts: Sequence[Branch] = ()) -> BranchOut:
    return BranchOut(
        name=branch.name,
        label=label,
        pages=branch.pages,
        indexable=branch.indexable,
        health=branch.health,
        findings=branch.findings,
        severe=branch.severe,
        flow=branch.flow,
        inner=branch.inner,
        where=write_filter(where),
        parts=[_branch(part, part.name, Condition("folder", Operator.STARTS, (part.name,))) for part in parts],
    )


def get_template_links(work: Workspace, run_id: str) -> TemplateLinksOut:
    """How the templates of a run link to one another."""
    with work.open_run(run_id) as opened:
        between = structure.template_links(opened)
    return TemplateLinksOut(
        branches=[
            _branch(branch, label, where)
            for branch, label, where in zip(
                between.branches, _labels(BranchKind.TEMPLATE, between.branches), between.wheres, strict=True
            )
        ],
        links=between.links,
    )
