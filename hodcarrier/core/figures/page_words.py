"""What is said of a page's figures from outside."""

from __future__ import annotations

from datetime import date

from hodcarrier.core.figures.movement import Movement
from hodcarrier.core.words import fill

_WENT = {Movement.ROSE: "more", Movement.FELL: "fewer"}


def page_sentence(
    last: date | None,
    clicks: tuple[int, int, str] | None,
    visits: tuple[int, int, str] | None,
    links: tuple[int, int] | None,
) -> str:
    """Clicks and visits (now, before, movement) of the four weeks up to a day, and links with the sites they come from, in a sentence; what the site has no figures of
    is left out."""
    parts = [_moved(figures, noun) for figures, noun in ((clicks, "{n:click} from search"), (visits, "{n:visit}")) if figures]
    said = f"{' and '.join(parts)} in the four weeks to {last.day} {last:%B %Y}" if parts and last is not None else ""
    if links is not None:
        count, domains = links
        linked = (
            f"{fill('{n:link}', {'n': count})} from {fill('{n:other site}', {'n': domains})}"
            if count
            else "no link from another site"
        )
        said = f"{said}; {linked}" if said else linked
    return f"{said[0].upper()}{said[1:]}." if said else "There are no figures from outside of this page."


def _moved(figures: tuple[int, int, str], noun: str) -> str:
    now, before, movement = figures
    words = fill(noun, {"n": now}) if now else f"no {noun.replace('{n:', '').replace('}', 's', 1)}"
    went = _WENT.get(Movement(movement))
    if went is None or not before:
        return words
    if not now:
        return f"{words} (in the four before {before:,})"
    return f"{words} ({abs(now - before) / before:.0%} {went} than in the four before)".replace("%", " %")
