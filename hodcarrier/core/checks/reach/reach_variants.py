"""The site's forms (http and https, with and without www) that answer do not all lead to one origin."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, Severity, SiteView, Subject, doc, fails, page, passes
from hodcarrier.core.web.urls import split

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.SITE,
    summary="Site answers under several addresses",
    terms=(
        "www",
        "http and https",
        "duplicate site",
        "preferred domain",
    ),
    why="Search engines find the whole site twice and divide its weight between the two. Links and visits are divided as well.",
    fix="Choose one form, redirect the others to it permanently, each in one step, and use it in all links.",
    effort=Effort.SMALL,
    standard="RFC 9110, 15.4.2; RFC 6596",
    messages={"several": "{origins} lead to different places: {ends}"},
    revision=2,
    cause="site",
    examples=(
        fails("several")(
            page(doc()),
            plan={
                "sample_variants": [
                    {"origin": "http://shop.example", "status": 301, "failure": "", "leads_to": "https://shop.example"},
                    {"origin": "https://www.shop.example", "status": 200, "failure": "", "leads_to": "https://www.shop.example"},
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
        passes(
            page(doc()),
            plan={"sample_variants": [{"origin": "https://www.shop.example", "status": None, "failure": "dns", "leads_to": ""}]},
        ),
        passes(page(doc())),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    variants = site.probes.variants
    ends = {variant.origin: variant.leads_to for variant in variants.variants if variant.leads_to} if variants is not None else {}
    if site.url.startswith("https:"):
        # That a form stays on http is told by secure-no-upgrade.
        ends = {origin: end for origin, end in ends.items() if not end.startswith("http:")}
    places = sorted({*ends.values(), split(site.url).origin})
    if ends and len(places) > 1:
        others = [origin for origin, end in ends.items() if end != split(site.url).origin]
        yield Fail("several", "", {"origins": ", ".join(others), "ends": ", ".join(places)})
