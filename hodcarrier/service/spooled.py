"""Documents that are written whole before they are sent, such as workbooks: small ones in memory, large ones on disk."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from tempfile import SpooledTemporaryFile
from typing import Any, BinaryIO

from fastapi.responses import StreamingResponse

IN_MEMORY_BYTES = 8_000_000
PART_BYTES = 64_000


def spooled(write: Callable[[BinaryIO], None], media_type: str, headers: Mapping[str, str]) -> StreamingResponse:
    """What ``write`` writes, as an answer in parts."""
    kept: Any = SpooledTemporaryFile(IN_MEMORY_BYTES)  # noqa: SIM115 (it is closed once it is sent)
    try:
        write(kept)
    except BaseException:
        kept.close()
        raise
    kept.seek(0)
    return StreamingResponse(_parts(kept), media_type=media_type, headers=dict(headers))


def _parts(kept: Any) -> Iterator[bytes]:
    with kept:
        while part := kept.read(PART_BYTES):
            yield part
