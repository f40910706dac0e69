"""Charts of reports as SVG (W3C, SVG 1.1): drawn once, shown in pages, set in PDFs, and turned into pictures for word processors."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date

from markupsafe import escape

from hodcarrier.report.blocks import Bars, Dots, Lines, Mark

WIDTH, HEIGHT = 640.0, 150.0
LEFT, RIGHT, TOP, BOTTOM = 44.0, 14.0, 26.0, 22.0
INK, RULE, MARK = "#4a575b", "#d9dedd", "#a34d28"
# How much wider than its height a letter is on average, in the typefaces of reports.
LETTER = 0.52
MARK_CHARS_MAX = 28


@dataclass(frozen=True, slots=True)
class Ink:
    """What charts are drawn in: the colour of the own figures, and the family of letters."""

    colour: str
    family: str = "Plex, sans-serif"


def lines_svg(chart: Lines, ink: Ink, number: Callable[[float], str] = "{:g}".format) -> str:
    """A figure over time: a line that a missing figure interrupts, marks on their days, the last figure beside its point."""
    low, high, steps = _scale(chart)
    days = [date.fromisoformat(each.day).toordinal() for each in chart.points]
    first, size = min(days), max(1, max(days) - min(days))

    def across(day: int) -> float:
        return round(LEFT + (day - first) / size * (WIDTH - LEFT - RIGHT), 1)

    def down(value: float) -> float:
        return round(TOP + (high - value) / (high - low) * HEIGHT, 1)

    parts = []
    for step in steps:
        y = down(step)
        parts.append(f'<line x1="{LEFT}" x2="{WIDTH - RIGHT}" y1="{y}" y2="{y}" stroke="{RULE}" stroke-width=".8"/>')
        parts.append(_text(LEFT - 7, y + 4, number(step), "end"))
    parts += _marks(chart.marks, across, min(days), max(days))
    segments: list[list[str]] = [[]]
    for each, day in zip(chart.points, days, strict=True):
        if each.value is None:
            segments.append([])
        else:
            segments[-1].append(f"{across(day)},{down(each.value)}")
    parts += [
        f'<polyline points="{" ".join(each)}" fill="none" stroke="{ink.colour}" stroke-width="2"/>'
        for each in segments
        if len(each) > 1
    ]
    known = [(day, each) for each, day in zip(chart.points, days, strict=True) if each.value is not None]
    for day, each in known[:-1]:
        if len(known) <= 40:
            parts.append(f'<circle cx="{across(day)}" cy="{down(each.value or 0)}" r="2.2" fill="{ink.colour}"/>')
    if known:
        day, last = known[-1]
        x, y = across(day), down(last.value or 0)
        parts.append(f'<circle cx="{x}" cy="{y}" r="4" fill="{ink.colour}"/>')
        above = y - 9 if y - 9 > TOP - 4 else y + 18
        parts.append(_text(min(x, WIDTH - RIGHT), above, last.shown, "end", 12, "#1b2326", bold=True))
    bottom = TOP + HEIGHT + 16
    parts.append(_text(LEFT, bottom, chart.first_day))
    parts.append(_text(WIDTH - RIGHT, bottom, chart.last_day, "end"))
    return _svg(WIDTH, TOP + HEIGHT + BOTTOM, parts, chart.says, ink)


def _marks(found: Sequence[Mark], across: Callable[[int], float], first: int, last: int) -> list[str]:
    """Marks with their words, so far as these have room beside one another; all others by their lines alone, which the table below names."""
    parts, free = [], [0.0, 0.0]
    for mark in found:
        day = date.fromisoformat(mark.day).toordinal()
        if not first <= day <= last:
            continue
        x = across(day)
        parts.append(f'<line x1="{x}" x2="{x}" y1="{TOP}" y2="{TOP + HEIGHT}" stroke="{MARK}" stroke-dasharray="2 3"/>')
        words = mark.text if len(mark.text) <= MARK_CHARS_MAX else mark.text[: MARK_CHARS_MAX - 1].rstrip() + "…"
        half = len(words) * 10 * LETTER / 2
        centre = min(max(x, half), WIDTH - half)
        for row, begin in enumerate(free):
            if centre - half >= begin:
                parts.append(_text(centre, TOP - 4 - 12 * row, words, "middle", 10, MARK))
                free[row] = centre + half + 8
                break
    return parts


def _scale(chart: Lines) -> tuple[float, float, list[float]]:
    """The ends of the scale, at round figures, and the steps between."""
    values = [each.value for each in chart.points if each.value is not None] or [0.0]
    low = min(values) if chart.low is None else chart.low
    high = max(values) if chart.high is None else chart.high
    if high <= low:
        high = low + 1
    rough = (high - low) / 4
    size = 10 ** math.floor(math.log10(rough))
    step = next(size * factor for factor in (1, 2, 2.5, 5, 10) if size * factor >= rough - 1e-9)
    begin = math.floor(low / step) * step
    count = math.ceil((high - begin) / step - 1e-9)
    return begin, begin + count * step, [begin + n * step for n in range(count + 1)]


def bars_svg(chart: Bars, ink: Ink) -> str:
    """Bands one below the other, now above before."""
    most = max([1, *(each.now for each in chart.bars), *(each.before or 0 for each in chart.bars)])
    room = WIDTH - 150 - 60
    parts, y = [], 6.0
    for each in chart.bars:
        parts.append(_text(140, y + 13, each.label, "end", 12))
        parts.append(f'<rect x="150" y="{y}" width="{max(1.0, each.now / most * room):.1f}" height="11" fill="{ink.colour}"/>')
        parts.append(_text(156 + each.now / most * room, y + 10, str(each.now), "start", 11, "#1b2326", bold=True))
        if each.before is not None:
            parts.append(
                f'<rect x="150" y="{y + 13}" width="{max(1.0, each.before / most * room):.1f}" height="6" fill="#b7c0be"/>'
            )
            parts.append(_text(156 + each.before / most * room, y + 20, str(each.before), "start", 10))
        y += 30
    parts.append(f'<rect x="150" y="{y}" width="14" height="9" fill="{ink.colour}"/>{_text(170, y + 9, chart.now)}')
    if chart.before:
        parts.append(f'<rect x="250" y="{y}" width="14" height="6" fill="#b7c0be"/>{_text(270, y + 9, chart.before)}')
    return _svg(WIDTH, y + 16, parts, chart.says, ink)


def dots_svg(dots: Dots, ink: Ink) -> str:
    """Where the own site (a full dot) and others (rings) stand between the ends of a line."""
    parts = [f'<line x1="6" x2="134" y1="8" y2="8" stroke="{RULE}" stroke-width="1.4"/>']
    parts += [
        f'<circle cx="{6 + 128 * each:.1f}" cy="8" r="4.2" fill="#fff" stroke="{INK}" stroke-width="1.1"/>'
        for each in dots.others
    ]
    if dots.own is not None:
        parts.append(f'<circle cx="{6 + 128 * dots.own:.1f}" cy="8" r="5" fill="{ink.colour}"/>')
    return _svg(140, 16, parts, "", ink)


def course_svg(filled: float, says: str, ink: Ink) -> str:
    """Health as a course of twenty bricks."""
    parts = []
    for brick in range(20):
        parts.append(f'<rect x="{brick * 17}" y="0" width="15" height="14" fill="#e3e7e5"/>')
        part = min(1.0, max(0.0, filled / 5 - brick))
        if part:
            parts.append(f'<rect x="{brick * 17}" y="0" width="{15 * part:.1f}" height="14" fill="{ink.colour}"/>')
    return _svg(338, 14, parts, says, ink)


def _text(
    x: float, y: float, words: object, anchor: str = "start", size: int = 11, colour: str = INK, *, bold: bool = False
) -> str:
    weight = ' font-weight="600"' if bold else ""
    return f'<text x="{x:.1f}" y="{y:.1f}" font-size="{size}" text-anchor="{anchor}" fill="{colour}"{weight}>{escape(str(words))}</text>'


def _svg(width: float, height: float, parts: Sequence[str], says: str, ink: Ink) -> str:
    role = f'role="img" aria-label="{escape(says)}"' if says else 'aria-hidden="true"'
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:g} {height:g}" width="{width:g}" height="{height:g}" '
        f'font-family="{ink.family}" {role}>{"".join(parts)}</svg>'
    )
