"""Every kind of reference a document can hold, where it stands, and what it is called."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.facts.page import PageFacts, collect
from hodcarrier.core.facts.references import srcset_urls
from hodcarrier.core.facts.text import measure_text

URL = "https://shop.example/a/b"


def facts(html: str) -> PageFacts:
    return collect(html.encode(), URL, "text/html; charset=utf-8")


def kinds(html: str) -> list[tuple[str, str]]:
    return [(link.kind, link.url.removeprefix("https://shop.example")) for link in facts(html).links.all]


@pytest.mark.parametrize(
    ("html", "expected"),
    [
        ("<a href=/x>x</a>", [("anchor", "/x")]),
        ("<a href=/x><img src=/i.png alt=y></a>", [("image-link", "/x"), ("image", "/i.png")]),
        ("<map><area href=/x alt=x></map>", [("anchor", "/x")]),
        ("<a>no address</a>", []),
        ("<a href=''>here</a>", [("anchor", "/a/b")]),
        ("<link rel=canonical href=/c>", [("canonical", "/c")]),
        ("<link rel=alternate hreflang=cy href=/cy>", [("alternate", "/cy")]),
        ("<link rel=alternate type=application/rss+xml href=/feed>", [("feed", "/feed")]),
        ("<link rel='alternate stylesheet' href=/s.css>", [("style", "/s.css")]),
        ("<link rel=stylesheet href=/s.css>", [("style", "/s.css")]),
        ("<link rel='shortcut icon' href=/i.ico>", [("icon", "/i.ico")]),
        ("<link rel=apple-touch-icon href=/t.png>", [("icon", "/t.png")]),
        ("<link rel=preload as=font href=/f.woff2>", [("preload", "/f.woff2")]),
        ("<link rel=modulepreload href=/m.js>", [("preload", "/m.js")]),
        ("<link rel=manifest href=/m.json>", [("manifest", "/m.json")]),
        ("<link rel=amphtml href=/amp>", [("amp", "/amp")]),
        ("<link rel=next href=/2><link rel=prev href=/0>", [("next", "/2"), ("prev", "/0")]),
        ("<link rel=author href=/who>", []),
        ("<script src=/s.js></script>", [("script", "/s.js")]),
        ("<script>var a = '/x'</script>", []),
        ("<img src=/i.png>", [("image", "/i.png")]),
        ("<img src=/i.png srcset='/i2.png 2x, /i3.png 3x'>", [("image", "/i.png"), ("srcset", "/i2.png"), ("srcset", "/i3.png")]),
        ("<picture><source srcset=/w.webp><img src=/i.png></picture>", [("image-fallback", "/i.png"), ("srcset", "/w.webp")]),
        ("<picture><source srcset=/w.png><img src=/i.png></picture>", [("image", "/i.png"), ("srcset", "/w.png")]),
        ("<video src=/v.mp4 poster=/p.jpg></video>", [("image", "/p.jpg"), ("media", "/v.mp4")]),
        ("<audio><source src=/a.ogg></audio>", [("media", "/a.ogg")]),
        ("<video><track src=/t.vtt></video>", [("media", "/t.vtt")]),
        ("<object data=/o.swf></object><embed src=/e.swf>", [("object", "/e.swf"), ("object", "/o.swf")]),
        ("<object data=/o.html?a></object><embed src=/e.XHTML>", [("iframe", "/e.XHTML"), ("iframe", "/o.html?a")]),
        ("<object data=/o type=text/html></object><embed src=/e?.html>", [("object", "/e?.html"), ("iframe", "/o")]),
        ("<iframe src=/f></iframe>", [("iframe", "/f")]),
        ("<form action=/send></form><form></form>", [("form", "/send")]),
        ("<meta http-equiv=Refresh content='5; URL=/next'>", [("delayed-refresh", "/next")]),
        ("<meta http-equiv=refresh content='1; URL=/next'>", [("refresh", "/next")]),
        ("<meta http-equiv=refresh content='refreshing soon'>", []),
        ("<form><input type=image src=/i.png formaction=/pay></form>", [("image", "/i.png"), ("form", "/pay")]),
        ("<meta http-equiv=refresh content='30'>", []),
        ("<img src=' '>", [("image", "/a/b")]),
        ("<template><a href=/hidden>x</a></template>", []),
        ("<!-- <a href=/comment>x</a> -->", []),
    ],
)
def test_kinds(html: str, expected: list[tuple[str, str]]) -> None:
    assert kinds(html) == expected


@pytest.mark.parametrize(
    ("html", "landmark"),
    [
        ("<a href=/x>x</a>", "main"),
        ("<main><a href=/x>x</a></main>", "main"),
        ("<nav><a href=/x>x</a></nav>", "navigation"),
        ("<header><a href=/x>x</a></header>", "header"),
        ("<header><nav><a href=/x>x</a></nav></header>", "navigation"),
        ("<footer><a href=/x>x</a></footer>", "footer"),
        ("<footer><nav><a href=/x>x</a></nav></footer>", "navigation"),
        ("<aside><a href=/x>x</a></aside>", "aside"),
        ("<article><section><header><a href=/x>x</a></header></section></article>", "main"),
        ("<div role=navigation><a href=/x>x</a></div>", "navigation"),
        ("<div role='BANNER '><a href=/x>x</a></div>", "header"),
        ("<div role=contentinfo><a href=/x>x</a></div>", "footer"),
        ("<div role=complementary><a href=/x>x</a></div>", "aside"),
        ("<div role=list><a href=/x>x</a></div>", "main"),
    ],
)
def test_landmarks(html: str, landmark: str) -> None:
    assert facts(html).links.all[0].landmark == landmark


@pytest.mark.parametrize(
    ("html", "name"),
    [
        ("<a href=/x>  Two\n words </a>", "Two words"),
        ("<a href=/x><b>Bold</b> and <i>not</i></a>", "Bold and not"),
        ("<a href=/x><img src=/i alt='A boat'></a>", "A boat"),
        ("<a href=/x aria-label='Basket'></a>", "Basket"),
        ("<a href=/x title='More'></a>", "More"),
        ("<a href=/x><svg><title>Search</title></svg></a>", "Search"),
        ("<a href=/x><span aria-label='Close'></span></a>", "Close"),
        ("<a href=/x aria-labelledby=name></a>", "#name"),
        ("<a href=/x><img src=/i alt=''></a>", ""),
        ("<map><area href=/x alt='The bow'></map>", "The bow"),
    ],
)
def test_names(html: str, name: str) -> None:
    assert facts(html).links.all[0].text == name


def test_rel_tokens_are_lower_case() -> None:
    link = facts("<a href=/x rel='NoFollow UGC'>x</a>").links.all[0]
    assert link.rel == ("nofollow", "ugc") and not link.followed


def test_base_moves_every_reference() -> None:
    read = facts("<base href=/deep/er/><base href=/second/><a href=x>x</a><img src=../i.png>")
    assert [link.url for link in read.links.all] == ["https://shop.example/deep/er/x", "https://shop.example/deep/i.png"]
    assert read.head.base == "/deep/er/"


@pytest.mark.parametrize(
    ("value", "urls"),
    [
        ("", []),
        ("a.png", ["a.png"]),
        ("a.png 1x, b.png 2x", ["a.png", "b.png"]),
        ("a.png,b.png 2x", ["a.png,b.png"]),
        ("a.png, b.png", ["a.png", "b.png"]),
        ("  a.png   300w ,b.png 600w", ["a.png", "b.png"]),
        (",,a.png", ["a.png"]),
        ("a.png (1,2), b.png", ["a.png", "b.png"]),
        ("data:image/png;base64,AAAA 1x, b.png 2x", ["data:image/png;base64,AAAA", "b.png"]),
    ],
)
def test_srcset(value: str, urls: list[str]) -> None:
    assert list(srcset_urls(value)) == urls


@given(st.text(alphabet=" ,()x1\n\t.", max_size=40))
def test_srcset_of_anything_ends(value: str) -> None:
    assert all(url and not url[0].isspace() for url in srcset_urls(value))


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", 0),
        ("... — • |", 0),
        ("One two, three.", 3),
        ("don't e-mail", 2),
        ("naïve café — «déjà vu»", 4),
        ("a\u00a0b", 2),
        ("2026 is 1 year", 4),
        ("канат и якорь", 3),
        ("either/or", 2),
    ],
)
def test_words(text: str, words: int) -> None:
    assert measure_text(text)[0] == words


@given(st.text(alphabet="ab é.,-’\n", max_size=40))
def test_hashes_leave_case_marks_and_spacing_aside(text: str) -> None:
    assert measure_text(text)[1] == measure_text("  " + text.upper().replace(" ", " \n ") + " ... ")[1]


@given(st.binary(max_size=400))
def test_no_bytes_make_it_fail(body: bytes) -> None:
    found = collect(b"<title>x</title><nav><a href=y>" + body, URL, "text/html")
    assert found.head.titles and found.text.words >= 0
