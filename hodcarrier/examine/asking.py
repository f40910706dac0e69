"""Which checks a page is asked: those that what was read of it is enough for, and that have something to look at on it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from typing import Any

from hodcarrier.core.catalogue import Check, PageView, When
from hodcarrier.core.catalogue.conditions import OF_ANSWERS, OF_DOCUMENTS

_ADDRESS, _ANSWER, _DOCUMENT, _INDEXABLE = range(4)
_NEEDED = {"address": _ADDRESS, "answer": _ANSWER, "document": _DOCUMENT, "indexable": _INDEXABLE}


class Asking:
    """Chooses among numbered checks. Pages that are alike in what they have are asked the same checks, so each choice is made once."""

    def __init__(self, checks: Sequence[tuple[int, Check]]) -> None:
        self._checks = [(n, _NEEDED[check.reach], check.when) for n, check in checks]
        conditions = {when for _, _, when in self._checks}
        self._of_answers = [(when, holds) for when, holds in OF_ANSWERS.items() if when in conditions]
        self._of_documents = [(when, holds) for when, holds in OF_DOCUMENTS.items() if when in conditions]
        self._chosen: dict[tuple[Any, ...], list[int]] = {}
        self._asked: Counter[tuple[Any, ...]] = Counter()

    def of(self, page: PageView, document: bool, answered: bool) -> list[int]:
        """The numbers of the checks for a page, in their order; ``document``: it was read whole, ``answered``: there was an answer."""
        level = (_INDEXABLE if page.indexable else _DOCUMENT) if document else _ANSWER if answered else _ADDRESS
        true = [when for when, holds in self._of_answers if holds(page)]
        if document:
            true += [when for when, holds in self._of_documents if holds(page)]
        kind = (level, *true)
        self._asked[kind] += 1
        if kind not in self._chosen:
            given = {When.ALWAYS, *true}
            self._chosen[kind] = [n for n, needed, when in self._checks if needed <= level and when in given]
        return self._chosen[kind]

    def examined(self) -> Counter[int]:
        """How many pages each check was asked about."""
        counts: Counter[int] = Counter()
        for kind, pages in self._asked.items():
            for n in self._chosen[kind]:
                counts[n] += pages
        return counts
