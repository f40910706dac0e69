"""Who at the demo's agency is in charge of which client, what is agreed, and how new sites are set up."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date

from hodcarrier.core.states import ViewPlace
from hodcarrier.register.models import Member, Site
from hodcarrier.usecases import clients, presets, views
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.clients import ClientChange
from hodcarrier.wire.presets import PresetBody, PresetTodo, SpreadSchedule
from hodcarrier.wire.views import ViewBody


def put_in_charge(work: Workspace, site_ids: Mapping[str, int], people: Mapping[str, Member], year: int) -> None:
    """Who is in charge of which client, what is agreed, and how new sites are set up."""
    imke, tobin = people["Imke"], people["Tobin"]
    agreed = "**Two hours a week.** A report on the first Monday of the month.\n\n- Releases on Thursdays\n- No audits in the week before Christmas"
    for host, change in {
        "tidewrack.example": ClientChange(
            owner_id=imke.id,
            tags=["retail"],
            note=agreed,
            blackout_days=[date(year, 12, day) for day in range(18, 25)],
            holidays=[date(year, 12, 25), date(year, 12, 28)],
        ),
        "pellow-kiln.example": ClientChange(owner_id=tobin.id, tags=["courses"]),
        "ardmoor-seeds.example": ClientChange(owner_id=imke.id, tags=["charity"]),
    }.items():
        with work.reading() as session:
            client_id = session.get_one(Site, site_ids[host]).client_id
        clients.change_client(work, client_id, change, imke)
    small = PresetBody(
        name="Small site",
        note="Up to 2,000 pages, audited in the night to Tuesday.",
        settings={"pages_max": 2000},
        schedule=SpreadSchedule(rule="weekly:TU", at="01:00", until="05:00", zone="Europe/London"),
        todos=[
            PresetTodo(title="Get access to the server’s log files", days=5),
            PresetTodo(title="Agree on targets and holidays", days=10),
        ],
    )
    presets.add_preset(work, small, tobin)
    late = ViewBody(place=ViewPlace.TODOS, name="Overdue, by severity", query="due=overdue&sort=severity", shared=True)
    views.add_view(work, late, tobin)
