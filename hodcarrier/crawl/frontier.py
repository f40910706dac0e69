"""The frontier: which address is fetched next. Pages before files, nearest to the start first."""

from __future__ import annotations

import heapq
from collections import deque
from dataclasses import dataclass, field

from hodcarrier.runfile.schema import EXTERNAL, PAGE
from hodcarrier.runfile.writer import Waiting

_FAR = 1 << 30


@dataclass
class Frontier:
    """What waits to be fetched. Addresses on other sites wait by themselves, so that none of them holds up the site."""

    pages: list[tuple[int, int, Waiting]] = field(default_factory=list)
    files: deque[Waiting] = field(default_factory=deque)
    external: deque[Waiting] = field(default_factory=deque)

    def push(self, waiting: Waiting) -> None:
        """Add an address."""
        if waiting.role == PAGE:
            heapq.heappush(self.pages, (_FAR if waiting.depth is None else waiting.depth, waiting.id, waiting))
        elif waiting.role == EXTERNAL:
            self.external.append(waiting)
        else:
            self.files.append(waiting)

    def take(self, pages_left: int, busy_pages: int) -> Waiting | None:
        """The next address of the site; ``None`` when none may be taken now.

        No more than ``pages_left`` pages are begun. While pages under way may use up the rest, files wait.
        """
        if self.pages and pages_left > busy_pages:
            return heapq.heappop(self.pages)[2]
        if self.files and (not busy_pages or not self.pages):
            return self.files.popleft()
        return None

    def __len__(self) -> int:
        return len(self.pages) + len(self.files) + len(self.external)
