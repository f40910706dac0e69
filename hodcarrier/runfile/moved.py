"""A run as if its site stood on another host, so that a staging host can be compared with the live one by path.

URLs of the one origin become URLs of the other in everything that a comparison reads, and findings get the fingerprints that they would have there. Pages
themselves (their source, facts and links) stay as they were: no comparison looks into them.
"""

from __future__ import annotations

import re
import shutil
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from pathlib import Path

from hodcarrier.core.errors import Unavailable
from hodcarrier.core.judge.fingerprints import fingerprint
from hodcarrier.core.plan import Plan
from hodcarrier.core.web.urls import split
from hodcarrier.runfile.reader import RunFile

_COLUMNS = (
    ("address", ("url",)),
    ("inventory", ("url", "canonical")),
    ("page", ("canonical",)),
    ("site_file", ("url",)),
    ("once_indexable", ("url",)),
    ("cause", ("key",)),
)
_FOUND = ("finding", "unverified", "earlier")


def are_elsewhere(base: Plan, head: Plan) -> bool:
    """Whether two plans are of different origins."""
    return split(base.start[0]).origin != split(head.start[0]).origin


def mover(base: Plan, head: Plan) -> Callable[[str], str]:
    """What makes URLs of the one plan's host, wherever they stand in a text, into those of the other's: http for http and https for https, the other way
    round where the two start with different schemes, so that no two URLs become one."""
    old, new = split(base.start[0]), split(head.start[0])
    other = {"http": "https", "https": "http"}
    origins = {old.origin: new.origin, _with_scheme(old.origin, other[old.scheme]): _with_scheme(new.origin, other[new.scheme])}
    pattern = re.compile("|".join(rf"{re.escape(origin)}(?![\w.:-])" for origin in origins))
    return lambda text: pattern.sub(lambda found: origins[found.group()], text)


def _with_scheme(origin: str, scheme: str) -> str:
    return f"{scheme}://{origin.split('://', 1)[1]}"


@contextmanager
def moved(path: Path, target: Path, base: RunFile, head: RunFile) -> Iterator[RunFile]:
    """The run at ``path`` as if it were one of the host of ``head``: a copy at ``target``, which is removed afterwards. Raises :class:`OSError` and
    :class:`sqlite3.OperationalError` when there is no room for it, and :class:`Unavailable` for a file of an earlier release."""
    if not base.is_current:
        raise Unavailable(
            "The earlier run was examined by an earlier release, and its site has another host.", "Audit that site again."
        )
    move = mover(base.plan, head.plan)
    identity = dict(base.rows("SELECT id, identity FROM check_state"))

    def marked(check: str, subject: str, place: str, kept: bytes) -> bytes:
        """The fingerprint of a finding there. One that is not made of subject and place, such as the site's own, stays as it is."""
        name = identity.get(check, check)
        if fingerprint(name, subject, place) != kept:
            return kept
        return fingerprint(name, move(subject), move(place))

    try:
        shutil.copyfile(path, target)
        with closing(sqlite3.connect(target)) as db:
            db.create_function("moved", 1, lambda text: None if text is None else move(text), deterministic=True)
            db.create_function("marked", 4, marked, deterministic=True)
            for table, columns in _COLUMNS:
                db.execute(f"UPDATE {table} SET {', '.join(f'{column} = moved({column})' for column in columns)}")
            for table in _FOUND:
                db.execute(f"UPDATE {table} SET fingerprint = marked(check_id, subject, place, fingerprint)")
                db.execute(f"UPDATE {table} SET subject = moved(subject), place = moved(place)")
            db.commit()
        with RunFile.open(target) as there:
            yield there
    finally:
        target.unlink(missing_ok=True)
