"""Secrets at rest: sealed with a key that lies beside the register, readable by its owner alone."""

from __future__ import annotations

import json
import os
from pathlib import Path
from typing import Any

from cryptography.fernet import Fernet, InvalidToken

from hodcarrier.core.errors import Unavailable


class Vault:
    """Seals and opens small values (Fernet: AES-128-CBC with HMAC-SHA-256). The key is made at first use."""

    def __init__(self, path: Path) -> None:
        self.path = path

    def seal(self, value: dict[str, Any]) -> str:
        """The value, unreadable without the key."""
        return self._fernet().encrypt(json.dumps(value).encode()).decode()

    def open(self, sealed: str) -> dict[str, Any]:
        """The value of :meth:`seal`. Raises :class:`Unavailable` when the key is another one."""
        try:
            found: dict[str, Any] = json.loads(self._fernet().decrypt(sealed.encode()))
        except InvalidToken:
            raise Unavailable(
                f"The stored access cannot be opened with the key in {self.path.name}.",
                "Restore that file, or enter the access again.",
            ) from None
        return found

    def _fernet(self) -> Fernet:
        try:
            if not self.path.exists():
                descriptor = os.open(self.path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
                with os.fdopen(descriptor, "wb") as out:
                    out.write(Fernet.generate_key())
            return Fernet(self.path.read_bytes())
        except (OSError, ValueError) as error:
            raise Unavailable(f"The key {self.path} cannot be used: {error}.", "Restore it from a backup.") from None
