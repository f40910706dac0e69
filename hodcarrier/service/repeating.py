"""A thread that does one thing again and again until it is ended."""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import dataclass, field

import structlog

log = structlog.get_logger()


@dataclass
class Repeating:
    """Calls ``task`` every ``every_s`` seconds, with an event that says when to break off. What it raises is logged, and it goes on."""

    name: str
    every_s: float
    task: Callable[[threading.Event], object]
    patience_s: float = 15.0
    _ended: threading.Event = field(default_factory=threading.Event)
    _thread: threading.Thread | None = None

    def start(self) -> None:
        """Begin."""
        self._ended.clear()
        self._thread = threading.Thread(target=self._round, name=self.name, daemon=True)
        self._thread.start()

    def end(self) -> None:
        """Finish what is being done, and go."""
        self._ended.set()
        if self._thread is not None:
            self._thread.join(self.patience_s)

    def _round(self) -> None:
        while not self._ended.is_set():
            try:
                self.task(self._ended)
            except Exception:
                log.exception("this did not go well and is tried again", what=self.name)
            self._ended.wait(self.every_s)
