"""The certificate of the start host ends in fewer days than the limit.

A site that was not reached over https is unverified here. The days are counted to the moment of the run.
"""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
    Severity,
    SiteView,
    Subject,
    Unsure,
    doc,
    fails,
    page,
    passes,
)


def certificate(days: int) -> dict[str, int]:
    """Tell the sample site how many days its certificate has left."""
    return {"sample_certificate_days": days}


CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.SITE,
    summary="TLS certificate expires soon",
    terms=(
        "SSL",
        "HTTPS",
        "expired certificate",
    ),
    why="Once the certificate has expired, every browser warns visitors, and most of them leave.",
    fix="Renew the certificate now, and find out why it was not renewed automatically.",
    effort=Effort.SMALL,
    standard="RFC 5280, 4.1.2.5",
    messages={"expiring": "The certificate expires on {ends}, in {days:day}", "expired": "The certificate expired on {ends}"},
    cause="site",
    limits={"certificate_days_min": Limit(21, "days", "days before the end at which to speak up")},
    examples=(
        fails("expiring")(page(doc()), plan=certificate(20)),
        fails("expired")(page(doc()), plan=certificate(-1)),
        passes(page(doc()), plan=certificate(21)),
        passes(page(doc())),
    ),
)


def find(site: SiteView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    days = site.certificate_days
    if days is None:
        yield Unsure("", "no certificate was seen")
    elif days < limits["certificate_days_min"]:
        key = "expired" if days < 0 else "expiring"
        yield Fail(key, "", {"days": int(days), "ends": site.certificate_ends, "limit": int(limits["certificate_days_min"])})
