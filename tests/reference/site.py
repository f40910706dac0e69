"""A made-up site that is in order in every respect the catalogue knows: three languages, structured data, sitemap, https.

It is made of answers by path, so that a test can break one thing in it and see exactly what is said of it.
"""

from __future__ import annotations

import json
from dataclasses import replace
from functools import cache
from typing import Any

from hodcarrier.core.catalogue import Sample

ORIGIN = "https://shop.example"
LANGUAGES = {"en": "", "de": "/de", "cy": "/cy"}
NAME = "Tidal Rope"
ADDRESS = "Harbour Street 4, SA1 2BC Milltown"
SAFE = (
    ("content-encoding", "gzip"),
    ("strict-transport-security", "max-age=31536000"),
    ("content-security-policy", "default-src 'self'; frame-ancestors 'self'"),
    ("x-content-type-options", "nosniff"),
    ("referrer-policy", "strict-origin-when-cross-origin"),
)
KEPT = (("cache-control", "max-age=31536000"), ("content-encoding", "gzip"))
HTML = (("content-type", "text/html; charset=utf-8"), *SAFE)

# Sentences that hold for any page; what they are about is put into each of them twice.
SENTENCES = {
    "en": (
        "Our {thing} is made in the old yard by the harbour, where {other} has been made for a hundred years.",
        "Three people look at every {thing} before it leaves the yard, and they know {other} by touch.",
        "You can wash the {thing} in fresh water after each trip, as you would wash {other} at home.",
        "Hang the {thing} in the shade to dry, because {other} grows hard in the sun over a summer.",
        "Ask for {thing} by the metre, and we cut {other} to the length that your boat needs.",
        "Sailors tell us that {thing} lies well in the hand, even when {other} is wet and cold.",
        "We ship {thing} twice a week from the small post office, together with {other} for the islands.",
        "When your {thing} wears out, send it back to us, and we will turn it into {other} for the garden.",
        "The price of {thing} has not changed since spring, and the price of {other} will stay until winter.",
        "A good {thing} should last for ten seasons, while {other} may need a closer look after five.",
        "Children like to help with {thing} in the yard, and old hands show them how {other} is done.",
        "If you are not sure whether {thing} suits you, write to us about {other} and your plans at sea.",
        "Each {thing} has a small blue mark at one end, so that you can tell it from {other} in the dark.",
    ),
    "de": (
        "Unser Angebot rund um {thing} entsteht in der alten Werft am Hafen, wo man seit hundert Jahren {other} fertigt.",
        "Drei Leute sehen sich {thing} an, bevor etwas den Hof verlässt, und sie kennen {other} mit den Händen.",
        "Nach jeder Fahrt kann man {thing} in klarem Wasser waschen, so wie man {other} zu Hause wäscht.",
        "Zum Trocknen gehört {thing} in den Schatten, denn die Sonne macht {other} über den Sommer hart.",
        "Wir geben {thing} nach Metern ab und schneiden {other} so lang, wie es das Boot braucht.",
        "Segler sagen uns, dass {thing} gut in der Hand liegt, auch wenn {other} nass und kalt ist.",
        "Zweimal in der Woche geht {thing} von der kleinen Post aus auf die Reise, dazu {other} für die Inseln.",
        "Was von {thing} alt geworden ist, nehmen wir zurück und machen daraus {other} für den Garten.",
        "Der Preis für {thing} ist seit dem Frühling gleich, und der Preis für {other} bleibt bis zum Winter.",
        "Gute Ware wie {thing} hält zehn Jahre, während man {other} nach fünf Jahren einmal prüfen sollte.",
        "Auch Kinder helfen gern, wenn es um {thing} geht, und die Alten zeigen ihnen, wie man {other} macht.",
        "Wer nicht weiß, ob {thing} zu ihm passt, schreibt uns von {other} und von seinen Plänen auf See.",
        "An einem Ende trägt {thing} ein kleines blaues Zeichen, damit man {other} im Dunkeln davon trennt.",
    ),
    "cy": (
        "Mae ein {thing} yn cael ei wneud yn yr hen iard wrth yr harbwr, lle mae {other} wedi cael ei wneud ers can mlynedd.",
        "Mae tri o bobl yn edrych ar bob {thing} cyn iddo adael yr iard, ac maen nhw'n adnabod {other} wrth ei deimlo.",
        "Gallwch olchi {thing} mewn dŵr croyw ar ôl pob taith, fel y byddech chi'n golchi {other} gartref.",
        "Rhowch {thing} yn y cysgod i sychu, achos mae {other} yn mynd yn galed yn yr haul dros yr haf.",
        "Gofynnwch am {thing} fesul metr, ac fe wnawn ni dorri {other} i'r hyd sydd ei angen ar eich cwch.",
        "Mae morwyr yn dweud bod {thing} yn gorwedd yn dda yn y llaw, hyd yn oed pan fydd {other} yn wlyb ac yn oer.",
        "Rydyn ni'n anfon {thing} ddwywaith yr wythnos o'r swyddfa bost fach, gyda {other} i'r ynysoedd.",
        "Pan fydd eich {thing} wedi treulio, anfonwch ef yn ôl atom ni, a byddwn yn ei droi yn {other} i'r ardd.",
        "Nid yw pris {thing} wedi newid ers y gwanwyn, a bydd pris {other} yn aros tan y gaeaf.",
        "Dylai {thing} da bara am ddeg tymor, ond efallai y bydd angen golwg agosach ar {other} ar ôl pump.",
        "Mae plant yn hoffi helpu gyda {thing} yn yr iard, ac mae'r hen ddwylo yn dangos sut mae gwneud {other}.",
        "Os nad ydych yn siŵr a yw {thing} yn addas i chi, ysgrifennwch atom am {other} ac am eich cynlluniau ar y môr.",
        "Mae gan bob {thing} farc bach glas ar un pen, er mwyn i chi ei adnabod oddi wrth {other} yn y tywyllwch.",
    ),
}
# Of every page: its path without the language, its kind, and in each language its name and two things that it is about.
PAGES: dict[str, tuple[str, dict[str, tuple[str, str, str]]]] = {
    "/": ("home", {"en": ("Rope and twine for small boats", "rope", "twine"), "de": ("Seile und Garne für kleine Boote", "Seile", "Garne"), "cy": ("Rhaffau a llinyn i gychod bach", "rhaff", "llinyn")}),
    "/ropes/": ("list", {"en": ("All our ropes by the metre", "mooring line", "anchor cable"), "de": ("Alle unsere Seile nach Metern", "Festmacher", "Ankertaue"), "cy": ("Ein holl raffau fesul metr", "rhaff angori", "cebl angor")}),
    "/ropes/laid": ("product", {"en": ("Laid rope of three strands", "laid rope", "hemp"), "de": ("Geschlagenes Seil aus drei Litzen", "geschlagenes Tauwerk", "Hanf"), "cy": ("Rhaff droellog o dri llinyn", "rhaff droellog", "cywarch")}),
    "/ropes/braided": ("product", {"en": ("Braided sheet for winches", "braided sheet", "polyester"), "de": ("Geflochtene Schot für Winschen", "geflochtene Schot", "Polyester"), "cy": ("Rhaff blethedig i winshis", "rhaff blethedig", "polyester")}),
    "/guides/": ("list", {"en": ("Guides from the rigging desk", "guide", "serving"), "de": ("Ratgeber aus der Taklerei", "Taklerei", "Bekleidung"), "cy": ("Canllawiau o'r ddesg rigio", "rigio", "lapio")}),
    "/guides/knots": ("article", {"en": ("Five knots to learn first", "bowline", "clove hitch"), "de": ("Fünf Knoten für den Anfang", "Palstek", "Webeleinstek"), "cy": ("Pum cwlwm i'w dysgu gyntaf", "cwlwm bowlin", "cwlwm clof")}),
    "/guides/care": ("article", {"en": ("How to care for old line", "old line", "whipping thread"), "de": ("Pflege für gebrauchte Leinen", "gebrauchte Leinen", "Taklergarn"), "cy": ("Sut i ofalu am hen raff", "hen raff", "edau chwipio")}),
    "/about": ("plain", {"en": ("About the yard and its people", "family yard", "workshop"), "de": ("Über uns und unsere Werft", "Familienbetrieb", "Werkstatt"), "cy": ("Amdanom ni a'r iard fach", "iard deuluol", "gweithdy")}),
    "/contact": ("contact", {"en": ("Contact the rigging desk", "letter", "parcel"), "de": ("Kontakt zur Taklerei am Hafen", "Brief", "Paket"), "cy": ("Cysylltu â'r ddesg rigio", "llythyr", "parsel")}),
    "/privacy": ("plain", {"en": ("Privacy notice of the yard", "customer list", "order book"), "de": ("Datenschutz in unserer Werft", "Kundenliste", "Bestellbuch"), "cy": ("Preifatrwydd yn ein iard ni", "rhestr cwsmeriaid", "llyfr archebion")}),
}  # fmt: skip
WORDS = {
    "en": {"home": "Home", "by": "By the rigging desk", "price": "4.20 EUR a metre", "mail": "Your address", "send": "Send", "why": "Why it lasts", "in": "English"},
    "de": {"home": "Startseite", "by": "Von der Taklerei", "price": "4,20 EUR je Meter", "mail": "Ihre Adresse", "send": "Senden", "why": "Warum es hält", "in": "Deutsch"},
    "cy": {"home": "Hafan", "by": "Gan y ddesg rigio", "price": "4.20 EUR y metr", "mail": "Eich cyfeiriad", "send": "Anfon", "why": "Pam mae'n para", "in": "Cymraeg"},
}  # fmt: skip
ARTICLE_DATE = "2026-05-04"


