"""Page facts from bytes."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.catalogue import doc
from hodcarrier.core.facts.page import PageFacts, collect
from hodcarrier.core.web.encodings import decode, sniff

URL = "https://shop.example/a/page"


def facts(html: str, url: str = URL) -> PageFacts:
    return collect(html.encode(), url, "text/html; charset=utf-8")


def test_head_ends_where_browsers_end_it() -> None:
    found = facts(doc(head="<title>T</title><div>x</div><link rel=canonical href=/a/page><meta name=robots content=noindex>"))
    assert [c.in_head for c in found.head.canonicals] == [False]
    assert found.head.canonical == ""
    assert found.head.directives() == frozenset()


def test_a_title_in_the_body_counts_wherever_it_is_but_in_a_picture() -> None:
    body = "<p>x</p><div><title>In the body</title></div><svg><g><title>Icon</title></g></svg>"
    assert [(t.text, t.in_head) for t in facts(doc(body)).head.titles][1:] == [("In the body", False)]


def test_titles_of_svg_do_not_count() -> None:
    found = facts(doc("<svg><title>Icon</title></svg>"))
    assert [t.text for t in found.head.titles] == ["Rope for small boats"]


def test_white_space_in_titles_is_folded() -> None:
    assert facts(doc(head="<title>\n  Rope \t for\nboats </title>")).head.title == "Rope for boats"


def test_directives_of_several_metas() -> None:
    found = facts(doc(head='<meta name="ROBOTS" content="NoIndex, nofollow"><meta name=robots content="max-snippet:20">'))
    assert found.head.directives() == {"noindex", "nofollow", "max-snippet:20"}


@pytest.mark.parametrize(
    ("html", "url"),
    [
        ('<a href="b">x</a>', "https://shop.example/a/b"),
        ('<base href="/z/"><a href="b">x</a>', "https://shop.example/z/b"),
        ('<base href="https://cdn.example/"><a href="b">x</a>', "https://cdn.example/b"),
        ('<base href="http://"><a href="b">x</a>', "https://shop.example/a/b"),
        ('<a href="  b\n">x</a>', "https://shop.example/a/b"),
        ('<a href="b#part">x</a>', "https://shop.example/a/b"),
        ('<a href="?q=1">x</a>', "https://shop.example/a/page?q=1"),
        ('<area href="b">', "https://shop.example/a/b"),
    ],
)
def test_links_are_resolved(html: str, url: str) -> None:
    assert [link.url for link in facts(doc(html, head="")).links.all if link.kind in ("anchor", "image-link")] == [url]


@pytest.mark.parametrize("href", ["mailto:a@b.example", "tel:+4412345", "javascript:void(0)", "data:text/plain,x"])
def test_other_schemes_are_no_links(href: str) -> None:
    read = facts(doc(f'<a href="{href}">x</a>'))
    assert read.links.all == ()
    assert read.links.malformed == ()


def test_malformed_references_are_noted() -> None:
    assert facts(doc('<a href="http://">x</a><img src="https://[bad" alt="">')).links.malformed == ("http://", "https://[bad")


@pytest.mark.parametrize(
    ("html", "name"),
    [
        ("<a href=x>Rope</a>", "Rope"),
        ("<a href=x><b>Dock</b> line</a>", "Dock line"),
        ("<a href=x><img src=i.png alt='A rope'></a>", "A rope"),
        ("<a href=x aria-label='Rope'></a>", "Rope"),
        ("<a href=x title='Rope'></a>", "Rope"),
        ("<a href=x><svg><title>Rope</title></svg></a>", "Rope"),
        ("<a href=x><i></i></a>", ""),
        ("<a href=x><img src=i.png></a>", ""),
    ],
)
def test_names_of_links(html: str, name: str) -> None:
    assert next(link for link in facts(doc(html)).links.all if link.kind in ("anchor", "image-link")).text == name


@pytest.mark.parametrize(
    ("html", "landmark"),
    [
        ("<nav><a href=x>x</a></nav>", "navigation"),
        ("<header><a href=x>x</a></header>", "header"),
        ("<header><nav><a href=x>x</a></nav></header>", "navigation"),
        ("<footer><a href=x>x</a></footer>", "footer"),
        ("<aside><a href=x>x</a></aside>", "aside"),
        ("<main><a href=x>x</a></main>", "main"),
        ("<div role=navigation><a href=x>x</a></div>", "navigation"),
    ],
)
def test_landmarks(html: str, landmark: str) -> None:
    assert facts(doc(html)).links.all[0].landmark == landmark


def test_every_kind_of_reference() -> None:
    head = '<link rel="canonical" href="/c"><link rel="alternate" hreflang="cy" href="/cy"><link rel="stylesheet" href="/s.css"><link rel="icon" href="/i.ico"><link rel="amphtml" href="/amp"><meta http-equiv="Refresh" content="5; URL=\'/next\'">'
    body = '<a href="/a">a</a><img src="/p.png" alt=""><script src="/j.js"></script><iframe src="/f"></iframe><form action="/send"></form>'
    kinds = {link.kind: link.url.removeprefix("https://shop.example") for link in facts(doc(body, head)).links.all}
    assert kinds == {
        "canonical": "/c",
        "alternate": "/cy",
        "style": "/s.css",
        "icon": "/i.ico",
        "amp": "/amp",
        "delayed-refresh": "/next",
        "anchor": "/a",
        "image": "/p.png",
        "script": "/j.js",
        "iframe": "/f",
        "form": "/send",
    }


def test_followed_or_not() -> None:
    links = facts(doc('<a href="/a" rel="nofollow noopener">a</a><a href="/b">b</a>')).links.all
    assert [link.followed for link in links] == [False, True]
    assert links[0].rel == ("nofollow", "noopener")


def test_words_are_those_of_the_main_text() -> None:
    found = facts(
        doc("<nav>one two three</nav><main>four five <script>six</script><p>it's well-kept</p></main><footer>nine</footer>")
    )
    assert found.text.words == 4


def test_words_without_a_main_element() -> None:
    assert facts(doc("<header>one two</header><p>three four five</p><footer>six</footer>")).text.words == 3


def test_equal_texts_have_equal_hashes() -> None:
    first = facts(doc("<nav>menu a</nav><p>The same  text.</p>"))
    second = facts(doc("<nav>menu b</nav><div><b>The</b> SAME text</div>"))
    third = facts(doc("<p>Another text.</p>"))
    assert first.text.text_hash == second.text.text_hash
    assert first.text.text_hash != third.text.text_hash


def test_template_ignores_how_often_a_block_stands() -> None:
    row = "<div class=row><p>x</p></div>"
    one = facts(doc(f"<main class=list>{row}</main>"), "https://shop.example/shop/a/b").template.key
    many = facts(doc(f"<main class=list>{row * 9}</main>"), "https://shop.example/shop/c/d").template.key
    other = facts(doc("<main class=product><p>x</p></main>"), "https://shop.example/shop/c/d").template.key
    assert one == many
    assert one != other


def test_headings_in_order() -> None:
    found = facts(doc("<h2>B</h2><h1> A </h1><h3><img src=x alt=C></h3>"))
    assert [(h.level, h.text) for h in found.text.headings] == [(2, "B"), (1, "A"), (3, "C")]
    assert found.text.h1 == "A"


def test_images() -> None:
    found = facts(
        doc(
            '<img src="/a.png" alt="Rope" width=1 height=1 loading=lazy><img src="/b.png"><a href=x><img src="/c.png"></a><a href=x>Rope <img src="/d.png" alt=""></a>'
        )
    )
    assert [(i.alt, i.sized, i.lazy, i.alone_in_link) for i in found.media.images] == [
        ("Rope", True, True, False),
        (None, False, False, False),
        (None, False, False, True),
        ("", False, False, False),
    ]


def test_structured_data() -> None:
    found = facts(
        doc(
            '<script type="application/ld+json">{"@graph":[{"@type":["Product","Thing"]},{"@type":"Offer"}]}</script><script type="application/ld+json">{oops</script>'
        )
    )
    assert found.data.types == ("Product", "Thing", "Offer")
    assert len(found.data.errors) == 1


def test_other_facts() -> None:
    found = facts(
        doc(
            "<p id=a><p id=a><input type=password><form action=http://shop.example/x>",
            '<meta name=viewport content="width=device-width"><meta property="og:title" content="T">',
        )
    )
    assert found.markup.twice_ids == ("a",)
    assert found.forms.password_fields == 1
    assert found.forms.insecure == ("http://shop.example/x",)
    assert found.head.viewport == "width=device-width"
    assert found.preview.social == (("og:title", "T"),)
    assert found.markup.doctype
    assert not facts("<html><title>x</title>").markup.doctype


def test_scripts_that_block() -> None:
    head = "<script src=/a.js></script><script src=/b.js async></script><script src=/c.js defer></script><script src=/d.js type=module></script>"
    assert facts(doc(head=head)).markup.blocking_scripts == ("/a.js",)


@pytest.mark.parametrize(
    ("body", "content_type", "encoding", "source"),
    [
        (b"\xef\xbb\xbfx", "text/html; charset=iso-8859-1", "utf-8", "bom"),
        (b"x", "text/html; charset=ISO-8859-1", "windows-1252", "header"),
        (b"<meta charset=shift_jis>", "text/html", "shift_jis", "meta"),
        (b'<meta http-equiv=content-type content="text/html; charset=koi8-r">', "", "koi8-r", "meta"),
        (b"<meta charset=utf-16>", "", "utf-8", "meta"),
        (b"<!-- <meta charset=koi8-r> -->x", "", "utf-8", "default"),
        (b" " * 1100 + b"<meta charset=koi8-r>", "", "utf-8", "default"),
        (b"\xe4", "", "windows-1252", "default"),
        (b"x", "text/html; charset=nonsense", "utf-8", "default"),
    ],
)
def test_encodings(body: bytes, content_type: str, encoding: str, source: str) -> None:
    assert sniff(body, content_type) == (encoding, source)


def test_decoding_never_fails() -> None:
    assert decode(b"a\xffb", "utf-8") == "a�b"
    assert decode(b"caf\xe9", "windows-1252") == "café"


@given(st.binary(max_size=600))
def test_any_bytes_give_facts(body: bytes) -> None:
    found = collect(body, URL, "text/html")
    assert found.markup.html_bytes == len(body)


@given(st.text(alphabet="<>/=\"' abhreflinkmetatitlescript!-", max_size=300))
def test_any_markup_gives_facts(html: str) -> None:
    facts(html)


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ("<div role=main><p>one two</p></div><p>three</p>", 2),
        ("<main><p>one two</p></main><div role=main>three</div>", 2),
        ("<p>one two</p><div role=navigation>three</div><div role=contentinfo>four</div>", 2),
        ("<p>one two</p><div role=note>three</div>", 3),
        ("<main><p>one</p><nav>two <aside>three</aside></nav></main>", 1),
    ],
)
def test_the_main_text_is_told_by_roles_too(body: str, words: int) -> None:
    assert facts(doc(body)).text.words == words


def test_a_late_declaration_is_read_when_the_parser_meets_it() -> None:
    """Browsers begin anew in the encoding that a meta element after the first 1,024 bytes declares (WHATWG HTML, 13.2.3.5)."""
    body = ("<!doctype html><!--" + "x" * 1100 + "--><meta charset=koi8-r><title>канат</title><h1>якорь</h1>").encode("koi8-r")
    found = collect(body, "https://shop.example/").language
    assert (found.encoding, found.encoding_source) == ("koi8-r", "late")
    facts = collect(body, "https://shop.example/")
    assert facts.head.title == "канат" and [h.text for h in facts.text.headings] == ["якорь"]


@pytest.mark.parametrize("base", ["data:text/html,x", "javascript:void(0)", "https://[half"])
def test_a_base_that_cannot_be_one_is_left_aside(base: str) -> None:
    links = collect(f'<base href="{base}"><a href="b">b</a>'.encode(), "https://shop.example/a/").links.all
    assert [link.url for link in links] == ["https://shop.example/a/b"]
