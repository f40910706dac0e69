"""How the site is broken for the checks of images, speed, safety, languages, small screens, markup and trust."""

from __future__ import annotations

from tests.reference.breaking import (
    ABOUT,
    CONTACT,
    HOME,
    KNOTS,
    LAID,
    LAID_IMAGE,
    NOINDEX,
    PRIVACY,
    Break,
    Sample,
    add,
    b,
    everywhere,
    extra,
    header,
    headers_everywhere,
    http_page,
    into_head,
    into_main,
    moved,
    over_http,
    put,
    shown,
    swap,
)
from tests.reference.site import KEPT, LANGUAGES, ORIGIN, url, webp

FOREIGN = "https://other.example/"
YEAR = ("cache-control", "max-age=31536000")
SCRIPT = '<script src="/js/site.js" defer></script>'
VIEWPORT = '<meta name="viewport" content="width=device-width, initial-scale=1">'
CHARSET = '<meta charset="utf-8">'
POSTAL = '"address": {"@type": "PostalAddress", "streetAddress": "Harbour Street 4", "addressLocality": "Milltown", "addressCountry": "GB"}, '


def image(path: str, kind: str = "image/png", body: bytes = b"\x89PNG\r\n\x1a\n", **more: object) -> Sample:
    return Sample(path, body, 200, (("content-type", kind), YEAR), **more)  # type: ignore[arg-type]


def script(path: str, body: str = "var tide=2") -> Sample:
    return Sample(path, body, 200, (("content-type", "text/javascript"), *KEPT))


def img(text: str) -> tuple[str, str, str]:
    return LAID, LAID_IMAGE, text


def insecure(path: str) -> Sample:
    """An answer of the site over http."""
    return Sample(f"http://shop.example{path}", "", 200, (("content-type", "image/png"), ("content-length", "9"), YEAR))


def versions(path: str) -> str:
    """The annotations of a page's versions as they stand in it."""
    return "".join(f'<link rel="alternate" hreflang="{code}" href="{url(path, code)}">' for code in LANGUAGES)


