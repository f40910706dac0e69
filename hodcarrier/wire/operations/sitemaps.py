"""Operations on sitemaps made from a run."""

from hodcarrier.wire.operations.operation import Operation, Parameter
from hodcarrier.wire.sitemaps import PublishedSitemap, SitemapOptions, SitemapPreview

OPTIONS = (
    Parameter("where", str, "indexable"),
    Parameter("images", bool, False),
    Parameter("versions", bool, True),
    Parameter("packed", bool, False),
)
SITE = "/sites/{site_id}/sitemap"
OPERATIONS = (
    Operation(
        "preview_sitemap",
        "GET",
        "/runs/{run_id}/sitemap",
        "A sitemap made from a run: how many pages, which files, how it begins.",
        SitemapPreview,
        query=OPTIONS,
    ),
    Operation(
        "export_sitemap",
        "GET",
        "/runs/{run_id}/sitemap/export",
        "The sitemap as XML, or its files as a ZIP archive where there are several.",
        bytes,
        query=OPTIONS,
    ),
    Operation(
        "get_published_sitemap", "GET", SITE, "The sitemap that a site may fetch; 404 when there is none.", PublishedSitemap
    ),
    Operation(
        "publish_sitemap",
        "PUT",
        SITE,
        "Give a site an address from which it may fetch a sitemap of its latest run; an earlier address ends.",
        PublishedSitemap,
        SitemapOptions,
    ),
    Operation("withdraw_sitemap", "DELETE", SITE, "End the address from which a site fetches its sitemap."),
)
