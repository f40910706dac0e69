"""How the process gives memory back to the system."""

from __future__ import annotations

import ctypes
from functools import cache

# Of mallopt(3).
_TRIM_THRESHOLD, _TOP_PAD, _MMAP_THRESHOLD = -1, -2, -3
KEPT_BYTES = 16 * 1024 * 1024
STEP_BYTES = 1024 * 1024
APART_BYTES = 8 * 1024 * 1024


@cache
def keep_freed_memory() -> None:
    """Keep up to 16 MiB of freed memory for the next document, where the C library is glibc.

    It would hand the memory of every document's tree back to the system and ask for it again for the next one, which costs
    some forty page faults each time.
    """
    try:
        mallopt = ctypes.CDLL(None).mallopt
    except (AttributeError, OSError):  # another C library: it has its own ways
        return
    mallopt(_TRIM_THRESHOLD, KEPT_BYTES)
    mallopt(_TOP_PAD, STEP_BYTES)
    mallopt(_MMAP_THRESHOLD, APART_BYTES)
