"""The latest round of a benchmark as tables: its measures, the checks that fail, and what competitors have."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from hodcarrier.report.workbook import Sheet
from hodcarrier.wire.benchmarks import BenchmarkOut

# What there is of each site: its figure, and the bounds of its 95 % interval where it is a sample.
_OF_SITE = ("", " low", " high")


def measure_table(found: BenchmarkOut) -> Sheet:
    """A row for each measure: figures in its unit, ranks, and the gaps of the own site."""
    heads = {"measure": "Measure", "group": "About", "unit": "Unit", "good": "Good is", "resolution": "Least difference"}
    heads |= {f"{host}{part}": f"{host}{part}" for host in found.hosts for part in _OF_SITE}
    heads |= {f"rank {host}": f"Rank of {host}" for host in found.hosts}
    heads |= {"gap_to_best": "To the best", "gap_to_median": "To the median", "lead": "We are"}
    return heads, tuple(heads), _measures(found)


def _measures(found: BenchmarkOut) -> Iterator[dict[str, Any]]:
    for row in found.rows:
        figures: dict[str, Any] = {}
        for host, value, interval, rank in zip(found.hosts, row.values, row.intervals, row.ranks, strict=True):
            low, high = interval or (None, None)
            figures |= {host: value, f"{host} low": low, f"{host} high": high, f"rank {host}": rank}
        yield {
            "measure": row.name,
            "group": row.group,
            "unit": row.unit,
            "good": "high" if row.high_is_good else "low",
            "resolution": row.resolution,
            **figures,
            "gap_to_best": row.gap_to_best,
            "gap_to_median": row.gap_to_median,
            "lead": row.lead or "",
        }


def check_table(found: BenchmarkOut) -> Sheet:
    """A row for each failing check: the share of pages of every site, in percent."""
    heads = {"severity": "Severity", "check": "Check", "summary": "What"}
    heads |= {f"{host}{part}": f"{host}{part}" for host in found.hosts for part in _OF_SITE}
    rows = (
        {
            "severity": row.severity,
            "check": row.check,
            "summary": row.summary,
            **{
                f"{host}{part}": value
                for host, share in zip(found.hosts, row.shares, strict=True)
                for part, value in zip(_OF_SITE, share or (), strict=False)
            },
        }
        for row in found.shares
    )
    return heads, tuple(heads), rows


def missing_table(found: BenchmarkOut) -> Sheet:
    """A row for each thing that competitors have and the own site has not: on how many pages of each site."""
    heads = {"kind": "What", "name": "Name", **{host: host for host in found.hosts}}
    rows = ({"kind": each.kind, "name": each.name, **dict(zip(found.hosts, each.pages, strict=True))} for each in found.missing)
    return heads, tuple(heads), rows
