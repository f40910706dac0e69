"""The folder of one service: where its register, its run files and its key are."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path

from hodcarrier.register.database import connect_register, open_register
from hodcarrier.register.vault import Vault
from hodcarrier.runfile.store import LocalRunStore
from hodcarrier.usecases.workspace import Mailer, Workspace


class NoMailer:
    """Workers tell nobody: the service does."""

    def send(self, to: str, subject: str, text: str) -> None:
        """Raise, because there is no way."""
        raise OSError(f"a worker sends no mail (to {to}: {subject}, {len(text)} characters)")


def make_place(data: Path, mailer: Mailer, address: str) -> Workspace:
    """A workspace in a folder that is made or upgraded as needed. Raises :class:`~hodcarrier.core.errors.Unavailable`."""
    register = open_register(data / "register.sqlite")
    store = LocalRunStore(data / "runs").make()
    return Workspace(register, store, Vault(data / "access.key"), lambda: datetime.now(UTC), mailer, address)


def open_place(data: Path) -> Workspace:
    """The workspace of a worker, in the folder of the service that started it."""
    register = connect_register(data / "register.sqlite")
    store = LocalRunStore(data / "runs")
    return Workspace(register, store, Vault(data / "access.key"), lambda: datetime.now(UTC), NoMailer())
