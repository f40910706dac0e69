"""Reports for clients: made from a template, edited, kept in versions, approved. :mod:`hodcarrier.report` draws them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any

from sqlalchemy import and_, select
from sqlalchemy.orm import Session, joinedload, undefer

from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.reports.days import span_before
from hodcarrier.core.states import SEEN_BY_CLIENTS, ReportSpan, ReportState, SectionKind
from hodcarrier.register.models import Member, Report, ReportVersion, Site
from hodcarrier.report.drawn import DrawnReport, drawn, empty_sections
from hodcarrier.report.language import known_language, language
from hodcarrier.report.values import STORED, ReportValues, SectionValues
from hodcarrier.usecases.brands import brand_of, marks_of
from hodcarrier.usecases.report_facts import OF_AUDITS, Gatherer, Gathering, plain
from hodcarrier.usecases.report_links import link_out
from hodcarrier.usecases.report_outside import OF_OUTSIDE
from hodcarrier.usecases.report_templates import checked, find_report_template, read_sections, stored
from hodcarrier.usecases.report_work import OF_WORK, figures_of, todos_of
from hodcarrier.usecases.workspace import Workspace, fetch, log, unless_taken
from hodcarrier.wire.reports import (
    ReportBody,
    ReportChange,
    ReportFull,
    ReportOut,
    ReportSection,
    ReportSending,
    ReportTrial,
    ReportVersionOut,
)

GATHERERS: Mapping[SectionKind, Gatherer] = {**OF_AUDITS, **OF_WORK, **OF_OUTSIDE}


@dataclass(frozen=True)
class Draft:
    """What a report is made of before it is kept."""

    site_id: int
    client: str
    host: str
    title: str
    language: str
    from_day: date
    to_day: date
    sections: Sequence[ReportSection]


def add_report(
    work: Workspace, body: ReportBody, member: Member | None, agency: str, schedule_id: int | None = None
) -> ReportFull:
    """Make a report over a span of days, as a draft. Raises :class:`NotFound` when the site had no audit by then."""
    _check_days(body.from_day, body.to_day)
    # Runs that nobody has compared may take ten seconds: not while the register is locked.
    with work.reading() as session:
        site = fetch(session, Site, body.site_id, "site")
        template = find_report_template(session, body.template)
        code = known_language(body.language or site.client.language)
        sections = list(template.sections)
        if body.note.strip() and sections:
            first = next((n for n, each in enumerate(sections) if each.kind != SectionKind.COVER), 0)
            sections[first] = sections[first].model_copy(update={"note": body.note})
        title = body.title or f"{site.client.name}: {language(code).span(body.from_day, body.to_day)}"
        draft = Draft(site.id, site.client.name, site.host, title, code, body.from_day, body.to_day, sections)
        brand = brand_of(session, site.client)
    values = replace(_gather(work, draft, agency), brand=brand)
    with work.session() as session:
        row = Report(
            site_id=fetch(session, Site, body.site_id, "site").id,
            title=title,
            from_day=body.from_day,
            to_day=body.to_day,
            note=body.note,
            language=code,
            template=body.template,
            sections=stored(sections),
            state=ReportState.DRAFT,
            values=STORED.dump(values),
            author_id=member.id if member else None,
            created_at=work.now(),
            schedule_id=schedule_id,
        )
        with unless_taken(session, "This report was made in the meantime.", "Look at that one."):
            session.add(row)
            session.flush()
        _keep(session, work, row, member, f"made from {template.name}")
        log(session, work.now(), row.author_id, "report made", title)
        number = row.id
    return get_report(work, number)


def change_report(
    work: Workspace, report_id: int, body: ReportChange, version: int | None, member: Member, agency: str
) -> ReportFull:
    """Change a report: what is given of its title, language, days and sections. Facts that are there stay as they were gathered, unless the days differ. Raises :class:`Conflict`
    when somebody else changed it since ``version``."""
    values, draft = _changed(work, report_id, body, agency)
    with work.session() as session:
        row = fetch(session, Report, report_id, "report")
        if version is not None and version != row.version:
            raise Conflict("Somebody changed this report in the meantime.", "Load it again, then make your changes.")
        row.title, row.language, row.from_day, row.to_day = draft.title, draft.language, draft.from_day, draft.to_day
        row.sections, row.values = stored(draft.sections), STORED.dump(values)
        _go_on(session, work, row, member, "edited")
    return get_report(work, report_id)


def preview_report(work: Workspace, report_id: int, body: ReportChange, agency: str) -> DrawnReport:
    """A report as it would be after changes, which are not kept."""
    values, _ = _changed(work, report_id, body, agency)
    return drawn(values, marks_of(work, values.brand))


def try_sections(work: Workspace, body: ReportTrial, agency: str) -> DrawnReport:
    """What a report of last month on a site would be with some sections. Raises :class:`NotFound` when the site had no audit by then."""
    first, last = span_before(ReportSpan.MONTH, work.now().date())
    with work.reading() as session:
        site = fetch(session, Site, body.site_id, "site")
        code = known_language(site.client.language)
        title = f"{site.client.name}: {language(code).span(first, last)}"
        draft = Draft(site.id, site.client.name, site.host, title, code, first, last, checked(body.sections))
        brand = brand_of(session, site.client)
    values = replace(_gather(work, draft, agency), brand=brand)
    return drawn(values, marks_of(work, values.brand))


def refresh_report(work: Workspace, report_id: int, member: Member, agency: str) -> ReportFull:
    """Gather the facts of all sections again, and the brand as it is now."""
    with work.reading() as session:
        row = fetch(session, Report, report_id, "report")
        draft, brand = _draft(row), brand_of(session, row.site.client)
    values = replace(_gather(work, draft, agency), brand=brand)
    with work.session() as session:
        row = fetch(session, Report, report_id, "report")
        row.values = STORED.dump(values)
        _go_on(session, work, row, member, "figures refreshed")
    return get_report(work, report_id)


def restore_report(work: Workspace, report_id: int, number: int, member: Member) -> ReportFull:
    """Go back to an earlier version, as a new one: nothing in between is lost. Raises :class:`NotFound` for one that there is not."""
    with work.session() as session:
        row = fetch(session, Report, report_id, "report")
        kept = _version(session, row, number)
        row.title, row.language, row.sections, row.values = kept.title, kept.language, kept.sections, kept.values
        row.from_day, row.to_day = kept.from_day, kept.to_day
        _go_on(session, work, row, member, f"back to version {number}")
    return get_report(work, report_id)


def approve_report(work: Workspace, report_id: int, version: int | None, member: Member) -> ReportFull:
    """Approve the report as it stands: from now on this is what clients see. Raises :class:`Conflict` when it is not the version that was looked at."""
    with work.session() as session:
        row = fetch(session, Report, report_id, "report")
        if version is not None and version != row.version:
            raise Conflict("Somebody changed this report in the meantime.", "Look at it again before you approve it.")
        if not row.sections and not STORED.load(row.values).sections:
            raise InvalidInput("The report has no sections.", "Add some before you approve it.", "sections")
        row.state, row.approved_version = ReportState.APPROVED, row.version
        row.approved_at, row.approver_id = work.now(), member.id
        log(session, work.now(), member.id, "report approved", row.title)
    return get_report(work, report_id)


def remove_report(work: Workspace, report_id: int, member: Member) -> None:
    """Remove a report with its versions and share links."""
    with work.session() as session:
        row = fetch(session, Report, report_id, "report")
        log(session, work.now(), member.id, "report removed", row.title)
        session.delete(row)


def list_reports(
    work: Workspace, client_id: int | None = None, *, for_client: bool = False, site_id: int | None = None
) -> list[ReportOut]:
    """Reports, the latest first (``client_id``: those of one client, ``site_id``: of one site). ``for_client``: those that clients may see, as they were approved."""
    with work.reading() as session:
        chosen = select(Report).join(Site).order_by(Report.created_at.desc(), Report.id.desc())
        chosen = chosen.options(joinedload(Report.site).joinedload(Site.client), joinedload(Report.approver))
        if client_id is not None:
            chosen = chosen.where(Site.client_id == client_id)
        if site_id is not None:
            chosen = chosen.where(Report.site_id == site_id)
        if not for_client:
            return [report_out(row) for row in session.scalars(chosen)]
        approved = and_(ReportVersion.report_id == Report.id, ReportVersion.number == Report.approved_version)
        pairs = session.execute(chosen.join(ReportVersion, approved).add_columns(ReportVersion)).all()
        return [as_approved(row, kept) for row, kept in pairs]


def get_report(work: Workspace, report_id: int) -> ReportFull:
    """A report with its sections, versions and share links."""
    with work.reading() as session:
        row = fetch(session, Report, report_id, "report")
        versions = session.scalars(
            select(ReportVersion)
            .where(ReportVersion.report_id == row.id)
            .order_by(ReportVersion.number.desc())
            .options(joinedload(ReportVersion.author))
        )
        values, now = STORED.load(row.values), work.now()
        planned = row.schedule
        return ReportFull(
            **report_out(row).model_dump(),
            client_id=row.site.client_id,
            sections=_sections(row, values),
            empty=empty_sections(values),
            versions=[
                ReportVersionOut(
                    number=each.number, at=each.at, author=each.author.name if each.author else "the schedule", what=each.what
                )
                for each in versions
            ],
            links=[link_out(link, now) for link in row.links],
            planned=ReportSending(recipients=planned.recipients, subject=planned.subject, cover=planned.cover)  # type: ignore[arg-type]
            if planned is not None and planned.recipients
            else None,
        )


def draw_report(
    work: Workspace, report_id: int, number: int | None = None, *, for_client: bool = False
) -> tuple[ReportOut, DrawnReport]:
    """A report ready for drawing: as it stands, in an earlier version, or as clients see it. Raises :class:`NotFound` for what clients may not see."""
    with work.reading() as session:
        row = fetch(session, Report, report_id, "report")
        if for_client:
            if row.approved_version is None:
                raise NotFound("There is nothing of that kind for you here.", "Ask the agency for the right link.")
            kept = _version(session, row, row.approved_version)
            out, values = as_approved(row, kept), STORED.load(kept.values)
        else:
            chosen = row if number is None or number == row.version else _version(session, row, number)
            out, values = report_out(row), STORED.load(chosen.values)
    return out, drawn(values, marks_of(work, values.brand))


def report_out(row: Report) -> ReportOut:
    """A report in a list."""
    return ReportOut(
        id=row.id,
        site_id=row.site_id,
        site_host=row.site.host,
        client_name=row.site.client.name,
        title=row.title,
        from_day=row.from_day,
        to_day=row.to_day,
        note=row.note,
        created_at=row.created_at,
        language=row.language,
        template=row.template,
        state=row.state,
        version=row.version,
        approved_version=row.approved_version,
        approved_at=row.approved_at,
        approver=row.approver.name if row.approver else "",
        sent_at=row.sent_at,
        scheduled=row.schedule_id is not None,
    )


def as_approved(row: Report, kept: ReportVersion) -> ReportOut:
    """A report as clients see it: what was approved of it, and nothing of how far a draft has gone on."""
    return report_out(row).model_copy(
        update={
            "title": kept.title,
            "from_day": kept.from_day,
            "to_day": kept.to_day,
            "language": kept.language,
            "note": "",
            "approver": "",
            "version": kept.number,
            "state": row.state if row.state in SEEN_BY_CLIENTS else ReportState.APPROVED,
        }
    )


def _check_days(first: date, last: date) -> None:
    if last < first:
        raise InvalidInput("The report ends before it begins.", "Swap the two days.", "to_day")


def _sections(row: Report, values: ReportValues) -> list[ReportSection]:
    """The sections as the editor has chosen them; of a report of an earlier release those that it shows."""
    if row.sections:
        return read_sections(row.sections)
    return [ReportSection(kind=each.kind, title=each.title, note=each.note, key=each.key) for each in values.sections]


def _draft(row: Report) -> Draft:
    sections = _sections(row, STORED.load(row.values))
    return Draft(row.site_id, row.site.client.name, row.site.host, row.title, row.language, row.from_day, row.to_day, sections)


def _changed(work: Workspace, report_id: int, body: ReportChange, agency: str) -> tuple[ReportValues, Draft]:
    """The values of a report after changes, and what it is made of then."""
    with work.reading() as session:
        row = session.scalar(select(Report).where(Report.id == report_id).options(undefer(Report.values)))
        if row is None:
            raise NotFound(f"There is no report {report_id}.", "List them with `hodcarrier report list`.")
        before, kept = _draft(row), STORED.load(row.values)
    draft = replace(
        before,
        title=body.title or before.title,
        language=known_language(body.language) if body.language else before.language,
        from_day=body.from_day or before.from_day,
        to_day=body.to_day or before.to_day,
        sections=checked(body.sections) if body.sections is not None else before.sections,
    )
    _check_days(draft.from_day, draft.to_day)
    same_days = (draft.from_day, draft.to_day) == (before.from_day, before.to_day)
    known: dict[tuple[Any, ...], dict[str, Any]] = {}
    if same_days:
        facts = {each.key: each.facts for each in kept.sections}
        known = {_asked(each): facts[each.key] for each in before.sections if each.key in facts}
    values = _gather(work, draft, agency, known, kept if same_days else None)
    return replace(values, brand=kept.brand, made=kept.made if same_days else values.made), draft


def _asked(section: ReportSection) -> tuple[Any, ...]:
    """What the facts of a section depend on: two sections that ask the same have the same."""
    choices = tuple(sorted(section.choices.items()))
    return section.kind, choices, tuple(section.checks), tuple(section.measures), section.sheet, section.benchmark


def _gather(
    work: Workspace,
    draft: Draft,
    agency: str,
    known: Mapping[tuple[Any, ...], dict[str, Any]] | None = None,
    kept: ReportValues | None = None,
) -> ReportValues:
    """The values of a report; facts that are ``known`` are not gathered again, nor are figures that are ``kept``."""
    about = Gathering(work, draft.site_id, draft.from_day, draft.to_day)
    sections = []
    for each in draft.sections:
        gatherer = GATHERERS.get(each.kind)
        facts = (known or {}).get(_asked(each))
        if facts is None:
            facts = plain(gatherer(about, each)) if gatherer is not None else {}
        sections.append(SectionValues(each.kind, each.title, each.note, facts, each.key))
    return ReportValues(
        title=draft.title,
        agency=kept.agency if kept is not None else agency,
        client=draft.client,
        host=draft.host,
        from_day=draft.from_day.isoformat(),
        to_day=draft.to_day.isoformat(),
        made=work.now().date().isoformat(),
        language=draft.language,
        sections=sections,
        figures=kept.figures if kept is not None else figures_of(about),
        hand=kept.hand if kept is not None else [todo.id for todo in todos_of(about).hand],
    )


def _go_on(session: Session, work: Workspace, row: Report, member: Member, what: str) -> None:
    """Keep what was done as a new version; what was approved goes on being what clients see."""
    row.version += 1
    row.state = ReportState.DRAFT
    session.flush()
    _keep(session, work, row, member, what)
    log(session, work.now(), member.id, f"report {what}", row.title)


def _keep(session: Session, work: Workspace, row: Report, member: Member | None, what: str) -> None:
    session.add(
        ReportVersion(
            report_id=row.id,
            number=row.version,
            at=work.now(),
            author_id=member.id if member else None,
            what=what,
            title=row.title,
            from_day=row.from_day,
            to_day=row.to_day,
            language=row.language,
            sections=row.sections,
            values=row.values,
        )
    )


def _version(session: Session, row: Report, number: int) -> ReportVersion:
    found = session.get(ReportVersion, (row.id, number))
    if found is None:
        raise NotFound(f"The report has no version {number}.", f"It has versions 1 to {row.version}.")
    return found
