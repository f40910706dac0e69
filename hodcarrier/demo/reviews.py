"""Review sheets of the demo: a first visit that was repeated two months later, and a launch that is being prepared."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from datetime import datetime, timedelta

from hodcarrier.core.states import SheetOutcome
from hodcarrier.register.models import Member
from hodcarrier.usecases import sheets
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.sheets import SheetAnswerBody, SheetAnswers, SheetStart

Found = Mapping[str, tuple[SheetOutcome, str]]
_PASSED, _RECOMMENDED, _APART = SheetOutcome.PASSED, SheetOutcome.RECOMMENDED, SheetOutcome.NOT_APPLICABLE
FIRST: Found = {
    "start-says": (_PASSED, ""),
    "next-step": (_RECOMMENDED, "“Shop now” and “Plan your lay-up” compete above the fold."),
    "prices": (_PASSED, ""),
    "for-readers": (_PASSED, "The guides read well."),
    "topics": (_RECOMMENDED, "Three pages answer “how to splice rope”."),
    "words": (_RECOMMENDED, "Customers say fender cover, the shop says fender sock."),
    "phone": (_PASSED, ""),
    "forms": (_RECOMMENDED, "The contact form forgets everything when the number is wrong."),
    "site-search": (_RECOMMENDED, "“halyard” finds nothing when it is written with one l."),
    "out-of-date": (_PASSED, ""),
}
AGAIN: Found = {
    **FIRST,
    "next-step": (_PASSED, "One button since October."),
    "forms": (_PASSED, "Keeps what was typed."),
    "out-of-date": (_RECOMMENDED, "The lay-up offer has ended in November."),
}
LAUNCH: Found = {
    "redirects": (_PASSED, "Fetched all 212 of them."),
    "one-form": (_PASSED, ""),
    "robots": (_RECOMMENDED, "Still the one of the test server."),
    "languages": (_APART, ""),
    "people": (_PASSED, "Casper until Friday."),
}


def fill_in_sheets(
    at: Callable[[datetime], Workspace], sites: Mapping[str, int], dates: Sequence[datetime], member: Member
) -> None:
    """Begin the sheets, and write down what was found."""
    for host, template, moment, found in (
        ("tidewrack.example", "first-visit", dates[0], FIRST),
        ("tidewrack.example", "first-visit", dates[-2], AGAIN),
        ("ardmoor-seeds.example", "before-launch", dates[-1], LAUNCH),
    ):
        work = at(moment + timedelta(hours=9))
        sheet = sheets.start_sheet(work, sites[host], SheetStart(template=template), member)
        answers = [SheetAnswerBody(item=item, outcome=outcome, note=note) for item, (outcome, note) in found.items()]
        sheets.answer_sheet(work, sheet.id, SheetAnswers(answers=answers), member)
