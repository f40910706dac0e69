"""What one run can say about a fingerprint: found, waived, known, examined, gone. The base of every comparison."""

from __future__ import annotations

import sqlite3

from hodcarrier.core.compare import Sight
from hodcarrier.runfile import schema

SITE = "site"


class Sights:
    """Answers for one run, with what it needs read once.

    ``complete``: the whole site was reached, so that an unknown address is linked and listed nowhere.
    """

    def __init__(self, db: sqlite3.Connection, complete: bool) -> None:
        self.complete = complete
        self.address: dict[str, tuple[int, int | None, bool, bool]] = {
            url: (state, status, redirect is not None, has_page)
            for url, state, status, redirect, has_page in db.execute(
                "SELECT url, state, status, redirect_id, page.address_id IS NOT NULL FROM address"
                " LEFT JOIN answer ON answer.address_id = address.id LEFT JOIN page ON page.address_id = address.id WHERE role < 2"
            )
        }
        self.checks: dict[str, tuple[str, str, int]] = {
            check: (state, needs, revision)
            for check, state, needs, revision in db.execute("SELECT id, state, needs, revision FROM check_state")
        }
        self.unverified = {fp for (fp,) in db.execute("SELECT fingerprint FROM unverified")}
        self.found: dict[bytes, bool] = {fp: bool(waived) for fp, waived in db.execute("SELECT fingerprint, waived FROM finding")}

    def of(self, fingerprint: bytes, check: str, subject: str) -> Sight:
        """The sight of one (check, subject, place), given by its fingerprint."""
        if fingerprint in self.found:
            return Sight(True, self.found[fingerprint])
        state, needs, _ = self.checks.get(check, ("absent", "", 0))
        examined = state == "on" and fingerprint not in self.unverified
        if subject == SITE:
            return Sight(False, known=True, examined=examined)
        known = self.address.get(subject)
        if known is None:
            return Sight(False, known=False, examined=False, gone=self.complete)
        address_state, status, redirects, has_page = known
        done = address_state == schema.DONE
        gone = status in (404, 410) or (redirects and needs == "document")
        if needs == "document":
            seen = done and status == 200 and has_page
        elif needs == "answer":
            seen = done and status is not None
        else:
            seen = address_state in (schema.DONE, schema.DISALLOWED)
        return Sight(False, known=True, examined=examined and seen, gone=gone)
