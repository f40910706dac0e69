"""How the site is broken for the checks of titles, copies, headings, texts and links."""

from __future__ import annotations

from tests.reference.breaking import (
    ABOUT,
    BRAIDED,
    CONTACT,
    KNOTS,
    LAID,
    LAID_DESC,
    LAID_TITLE,
    PRIVACY,
    Break,
    Sample,
    add,
    b,
    extra,
    framed,
    hard,
    into_main,
    link,
    moved,
    no_links,
    short,
    stock,
    swap,
    twin,
    twin_at,
)
from tests.reference.site import ORIGIN, url

FOREIGN = "https://other.example/"
H1 = "<h1>Laid rope of three strands</h1>"
PLAIN = (("content-type", "text/html; charset=utf-8"),)


def title(text: str) -> tuple[str, str, str]:
    return LAID, LAID_TITLE, f"<title>{text}</title>"


def desc(text: str) -> tuple[str, str, str]:
    return LAID, LAID_DESC, f'<meta name="description" content="{text}">'


LONG = "A rope of three strands that are laid by hand in the old yard by the harbour, where rope has been made for more than a hundred years by one and the same family"

TABLE: dict[str, Break] = {
    # titles
    "title-missing": b(swap(LAID, LAID_TITLE, "")),
    "title-empty": b(swap(*title(" "))),
    "title-several": b(swap(LAID, LAID_TITLE, f"{LAID_TITLE}<title>Rope of three strands, by the metre</title>")),
    "title-ignored": b(swap(LAID, LAID_TITLE, ""), swap(LAID, "<main>", f"<main>{LAID_TITLE}"), also=""),
    "title-short": b(swap(*title("Laid rope"))),
    "title-long": b(swap(*title("Laid rope of three strands for small boats and ships | Tidal Rope"))),
    "title-placeholder": b(swap(*title("New page")), also="title-short"),
    "title-same-as-heading": b(swap(*title("Laid rope of three strands"))),
    "title-brand-repeated": b(swap(*title("Tidal Rope | Laid rope | Tidal Rope"))),
    "title-shouting": b(swap(*title("LAID ROPE OF THREE STRANDS | Tidal Rope"))),
    "desc-missing": b(swap(LAID, LAID_DESC, "")),
    "desc-empty": b(swap(*desc(""))),
    "desc-several": b(swap(LAID, LAID_DESC, f'{LAID_DESC}<meta name="description" content="{LONG[:140]}">')),
    "desc-ignored": b(swap(LAID, LAID_DESC, ""), swap(LAID, "<main>", f"<main>{LAID_DESC}"), also=""),
    "desc-short": b(swap(*desc("Laid rope by the metre, from our yard."))),
    "desc-long": b(swap(*desc(LONG + ", and for all kinds of boats"))),
    "desc-same-as-title": b(
        swap(*desc("Laid rope of three strands, made by hand by the harbour")),
        swap(*title("Laid rope of three strands, made by hand by the harbour")),
    ),
    # copies
    "copy-title": b(swap(*title("Braided sheet for winches | Tidal Rope"))),
    "copy-desc": b(swap(*desc("Everything that our yard by the harbour knows of braided sheet and polyester, for small boats."))),
    "copy-heading": b(swap(LAID, H1, "<h1>Braided sheet for winches</h1>")),
    "copy-text": b(
        twin(ABOUT, "/yard"),
        swap("/yard", "About the yard and its people | Tidal", "The yard and its people today | Tidal"),
        swap("/yard", "family yard and workshop", "family and workshop"),
        also="copy-heading",
    ),
    "copy-near": b(
        twin(ABOUT, "/yard"),
        swap("/yard", "About the yard and its people | Tidal", "The yard and its people today | Tidal"),
        swap("/yard", "family yard and workshop", "family and workshop"),
        swap("/yard", "</h1>", " now</h1>"),
    ),
    # text
    "text-h1-missing": b(swap(LAID, H1, "")),
    "text-h1-empty": b(swap(LAID, H1, "<h1></h1><p>Laid rope of three strands</p>")),
    "text-h1-several": b(swap(LAID, H1, f"{H1}<h1>By the metre</h1>")),
    "text-h1-long": b(swap(ABOUT, "<h1>About the yard and its people</h1>", f"<h1>About the yard: {LONG[:70]}</h1>")),
    "text-heading-skips": b(swap(ABOUT, "h2>", "h4>")),
    "text-heading-empty": b(into_main(ABOUT, "<h2></h2>")),
    "text-thin": b(short(PRIVACY)),
    "text-ratio": b(into_main(ABOUT, "<!--" + "x" * 20_000 + "-->")),
    "text-filler": b(into_main(ABOUT, "<p>Lorem ipsum dolor sit amet, consectetur adipiscing elit.</p>")),
    "text-garbled": b(into_main(ABOUT, "<p>Seil fÃ¼r groÃŸe Boote</p>")),
    "text-plugin": b(
        into_main(ABOUT, '<object data="/rope.swf"></object>'),
        add(
            Sample(
                "/rope.swf",
                "x",
                200,
                (
                    ("content-type", "application/x-shockwave-flash"),
                    ("cache-control", "max-age=31536000"),
                    ("content-length", "1"),
                ),
            )
        ),
    ),
    "text-frames": b(extra("/tar"), framed("/tar"), also="link-dead-end text-h1-missing text-thin"),
    "text-off-topic": b(
        extra("/tar"),
        swap("/tar", "<h1>Tar and pitch for old boats</h1>", "<h1>Caulking mallets</h1>"),
        swap("/tar", "<title>Tar and pitch for old boats", "<title>Caulking mallets"),
    ),
    "text-expected-missing": b(expected=["Harbour Street 5"]),
    "text-long-paragraph": b(into_main(ABOUT, "<p>" + "We lay rope by hand and sell it by the metre. " * 26 + "</p>")),
    "text-reading-hard": b(extra("/tar"), hard("/tar")),
    # links
    "link-broken": b(link(KNOTS, "/gone"), also="reach-not-found"),
    "link-broken-external": b(link(KNOTS, f"{FOREIGN}gone"), add(Sample(f"{FOREIGN}gone", "", 404, PLAIN)), check_external=True),
    "link-redirects": b(link(KNOTS, "/old"), add(moved("/old", LAID))),
    "link-redirects-external": b(
        link(KNOTS, f"{FOREIGN}old"),
        add(moved(f"{FOREIGN}old", f"{FOREIGN}new"), Sample(f"{FOREIGN}new", "", 200, PLAIN)),
        check_external=True,
    ),
    "link-insecure": b(
        link(KNOTS, f"http://shop.example{LAID}"), add(moved(f"http://shop.example{LAID}", url(LAID))), also="link-redirects"
    ),
    "link-nofollow-internal": b(
        swap(KNOTS, "Laid rope of three strands</a>", "Laid rope</a>"),
        into_main(KNOTS, f'<a rel="nofollow" href="{BRAIDED}">Braided sheet</a>'),
    ),
    "link-nofollow-external": b(into_main(KNOTS, f'<a rel="nofollow" href="{FOREIGN}">Another yard</a>'), check_external=False),
    "link-unnamed": b(into_main(KNOTS, f'<a href="{BRAIDED}"><i></i></a>')),
    "link-vague": b(link(KNOTS, BRAIDED, "click here")),
    "link-malformed": b(link(KNOTS, "https://[")),
    "link-private": b(link(KNOTS, "http://localhost:8080/"), check_external=False),
    "link-script-only": b(link(KNOTS, "javascript:openMenu()")),
    "link-fragment-missing": b(link(CONTACT, "/contact#phone")),
    "link-many": b(
        into_main(KNOTS, "".join(f'<a href="/n{n}">Rope {n}</a>' for n in range(301))),
        add(*(Sample(f"/n{n}", "", 200, PLAIN) for n in range(0))),
        also="link-broken reach-not-found",
    ),
    "link-dead-end": b(extra("/tar"), no_links("/tar")),
    "link-to-disallowed": b(link(KNOTS, "/tmp/x"), swap("/robots.txt", "Disallow:", "Disallow: /tmp/"), also="reach-disallowed"),
    "link-to-noncanonical": b(
        extra("/tar", listed=False), swap("/tar", f'canonical" href="{ORIGIN}/tar', f'canonical" href="{url(PRIVACY)}')
    ),
    "link-parameters-tracking": b(
        link(KNOTS, f"{LAID}?utm_source=mail"), twin_at(LAID, f"{LAID}?utm_source=mail"), also="link-to-noncanonical"
    ),
    "link-self-only": b(stock),
    "link-document-large": b(
        link(KNOTS, "/ropes.pdf"),
        add(Sample("/ropes.pdf", "%PDF", 200, (("content-type", "application/pdf"), ("content-length", "10485761")))),
    ),
}
