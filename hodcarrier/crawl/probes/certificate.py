"""Which certificate does the host show?"""

from __future__ import annotations

from hodcarrier.core.facts.probes import CertificateFacts
from hodcarrier.crawl.probes.question import Question


async def ask(question: Question) -> CertificateFacts | None:
    """Look at it, whether or not it holds."""
    if question.start.scheme != "https":
        return None
    return await question.fetcher.certificate(f"{question.start.origin}/")
