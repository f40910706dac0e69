"""What a run found: checks, causes, findings, pages, with the to-dos they are in."""

from __future__ import annotations

from collections import defaultdict
from typing import Any

from sqlalchemy import ColumnElement, Text, and_, func, or_, select, type_coerce
from sqlalchemy.orm import Session

from hodcarrier.core import catalogue
from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.judge.health import order_of_work
from hodcarrier.core.plan import Plan
from hodcarrier.core.states import LIVE_TODO, CheckOutcome, Severity, Weight
from hodcarrier.core.web.urls import normalize
from hodcarrier.register.models import EXAMINED, Member, Run, Todo, TodoFinding
from hodcarrier.runfile import results, weights
from hodcarrier.runfile.causes import causes, top_cause
from hodcarrier.runfile.evidence import located
from hodcarrier.runfile.reader import RunFile
from hodcarrier.usecases.catalogue import retired_out
from hodcarrier.usecases.outside_columns import worth_of
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.base import Listed
from hodcarrier.wire.results import CauseRow, CheckOnSite, CheckRow, FindingRow, LimitOut, PageOut, SeverityNote, TodoRef

HISTORY_RUNS = 30
PRINT_BYTES_MIN = 4


def _todo_refs(session: Session, run: Run) -> dict[int, tuple[TodoRef, str]]:
    """Live to-dos of the run's site with their checks, by id."""
    columns = select(Todo.id, Todo.title, Todo.state, Todo.due, Todo.check_id, Member.name).outerjoin(Todo.assignee)
    rows = session.execute(columns.where(Todo.site_id == run.site_id, Todo.state.in_(LIVE_TODO)).order_by(Todo.id))
    return {
        row.id: (
            TodoRef(
                id=row.id,
                title=row.title,
                state=row.state,
                assignee=row.name or "",
                due=row.due.isoformat() if row.due else None,
            ),
            row.check_id,
        )
        for row in rows
    }


def _todos_of_causes(session: Session, run: Run, opened: RunFile) -> dict[int, list[TodoRef]]:
    """The live to-dos that findings of each cause are in."""
    refs = _todo_refs(session, run)
    if not refs:
        return {}
    linked = session.execute(
        select(TodoFinding.fingerprint, TodoFinding.todo_id).where(TodoFinding.site_id == run.site_id, TodoFinding.live)
    )
    of_print: dict[bytes, int] = dict(linked.all())
    found: defaultdict[int, dict[int, TodoRef]] = defaultdict(dict)
    for fingerprint, cause in results.causes_of(opened, of_print):
        number = of_print[fingerprint]
        if number in refs:
            found[cause][number] = refs[number][0]
    return {cause: list(todos.values()) for cause, todos in found.items()}


def list_checks(
    work: Workspace, run_id: str, outcome: CheckOutcome | None = None, weight: Weight = Weight.GAIN
) -> list[CheckRow]:
    """Checks with an outcome in a run (``None``: those that failed, waived or not), in the order of work, with their to-dos and the change
    since the run before. Of equal severity those come first that bring the most of ``weight`` for the effort."""
    by_url = worth_of(work, run_id, weight)
    wanted = (CheckOutcome.FAILING, CheckOutcome.WAIVED) if outcome is None else (outcome,)
    current = catalogue.load().current
    with work.reading() as session, work.open_run(run_id) as opened:
        run = fetch(session, Run, run_id, "run")
        refs = _todo_refs(session, run)
        changes = {current(row.check): row.change for row in run.changes.by_check} if run.changes else {}
        rows = []
        for row in results.checks(opened, wanted):
            change = changes.get(current(row["id"]), 0) if run.changes else None
            mine = [ref for ref, check in refs.values() if current(check) == current(row["id"])]
            rows.append(CheckRow(**row, cause=top_cause(opened, row["id"]), change=change, todos=mine))
        if by_url is not None:
            worth = weights.of_checks(opened, by_url)
            for check in rows:
                check.weight = round(worth.get(check.id, 0.0))
            rows.sort(key=lambda each: (*order_of_work(each.severity, each.weight or 0.0, each.fixes, each.effort), each.id))
        return rows


def list_causes(
    work: Workspace, run_id: str, check_id: str = "", limit: int = 200, after: int = 0, weight: Weight = Weight.GAIN
) -> list[CauseRow]:
    """Causes of a check, or of all checks, with the to-dos they are in, those with the most of ``weight`` first."""
    by_url = worth_of(work, run_id, weight)
    with work.reading() as session, work.open_run(run_id) as opened:
        run = fetch(session, Run, run_id, "run")
        check_id = _name_in(opened, check_id)
        todos_of = _todos_of_causes(session, run, opened)
        if by_url is None:
            rows = causes(opened, check_id, limit, after)
        else:
            rows = weights.causes_by_weight(opened, by_url, check_id, limit, after)
        return [CauseRow(**row, todos=todos_of.get(row["id"], [])) for row in rows]


def _name_in(run: RunFile, check_id: str) -> str:
    """The name that a check has in a run: it may have been renamed since. Raises :class:`NotFound` for one the run did not have."""
    if not check_id:
        return ""
    known = catalogue.load()
    there = {name for (name,) in run.rows("SELECT id FROM check_state")}
    current = known.current(check_id)
    found = next((name for name in (check_id, current, *known.names(current)) if name in there), None)
    if found is None:
        raise NotFound(f"This run had no check called “{check_id}”.", "See `hodcarrier catalogue list`.")
    return found


