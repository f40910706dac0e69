"""*Check now*: the places of a to-do are fetched and examined at once, without waiting for the next audit.

Each page is looked at by itself (:mod:`hodcarrier.audit.look`), together with what its places lead to, such as the target of a broken link. What needs
the whole site (titles in common, files, the site itself) stays unverified: the next audit looks at that.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence

from hodcarrier.audit.look import Looked, judged_alone, last_run, looked_at
from hodcarrier.core.errors import Conflict, HodcarrierError
from hodcarrier.core.plan import Plan
from hodcarrier.core.scope import Scope
from hodcarrier.core.states import LIVE_TODO, PlaceOutcome
from hodcarrier.core.web.urls import is_web
from hodcarrier.register.models import Member, Todo, TodoFinding
from hodcarrier.runfile.sights import Sights
from hodcarrier.usecases import plans, todo_runs
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.todos import TodoOut

# An audit is the better way to look at more: this one answers within seconds.
URLS_MAX = 50


def check_now(work: Workspace, todo_id: int, member: Member) -> TodoOut:
    """Look at the places of a to-do now, and let what was seen judge it as a run would.

    Raises :class:`Conflict` for a to-do that is closed, that has no places, or that has them on more than :data:`URLS_MAX` URLs.
    """
    with work.reading() as session:
        todo = fetch(session, Todo, todo_id, "todo")
        site_id, links = todo.site_id, list(todo.linked)
        if todo.state not in LIVE_TODO:
            raise Conflict(f"The to-do is {todo.state}.", "Open it again to have its places checked.")
    if not links:
        raise Conflict("The to-do was made by hand: it has no places to check.", "Mark it done when it is done.")
    by_subject: defaultdict[str, list[TodoFinding]] = defaultdict(list)
    for link in links:
        by_subject[link.subject].append(link)
    if len(by_subject) > URLS_MAX:
        raise Conflict(
            f"Its places are on {len(by_subject):,} URLs, and at most {URLS_MAX} are checked at once.",
            "Run an audit of the site instead.",
        )
    outcomes: dict[bytes, PlaceOutcome] = {}
    plan = plans.get_plan(work, site_id).values
    for subject, own in by_subject.items():
        outcomes.update(_look(work, site_id, plan, subject, own))
    return todo_runs.judge_look(work, todo_id, outcomes, member)


def _look(work: Workspace, site_id: int, plan: Plan, subject: str, links: Sequence[TodoFinding]) -> Mapping[bytes, PlaceOutcome]:
    """What becomes of the places on one URL; one that cannot be looked at says nothing, and stops none of the others."""
    unverified = {link.fingerprint: PlaceOutcome.UNVERIFIED for link in links}
    if not is_web(subject):
        return unverified
    scope = Scope.of(plan)
    targets = [
        place
        for place in dict.fromkeys(link.place for link in links)
        if is_web(place) and scope.on_site(place) and place != subject
    ]
    try:
        with last_run(work, site_id) as (_, base), looked_at(work, site_id, plan, subject, base, targets[:URLS_MAX]) as looked:
            sights = Sights(looked.run.db, complete=False)
            return {link.fingerprint: _outcome(looked, sights, link) for link in links}
    except HodcarrierError:
        return unverified


def _outcome(looked: Looked, sights: Sights, link: TodoFinding) -> PlaceOutcome:
    sight = sights.of(link.fingerprint, link.check_id, link.subject)
    outcome, _ = todo_runs.outcome_of(link, sight, sights)
    passed_alone = outcome == PlaceOutcome.CLEARED and not (sight.found or sight.gone)
    return PlaceOutcome.UNVERIFIED if passed_alone and not judged_alone(looked, link.check_id) else outcome
