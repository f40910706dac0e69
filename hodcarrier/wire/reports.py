"""Reports, what they are made from, when, and who may read them."""

from __future__ import annotations

from datetime import date, datetime

from pydantic import Field

from hodcarrier.core.states import ReportSpan, ReportState, SectionKind
from hodcarrier.wire.base import Wire, Words

SECTIONS_MAX, RECIPIENTS_MAX, PICKED_MAX = 40, 20, 100
NOTE_CHARS_MAX = 20_000


class ReportSection(Wire):
    """A section of a report or template. ``choices`` are numbers such as ``limit``; ``checks`` and ``measures`` are those to show (none: the usual ones); ``sheet`` is the
    template of a review sheet, ``benchmark`` one of the site's. Without a ``key`` it gets one."""

    kind: SectionKind
    title: Words = Field(default="", max_length=100)
    note: str = Field(default="", max_length=NOTE_CHARS_MAX)
    choices: dict[str, int] = Field(default={}, max_length=10, examples=[{"limit": 5}])
    checks: list[str] = Field(default=[], max_length=PICKED_MAX)
    measures: list[str] = Field(default=[], max_length=PICKED_MAX)
    sheet: Words = Field(default="", max_length=40)
    benchmark: int | None = None
    key: Words = Field(default="", max_length=40, pattern=r"^[\w-]*$")


class SectionChoice(Wire):
    """A number that can be chosen of a section."""

    name: str
    label: str
    usual: int
    least: int
    most: int


class SectionOffer(Wire):
    """A kind of section: what it tells, and what can be chosen of it. ``picks`` are the lists that can be chosen from."""

    kind: SectionKind
    title: str
    about: str
    choices: list[SectionChoice]
    picks: list[str]


class ReportOffer(Wire):
    """What reports can be made of: kinds of sections, languages by their codes, measures by their ids."""

    sections: list[SectionOffer]
    languages: dict[str, str]
    measures: dict[str, str]


class ReportTemplateBody(Wire):
    """A template of reports: sections in their order."""

    name: Words = Field(min_length=1, max_length=100)
    note: str = Field(default="", max_length=2000)
    sections: list[ReportSection] = Field(min_length=1, max_length=SECTIONS_MAX)


class ReportTemplateOut(Wire):
    """A template; one that ships cannot be changed, but copied. ``id`` is a name, or the number of one of the agency's."""

    id: str
    name: str
    note: str
    ships: bool
    sections: list[ReportSection]
    version: int = 1


class ReportBody(Wire):
    """A new report over a span of days (both inclusive). Without a language it is in that of the client. ``note`` goes under the first section."""

    site_id: int
    from_day: date
    to_day: date
    template: Words = Field(default="monthly", min_length=1, max_length=40)
    language: Words = Field(default="", max_length=10)
    title: Words = Field(default="", max_length=300)
    note: str = Field(default="", max_length=NOTE_CHARS_MAX)


class ReportChange(Wire):
    """Changes to a report; what is left out stays. A report that was approved becomes a draft again; clients go on seeing what was approved."""

    title: Words | None = Field(default=None, min_length=1, max_length=300)
    language: Words | None = Field(default=None, min_length=2, max_length=10)
    from_day: date | None = None
    to_day: date | None = None
    sections: list[ReportSection] | None = Field(default=None, max_length=SECTIONS_MAX)


class ReportOut(Wire):
    """A report in a list. Clients see ``approved_version``, where there is one."""

    id: int
    site_id: int
    site_host: str
    client_name: str
    title: str
    from_day: date
    to_day: date
    note: str
    created_at: datetime
    language: str = "en"
    template: str = ""
    state: ReportState = ReportState.DRAFT
    version: int = 1
    approved_version: int | None = None
    approved_at: datetime | None = None
    approver: str = ""
    sent_at: datetime | None = None
    scheduled: bool = False


