"""The folder of one service: where its register, its run files and its key are."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path

from hodcarrier.register.database import connect_register, open_register
from hodcarrier.register.vault import Vault
from hodcarrier.runfile.store import LocalRunStore
from hodcarrier.usecases.workspace import Workspace


def make_place(data: Path, address: str) -> Workspace:
    """A workspace in a folder that is made or upgraded as needed. Raises :class:`~hodcarrier.core.errors.Unavailable`."""
    register = open_register(data / "register.sqlite")
    store = LocalRunStore(data / "runs").make()
    return Workspace(register, store, Vault(data / "access.key"), lambda: datetime.now(UTC), address)


def open_place(data: Path) -> Workspace:
    """The workspace of a worker, in the folder of the service that started it."""
    register = connect_register(data / "register.sqlite")
    store = LocalRunStore(data / "runs")
    return Workspace(register, store, Vault(data / "access.key"), lambda: datetime.now(UTC))
