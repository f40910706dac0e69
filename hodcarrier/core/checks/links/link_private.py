"""A link or a file of a public page leads to an address that only its makers reach: this machine, a private address, a file on a disk."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.links import LinkFacts
from hodcarrier.core.web.urls import split

PRIVATE_NAMES = (".localhost", ".local", ".internal", ".lan", ".home.arpa", ".intranet", ".localdomain")
PRIVATE_NETS = ("10.", "127.", "192.168.", "169.254.", *(f"172.{n}." for n in range(16, 32)))


def is_private(host: str) -> bool:
    """Whether a host is one that only the makers of a page reach."""
    if host == "localhost" or host.endswith(PRIVATE_NAMES):
        return True
    parts = host.split(".")
    if len(parts) == 4 and all(part.isdigit() for part in parts):
        return host.startswith(PRIVATE_NETS)
    return host == "::1" or (":" in host and host.lower().startswith(("fc", "fd", "fe80:")))


CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    needs=(LinkFacts,),
    summary="Links to private addresses",
    terms=(
        "localhost",
        "file:",
        "staging",
    ),
    why="Visitors see an error. Such links come from the machine the page was written on, and tell strangers about it.",
    fix="Replace the address by the public one.",
    effort=Effort.SMALL,
    standard="RFC 1918; RFC 6761, 6.3",
    messages={"private": "Leads to {target}"},
    cause="target",
    cause_line="{target} on {pages:page}",
    examples=(
        fails("private")(page(doc("<a href=http://localhost:8000/a>a</a>"))),
        fails("private")(page(doc("<img src=http://192.168.1.4/i.png alt=x>"))),
        fails("private")(page(doc("<a href=http://shop.local/>a</a>"))),
        passes(page(doc("<a href=https://other.example/>a</a>"))),
        passes(page(doc("<a href=http://8.8.8.8/>a</a>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for link in page.distinct_links():
        host = split(link.url).host.strip("[]")
        if host != split(page.url).host and is_private(host):
            yield Fail("private", link.url, {"target": link.url, "selector": f'[href="{link.raw}"], [src="{link.raw}"]'})
