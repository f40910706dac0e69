"""The client library: the same models as the service, pages that turn by themselves, errors as exceptions.

::

    from hodcarrier.client import Hodcarrier

    with Hodcarrier("http://127.0.0.1:8420", token) as desk:
        run = desk.start_run(desk.find_site("tidewrack.example").id)
        run = desk.wait(run.id)
        print(run.health)
"""

from hodcarrier.client.errors import RequestFailed, Unreachable
from hodcarrier.client.sync import Hodcarrier

__all__ = ["Hodcarrier", "RequestFailed", "Unreachable"]
