"""robots.txt line by line: which line blocks which known URLs, and which frees them."""

from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.judge.robots_lines import robots_lines
from hodcarrier.core.states import LineChange
from hodcarrier.core.web.robots import RobotsTxt, parse

SITE = "https://tidewrack.example"
AGENT = "*"


def robots(*lines: str) -> RobotsTxt:
    return parse("\n".join(("User-agent: *", *lines)).encode())


def urls(*paths: str) -> list[str]:
    return [SITE + path for path in paths]


def test_a_new_line_counts_the_known_pages_it_blocks() -> None:
    old, new = robots("Disallow: /basket"), robots("Disallow: /basket", "Disallow: /shop")
    lines = robots_lines(old, new, AGENT, urls("/", "/basket", "/shop", "/shop/rope", "/guides"))
    assert [(line.change, line.number, line.text, line.blocks) for line in lines] == [
        (LineChange.SAME, 1, "User-agent: *", 0),
        (LineChange.SAME, 2, "Disallow: /basket", 0),
        (LineChange.ADDED, 3, "Disallow: /shop", 2),
    ]


def test_a_line_that_is_taken_away_frees_what_it_blocked() -> None:
    lines = robots_lines(robots("Disallow: /shop"), robots(), AGENT, urls("/", "/shop/rope"))
    assert [(line.change, line.frees) for line in lines][1:] == [(LineChange.REMOVED, 1)]


def test_a_new_exception_frees_what_a_line_still_blocks_elsewhere() -> None:
    old, new = robots("Disallow: /shop"), robots("Disallow: /shop", "Allow: /shop/rope")
    lines = robots_lines(old, new, AGENT, urls("/shop/rope", "/shop/lamp"))
    assert [(line.text, line.frees) for line in lines if line.change == LineChange.ADDED] == [("Allow: /shop/rope", 1)]
    assert sum(line.blocks for line in lines) == 0


def test_an_exception_that_goes_lets_a_line_block_that_did_not_change() -> None:
    old, new = robots("Disallow: /shop", "Allow: /shop/rope"), robots("Disallow: /shop")
    lines = robots_lines(old, new, AGENT, urls("/shop/rope"))
    assert [(line.change, line.blocks) for line in lines if line.text == "Disallow: /shop"] == [(LineChange.SAME, 1)]


def test_long_files_are_cut_around_what_differs() -> None:
    rules = [f"Disallow: /{n}" for n in range(40)]
    lines = robots_lines(robots(*rules), robots(*rules[:20], "Disallow: /new", *rules[20:]), AGENT, [])
    assert len(lines) == 7 and lines[0].gap and not any(line.gap for line in lines[1:])


def test_the_same_text_has_nothing_to_tell() -> None:
    assert robots_lines(robots("Disallow: /a"), robots("Disallow: /a"), AGENT, urls("/a")) == []


RULES = st.lists(
    st.sampled_from(
        ["User-agent: ropebot", "Disallow: /a", "Disallow: /b", "Allow: /a/x", "Disallow: /", "Allow: /b", "Disallow:"]
    ),
    max_size=5,
)
PATHS = st.lists(st.sampled_from(["/", "/a", "/a/x", "/a/y", "/b", "/c"]), max_size=6, unique=True)


@given(RULES, RULES, PATHS, st.sampled_from(["*", "ropebot"]))
def test_every_url_that_turns_counts_once(before: list[str], after: list[str], paths: list[str], agent: str) -> None:
    old, new, known = robots(*before), robots(*after), urls(*paths)
    lines = robots_lines(old, new, agent, known)
    turned = [(old.allows(agent, url), new.allows(agent, url)) for url in known]
    assert sum(line.blocks for line in lines) == turned.count((True, False))
    assert sum(line.frees for line in lines) == turned.count((False, True))
