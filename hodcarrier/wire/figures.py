"""Figures from outside: tables of them, and what is made of them."""

from __future__ import annotations

from datetime import date, datetime

from pydantic import Field

from hodcarrier.core.states import DayOrder, DecimalMark, FigureKind, FileStage, PaidEnd, SearchBy, VisitBy
from hodcarrier.wire.base import Wire, Words

FILE_BYTES_MAX = 23 * 1024 * 1024  # as base64, it is within what a request may bring
ROWS_TYPED_MAX = 1_000


class FigureSet(Wire):
    """What there is of a kind of figures of a site."""

    kind: FigureKind
    rows: int
    first: date | None = None
    last: date | None = None
    sources: list[str] = []


class FigureFileBody(Wire):
    """A table of figures as CSV or XLSX, up to 23 MiB, which may be packed with gzip. ``content`` is base64 (RFC 4648, 4)."""

    name: Words = Field(min_length=1, max_length=200, examples=["search-november.csv"])
    content: str = Field(
        min_length=1, max_length=FILE_BYTES_MAX * 4 // 3 + 4, examples=["ZGF5LHBhZ2UsY2xpY2tzLGltcHJlc3Npb25zCg=="]
    )
    source: Words = Field(default="", max_length=200)


class FigureLayout(Wire):
    """How a table is understood: the sheet, the row of its headings and the column of each field (from 1), what holds for every row, how days and
    decimals are written."""

    kind: FigureKind
    sheet: str = Field(default="", max_length=200)
    head_row: int = Field(default=1, ge=1, le=1000)
    columns: dict[str, int] = Field(default={}, max_length=40, examples=[{"day": 1, "page": 2, "clicks": 3, "impressions": 4}])
    fixed: dict[str, str] = Field(default={}, max_length=40, examples=[{"device": "phone"}])
    days: DayOrder = DayOrder.YMD
    decimals: DecimalMark = DecimalMark.POINT


class FigureLayoutBody(Wire):
    """A layout for a table; without ``layout`` it is found anew for the kind, the sheet and the row of headings. ``source`` says where the table is from."""

    layout: FigureLayout | None = None
    kind: FigureKind | None = None
    sheet: str | None = Field(default=None, max_length=200)
    source: Words | None = Field(default=None, max_length=200)


class FigureField(Wire):
    """A field that rows of a kind may have."""

    name: str
    head: str
    needed: bool


class RowProblem(Wire):
    """A row that cannot be read, by its number in the table."""

    row: int
    text: str


class FigurePreview(Wire):
    """What a table says as it is understood now. ``known_layout``: a table of this form was imported before, and is understood in the same way."""

    sheets: list[str] = []
    encoding: str = ""
    separator: str = ""
    layout: FigureLayout
    known_layout: bool = False
    fields: list[FigureField] = []
    missing: list[str] = []
    heads: list[str] = []
    cells: list[list[str]] = []
    rows: list[dict[str, str]] = []
    day_orders: list[DayOrder] = []
    decimal_marks: list[DecimalMark] = []
    readable: int = 0
    unreadable: int = 0
    problems: list[RowProblem] = []
    first: date | None = None
    last: date | None = None
    pages: int = 0
    pages_unknown: int = 0
    unknown: list[str] = []
    queries: int = 0
    queries_unknown: int = 0


class FigureOutcome(Wire):
    """What rows have done: new ones, those that were there already, those that took the place of others, those given more than once, and those left out as they
    could not be read."""

    new: int = 0
    same: int = 0
    replaced: int = 0
    repeated: int = 0
    left_out: int = 0
    first: date | None = None
    last: date | None = None


class FigureFileOut(Wire):
    """A table of figures: one that waits comes with a preview, one that was imported with what its rows have done."""

    id: int
    site_id: int
    name: str
    source: str
    kind: FigureKind
    stage: FileStage
    at: datetime
    author: str = ""
    preview: FigurePreview | None = None
    outcome: FigureOutcome | None = None


class FigureImport(Wire):
    """What to do with rows that cannot be read: leave them out, or import nothing."""

    leave_out: bool = False


class FigureRows(Wire):
    """Figures typed in: rows with the fields of their kind, days as YYYY-MM-DD and decimals after a point."""

    kind: FigureKind
    source: Words = Field(default="typed in", min_length=1, max_length=200)
    rows: list[dict[str, str]] = Field(
        min_length=1, max_length=ROWS_TYPED_MAX, examples=[[{"day": "2026-11-02", "name": "Referring domains", "value": "41"}]]
    )


class SearchSums(Wire):
    """Search figures of a period. ``ctr`` is clicks by impressions (0 to 1), ``position`` the mean weighted by impressions (1 is the first)."""

    clicks: int = 0
    impressions: int = 0
    ctr: float | None = None
    position: float | None = None


class SearchRow(Wire):
    """A query or a page with its search figures now and in the period before. ``movement`` says whether clicks rose or fell; ``lost_clicks`` are those that it would have
    had beyond its own at the usual rate of its position."""

    text: str
    now: SearchSums
    before: SearchSums
    change: float | None = None
    movement: str = ""
    brand: bool = False
    lost_clicks: float | None = None


