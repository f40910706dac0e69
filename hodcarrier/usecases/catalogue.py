"""The catalogue for its readers: checks in words, and what became of those that are no longer there."""

from __future__ import annotations

from hodcarrier.core import catalogue
from hodcarrier.core.catalogue import AREAS, Area, Entry, Retired
from hodcarrier.wire.catalogue import CatalogueEntry
from hodcarrier.wire.results import LimitOut, RetiredOut


def list_entries(area: Area | None = None, retired: bool = False) -> list[CatalogueEntry]:
    """All checks, or those of one area; with ``retired``, those that were taken out as well."""
    found = catalogue.load()
    rows = [entry_out(e) for e in found.values() if area in (None, e.area)]
    if retired:
        rows += [_retired_entry(check, gone) for check, gone in found.retired.items() if area in (None, gone.area)]
    return rows


def get_entry(check: str) -> CatalogueEntry:
    """One check, by an id it has or had; a retired one says what happened. Raises :class:`NotFound` for any other."""
    found = catalogue.load()
    current = found.current(check)
    if current in found.retired:
        return _retired_entry(current, found.retired[current])
    return entry_out(found.find(check))


def entry_out(entry: Entry[object]) -> CatalogueEntry:
    """A check in words."""
    check = entry.check
    return CatalogueEntry(
        id=entry.id,
        area=entry.area,
        area_name=AREAS[entry.area],
        severity=check.severity,
        subject=check.subject,
        summary=check.summary,
        terms=list(check.terms),
        why=check.why,
        fix=check.fix,
        effort=check.effort,
        standard=check.standard,
        applies_to=check.applies_to,
        examples=len(check.examples),
        limits={n: LimitOut(default=k.default, unit=k.unit, meaning=k.meaning) for n, k in check.limits.items()},
        messages=dict(check.messages),
        revision=check.revision,
        since=check.since,
        names=catalogue.load().names(entry.id),
    )


def retired_out(gone: Retired) -> RetiredOut:
    """What became of a retired check."""
    return RetiredOut(since=gone.since, reason=gone.reason, instead=list(gone.instead))


def _retired_entry(check: str, gone: Retired) -> CatalogueEntry:
    return CatalogueEntry(
        id=check,
        area=gone.area,
        area_name=AREAS[gone.area],
        severity=gone.severity,
        subject=None,
        summary=gone.summary,
        names=catalogue.load().names(check),
        retired=retired_out(gone),
    )
