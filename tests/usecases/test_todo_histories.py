"""To-dos over generated histories: whatever people and runs do, in any order, runs judge by what they saw, and a finding is in one live to-do."""

from __future__ import annotations

from datetime import datetime, timedelta
from pathlib import Path
from tempfile import mkdtemp

from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, precondition, rule
from sqlalchemy import func, select

from hodcarrier.core.catalogue import Sample, doc, gone, page, text_file
from hodcarrier.core.errors import Conflict
from hodcarrier.core.judge.todos import NEXT_STATES
from hodcarrier.core.states import LIVE_TODO, PlaceOutcome, TodoState
from hodcarrier.register.models import Member, Todo, TodoFinding
from hodcarrier.runfile import results
from hodcarrier.usecases import todo_changes, todo_lists, todos
from hodcarrier.usecases.todo_runs import judge_look
from hodcarrier.usecases.workspace import latest_run_id
from hodcarrier.wire.todos import TodoBody, TodoChange
from tests.usecases.conftest import START, Office, make_office

PAGES = ("/", "/1", "/2")
DAY = timedelta(days=1)
Subset = st.sets(st.sampled_from(PAGES))


def site(broken: set[str], blocked: set[str]) -> list[Sample]:
    """A shop of three pages: the ``broken`` ones link to an address that is gone, the ``blocked`` ones may not be fetched."""
    links = "".join(f'<a href="{path}">page</a>' for path in PAGES)
    pages = [
        page(doc(links + "<h1>Page</h1>" + ('<a href="/gone">old</a>' if path in broken else "")), path)
        for path in PAGES
        if path not in blocked
    ]
    rules = "".join(f"Disallow: {path}$\n" for path in sorted(blocked))
    return [*pages, text_file("/robots.txt", f"User-agent: *\n{rules or 'Disallow:'}\n"), gone("/gone")]


