"""The server takes a TLS version older than 1.2 (RFC 8996)."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, Severity, SiteView, Subject, doc, fails, page, passes
from hodcarrier.core.facts.probes import Accepted

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.SITE,
    summary="Outdated TLS versions accepted",
    terms=(
        "TLS 1.0",
        "TLS 1.1",
        "SSL",
    ),
    why="Old versions have known weaknesses, and an attacker can make a browser fall back to them.",
    fix="Switch off TLS 1.0 and 1.1 in the server's settings.",
    effort=Effort.SMALL,
    standard="RFC 8996",
    messages={"old": "The server accepts {versions}"},
    cause="site",
    examples=(
        fails("old")(page(doc()), plan={"sample_tls": {"TLSv1": "no", "TLSv1.1": "yes", "TLSv1.2": "yes"}}),
        passes(page(doc()), plan={"sample_tls": {"TLSv1": "no", "TLSv1.1": "no", "TLSv1.2": "yes"}}),
        passes(page(doc()), plan={"sample_tls": {"TLSv1": "unknown", "TLSv1.1": "unknown", "TLSv1.2": "yes"}}),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    tls = site.probes.tls
    taken = [
        name.replace("v", " ") for name in ("TLSv1", "TLSv1.1") if tls is not None and tls.versions.get(name) == Accepted.YES
    ]
    if taken:
        yield Fail("old", "", {"versions": " and ".join(taken)})