def url(path: str, lang: str = "en") -> str:
    """The address of a page in a language."""
    return f"{ORIGIN}{LANGUAGES[lang]}{path}"


def webp(width: int, height: int, number: int) -> bytes:
    """The beginning of an image of this size; ``number`` tells it from others."""
    body = (
        b"VP8X"
        + (10).to_bytes(4, "little")
        + b"\0\0\0\0"
        + (width - 1).to_bytes(3, "little")
        + (height - 1).to_bytes(3, "little")
    )
    rest = bytes([number % 256]) * 1_500
    return b"RIFF" + (4 + len(body) + len(rest)).to_bytes(4, "little") + b"WEBP" + body + rest


def data_of(path: str, kind: str, lang: str, title: str) -> list[dict[str, Any]]:
    """The structured data of a page."""
    where = url(path, lang)
    found: list[dict[str, Any]] = []
    if kind == "home":
        postal = {
            "@type": "PostalAddress",
            "streetAddress": "Harbour Street 4",
            "addressLocality": "Milltown",
            "addressCountry": "GB",
        }
        logo = f"{ORIGIN}/img/logo.webp"
        found.append(
            {
                "@type": "Organization",
                "name": NAME,
                "url": f"{ORIGIN}/",
                "logo": logo,
                "address": postal,
                "telephone": "+44 20 7946 0000",
            }
        )
    if kind == "product":
        offer = {
            "@type": "Offer",
            "price": "4.20",
            "priceCurrency": "EUR",
            "availability": "https://schema.org/InStock",
            "url": where,
        }
        found.append({"@type": "Product", "name": title, "image": f"{ORIGIN}/img{path}.webp", "offers": offer})
    if kind == "article":
        author = {"@type": "Organization", "name": "Rigging desk"}
        found.append(
            {
                "@type": "Article",
                "headline": title,
                "author": author,
                "datePublished": ARTICLE_DATE,
                "image": f"{ORIGIN}/img{path}.webp",
            }
        )
    if path != "/":
        trail = [("/", WORDS[lang]["home"]), (path, title)]
        entries = [
            {"@type": "ListItem", "position": n, "name": name, "item": url(p, lang)} for n, (p, name) in enumerate(trail, 1)
        ]
        found.append({"@type": "BreadcrumbList", "itemListElement": entries})
    return found


