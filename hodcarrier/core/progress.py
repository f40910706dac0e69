"""How far a crawl has come, as its worker tells it."""

from __future__ import annotations

from dataclasses import dataclass, field


@dataclass(frozen=True)
class Progress:
    """Figures of a crawl under way.

    ``left_s`` is an estimate (``None`` before the first page); ``slower`` says how many times slower than planned the host is
    asked; ``answers`` counts kinds of answers (``2xx``, a failure); ``recent`` are the last URLs with status and failure.
    """

    pages_done: int = 0
    queued: int = 0
    pages_queued: int = 0
    known: int = 0
    elapsed_s: float = 0.0
    per_s: float = 0.0
    left_s: float | None = None
    slower: float = 1.0
    answers: dict[str, int] = field(default_factory=dict)
    recent: list[tuple[str, int | None, str]] = field(default_factory=list)
