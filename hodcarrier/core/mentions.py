"""Who a comment calls by name: ``@`` and a member's name, or the first name where one member alone has it."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Mapping


def mentioned(text: str, names: Mapping[int, str]) -> list[int]:
    """The members that a text mentions, in the order of the text, each once. ``names`` are those who can be, by id.

    ``@`` counts where no word or address goes on from it (``a@b.example`` mentions nobody); case does not matter; of names that fit, the
    longest one does.
    """
    firsts = Counter(name.split()[0].casefold() for name in names.values() if name.split())
    called: dict[str, int] = {}
    for member, name in names.items():
        words = name.split()
        if not words:
            continue
        if firsts[words[0].casefold()] == 1:
            called.setdefault(words[0].casefold(), member)
    for member, name in names.items():
        if name.split():
            called[" ".join(name.split()).casefold()] = member
    if not called:
        return []
    longest_first = sorted(called, key=lambda each: -len(each))
    pattern = r"(?<![\w@.])@(" + "|".join(re.escape(name) for name in longest_first) + r")(?!\w)"
    spaced = re.sub(r"[^\S\n]+", " ", text).casefold()
    return list(dict.fromkeys(called[found] for found in re.findall(pattern, spaced)))
