"""Applies waivers to a run that has ended: a small file here, a large one in a process of its own, ``python -m hodcarrier.audit.reviser RUNS RUN``,
so that nobody else waits meanwhile."""

from __future__ import annotations

import json
import os
import sys
from collections.abc import Sequence
from pathlib import Path

from hodcarrier.audit.comparer import NICE, SMALL_BYTES, run_apart
from hodcarrier.core.errors import HodcarrierError, Unavailable
from hodcarrier.core.judge.waivers import Waiver
from hodcarrier.examine.waiving import apply_waivers
from hodcarrier.runfile.store import LocalRunStore

# How the process says that nothing differs.
UNCHANGED = 3


def revise(store: LocalRunStore, run_id: str, waivers: Sequence[Waiver]) -> bool:
    """Let these waivers, all in force, and no others cover findings of a run; returns whether anything differs now. Raises
    :class:`Unavailable` when the file cannot be written anew, and then it is as it was."""
    with store.revise(run_id) as revision:
        revision.wanted = apply_waivers(revision.db, waivers) is not None
    return revision.wanted


def revise_where_fit(store: LocalRunStore, run_id: str, waivers: Sequence[Waiver]) -> bool:
    """The same, in the process that suits the size of the file."""
    if store.size_bytes(run_id) < SMALL_BYTES:
        return revise(store, run_id, waivers)
    code, reason = run_apart("hodcarrier.audit.reviser", str(store.folder), run_id, text=_written(waivers))
    if code not in (0, UNCHANGED):
        raise Unavailable(f"The waivers could not be applied to run {run_id}: {reason}", "They hold from the next run on.")
    return code == 0


def _written(waivers: Sequence[Waiver]) -> str:
    """What waivers are about; when they hold is of no matter here, since all of them do."""
    return json.dumps([(waiver.check, waiver.pattern, waiver.fingerprint) for waiver in waivers])


def main() -> int:
    """The entry point: waivers as JSON on stdin. What went wrong is the last line on stderr."""
    folder, run_id = sys.argv[1:]
    os.nice(NICE)
    try:
        changed = revise(LocalRunStore(Path(folder)), run_id, [Waiver(*scope) for scope in json.load(sys.stdin)])
    except HodcarrierError as error:
        sys.stderr.write(f"{error.message}\n")
        return 1
    return 0 if changed else UNCHANGED


if __name__ == "__main__":
    sys.exit(main())
