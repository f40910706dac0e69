"""Facts that no page gives: what a site answers to questions that are asked once in a run."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum


class Accepted(StrEnum):
    """Whether a server takes a protocol version; ``unknown`` when the question could not be asked."""

    YES = "yes"
    NO = "no"
    UNKNOWN = "unknown"


@dataclass(frozen=True)
class HttpsFacts:
    """Whether a site that is audited over http answers over https too. ``failure`` says why it does not."""

    url: str
    status: int | None
    failure: str = ""


@dataclass(frozen=True)
class Variant:
    """A form of the site's origin (http or https, with www or without) and where it leads; ``leads_to`` is empty for nowhere."""

    origin: str
    status: int | None
    failure: str
    leads_to: str


@dataclass(frozen=True)
class VariantFacts:
    """The forms of the site's origin."""

    variants: list[Variant] = field(default_factory=list)


@dataclass(frozen=True)
class MissingFacts:
    """What a URL that cannot exist answers: 404 or 410 is in order."""

    url: str
    status: int | None
    failure: str = ""
    leads_to: str = ""


@dataclass(frozen=True)
class TlsFacts:
    """Which TLS versions the site's host takes, by their names such as ``TLSv1.2``."""

    versions: dict[str, Accepted] = field(default_factory=dict)


@dataclass(frozen=True)
class CertificateFacts:
    """The certificate that a host has shown: its names and whether one of them covers the host, who issued it, from when to when it holds
    (ISO 8601), the kind and bits of its key, the digest of its signature, and why it is not trusted, dates aside (empty: it is)."""

    host: str
    names: list[str]
    covers_host: bool
    issuer: str
    starts: str
    ends: str
    key: str
    key_bits: int
    signature: str
    why_untrusted: str = ""


@dataclass(frozen=True)
class IconFacts:
    """What ``/favicon.ico`` answers, which browsers ask for where a page names no icon."""

    url: str
    status: int | None
    failure: str = ""


@dataclass(frozen=True)
class ProbeFacts:
    """All probes of a run; ``None`` for one that does not apply or was not asked."""

    https: HttpsFacts | None = None
    variants: VariantFacts | None = None
    missing: MissingFacts | None = None
    tls: TlsFacts | None = None
    certificate: CertificateFacts | None = None
    icon: IconFacts | None = None
