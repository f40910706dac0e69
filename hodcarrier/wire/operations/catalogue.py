"""Operations on the catalogue, and the search over everything."""

from hodcarrier.core.catalogue import Area
from hodcarrier.wire.catalogue import CatalogueEntry, FailingCheck, FailingSite
from hodcarrier.wire.operations.operation import Operation, Parameter
from hodcarrier.wire.search import SearchHit

OPERATIONS = (
    Operation(
        "list_catalogue",
        "GET",
        "/catalogue",
        "All checks; with `retired`, those that were taken out as well.",
        list[CatalogueEntry],
        query=(Parameter("area", Area | None, None), Parameter("retired", bool, False)),
        console_only=True,  # the command line reads its own catalogue, without a service
    ),
    Operation(
        "get_catalogue_entry",
        "GET",
        "/catalogue/{check_id}",
        "One check, by an id it has or had; a retired one says what happened to it.",
        CatalogueEntry,
        console_only=True,
    ),
    Operation(
        "list_failing_checks",
        "GET",
        "/failing-checks",
        "On how many sites each check fails in their latest runs, those that fail on most first.",
        list[FailingCheck],
    ),
    Operation(
        "list_failing_sites",
        "GET",
        "/failing-checks/{check_id}",
        "The sites on which a check fails in their latest runs, those with most places first.",
        list[FailingSite],
    ),
    Operation(
        "search",
        "GET",
        "/search",
        "Clients, sites, pages, checks and to-dos whose name holds every word of a text, the best first.",
        list[SearchHit],
        query=(Parameter("text", str), Parameter("limit", int, 20)),
    ),
)
