"""The folder of one service: where its register, its run files and its key are."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from functools import partial
from pathlib import Path

from hodcarrier.audit.comparer import compare_where_fit
from hodcarrier.audit.reviser import revise, revise_where_fit
from hodcarrier.core.errors import InvalidInput, Unavailable
from hodcarrier.figurefile.store import FigureStore
from hodcarrier.register.database import connect_register, open_register
from hodcarrier.register.vault import Vault
from hodcarrier.runfile.store import LocalRunStore, try_lock
from hodcarrier.usecases.workspace import Workspace

# What a service keeps in its folder.
REGISTER, RUNS, FIGURES, KEY = "register.sqlite", "runs", "figures", "access.key"


@contextmanager
def hold_folder(data: Path) -> Iterator[None]:
    """Be the only service in a folder, by a lock that the system lets go of with the process. Raises :class:`Unavailable` when one is there."""
    try:
        data.mkdir(parents=True, exist_ok=True)
        held = (data / "service.lock").open("w")
    except OSError as error:
        raise Unavailable(f"{data} cannot be used: {error.strerror}.", "Name another folder with --data.") from None
    with held:
        if not try_lock(held):
            raise Unavailable(f"Another service works in {data} already.", "Stop it, or name another folder with --data.")
        yield


def check_folder(data: Path) -> None:
    """Raise :class:`InvalidInput` when there is no service's folder."""
    if not (data / REGISTER).is_file():
        raise InvalidInput(f"There is no service's folder at {data}.", "Name it with --data.", "data")


def make_place(data: Path, address: str) -> Workspace:
    """A workspace in a folder that is made or upgraded as needed. Raises :class:`~hodcarrier.core.errors.Unavailable`."""
    register = open_register(data / REGISTER)
    store = LocalRunStore(data / RUNS).make()
    return Workspace(
        register,
        store,
        FigureStore(data / FIGURES),
        Vault(data / KEY),
        lambda: datetime.now(UTC),
        partial(compare_where_fit, store),
        partial(revise_where_fit, store),
        address,
    )


def open_place(data: Path) -> Workspace:
    """The workspace of a worker, in the folder of the service that started it."""
    register = connect_register(data / REGISTER)
    store = LocalRunStore(data / RUNS)
    figures, now = FigureStore(data / FIGURES), lambda: datetime.now(UTC)
    return Workspace(register, store, figures, Vault(data / KEY), now, store.compare, partial(revise, store))
