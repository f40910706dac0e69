"""A new client in one form: client, sites, schedule, competitors, people and first to-dos, all of it or nothing."""

from __future__ import annotations

from sqlalchemy.orm import Session

from hodcarrier.core.errors import HodcarrierError, InvalidInput
from hodcarrier.core.permissions import Role
from hodcarrier.core.plan import read_plan
from hodcarrier.core.states import SiteKind
from hodcarrier.core.web.urls import read_address
from hodcarrier.core.words import distinct
from hodcarrier.register.models import Benchmark, Client, Member, Preset, Site
from hodcarrier.usecases.clients import client_out, latest_health
from hodcarrier.usecases.invitations import invite
from hodcarrier.usecases.presets import check_shared
from hodcarrier.usecases.runs import queue_in
from hodcarrier.usecases.schedules import put_schedule
from hodcarrier.usecases.sites import put_site, read_sites, sites_out
from hodcarrier.usecases.todo_making import PlainTodo, due_in, make_plain
from hodcarrier.usecases.todo_story import member_for
from hodcarrier.usecases.workspace import Workspace, fetch, log, unless_taken
from hodcarrier.wire.new_clients import NewClientBody, NewClientOut
from hodcarrier.wire.presets import PresetTodo
from hodcarrier.wire.schedules import ScheduleBody

# A benchmark of everybody's first pages is alike, and done in an hour.
BENCHMARK_PAGES = 500


def set_up_client(work: Workspace, body: NewClientBody, member: Member) -> NewClientOut:
    """Set up a client. Raises what adding each of its parts raises, naming the field, and then nothing of it is there."""
    now = work.now()
    with work.session() as session:
        preset = fetch(session, Preset, body.preset_id, "preset") if body.preset_id is not None else None
        shared = dict(preset.settings) if preset is not None else {}
        check_shared(session, shared)
        client = _client(session, work, body, member)
        values = {**work.surroundings, **shared, "start": [read_address(body.address)], **body.plan}
        site = put_site(session, now, client, read_plan(values), SiteKind.OWN, member)
        competitors = [
            _competitor(session, work, client, address, number, member) for number, address in enumerate(body.competitors)
        ]
        schedule = body.schedule or _schedule_of(preset)
        if schedule is not None:
            put_schedule(session, now, site, schedule)
        todos = [PresetTodo.model_validate(each) for each in preset.todos] if preset is not None else []
        for todo in todos:
            _todo(session, work, site, todo, member)
        benchmark = _benchmark(session, work, client, site, competitors) if competitors else None
        for guest in body.guests:
            invite(work, session, guest.name, guest.email, Role.GUEST, client.id, member)
        session.flush()
        run = queue_in(work, session, site.id, member) if body.start_run else None
        session.refresh(client, ["sites"])
        return NewClientOut(
            client=client_out(client, latest_health(session)),
            site=sites_out(session, read_sites(session, Site.id == site.id))[0],
            todos=len(todos),
            benchmark_id=benchmark.id if benchmark is not None else None,
            run_id=run.id if run is not None else None,
        )


def _client(session: Session, work: Workspace, body: NewClientBody, member: Member) -> Client:
    owner = member_for(session, body.owner_id, "owner_id")
    client = Client(
        name=body.name,
        created_at=work.now(),
        holidays=[],
        targets={},
        blackout_days=[],
        note="",
        colour="",
        tags=distinct(body.tags),
        owner_id=owner.id if owner is not None else None,
    )
    with unless_taken(session, f"There is already a client called {body.name}.", "Give another name."):
        session.add(client)
    log(session, work.now(), member.id, "client added", body.name)
    return client


def _competitor(session: Session, work: Workspace, client: Client, address: str, number: int, member: Member) -> Site:
    try:
        plan = read_plan({**work.surroundings, "start": [read_address(address)]})
        return put_site(session, work.now(), client, plan, SiteKind.COMPETITOR, member)
    except HodcarrierError as problem:
        raise InvalidInput(f"Competitor {number + 1}: {problem.message}", problem.hint, "competitors") from None


def _schedule_of(preset: Preset | None) -> ScheduleBody | None:
    if preset is None or preset.schedule is None:
        return None
    return ScheduleBody.model_validate({name: value for name, value in preset.schedule.items() if name != "until"})


def _todo(session: Session, work: Workspace, site: Site, body: PresetTodo, member: Member) -> None:
    due = due_in(site, work.now().date(), body.days) if body.days is not None else None
    wanted = PlainTodo(
        body.title, body.note, due, priority=body.priority, estimate_hours=body.estimate_hours, labels=tuple(body.labels)
    )
    make_plain(session, work, site, wanted, member, "Made with the client.")


def _benchmark(session: Session, work: Workspace, client: Client, site: Site, competitors: list[Site]) -> Benchmark:
    benchmark = Benchmark(
        name=client.name,
        site_id=site.id,
        competitor_ids=[each.id for each in competitors],
        pages_max=BENCHMARK_PAGES,
        created_at=work.now(),
    )
    with unless_taken(session, f"There is already a benchmark called {client.name}.", "Rename that one, or the client."):
        session.add(benchmark)
    return benchmark
