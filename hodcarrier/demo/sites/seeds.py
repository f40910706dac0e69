"""A seed library and the seedbank it competes with."""

from __future__ import annotations

from itertools import product

from hodcarrier.demo.pages import Page, Site, Theme
from hodcarrier.demo.sites.parts import describe, img, links, origin
from hodcarrier.demo.sites.worn import add_exchange
from hodcarrier.demo.words import SEEDS, paragraph, paragraphs


def ardmoor(edition: int) -> Site:
    """A charity's catalogue of heritage seeds with many articles: slowly mended (3, 5, 7), with a sitemap that goes stale (8).

    Phones are served the herbs in brief, a shorter list of notes, and a form for joining that search engines are told to leave out.
    """
    host = "ardmoor-seeds.example"
    theme = Theme(
        "Ardmoor Seed Library",
        origin(host),
        [("Seeds", "/seeds/"), ("Growing", "/growing/"), ("Join", "/join"), ("Contact us", "/contact")],
        social=edition >= 5,
    )
    site = Site(theme, robots=f"User-agent: *\nDisallow: /members\nSitemap: {origin(host)}/sitemap.xml\n", gzip=edition >= 3)
    site.headers = (("Strict-Transport-Security", "max-age=63072000"),)
    families = ["beans", "peas", "tomatoes", "roots", "brassicas", "onions", "salads", "squashes", "herbs", "grains"]
    overview = []
    for family in families:
        items = [
            (
                f"/seeds/{family}/{SEEDS['things'][n]}-{n}".replace(" ", "-"),
                f"{SEEDS['traits'][n % 10].capitalize()} {SEEDS['things'][n]}",
            )
            for n in range(12)
        ]
        for n, (path, name) in enumerate(items):
            short = edition < 6 and n in (3, 7)
            title = SEEDS["things"][n].capitalize() if short else f"{name} seed from {family} | Ardmoor"
            body = img(f"/img/{family}.png", None if edition < 8 and n % 4 == 0 else name) + paragraphs(path, SEEDS, 4)
            site.add(
                Page(path, title, body, None if edition < 3 and n < 5 else describe(path, SEEDS), h1=name),
                listed=edition < 8 or n != 5,
            )
            if family == "herbs":
                site.add_for_phones(Page(path, title, paragraphs(path, SEEDS, 1), describe(path, SEEDS), h1=name))
        site.picture(f"/img/{family}.png", 230_000 if edition < 5 else 90_000)
        overview.append((f"/seeds/{family}/", family.capitalize()))
        site.add(
            Page(
                f"/seeds/{family}/",
                f"Heritage {family} in the seed library",
                f"<p>{paragraph(family, SEEDS, 5)}</p>" + links(items),
                describe(family, SEEDS),
            )
        )
    articles = [
        (f"/growing/{a}-{b}".replace(" ", "-"), f"{a.capitalize()} {b}")
        for a, b in product(
            ["sowing", "saving", "storing", "sharing", "tasting", "drying", "swapping", "naming"], SEEDS["things"]
        )
    ]
    for n, (path, name) in enumerate(articles):
        link = '<p><a href="/growing/seed-swap-2019">The last swap</a></p>' if edition < 9 and n % 16 == 0 else ""
        same = "Growing heritage vegetables | Ardmoor Seed Library" if n < 3 else f"{name}: notes for gardeners | Ardmoor"
        data: dict[str, object] = {
            "@type": "Article",
            "headline": name,
            "author": {"@type": "Organization", "name": "Ardmoor Seed Library"},
        }
        site.add(Page(path, same, paragraphs(path, SEEDS, 6) + link, describe(path, SEEDS), h1=name, data=data))
    site.add(
        Page(
            "/seeds/",
            "All seeds in the library | Ardmoor",
            f"<p>{paragraph('seeds', SEEDS, 5)}</p>" + links(overview),
            describe("seeds", SEEDS),
        )
    )
    site.add(
        Page(
            "/growing/",
            "Growing and saving heritage seed | Ardmoor",
            f"<p>{paragraph('growing', SEEDS, 5)}</p>" + links([*articles[:48], ("/growing/page/2", "Older notes")]),
            describe("growing", SEEDS),
        )
    )
    site.add_for_phones(
        Page(
            "/growing/",
            "Growing and saving heritage seed | Ardmoor",
            f"<p>{paragraph('growing', SEEDS, 5)}</p>" + links([*articles[:12], ("/growing/page/2", "Older notes")]),
            describe("growing", SEEDS),
        )
    )
    site.add(
        Page(
            "/growing/page/2",
            "Growing and saving heritage seed, older notes | Ardmoor",
            f"<p>{paragraph('older', SEEDS, 5)}</p>"
            + links([*articles[48:], (f"/growing/year/{MONTHS[0]}", "The gardener's year")]),
            describe("older", SEEDS),
            canonical=f"{origin(host)}/growing",
        )
    )
    for month in MONTHS:
        path = f"/growing/year/{month}"
        others = links([(f"/growing/year/{other}", other.capitalize()) for other in MONTHS])
        title = f"The gardener's year: {month.capitalize()} | Ardmoor"
        work = f'<section class="calendar"><div class="moon"><h2>By the moon</h2></div><div class="tasks">{paragraphs(path, SEEDS, 5)}</div></section>'
        site.add(Page(path, title, f'{work}<aside class="months">{others}</aside>', describe(path, SEEDS)))
    home = paragraphs("ardmoor", SEEDS, 5) + links([("/seeds/", "Seeds"), ("/growing/", "Growing")])
    site.add(
        Page(
            "/",
            "Ardmoor Seed Library, heritage seed to borrow and share",
            home,
            describe("ardmoor", SEEDS),
            data={"@type": "Organization", "name": "Ardmoor Seed Library"},
        )
    )
    site.add(Page("/join", "Join the Ardmoor Seed Library", paragraphs("join", SEEDS, 5), describe("join", SEEDS)))
    form = Page("/join", "Join", paragraphs("join", SEEDS, 1), describe("join", SEEDS), robots="noindex")
    site.add_for_phones(form)
    site.add(
        Page(
            "/contact",
            "Contact us at the seed library",
            "<p>Write to seeds@ardmoor-seeds.example.</p>",
            describe("ardmoor contact", SEEDS),
        )
    )
    site.move("/old", "/seeds/")
    if edition >= 8:
        site.listed += ["/seeds/beans/withdrawn-1", "/seeds/beans/withdrawn-2"]
    return site


