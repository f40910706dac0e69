"""Operations on feeds of figures, and on what registries say of domains."""

from hodcarrier.wire.feeds import DomainHistory, FigureFeedBody, FigureFeedChange, FigureFeedOut
from hodcarrier.wire.operations.operation import Operation, Parameter

OPERATIONS = (
    Operation(
        "list_figure_feeds",
        "GET",
        "/figure-feeds",
        "Feeds of figures with how they fare, of one site or of all.",
        list[FigureFeedOut],
        query=(Parameter("site_id", int | None, None),),
    ),
    Operation(
        "add_figure_feed",
        "POST",
        "/sites/{site_id}/figure-feeds",
        "Make a feed of figures, which is asked at once and then daily. Its token is kept sealed.",
        FigureFeedOut,
        FigureFeedBody,
        status=201,
    ),
    Operation(
        "change_figure_feed",
        "PATCH",
        "/figure-feeds/{feed_id}",
        "Change a feed of figures, or switch it off.",
        FigureFeedOut,
        FigureFeedChange,
    ),
    Operation("remove_figure_feed", "DELETE", "/figure-feeds/{feed_id}", "Remove a feed of figures; what it brought stays."),
    Operation("pull_figure_feed", "POST", "/figure-feeds/{feed_id}/pull", "Have a feed asked now.", FigureFeedOut, status=202),
    Operation(
        "get_domain",
        "GET",
        "/sites/{site_id}/domain",
        "What the registry says of a site's domain, now and before.",
        DomainHistory,
    ),
)
