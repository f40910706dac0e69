"""A site that is audited over http gives no answer over https: no connection, no valid handshake, or an error.

The question is asked once in a run, on the default ports alone. Where it was not asked, the check is unverified.
"""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    Sample,
    Severity,
    SiteView,
    Subject,
    Unsure,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.answer import FAILURES

HOME = Sample("http://shop.example/", doc("<h1>Shop</h1>"))


def over_http(status: int | None, failure: str = "") -> dict[str, object]:
    """The plan of a sample site over http, and what https answers there."""
    return {"start": ["http://shop.example/"], "sample_https": {"status": status, "failure": failure}}


CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.SITE,
    summary="No HTTPS",
    terms=("SSL", "TLS", "not secure"),
    why="Browsers mark the site as not secure and may warn before opening it, forms can be read on the way, and search engines prefer"
    " HTTPS pages.",
    fix="Install a certificate, serve every page over HTTPS, and redirect HTTP URLs permanently to their HTTPS versions.",
    effort=Effort.MEDIUM,
    standard="RFC 9110, 4.2.2",
    messages={"none": "{url} does not answer ({failure})", "error": "{url} answers {status}"},
    cause="site",
    examples=(
        fails("none")(HOME, plan=over_http(None, "connect")),
        fails("error")(HOME, plan=over_http(404)),
        passes(HOME, plan=over_http(200)),
        passes(page(doc())),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    https = site.probes.https
    if site.url.startswith("https:"):
        return
    if https is None:
        yield Unsure("", "https was not asked for")
    elif https.status is None:
        yield Fail("none", "", {"url": https.url, "failure": FAILURES.get(https.failure, https.failure)})
    elif https.status >= 400:
        yield Fail("error", "", {"url": https.url, "status": https.status})
