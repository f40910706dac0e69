"""The certificate of the site's host is no longer valid, or not yet (RFC 5280, 4.1.2.5)."""

from collections.abc import Iterator
from datetime import datetime

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    Severity,
    SiteView,
    Subject,
    certificate,
    doc,
    fails,
    page,
    passes,
)

CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.SITE,
    summary="Certificate expired",
    terms=("TLS", "SSL", "certificate", "expiry"),
    why="Browsers show a warning instead of the site, and most visitors turn back. Search engines stop fetching it.",
    fix="Renew the certificate now, and let the renewal run by itself from now on. The server may need to be told to load the new one.",
    effort=Effort.SMALL,
    standard="RFC 5280, 4.1.2.5",
    messages={"expired": "The certificate of {host} ended on {date}", "early": "The certificate of {host} begins only on {date}"},
    cause="site",
    examples=(
        fails("expired")(page(doc()), plan=certificate(ends="2026-11-23T02:00:00+00:00")),
        fails("early")(page(doc()), plan=certificate(starts="2026-11-25T02:00:00+00:00")),
        passes(page(doc()), plan=certificate()),
        passes(page(doc())),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    shown, now = site.probes.certificate, site.examined_at
    if shown is None:
        return
    starts, ends = datetime.fromisoformat(shown.starts), datetime.fromisoformat(shown.ends)
    if ends < now:
        yield Fail("expired", "", {"host": shown.host, "date": ends.date().isoformat()})
    elif starts > now:
        yield Fail("early", "", {"host": shown.host, "date": starts.date().isoformat()})