def get_check(work: Workspace, run_id: str, check_id: str) -> CheckOnSite:
    """One check in a run, as it was when the run was examined, with its causes and its findings over the runs of the site.

    A check that was renamed since is found by either name; one that was retired says what happened. Raises :class:`NotFound`
    for a check that the run did not have.
    """
    known = catalogue.load()
    names = {known.current(check_id), *known.names(known.current(check_id))}
    with work.reading() as session:
        run = fetch(session, Run, run_id, "run")
        figures = func.coalesce(
            *(func.json_extract(type_coerce(Run.summary, Text), f'$.checks."{name}".findings') for name in sorted(names)), 0
        )
        earlier = session.execute(
            select(Run.requested_at, figures)
            .where(Run.site_id == run.site_id, EXAMINED, _line_to(session, run))
            .order_by(Run.sequence.desc())
            .limit(HISTORY_RUNS)
        ).all()
        history = [(at, int(count)) for at, count in reversed(earlier)]
    with work.open_run(run_id) as opened:
        here = _name_in(opened, check_id)
        figures_here = results.check(opened, here)
        text = results.texts(opened)[here]
        plan = opened.plan
    entry = known.get(here)
    limits = {}
    for name, value in text.limits.items():
        limit = entry.check.limits.get(name) if entry else None
        limits[name] = LimitOut(
            default=limit.default if limit else value,
            unit=limit.unit if limit else "",
            meaning=limit.meaning if limit else name.replace("_", " "),
            value=value,
        )
    gone = known.retired.get(known.current(here))
    return CheckOnSite(
        **figures_here,
        area=catalogue.Area(text.area),
        area_name=text.area_name,
        severity=text.severity,
        severity_change=_severity_change(plan, here, entry),
        summary=text.summary,
        why=text.why,
        fix=text.fix,
        effort=text.effort,
        standard=text.standard,
        limits=limits,
        history=history,
        causes=list_causes(work, run_id, here),
        retired=retired_out(gone) if gone else None,
    )


def _severity_change(plan: Plan, check: str, entry: catalogue.Entry[Any] | None) -> SeverityNote | None:
    """What the plan of a run says of a check's severity, when it is another than the catalogue's."""
    known = catalogue.load()
    said = next((change for name, change in plan.severities.items() if known.current(name) == known.current(check)), None)
    if said is None or entry is None or said.severity == entry.check.severity:
        return None
    return SeverityNote(usual=entry.check.severity, reason=said.reason, profile=plan.profile)


def _line_to(session: Session, run: Run) -> ColumnElement[bool]:
    """The runs that a run goes on from, with itself. A re-examination takes the place of the run that it judges anew."""
    if run.source_id is None:
        return and_(Run.purpose == run.purpose, Run.sequence <= run.sequence)
    source = fetch(session, Run, run.source_id, "run")
    return or_(Run.id == run.id, and_(Run.purpose == source.purpose, Run.sequence < source.sequence))


def list_findings(
    work: Workspace,
    run_id: str,
    *,
    check: str,
    cause: int | None,
    severity: Severity | None,
    waived: bool | None,
    limit: int,
    after: int,
) -> Listed[FindingRow]:
    """Findings of a run, a part at a time."""
    chosen = severity or ""
    with work.open_run(run_id) as opened:
        check = _name_in(opened, check)
        rows = results.findings(opened, check_id=check, cause=cause, severity=chosen, waived=waived, limit=limit + 1, after=after)
        total = results.count_findings(opened, check_id=check, cause=cause, severity=chosen, waived=waived)
    more = len(rows) > limit
    items = [FindingRow(**row) for row in rows[:limit]]
    return Listed(items=items, total=total, after=str(items[-1].id) if more else None)


def get_finding(work: Workspace, run_id: str, fingerprint: str) -> FindingRow:
    """One finding with its place in the source, waived or not, by its fingerprint or the beginning of it. Raises :class:`NotFound` when the run
    has none like that, :class:`Conflict` when it has several."""
    begins = as_print(fingerprint)
    with work.open_run(run_id) as opened:
        rows = results.findings_that_begin(opened, begins, 2)
        if len(rows) > 1:
            raise Conflict(f"Several findings begin with {fingerprint}.", "Give more of the fingerprint.")
        if not rows:
            raise NotFound(
                f"Run {run_id} has no finding {fingerprint}.",
                "See `hodcarrier finding list RUN`; findings of other runs are not in it.",
            )
        return FindingRow(**located(opened, rows[:1])[0])


def as_print(fingerprint: str) -> bytes:
    """A fingerprint, or the beginning of one, as bytes. Raises :class:`InvalidInput`."""
    try:
        begins = bytes.fromhex(fingerprint)
    except ValueError:
        begins = b""
    if not PRINT_BYTES_MIN <= len(begins) <= results.FINGERPRINT_BYTES:
        raise InvalidInput(
            f"“{fingerprint}” is no fingerprint.", "Give 8 to 32 hexadecimal digits, an even number of them.", "fingerprint"
        )
    return begins


def get_page(work: Workspace, run_id: str, url: str) -> PageOut:
    """Everything known of one URL in a run."""
    with work.open_run(run_id) as opened:
        page = results.page(opened, normalize(url))
        return PageOut(**{**page, "findings": located(opened, page["findings"])})
