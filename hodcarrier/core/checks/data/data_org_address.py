"""The start page describes an organisation without an address though the page itself shows one in an address element."""

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
    doc,
    fails,
    ld,
    page,
    passes,
)
from hodcarrier.core.facts.things import called, of_kind

SHOP = '{"@context": "https://schema.org", "@type": "Organization", "name": "Ropes"}'


CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.SITE,
    summary="Organisation without its address in the data",
    terms=("Organization", "PostalAddress", "local SEO", "NAP"),
    why="People see where the company is, programs do not: maps and local results take the address from the data.",
    fix="Add the address to the organisation as a PostalAddress, as it stands on the page.",
    effort=Effort.SMALL,
    standard="schema.org Organization and PostalAddress",
    messages={"address": "{thing} has no address; the page shows “{shown}”"},
    cause="site",
    examples=(
        fails("address")(page(ld(SHOP).replace("</body>", "<address>Harbour Street 4, Milltown</address></body>"))),
        passes(page(ld(SHOP))),
        passes(
            page(
                ld(SHOP[:-1] + ', "address": "Harbour Street 4"}').replace(
                    "</body>", "<address>Harbour Street 4, Milltown</address></body>"
                )
            )
        ),
        passes(page(doc("<address>Harbour Street 4, Milltown</address>"))),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    start = site.start_document
    if start is None or not start.trust.postal_shown:
        return
    found = list(of_kind(start.data.things, "Organization", parts=True))
    if found and not any(thing.has("address", "location") for thing in found):
        yield Fail("address", "", {"thing": called(found[0]), "shown": start.trust.postal_shown})
