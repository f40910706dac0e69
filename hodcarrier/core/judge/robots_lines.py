"""Two robots.txt files line by line, with the known URLs that each line that differs newly blocks or frees."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from difflib import SequenceMatcher

from hodcarrier.core.states import LineChange
from hodcarrier.core.web.robots import RobotsTxt, Verdict

# Lines that are alike are shown this far around those that differ.
AROUND = 3


@dataclass(frozen=True, slots=True)
class RobotsLine:
    """A line of robots.txt: ``number`` counts from 1, in the earlier file for a removed line and in the later one for any other.

    ``blocks`` and ``frees`` are known URLs whose verdict this line turned. ``gap``: lines that are alike were left out before it.
    """

    change: LineChange
    number: int
    text: str
    blocks: int = 0
    frees: int = 0
    gap: bool = False


def robots_lines(old: RobotsTxt, new: RobotsTxt, agent: str, urls: Iterable[str]) -> list[RobotsLine]:
    """What differs between two files for ``agent``, with some lines around it; nothing when the texts are the same.

    A URL that is newly blocked counts at the rule that blocks it now. One that is free again counts at the rule that allows it now, if
    that line is new, and else at the one that blocked it before. Rules are those of RFC 9309, so a URL may turn without a line of its own that differs:
    such as when another group applies; it then counts at the line that decides.
    """
    if old.text == new.text:
        return []
    before, after = old.text.splitlines(), new.text.splitlines()
    steps = SequenceMatcher(a=before, b=after, autojunk=False).get_opcodes()
    added = {number + 1 for tag, _, _, start, end in steps if tag != "equal" for number in range(start, end)}
    blocks, freed_by, freed_from = _turned(old, new, agent, urls, added)
    lines: list[RobotsLine] = []
    for tag, start, end, first, last in steps:
        if tag == "equal":
            lines += [
                RobotsLine(LineChange.SAME, n + 1, after[n], blocks[n + 1], freed_by[n + 1] + freed_from[n + 1 - first + start])
                for n in range(first, last)
            ]
            continue
        lines += [RobotsLine(LineChange.REMOVED, n + 1, before[n], 0, freed_from[n + 1]) for n in range(start, end)]
        lines += [RobotsLine(LineChange.ADDED, n + 1, after[n], blocks[n + 1], freed_by[n + 1]) for n in range(first, last)]
    return _near(lines)


def _turned(
    old: RobotsTxt, new: RobotsTxt, agent: str, urls: Iterable[str], added: set[int]
) -> tuple[Counter[int], Counter[int], Counter[int]]:
    """URLs by the line that blocks them now, that allows them now, and that blocked them before."""
    blocks, freed_by, freed_from = Counter[int](), Counter[int](), Counter[int]()
    for url in urls:
        was, now = old.verdict(agent, url), new.verdict(agent, url)
        if was.allowed and not now.allowed:
            blocks[_line(now)] += 1
        elif now.allowed and not was.allowed:
            if now.rule is not None and now.rule.line in added:
                freed_by[now.rule.line] += 1
            else:
                freed_from[_line(was)] += 1
    return blocks, freed_by, freed_from


def _line(verdict: Verdict) -> int:
    return verdict.rule.line if verdict.rule else 0


def _near(lines: list[RobotsLine]) -> list[RobotsLine]:
    """The lines that differ or turn a URL, with those around them; a line after some that were left out says so."""
    told = [at for at, line in enumerate(lines) if line.change != LineChange.SAME or line.blocks or line.frees]
    kept = sorted({at for place in told for at in range(max(0, place - AROUND), min(len(lines), place + AROUND + 1))})
    shown: list[RobotsLine] = []
    for at, before in zip(kept, [-1, *kept], strict=False):
        line = lines[at]
        shown.append(RobotsLine(line.change, line.number, line.text, line.blocks, line.frees, gap=at > before + 1))
    return shown