class SearchDay(Wire):
    """Search figures of a day."""

    day: date
    clicks: int
    impressions: int


class SearchOut(Wire):
    """Search figures of a site in a period, against the one of equal length before. ``counts`` are the rows of each view; ``usual_ctr`` is the site's own curve: the usual
    rate of clicks by position, brand queries apart; ``test`` is how rising and falling are told."""

    by: SearchBy
    first: date | None = None
    last: date | None = None
    before_first: date | None = None
    before_last: date | None = None
    now: SearchSums = SearchSums()
    before: SearchSums = SearchSums()
    days: list[SearchDay] = []
    counts: dict[str, int] = {}
    items: list[SearchRow] = []
    total: int = 0
    after: str | None = None
    devices: list[str] = []
    countries: list[str] = []
    brand_names: list[str] = []
    usual_ctr: dict[int, float] = {}
    test: str = ""
    sources: list[str] = []


class VisitFigures(Wire):
    """Visits of a period, those in which somebody did something, and conversions (null where the figures have none)."""

    sessions: int = 0
    engaged: int | None = None
    conversions: float | None = None


class VisitRow(Wire):
    """A page or a channel with its visits now and in the period before. ``movement`` says whether they rose or fell."""

    text: str
    now: VisitFigures
    before: VisitFigures
    change: float | None = None
    movement: str = ""


class VisitDay(Wire):
    """Visits of a day."""

    day: date
    visits: int


class VisitsOut(Wire):
    """Visits of a site in a period, against the one of equal length before. ``counts`` are the rows of each view; ``test`` is how rising and falling are told."""

    by: VisitBy
    first: date | None = None
    last: date | None = None
    before_first: date | None = None
    before_last: date | None = None
    now: VisitFigures = VisitFigures()
    before: VisitFigures = VisitFigures()
    days: list[VisitDay] = []
    counts: dict[str, int] = {}
    items: list[VisitRow] = []
    total: int = 0
    after: str | None = None
    channels: list[str] = []
    test: str = ""
    sources: list[str] = []


class KeywordPlace(Wire):
    """A keyword for which a page stands among search results, where it was looked, and its position there."""

    keyword: str
    device: str = ""
    place: str = ""
    day: date
    rank: int


class PageFiguresOut(Wire):
    """What is known of a page from outside: search figures with its queries, visits by channel, positions, links from other sites; a figure of which the site has none is
    null. ``sentence`` says the most of it."""

    sentence: str
    first: date | None = None
    last: date | None = None
    search: SearchRow | None = None
    queries: list[SearchRow] = []
    visits: VisitRow | None = None
    channels: list[VisitRow] = []
    keywords: list[KeywordPlace] = []
    links: int | None = None
    linking_domains: int | None = None
    lost_links: int | None = None


class PaidOut(Wire):
    """Whether a to-do paid, in a sentence and in figures: clicks of its pages and of the rest of the site in the four weeks before it was done and after it was
    confirmed. ``change`` is the share by which they differ from what they would have been, ``low`` and ``high`` its 95 % interval."""

    end: PaidEnd
    sentence: str
    pages: int = 0
    before_first: date | None = None
    before_last: date | None = None
    first: date | None = None
    last: date | None = None
    before: int = 0
    after: int = 0
    rest_before: int = 0
    rest_after: int = 0
    change: float | None = None
    low: float | None = None
    high: float | None = None


class AboveRow(Wire):
    """Another site that stands above, and where."""

    host: str
    rank: int


class PositionRow(Wire):
    """A keyword on a device, from a place. Positions are null where the site was not found; ``change`` is how many places it won, or lost (below 0)."""

    keyword: str
    device: str = ""
    place: str = ""
    day: date
    rank: int | None = None
    page: str = ""
    features: str = ""
    before: int | None = None
    before_on: date | None = None
    change: int | None = None
    best: int | None = None
    best_on: date | None = None
    above: list[AboveRow] = []


class BandRow(Wire):
    """How many keywords stand in a band of positions, now and before."""

    band: str
    now: int
    before: int


class PositionsOut(Wire):
    """Where a site stands for its keywords: at the last look at each, against the last one before the period, and at best."""

    first: date | None = None
    last: date | None = None
    bands: list[BandRow] = []
    items: list[PositionRow] = []
    total: int = 0
    after: str | None = None
    devices: list[str] = []
    places: list[str] = []


class BacklinkRow(Wire):
    """A link from a page of another site; ``status`` is what the latest run was answered for the page that it leads to."""

    source_page: str
    domain: str
    page: str
    anchor: str = ""
    rel: str = ""
    first_seen: date | None = None
    last_seen: date | None = None
    lost_on: date | None = None
    status: int | None = None


class BacklinksOut(Wire):
    """Links from other sites. ``counts`` are the links of each list; ``domains`` how many domains link here, are new, and were lost since ``since``."""

    since: date | None = None
    counts: dict[str, int] = {}
    domains: dict[str, int] = {}
    items: list[BacklinkRow] = []
    total: int = 0
    after: str | None = None
