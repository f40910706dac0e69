"""Where the secrets of a site may go: the origins they were entered for, and no others, whatever its plan says now."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from hodcarrier.core.plan import Plan
from hodcarrier.core.web.urls import split


@dataclass(frozen=True)
class Bound:
    """The origins (RFC 6454) that secrets were entered for, whether those of their subdomains too, and how the plan reached them.

    An origin over http on the usual port stands for the same host over https as well: that is no less safe.
    """

    origins: tuple[str, ...] = ()
    subdomains: bool = False
    host_map: Mapping[str, str] = field(default_factory=dict)

    @classmethod
    def of(cls, plan: Plan) -> Bound:
        """The bounds of what is entered while a site has this plan."""
        return cls(tuple(dict.fromkeys(split(url).origin for url in plan.start)), plan.subdomains, dict(plan.host_map))

    def covers(self, url: str, host_map: Mapping[str, str]) -> bool:
        """Whether secrets may be sent to a URL that is reached by a host mapping."""
        parts = split(url)
        key = f"{parts.host}:{parts.port}"
        if host_map.get(key) != self.host_map.get(key):
            return False
        for origin in self.origins:
            known = split(origin)
            alike = (known.scheme, known.port) == (parts.scheme, parts.port)
            safer = (known.scheme, known.port, parts.scheme, parts.port) == ("http", 80, "https", 443)
            same = parts.host == known.host or (self.subdomains and parts.host.endswith("." + known.host))
            if same and (alike or safer):
                return True
        return False

    def why_withheld(self, plan: Plan) -> str:
        """What to tell when a plan leads where the secrets do not go; empty when they go along."""
        lost = [split(url).origin for url in plan.start if not self.covers(url, plan.host_map)]
        if not lost:
            return ""
        return (
            f"Access was entered for {', '.join(self.origins)} and is not sent to {', '.join(dict.fromkeys(lost))}: enter it again"
            " if that is meant."
        )