def head_of(path: str, kind: str, lang: str, title: str, about: str, other: str) -> str:
    """The head of a page."""
    where = url(path, lang)
    description = {
        "en": f"Everything that our yard by the harbour knows of {about} and {other}, for small boats.",
        "de": f"Alles, was unsere Werft am Hafen über {about} und {other} für kleine Boote weiß.",
        "cy": f"Popeth y mae ein iard wrth yr harbwr yn ei wybod am {about} a {other} i gychod bach.",
    }[lang]
    versions = "".join(f'<link rel="alternate" hreflang="{code}" href="{url(path, code)}">' for code in LANGUAGES)
    data = json.dumps({"@context": "https://schema.org", "@graph": data_of(path, kind, lang, title)}, ensure_ascii=False)
    return (
        f'<meta charset="utf-8"><title>{title} | {NAME}</title><meta name="description" content="{description}">'
        '<meta name="viewport" content="width=device-width, initial-scale=1">'
        f'<link rel="canonical" href="{where}">{versions}<link rel="alternate" hreflang="x-default" href="{url(path)}">'
        '<link rel="icon" href="/img/icon.webp"><link rel="apple-touch-icon" href="/img/touch.webp">'
        '<link rel="stylesheet" href="/css/site.css"><script src="/js/site.js" defer></script>'
        f'<meta property="og:title" content="{title}"><meta property="og:type" content="{"article" if kind == "article" else "website"}">'
        f'<meta property="og:url" content="{where}"><meta property="og:image" content="{ORIGIN}/img/share.webp">'
        f'<meta property="og:locale" content="{lang}"><meta name="twitter:card" content="summary">'
        f'<script type="application/ld+json">{data}</script>'
    )


