"""Main texts of indexable pages that differ in few words: their hashes of 64 bits over shingles of three words differ in few bits, and their
lengths by at most a fifth. Equal texts belong to copy-text. Texts of fewer than 50 words are not compared, nor scripts without blanks."""

from collections.abc import Iterable, Iterator, Sequence

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    GroupView,
    Limit,
    Limits,
    Outcome,
    PageView,
    Sample,
    Severity,
    Subject,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.nearness import near_groups
from hodcarrier.core.facts.text import TextFacts

LENGTH_RATIO = 0.2
TEXT = (
    "Rope for small boats is laid from three strands so that it holds when wet and when dry. "
    + " ".join(f"Coil {n} weighs {n * 3} grams and is sold by the metre in {n + 7} colours." for n in range(60))
    + " "
)


def pair(one: str, other: str) -> tuple[Sample, ...]:
    """A sample start page and two pages with these texts."""
    links = page(doc("<a href=/a>a</a><a href=/b>b</a>"))
    return links, page(doc(f"<p>{one}"), "/a"), page(doc(f"<p>{other}"), "/b")


CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.GROUP,
    needs=(TextFacts,),
    summary="Nearly the same text",
    terms=("near duplicate", "similar content", "simhash"),
    why="Search engines take such pages for one and choose which to show. The others cost crawling and bring nothing.",
    fix="Merge the pages, or let each say what sets it apart. Where they must stay alike, name one of them as the canonical.",
    effort=Effort.LARGE,
    standard="Charikar, Similarity Estimation Techniques (2002); Manku et al., Detecting Near-Duplicates (2007)",
    messages={"near": "{members} pages have nearly the same text, such as {first} and {second}"},
    cause="group",
    cause_line="{members} pages, such as {first} and {second}",
    limits={"near_bits_min": Limit(7, "bits", "fewest bits in which hashes of texts differ that are no near copies")},
    examples=(
        fails("near", "near")(*pair(TEXT, TEXT + "Yours.")),
        passes(*pair(TEXT, TEXT + "Yours." * 16)),
        passes(*pair(TEXT, TEXT)),
        passes(*pair(TEXT, " ".join(TEXT.split()[::-1]))),
        passes(*pair(TEXT, TEXT + "Yours."), plan={"thresholds": {"near_bits_min": 0}}),
    ),
)


def find(group: GroupView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    first, second, *_ = group.members
    yield Fail(
        "near",
        "",
        {"members": len(group.members), "first": first, "second": second, "pages": list(group.members[:50])},
        cause=group.key,
    )


def key(page: PageView) -> str:
    """The hash of a text, its length and the print of the whole; empty for a text that is too short."""
    text = page.text
    return f"{text.simhash:016x} {text.words} {text.text_hash}" if text.simhash else ""


def join(keys: Sequence[str], limits: Limits) -> Iterable[Sequence[str]]:
    """The keys of texts that are nearly alike."""
    prints = [(int(hash_, 16), int(words)) for hash_, words, _ in map(str.split, keys)]
    for group in near_groups(prints, int(limits["near_bits_min"]) - 1, LENGTH_RATIO):
        yield sorted(keys[at] for at in group)
