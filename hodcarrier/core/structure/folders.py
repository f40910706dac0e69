"""A site by its folders, or by anything else that its pages have in common: figures of each branch with all that lies below it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, replace


@dataclass(frozen=True)
class Branch:
    """Some pages under one name. ``name`` is a path that ends in a slash, or a host, language or template; ``inner`` tells how many branches lie directly
    below; figures are of all pages in it, however deep: ``scored`` those that have a health, the sum of which is ``health_sum``."""

    name: str
    pages: int = 0
    indexable: int = 0
    scored: int = 0
    health_sum: float = 0.0
    findings: int = 0
    severe: int = 0
    flow: float = 0.0
    inner: int = 0

    @property
    def health(self) -> float | None:
        """The mean health of its pages, in points; ``None`` where none is scored."""
        return self.health_sum / self.scored if self.scored else None

    def with_(self, other: Branch) -> Branch:
        """Both together, under the name of this one."""
        return Branch(
            self.name,
            self.pages + other.pages,
            self.indexable + other.indexable,
            self.scored + other.scored,
            self.health_sum + other.health_sum,
            self.findings + other.findings,
            self.severe + other.severe,
            self.flow + other.flow,
        )


def below(folders: Iterable[Branch], path: str) -> tuple[Branch | None, list[Branch]]:
    """The folders directly below a path, each with all that lies in it, those with most pages first; and the pages that lie in the path itself.

    ``folders`` are those that have pages, by the path up to the last slash.
    """
    own: Branch | None = None
    found: dict[str, Branch] = {}
    inner: defaultdict[str, set[str]] = defaultdict(set)
    for folder in folders:
        if folder.name == path:
            own = folder
        elif folder.name.startswith(path):
            step, _, rest = folder.name[len(path) :].partition("/")
            child = f"{path}{step}/"
            if rest:
                inner[child].add(rest.partition("/")[0])
            found[child] = found.get(child, Branch(child)).with_(folder)
    grown = [replace(branch, inner=len(inner[branch.name])) for branch in found.values()]
    return own, sorted(grown, key=lambda branch: (-branch.pages, branch.name))
