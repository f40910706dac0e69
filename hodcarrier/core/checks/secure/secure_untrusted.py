"""The certificate does not lead to an authority that is known (RFC 5280, 6), or to the plan's own. Its dates have a check of their own."""

from collections.abc import Iterator

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
    summary="Certificate not trusted",
    terms=("TLS", "SSL", "certificate authority", "self-signed", "chain"),
    why="Browsers trust certificates that a known authority has signed, with all certificates in between. For others they show a warning instead of the site.",
    fix="Have the certificate issued by a public authority, and let the server send the certificates in between along with it.",
    effort=Effort.SMALL,
    standard="RFC 5280, 6; RFC 8446, 4.4.2",
    messages={"untrusted": "The certificate of {host}, issued by {issuer}, is not trusted: {why}"},
    cause="site",
    examples=(
        fails("untrusted")(page(doc()), plan=certificate(why_untrusted="self-signed certificate")),
        passes(page(doc()), plan=certificate()),
        passes(page(doc())),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    shown = site.probes.certificate
    if shown is not None and shown.why_untrusted:
        yield Fail("untrusted", "", {"host": shown.host, "issuer": shown.issuer or "nobody", "why": shown.why_untrusted})
