"""The simulated sites, edition by edition. Everything is decided by host, path and edition alone."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from itertools import product

from hodcarrier.demo.pages import Page, Resource, Site, Theme
from hodcarrier.demo.words import BOATS, CLAY, SEEDS, paragraph, paragraphs

EDITIONS = 4


def origin(host: str) -> str:
    """The origin of a simulated site."""
    return f"https://{host}"


def _describe(seed: str, words: dict[str, list[str]]) -> str:
    return paragraph("desc " + seed, words, 2)[:155]


def _img(path: str, alt: str | None) -> str:
    return f'<img src="{path}" width="640" height="480"' + (f' alt="{alt}">' if alt is not None else ">")


def _links(pairs: list[tuple[str, str]]) -> str:
    return "<ul>" + "".join(f'<li><a href="{href}">{text}</a></li>' for href, text in pairs) + "</ul>"


def _product(
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
    picture = "/img/" + path.strip("/").replace("/", "-") + ".png"
    body = _img(picture, name if alt == "" else alt) + f"<p>{price}</p>" + paragraphs(path, words, 4) + extra
    data: dict[str, object] = {
        "@type": "Product",
        "name": name,
        "offers": {"@type": "Offer", "price": price[1:], "priceCurrency": "GBP"},
    }
    title = f"{name} | {site.theme.name}"
    site.add(Page(path, title, body, _describe(path, words) if described else None, data=data))
    site.picture(picture, 26_000)


def tidewrack(edition: int) -> Site:
    """A shop for small-boat gear: loses its descriptions, moves a guide, and shuts its shop out of search."""
    host = "tidewrack.example"
    menu = [("Shop", "/shop/"), ("Guides", "/guides/"), ("About us", "/about"), ("Contact", "/contact")]
    theme = Theme("Tidewrack Chandlery", origin(host), menu, footer=[("Delivery", "/delivery"), ("Privacy", "/privacy")])
    site = Site(theme, headers=(("Strict-Transport-Security", "max-age=31536000"),))
    kinds = {"rope": 9, "anchors": 8, "fenders": 8, "pumps": 7, "paint": 7, "clothing": 7}
    moved = edition >= 3
    guide_link = "/guides/splicing-rope"
    for kind, count in kinds.items():
        items = [
            (f"/shop/{kind}/{kind}-{n}", f"{BOATS['traits'][n % 10].capitalize()} {kind} no. {n}") for n in range(1, count + 1)
        ]
        for n, (path, name) in enumerate(items):
            described = edition == 1 or (edition >= 3 and n < 4)
            tip = f'<aside><a class="tip" href="{guide_link}">How to splice</a></aside>' if edition != 4 or n < 3 else ""
            _product(
                site,
                path,
                name,
                BOATS,
                price=f"£{12 + n}.50",
                described=described,
                extra=tip,
                alt=None if kind == "paint" and n % 2 else "",
            )
        body = paragraph(f"kind {kind}", BOATS, 4) + _links(items)
        site.add(
            Page(
                f"/shop/{kind}/",
                f"{kind.capitalize()} for small boats | Tidewrack Chandlery",
                f"<p>{body}</p>",
                _describe(kind, BOATS),
            )
        )
    site.add(
        Page(
            "/shop/",
            "The shop for small-boat gear | Tidewrack Chandlery",
            "<p>" + paragraph("shop", BOATS, 3) + "</p>" + _links([(f"/shop/{k}/", k.capitalize()) for k in kinds]),
            _describe("shop", BOATS),
        )
    )
    _tidewrack_guides(site, moved)
    _tidewrack_pages(site, edition)
    if edition >= 2:
        site.picture("/img/harbour.png", 210_000 + edition * 60_000)
    site.robots = f"User-agent: *\nDisallow: /basket\n{'Disallow: /shop' + chr(10) if edition == 4 else ''}Sitemap: {origin(host)}/sitemap.xml\n"
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
        site.add(Page(path, f"A guide to {name} | Tidewrack Chandlery", body, _describe(path, BOATS), data=data))
    if moved:
        site.gone("/guides/splicing-rope")
    site.add(
        Page(
            "/guides/",
            "Guides for small boats | Tidewrack Chandlery",
            f"<p>{paragraph('guides', BOATS, 3)}</p>" + _links(entries),
            _describe("guides", BOATS),
        )
    )


def _tidewrack_pages(site: Site, edition: int) -> None:
    front = (
        _img("/img/harbour.png", "The harbour at low water")
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
            _describe("home", BOATS),
            data={"@type": "Organization", "name": "Tidewrack Chandlery"},
        )
    )
    site.add(Page("/about", "About Tidewrack Chandlery", paragraphs("about", BOATS, 5), _describe("about", BOATS)))
    site.add(Page("/contact", "Contact", "<p>Write to post@tidewrack.example.</p>", _describe("contact", BOATS)))
    site.add(
        Page(
            "/delivery",
            "Delivery and returns | Tidewrack Chandlery",
            paragraphs("delivery", BOATS, 5),
            _describe("delivery", BOATS),
        )
    )
    site.add(
        Page(
            "/privacy",
            "How we handle your data | Tidewrack Chandlery",
            paragraphs("privacy", BOATS, 5),
            _describe("privacy", BOATS),
        )
    )
    site.move("/old-catalogue", "/shop/", 302)
    if edition in (1, 4):
        site.add(
            Page("/guides/tides", "Tide tables", paragraphs("tides", BOATS, 5), "Tide tables for the estuary.", h1=None),
            listed=True,
        )
    if edition >= 3:
        site.listed.append("/shop/rope/discontinued-line")


def pellow(edition: int) -> Site:
    """A pottery studio in three languages: Welsh is added without return links, and its certificate nears its end."""
    host = "pellow-kiln.example"
    theme = Theme(
        "Pellow Kiln Studio",
        origin(host),
        [("Classes", "/classes/"), ("Studio", "/studio"), ("Journal", "/journal/"), ("Contact", "/contact")],
    )
    site = Site(theme, robots=f"User-agent: *\nDisallow: /account\nSitemap: {origin(host)}/sitemap.xml\n")
    site.certificate_days = 9
    classes = ["wheel for beginners", "hand building", "glazing", "raku day", "kiln care", "porcelain"]
    entries = []
    for name in classes:
        slug = name.replace(" ", "-")
        path = f"/classes/{slug}"
        entries.append((path, name.capitalize()))
        versions = [("en", origin(host) + path), ("fr", f"{origin(host)}/fr{path}")]
        if edition >= 2:
            versions.append(("cy", f"{origin(host)}/cy{path}"))
        site.add(
            Page(
                path,
                f"{name.capitalize()}: a class at Pellow Kiln",
                paragraphs(path, CLAY, 5),
                _describe(path, CLAY),
                alternates=versions,
            )
        )
        site.add(
            Page(
                f"/fr{path}",
                f"Cours : {name} à Pellow Kiln",
                paragraphs("fr" + path, CLAY, 5),
                _describe("fr" + path, CLAY),
                lang="fr",
                alternates=versions,
            )
        )
        if edition >= 2:
            back = versions if edition == 4 and slug != "porcelain" else [("cy", f"{origin(host)}/cy{path}")]
            site.add(
                Page(
                    f"/cy{path}",
                    f"Dosbarth: {name} yn Pellow Kiln",
                    paragraphs("cy" + path, CLAY, 5),
                    _describe("cy" + path, CLAY),
                    lang="cy",
                    alternates=back,
                )
            )
    languages = [("/fr/", "Français")] + ([("/cy/", "Cymraeg")] if edition >= 2 else [])
    for code, label in languages:
        listed = [(f"{code.rstrip('/')}{href}", text) for href, text in entries]
        site.add(
            Page(
                code,
                f"Pellow Kiln Studio, {label}",
                paragraphs(code, CLAY, 4) + _links(listed),
                _describe(code, CLAY),
                lang=code.strip("/"),
            )
        )
    site.add(
        Page(
            "/classes/",
            "Pottery classes at Pellow Kiln Studio",
            f"<p>{paragraph('classes', CLAY, 4)}</p>" + _links(entries),
            _describe("classes", CLAY),
        )
    )
    journal = [(f"/journal/note-{n}", f"Studio note {n}") for n in range(1, 9)]
    for n, (path, name) in enumerate(journal):
        heading = "<h3>Afterwards</h3>" if n % 3 == 0 else ""
        site.add(
            Page(
                path,
                f"{name} from the kiln | Pellow Kiln",
                paragraphs(path, CLAY, 4) + heading,
                _describe(path, CLAY),
                data={"@type": "Article", "headline": name},
                broken_data=edition >= 3 and n == 2,
            )
        )
    site.add(
        Page(
            "/journal/",
            "Journal of the studio | Pellow Kiln",
            f"<p>{paragraph('journal', CLAY, 4)}</p>" + _links(journal),
            _describe("journal", CLAY),
        )
    )
    home = paragraphs("pellow home", CLAY, 5) + _links([*languages, ("/classes/", "All classes"), ("/journal/", "Journal")])
    site.add(
        Page(
            "/",
            "Pellow Kiln Studio, pottery classes by the river",
            home,
            _describe("pellow", CLAY),
            data={"@type": "Organization", "name": "Pellow Kiln Studio"},
        )
    )
    site.add(
        Page(
            "/studio",
            "The studio and its kilns | Pellow Kiln",
            paragraphs("studio", CLAY, 5) + _img("/img/studio.png", None),
            _describe("studio", CLAY),
        )
    )
    site.add(
        Page(
            "/contact",
            "How to reach the Pellow Kiln Studio",
            "<p>" + paragraph("contact", CLAY, 4) + "</p>",
            _describe("reach", CLAY),
        )
    )
    site.picture("/img/studio.png", 80_000 + 50_000 * edition)
    return site


def ardmoor(edition: int) -> Site:
    """A charity's catalogue of heritage seeds with many articles: slowly mended, with a sitemap that goes stale."""
    host = "ardmoor-seeds.example"
    theme = Theme(
        "Ardmoor Seed Library",
        origin(host),
        [("Seeds", "/seeds/"), ("Growing", "/growing/"), ("Join", "/join"), ("Contact us", "/contact")],
        social=edition >= 3,
    )
    site = Site(theme, robots=f"User-agent: *\nDisallow: /members\nSitemap: {origin(host)}/sitemap.xml\n", gzip=edition >= 2)
    site.headers = (("Strict-Transport-Security", "max-age=63072000"),)
    families = ["beans", "peas", "tomatoes", "roots", "brassicas"]
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
            short = edition < 3 and n in (3, 7)
            title = SEEDS["things"][n].capitalize() if short else f"{name} seed from {family} | Ardmoor"
            body = _img(f"/img/{family}.png", None if edition < 4 and n % 4 == 0 else name) + paragraphs(path, SEEDS, 4)
            site.add(
                Page(path, title, body, None if edition < 2 and n < 5 else _describe(path, SEEDS), h1=name),
                listed=edition < 3 or n != 5,
            )
        site.picture(f"/img/{family}.png", 230_000 if edition < 3 else 90_000)
        overview.append((f"/seeds/{family}/", family.capitalize()))
        site.add(
            Page(
                f"/seeds/{family}/",
                f"Heritage {family} in the seed library",
                f"<p>{paragraph(family, SEEDS, 5)}</p>" + _links(items),
                _describe(family, SEEDS),
            )
        )
    articles = [
        (f"/growing/{a}-{b}".replace(" ", "-"), f"{a.capitalize()} {b}")
        for a, b in product(["sowing", "saving", "storing", "sharing"], SEEDS["things"][:10])
    ]
    for n, (path, name) in enumerate(articles):
        link = '<p><a href="/growing/seed-swap-2019">The last swap</a></p>' if edition < 4 and n % 8 == 0 else ""
        same = "Growing heritage vegetables | Ardmoor Seed Library" if n < 3 else f"{name}: notes for gardeners | Ardmoor"
        data: dict[str, object] = {
            "@type": "Article",
            "headline": name,
            "author": {"@type": "Organization", "name": "Ardmoor Seed Library"},
        }
        site.add(Page(path, same, paragraphs(path, SEEDS, 6) + link, _describe(path, SEEDS), h1=name, data=data))
    site.add(
        Page(
            "/seeds/",
            "All seeds in the library | Ardmoor",
            f"<p>{paragraph('seeds', SEEDS, 5)}</p>" + _links(overview),
            _describe("seeds", SEEDS),
        )
    )
    site.add(
        Page(
            "/growing/",
            "Growing and saving heritage seed | Ardmoor",
            f"<p>{paragraph('growing', SEEDS, 5)}</p>" + _links(articles),
            _describe("growing", SEEDS),
        )
    )
    home = paragraphs("ardmoor", SEEDS, 5) + _links([("/seeds/", "Seeds"), ("/growing/", "Growing")])
    site.add(
        Page(
            "/",
            "Ardmoor Seed Library, heritage seed to borrow and share",
            home,
            _describe("ardmoor", SEEDS),
            data={"@type": "Organization", "name": "Ardmoor Seed Library"},
        )
    )
    site.add(Page("/join", "Join the Ardmoor Seed Library", paragraphs("join", SEEDS, 5), _describe("join", SEEDS)))
    site.add(
        Page(
            "/contact",
            "Contact us at the seed library",
            "<p>Write to seeds@ardmoor-seeds.example.</p>",
            _describe("ardmoor contact", SEEDS),
        )
    )
    if edition >= 3:
        site.listed += ["/seeds/beans/withdrawn-1", "/seeds/beans/withdrawn-2"]
    return site


