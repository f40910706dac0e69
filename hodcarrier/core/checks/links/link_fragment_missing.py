"""A link points at a place within a page of the site that has no such name: no id, and no anchor called so (WHATWG HTML, 7.4.6.4).

Silent where the target was not read or has no names at all (a script may make them), and of fragments that scripts and browsers take for
themselves: routes that begin with ``!`` or ``/``, text fragments, ``top``."""

from collections.abc import Iterator
from urllib.parse import unquote

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    When,
    doc,
    fails,
    gone,
    page,
    passes,
)
from hodcarrier.core.facts.links import LinkFacts
from hodcarrier.core.facts.markup import fragment_print
from hodcarrier.core.facts.values import FOLLOWED_KINDS

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.LINKS,
    needs=(LinkFacts,),
    across=True,
    summary="Links to missing places in pages",
    terms=("anchor link", "jump link", "fragment", "hash"),
    why="The link opens the page at its top instead of the place it promises. Readers search for it and give up.",
    fix="Correct the part behind the #, or give the heading its id back.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 7.4.6.4",
    messages={"missing": "{target} has no place called “{name}”"},
    cause="target",
    cause_line="{target} has no “{name}”; linked from {pages:page}",
    examples=(
        fails("missing")(page(doc("<a href=/a#knots>Knots</a>")), page(doc("<h2 id=splices>Splices</h2>"), "/a")),
        fails("missing")(page(doc("<a href=#knots>Knots</a><h2 id=splices>Splices</h2>"))),
        passes(page(doc("<a href=/a#knots>Knots</a>")), page(doc("<a name=knots></a>"), "/a")),
        passes(page(doc("<a href=/a#kn%C3%B6ts>Knots</a>")), page(doc("<p id=knöts>"), "/a")),
        passes(page(doc("<a href=/a#knots>Knots</a>")), page(doc("<p>Knots"), "/a")),
        passes(page(doc("<a href=#>a</a><a href=#top>a</a><a href=#!/ropes>a</a><a href=#:~:text=rope>a</a><p id=a>"))),
        passes(page(doc("<a href=/a#knots>Knots</a>")), gone("/a")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    pointed: dict[str, dict[str, str]] = {}
    for link in page.links.all:
        raw = link.raw
        if "#" in raw and link.kind in FOLLOWED_KINDS:
            pointed.setdefault(link.url, {}).setdefault(raw.partition("#")[2].strip(), raw)
    for url, raws in pointed.items():
        names = page.fragments_of(url)
        if names is None:
            continue
        for name, raw in raws.items():
            plain = name.partition(":~:")[0]
            if not plain or plain.lower() == "top" or plain[0] in "!/" or "=" in plain:
                continue
            if fragment_print(plain) not in names and ("%" not in plain or fragment_print(unquote(plain)) not in names):
                data = {"target": url, "name": unquote(plain), "selector": f'a[href="{raw}"]'}
                yield Fail("missing", f"{url}#{plain}", data)
