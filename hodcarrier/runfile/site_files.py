"""robots.txt, sitemaps and certificates as a run met them."""

from __future__ import annotations

import ssl
import zlib
from dataclasses import dataclass, field
from datetime import UTC, datetime

from hodcarrier.core.facts.probes import Accepted
from hodcarrier.core.states import SiteFileKind
from hodcarrier.core.web.robots import parse
from hodcarrier.core.web.urls import split
from hodcarrier.runfile.reader import RunFile


@dataclass(frozen=True)
class SiteFile:
    """A file; ``digest`` is equal for equal files. ``tls_versions`` are those that the start host of the run accepts."""

    kind: SiteFileKind
    url: str
    status: int | None = None
    failure: str = ""
    entries: int | None = None
    size_bytes: int | None = None
    problems: list[str] = field(default_factory=list)
    ends: datetime | None = None
    tls_versions: list[str] = field(default_factory=list)
    digest: str = ""


def site_files(run: RunFile) -> list[SiteFile]:
    """The files of a run: robots.txt, sitemaps that were there or were named, certificates."""
    sitemaps = {each.url: each for each in run.sitemap_files()}
    found = []
    for kind, url, status, failure, body in run.rows("SELECT kind, url, status, failure, body FROM site_file ORDER BY id"):
        text = zlib.decompress(body)
        digest = f"{status} {zlib.crc32(text):08x} {len(text)}"
        if kind == "robots":
            usable = status is not None and 200 <= status < 300
            rules = sum(map(len, parse(text).groups.values())) if usable else None
            found.append(SiteFile(SiteFileKind.ROBOTS, url, status, failure, rules, len(text), digest=digest))
        elif (sitemap := sitemaps.get(url)) is not None and not (sitemap.found == "usual" and status != 200):
            problems = list(sitemap.sitemap.problems)
            found.append(
                SiteFile(SiteFileKind.SITEMAP, url, status, failure, sitemap.entries, len(text), problems, digest=digest)
            )
    probed = run.probes().tls
    accepted = (
        [name.replace("TLSv", "TLS ") for name, answer in probed.versions.items() if answer == Accepted.YES] if probed else []
    )
    start = split(run.plan.start[0]).origin
    for origin, ends in (run.meta("certificates") or {}).items():
        until = datetime.fromtimestamp(ssl.cert_time_to_seconds(ends), UTC)
        versions = accepted if origin == start else []
        digest = " ".join([ends, *versions])
        found.append(SiteFile(SiteFileKind.CERTIFICATE, origin, ends=until, tls_versions=versions, digest=digest))
    return found


def digests(run: RunFile) -> dict[tuple[SiteFileKind, str], str]:
    """What tells whether a file is as it was, by kind and URL."""
    return {(each.kind, each.url): each.digest for each in site_files(run)}
