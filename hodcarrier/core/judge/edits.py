"""What was edited in a text, so that one edit made on many pages is recognised as one."""

from __future__ import annotations

import re
from typing import NamedTuple

_PARTS = re.compile(r"\s+|\w+|[^\w\s]")


class Edit(NamedTuple):
    """The words that were taken out and those that were put in; what both texts begin and end with is left out."""

    removed: str
    added: str


def edit(before: str, after: str) -> Edit:
    """The one edit that makes ``after`` of ``before``, in whole words: ``("Ropes | Tidewrack", "Ropes | Tidewrack Ltd")`` gives ``("", " Ltd")``."""
    old, new = _PARTS.findall(before), _PARTS.findall(after)
    start = 0
    while start < min(len(old), len(new)) and old[start] == new[start]:
        start += 1
    end = 0
    while end < min(len(old), len(new)) - start and old[-1 - end] == new[-1 - end]:
        end += 1
    return Edit("".join(old[start : len(old) - end]), "".join(new[start : len(new) - end]))
