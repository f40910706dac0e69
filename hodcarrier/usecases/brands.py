"""How reports look: the brand of the agency, and that of each client."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy.orm import Session

from hodcarrier.core.attachments import bytes_of
from hodcarrier.core.colours import contrast, ink_on
from hodcarrier.core.errors import InvalidInput, NotFound
from hodcarrier.core.states import Typeface
from hodcarrier.register.models import AgencyBrand, Client, Logo, Member
from hodcarrier.report.drawn import ACCENT, CONTRAST_LEAST, Marks, line_colour
from hodcarrier.report.drawn import Logo as Mark
from hodcarrier.report.logos import kind_of_logo
from hodcarrier.report.values import Brand
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.brands import LOGO_BYTES_MAX, BrandBody, BrandOut

AGENCY = 1


def get_brand(work: Workspace) -> BrandOut:
    """The agency's."""
    with work.reading() as session:
        row = _agency(session)
        return _out(row.colour, row, row.logo_id)


def get_client_brand(work: Workspace, client_id: int) -> BrandOut:
    """A client's: its colour where it has one, else the agency's."""
    with work.reading() as session:
        client = fetch(session, Client, client_id, "client")
        return _out(client.colour, _agency(session), client.logo_id)


def set_brand(work: Workspace, body: BrandBody, member: Member) -> BrandOut:
    """Change the agency's. Raises :class:`InvalidInput` for a logo that is neither SVG nor PNG."""
    with work.session() as session:
        row = session.get(AgencyBrand, AGENCY)
        if row is None:
            row = AgencyBrand(id=AGENCY)
            session.add(row)
            session.flush()
        row.colour = body.colour.lower() if body.colour is not None else row.colour
        row.typeface = body.typeface or row.typeface
        row.footer = body.footer if body.footer is not None else row.footer
        if body.logo is not None:
            row.logo_id = _keep(session, work.now(), body.logo)
        log(session, work.now(), member.id, "brand changed", "the agency")
        return _out(row.colour, row, row.logo_id)


def set_client_brand(work: Workspace, client_id: int, body: BrandBody, member: Member) -> BrandOut:
    """Change a client's colour and logo. Raises :class:`InvalidInput` for what is the agency's alone, and for a logo that is neither SVG nor PNG."""
    if body.typeface is not None or body.footer is not None:
        raise InvalidInput(
            "Typeface and footer are the agency's.", "Set them for all reports: `hodcarrier report brand`.", "typeface"
        )
    with work.session() as session:
        client = fetch(session, Client, client_id, "client")
        client.colour = body.colour.lower() if body.colour is not None else client.colour
        if body.logo is not None:
            client.logo_id = _keep(session, work.now(), body.logo)
        log(session, work.now(), member.id, "brand changed", client.name)
        return _out(client.colour, _agency(session), client.logo_id)


def read_logo(work: Workspace, client_id: int | None) -> Mark:
    """The logo of the agency (``None``) or of a client. Raises :class:`NotFound` without one."""
    with work.reading() as session:
        number = _agency(session).logo_id if client_id is None else fetch(session, Client, client_id, "client").logo_id
        found = _mark(session, number)
    if found is None:
        raise NotFound("There is no logo.", "Add one with `hodcarrier report brand --logo FILE`.")
    return found


def brand_of(session: Session, client: Client) -> Brand:
    """How a report for a client looks."""
    agency = _agency(session)
    return Brand(client.colour or agency.colour, agency.typeface, agency.footer, agency.logo_id, client.logo_id)


def marks_of(work: Workspace, brand: Brand) -> Marks:
    """The logos that a report was made with."""
    with work.reading() as session:
        return Marks(_mark(session, brand.agency_logo), _mark(session, brand.client_logo))


def _mark(session: Session, number: int | None) -> Mark | None:
    row = session.get(Logo, number) if number is not None else None
    return Mark(row.media, row.content) if row is not None else None


def _agency(session: Session) -> AgencyBrand:
    return session.get(AgencyBrand, AGENCY) or AgencyBrand(id=AGENCY, colour="", typeface=Typeface.SANS, footer="")


def _keep(session: Session, now: datetime, content: str) -> int | None:
    """The number of a logo that somebody sent; none for an empty one."""
    if not content:
        return None
    found = bytes_of(content)
    if len(found) > LOGO_BYTES_MAX:
        raise InvalidInput("The logo is larger than 1 MiB.", "Send a smaller one.", "logo")
    row = Logo(media=kind_of_logo(found), content=found, created_at=now)
    session.add(row)
    session.flush()
    return row.id


def _out(colour: str, agency: AgencyBrand, logo_id: int | None) -> BrandOut:
    shown = colour or agency.colour or ACCENT
    line, on_white = line_colour(shown), contrast(shown, "#ffffff")
    remarks = []
    if on_white < CONTRAST_LEAST:
        remarks.append(
            f"On white this colour has a contrast of {on_white:.1f} to 1, where lines need {CONTRAST_LEAST:.0f}: charts are drawn in {line}, the same made darker."
        )
    if contrast(shown, ink_on(shown)) < 4.5:
        remarks.append("Text on this colour is hard to read, dark or light: take a darker or a lighter one.")
    return BrandOut(
        colour=colour,
        shown_colour=shown,
        line_colour=line,
        ink=ink_on(shown),
        contrast=round(on_white, 2),
        typeface=agency.typeface,
        footer=agency.footer,
        has_logo=logo_id is not None,
        remarks=remarks,
    )