TABLE: dict[str, Break] = {
    # media
    "media-broken": b(swap(*img('<img src="/img/gone.webp" alt="laid rope" width="400" height="300">'))),
    "media-alt-missing": b(swap(*img('<img src="/img/ropes/laid.webp" width="400" height="300">'))),
    "media-alt-link": b(
        into_main(KNOTS, '<a href="/ropes/braided"><img src="/img/ropes/braided.webp" width="400" height="300"></a>')
    ),
    "media-alt-long": b(swap(*img(f'<img src="/img/ropes/laid.webp" alt="{"laid rope " * 13}" width="400" height="300">'))),
    "media-alt-filename": b(swap(*img('<img src="/img/ropes/laid.webp" alt="laid.webp" width="400" height="300">'))),
    "media-heavy": b(put("/img/ropes/laid.webp", wire_bytes=204_801)),
    "media-size-unset": b(swap(*img('<img src="/img/ropes/laid.webp" alt="laid rope">'))),
    "media-oversized": b(swap(*img('<img src="/img/ropes/laid.webp" alt="laid rope" width="199" height="149">'))),
    "media-old-format": b(
        swap(*img('<img src="/img/laid.png" alt="laid rope" width="400" height="300">')),
        add(image("/img/laid.png", wire_bytes=60_000)),
    ),
    "media-redirects": b(
        swap(*img('<img src="/img/old.webp" alt="laid rope" width="400" height="300">')),
        add(moved("/img/old.webp", "/img/ropes/laid.webp")),
    ),
    "media-eager-below": b(
        into_main(ABOUT, "".join(f'<img src="/img/n{n}.webp" alt="knot {n}" width="40" height="30">' for n in range(12))),
        add(*(image(f"/img/n{n}.webp", "image/webp", webp(40, 30, 50 + n)) for n in range(12))),
    ),
    "media-wrong-type": b(header("/img/ropes/laid.webp", "content-type", "image/png")),
    "media-video-no-poster": b(
        into_main(ABOUT, '<video src="/v.mp4" controls></video>'),
        add(Sample("/v.mp4", "", 200, (("content-type", "video/mp4"), YEAR, ("content-length", "9000")))),
    ),
    "media-svg-script": b(
        into_main(ABOUT, '<img src="/img/a.svg" alt="sign" width="9" height="9">'),
        add(
            Sample(
                "/img/a.svg",
                '<svg xmlns="http://www.w3.org/2000/svg"><script>x</script></svg>',
                200,
                (("content-type", "image/svg+xml"), *KEPT),
            )
        ),
    ),
    # speed
    "speed-answer-slow": b(put(LAID, first_byte_ms=801)),
    "speed-answer-very-slow": b(put(LAID, first_byte_ms=2501)),
    "speed-html-heavy": b(into_main(ABOUT, "<p hidden>" + "rope " * 45_000), also="text-long-paragraph"),
    "speed-html-cut": b(
        into_main(ABOUT, "<p hidden>" + "rope " * 220_000),
        thresholds={"html_mib_max": 1},
        also="speed-html-heavy text-long-paragraph",
    ),
    "speed-page-weight": b(
        into_main(ABOUT, '<video src="/v.mp4" poster="/img/p.webp"></video>'),
        into_main(
            ABOUT, "".join(f'<img loading="lazy" src="/img/n{n}.webp" alt="knot {n}" width="40" height="30">' for n in range(17))
        ),
        add(
            Sample("/v.mp4", "", 200, (("content-type", "video/mp4"), YEAR, ("content-length", "9000"))),
            image("/img/p.webp", "image/webp", webp(40, 30, 49)),
            *(image(f"/img/n{n}.webp", "image/webp", webp(40, 30, 50 + n), wire_bytes=200_000) for n in range(17)),
        ),
    ),
    "speed-requests": b(
        into_main(
            ABOUT, "".join(f'<img loading="lazy" src="/img/n{n}.webp" alt="knot {n}" width="40" height="30">' for n in range(101))
        ),
        add(*(image(f"/img/n{n}.webp", "image/webp", webp(40, 30, 50 + n)) for n in range(101))),
    ),
    "speed-uncompressed": b(header(LAID, "content-encoding", None)),
    "speed-uncached": b(header("/js/site.js", "cache-control", None)),
    "speed-cache-short": b(header("/js/site.js", "cache-control", "max-age=600")),
    "speed-unminified": b(put("/js/site.js", body="/* " + "a remark " * 200 + "*/\n" + "var rope = 1;\n" * 400)),
    "speed-blocking-script": b(swap(LAID, SCRIPT, '<script src="/js/site.js"></script>')),
    "speed-styles": b(
        into_head(LAID, "".join(f'<link rel="stylesheet" href="/css/{n}.css">' for n in range(8))),
        add(*(Sample(f"/css/{n}.css", f"i{{top:{n}px}}", 200, (("content-type", "text/css"), *KEPT)) for n in range(8))),
    ),
    "speed-dom": b(into_main(ABOUT, "<i></i>" * 1_500), also="text-ratio"),
    "speed-inline": b(into_main(ABOUT, f"<script>var a='{'x' * 102_401}'</script>"), also="text-ratio"),
    "speed-old-protocol": b(put(LAID, http_version="1.0")),
    "speed-fonts": b(
        put("/css/site.css", body="".join(f"@font-face{{font-family:f{n};src:url(f{n}.woff2)}}" for n in range(5))),
        add(
            *(
                Sample(f"/css/f{n}.woff2", "", 200, (("content-type", "font/woff2"), YEAR, ("content-length", "900")))
                for n in range(5)
            )
        ),
    ),
    "speed-file-broken": b(into_head(LAID, '<script src="/js/gone.js" defer></script>')),
    "speed-file-redirects": b(
        into_head(LAID, '<script src="/js/old.js" defer></script>'), add(moved("/js/old.js", "/js/site.js"))
    ),
    "speed-duplicate-file": b(
        into_head(LAID, '<script src="/js/a.js" defer></script><script src="/js/b.js" defer></script>'),
        add(script("/js/a.js", "a" * 1_024), script("/js/b.js", "a" * 1_024)),
    ),
    # secure
    "secure-none": b(over_http, start=["http://shop.example/"], sample_https={"status": None, "failure": "connect"}),
    "secure-expired": b(**shown(ends="2026-11-23T00:00:00+00:00")),
    "secure-expiring": b(sample_certificate_days=20),
    "secure-name": b(**shown(covers_host=False)),
    "secure-untrusted": b(**shown(why_untrusted="self-signed certificate")),
    "secure-old-tls": b(sample_tls={"TLSv1": "no", "TLSv1.1": "yes", "TLSv1.2": "yes"}),
    "secure-weak-key": b(**shown(key_bits=1024)),
    "secure-no-upgrade": b(
        sample_variants=[
            {"origin": "http://shop.example", "status": 200, "failure": "", "leads_to": "http://shop.example"},
            {"origin": "https://shop.example", "status": 200, "failure": "", "leads_to": ORIGIN},
        ]
    ),
    "secure-mixed-active": b(
        into_head(LAID, '<script src="http://shop.example/js/x.js" defer></script>'), add(insecure("/js/x.js"))
    ),
    "secure-mixed-passive": b(
        swap(*img('<img src="http://shop.example/i.png" alt="laid rope" width="9" height="9">')), add(insecure("/i.png"))
    ),
    "secure-form": b(swap(CONTACT, 'action="/contact"', 'action="http://shop.example/contact"')),
    "secure-password": b(
        http_page("/account", '<label>Word<input type="password"></label>'),
        also="link-insecure secure-http-pages link-to-noncanonical",
    ),
    "secure-hsts": b(headers_everywhere("strict-transport-security", None)),
    "secure-sniff": b(header(LAID, "x-content-type-options", None)),
    "secure-csp": b(
        header(LAID, "content-security-policy", "frame-ancestors 'self'"),
        header(LAID, "content-security-policy", None),
        header(LAID, "x-frame-options", "DENY"),
    ),
    "secure-frame": b(header(LAID, "content-security-policy", "default-src 'self'")),
    "secure-referrer": b(header(LAID, "referrer-policy", None)),
    "secure-version-shown": b(header(LAID, "server", "Tidewater/2.4.1")),
    "secure-cookie": b(header(LAID, "set-cookie", "a=1; HttpOnly")),
    "secure-http-pages": b(http_page("/tar"), also="link-insecure link-to-noncanonical"),
    "secure-listing": b(
        extra("/files/"),
        swap("/files/", "<title>Tar and pitch for old boats | Tidal Rope", "<title>Index of /files/"),
        swap("/files/", "<h1>Tar and pitch for old boats", "<h1>Index of /files/"),
        also="title-same-as-heading text-off-topic",
    ),
    "secure-external-script": b(into_head(LAID, f'<script src="{FOREIGN}w.js" defer></script>'), check_external=False),
    # languages
    "lang-missing": b(swap(LAID, '<html lang="en">', "<html>")),
    "lang-invalid": b(swap(LAID, '<html lang="en">', '<html lang="english">')),
    "lang-mismatch": b(swap(PRIVACY, '<html lang="en">', '<html lang="fr">'), also="lang-alt-self-mismatch share-locale"),
    "lang-charset-missing": b(swap(LAID, CHARSET, ""), header(LAID, "content-type", "text/html")),
    "lang-charset-late": b(swap(LAID, CHARSET, ""), header(LAID, "content-type", "text/html"), into_head(LAID, CHARSET)),
    "lang-charset-conflict": b(swap(LAID, CHARSET, '<meta charset="iso-8859-2">')),
    "lang-charset-legacy": b(
        swap(LAID, CHARSET, '<meta charset="iso-8859-1">'), header(LAID, "content-type", "text/html; charset=iso-8859-1")
    ),
    "lang-alt-invalid": b(into_head(LAID, f'<link rel="alternate" hreflang="en-UK" href="{url(LAID)}">')),
    "lang-alt-no-return": b(
        swap(
            "/de/ropes/laid",
            versions(LAID),
            "".join(f'<link rel="alternate" hreflang="{code}" href="{url(LAID, code)}">' for code in ("de", "cy")),
        ),
        swap("/de/ropes/laid", f'<link rel="alternate" hreflang="x-default" href="{url(LAID)}">', ""),
        also="lang-alt-default",
    ),
    "lang-alt-no-self": b(
        swap(LAID, f'<link rel="alternate" hreflang="en" href="{url(LAID)}"><link', "<link"),
        swap(LAID, f'hreflang="x-default" href="{url(LAID)}"', f'hreflang="x-default" href="{url(LAID, "de")}"'),
    ),
    "lang-alt-broken": b(
        into_head(LAID, f'<link rel="alternate" hreflang="fr" href="{ORIGIN}/fr/laid">'), also="reach-not-found"
    ),
    "lang-alt-redirects": b(
        into_head(LAID, f'<link rel="alternate" hreflang="fr" href="{ORIGIN}/fr/laid">'), add(moved("/fr/laid", url(LAID, "de")))
    ),
    "lang-alt-noncanonical": b(
        into_head(LAID, f'<link rel="alternate" hreflang="fr" href="{ORIGIN}/tar">'),
        extra("/tar", listed=False),
        swap("/tar", f'canonical" href="{ORIGIN}/tar', f'canonical" href="{url(PRIVACY)}'),
        also="link-to-noncanonical lang-alt-no-return",
    ),
    "lang-alt-noindex": b(
        into_head(LAID, f'<link rel="alternate" hreflang="fr" href="{ORIGIN}/tar">'),
        extra("/tar", listed=False),
        into_head("/tar", NOINDEX),
        also="index-noindex lang-alt-no-return",
    ),
    "lang-alt-conflict": b(
        into_head(LAID, f'<link rel="alternate" hreflang="de" href="{url(PRIVACY, "de")}">'), also="lang-alt-no-return"
    ),
    "lang-alt-relative": b(swap(LAID, f'hreflang="de" href="{url(LAID, "de")}"', 'hreflang="de" href="/de/ropes/laid"')),
    "lang-alt-default": b(
        *(
            swap(f"{path}/privacy", f'<link rel="alternate" hreflang="x-default" href="{url(PRIVACY)}">', "")
            for path in LANGUAGES.values()
        )
    ),
    "lang-alt-ignored": b(
        swap(LAID, versions(LAID), ""),
        swap(LAID, "<header>", f"{versions(LAID)}<header>"),
        swap(LAID, f'<link rel="alternate" hreflang="x-default" href="{url(LAID)}">', ""),
        also="lang-alt-no-return",
    ),
    "lang-alt-self-mismatch": b(swap(LAID, f'hreflang="en" href="{url(LAID)}"', f'hreflang="ga" href="{url(LAID)}"')),
    # share
    "share-title": b(swap(LAID, '<meta property="og:title" content="Laid rope of three strands">', "")),
    "share-image": b(swap(LAID, f'<meta property="og:image" content="{ORIGIN}/img/share.webp">', "")),
    "share-image-broken": b(swap(LAID, "/img/share.webp", "/img/gone.webp")),
    "share-image-relative": b(swap(LAID, f"{ORIGIN}/img/share.webp", "/img/share.webp")),
    "share-url-differs": b(swap(LAID, f'og:url" content="{url(LAID)}', f'og:url" content="{url(HOME)}')),
    "share-type": b(swap(LAID, '<meta property="og:type" content="website">', "")),
    "share-card": b(
        swap(LAID, '<meta name="twitter:card" content="summary">', ""),
        swap(LAID, '<meta property="og:title" content="Laid rope of three strands">', ""),
        also="share-title",
    ),
    "share-card-unknown": b(swap(LAID, 'content="summary"', 'content="big"')),
    "share-locale": b(swap(LAID, 'og:locale" content="en"', 'og:locale" content="fr_FR"')),
    # mobile
    "mobile-viewport": b(swap(LAID, VIEWPORT, "")),
    "mobile-viewport-fixed": b(swap(LAID, "width=device-width", "width=1024")),
    "mobile-zoom-off": b(swap(LAID, "initial-scale=1", "initial-scale=1, user-scalable=no")),
    "mobile-amp-broken": b(into_head(LAID, '<link rel="amphtml" href="/amp">'), also="reach-not-found"),
    "mobile-amp-return": b(into_head(LAID, '<link rel="amphtml" href="/tar">'), extra("/tar")),
    "mobile-separate": b(
        into_head(LAID, '<link rel="alternate" media="only screen and (max-width: 640px)" href="/tar">'), extra("/tar")
    ),
    "mobile-type-missing": b(everywhere('<link rel="apple-touch-icon" href="/img/touch.webp">', "")),
    "mobile-text-small": b(swap(ABOUT, "<main>", '<main style="font-size: 11px">')),
    # markup
    "markup-doctype": b(swap(LAID, "<!doctype html>", "")),
    "markup-head-broken": b(
        swap(LAID, CHARSET, f"{CHARSET}<img src='/img/icon.webp' alt='' width='64' height='64'>"),
        also="index-canonical-ignored title-ignored desc-ignored lang-alt-ignored lang-alt-no-return",
    ),
    "markup-base": b(into_head(LAID, f'<base href="{ORIGIN}/"><base href="/x/">')),
    "markup-id-twice": b(into_main(ABOUT, '<i id="a"></i><i id="a"></i>')),
    "markup-obsolete": b(into_main(ABOUT, "<center></center>")),
    "markup-errors": b(into_main(ABOUT, "<p id=a id=b>Rope</p>"), sample_inspect=True),
    "markup-title-in-body": b(into_main(ABOUT, "<title>Once more</title>")),
    "markup-aria-hidden-focus": b(into_main(ABOUT, '<div aria-hidden="true"><a href="/contact">Write to us</a></div>')),
    "markup-list-broken": b(into_main(ABOUT, "<ul><p>Rope</p></ul>")),
    "markup-table-head": b(into_main(ABOUT, "<table><tr><td>Rope<td>1<tr><td>Twine<td>2<tr><td>Cord<td>3</table>")),
    "markup-label-missing": b(into_main(ABOUT, '<input name="q">')),
    "markup-xml-broken": b(header(PRIVACY, "content-type", "application/xhtml+xml")),
    # trust
    "trust-contact": b(
        everywhere('<li><a href="/contact">Contact the rigging desk</a></li>', ""),
        swap(HOME, '"telephone": "+44 20 7946 0000"', '"legalName": "Tidal Rope Works"'),
    ),
    "trust-about": b(everywhere('<li><a href="/about">About the yard and its people</a></li>', "")),
    "trust-privacy": b(swap(HOME, '<a href="/privacy">Privacy notice of the yard</a>', "")),
    "trust-imprint": b(
        everywhere("<address>Tidal Rope, Harbour Street 4, SA1 2BC Milltown</address>", ""), everywhere(POSTAL, "")
    ),
    "trust-author": b(
        everywhere('class="byline"', 'class="when"'),
        swap(KNOTS, '"author": {"@type": "Organization", "name": "Rigging desk"}, ', ""),
    ),
    "trust-date": b(
        swap(KNOTS, ', "datePublished": "2026-05-04"', ""), swap(KNOTS, '<time datetime="2026-05-04">2026-05-04</time>', "in May")
    ),
}
