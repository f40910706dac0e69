"""A new client in one form: all that it begins with, or nothing of it."""

from __future__ import annotations

from datetime import date
from typing import Any

import pytest
from sqlalchemy import func, select

from hodcarrier.core.errors import Conflict, HodcarrierError
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import RunState
from hodcarrier.register.models import Benchmark, Client, Delivery, LogEntry, Member, Preset, Run, Schedule, Site, Todo
from hodcarrier.usecases import members, presets, sites, todo_lists
from hodcarrier.usecases.new_clients import set_up_client
from hodcarrier.usecases.todo_lists import TodoFilter
from hodcarrier.wire.new_clients import NewClientBody, NewClientOut
from hodcarrier.wire.presets import PresetBody
from tests.usecases.conftest import Office
from tests.usecases.test_many_todos import person

WHOLE: dict[str, Any] = {
    "name": "Kiln",
    "address": "https://kiln.example/",
    "plan": {"rate_per_s": 2},
    "schedule": {"rule": "weekly:TU", "at": "03:30", "zone": "Europe/London"},
    "competitors": ["https://clay.example/", "https://oven.example/"],
    "tags": ["retail", "Retail"],
    "guests": [{"name": "Rosa Penhallow", "email": "rosa@kiln.example"}],
}
KEPT = (Benchmark, Client, Delivery, LogEntry, Member, Preset, Run, Schedule, Site, Todo)


@pytest.fixture
def lead(office: Office) -> Member:
    return person(office, "Imke", Role.LEAD)


def set_up(office: Office, lead: Member, **more: Any) -> NewClientOut:
    return set_up_client(office.work, NewClientBody.model_validate({**WHOLE, **more}), lead)


def counted(office: Office) -> list[int]:
    with office.work.reading() as session:
        return [session.scalar(select(func.count()).select_from(kind)) or 0 for kind in KEPT]


def test_everything_is_there_at_once(office: Office, lead: Member) -> None:
    made = set_up(office, lead, owner_id=lead.id)
    assert (made.client.owner, made.client.tags) == ("Imke", ["retail"])
    assert [(s.host, s.kind) for s in made.client.sites] == [
        ("kiln.example", "own"),
        ("clay.example", "competitor"),
        ("oven.example", "competitor"),
    ]
    found = sites.get_site(office.work, made.site.id)
    assert found.schedule is not None and found.schedule.words == "every Tuesday at 03:30 (Europe/London)"
    assert found.running is not None and (found.running.id, found.running.state) == (made.run_id, RunState.QUEUED)
    with office.work.reading() as session:
        benchmark = session.get_one(Benchmark, made.benchmark_id)
        assert (benchmark.site_id, len(benchmark.competitor_ids)) == (made.site.id, 2)
        assert session.get_one(Site, made.site.id).plan.rate_per_s == 2
        mail = session.scalars(select(Delivery)).one()
        assert mail.recipient == "rosa@kiln.example"
    (guest,) = [m for m in members.list_members(office.work) if m.role == Role.GUEST]
    assert (guest.client_id, guest.invited) == (made.client.id, True)


def test_a_name_and_a_url_are_enough(office: Office, lead: Member) -> None:
    made = set_up_client(office.work, NewClientBody(name="Kiln", address="kiln.example", start_run=False), lead)
    assert (made.site.host, made.site.schedule, made.benchmark_id, made.run_id, made.todos) == (
        "kiln.example",
        None,
        None,
        None,
        0,
    )


def test_a_preset_gives_what_is_not_given(office: Office, lead: Member) -> None:
    body = {
        "name": "Small shop",
        "settings": {"pages_max": 2000, "rate_per_s": 9},
        "schedule": {"rule": "daily", "at": "01:00", "until": "05:00", "zone": "UTC"},
        "todos": [
            {"title": "Ask for the logs", "days": 5, "labels": ["start"]},
            {"title": "Agree on targets", "priority": "high"},
        ],
    }
    number = presets.add_preset(office.work, PresetBody.model_validate(body), None).id
    made = set_up(office, lead, preset_id=number, schedule=None)
    assert made.todos == 2 and made.site.schedule is not None and made.site.schedule.words == "every day at 01:00 (UTC)"
    with office.work.reading() as session:
        plan = session.get_one(Site, made.site.id).plan
        assert (plan.pages_max, plan.rate_per_s) == (2000, 2), "what is given beside it wins"
    first, second = todo_lists.list_todos(office.work, TodoFilter(site=made.site.id)).items
    assert (first.title, first.due, first.labels) == ("Ask for the logs", date(2026, 11, 10), ["start"])
    assert (second.title, second.priority, second.due) == ("Agree on targets", "high", date(2026, 12, 15))


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ({"name": "ROPE & SAIL"}, "already a client"),
        ({"address": "not a url"}, "not a url"),
        ({"plan": {"rate_per_s": 0}}, "rate_per_s"),
        ({"schedule": {"rule": "never"}}, "recurrence"),
        ({"competitors": ["https://clay.example/", "https://clay.example/shop/"]}, r"Competitor 2: Kiln already has the site"),
        ({"competitors": ["https://kiln.example/"]}, "Competitor 1"),
        ({"guests": [{"name": "Rosa", "email": "nowhere"}]}, "nowhere"),
        ({"guests": [{"name": "Imke", "email": "imke@kiln.example"}]}, "already a member"),
        ({"owner_id": 99}, "There is no member 99"),
        ({"preset_id": 99}, "There is no preset 99"),
    ],
)
def test_nothing_is_there_when_one_part_is_wrong(office: Office, lead: Member, more: dict[str, Any], words: str) -> None:
    before = counted(office)
    with pytest.raises(HodcarrierError, match=words):
        set_up(office, lead, **more)
    assert counted(office) == before


def test_a_benchmark_of_that_name_stops_it(office: Office, lead: Member) -> None:
    with office.work.session() as session:
        session.add(Benchmark(name="kiln", site_id=office.site.id, competitor_ids=[], pages_max=5, created_at=office.work.now()))
    with pytest.raises(Conflict, match="already a benchmark"):
        set_up(office, lead)