MONTHS = ("january", "march", "april", "may", "june", "july", "september", "october")


def two_rivers(edition: int) -> Site:
    """A competitor without a robots.txt, growing every week. 4: it shows the certificate of another host; 7: its robots.txt cannot be had."""
    host = "two-rivers-seedbank.example"
    theme = Theme("Two Rivers Seedbank", origin(host), [("Collection", "/collection/"), ("News", "/news/")])
    site = Site(theme, sitemap=edition >= 4, certificate="name" if edition == 4 else "")
    if edition == 7:
        site.gone("/robots.txt", 503)
    items = [
        (f"/collection/{n}", f"{SEEDS['traits'][n % 10].capitalize()} {SEEDS['things'][n % 12]} {n}")
        for n in range(1, 36 + 2 * edition)
    ]
    for n, (path, name) in enumerate(items):
        site.add(
            Page(
                path,
                f"{name} | Two Rivers",
                paragraphs(path, SEEDS, 4 if n % 3 else 2),
                describe(path, SEEDS) if n % 4 else None,
            )
        )
    news = [(f"/news/{n}", f"News from the seedbank {n}") for n in range(1, 13)]
    for path, name in news:
        site.add(Page(path, f"{name} | Two Rivers", paragraphs(path, SEEDS, 5), describe(path, SEEDS)))
    site.add(
        Page(
            "/collection/",
            "The collection of Two Rivers",
            f"<p>{paragraph('coll', SEEDS, 5)}</p>" + links(items),
            describe("coll", SEEDS),
        )
    )
    site.add(
        Page(
            "/news/",
            "News from Two Rivers Seedbank",
            f"<p>{paragraph('news', SEEDS, 5)}</p>" + links(news),
            describe("news", SEEDS),
        )
    )
    site.add(
        Page(
            "/",
            "Two Rivers Seedbank, a home for old seed",
            paragraphs("two rivers", SEEDS, 5) + links([("/exchange/", "The old seed exchange")]),
            describe("two rivers", SEEDS),
        )
    )
    add_exchange(site)
    return site
