"""Every operation of the HTTP interface, each written once. Routes and clients are derived from these."""

from __future__ import annotations

from dataclasses import replace

from hodcarrier.wire.operations import (
    catalogue,
    clients,
    feeds,
    figures,
    files,
    inventory,
    mail,
    pages,
    people,
    plans,
    profiles,
    reports,
    runs,
    setups,
    sheets,
    sitemaps,
    sites,
    standings,
    structure,
    todos,
    webhooks,
    work,
)
from hodcarrier.wire.operations.operation import Operation, Parameter

NOUNS = {
    "people": people.OPERATIONS,
    "clients": clients.OPERATIONS,
    "sites": sites.OPERATIONS,
    "setups": setups.OPERATIONS,
    "plans": plans.OPERATIONS,
    "profiles": profiles.OPERATIONS,
    "runs": runs.OPERATIONS,
    "inventory": inventory.OPERATIONS,
    "pages": pages.OPERATIONS,
    "figures": figures.OPERATIONS,
    "standings": standings.OPERATIONS,
    "feeds": feeds.OPERATIONS,
    "sheets": sheets.OPERATIONS,
    "structure": structure.OPERATIONS,
    "sitemaps": sitemaps.OPERATIONS,
    "todos": todos.OPERATIONS,
    "work": work.OPERATIONS,
    "reports": reports.OPERATIONS,
    "mail": mail.OPERATIONS,
    "webhooks": webhooks.OPERATIONS,
    "files": files.OPERATIONS,
    "catalogue": catalogue.OPERATIONS,
}
OPERATIONS: dict[str, Operation] = {
    operation.name: replace(operation, noun=noun) for noun, operations in NOUNS.items() for operation in operations
}

__all__ = ["NOUNS", "OPERATIONS", "Operation", "Parameter"]
