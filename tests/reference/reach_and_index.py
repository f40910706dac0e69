"""How the site is broken for the checks of reachability, indexing, robots.txt and sitemaps."""

from __future__ import annotations

from tests.reference.breaking import (
    ABOUT,
    CANONICAL,
    CARE,
    CONTACT,
    HOME,
    KNOTS,
    LAID,
    NOINDEX,
    PRIVACY,
    Break,
    Sample,
    add,
    b,
    drop,
    everywhere,
    extra,
    html,
    into_head,
    link,
    list_too,
    moved,
    put,
    short,
    swap,
    twin,
)
from tests.reference.site import ORIGIN, url

# What a page that is gone breaks elsewhere: links, its entry in the sitemap, its versions.
GONE = "link-broken files-sitemap-entry-broken lang-alt-broken"
# What the same page twice is called beside its twins.
TWICE = "copy-text copy-title copy-desc copy-heading"
FOREIGN = "https://other.example/"
TAR_CANONICAL = f'<link rel="canonical" href="{ORIGIN}/tar">'
XML = (("content-type", "application/xml"),)


def robots(text: str) -> Sample:
    return Sample("/robots.txt", text + f"\nSitemap: {ORIGIN}/sitemap.xml\n", 200, (("content-type", "text/plain"),))


TABLE: dict[str, Break] = {
    "reach-not-found": b(drop(LAID), also=GONE),
    "reach-client-error": b(put(LAID, status=403), also=GONE),
    "reach-server-error": b(put(LAID, status=500), also=GONE),
    "reach-no-answer": b(put(LAID, failure="connect"), also=GONE),
    "reach-incomplete": b(put(LAID, cut="reset")),
    "reach-redirect-temporary": b(add(moved("/old", LAID, 302)), link(KNOTS, "/old"), also="link-redirects"),
    "reach-redirect-chain": b(add(moved("/old", "/older"), moved("/older", LAID)), link(KNOTS, "/old"), also="link-redirects"),
    "reach-redirect-loop": b(add(moved("/old", "/older"), moved("/older", "/old")), link(KNOTS, "/old"), also="link-broken"),
    "reach-redirect-to-error": b(add(moved("/old", "/gone")), link(KNOTS, "/old"), also="link-broken reach-not-found"),
    "reach-redirect-to-home": b(add(moved("/old-ropes/thin", "/")), link(KNOTS, "/old-ropes/thin"), also="link-redirects"),
    "reach-meta-refresh": b(into_head(PRIVACY, '<meta http-equiv="refresh" content="30; url=/about">')),
    "reach-disallowed": b(
        swap("/robots.txt", "Disallow:", "Disallow: /tar"), add(html("/tar")), link(KNOTS, "/tar"), also="link-to-disallowed"
    ),
    "reach-files-disallowed": b(swap("/robots.txt", "Disallow:", "Disallow: /js/")),
    "reach-deep": b(thresholds={"clicks_max": 2}),
    "reach-orphan": b(
        extra("/tar"),
        swap(CONTACT, '<a href="/tar">', '<a rel="nofollow" href="/tar">'),
        swap(KNOTS, '<a href="/tar">', '<a rel="nofollow" href="/tar">'),
        also="link-nofollow-internal",
    ),
    "reach-one-inlink": b(extra("/tar", CONTACT)),
    "reach-soft-not-found": b(extra("/tar", names=("Page not found", "tar", "pitch")), short("/tar"), also="text-thin"),
    "reach-any-url-answers": b(sample_missing={"status": 200}),
    "reach-variants": b(
        sample_variants=[
            {"origin": "https://shop.example", "status": 200, "failure": "", "leads_to": ORIGIN},
            {"origin": "https://www.shop.example", "status": 200, "failure": "", "leads_to": "https://www.shop.example"},
        ]
    ),
    "reach-slash-twins": b(twin(ABOUT, "/about/"), also=TWICE),
    "reach-case-twins": b(twin(ABOUT, "/About"), also=f"{TWICE} reach-url-uppercase"),
    "reach-parameter-twins": b(twin(ABOUT, "/about?from=mail"), also=TWICE),
    "reach-url-long": b(extra("/" + "tar-" * 30)),
    "reach-url-uppercase": b(extra("/Tar")),
    "reach-url-underscore": b(extra("/old_tar")),
    "reach-url-unsafe": b(extra("/old%20tar"), swap(KNOTS, '"/old%20tar"', '"/old tar"')),
    "reach-url-double-slash": b(extra("/old//tar")),
    "reach-url-session": b(extra("/tar?PHPSESSID=1a2b")),
    "reach-url-parameters": b(extra("/tar?a=1&b=2&c=3&d=4")),
    "reach-trap": b(link(KNOTS, "/a/b/a/b/a/b/a/b/")),
    "reach-crawl-blocked": b(
        *(put(path, status=403) for path in (LAID, CARE, ABOUT, PRIVACY)), also=f"{GONE} reach-client-error"
    ),
    # index
    "index-home-noindex": b(into_head(HOME, NOINDEX), also="index-noindex index-noindex-in-sitemap lang-alt-noindex"),
    "index-noindex": b(extra("/tar", listed=False), into_head("/tar", NOINDEX)),
    "index-noindex-in-sitemap": b(extra("/tar"), into_head("/tar", NOINDEX), also="index-noindex"),
    "index-nofollow-page": b(into_head(PRIVACY, '<meta name="robots" content="nofollow">')),
    "index-directives-conflict": b(
        into_head(PRIVACY, '<meta name="robots" content="index"><meta name="robots" content="noindex">'),
        also="index-noindex index-noindex-in-sitemap lang-alt-noindex",
    ),
    "index-directive-unknown": b(into_head(PRIVACY, '<meta name="robots" content="no-index">')),
    "index-lost-robots": b(
        swap("/robots.txt", "Disallow:", "Disallow: /privacy"),
        after_good=True,
        also="reach-disallowed link-to-disallowed files-sitemap-entry-disallowed lang-alt-noindex",
    ),
    "index-lost-noindex": b(
        into_head(PRIVACY, NOINDEX), after_good=True, also="index-noindex index-noindex-in-sitemap lang-alt-noindex"
    ),
    "index-lost-canonical": b(
        swap(PRIVACY, f'canonical" href="{url(PRIVACY)}', f'canonical" href="{url(ABOUT)}'),
        after_good=True,
        also="files-sitemap-entry-noncanonical lang-alt-noncanonical link-to-noncanonical",
    ),
    "index-canonical-missing": b(swap(LAID, CANONICAL, "")),
    "index-canonical-several": b(swap(LAID, CANONICAL, f'{CANONICAL}<link rel="canonical" href="{url(HOME)}">')),
    "index-canonical-ignored": b(swap(LAID, CANONICAL, ""), swap(LAID, "<header>", f"{CANONICAL}<header>")),
    "index-canonical-relative": b(swap(LAID, CANONICAL, f'<link rel="canonical" href="{LAID}">')),
    "index-canonical-fragment": b(swap(LAID, CANONICAL, f'<link rel="canonical" href="{url(LAID)}#top">')),
    "index-canonical-broken": b(
        extra("/tar", listed=False),
        swap("/tar", TAR_CANONICAL, f'<link rel="canonical" href="{ORIGIN}/gone">'),
        also="reach-not-found link-to-noncanonical",
    ),
    "index-canonical-redirects": b(
        extra("/tar", listed=False),
        add(moved("/old", PRIVACY)),
        swap("/tar", TAR_CANONICAL, f'<link rel="canonical" href="{ORIGIN}/old">'),
        also="link-to-noncanonical",
    ),
    "index-canonical-noindex": b(
        extra("/tar", listed=False),
        extra("/pitch", listed=False),
        swap("/tar", TAR_CANONICAL, f'<link rel="canonical" href="{ORIGIN}/pitch">'),
        into_head("/pitch", NOINDEX),
        also="index-noindex link-to-noncanonical",
    ),
    "index-canonical-chain": b(
        extra("/tar", listed=False),
        extra("/pitch", listed=False),
        extra("/resin"),
        swap("/tar", TAR_CANONICAL, f'<link rel="canonical" href="{ORIGIN}/pitch">'),
        swap("/pitch", f'canonical" href="{ORIGIN}/pitch', f'canonical" href="{ORIGIN}/resin'),
        also="link-to-noncanonical",
    ),
    "index-canonical-offsite": b(
        extra("/tar", listed=False),
        swap("/tar", TAR_CANONICAL, f'<link rel="canonical" href="{FOREIGN}">'),
        also="link-to-noncanonical",
    ),
    "index-canonical-insecure": b(
        extra("/tar", listed=False),
        swap("/tar", TAR_CANONICAL, '<link rel="canonical" href="http://shop.example/tar">'),
        add(moved("http://shop.example/tar", f"{ORIGIN}/tar")),
        also="index-canonical-redirects link-to-noncanonical",
    ),
    "index-canonical-noindex-mix": b(
        extra("/tar", listed=False),
        extra("/pitch"),
        swap("/tar", TAR_CANONICAL, f'<link rel="canonical" href="{ORIGIN}/pitch">'),
        into_head("/tar", NOINDEX),
        also="index-noindex",
    ),
    "index-canonical-unlike": b(
        extra("/tar", listed=False),
        swap("/tar", TAR_CANONICAL, f'<link rel="canonical" href="{url(KNOTS, "de")}">'),
        also="link-to-noncanonical",
    ),
    "index-canonical-unusable": b(swap(LAID, CANONICAL, '<link rel="canonical" href="https://[">'), also="link-malformed"),
    "index-canonical-elsewhere": b(
        everywhere(f'canonical" href="{ORIGIN}', 'canonical" href="https://staging.other.example'),
        also="index-canonical-offsite link-to-noncanonical files-sitemap-entry-noncanonical lang-alt-noncanonical",
    ),
    "index-paged-to-first": b(
        extra("/tar"),
        extra("/tar?page=2", listed=False),
        swap("/tar?page=2", f'canonical" href="{ORIGIN}/tar?page=2', f'canonical" href="{ORIGIN}/tar'),
        also="link-to-noncanonical",
    ),
    "index-canonical-unlinked": b(
        extra("/tar", listed=False),
        extra("/pitch", PRIVACY),
        swap("/tar", TAR_CANONICAL, f'<link rel="canonical" href="{ORIGIN}/pitch">'),
        swap(PRIVACY, '<a href="/pitch">Tar for old boats</a>', ""),
        also="link-to-noncanonical reach-orphan",
    ),
    # files
    "files-robots-missing": b(drop("/robots.txt")),
    "files-robots-error": b(put("/robots.txt", status=500)),
    "files-robots-redirects": b(
        put("/robots.txt", status=301, headers=(("location", "/r.txt"),)),
        add(Sample("/r.txt", f"User-agent: *\nDisallow:\nSitemap: {ORIGIN}/sitemap.xml", 200, (("content-type", "text/plain"),))),
    ),
    "files-robots-not-text": b(add(html("/robots.txt", "<!doctype html><title>Rope</title>"))),
    "files-robots-syntax": b(add(robots("User-agent: *\nDisallow:\nDisalow: /x"))),
    "files-robots-orphan-rules": b(add(robots("Disallow: /tmp/\nUser-agent: *\nDisallow:"))),
    "files-robots-large": b(add(robots("User-agent: *\nDisallow:\n" + "# a remark\n" * 50_000)), also="files-robots-no-sitemap"),
    "files-robots-shuts-all": b(add(robots("User-agent: *\nDisallow: /"))),
    "files-robots-shuts-linked": b(
        add(robots("User-agent: *\nDisallow: /de/")),
        also="reach-disallowed link-to-disallowed files-sitemap-entry-disallowed lang-alt-noindex",
    ),
    "files-robots-no-sitemap": b(put("/robots.txt", body="User-agent: *\nDisallow:\n")),
    "files-robots-sitemap-broken": b(
        swap("/robots.txt", f"Sitemap: {ORIGIN}/sitemap.xml", f"Sitemap: {ORIGIN}/sitemap.xml\nSitemap: {ORIGIN}/other.xml")
    ),
    "files-robots-slow-down": b(swap("/robots.txt", "Disallow:", "Disallow:\nCrawl-delay: 11"), obey_crawl_delay=False),
    "files-sitemap-missing": b(drop("/sitemap.xml"), put("/robots.txt", body="User-agent: *\nDisallow:\n")),
    "files-sitemap-invalid": b(swap("/sitemap.xml", "</urlset>", "</urlset")),
    "files-sitemap-empty": b(
        add(
            Sample(
                "/other.xml",
                '<?xml version="1.0"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"></urlset>',
                200,
                XML,
            )
        ),
        swap("/robots.txt", "Disallow:", f"Disallow:\nSitemap: {ORIGIN}/other.xml"),
    ),
    "files-sitemap-large": b(swap("/sitemap.xml", "<urlset", "<!--" + "x" * 52_428_800 + "--><urlset")),
    "files-sitemap-entry-broken": b(list_too(f"{ORIGIN}/gone"), also="reach-not-found"),
    "files-sitemap-entry-redirects": b(list_too(f"{ORIGIN}/old"), add(moved("/old", LAID))),
    "files-sitemap-entry-noncanonical": b(
        extra("/tar"),
        extra("/pitch"),
        swap("/tar", TAR_CANONICAL, f'<link rel="canonical" href="{ORIGIN}/pitch">'),
        also="link-to-noncanonical",
    ),
    "files-sitemap-entry-disallowed": b(list_too(f"{ORIGIN}/tmp/x"), swap("/robots.txt", "Disallow:", "Disallow: /tmp/")),
    "files-sitemap-entry-foreign": b(list_too(f"{FOREIGN}rope")),
    "files-sitemap-entry-insecure": b(
        list_too("http://shop.example/tar"),
        add(moved("http://shop.example/tar", url(LAID))),
        also="files-sitemap-entry-redirects",
    ),
    "files-sitemap-entry-twice": b(list_too(url(LAID))),
    "files-sitemap-date": b(swap("/sitemap.xml", "<lastmod>2026-01-10</lastmod>", "<lastmod>10 January 2026</lastmod>", 1)),
    "files-sitemap-misses": b(extra("/tar", listed=False)),
    "files-icon-missing": b(everywhere('<link rel="icon" href="/img/icon.webp">', ""), sample_icon=404),
}
