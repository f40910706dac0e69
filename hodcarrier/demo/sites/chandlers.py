"""Three shops for small boats: the client and those it competes with."""

from __future__ import annotations

from dataclasses import replace

from hodcarrier.demo.pages import Page, Resource, Site, Theme
from hodcarrier.demo.sites.parts import add_product, describe, img, links, origin
from hodcarrier.demo.words import BOATS, paragraph, paragraphs


def tidewrack(edition: int) -> Site:
    """A shop for small-boat gear.

    2: a new theme loses the descriptions; 3: some are written, 7: all. 5: a guide moves and leaves forty links behind; 6: some are mended, 7: all,
    with a redirect. 6: two pages are lost to search for a week. 9: an old fault is back. 10: robots.txt shuts the shop out.
    """
    host = "tidewrack.example"
    menu = [("Shop", "/shop/"), ("Guides", "/guides/"), ("About us", "/about"), ("Contact", "/contact")]
    theme = Theme("Tidewrack Chandlery", origin(host), menu, footer=[("Delivery", "/delivery"), ("Privacy", "/privacy")])
    site = Site(theme, headers=(("Strict-Transport-Security", "max-age=31536000"),))
    kinds = {"rope": 20, "anchors": 17, "fenders": 16, "pumps": 15, "paint": 16, "clothing": 16, "lights": 14}
    moved = edition >= 5
    guide_link = "/guides/rope/splicing-rope" if edition >= 7 else "/guides/splicing-rope"
    theme.head_first = '<script src="/static/count.js" async></script>'
    for kind, count in kinds.items():
        items = [
            (f"/shop/{kind}/{kind}-{n}", f"{BOATS['traits'][n % 10].capitalize()} {kind} no. {n}") for n in range(1, count + 1)
        ]
        for n, (path, name) in enumerate(items):
            described = edition == 1 or edition >= 7 or (edition >= 3 and n < 8)
            tip = f'<aside><a class="tip" href="{guide_link}">How to splice</a></aside>' if edition != 6 or n < 3 else ""
            add_product(
                site,
                path,
                name,
                BOATS,
                price=f"£{12 + n}.50",
                described=described,
                extra=tip,
                alt=None if kind == "paint" and n % 2 and edition < 8 else "",
            )
        filters = [(f"/shop/{kind}/?sort=price", "By price"), (f"/shop/{kind}/?stock=now", "In stock")]
        body = paragraph(f"kind {kind}", BOATS, 4) + links(filters) + links(items)
        site.add(
            Page(
                f"/shop/{kind}/",
                f"{kind.capitalize()} for small boats | Tidewrack Chandlery",
                f"<p>{body}</p>",
                describe(kind, BOATS),
            )
        )
    site.add(
        Page(
            "/shop/",
            "The shop for small-boat gear | Tidewrack Chandlery",
            "<p>" + paragraph("shop", BOATS, 3) + "</p>" + links([(f"/shop/{k}/", k.capitalize()) for k in kinds]),
            describe("shop", BOATS),
        )
    )
    _tidewrack_guides(site, moved)
    _tidewrack_pages(site, edition)
    if edition >= 7:
        site.move("/guides/splicing-rope", "/guides/rope/splicing-rope")
    if edition >= 2:
        site.picture("/img/harbour.png", 210_000 + edition * 25_000)
    site.resources["/static/count.js"] = Resource(b"navigator.sendBeacon('/count');\n", content_type="text/javascript")
    site.robots = f"User-agent: *\nDisallow: /basket\n{'Disallow: /shop' + chr(10) if edition == 10 else ''}Sitemap: {origin(host)}/sitemap.xml\n"
    return site


def _tidewrack_guides(site: Site, moved: bool) -> None:
    names = [
        "splicing rope",
        "choosing an anchor",
        "winter lay-up",
        "painting the deck",
        "reading the tide",
        "mooring alone",
        "care of pumps",
        "knots for the pontoon",
        "lights on the water",
        "rowing upstream",
        "sharing a lock",
        "a first night aboard",
        "reefing early",
        "leaving a lee shore",
    ]
    entries = []
    for name in names:
        slug = name.replace(" ", "-")
        path = f"/guides/rope/{slug}" if moved and slug == "splicing-rope" else f"/guides/{slug}"
        entries.append((path, name.capitalize()))
        body = paragraphs(path, BOATS, 7).replace("<p>", "<h2>Step by step</h2><p>", 1)
        data: dict[str, object] = {
            "@type": "Article",
            "headline": name,
            "author": {"@type": "Person", "name": "The rigging loft"},
        }
        site.add(Page(path, f"A guide to {name} | Tidewrack Chandlery", body, describe(path, BOATS), data=data))
    if moved:
        site.gone("/guides/splicing-rope")
    site.add(
        Page(
            "/guides/",
            "Guides for small boats | Tidewrack Chandlery",
            f"<p>{paragraph('guides', BOATS, 3)}</p>" + links(entries),
            describe("guides", BOATS),
        )
    )


