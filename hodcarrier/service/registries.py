"""Asks registries of domains what they say of clients' domains (RDAP over HTTP: RFC 7480, 9082), in a thread of its own."""

from __future__ import annotations

import asyncio
from urllib.parse import quote, urljoin

import structlog

from hodcarrier.core.errors import HodcarrierError, InvalidInput
from hodcarrier.core.figures.domains import DomainFacts, read_domain
from hodcarrier.service.outside import Answer, Asker, Reach, Unanswered
from hodcarrier.usecases import domain_records
from hodcarrier.usecases.domain_records import Question
from hodcarrier.usecases.workspace import Workspace

EVERY_S = 30.0
_RDAP = "application/rdap+json"
# A registry sends on to the one that knows (RFC 7480, 5.2).
_HOPS = 5
_MOVED = frozenset({301, 302, 303, 307, 308})
log = structlog.get_logger()


def ask_due(work: Workspace, reach: Reach, registry: str) -> int:
    """Ask about the domains that are due, each by itself. Without an address of a ``registry`` nobody is asked. Returns how many went well."""
    questions = domain_records.claim_due(work) if registry else []
    return asyncio.run(_ask_all(work, reach, registry, questions)) if questions else 0


async def _ask_all(work: Workspace, reach: Reach, registry: str, questions: list[Question]) -> int:
    async with reach.open() as asker:
        return sum(await asyncio.gather(*(_try(work, asker, registry, each) for each in questions)))


async def _try(work: Workspace, asker: Asker, registry: str, question: Question) -> bool:
    try:
        facts = await _ask(asker, registry, question)
    except Unanswered as error:
        domain_records.note_failed(work, question.site_id, f"The registry: {error}", error.asks_for_s)
    except HodcarrierError as error:
        domain_records.note_failed(work, question.site_id, error.message)
    except Exception as error:
        log.exception("a registry could not be asked", host=question.host)
        domain_records.note_failed(work, question.site_id, f"The registry could not be asked: {error or type(error).__name__}")
    else:
        domain_records.note_facts(work, question.site_id, facts)
        return True
    return False


async def _ask(asker: Asker, registry: str, question: Question) -> DomainFacts:
    """What the registry says of the longest name that it knows."""
    for name in question.names:
        answer = await _get(asker, f"{registry.rstrip('/')}/domain/{quote(name)}")
        if answer.status == 200:
            return read_domain(answer.text)
        if answer.status != 404:
            raise InvalidInput(f"The registry answered {answer.status} when asked for {name}.")
    if not question.names:
        raise InvalidInput(f"{question.host} is no domain name that is registered.")
    raise InvalidInput(f"The registry knows no domain of {question.host}.")


async def _get(asker: Asker, url: str) -> Answer:
    for _ in range(_HOPS):
        answer = await asker.get(url, _RDAP)
        if answer.status not in _MOVED or not answer.location:
            return answer
        url = urljoin(url, answer.location)
        if not url.startswith(("https://", "http://")):
            break
    raise InvalidInput("The registry sends on and on.")
