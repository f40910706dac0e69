"""The catalogue: every check with its rule, read from ``hodcarrier/core/checks/<area>/``.

The name of a file is the id of its check (underscores for hyphens), the folder is its area. A module holds ``CHECK``
(the metadata) and ``find`` (the rule); a group check also holds ``key``. Adding a check touches that one file.
"""

from __future__ import annotations

import hashlib
import importlib
import inspect
import json
import pkgutil
from collections.abc import Iterator, Mapping
from functools import cached_property, lru_cache
from types import ModuleType
from typing import Any

from hodcarrier.core.catalogue.model import AREAS, VIEWS, Entry
from hodcarrier.core.catalogue.retired import ALIASES, RETIRED, Retired
from hodcarrier.core.errors import NotFound
from hodcarrier.core.states import Area

CHECKS = "hodcarrier.core.checks"


class Catalogue(Mapping[str, Entry[Any]]):
    """All checks by id, in the order of areas and then of ids; with the ids that were renamed or retired."""

    def __init__(self, entries: Mapping[str, Entry[Any]], aliases: Mapping[str, str], retired: Mapping[str, Retired]) -> None:
        self._entries = dict(entries)
        self.aliases = dict(aliases)
        self.retired = dict(retired)

    def __getitem__(self, check: str) -> Entry[Any]:
        return self._entries[self.current(check)]

    def __iter__(self) -> Iterator[str]:
        return iter(self._entries)

    def __len__(self) -> int:
        return len(self._entries)

    def current(self, check: str) -> str:
        """The id a check has now, given one it has or had."""
        for _ in self.aliases:
            if check not in self.aliases:
                break
            check = self.aliases[check]
        return check

    def names(self, check: str) -> list[str]:
        """The ids that a check had before, in the order of the alphabet."""
        return sorted(old for old in self.aliases if self.current(old) == check)

    @cached_property
    def version(self) -> str:
        """A digest of what decides about findings: ids, revisions, severities and limits. Never set by hand."""
        parts = [
            (e.id, e.check.revision, e.check.severity, e.check.subject, {n: k.default for n, k in e.check.limits.items()})
            for e in self.values()
        ]
        return hashlib.blake2b(json.dumps(parts).encode(), digest_size=6).hexdigest()

    def find(self, check: str) -> Entry[Any]:
        """One check. Raises :class:`NotFound` with what became of a retired one, or near ids for a wrong one."""
        current = self.current(check)
        if current in self._entries:
            return self._entries[current]
        if current in self.retired:
            gone = self.retired[current]
            instead = f"See {' and '.join(gone.instead)}." if gone.instead else "Nothing takes its place."
            raise NotFound(f"The check “{current}” was retired in {gone.since}: {gone.reason}", instead)
        near = [name for name in self if check and (name.startswith(check) or check in name)][:4]
        raise NotFound(
            f"No check is called “{check}”.",
            "Did you mean " + ", ".join(near) + "?" if near else "See `hodcarrier catalogue list`.",
        )


@lru_cache(maxsize=1)
def load() -> Catalogue:
    """The catalogue of this release."""
    entries: list[Entry[Any]] = []
    first = {new: old for old, new in ALIASES.items() if old not in ALIASES.values()}
    for area in AREAS:
        try:
            package = importlib.import_module(f"{CHECKS}.{area}")
        except ModuleNotFoundError:
            continue
        for module_info in pkgutil.iter_modules(package.__path__):
            module = importlib.import_module(f"{package.__name__}.{module_info.name}")
            entries.append(read_entry(module, module_info.name.replace("_", "-"), area, first))
    return Catalogue({entry.id: entry for entry in entries}, ALIASES, RETIRED)


def read_entry(module: ModuleType, check: str, area: Area, first: Mapping[str, str]) -> Entry[Any]:
    """The check that a module holds. Raises :class:`TypeError` when its rule looks at something else than it declares."""
    view = next(iter(inspect.signature(module.find).parameters.values())).annotation
    wanted = VIEWS[module.CHECK.subject]
    if view is not wanted:
        raise TypeError(f"{check} is about a {module.CHECK.subject}, so find takes a {wanted.__name__}, not {view}.")
    key, join = getattr(module, "key", lambda _page: ""), getattr(module, "join", None)
    return Entry(check, area, module.CHECK, module.find, key, first.get(check, check), join)


def get(check_id: str) -> Entry[Any]:
    """One check of this release. Raises :class:`NotFound`."""
    return load().find(check_id)
