"""One audit: crawl into a run file, examine it, leave the file finished. Everybody who audits does it this way."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime

from hodcarrier.core.errors import DamagedRun
from hodcarrier.core.judge.waivers import Waiver
from hodcarrier.core.plan import Plan
from hodcarrier.core.progress import Progress
from hodcarrier.core.summary import RunSummary
from hodcarrier.crawl.fetch import Access
from hodcarrier.crawl.readers import Readers
from hodcarrier.crawl.session import crawl_into
from hodcarrier.examine.examination import examine
from hodcarrier.examine.views import Neighbourhood
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.writer import RunWriter

LEAVE = "leave"
_FAILED = "failed: "


@dataclass(frozen=True)
class Audited:
    """How an audit ended: with a summary, for a reason (``failed``), or left to be gone on with. ``base_read``: the run before was there and
    could be read."""

    summary: RunSummary | None = None
    failed: str = ""
    base_read: bool = False

    @property
    def left(self) -> bool:
        """Whether there is more to do."""
        return self.summary is None and not self.failed


def _nothing(_progress: Progress) -> None:
    pass


def no_base() -> RunFile | None:
    """There is no run before."""
    return None


async def audit(
    writer: RunWriter,
    plan: Plan,
    now: Callable[[], datetime],
    *,
    access: Access | None = None,
    waivers: Sequence[Waiver] = (),
    notices: Sequence[str] = (),
    open_base: Callable[[], RunFile | None] = no_base,
    should_stop: Callable[[], str] = lambda: "",
    on_progress: Callable[[Progress], None] = _nothing,
    on_examining: Callable[[], None] = lambda: None,
    prepare: Callable[[RunWriter], Neighbourhood | None] = lambda _writer: None,
    probe: bool = True,
    readers: Readers | None = None,
    inspect: bool = False,
) -> Audited:
    """Audit a site into ``writer``, which is finished but not closed when there is a summary.

    ``open_base`` gives the run before; one that cannot be read means no base, and a notice says so. ``should_stop`` is asked
    while the crawl goes on: ``leave`` leaves the file to be gone on with, anything else ends the crawl and what is there is
    examined. ``notices`` are sentences for the reader. ``prepare`` may add to the facts of the crawl before they are examined; ``readers`` are for
    heavy documents, begun already. ``inspect``: read the errors in the source of pages.
    """
    end = await crawl_into(writer, plan, now, should_stop, on_progress, access, probe, readers, inspect)
    if end == LEAVE:
        return Audited()
    if end.startswith(_FAILED):
        return Audited(failed=end.removeprefix(_FAILED))
    on_examining()
    neighbourhood = prepare(writer)
    base, said = _usable_base(open_base)
    writer.put_meta("notices", list(notices))
    summary = _examine(writer, now(), now, base, waivers, (*notices, *said), neighbourhood)
    return Audited(summary, base_read=base is not None)


def again(
    writer: RunWriter, now: Callable[[], datetime], waivers: Sequence[Waiver], open_base: Callable[[], RunFile | None]
) -> RunSummary:
    """Judge the facts in ``writer``, which are another run's, by its plan and today's catalogue, as of the day on which they were examined first.

    ``open_base`` gives the run before that one. The same plan and catalogue give the same findings.
    """
    base, said = _usable_base(open_base)
    at = datetime.fromisoformat(writer.meta("examined_at"))
    notices = (
        f"Re-examined without a new crawl: these are results for the crawl of {at:%a %d %b %Y}.",
        *writer.meta("notices", ()),
    )
    return _examine(writer, at, now, base, waivers, (*notices, *said))


def _examine(
    writer: RunWriter,
    at: datetime,
    now: Callable[[], datetime],
    base: RunFile | None,
    waivers: Sequence[Waiver],
    notices: Sequence[str],
    neighbourhood: Neighbourhood | None = None,
) -> RunSummary:
    try:
        summary = examine(writer.db, at, base, waivers, notices=notices, neighbourhood=neighbourhood)
    finally:
        if base is not None:
            base.db.close()
    writer.put_meta("finished_at", now().isoformat())
    writer.finish()
    return summary


def _usable_base(open_base: Callable[[], RunFile | None]) -> tuple[RunFile | None, list[str]]:
    """The run before, and what is to be said when it cannot be read."""
    try:
        return open_base(), []
    except DamagedRun as error:
        return None, [f"The run before cannot be read, so nothing is compared with it and ages begin anew. {error.message}"]
