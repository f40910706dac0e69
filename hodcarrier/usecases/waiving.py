"""What waivers do to the latest run of a site: said before they are made, applied as soon as they are."""

from __future__ import annotations

from collections import defaultdict
from threading import Lock

from sqlalchemy.orm import Session

from hodcarrier.core.errors import HodcarrierError
from hodcarrier.core.states import FileState, RunPurpose, SiteKind
from hodcarrier.core.words import difference, fill
from hodcarrier.register.models import Run, Site
from hodcarrier.runfile.what_if import if_waived
from hodcarrier.usecases import finishing
from hodcarrier.usecases.todo_story import fingerprints_in_todos
from hodcarrier.usecases.waiver_scopes import check_scope, scope_value, waivers_in_force
from hodcarrier.usecases.workspace import Workspace, fetch, latest_run
from hodcarrier.wire.results import TodoRef
from hodcarrier.wire.waivers import WaiverEffect, WaiverPreviewBody

# Two that change the waivers of one site do not write its run at the same time.
_revising: defaultdict[str, Lock] = defaultdict(Lock)
_choosing = Lock()


def preview_waivers(work: Workspace, site_id: int, body: WaiverPreviewBody) -> WaiverEffect:
    """What waivers would cover in the latest run, and what they would do to its health; nothing is changed."""
    with work.reading() as session:
        site = fetch(session, Site, site_id, "site")
        for scope in body.waivers:
            check_scope(work, session, site, scope)
        run, kind = newest_whole_run(session, site), site.kind
    if run is None or not work.store.has(run.id):
        sentence = "There is no run to apply it to yet: it holds from the next run on."
        if kind == SiteKind.COMPETITOR:
            sentence = "A competitor is crawled for benchmarks alone, which count no waivers."
        return WaiverEffect(run_id=None, findings=0, subjects=0, sentence=sentence)
    with work.open_run(run.id) as opened:
        found = if_waived(opened, [scope_value(scope) for scope in body.waivers])
    with work.reading() as session:
        taken = fingerprints_in_todos(session, site_id)
        todos = {todo.id: todo for key in found.prints if (todo := taken.get(key))}
    refs = [TodoRef(id=todo.id, title=todo.title, state=todo.state) for todo in todos.values()]
    return WaiverEffect(
        run_id=run.id,
        findings=len(found.prints),
        subjects=found.subjects,
        health_before=run.health,
        health_after=found.health,
        todos=refs,
        sentence=_sentence(len(found.prints), found.subjects, run.health, found.health),
    )


def _sentence(findings: int, subjects: int, before: float | None, after: float | None) -> str:
    """What waivers come to, in a sentence."""
    if not findings:
        return "It covers no open finding of the latest run."
    said = fill("Covers {n:open finding} on {m:URL}", {"n": findings, "m": subjects})
    change = difference(before, after) if before is not None and after is not None else None
    if not change or after is None:
        return f"{said}. Health stays the same."
    return f"{said}. Health rises {change:.1f} points to {after:.1f}."


def apply_to_latest(work: Workspace, site_id: int) -> str:
    """Let the waivers of a site hold in its latest run too: its findings, its figures, and what the register says of it. Gives a sentence on why it
    could not be done, in which case they hold from the next run on; empty when all is done."""
    with work.reading() as session:
        run = newest_whole_run(session, fetch(session, Site, site_id, "site"))
    if run is None:
        return ""
    with _choosing:
        lock = _revising[run.id]
    with lock:
        try:
            if not work.store.has(run.id):
                return ""
            with work.open_run(run.id) as opened:
                if not opened.is_current:
                    return "The latest run was written by an earlier release: it is counted so from the next run on."
            if work.revise(run.id, waivers_in_force(work, site_id)):
                finishing.take_in_again(work, run.id)
        except HodcarrierError as error:
            return f"{error.message} {error.hint}".strip()
    return ""


def newest_whole_run(session: Session, site: Site) -> Run | None:
    """The latest audit of a site, if its file is kept. Benchmark runs, the only ones that a competitor has, count no waivers."""
    run = latest_run(session, site)
    return run if run is not None and run.purpose == RunPurpose.AUDIT and run.file == FileState.KEPT else None
