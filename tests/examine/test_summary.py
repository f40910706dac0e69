"""The summary of a small site, figure by figure, and the notices that a reader must not miss."""

from __future__ import annotations

import pytest

from hodcarrier.core.catalogue import Sample, doc, gone, moved, page, sitemap, text_file
from tests.sample_site import audit

HEAD = '<title>Rope for small boats</title><meta name="description" content="Rope of every kind">'
HTML = (("content-type", "text/html"),)
PACKED = (*HTML, ("content-encoding", "gzip"))


def words(count: int) -> str:
    return f"<main><h1>Rope</h1><p>{'word ' * (count - 1)}</p></main>"


# Eight URLs are known: the start page, five that answer 200, one redirect and one error; one more is blocked.
SITE = (
    text_file("/robots.txt", "User-agent: *\nDisallow: /shut\nSitemap: https://shop.example/sitemap.xml\n"),
    sitemap("/", "/a", "/noindex"),
    page(
        doc(words(100) + "".join(f'<a href="/{p}">{p}</a>' for p in ("a", "b", "noindex", "moved", "gone", "shut")), head=HEAD),
        headers=PACKED,
        first_byte_ms=10,
    ),
    page(doc(words(200) + '<img src="/i.png" alt="A rope"><a href="/deep">d</a>', head=HEAD), "/a", first_byte_ms=20),
    page(doc(words(300) + '<img src="/i.png"><img src="/i.png" alt="">'), "/b", first_byte_ms=40),
    page(doc(words(400), head=HEAD + '<meta name="robots" content="noindex">'), "/noindex", first_byte_ms=80),
    page(doc(words(500) + '<script type="application/ld+json">{"@type": "Product", "name": "Rope"}</script>'), "/deep"),
    Sample("/i.png", b"\x89PNG", 200, (("content-type", "image/png"),)),
    moved("/moved", "/a"),
    gone("/gone"),
)


def test_measures() -> None:
    _, summary = audit(SITE)
    found = summary["measures"]
    assert (found["documents"], found["known"]) == (5, 7), "the redirect is no page to be measured by"
    assert found["indexable_ratio"] == pytest.approx(100 * 4 / 7)
    assert found["description_ratio"] == pytest.approx(100 * 3 / 5)
    assert found["alt_ratio"] == pytest.approx(100 * 2 / 3)
    assert found["https_ratio"] == 100
    assert found["compressed_ratio"] == pytest.approx(100 * 1 / 5)
    assert found["listed_ratio"] == pytest.approx(100 * 2 / 4), "what is listed but not indexable does not count"
    assert found["data_ratio"] == pytest.approx(100 * 1 / 5)
    assert found["first_byte_ms_median"] == 40
    assert found["words_median"] == 300
    assert found["depth_p90"] == pytest.approx(1.6)
    assert found["health"] == summary["health"]


def test_the_funnel_and_who_leaves_it() -> None:
    _, summary = audit(SITE)
    assert [(step["id"], step["count"]) for step in summary["funnel"]] == [
        ("known", 8),
        ("allowed", 7),
        ("answered", 5),
        ("indexable", 4),
        ("free", 4 - summary["dropouts"].get("has severe findings", 0)),
    ]


def test_pages_free_of_severe_findings() -> None:
    """The page without a title fails a check of high severity; the other three fail none."""

    def one(name: str, title: str) -> Sample:
        text = " ".join(f"{name}{n}" for n in range(100))
        links = "".join(f'<a href="/{other}">{other}</a>' for other in "abc")
        about = f'<meta name="viewport" content="width=device-width"><meta name="description" content="All about {text[:60]}">'
        return page(doc(f"<main><h1>{name}</h1><p>{text}</p></main>{links}", head=title + about), f"/{name}")

    site = [one(name, f"<title>Everything about {name * 9}</title>") for name in ("", "a", "b")]
    _, summary = audit((*site, one("c", "")))
    assert summary["pages_scored"] == 4
    assert summary["measures"]["severe_free_ratio"] == 75
    assert summary["dropouts"]["has severe findings"] == 1


def test_severities_count_checks_and_findings() -> None:
    _, summary = audit(SITE)
    for severity, figures in summary["severities"].items():
        of_it = [c for c in summary["checks"].values() if c["severity"] == severity and c["findings"]]
        assert figures == {"checks": len(of_it), "findings": sum(c["findings"] for c in of_it)}
    assert sum(f["findings"] for f in summary["severities"].values()) == summary["findings"] > 0


def robots(body: str, status: int = 200) -> Sample:
    return text_file("/robots.txt", body, status)


@pytest.mark.parametrize(
    ("site", "plan", "said"),
    [
        ((page(doc()),), {}, []),
        ((gone("/", 404),), {}, []),
        ((gone("/", 400),), {}, []),
        ((text_file("/", "plain words", 400),), {}, []),
        ((text_file("/", "plain words", 399),), {}, ["The start URL is not an HTML page, so no links could be followed."]),
        ((moved("/", "/en/"), page(doc(), "/en/")), {}, []),
        ((page("", failure="timeout"),), {}, ["The start URL did not respond."]),
        (
            (text_file("/", "plain words"),),
            {},
            ["The start URL is not an HTML page, so no links could be followed."],
        ),
        (
            (robots("User-agent: *\nDisallow: /"), page(doc())),
            {},
            ["robots.txt blocks our user agent “HodcarrierBot” at the start URL (Disallow: / (line 2)): no page was audited."],
        ),
        (
            (robots("", 503), page(doc())),
            {},
            ["robots.txt answers 503, so by RFC 9309 nothing may be fetched: no page was audited."],
        ),
        (
            (robots("", 500), page(doc())),
            {},
            ["robots.txt answers 500, so by RFC 9309 nothing may be fetched: no page was audited."],
        ),
        (
            (page(doc('<a href="/a">a</a><a href="/b">b</a>')), page(doc(), "/a"), page(doc(), "/b")),
            {"pages_max": 2},
            ["The page limit of 2 was reached; pages beyond it are unverified."],
        ),
    ],
)
def test_notices(site: tuple[Sample, ...], plan: dict[str, object], said: list[str]) -> None:
    _, summary = audit(site, plan)
    assert summary["notices"] == said


def test_parameters_that_look_like_session_ids_are_told() -> None:
    links = "".join(f'<a href="/p{n}?sid={n:032x}">{n}</a>' for n in range(1, 6))
    _, summary = audit((page(doc(links)), *(page(doc(words(20)), f"/p{n}?sid={n:032x}") for n in range(1, 6))))
    assert [p["name"] for p in summary["session_parameters"]] == ["sid"]
    assert "5 addresses carry “sid”" in summary["notices"][0]
