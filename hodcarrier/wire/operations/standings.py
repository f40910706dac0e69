"""Operations on where a site stands for its keywords, and on links from other sites."""

from hodcarrier.core.states import BacklinkState, TableForm
from hodcarrier.wire.figures import BacklinksOut, PositionsOut
from hodcarrier.wire.operations.figures import PAGED, SITE
from hodcarrier.wire.operations.operation import Operation, Parameter

_POSITIONS = (
    Parameter("weeks", int, 4),
    Parameter("device", str, ""),
    Parameter("place", str, ""),
    Parameter("text", str, ""),
    Parameter("moved", bool, False),
)
_BACKLINKS = (
    Parameter("state", BacklinkState, BacklinkState.LIVE),
    Parameter("weeks", int, 4),
    Parameter("text", str, ""),
)
OPERATIONS = (
    Operation(
        "get_positions",
        "GET",
        SITE + "/positions",
        "Where a site stands for its keywords: now, before, at best, how they are spread, and who stands above.",
        PositionsOut,
        query=(*_POSITIONS, *PAGED),
    ),
    Operation(
        "export_positions",
        "GET",
        SITE + "/positions/export",
        "Positions of keywords as a table: all rows, filtered like the list.",
        bytes,
        query=(Parameter("form", TableForm, TableForm.CSV), *_POSITIONS),
    ),
    Operation(
        "get_backlinks",
        "GET",
        SITE + "/backlinks",
        "Links from other sites: those that are there, new ones, lost ones, and those to pages that are gone.",
        BacklinksOut,
        query=(*_BACKLINKS, *PAGED),
    ),
    Operation(
        "export_backlinks",
        "GET",
        SITE + "/backlinks/export",
        "Links from other sites as a table: all rows, filtered like the list.",
        bytes,
        query=(Parameter("form", TableForm, TableForm.CSV), *_BACKLINKS),
    ),
)
