"""Is https there? Asked of a site that is audited over http."""

from __future__ import annotations

from hodcarrier.core.facts.probes import HttpsFacts
from hodcarrier.crawl.probes.question import Question


async def ask(question: Question) -> HttpsFacts | None:
    """Ask for the start page over https."""
    start = question.start
    if start.scheme != "http" or not question.on_default_port or not question.reaches(start.host, 443):
        return None
    url = f"https://{start.host}/"
    if not await question.allowed(url):
        # A robots.txt that cannot be had forbids to ask. Where nothing answers over https at all, asking for it has said so.
        robots, _ = await question.follow(f"{url}robots.txt")
        return None if robots.answer.status is not None else HttpsFacts(url, None, robots.answer.failure)
    fetched, _ = await question.follow(url)
    return HttpsFacts(url, fetched.answer.status, fetched.answer.failure)
