"""Who stands behind a page, as its document says."""

from __future__ import annotations

import pytest

from hodcarrier.core.facts.page import collect
from hodcarrier.core.facts.signposts import Signpost, points_to, speaks
from hodcarrier.core.facts.trust import TrustFacts
from hodcarrier.core.facts.values import Link


def trust(body: str, head: str = "") -> TrustFacts:
    return collect(f"<!doctype html><head>{head}</head><body>{body}".encode(), "https://shop.example/", "text/html").trust


@pytest.mark.parametrize(
    ("body", "postal"),
    [
        ("<address>Harbour Street 4, Milltown</address>", True),
        ("<address>Call 020 7946 0000</address>", False),
        ("<address>By the rigging desk</address>", False),
        ("<article><address>Desk 4, Milltown House</address></article>", False),
        ("<footer>Amtsgericht Hafenstadt, HRB 12345</footer>", True),
        ("<footer>VAT no. GB 123 4567 89</footer>", True),
        ("<footer>Registered in Wales</footer>", True),
        ("<footer>Ropes by the company for you</footer>", False),
        ("<p>Registered in Wales", False),
    ],
)
def test_addresses_and_registrations(body: str, postal: bool) -> None:
    assert trust(body).postal is postal


def test_pages_that_are_named_after_it_say_it_anywhere() -> None:
    html = b"<p>Company number 01234567"
    assert collect(html, "https://shop.example/en/imprint", "text/html").trust.postal
    assert not collect(html, "https://shop.example/ropes", "text/html").trust.postal


WORDS = "<p>" + "rope " * 150


@pytest.mark.parametrize(
    ("body", "head", "article"),
    [
        (f"<article>{WORDS}<time datetime=2026-05-04></article>", "", True),
        (f"<article>{WORDS}</article>", "", False),
        (f"<article>{WORDS}</article><article>{WORDS}</article><time datetime=2026-05-04>", "", False),
        ("", "<meta property=og:type content=article>", True),
        ("", "<meta property=og:type content=product>", False),
    ],
)
def test_articles(body: str, head: str, article: bool) -> None:
    assert trust(body, head).article is article


@pytest.mark.parametrize(
    ("post", "text", "path", "leads"),
    [
        (Signpost.CONTACT, "Contact us", "/x", True),
        (Signpost.CONTACT, "Kontaktformular", "/x", True),
        (Signpost.CONTACT, "Ropes", "/en/contact.html", True),
        (Signpost.CONTACT, "Ropes", "/contact/ropes", False),
        (Signpost.ABOUT, "Über uns", "/x", True),
        (Signpost.ABOUT, "All about knots and how to tie them without a teacher, even at night", "/x", False),
        (Signpost.PRIVACY, "Datenschutzerklärung", "/x", True),
        (Signpost.PRIVACY, "Ropes", "/privacy-policy/", True),
        (Signpost.IMPRINT, "Impressum", "/x", True),
        (Signpost.IMPRINT, "Paralegal services", "/x", False),
    ],
)
def test_signposts(post: Signpost, text: str, path: str, leads: bool) -> None:
    assert points_to(post, Link("https://shop.example" + path, "anchor", path, text)) is leads


def test_of_other_languages_nothing_is_said() -> None:
    assert speaks("de-AT") and speaks("EN") and not speaks("fi") and not speaks("")