class Recipient(Wire):
    """Somebody whom reports are sent to."""

    name: Words = Field(min_length=1, max_length=100)
    email: str = Field(min_length=3, max_length=320, pattern=r"^[^@\s,;<>]+@[^@\s,;<>]+$", examples=["rosa@tidewrack.example"])


class ReportVersionOut(Wire):
    """A saved version of a report: when, by whom, and what was done."""

    number: int
    at: datetime
    author: str
    what: str


class ReportLinkOut(Wire):
    """A share link; ``url`` is told once, when it is made. ``seen`` counts how often it was opened."""

    id: int
    name: str
    email: str
    created_at: datetime
    expires_at: datetime
    revoked_at: datetime | None
    ended: bool
    passphrase: bool
    seen: int
    seen_at: datetime | None
    url: str | None = None


class ReportSending(Wire):
    """Whom a report goes to, with which words. Without a subject it is the report's title."""

    recipients: list[Recipient] = Field(min_length=1, max_length=RECIPIENTS_MAX)
    subject: Words = Field(default="", max_length=200)
    cover: str = Field(default="", max_length=NOTE_CHARS_MAX)
    days: int = Field(default=90, ge=1, le=730)


class ReportFull(ReportOut):
    """A report with its sections, versions and share links. ``empty`` are the keys of sections that have nothing to tell, and are left out; ``planned`` is whom its schedule
    sends it to."""

    client_id: int
    sections: list[ReportSection]
    empty: list[str]
    versions: list[ReportVersionOut]
    links: list[ReportLinkOut]
    planned: ReportSending | None = None


class ReportApproval(Wire):
    """Approval of a report; with ``send`` it goes to whom its schedule names."""

    send: bool = False


class ReportLinkBody(Wire):
    """A share link for somebody: how many days it is good for, and a passphrase that is asked for, where there is one."""

    name: Words = Field(min_length=1, max_length=100)
    days: int = Field(default=90, ge=1, le=730)
    passphrase: str = Field(default="", max_length=200)


class ReportLinkChange(Wire):
    """How many days from now a share link is good for."""

    days: int = Field(default=90, ge=1, le=730)


class ReportTrial(Wire):
    """Sections to try on a site: what a report of last month would be."""

    site_id: int
    sections: list[ReportSection] = Field(max_length=SECTIONS_MAX)


class ReportScheduleBody(Wire):
    """When reports of a site are made by themselves: at a time of day on the so-manieth working day of the client after each span. Whoever is in charge approves them; then they
    go to the recipients. Without an owner it is whoever is in charge of the client."""

    site_id: int
    template: Words = Field(default="monthly", min_length=1, max_length=40)
    span: ReportSpan = ReportSpan.MONTH
    working_day: int = Field(default=1, ge=1, le=20)
    at: str = Field(default="08:00", examples=["08:00"])
    zone: str = Field(default="UTC", examples=["Europe/London"])
    recipients: list[Recipient] = Field(default=[], max_length=RECIPIENTS_MAX)
    subject: Words = Field(default="", max_length=200)
    cover: str = Field(default="", max_length=NOTE_CHARS_MAX)
    owner_id: int | None = None


class ReportScheduleChange(Wire):
    """Changes to a schedule; what is left out stays."""

    template: Words | None = Field(default=None, min_length=1, max_length=40)
    span: ReportSpan | None = None
    working_day: int | None = Field(default=None, ge=1, le=20)
    at: str | None = None
    zone: str | None = None
    recipients: list[Recipient] | None = Field(default=None, max_length=RECIPIENTS_MAX)
    subject: Words | None = Field(default=None, max_length=200)
    cover: str | None = Field(default=None, max_length=NOTE_CHARS_MAX)
    owner_id: int | None = None
    paused: bool | None = None


class ReportScheduleOut(ReportScheduleBody):
    """A schedule of reports; ``trouble`` says why the last one could not be made."""

    id: int
    site_host: str
    client_name: str
    template_name: str
    owner: str
    words: str
    next_due_at: datetime | None
    paused_at: datetime | None
    trouble: str
