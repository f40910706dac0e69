"""Clients."""

from __future__ import annotations

from fastapi import APIRouter

from hodcarrier.audit.first_look import first_look
from hodcarrier.service.deps import Configured, Work
from hodcarrier.service.guard import Asker, Granted, serves
from hodcarrier.service.surroundings import check_surroundings
from hodcarrier.usecases import client_pages, clients, new_clients
from hodcarrier.wire.client_pages import ClientPage
from hodcarrier.wire.clients import ClientBody, ClientChange, ClientOut
from hodcarrier.wire.new_clients import FirstLookBody, FirstLookOut, NewClientBody, NewClientOut

router = APIRouter()


@serves(router, "list_clients")
def list_clients(work: Work, grant: Granted, archived: bool = False, tag: str = "") -> list[ClientOut]:
    return clients.list_clients(work, grant.only_client, archived=archived, tag=tag)


@serves(router, "get_client")
def get_client(client_id: int, work: Work) -> ClientPage:
    return client_pages.get_client(work, client_id)


@serves(router, "add_client")
def add_client(body: ClientBody, work: Work, member: Asker) -> ClientOut:
    return clients.add_client(work, body, member)


@serves(router, "first_look")
def look_first(body: FirstLookBody, work: Work, member: Asker, settings: Configured) -> FirstLookOut:
    check_surroundings(settings, member, body.plan)
    return first_look(work, body.address, body.plan, member.mail_zone)


@serves(router, "set_up_client")
def set_up_client(body: NewClientBody, work: Work, member: Asker, settings: Configured) -> NewClientOut:
    check_surroundings(settings, member, body.plan)
    return new_clients.set_up_client(work, body, member)


@serves(router, "change_client")
def change_client(client_id: int, body: ClientChange, work: Work, member: Asker) -> ClientOut:
    return clients.change_client(work, client_id, body, member)


@serves(router, "remove_client")
def remove_client(client_id: int, work: Work, member: Asker) -> None:
    clients.remove_client(work, client_id, member)
