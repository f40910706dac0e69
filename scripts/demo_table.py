"""Writes ``docs/demo-findings.md``: which check fails on which site of the demo. ``python -m scripts.demo_table FOLDER`` beside a demo that has played."""

from __future__ import annotations

import sys
from collections import Counter, defaultdict
from pathlib import Path

from hodcarrier.core.catalogue import AREAS, load
from hodcarrier.core.web.urls import split
from hodcarrier.runfile.reader import RunFile

OF_LOOKS = {"markup-errors": "pages that are looked at: `page look` alone reads the errors of a source"}
TARGET = Path(__file__).parents[1] / "docs/demo-findings.md"


def counted(folder: Path) -> dict[str, Counter[str]]:
    """In how many runs of each host each check fails, by the run files in a service's folder."""
    found: defaultdict[str, Counter[str]] = defaultdict(Counter)
    for path in sorted((folder / "runs").glob("*.sqlite")):
        with RunFile.open(path) as run:
            host = split(run.meta("plan")["start"][0]).host
            for (check,) in run.rows("SELECT DISTINCT check_id FROM finding"):
                found[check][host] += 1
    return found


def main() -> int:
    """Write the table; says how many checks fail somewhere."""
    found = counted(Path(sys.argv[1]))
    catalogue = load()
    lines = [
        "# What fails where in the demo",
        "",
        f"{len(found)} of {len(catalogue)} checks fail in at least one of the demo's runs. Written by `python -m scripts.demo_table` from the runs of `make demo`;",
        "do not edit. In brackets the number of runs.",
    ]
    for area, name in AREAS.items():
        lines += ["", f"## {name}", "", "| check | fails on |", "|---|---|"]
        for entry in catalogue.values():
            if entry.area == area:
                hosts = ", ".join(f"{host} ({runs})" for host, runs in sorted(found.get(entry.id, Counter()).items()))
                lines.append(f"| `{entry.id}` | {hosts or OF_LOOKS.get(entry.id, 'nowhere yet')} |")
    TARGET.write_text("\n".join(lines) + "\n")
    print(f"{len(found)} of {len(catalogue)} checks; {TARGET.name} is written.")
    return 0


if __name__ == "__main__":
    sys.exit(main())
