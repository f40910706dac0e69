"""No name in the certificate covers the site's host (RFC 9525)."""

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
    summary="Certificate for another name",
    terms=("TLS", "SSL", "subject alternative name", "certificate"),
    why="Browsers cannot tell that they have reached your server and show a warning instead of the site.",
    fix="Have a certificate issued that names the host, with and without www.",
    effort=Effort.SMALL,
    standard="RFC 9525, 6",
    messages={"name": "The certificate names {names}, not {host}", "none": "The certificate names no host"},
    cause="site",
    examples=(
        fails("name")(page(doc()), plan=certificate(covers_host=False)),
        fails("none")(page(doc()), plan=certificate(covers_host=False, names=[])),
        passes(page(doc()), plan=certificate()),
        passes(page(doc())),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    shown = site.probes.certificate
    if shown is not None and not shown.covers_host:
        yield Fail("name" if shown.names else "none", "", {"host": shown.host, "names": ", ".join(shown.names[:3])})
