"""A first look at a site that nobody has set up yet: a few pages, robots.txt and the sitemaps, by the crawl that audits use."""

from __future__ import annotations

import asyncio
from collections.abc import Mapping, Sequence
from dataclasses import replace
from statistics import median
from typing import Any

from sqlalchemy import select

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.facts.head import generator_of
from hodcarrier.core.first_look import Glance, minutes_of, propose, propose_rule, quiet_start, size_of
from hodcarrier.core.plan import plan_values, read_plan
from hodcarrier.core.settings import SETTINGS
from hodcarrier.core.web.urls import read_address, split
from hodcarrier.core.words import fill
from hodcarrier.crawl.session import crawl_into
from hodcarrier.register.models import Schedule, Site
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.writer import RunWriter
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.new_clients import FirstLookOut, ProposedSetting, SeenFact
from hodcarrier.wire.schedules import ScheduleBody

PAGES = 12
SECONDS_MAX = 40
_LABELS = {setting.name: setting.label for setting in SETTINGS}
_KIB = 1024


def first_look(work: Workspace, address: str, values: Mapping[str, Any], zone: str) -> FirstLookOut:
    """Look at a site, and say which settings suit it. ``zone`` is where its schedule is meant.

    Raises :class:`InvalidUrl`, :class:`InvalidPlan`, and :class:`InvalidInput` for a site that does not answer.
    """
    asked = read_address(address)
    plan = read_plan({**work.surroundings, "start": [asked], **values})
    brief = replace(plan, pages_max=PAGES, time_max_s=SECONDS_MAX, check_files=False, check_external=False)
    writer = RunWriter.create(":memory:", {"plan": plan_values(brief), "run_id": "look"})
    try:
        asyncio.run(crawl_into(writer, brief, work.now, probe=False))
        end = str(writer.meta("end"))
        if end.startswith("failed: "):
            raise InvalidInput(end.removeprefix("failed: "), "Check the URL, or try again later.", "address")
        glance = _glance(RunFile(writer.db), asked)
    finally:
        writer.close()
    if not glance.fetched:
        raise InvalidInput(f"No page of {asked} could be fetched.", "Check the URL, or try again later.", "address")
    proposals = list(propose(glance))
    proposed = read_plan({**plan_values(plan), **{each.name: each.value for each in proposals}})
    minutes = minutes_of(glance, proposed)
    rule, reason = propose_rule(minutes)
    with work.reading() as session:
        taken = session.scalars(select(Schedule.at).join(Site).where(~Site.archived)).all()
    return FirstLookOut(
        address=glance.address,
        host=proposed.host,
        pages=size_of(glance),
        facts=_facts(glance),
        proposals=[
            ProposedSetting(
                name=each.name,
                label=_LABELS[each.name],
                value=each.value,
                shown=", ".join(each.value) if isinstance(each.value, list) else f"{each.value:,}",
                reason=each.reason,
            )
            for each in proposals
        ],
        schedule=ScheduleBody(rule=rule, at=f"{quiet_start(taken):%H:%M}", zone=zone),
        schedule_reason=f"{reason} The start is at a time when few other audits start.",
        minutes=minutes,
        notices=_notices(glance),
    )


def _glance(run: RunFile, asked: str) -> Glance:
    start = _last_of_redirects(run, asked)
    fetched = run.rows(
        "SELECT a.id, n.first_byte_ms, n.decoded_bytes, p.lang FROM address a JOIN answer n ON n.address_id = a.id"
        " JOIN page p ON p.address_id = a.id WHERE a.role = 0 AND n.status = 200"
    )
    robots, sitemaps = run.robots_file(), run.sitemap_files()
    number = run.address_id(start)
    source = run.source(number) if number is not None else None
    answer = run.answer(number) if number is not None else None
    times = [row[1] for row in fetched if row[1] is not None]
    ((known,),) = run.rows("SELECT count(*) FROM address WHERE role = 0")
    return Glance(
        asked=asked,
        address=start,
        fetched=len(fetched),
        listed=sum(each.entries for each in sitemaps if each.sitemap.kind != "index"),
        known=known,
        first_byte_ms=median(times) if times else None,
        page_bytes=median(row[2] for row in fetched) if fetched else None,
        robots=_robots_words(robots.status, robots.failure),
        sitemaps=sum(1 for each in sitemaps if each.status == 200),
        delay_s=robots.robots.crawl_delay(run.plan.robots_token) if robots.usable else None,
        languages=tuple(sorted({row[3] for row in fetched if row[3]})),
        generator=generator_of(source) if source else "",
        server=(answer.header("x-powered-by") or answer.header("server"))[:100] if answer is not None else "",
    )


def _last_of_redirects(run: RunFile, url: str) -> str:
    """Where a URL leads in the end, as far as that was followed."""
    for _ in range(10):
        row = run.rows(
            "SELECT t.url FROM address a JOIN answer n ON n.address_id = a.id JOIN address t ON t.id = n.redirect_id WHERE a.url = ?",
            url,
        )
        if not row:
            return url
        url = row[0][0]
    return url


def _robots_words(status: int | None, failure: str) -> str:
    if status is None:
        return f"did not answer ({failure})"
    return "there" if 200 <= status < 300 else f"answers {status}"


def _facts(glance: Glance) -> list[SeenFact]:
    rows: Sequence[tuple[str, str]] = (
        ("Start URL", glance.address),
        ("robots.txt", glance.robots),
        (
            "Sitemaps",
            fill("{n:sitemap}, {m:URL} listed", {"n": glance.sitemaps, "m": glance.listed}) if glance.sitemaps else "none found",
        ),
        ("Pages known by now", f"{glance.known:,}"),
        (
            "Time to first byte",
            f"{glance.first_byte_ms:,.0f} ms (median of {glance.fetched})" if glance.first_byte_ms is not None else "",
        ),
        ("HTML of a page", f"{glance.page_bytes / _KIB:,.1f} KiB (median)" if glance.page_bytes is not None else ""),
        ("Languages", ", ".join(glance.languages)),
        ("Made with, as it says", glance.generator),
        ("Server, as it says", glance.server),
    )
    return [SeenFact(name=name, value=value) for name, value in rows if value]


def _notices(glance: Glance) -> list[str]:
    found = []
    if glance.delay_s:
        found.append(f"robots.txt asks for {glance.delay_s:g} s between requests, which audits respect.")
    if split(glance.address).scheme == "http":
        found.append("The site answers over http, without encryption.")
    if not glance.sitemaps:
        found.append("No sitemap was found, so its size is a guess: pages are found by links alone.")
    return found
