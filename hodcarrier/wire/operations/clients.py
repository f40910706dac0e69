"""Operations on clients."""

from hodcarrier.wire.client_pages import ClientPage
from hodcarrier.wire.clients import ClientBody, ClientChange, ClientOut
from hodcarrier.wire.new_clients import FirstLookBody, FirstLookOut, NewClientBody, NewClientOut
from hodcarrier.wire.operations.operation import Operation, Parameter

OPERATIONS = (
    Operation(
        "list_clients",
        "GET",
        "/clients",
        "Clients with their sites; those that are archived on demand.",
        list[ClientOut],
        query=(Parameter("archived", bool, False), Parameter("tag", str, "")),
    ),
    Operation("get_client", "GET", "/clients/{client_id}", "All that is kept for a client, on one page.", ClientPage),
    Operation("add_client", "POST", "/clients", "Add a client.", ClientOut, ClientBody, status=201),
    Operation(
        "first_look",
        "POST",
        "/first-look",
        "Look at a site that is not set up yet: a few pages, robots.txt, sitemaps; and the settings that suit it.",
        FirstLookOut,
        FirstLookBody,
    ),
    Operation(
        "set_up_client",
        "POST",
        "/clients/set-up",
        "Set up a client with site, schedule, competitors and people: all of it or nothing.",
        NewClientOut,
        NewClientBody,
        status=201,
    ),
    Operation(
        "change_client",
        "PATCH",
        "/clients/{client_id}",
        "Change a client, archive it, or bring it back.",
        ClientOut,
        ClientChange,
    ),
    Operation("remove_client", "DELETE", "/clients/{client_id}", "Remove a client and everything kept for it."),
)
