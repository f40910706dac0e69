"""What is said of figures, in sentences."""

from __future__ import annotations

from hodcarrier.core.figures.payoff import CLICKS_MIN, Paid
from hodcarrier.core.states import PaidEnd


def paid_sentence(paid: Paid, pages: int) -> str:
    """Whether a fix paid, with all that one must know to believe it."""
    of = f"the {pages:,} pages" if pages != 1 else "the page"
    if paid.end == PaidEnd.TOO_FEW and paid.before + paid.after >= CLICKS_MIN:
        rest = f"{paid.rest_before:,} and {paid.rest_after:,} clicks"
        return f"It cannot be told: the rest of the site, with {rest} in the same weeks, is too little to compare {of} with."
    if paid.end == PaidEnd.TOO_FEW:
        return f"Too few clicks to tell: {of} had {paid.before:,} in the four weeks before and {paid.after:,} in the four after ({CLICKS_MIN} are needed)."
    assert paid.change is not None and paid.low is not None and paid.high is not None
    low, high = (f"{100 * share:+.0f} %".replace("-", "−") for share in (paid.low, paid.high))
    if paid.end == PaidEnd.NO_DIFFERENCE:
        return f"No difference that could be told: clicks to {of} went {low} to {high} against the rest of the site in the four weeks after."
    went = "rose" if paid.end == PaidEnd.ROSE else "fell"
    ends = sorted((abs(paid.low), abs(paid.high)))
    return f"Clicks to {of} {went} {100 * abs(paid.change):.0f} % ({100 * ends[0]:.0f} to {100 * ends[1]:.0f} %) against the rest of the site in the four weeks after."
