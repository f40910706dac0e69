"""Clients."""

from __future__ import annotations

from fastapi import APIRouter

from hodcarrier.service.deps import Work
from hodcarrier.service.guard import Asker, Granted, serves
from hodcarrier.usecases import clients
from hodcarrier.wire.clients import ClientBody, ClientChange, ClientOut

router = APIRouter()


@serves(router, "list_clients")
def list_clients(work: Work, grant: Granted) -> list[ClientOut]:
    return clients.list_clients(work, grant.only_client)


@serves(router, "add_client")
def add_client(body: ClientBody, work: Work, member: Asker) -> ClientOut:
    return clients.add_client(work, body, member)


@serves(router, "change_client")
def change_client(client_id: int, body: ClientChange, work: Work, member: Asker) -> ClientOut:
    return clients.change_client(work, client_id, body, member)


@serves(router, "remove_client")
def remove_client(client_id: int, work: Work, member: Asker) -> None:
    clients.remove_client(work, client_id, member)
