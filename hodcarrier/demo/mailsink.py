"""A mail sink: takes every mail over SMTP and keeps it as a file."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from aiosmtpd.controller import Controller


class KeepMail:
    """Writes each mail to ``NNNN.eml``."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.count = len(list(folder.glob("*.eml")))

    async def handle_DATA(self, _server: Any, _session: Any, envelope: Any) -> str:  # noqa: N802
        """Called by the SMTP server with a whole mail."""
        self.count += 1
        (self.folder / f"{self.count:04d}.eml").write_bytes(envelope.content)
        return "250 kept"


def start_sink(folder: Path, port: int) -> Controller:
    """Listen on loopback; stop it with ``.stop()``."""
    folder.mkdir(parents=True, exist_ok=True)
    controller = Controller(KeepMail(folder), hostname="127.0.0.1", port=port)
    controller.start()
    return controller
