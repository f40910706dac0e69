"""Compares two large runs in a process of its own: ``python -m hodcarrier.audit.comparer RUNS BASE HEAD``.

The service starts it when somebody compares two runs for the first time that no worker has compared, so that nobody else waits meanwhile.
"""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

from hodcarrier.core.errors import HodcarrierError, Unavailable
from hodcarrier.runfile.store import LocalRunStore

NICE = 5
# Two files of so many bytes together take a second or two; a process of its own takes half a second to begin.
SMALL_BYTES = 32 * 1024 * 1024


def compare_where_fit(store: LocalRunStore, base_id: str, head_id: str) -> None:
    """Compare two runs and keep what comes of it: small ones here, others in a process of their own. Raises :class:`Unavailable`."""
    if store.size_bytes(base_id) + store.size_bytes(head_id) < SMALL_BYTES:
        store.compare(base_id, head_id)
        return
    code, reason = run_apart("hodcarrier.audit.comparer", str(store.folder), base_id, head_id)
    if code:
        raise Unavailable(f"The two runs could not be compared: {reason}", "Try again; if it stays so, run `hodcarrier doctor`.")


def run_apart(module: str, *arguments: str, text: str = "") -> tuple[int, str]:
    """Run a module in a process of its own, with ``text`` on stdin; gives its exit code, and the last line on stderr as the reason for it."""
    command = [sys.executable, "-m", module, *arguments]
    done = subprocess.run(command, input=text, capture_output=True, text=True, check=False)
    return done.returncode, (done.stderr.strip().splitlines() or [f"its process ended with {done.returncode}"])[-1]


def main() -> int:
    """The entry point. What went wrong is the last line on stderr."""
    folder, base_id, head_id = sys.argv[1:]
    os.nice(NICE)
    try:
        LocalRunStore(Path(folder)).compare(base_id, head_id)
    except HodcarrierError as error:
        sys.stderr.write(f"{error.message}\n")
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