def saltline(edition: int) -> Site:
    """A competitor that is well kept but was slow for one edition."""
    host = "saltline-stores.example"
    theme = Theme("Saltline Stores", origin(host), [("Gear", "/gear/"), ("Advice", "/advice/"), ("Help", "/help")])
    site = Site(
        theme,
        robots=f"User-agent: *\nAllow: /\nSitemap: {origin(host)}/sitemap.xml\n",
        headers=(("Strict-Transport-Security", "max-age=31536000"),),
    )
    site.wait_s = 0.9 if edition == 3 else 0.0
    items = [
        (f"/gear/item-{n}", f"{BOATS['traits'][n % 10].capitalize()} {BOATS['things'][n % 12]} {n}")
        for n in range(1, 46 + edition)
    ]
    for path, name in items:
        _product(site, path, name, BOATS, price="£19.90", described=True)
    advice = [(f"/advice/topic-{n}", f"Advice on {BOATS['things'][n]}") for n in range(8)]
    for path, name in advice:
        site.add(Page(path, f"{name} for small boats | Saltline", paragraphs(path, BOATS, 6), _describe(path, BOATS)))
    site.add(
        Page(
            "/gear/",
            "All gear at Saltline Stores",
            f"<p>{paragraph('gear', BOATS, 5)}</p>" + _links(items),
            _describe("gear", BOATS),
        )
    )
    site.add(
        Page(
            "/advice/",
            "Advice for small boats | Saltline",
            f"<p>{paragraph('advice', BOATS, 5)}</p>" + _links(advice),
            _describe("advice", BOATS),
        )
    )
    site.add(Page("/help", "Help and delivery at Saltline Stores", paragraphs("help", BOATS, 5), _describe("help", BOATS)))
    site.add(
        Page("/", "Saltline Stores, gear for boats of every size", paragraphs("saltline", BOATS, 6), _describe("saltline", BOATS))
    )
    return site


