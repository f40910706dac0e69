"""The facts of a run as checks see them: depths, users of files, redirects to their end, what is scored."""

from __future__ import annotations

import pytest

from hodcarrier.core.catalogue import Sample, doc, gone, moved, page, sitemap, text_file
from hodcarrier.core.facts.answer import REDIRECTS_MAX, Hop
from hodcarrier.core.judge.areas import Seen
from hodcarrier.examine.views import Neighbourhood, RunViews
from hodcarrier.examine.ways import trail_of
from hodcarrier.runfile import schema
from tests.sample_site import ORIGIN, crawl, make_plan

ROBOTS = text_file("/robots.txt", "User-agent: *\nDisallow: /shut\nSitemap: https://shop.example/sitemap.xml\n")
PICTURE = Sample("/i.png", b"\x89PNG", headers=(("content-type", "image/png"),))
SITE = (
    ROBOTS,
    sitemap("/a", "/lonely"),
    page(
        doc(
            '<a href="/a">a</a><a href="/a">again</a><a href="/">self</a><a href="/shut">s</a><a href="/old">o</a><a href="/gone">g</a>'
            '<a href="/silent">n</a><a href="/print.pdf">p</a><img src="/i.png"><img src="/i.png"><a rel="nofollow" href="/far">f</a>'
            '<a href="https://other.example/x">x</a>'
        )
    ),
    page(doc('<a href="/b">b</a><img src="/i.png"><script src="/s.js"></script>'), "/a"),
    page(doc('<a href="/a">a</a>'), "/b"),
    page(doc("<p>Alone</p>"), "/lonely"),
    page(doc("<p>Far</p>"), "/far"),
    page("", "/silent", failure="timeout"),
    Sample("/print.pdf", b"%PDF-1.7", headers=(("content-type", "application/pdf"),)),
    moved("/old", "/older"),
    moved("/older", "/b", 302),
    gone("/gone"),
    PICTURE,
)


@pytest.fixture(scope="module")
def views() -> RunViews:
    return of(SITE)


def of(site: tuple[Sample, ...], **plan: object) -> RunViews:
    read = make_plan(plan)
    writer, _, _ = crawl(site, read)
    return RunViews.load(writer.db, read)


def at(views: RunViews, path: str) -> int:
    return views.ids[ORIGIN + path]


def paths(views: RunViews, ids: object) -> list[str]:
    return sorted(views.url_of(i).removeprefix(ORIGIN) for i in ids)  # type: ignore[attr-defined]


def test_pages_that_link_here_each_once_without_the_page_itself(views: RunViews) -> None:
    assert paths(views, views.inlinks[at(views, "/a")]) == ["/", "/b"]
    assert at(views, "/") not in views.inlinks, "a link to the page itself is none"
    assert at(views, "/far") not in views.inlinks, "nor one that is not to be followed"
    assert at(views, "/lonely") not in views.inlinks


def test_files_are_known_with_the_pages_that_use_them(views: RunViews) -> None:
    assert paths(views, views.file_users[at(views, "/i.png")]) == ["/", "/a"]
    assert paths(views, views.file_users[at(views, "/s.js")]) == ["/a"]
    assert {views.url_of(i).removeprefix(ORIGIN): kinds for i, kinds in views.file_kinds.items()} == {
        "/i.png": ("image",),
        "/s.js": ("script",),
    }


@pytest.mark.parametrize(
    ("path", "depth"),
    [("/", 0), ("/a", 1), ("/old", 1), ("/older", 1), ("/b", 1), ("/gone", 1), ("/shut", 1), ("/lonely", None), ("/far", None)],
)
def test_depths(views: RunViews, path: str, depth: int | None) -> None:
    assert views.known[at(views, path)].depth == depth


@pytest.mark.parametrize(
    ("path", "scored", "seen"),
    [
        ("/", True, Seen.INDEXABLE),
        ("/gone", True, Seen.ANSWER),
        ("/silent", True, Seen.NO_ANSWER),
        ("/old", False, Seen.ANSWER),
        ("/print.pdf", False, Seen.ANSWER),
        ("/shut", False, Seen.BLOCKED),
        ("/i.png", False, Seen.ANSWER),
    ],
)
def test_what_is_scored_and_how_much_was_seen(views: RunViews, path: str, scored: bool, seen: Seen) -> None:
    assert views.is_scored(at(views, path)) is scored
    assert views.seen(at(views, path)) is seen


def test_a_blocked_page_is_scored_where_it_was_indexable_before() -> None:
    views = of(SITE)
    views.once_indexable = {ORIGIN + "/shut"}
    assert views.is_scored(at(views, "/shut"))


