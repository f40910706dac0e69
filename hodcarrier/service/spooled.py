"""Documents that are written whole before they are sent, such as workbooks: small ones in memory, large ones on disk."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from tempfile import SpooledTemporaryFile
from typing import Any, BinaryIO

from fastapi.responses import StreamingResponse

IN_MEMORY_BYTES = 8_000_000
PART_BYTES = 64_000


def spooled(write: Callable[[BinaryIO], None], media_type: str, headers: Mapping[str, str]) -> StreamingResponse:
    """What ``write`` writes, as an answer in parts."""
    kept: Any = SpooledTemporaryFile(IN_MEMORY_BYTES)  # noqa: SIM115 (it is closed by the answer, once it is sent)
    write(kept)
    kept.seek(0)
    return StreamingResponse(iter(lambda: kept.read(PART_BYTES), b""), media_type=media_type, headers=dict(headers))
