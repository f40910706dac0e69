"""The text of the page that the canonical names differs from the page's own. How alike two texts are is estimated from hashes of their
shingles of three words: the cosine of the angle between them (Charikar, 2002). Texts of fewer than 50 words are not compared."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    When,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.reading import similarity
from hodcarrier.core.facts.text import TextFacts

CANONICAL = "<link rel=canonical href=/b>"
ROPES = (
    "Rope for small boats is laid from three strands so that it holds when it is wet and when it is dry and when it is old. " * 3
)
ANCHORS = (
    "An anchor digs into sand or mud and keeps the ship in its place for as long as wind and tide allow it to rest there. " * 3
)

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.CANONICAL_ELSEWHERE,
    needs=(HeadFacts, TextFacts),
    summary="Canonical to a page with other content",
    terms=("canonical", "mismatch", "similarity"),
    why="A canonical is for copies. Where the target says something else, search engines may ignore it, or drop a page that nothing replaces.",
    fix="Let the page name itself, or the page that it really is a copy of.",
    effort=Effort.SMALL,
    standard="RFC 6596",
    messages={"unlike": "{target} has other content: {percent} % alike; at least {limit} % are expected"},
    cause="template",
    limits={"canonical_similarity_min": Limit(50, "percent", "least that page and canonical must be alike")},
    examples=(
        fails("unlike")(
            page(doc("<a href=/a>a</a>")), page(doc(f"<p>{ROPES}", CANONICAL), "/a"), page(doc(f"<p>{ANCHORS}"), "/b")
        ),
        passes(
            page(doc("<a href=/a>a</a>")), page(doc(f"<p>{ROPES}", CANONICAL), "/a"), page(doc(f"<p>{ROPES} One more."), "/b")
        ),
        passes(page(doc("<a href=/a>a</a>")), page(doc("<p>Rope", CANONICAL), "/a"), page(doc(f"<p>{ANCHORS}"), "/b")),
        passes(page(doc(f"<p>{ROPES}"))),
        passes(
            page(doc("<a href=/a>a</a>")),
            page(doc(f"<p>{ROPES}", CANONICAL), "/a"),
            page(doc(f"<p>{ROPES}"), "/b"),
            plan={"thresholds": {"canonical_similarity_min": 100}},
        ),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    target = page.canonical_target
    if target is None or target.status != 200 or not page.text.simhash:
        return
    facts = page.facts_of(target.url)
    if facts is None or not facts.text.simhash:
        return
    percent = 100 * similarity(page.text.simhash, facts.text.simhash)
    if percent < limits["canonical_similarity_min"]:
        data = {
            "target": target.url,
            "percent": round(percent),
            "limit": round(limits["canonical_similarity_min"]),
            "selector": 'link[rel~="canonical" i]',
        }
        yield Fail("unlike", "", data)