@pytest.mark.parametrize(("status", "scored"), [(399, False), (400, True), (204, False), (503, True)])
def test_an_answer_without_a_document_is_scored_when_it_is_an_error(status: int, scored: bool) -> None:
    views = of((page(doc('<a href="/f">f</a>')), text_file("/f", "words", status)))
    assert views.is_scored(at(views, "/f")) is scored


def test_a_target_is_followed_to_its_end(views: RunViews) -> None:
    target = views.target(ORIGIN + "/old")
    assert target.hops == (Hop(ORIGIN + "/old", 301), Hop(ORIGIN + "/older", 302))
    assert (target.status, target.final_url, target.final_status, target.loop) == (301, ORIGIN + "/b", 200, False)
    assert (target.internal, target.state, target.final_state) == (True, "done", "done")
    silent = views.target(ORIGIN + "/silent")
    assert (silent.status, silent.final_status, silent.final_failure) == (None, None, "timeout")
    assert views.target(ORIGIN + "/never").state == "unknown"


def test_a_body_that_came_in_part_is_no_failure_of_the_target() -> None:
    views = of((page(doc('<a href="/half">h</a>')), page(doc("<p>Half"), "/half", cut="truncated")))
    target = views.target(ORIGIN + "/half")
    assert (target.failure, target.final_status, target.final_failure) == ("truncated", 200, "")


def test_redirects_that_turn_round_are_a_loop() -> None:
    views = of((page(doc('<a href="/x">x</a>')), moved("/x", "/y"), moved("/y", "/x")))
    target = views.target(ORIGIN + "/x")
    assert target.loop and [hop.url for hop in target.hops] == [ORIGIN + "/x", ORIGIN + "/y"]


@pytest.mark.parametrize(("hops", "loop"), [(REDIRECTS_MAX, False), (REDIRECTS_MAX + 1, True)])
def test_a_chain_beyond_the_limit_counts_as_a_loop(hops: int, loop: bool) -> None:
    chain = [moved(f"/{n}", f"/{n + 1}") for n in range(hops)]
    views = of((page(doc('<a href="/0">0</a>')), *chain, page(doc("<p>End</p>"), f"/{hops}")))
    target = views.target(ORIGIN + "/0")
    assert target.loop is loop
    assert len(target.hops) == hops


def test_other_sites_are_skipped_unless_their_links_were_tried() -> None:
    there = "https://other.example/x"
    left = of(SITE, check_external=False)
    left.known[left.ids[there]].state = schema.QUEUED  # as it is where a run ended before any of them was asked for
    assert (left.target(there).internal, left.target(there).state) == (False, "skipped")
    tried = of((*SITE, page(doc(), there)))
    assert (tried.target(there).internal, tried.target(there).state, tried.target(there).status) == (False, "done", 200)


def test_a_page_alone_takes_its_place_among_the_pages_of_another_run() -> None:
    writer, _, _ = crawl((page(doc("<p>One</p>")),))
    plan = make_plan()
    for listed in (True, False):
        views = RunViews.load(writer.db, plan, Neighbourhood(ORIGIN + "/", (7, 9), listed, 3, schema.FOUND_LINK))
        view = views.page(at(views, "/"))
        assert view is not None
        assert (view.inlinks, view.listed, view.depth, view.is_start) == (2, listed, 3, False)


@pytest.mark.parametrize("obey", [True, False])
def test_noindex_is_left_aside_where_the_plan_says_so(obey: bool) -> None:
    site = (page(doc("<p>x</p>", '<meta name="robots" content="noindex, nosnippet">')),)
    views = of(site, obey_noindex=obey)
    view = views.page(at(views, "/"))
    assert view is not None and view.directives == ({"noindex", "nosnippet"} if obey else {"nosnippet"})
    assert view.indexable is not obey


@pytest.mark.parametrize(("named", "counts"), [("", "/header"), ('<link rel="canonical" href="/page">', "/page")])
def test_the_canonical_of_the_document_goes_before_that_of_the_header(named: str, counts: str) -> None:
    html = ("content-type", "text/html")
    views = of((page(doc("<p>x</p>", named), headers=(html, ("link", '</header>; rel="canonical"'))),))
    view = views.page(at(views, "/"))
    assert view is not None and view.canonical == ORIGIN + counts


def test_a_page_that_was_never_answered_has_a_view_too(views: RunViews) -> None:
    view = views.page(at(views, "/shut"))
    assert view is not None and (view.answer, view.facts, view.why_not) == (None, None, "disallowed")
    assert views.facts_of(ORIGIN + "/nowhere") is None
    facts = views.facts_of(ORIGIN + "/a")
    assert facts is not None and [title.text for title in facts.head.titles] == ["Rope for small boats"]


