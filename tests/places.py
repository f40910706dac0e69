"""Folders of services for tests. The register's migrations run once for each process that tests; each folder begins with what they made."""

from __future__ import annotations

from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory

from hodcarrier.audit.place import REGISTER, make_place
from hodcarrier.register.database import copy_live, open_register
from hodcarrier.usecases.workspace import Workspace


@cache
def _migrated() -> bytes:
    """A register without anything in it, as bytes."""
    with TemporaryDirectory() as folder:
        path = Path(folder) / REGISTER
        register = open_register(path)
        copy_live(path, whole := path.with_suffix(".whole"))
        register.kw["bind"].dispose()
        return whole.read_bytes()


def new_place(folder: Path, address: str = "https://desk.example") -> Workspace:
    """A workspace in a folder that has no register yet."""
    folder.mkdir(parents=True, exist_ok=True)
    (folder / REGISTER).write_bytes(_migrated())
    return make_place(folder, address)
