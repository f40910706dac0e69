"""The files that speak for a whole site."""

from __future__ import annotations

from datetime import datetime

from hodcarrier.core.states import SiteFileKind
from hodcarrier.wire.base import Wire


class SiteFileOut(Wire):
    """robots.txt, a sitemap or a certificate as a run met it. ``since`` is the first of the runs before this one, without a gap, that met it just so; null
    when no earlier run did otherwise. ``entries`` are the rules of robots.txt or what a sitemap lists; ``ends`` is until when a certificate holds, ``tls_versions`` what
    its host accepts, where the run asked."""

    kind: SiteFileKind
    url: str
    status: int | None = None
    failure: str = ""
    entries: int | None = None
    size_bytes: int | None = None
    problems: list[str] = []
    since: datetime | None = None
    ends: datetime | None = None
    tls_versions: list[str] = []
