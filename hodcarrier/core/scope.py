"""What belongs to a site by its plan: hosts, path prefix, patterns, and which query parameters count."""

from __future__ import annotations

from dataclasses import dataclass

from hodcarrier.core.plan import Plan
from hodcarrier.core.web.patterns import matches
from hodcarrier.core.web.urls import drop_parameters, keep_parameters, same_site


@dataclass(frozen=True)
class Scope:
    """The boundaries of one site."""

    host: str
    path_prefix: str
    subdomains: bool
    include: tuple[str, ...]
    exclude: tuple[str, ...]
    drop: frozenset[str]
    keep: frozenset[str]

    @classmethod
    def of(cls, plan: Plan) -> Scope:
        """The scope that a plan describes."""
        return cls(
            plan.host,
            plan.path_prefix,
            plan.subdomains,
            plan.include,
            plan.exclude,
            frozenset(plan.drop_parameters),
            frozenset(plan.keep_parameters),
        )

    @property
    def changes_urls(self) -> bool:
        """Whether the plan's parameter rules can change an address at all."""
        return bool(self.drop or self.keep)

    def identity(self, url: str) -> str:
        """The address that counts, after the plan's parameter rules."""
        if self.keep:
            return keep_parameters(url, self.keep)
        return drop_parameters(url, self.drop)

    def on_site(self, url: str) -> bool:
        """Whether an address is on the site's hosts."""
        return same_site(url, self.host, subdomains=self.subdomains)

    def belongs(self, url: str) -> bool:
        """Whether an address is on the site and below its path prefix."""
        return same_site(url, self.host, self.path_prefix, self.subdomains)

    def why_excluded(self, url: str) -> str:
        """The plan's pattern that leaves a page of the site out, in words; empty if none does."""
        for pattern in self.exclude:
            if matches(pattern, url):
                return f"excluded by the plan: {pattern}"
        if self.include and not any(matches(pattern, url) for pattern in self.include):
            return "not included by the plan"
        return ""


def notices(plan: Plan) -> list[str]:
    """What a person should know of a plan before it is used: addresses it names itself and yet leaves out, in sentences."""
    said = []
    excluded = [(url, why) for url, fetched, why in preview(plan, list(plan.start)) if not fetched]
    for url, why in excluded[:1]:
        more = f" and {len(excluded) - 1:,} more" if len(excluded) > 1 else ""
        said.append(f"Start URL {url}{more}: {why}. It is fetched all the same.")
    left = [(url, why) for url, fetched, why in preview(plan, list(plan.addresses)) if not fetched]
    if left:
        url, why = left[0]
        said.append(
            f"{len(left):,} of the {len(plan.addresses):,} URLs of the list will not be fetched; the first is {url} ({why})."
        )
    return said


def preview(plan: Plan, addresses: list[str]) -> list[tuple[str, bool, str]]:
    """What the plan would do with sample addresses (normalised): (address as it counts, whether it is fetched, why not)."""
    scope = Scope.of(plan)
    rows = []
    for address in addresses:
        url = scope.identity(address)
        if not scope.on_site(url):
            why = f"not on {scope.host}"
        elif not scope.belongs(url):
            why = f"not below {scope.path_prefix}"
        elif len(url) > plan.url_chars_max:
            why = f"longer than {plan.url_chars_max} characters"
        else:
            why = scope.why_excluded(url)
        rows.append((url, not why, why))
    return rows
