"""The style sheets of a page name more fonts than the limit, or heavier ones (the first source of each; those it preloads count too). Browsers load
those of them that the page uses."""

import re
from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
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
    text_file,
)
from hodcarrier.core.facts.links import LinkFacts
from hodcarrier.core.web.urls import split

FONT = re.compile(r"\.(?:woff2?|ttf|otf|eot)$", re.I)
STYLED = page(doc(head="<link rel=stylesheet href=/s.css>"))


def sheet(count: int) -> Sample:
    """A sample style sheet that loads some fonts."""
    faces = "".join(
        f"@font-face {{ font-family: f{n}; src: url(f{n}.woff2) format('woff2'), url(f{n}.woff) }}" for n in range(count)
    )
    return text_file("/s.css", faces, content_type="text/css")


def font(number: int, size: int) -> Sample:
    """A sample font of so many bytes."""
    return Sample(f"/f{number}.woff2", "", 200, (("content-type", "font/woff2"), ("content-length", str(size))))


CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(LinkFacts,),
    summary="Many or heavy fonts",
    terms=("web fonts", "WOFF2", "font-face"),
    why="Text stays invisible or jumps until the fonts are there, and fonts are loaded before most of what the visitor came for.",
    fix="Keep two or three cuts, as WOFF2 and cut down to the letters that your languages use.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={
        "many": "The style sheets name {files:font}; up to {limit} are fine",
        "heavy": "{kib} KiB of fonts in {files:file}; up to {limit} KiB is fine",
    },
    cause="template",
    limits={
        "fonts_max": Limit(4, "fonts", "most fonts that are still in order"),
        "font_bytes_max": Limit(307_200, "bytes", "heaviest fonts of a page, together, that are still in order"),
    },
    examples=(
        fails("many")(STYLED, sheet(5)),
        passes(STYLED, sheet(4)),
        fails("heavy")(STYLED, sheet(2), font(0, 307_200), font(1, 1)),
        passes(STYLED, sheet(2), font(0, 307_199), font(1, 1)),
        passes(STYLED, sheet(5), plan={"thresholds": {"fonts_max": 5}}),
        passes(page(doc())),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    fonts = {link.url: None for link in page.distinct_links("preload") if FONT.search(split(link.url).path)}
    for link in page.distinct_links("style"):
        file = page.file_of(link.url)
        if file is not None:
            fonts |= dict.fromkeys(file.read.fonts)
    known = [file.wire_bytes for url in fonts if (file := page.file_of(url)) is not None]
    if len(fonts) > limits["fonts_max"]:
        yield Fail("many", "", {"files": len(fonts), "limit": int(limits["fonts_max"]), "fonts": list(fonts)[:20]})
    elif sum(known) > limits["font_bytes_max"]:
        data = {
            "files": len(known),
            "kib": round(sum(known) / 1024),
            "limit": round(limits["font_bytes_max"] / 1024),
            "fonts": list(fonts)[:20],
        }
        yield Fail("heavy", "", data)
