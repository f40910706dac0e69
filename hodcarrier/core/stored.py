"""Values that outlive a release: stored with a version, and lifted by a reader for every version that was ever released."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, Generic, TypeVar

import msgspec

from hodcarrier.core.errors import DamagedRecord

T = TypeVar("T")
Plain = dict[str, Any]
VERSION_KEY = "version"


@dataclass(frozen=True, eq=False)
class Format(Generic[T]):
    """How values of one kind (a dataclass) are stored: plain values with their ``version``.

    ``lifts`` holds, for every older version, what makes its plain values those of the next one. Version 0 are values that were
    stored before they had a version.
    """

    kind: type[T]
    noun: str
    version: int = 1
    lifts: Mapping[int, Callable[[Plain], Plain]] = field(default_factory=dict)

    def dump(self, value: T) -> Plain:
        """Plain values, ready for JSON."""
        plain: Plain = msgspec.to_builtins(value, str_keys=True)
        return {VERSION_KEY: self.version, **plain}

    def load(self, stored: Plain) -> T:
        """The value. Raises :class:`DamagedRecord` when it is of a later release or cannot be read."""
        plain = dict(stored)
        version = plain.pop(VERSION_KEY, 0)
        if not isinstance(version, int) or version > self.version:
            raise DamagedRecord(
                f"This {self.noun} was stored by a later release (version {version}).", "Use that release, or make it again."
            )
        try:
            for step in range(version, self.version):
                plain = self.lifts[step](plain)
            return msgspec.convert(plain, self.kind, strict=False)
        except (msgspec.ValidationError, KeyError, TypeError, ValueError) as error:
            raise DamagedRecord(
                f"This {self.noun} cannot be read: {error}.", "Restore it from a backup, or make it again."
            ) from None
