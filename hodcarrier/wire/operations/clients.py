"""Operations on clients."""

from hodcarrier.wire.clients import ClientBody, ClientChange, ClientOut
from hodcarrier.wire.operations.operation import Operation

OPERATIONS = (
    Operation("list_clients", "GET", "/clients", "Clients with their sites.", list[ClientOut]),
    Operation("add_client", "POST", "/clients", "Add a client.", ClientOut, ClientBody, status=201),
    Operation("change_client", "PATCH", "/clients/{client_id}", "Change a client's name or holidays.", ClientOut, ClientChange),
    Operation("remove_client", "DELETE", "/clients/{client_id}", "Remove a client and everything kept for it."),
)
