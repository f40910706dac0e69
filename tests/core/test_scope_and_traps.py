"""What belongs to a site, patterns, traps, and references that are resolved once."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.errors import InvalidPlan, InvalidUrl
from hodcarrier.core.plan import read_plan
from hodcarrier.core.scope import Scope, notices, preview
from hodcarrier.core.web.patterns import compile_pattern, matches
from hodcarrier.core.web.traps import REPEATS_MAX, SEGMENTS_MAX, SESSION_PAGES_MAX, TrapGuard, pattern_of, repeats
from hodcarrier.core.web.urls import Resolver, drop_parameters, keep_parameters, normalize, place_on

SHOP = "https://shop.example"


@pytest.mark.parametrize(
    ("pattern", "path", "expected"),
    [
        ("/shop/*", "/shop/a", True),
        ("/shop/*", "/shop/", True),
        ("/shop/*", "/shop", False),
        ("/shop/*", "/en/shop/a", False),
        ("/shop", "/shop", True),
        ("/shop", "/shop/a", False),
        ("/shop", "/shop?x=1", False),
        ("/shop*", "/shop?x=1", True),
        ("*.pdf", "/files/a.pdf", True),
        ("*.pdf", "/files/a.pdf?x", False),
        ("*?sort=*", "/a?sort=up", True),
        ("/a.b", "/axb", False),
        ("/a(b", "/a(b", True),
        ("*", "/anything", True),
        ("regex:/\\d{4}/", "/2026/x", True),
        ("regex:/\\d{4}/", "/26/x", False),
        ("regex:^https://shop", "/x", True),
        ("regex:[?&]sid=", "/x?a=1&sid=2", True),
        ("https://shop.example/old/*", "/old/rope", True),
        ("https://other.example/old/*", "/old/rope", False),
        ("https://shop.example/a?b", "/a?b", True),
    ],
)
def test_patterns(pattern: str, path: str, expected: bool) -> None:
    assert matches(pattern, SHOP + path) is expected


@pytest.mark.parametrize("pattern", ["shop", "", "regex:(", "regex:[", "ftp://shop.example/"])
def test_what_is_no_pattern_says_what_to_do(pattern: str) -> None:
    with pytest.raises(InvalidPlan) as refused:
        compile_pattern(pattern)
    assert refused.value.hint


@given(st.lists(st.sampled_from(["shop", "a", "b", "2026", "x.html"]), min_size=1, max_size=5))
def test_a_path_matches_itself_and_everything(segments: list[str]) -> None:
    path = "/" + "/".join(segments)
    assert matches(path, SHOP + path)
    assert matches(path[: len(path) // 2 or 1] + "*", SHOP + path)
    assert matches("*", SHOP + path)


@pytest.mark.parametrize(
    ("plan", "address", "fetched", "why"),
    [
        ({}, SHOP + "/a", True, ""),
        ({}, "http://shop.example/a", True, ""),
        ({}, "https://www.shop.example/a", False, "not on shop.example"),
        ({"subdomains": True}, "https://www.shop.example/a", True, ""),
        ({"subdomains": True}, "https://badshop.example/a", False, "not on shop.example"),
        ({"path_prefix": "/en/"}, SHOP + "/fr/a", False, "not below /en/"),
        ({"include": ["/a*"]}, SHOP + "/b", False, "not included by the plan"),
        ({"exclude": ["/b*"]}, SHOP + "/b", False, "excluded by the plan: /b*"),
        ({"include": ["/b"], "exclude": ["/b"]}, SHOP + "/b", False, "excluded by the plan: /b"),
        ({"url_chars_max": 100}, SHOP + "/" + "x" * 100, False, "longer than 100 characters"),
    ],
)
def test_the_preview_says_what_and_why(plan: dict[str, object], address: str, fetched: bool, why: str) -> None:
    assert preview(read_plan({"start": [SHOP + "/"], **plan}), [address]) == [(address, fetched, why)]


@pytest.mark.parametrize(
    ("plan", "said"),
    [
        ({}, []),
        ({"addresses": [SHOP + "/a"]}, []),
        ({"include": ["/blog/*"]}, [f"Start URL {SHOP}/: not included by the plan. It is fetched all the same."]),
        (
            {"start": [SHOP + "/a", SHOP + "/b"], "exclude": ["/*"]},
            [f"Start URL {SHOP}/a and 1 more: excluded by the plan: /*. It is fetched all the same."],
        ),
        (
            {"addresses": [SHOP + "/a", "https://other.example/b", "https://other.example/c"]},
            [
                "2 of the 3 URLs of the list will not be fetched; the first is https://other.example/b (not on shop.example).",
            ],
        ),
    ],
)
def test_what_a_plan_names_and_yet_leaves_out_is_told(plan: dict[str, object], said: list[str]) -> None:
    assert notices(read_plan({"start": [SHOP + "/"], **plan})) == said


@pytest.mark.parametrize(
    ("drop", "keep", "url", "identity"),
    [
        (["sid"], [], "/a?sid=1", "/a"),
        (["sid"], [], "/a?sid=1&x=2", "/a?x=2"),
        (["sid"], [], "/a?x=2&sid=1&y=3", "/a?x=2&y=3"),
        (["sid"], [], "/a?SID=1", "/a?SID=1"),
        ([], ["page"], "/a?x=1&page=2&y=3", "/a?page=2"),
        ([], ["page"], "/a?x=1", "/a"),
        ([], [], "/a?x=1", "/a?x=1"),
        ([], ["page"], "/a", "/a"),
    ],
)
def test_identities_after_the_rules_for_parameters(drop: list[str], keep: list[str], url: str, identity: str) -> None:
    scope = Scope.of(read_plan({"start": [SHOP + "/"], "drop_parameters": drop, "keep_parameters": keep}))
    assert scope.identity(SHOP + url) == SHOP + identity
    assert scope.changes_urls == bool(drop or keep)


def test_parameters_cannot_be_both_dropped_and_kept() -> None:
    with pytest.raises(InvalidPlan, match="both"):
        read_plan({"start": [SHOP], "drop_parameters": ["a"], "keep_parameters": ["b"]})


@given(st.lists(st.tuples(st.sampled_from("abcd"), st.sampled_from("123"))), st.frozensets(st.sampled_from("abcd")))
def test_dropping_and_keeping_are_each_others_opposite(pairs: list[tuple[str, str]], names: frozenset[str]) -> None:
    query = "&".join(f"{k}={v}" for k, v in pairs)
    url = SHOP + "/a" + (f"?{query}" if query else "")
    others = frozenset("abcd") - names
    assert drop_parameters(url, names) == keep_parameters(url, others) or not names
    assert drop_parameters(drop_parameters(url, names), names) == drop_parameters(url, names)


@pytest.mark.parametrize(
    ("path", "pattern"),
    [
        ("/rope/knots", "/rope/knots"),
        ("/calendar/2026/11", "/calendar/#/#"),
        ("/page-12", "/page-#"),
        ("/a?y=1&x=2", "/a?x&y"),
        ("/a?x=2&y=1", "/a?x&y"),
        ("/a;jsessionid=ABC123/b", "/a~/b"),
        ("/a?PHPSESSID=3f", "/a?PHPSESSID"),
        ("/a?sessionid=3f", "/a?~"),
        ("/in/0123456789abcdef01234567/x", "/in/~/x"),
        ("/articles/a-very-long-title-with-the-year-2026-in-it", "/articles/a-very-long-title-with-the-year-#-in-it"),
        ("/aaaaaaaaaaaaaaaaaaaaaaaaaaaaaa", "/aaaaaaaaaaaaaaaaaaaaaaaaaaaaaa"),
    ],
)
def test_shapes_of_addresses(path: str, pattern: str) -> None:
    found = pattern_of(SHOP + path)
    assert found == pattern or (pattern.endswith("PHPSESSID") and found == "/a?~")


@pytest.mark.parametrize(
    ("path", "expected"),
    [
        ("/a/b/c/d/e/f", False),
        ("/a/a/a", False),
        ("/a/a/a/a", True),
        ("/a/b/a/b/a/b", False),
        ("/a/b/a/b/a/b/a/b", True),
        ("/a/b/c/a/b/c/a/b/c/a/b/c", True),
        ("/x/a/b/a/b/a/b/a/b/y", True),
        ("/a/x/a/y/a/z/a/w/a", True),
        ("/a/x/a/y/a/z/a/w", False),
        ("/" + "/".join(str(n) for n in range(SEGMENTS_MAX)), False),
        ("/" + "/".join(str(n) for n in range(SEGMENTS_MAX + 1)), True),
        ("/", False),
    ],
)
def test_paths_that_go_round(path: str, expected: bool) -> None:
    assert repeats(SHOP + path) is expected


@given(st.lists(st.sampled_from(["a", "b", "c"]), max_size=REPEATS_MAX))
def test_short_paths_never_go_round(segments: list[str]) -> None:
    assert not repeats(SHOP + "/" + "/".join(segments))


@given(st.integers(1, 12), st.integers(0, 40))
def test_the_guard_admits_just_as_many_as_it_may(limit: int, pages: int) -> None:
    guard = TrapGuard(limit, limit)
    admitted = sum(1 for n in range(pages) if not guard.admit(f"{SHOP}/day-{n}"))
    assert admitted == min(limit, pages)
    assert bool(guard.full) == (pages > limit)


def test_the_guard_has_a_limit_for_each_kind() -> None:
    guard = TrapGuard(200, 7)
    assert sum(1 for n in range(100) if not guard.admit(f"{SHOP}/a?x={n}")) == 7
    assert sum(1 for n in range(100) if not guard.admit(f"{SHOP}/{n:030x}a1/x")) == SESSION_PAGES_MAX
    assert sum(1 for n in range(300) if not guard.admit(f"{SHOP}/d/{n}")) == 200
    assert all(len(examples) == 5 for _, examples in guard.full.values())
    assert guard.admit(SHOP + "/other") == ""


REFERENCES = st.one_of(
    st.sampled_from(
        ["0 #", " a \t#b", "", "#x", "?q", "?", "/", "//other.example/a", "/a b", "../c", "./", "a/../b", "https:x", "https:?q", "https://[half", "mailto:a@b",
         "javascript:0", "\\a\\b", " /a ", "\t?x", "a?b#c", "é/ü", "%zz", "http://0x7f.1/", "x:y", ":", "a:b/c", "\x00", "HTTP://Shop.Example/X"]
    ),
    st.text(max_size=12),
    st.text("ab/._-~0%:?#@;\\ ", max_size=12),
)  # fmt: skip
BASES = st.sampled_from(
    [
        SHOP + "/",
        SHOP + "/a/b/c.html",
        SHOP + "/a/b/?x=/y/z",
        SHOP + "/a//b/",
        "http://[2001:db8::1]/a//b/",
        SHOP + "/?x",
        "http://shop.example:8080/d/e?f",
        "https://u:p@shop.example/x/y",
    ]
)


@given(st.lists(st.tuples(REFERENCES, BASES), max_size=30))
def test_what_is_remembered_is_what_the_standard_says(pairs: list[tuple[str, str]]) -> None:
    resolver = Resolver()
    for reference, base in pairs:
        try:
            wanted = normalize(reference.strip(" \t\n\r\f"), base)
        except InvalidUrl:
            wanted = ""
        assert resolver.resolve(reference, base) == wanted
        assert resolver.resolve(reference, base) == wanted, "the second time, from memory"


@pytest.mark.parametrize(
    ("url", "shown"),
    [
        (SHOP + "/", "/"),
        (SHOP + "/a?b", "/a?b"),
        ("http://shop.example/a", "http://shop.example/a"),
        ("https://x.example/a", "https://x.example/a"),
    ],
)
def test_places_are_short_on_their_own_host(url: str, shown: str) -> None:
    assert place_on("shop.example", url) == shown
