"""Do http and https, with www and without, lead to one origin?"""

from __future__ import annotations

from hodcarrier.core.facts.probes import Variant, VariantFacts
from hodcarrier.core.web.urls import split
from hodcarrier.crawl.guard import literal_address
from hodcarrier.crawl.probes.question import Question


async def ask(question: Question) -> VariantFacts | None:
    """Ask every form of the origin for its start page and follow where it leads."""
    start = question.start
    if not question.on_default_port or literal_address(start.host) is not None:
        return None
    bare = start.host.removeprefix("www.")
    found = []
    for host in (bare, f"www.{bare}"):
        for scheme, port in (("http", 80), ("https", 443)):
            if not question.reaches(host, port) or not await question.allowed(f"{scheme}://{host}/"):
                continue
            fetched, url = await question.follow(f"{scheme}://{host}/")
            answer = fetched.answer
            leads_to = split(url).origin if answer.status is not None else ""
            found.append(Variant(f"{scheme}://{host}", answer.status, answer.failure, leads_to))
    return VariantFacts(found)
