"""How the log is written: JSON lines for machines, plain lines on a terminal. Set up once, at the edge."""

from __future__ import annotations

import sys

import structlog


def set_up_logs() -> None:
    """Log to stderr with the time in UTC. A traceback shows no values of variables: they may be secrets."""
    last: list[structlog.typing.Processor]
    if sys.stderr.isatty():
        last = [structlog.dev.ConsoleRenderer(exception_formatter=structlog.dev.plain_traceback)]
    else:
        last = [structlog.processors.format_exc_info, structlog.processors.JSONRenderer()]
    structlog.configure(
        processors=[
            structlog.contextvars.merge_contextvars,
            structlog.processors.add_log_level,
            structlog.processors.TimeStamper(fmt="iso", utc=True),
            *last,
        ],
        logger_factory=structlog.WriteLoggerFactory(sys.stderr),
    )