class Histories(RuleBasedStateMachine):
    """What the register says beside a plain model: of each to-do its state, the pages it is about, and those whose findings it holds: one that was
    opened again does not get back what another to-do has taken in the meantime."""

    def __init__(self) -> None:
        super().__init__()
        self.office: Office = make_office(Path(mkdtemp()))
        self.now: datetime = START
        self.broken: set[str] = set()
        self.seen: set[str] = set()
        self.states: dict[int, TodoState] = {}
        self.pages: dict[int, set[str]] = {}
        self.holds: dict[int, set[str]] = {}

    def later(self) -> datetime:
        self.now += DAY
        return self.now

    @initialize(broken=Subset)
    def first_audit(self, broken: set[str]) -> None:
        self.audit(broken, set())

    @rule(broken=Subset, blocked=st.sets(st.sampled_from(PAGES[1:])))
    def audit(self, broken: set[str], blocked: set[str]) -> None:
        self.office.audit(self.later(), site(broken, blocked))
        self.broken, self.seen = broken - blocked, set(PAGES) - blocked
        before = dict(self.states)
        for todo in sorted(before, reverse=True):
            if before[todo] in LIVE_TODO:
                self.states[todo] = self.judged(before[todo], self.pages[todo])
        for todo in sorted(before, reverse=True):
            taken = self.taken()
            if before[todo] == TodoState.CONFIRMED and (self.pages[todo] & self.broken) - taken:
                self.states[todo], self.holds[todo] = TodoState.OPEN, self.pages[todo] - taken

    def judged(self, state: TodoState, pages: set[str]) -> TodoState:
        if pages & self.broken:
            return TodoState.OPEN if state == TodoState.DONE else state
        return TodoState.CONFIRMED if pages <= self.seen else state

    def taken(self) -> set[str]:
        """Pages whose finding a live to-do holds."""
        live = (todo for todo, state in self.states.items() if state in LIVE_TODO)
        return {path for todo in live for path in self.holds[todo]}

    @precondition(lambda self: self.broken)
    @rule(data=st.data())
    def hand_out(self, data: st.DataObject) -> None:
        chosen = data.draw(st.sets(st.sampled_from(sorted(self.broken)), min_size=1))
        work = self.office.at(self.later())
        with work.reading() as session:
            latest = latest_run_id(session, self.office.site.id)
        with work.open_run(latest) as run:
            rows = results.findings(run, check_id="link-broken")
        prints = [row["fingerprint"] for row in rows if row["subject"].removeprefix("https://shop.example") in chosen]
        assert len(prints) == len(chosen)
        free = chosen - self.taken()
        body = TodoBody(site_id=self.office.site.id, title="Repair the links", fingerprints=prints)
        try:
            made = todos.add_todo(work, body, None)
        except Conflict:
            assert not free
            return
        assert {place.subject.removeprefix("https://shop.example") for place in made.linked} == free
        self.states[made.id], self.pages[made.id], self.holds[made.id] = TodoState.OPEN, free, free

    @precondition(lambda self: self.states)
    @rule(data=st.data())
    def move(self, data: st.DataObject) -> None:
        todo = data.draw(st.sampled_from(sorted(self.states)))
        state = data.draw(st.sampled_from(list(TodoState)))
        before = self.states[todo]
        if state == before:
            return
        allowed = state in NEXT_STATES[before] and state != TodoState.CONFIRMED
        free = before in LIVE_TODO or not self.pages[todo] & self.taken()
        try:
            change = TodoChange(state=state, drop_reason="Not worth it")
            todo_changes.change_todo(self.office.at(self.later()), todo, change, None, Member(id=None, name=""))
        except Conflict:
            assert not allowed or not free
        else:
            assert allowed and free
            self.states[todo] = state
            if before not in LIVE_TODO:
                self.holds[todo] = self.pages[todo]

    @precondition(lambda self: any(state in LIVE_TODO for state in self.states.values()))
    @rule(data=st.data())
    def check_now(self, data: st.DataObject) -> None:
        """A look at the places of a to-do, before the next run: some of them are fixed by now, some cannot be fetched."""
        todo = data.draw(st.sampled_from(sorted(t for t, state in self.states.items() if state in LIVE_TODO)))
        places = sorted(self.pages[todo])
        outcomes = data.draw(st.lists(st.sampled_from(list(PlaceOutcome)), min_size=len(places), max_size=len(places)))
        saw = dict(zip(places, outcomes, strict=True))
        linked = todo_lists.get_todo(self.office.work, todo).linked
        seen = {bytes.fromhex(k.fingerprint): saw[k.subject.removeprefix("https://shop.example")] for k in linked}
        judge_look(self.office.at(self.later()), todo, seen, Member(id=None, name=""))
        if PlaceOutcome.STILL in outcomes:
            self.states[todo] = TodoState.OPEN if self.states[todo] == TodoState.DONE else self.states[todo]
        elif PlaceOutcome.UNVERIFIED not in outcomes:
            self.states[todo] = TodoState.CONFIRMED

    @invariant()
    def the_register_says_what_the_model_says(self) -> None:
        for todo, state in self.states.items():
            assert todo_lists.get_todo(self.office.work, todo).state == state, (todo, self.pages[todo])

    @invariant()
    def a_finding_is_in_one_live_to_do(self) -> None:
        with self.office.work.reading() as session:
            rows = session.execute(
                select(TodoFinding.fingerprint, func.count())
                .join(Todo, Todo.id == TodoFinding.todo_id)
                .where(TodoFinding.live)
                .group_by(TodoFinding.fingerprint)
            ).all()
            states = session.scalars(select(Todo.state).join(TodoFinding).where(TodoFinding.live)).all()
        assert all(count == 1 for _, count in rows) and set(states) <= set(LIVE_TODO)


Histories.TestCase.settings = settings(
    max_examples=12, stateful_step_count=10, deadline=None, suppress_health_check=list(HealthCheck), derandomize=True
)
test_histories = Histories.TestCase