def _tidewrack_pages(site: Site, edition: int) -> None:
    front = (
        img("/img/harbour.png", "The harbour at low water")
        + paragraphs("home", BOATS, 5)
        + '<a href="/old-catalogue">Last year\'s catalogue</a>'
    )
    if edition == 1:
        front += '<a href="/shop/anchors/kedge">The kedge anchor</a>'
    site.picture("/img/harbour.png", 150_000)
    site.add(
        Page(
            "/",
            "Tidewrack Chandlery, gear for small boats",
            front,
            describe("home", BOATS),
            data={"@type": "Organization", "name": "Tidewrack Chandlery"},
        )
    )
    about = Page("/about", "About Tidewrack Chandlery", paragraphs("about", BOATS, 5), describe("about", BOATS))
    about.robots = "noindex" if edition == 6 else ""
    site.add(about)
    site.add(Page("/contact", "Contact", "<p>Write to post@tidewrack.example.</p>", describe("contact", BOATS)))
    site.add(
        Page(
            "/delivery",
            "Delivery and returns | Tidewrack Chandlery",
            paragraphs("delivery", BOATS, 5),
            describe("delivery", BOATS),
            canonical=f"{site.theme.origin}/" if edition == 6 else None,
        )
    )
    # The counter was forgotten in the template of this one page.
    counter, site.theme.head_first = site.theme.head_first, ""
    site.add(
        Page(
            "/privacy",
            "How we handle your data | Tidewrack Chandlery",
            paragraphs("privacy", BOATS, 5),
            describe("privacy", BOATS),
        )
    )
    site.theme.head_first = counter
    site.move("/old-catalogue", "/shop/", 302)
    if edition in (1, 2, 9, 10):
        site.add(
            Page("/guides/tides", "Tide tables", paragraphs("tides", BOATS, 5), "Tide tables for the estuary.", h1=None),
            listed=True,
        )
    if edition >= 8:
        site.listed.append("/shop/rope/discontinued-line")


def saltline(edition: int) -> Site:
    """A competitor that is well kept but was slow for one edition (7), and whose robots.txt is a page (4) or somewhere else (7) for a while."""
    host = "saltline-stores.example"
    theme = Theme("Saltline Stores", origin(host), [("Gear", "/gear/"), ("Advice", "/advice/"), ("Help", "/help")])
    site = Site(
        theme,
        robots=f"User-agent: *\nAllow: /\n\nUser-agent: SlowReader\nCrawl-delay: 30\n\nSitemap: {origin(host)}/sitemap.xml\n",
        headers=(("Strict-Transport-Security", "max-age=31536000"),),
    )
    site.wait_s = 0.9 if edition == 7 else 0.0
    if edition == 4:
        site.resources["/robots.txt"] = Resource(b"<!doctype html><title>Saltline Stores</title><p>Nothing here")
    if edition == 7:
        site.move("/robots.txt", "/static/robots.txt")
        site.resources["/static/robots.txt"] = Resource(site.robots.encode(), content_type="text/plain; charset=utf-8")
    items = [
        (f"/gear/item-{n}", f"{BOATS['traits'][n % 10].capitalize()} {BOATS['things'][n % 12]} {n}")
        for n in range(1, 95 + 2 * edition)
    ]
    for path, name in items:
        add_product(site, path, name, BOATS, price="£19.90", described=True)
    advice = [(f"/advice/topic-{n}", f"Advice on {BOATS['things'][n]}") for n in range(8)]
    for path, name in advice:
        site.add(Page(path, f"{name} for small boats | Saltline", paragraphs(path, BOATS, 6), describe(path, BOATS)))
    site.add(
        Page(
            "/gear/",
            "All gear at Saltline Stores",
            f"<p>{paragraph('gear', BOATS, 5)}</p>" + links(items),
            describe("gear", BOATS),
        )
    )
    site.add(
        Page(
            "/advice/",
            "Advice for small boats | Saltline",
            f"<p>{paragraph('advice', BOATS, 5)}</p>" + links(advice),
            describe("advice", BOATS),
        )
    )
    site.add(Page("/help", "Help and delivery at Saltline Stores", paragraphs("help", BOATS, 5), describe("help", BOATS)))
    site.add(
        Page("/", "Saltline Stores, gear for boats of every size", paragraphs("saltline", BOATS, 6), describe("saltline", BOATS))
    )
    return site


