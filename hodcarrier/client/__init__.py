"""The client library: the same models as the service, pages that turn by themselves, errors as exceptions.

::

    from hodcarrier.client import Hodcarrier

    with Hodcarrier("http://127.0.0.1:8420", token) as desk:
        run = desk.start_run(desk.find_site("tidewrack.example").id)
        run = desk.wait_for_run(run.id)
        print(run.health)

:class:`AsyncHodcarrier` has the same methods, to be awaited.
"""

from hodcarrier.client.desk import AsyncHodcarrier, Hodcarrier
from hodcarrier.client.errors import RequestFailed, Unreachable

__all__ = ["AsyncHodcarrier", "Hodcarrier", "RequestFailed", "Unreachable"]
