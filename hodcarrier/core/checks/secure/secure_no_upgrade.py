"""A site over https answers over http as well, without redirecting to https."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, Severity, SiteView, Subject, doc, fails, page, passes

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.SITE,
    summary="http does not redirect to https",
    terms=(
        "HTTPS redirect",
        "insecure",
    ),
    why="People who type the address or follow an old link stay on the insecure site, where others can read and change what they see.",
    fix="Redirect every http address permanently to the same address over https.",
    effort=Effort.SMALL,
    standard="RFC 9110, 4.2.2; RFC 6797, 7.2",
    messages={"stays": "{origin} answers {status} and stays on http"},
    cause="site",
    examples=(
        fails("stays")(
            page(doc()),
            plan={
                "sample_variants": [
                    {"origin": "http://shop.example", "status": 200, "failure": "", "leads_to": "http://shop.example"},
                    {"origin": "https://www.shop.example", "status": 301, "failure": "", "leads_to": "https://shop.example"},
                ]
            },
        ),
        passes(
            page(doc()),
            plan={
                "sample_variants": [
                    {"origin": "http://shop.example", "status": 301, "failure": "", "leads_to": "https://shop.example"},
                    {"origin": "https://www.shop.example", "status": 301, "failure": "", "leads_to": "https://shop.example"},
                ]
            },
        ),
        passes(page(doc())),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not site.url.startswith("https:") or site.probes.variants is None:
        return
    for variant in site.probes.variants.variants:
        if variant.origin.startswith("http:") and variant.leads_to.startswith("http:"):
            yield Fail("stays", variant.origin, {"origin": variant.origin, "status": str(variant.status)})
