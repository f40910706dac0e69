"""Readers of run files that older releases wrote: each lifts a file of its version to today's tables, as views on the connection.

A file is never changed. A view in SQLite's ``temp`` database hides the table of its name, so that every query of today reads
the lifted rows. Version 1 has no release behind it and stays unread.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Callable

from hodcarrier.runfile.versions import v2, v3, v4, v5, v6, v7

LIFTS: dict[int, Callable[[sqlite3.Connection], None]] = {2: v2.lift, 3: v3.lift, 4: v4.lift, 5: v5.lift, 6: v6.lift, 7: v7.lift}
