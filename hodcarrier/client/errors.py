"""What a call may raise."""

from __future__ import annotations

from hodcarrier.wire.base import Problem


class RequestFailed(Exception):
    """The service answered with a problem; ``problem`` is its document (RFC 9457)."""

    def __init__(self, problem: Problem) -> None:
        super().__init__(f"{problem.detail} {problem.hint}".strip())
        self.problem = problem


class Unreachable(Exception):
    """No service answers at the address."""