def body_of(path: str, kind: str, lang: str, title: str, about: str, other: str) -> str:
    """The body of a page."""
    here, words = LANGUAGES[lang], WORDS[lang]

    def link(target: str, text: str = "") -> str:
        return f'<a href="{here}{target}">{text or PAGES[target][1][lang][0]}</a>'

    number = list(PAGES).index(path)
    pool = SENTENCES[lang]
    sentences = [pool[(number * 3 + n * 5) % len(pool)].format(thing=about, other=other) for n in range(len(pool))]
    text = f"<p>{' '.join(sentences[:7])}</p><h2>{words['why']}</h2><p>{' '.join(sentences[7:])}</p>"
    image = f'<img src="/img{path.rstrip("/") or "/home"}.webp" alt="{about}, {other}" width="400" height="300">'
    inside = {
        "home": link("/ropes/laid") + link("/guides/knots"),
        "list": "".join(f"<li>{link(p)}</li>" for p in PAGES if p != path and p.startswith(path)),
        "product": f"<p>{words['price']}</p>"
        + link("/guides/care")
        + link("/ropes/braided" if path == "/ropes/laid" else "/ropes/laid"),
        "article": f'<p class="byline">{words["by"]}, <time datetime="{ARTICLE_DATE}">{ARTICLE_DATE}</time></p>'
        + link("/ropes/laid"),
        "contact": f'<form action="{here}/contact" method="post"><label for="mail">{words["mail"]}</label><input id="mail" name="mail" type="email">'
        f"<button>{words['send']}</button></form>",
        "plain": link("/ropes/"),
    }[kind]
    if kind == "list":
        inside = f"<ul>{inside}</ul>"
    # The marks by which templates are told.
    main = f'<h1>{title}</h1>{image}<div class="{kind}"><div class="{kind}-text">{text}</div><div class="{kind}-more">{inside}</div></div>'
    if kind == "article":
        main = f"<article>{main}</article>"
    menu = "".join(f"<li>{link(p)}</li>" for p in ("/", "/ropes/", "/guides/", "/about", "/contact"))
    others = "".join(f'<a href="{LANGUAGES[code]}{path}">{WORDS[code]["in"]}</a> ' for code in LANGUAGES if code != lang)
    return (
        f"<header><nav><ul>{menu}</ul></nav></header><main>{main}</main>"
        f"<footer><address>{NAME}, {ADDRESS}</address>{link('/privacy')} {others}</footer>"
    )


@cache
def answers() -> dict[str, Sample]:
    """Every answer of the site, by path."""
    found: dict[str, Sample] = {}
    images = {
        "/img/icon.webp": (64, 64),
        "/img/touch.webp": (180, 180),
        "/img/share.webp": (1200, 630),
        "/img/logo.webp": (200, 80),
    }
    for path, (kind, names) in PAGES.items():
        images[f"/img{path.rstrip('/') or '/home'}.webp"] = (400, 300)
        for lang, (title, about, other) in names.items():
            where = LANGUAGES[lang] + path
            head, body = head_of(path, kind, lang, title, about, other), body_of(path, kind, lang, title, about, other)
            found[where] = Sample(
                where, f'<!doctype html><html lang="{lang}"><head>{head}</head><body>{body}</body></html>', 200, HTML
            )
    for number, (path, (width, height)) in enumerate(images.items()):
        found[path] = Sample(path, webp(width, height, number), 200, (("content-type", "image/webp"), KEPT[0]))
    found["/css/site.css"] = Sample("/css/site.css", "body{color:#222}", 200, (("content-type", "text/css"), *KEPT))
    found["/js/site.js"] = Sample("/js/site.js", "var sea=1", 200, (("content-type", "text/javascript"), *KEPT))
    found["/robots.txt"] = Sample(
        "/robots.txt", f"User-agent: *\nDisallow:\nSitemap: {ORIGIN}/sitemap.xml\n", 200, (("content-type", "text/plain"),)
    )
    entries = "".join(
        f"<url><loc>{url(path, lang)}</loc><lastmod>2026-0{1 + n % 9}-1{n % 9}</lastmod></url>"
        for lang in LANGUAGES
        for n, path in enumerate(PAGES)
    )
    listed = (
        f'<?xml version="1.0" encoding="utf-8"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">{entries}</urlset>'
    )
    found["/sitemap.xml"] = Sample("/sitemap.xml", listed, 200, (("content-type", "application/xml"),))
    return found


# What the site answers to questions that no page answers.
PROBES: dict[str, Any] = {
    "sample_missing": {"status": 404},
    "sample_tls": {"TLSv1": "no", "TLSv1.1": "no", "TLSv1.2": "yes", "TLSv1.3": "yes"},
    "sample_certificate": {},
    "sample_certificate_days": 90,
    "sample_icon": 200,
}


def changed(site: dict[str, Sample], path: str, **values: Any) -> dict[str, Sample]:
    """The site with another answer at a path."""
    return {**site, path: replace(site[path], **values)}
