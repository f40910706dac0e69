"""Does a URL that cannot exist answer that it does not?"""

from __future__ import annotations

import hashlib

from hodcarrier.core.facts.probes import MissingFacts
from hodcarrier.crawl.probes.question import Question


async def ask(question: Question) -> MissingFacts | None:
    """Ask for a made-up URL of the site. It is the same in every run, so that runs can be compared."""
    origin = question.start.origin
    made_up = hashlib.blake2b(origin.encode(), digest_size=10).hexdigest()
    url = f"{origin}{question.plan.path_prefix.rstrip('/')}/{made_up}"
    if not await question.allowed(url):
        return None
    fetched, end = await question.follow(url)
    return MissingFacts(url, fetched.answer.status, fetched.answer.failure, end if end != url else "")
