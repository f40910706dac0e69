"""Probes: questions to a site that no page answers, each asked once in a run and within the pace.

A probe is a module with ``ask``: it gives its facts, or ``None`` when the question does not apply to the site. What a run has
asked is in its file, so that one that goes on does not ask again.
"""

from __future__ import annotations

from collections.abc import Awaitable, Callable
from dataclasses import asdict
from typing import Any

import structlog

from hodcarrier.crawl.probes import certificate, https, icon, missing, tls, variants
from hodcarrier.crawl.probes.question import Question
from hodcarrier.runfile.writer import RunWriter

PROBES: dict[str, Callable[[Question], Awaitable[Any]]] = {
    "https": https.ask,
    "variants": variants.ask,
    "missing": missing.ask,
    "tls": tls.ask,
    "certificate": certificate.ask,
    "icon": icon.ask,
}
log = structlog.get_logger()


async def ask_all(question: Question, writer: RunWriter, should_stop: Callable[[], str]) -> None:
    """Ask what was not asked yet and record it. One that goes wrong is left out and does not stop the others."""
    asked = {name for (name,) in writer.db.execute("SELECT name FROM probe")}
    for name, ask in PROBES.items():
        if name in asked:
            continue
        if should_stop():
            return
        try:
            facts = await ask(question)
        except Exception as error:  # noqa: BLE001
            log.warning("a probe went wrong", probe=name, error=f"{type(error).__name__}: {error}")
            continue
        writer.add_probe(name, asdict(facts) if facts is not None else None)
        writer.db.commit()
