"""What the pages of several simulated sites are made of."""

from __future__ import annotations

from hodcarrier.demo.pages import Page, Site
from hodcarrier.demo.words import paragraph, paragraphs

EDITIONS = 10
# The editions in which the benchmarks have a round.
ROUNDS = (1, 4, 7, 10)


def origin(host: str) -> str:
    """The origin of a simulated site."""
    return f"https://{host}"


def describe(seed: str, words: dict[str, list[str]]) -> str:
    """A made-up description of a page."""
    return paragraph("desc " + seed, words, 2)[:140]


def img(path: str, alt: str | None) -> str:
    """An image; without alternative text when ``alt`` is ``None``."""
    return f'<img src="{path}" width="640" height="480"' + (f' alt="{alt}">' if alt is not None else ">")


def links(pairs: list[tuple[str, str]]) -> str:
    """A list of links."""
    return "<ul>" + "".join(f'<li><a href="{href}">{text}</a></li>' for href, text in pairs) + "</ul>"


def add_product(
    site: Site,
    path: str,
    name: str,
    words: dict[str, list[str]],
    *,
    price: str,
    described: bool,
    extra: str = "",
    alt: str | None = "",
) -> None:
    """Add the page of something that is sold, with its picture."""
    picture = "/img/" + path.strip("/").replace("/", "-") + ".png"
    body = img(picture, name if alt == "" else alt) + f"<p>{price}</p>" + paragraphs(path, words, 4) + extra
    data: dict[str, object] = {
        "@type": "Product",
        "name": name,
        "offers": {"@type": "Offer", "price": price[1:], "priceCurrency": "GBP"},
    }
    title = f"{name} | {site.theme.name}"
    site.add(Page(path, title, body, describe(path, words) if described else None, data=data))
    site.picture(picture, 26_000)