def test_pages_come_in_the_order_they_were_met_with_their_links(views: RunViews) -> None:
    found = dict(views.pages())
    assert list(found) == sorted(found) and views.ids[ORIGIN + "/i.png"] not in found
    front = found[at(views, "/")]
    assert front.facts is not None and len(front.facts.links.all) > 5
    assert front.is_start and not found[at(views, "/a")].is_start
    assert found[at(views, "/a")].listed and not front.listed
    assert found[at(views, "/shut")].robots_rule


def test_why_not_is_said_of_pages_alone(views: RunViews) -> None:
    assert views.known[at(views, "/gone")].why_not and views.known[at(views, "/shut")].why_not
    assert views.known[at(views, "/i.png")].why_not == ""


def test_error_pages_give_no_links() -> None:
    """A template with relative links, served for every address that is not there, makes no page and no link of the site."""
    template = '<a href="deeper/">on</a><a href="/b">b</a><img src="/i.png">'
    site = (page(doc('<a href="/gone">g</a>')), Sample("/gone", doc(template), 404), sitemap("/b"), page(doc("<p>B</p>"), "/b"))
    views = of(site)
    assert sorted(url.removeprefix(ORIGIN) for url in views.ids) == ["/", "/b", "/gone"]
    assert at(views, "/b") not in views.inlinks and not views.file_users


def test_links_of_error_pages_in_older_runs_do_not_count() -> None:
    read = make_plan({})
    writer, _, _ = crawl((page(doc('<a href="/gone">g</a>')), page(doc('<a href="/b">b</a>'), "/gone"), page(doc(), "/b")), read)
    writer.db.execute("UPDATE answer SET status = 404 WHERE address_id = ?", (writer.ids[ORIGIN + "/gone"],))
    assert writer.ids[ORIGIN + "/b"] not in RunViews.load(writer.db, read).inlinks


def test_a_redirect_to_nothing_is_broken_and_scored() -> None:
    views = of((page(doc('<a href="/a">a</a>')), Sample("/a", status=302)))
    target = views.target(ORIGIN + "/a")
    assert target.broken and target.outcome == "302 without a usable Location"
    assert views.is_scored(at(views, "/a"))


def test_redirects_of_other_sites_are_followed_to_their_end() -> None:
    other = "https://other.example/"
    hops = [moved(f"{other}{n}", f"{other}{n + 1}") for n in range(30)]
    site = (page(doc(f'<a href="{other}25">near</a><a href="{other}0">far</a>')), *hops, gone(f"{other}30", 410))
    views = of(site)
    near, far = views.target(f"{other}25"), views.target(f"{other}0")
    assert near.broken and near.outcome == "410" and len(near.hops) == 5
    assert far.loop and len(far.hops) == REDIRECTS_MAX + 1


def test_all_uses_of_a_file_count() -> None:
    views = of(
        (page(doc('<img src="/i.png">', '<link rel=preload as=image href="/i.png"><link rel=icon href="/i.png">')), PICTURE)
    )
    assert set(views.file_kinds[at(views, "/i.png")]) == {"image", "preload", "icon"}


def test_who_leads_to_a_page_is_told_in_words() -> None:
    site = (
        page(doc('<a href="/a">a</a><a rel=nofollow href="/n">n</a>', '<link rel=canonical href="/c">')),
        page(doc('<a href="/a/b">b</a>', '<link rel=alternate hreflang=cy href="/cy">'), "/a"),
        page(doc(), "/a/b"),
        sitemap("/s"),
        moved("/m", "/end"),
    )
    views = of(site, obey_nofollow=False, addresses=[f"{ORIGIN}/l", f"{ORIGIN}/m"])
    told = {url.removeprefix(ORIGIN): view.how_found for _, view in views.pages() for url in (view.url,)}
    assert told == {
        "/": "the start URL",
        "/a": "linked from 1 page",
        "/a/b": "linked from 1 page",
        "/n": "linked with nofollow only",
        "/c": f"named as canonical by {ORIGIN}/",
        "/cy": f"named as a version in another language by {ORIGIN}/a",
        "/s": "listed in a sitemap",
        "/l": "in the list of the plan",
        "/m": "in the list of the plan",
        "/end": "the target of a redirect",
    }
    assert trail_of(views, f"{ORIGIN}/a/b") == (f"{ORIGIN}/", f"{ORIGIN}/a", f"{ORIGIN}/a/b")
    assert trail_of(views, f"{ORIGIN}/s") == ()
