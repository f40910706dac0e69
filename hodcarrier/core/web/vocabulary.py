"""The vocabulary of schema.org: which types and properties there are, and which go together.

The file beside this module is made by ``scripts/vocabulary.py`` from a package that ships the vocabulary's declarations.
"""

from __future__ import annotations

from functools import lru_cache
from importlib import resources

import msgspec


class Property(msgspec.Struct, frozen=True):
    """A property: the types that have it, what its values may be, and whether the vocabulary has another one in its place by now."""

    of: frozenset[str]
    values: frozenset[str]
    old: bool = False


class Vocabulary(msgspec.Struct, frozen=True):
    """Types with the types they are kinds of, properties by name, and the members of enumerations."""

    source: str
    types: dict[str, tuple[str, ...]]
    properties: dict[str, Property]
    members: dict[str, frozenset[str]]

    def kinds(self, name: str) -> frozenset[str]:
        """A type and all that it is a kind of; empty for one that the vocabulary does not know."""
        return _kinds(name)

    def is_a(self, types: tuple[str, ...], wanted: str) -> bool:
        """Whether one of the types is of the wanted kind."""
        return any(wanted in self.kinds(name) for name in types)


@lru_cache(maxsize=1)
def vocabulary() -> Vocabulary:
    """The vocabulary as it ships."""
    return msgspec.json.decode(resources.files(__package__).joinpath("schema_org.json").read_bytes(), type=Vocabulary)


@lru_cache(maxsize=2_000)
def _kinds(name: str) -> frozenset[str]:
    types = vocabulary().types
    found: set[str] = set()
    waiting = [name] if name in types else []
    while waiting:
        kind = waiting.pop()
        if kind not in found:
            found.add(kind)
            waiting.extend(types.get(kind, ()))
    return frozenset(found)