def harbour_and_hitch(edition: int) -> Site:
    """A competitor with a worn-out template: most faults of markup stand here."""
    host = "harbour-and-hitch.example"
    menu = [("Stock", "/stock/"), ("Old news", "/news"), ("Visit", "/visit")]
    theme = Theme("Harbour and Hitch", origin(host), menu, lang="", viewport=None, doctype=False, canonical=False, social=False)
    theme.menu_extra = '<a href="/wishlist"><i class="icon"></i></a>'
    site = Site(
        theme,
        robots="User agent: *\nDisalow: /tmp\nUser-agent: *\nDisallow: /tmp\nDisallow: /wishlist\n",
        gzip=False,
        sitemap=edition >= 3,
    )
    items = [(f"/stock/{n}", f"{BOATS['things'][n % 12].capitalize()}") for n in range(1, 36)]
    for n, (path, name) in enumerate(items):
        extra = (
            _img(f"/img/stock-{n % 5}.png", None)
            + '<p id="a">x</p><p id="a">y</p>'
            + ('<form action="http://harbour-and-hitch.example/order"></form>' if n % 6 == 0 else "")
        )
        site.add(Page(path, name, paragraphs(path, BOATS, 2 + n % 3) + extra, _careless(n), h1=None if n % 7 == 0 else ""))
    for n in range(4):
        site.picture(f"/img/stock-{n}.png", 120_000 + 60_000 * n)
    site.add(
        Page(
            "/stock/",
            "Stock",
            _links(items) + '<a href="http://harbour-and-hitch.example/visit">Visit us</a><a href="http://">Map</a>',
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


def _careless(n: int) -> str | None:
    """Descriptions as a careless shop keeps them: none, an empty one, or the same for all."""
    return (None, "", "Hardware for boats.")[n % 3]


def clayfold(edition: int) -> Site:
    """A competitor whose evening school forbids zooming and hides a page it lists."""
    host = "clayfold-school.example"
    theme = Theme(
        "Clayfold School",
        origin(host),
        [("Courses", "/courses/"), ("Staff", "/staff")],
        viewport="width=device-width, user-scalable=no",
        social=False,
    )
    site = Site(theme, robots="User-agent: *\nDisallow: /admin\n")
    items = [(f"/courses/{n}", f"Course {n}: the {CLAY['things'][n % 10]}") for n in range(1, 20 + edition)]
    for n, (path, name) in enumerate(items):
        robots = "noindex" if n == 3 else ""
        canonical = origin(host) + "/courses/gone" if n == 5 else None
        site.add(
            Page(
                path,
                f"{name} at Clayfold School",
                paragraphs(path, CLAY, 5),
                _describe(path, CLAY),
                robots=robots,
                canonical=canonical,
            )
        )
    site.add(
        Page(
            "/courses/",
            "Courses at Clayfold School",
            f"<p>{paragraph('courses', CLAY, 5)}</p>" + _links(items),
            _describe("courses", CLAY),
        )
    )
    site.add(
        Page(
            "/staff",
            "The staff of Clayfold School",
            paragraphs("staff", CLAY, 5) + ("<p>" + "a" * 210_000 + "</p>" if edition == 2 else ""),
            _describe("staff", CLAY),
        )
    )
    site.add(Page("/lone", "A page that nothing links to", paragraphs("lone", CLAY, 5), _describe("lone", CLAY)))
    site.add(
        Page(
            "/",
            "Clayfold School of pottery",
            paragraphs("clayfold", CLAY, 5),
            _describe("clayfold", CLAY),
            robots="noindex" if edition == 3 else "",
            head='<link rel="canonical" href="/home">' if edition == 2 else "",
        )
    )
    return site


def two_rivers(edition: int) -> Site:
    """A competitor without a robots.txt, growing every week."""
    host = "two-rivers-seedbank.example"
    theme = Theme("Two Rivers Seedbank", origin(host), [("Collection", "/collection/"), ("News", "/news/")])
    site = Site(theme, sitemap=edition >= 2)
    items = [
        (f"/collection/{n}", f"{SEEDS['traits'][n % 10].capitalize()} {SEEDS['things'][n % 12]} {n}")
        for n in range(1, 45 + 4 * edition)
    ]
    for n, (path, name) in enumerate(items):
        site.add(
            Page(
                path,
                f"{name} | Two Rivers",
                paragraphs(path, SEEDS, 4 if n % 3 else 2),
                _describe(path, SEEDS) if n % 4 else None,
            )
        )
    news = [(f"/news/{n}", f"News from the seedbank {n}") for n in range(1, 13)]
    for path, name in news:
        site.add(Page(path, f"{name} | Two Rivers", paragraphs(path, SEEDS, 5), _describe(path, SEEDS)))
    site.add(
        Page(
            "/collection/",
            "The collection of Two Rivers",
            f"<p>{paragraph('coll', SEEDS, 5)}</p>" + _links(items),
            _describe("coll", SEEDS),
        )
    )
    site.add(
        Page(
            "/news/",
            "News from Two Rivers Seedbank",
            f"<p>{paragraph('news', SEEDS, 5)}</p>" + _links(news),
            _describe("news", SEEDS),
        )
    )
    site.add(
        Page("/", "Two Rivers Seedbank, a home for old seed", paragraphs("two rivers", SEEDS, 5), _describe("two rivers", SEEDS))
    )
    return site


SITES: dict[str, Callable[[int], Site]] = {
    "tidewrack.example": tidewrack,
    "saltline-stores.example": saltline,
    "harbour-and-hitch.example": harbour_and_hitch,
    "pellow-kiln.example": pellow,
    "clayfold-school.example": clayfold,
    "ardmoor-seeds.example": ardmoor,
    "two-rivers-seedbank.example": two_rivers,
}


@lru_cache(maxsize=64)
def build(host: str, edition: int) -> tuple[dict[str, Resource], bool]:
    """All resources of a site in an edition, and whether its server compresses."""
    site = SITES[host](edition)
    return site.finish(), site.gzip
