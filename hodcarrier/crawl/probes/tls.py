"""Which TLS versions does the host take?"""

from __future__ import annotations

import ssl

from hodcarrier.core.facts.probes import TlsFacts
from hodcarrier.crawl.probes.question import Question

VERSIONS = {
    "TLSv1": ssl.TLSVersion.TLSv1,
    "TLSv1.1": ssl.TLSVersion.TLSv1_1,
    "TLSv1.2": ssl.TLSVersion.TLSv1_2,
    "TLSv1.3": ssl.TLSVersion.TLSv1_3,
}


async def ask(question: Question) -> TlsFacts | None:
    """Shake hands once in each version."""
    if question.start.scheme != "https":
        return None
    url = f"{question.start.origin}/"
    return TlsFacts({name: await question.fetcher.handshake(url, version) for name, version in VERSIONS.items()})
