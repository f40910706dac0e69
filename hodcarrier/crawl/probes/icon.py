"""Is there an icon where browsers look for one by themselves?"""

from __future__ import annotations

from hodcarrier.core.facts.probes import IconFacts
from hodcarrier.crawl.probes.question import Question


async def ask(question: Question) -> IconFacts | None:
    """Ask for it, and follow redirects."""
    url = f"{question.start.origin}/favicon.ico"
    if not await question.allowed(url):
        return None
    fetched, _ = await question.follow(url)
    return IconFacts(url, fetched.answer.status, fetched.answer.failure)
