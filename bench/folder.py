"""A real site from a folder of files, served on loopback by a process of its own: ``python -m bench.folder FOLDER``.

Prints the port. Every file answers under its path; a folder answers with its ``index.html``.
"""

from __future__ import annotations

import asyncio
import mimetypes
import sys
from pathlib import Path
from urllib.parse import unquote

from bench.serving import Answering, serve


class Files(Answering):
    """Answers with files."""

    root = Path()

    def answer(self, target: str) -> tuple[str, str, bytes]:
        """The file of a path, with its type by its name."""
        path = (self.root / unquote(target.partition("?")[0]).lstrip("/")).resolve()
        if path.is_dir():
            path = path / "index.html"
        if not path.is_file():
            return "404 Not Found", "text/plain", b"not here"
        kind = mimetypes.guess_type(path.name)[0] or "application/octet-stream"
        return "200 OK", kind + ("; charset=utf-8" if kind == "text/html" else ""), path.read_bytes()


if __name__ == "__main__":
    Files.root = Path(sys.argv[1]).resolve()
    asyncio.run(serve(Files))