def harbour_and_hitch(edition: int) -> Site:
    """A competitor with a worn-out template: most faults of markup stand here.

    Its server answers over http and under www too; its certificate is another trouble in every round.
    """
    host = "harbour-and-hitch.example"
    menu = [("Stock", "/stock/"), ("Old news", "/news"), ("Visit", "/visit")]
    theme = Theme(
        "Harbour and Hitch", origin(host), menu, lang="", viewport=None, doctype=False, canonical=False, social=False, icon=False
    )
    theme.menu_extra = '<a href="/wishlist"><i class="icon"></i></a>'
    site = Site(
        theme,
        robots=f"Disallow: /attic\nUser agent: *\nDisalow: /tmp\nUser-agent: *\nDisallow: /tmp\nDisallow: /wishlist\nDisallow: /stock/2\nSitemap: {origin(host)}/none.xml\n",
        gzip=False,
        sitemap=edition >= 7,
        plain=("/", "/visit"),
        www=True,
        certificate={1: "old", 4: "untrusted", 7: "expired", 10: "weak"}.get(edition, ""),
    )
    if edition == 4:
        site.robots += "".join(f"# {n}\n" for n in range(90_000))
    if edition == 7:
        _add_sitemaps(site)
    items = [(f"/stock/{n}", f"{BOATS['things'][n % 12].capitalize()}") for n in range(1, 71)]
    for n, (path, name) in enumerate(items):
        extra = (
            img(f"/img/stock-{n % 5}.png", None)
            + '<p id="a">x</p><p id="a">y</p>'
            + ('<form action="http://harbour-and-hitch.example/order"></form>' if n % 6 == 0 else "")
        )
        site.add(Page(path, name, paragraphs(path, BOATS, 2 + n % 3) + extra, _careless(n), h1=None if n % 7 == 0 else ""))
        if edition == 4 and n % 4 == 0:
            site.gone(path, 403)
    site.resources["/stock/3"] = replace(site.resources["/stock/3"], manner="none")
    site.resources["/stock/6"] = replace(site.resources["/stock/6"], manner="cut")
    site.resources["/stock/9"] = replace(site.resources["/stock/9"], manner="old")
    for n in range(4):
        site.picture(f"/img/stock-{n}.png", 120_000 + 60_000 * n)
    site.add(
        Page(
            "/stock/",
            "Stock",
            links(items) + '<a href="http://harbour-and-hitch.example/visit">Visit us</a><a href="http://">Map</a>',
            "Our stock.",
        )
    )
    site.add(
        Page(
            "/visit",
            "Visit Harbour and Hitch",
            "<h1>Visit us</h1><h1>Find us</h1>" + paragraphs("visit", BOATS, 4),
            "",
            h1=None,
            head='<script src="http://cdn.example/map.js"></script><div>Notice</div><link rel="canonical" href="/visit">',
        )
    )
    site.add(
        Page(
            "/",
            "Harbour and Hitch, ropes, hooks and hardware for boats, barges, rafts and everything that floats",
            paragraphs("hh", BOATS, 3)
            + '<a href="/loop-a">Offers</a><a href="/dead">Sale</a><a href="/chain-1">New</a><a href="/private">Trade</a><a href="/fault">Search</a><a href="/deep/1">Archive</a>',
            paragraph("long", BOATS, 4),
        )
    )
    site.move("/loop-a", "/loop-b")
    site.move("/loop-b", "/loop-a")
    site.move("/dead", "/nowhere")
    site.move("/chain-1", "/chain-2")
    site.move("/chain-2", "/stock/")
    site.gone("/private", 403)
    site.gone("/fault", 500)
    site.gone("/news", 410)
    for n in range(1, 5):
        site.add(
            Page(
                f"/deep/{n}",
                f"Archive of the year, part {n}",
                paragraphs(f"deep{n}", BOATS, 4) + f'<a href="/deep/{n + 1}">On</a>',
                None,
            ),
            listed=n != 4,
        )
    site.resources["/deep/5"] = site.resources["/deep/4"]
    return site


def _add_sitemaps(site: Site) -> None:
    """Sitemaps that are empty, broken and beyond what a reader takes."""
    head = '<?xml version="1.0" encoding="UTF-8"?>\n<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">'
    for name, body in (
        ("empty", f"{head}</urlset>"),
        ("broken", f"{head}<url><loc>https://harbour-and-hitch.example/stock/1</url>"),
        ("huge", f"{head}<!--{'stock ' * 9_000_000}--></urlset>"),
    ):
        site.resources[f"/{name}.xml"] = Resource(body.encode(), content_type="application/xml")
        site.robots += f"Sitemap: {site.theme.origin}/{name}.xml\n"


def _careless(n: int) -> str | None:
    """Descriptions as a careless shop keeps them: none, an empty one, or the same for all."""
    return (None, "", "Hardware for boats.")[n % 3]
