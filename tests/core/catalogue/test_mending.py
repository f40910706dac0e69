"""Fixes as code: elements as they are written, changed in one thing."""

from __future__ import annotations

import pytest

from hodcarrier.core.catalogue import mending
from hodcarrier.core.catalogue.mending import Mend

TO = {"to": "https://a.example/?x=1&y=2", "title": 'Say "rope"', "next": 3, "empty": ""}


@pytest.mark.parametrize(
    ("mend", "before", "after"),
    [
        (
            mending.attribute("href", "{to}"),
            '<a class=x href="/a">x</a>',
            '<a class=x href="https://a.example/?x=1&amp;y=2">x</a>',
        ),
        (mending.attribute("href", "/b"), "<a href=/a/ >x</a>", '<a href="/b" >x</a>'),
        (mending.attribute("href", "{to}x{nothing}"), "<a href=/a>x</a>", ""),
        (mending.attribute("alt", "{empty}"), "<img>", ""),
        (mending.attribute("alt", "Rope"), '<img src="/a.png"/>', '<img src="/a.png" alt="Rope" />'),
        (mending.attribute("alt", "Rope"), "<IMG SRC=/a.png>", '<IMG SRC=/a.png alt="Rope">'),
        (mending.attribute("alt", "Rope"), "<img alt src=/a.png>", '<img alt="Rope" src=/a.png>'),
        (mending.attribute("alt", "Rope"), "", ""),
        (mending.attributes(width="4", height="{next}"), "<img>", '<img width="4" height="3">'),
        (mending.attributes(width="4", height="{nothing}"), "<img>", ""),
        (mending.flag("defer"), "<script src=x></script>", "<script src=x defer></script>"),
        (mending.without_word("rel", "nofollow"), '<a rel="nofollow noopener" href=x>y</a>', '<a rel="noopener" href=x>y</a>'),
        (mending.without_word("rel", "nofollow"), '<a rel="nofollow" href=x>y</a>', "<a href=x>y</a>"),
        (mending.content("New & old"), "<title></title>", "<title>New &amp; old</title>"),
        (mending.content("New"), "", ""),
        (mending.renamed("h{next}"), "<h4 id=a>x</h4>", "<h3 id=a>x</h3>"),
        (mending.renamed("h{nothing}"), "<h4>x</h4>", ""),
        (mending.inside('<meta content="{title}">'), "<head lang=x>", '<head lang=x>\n  <meta content="Say &quot;rope&quot;">'),
        (mending.inside('<meta content="{empty}">'), "<head>", ""),
        (mending.inside("<h1>x</h1>"), "", "\n  <h1>x</h1>"),
        (mending.ahead("<!doctype html>"), "<html>", "<!doctype html>\n<html>"),
        (mending.line("Location: {to}"), "", "Location: https://a.example/?x=1&y=2"),
        (mending.line("Location: {empty}"), "", ""),
        (mending.https(), '<img src="HTTP://a/" alt="http">', '<img src="https://a/" alt="http">'),
    ],
)
def test_what_comes_of_an_element(mend: Mend, before: str, after: str) -> None:
    assert mend(before, TO) == after
