"""``make bench IMPORT=1``: a table of a million rows of search figures, imported as a person does it, against a bare loop that reads the same table and writes its rows.

Each takes place in a process of its own, one after the other and three times; times are of the processor, memory is the most that the process had.
"""

from __future__ import annotations

import base64
import csv
import gzip
import json
import random
import resource
import sqlite3
import subprocess
import sys
import time
from collections.abc import Iterator
from datetime import date, timedelta
from pathlib import Path
from statistics import median

ROWS, DAYS = 1_000_000, 50
ROUNDS = 3
WANTED_S, WANTED_MB = 60, 300
FIRST = date(2026, 10, 1)


def write_table(path: Path) -> None:
    """The table, packed: so many queries and pages on each day, in German dress, so that nothing can be taken as it stands."""
    chance = random.Random(7)
    with gzip.open(path, "wt", encoding="utf-8", newline="", compresslevel=6) as file:
        out = csv.writer(file, delimiter=";")
        out.writerow(["Datum", "Seite", "Suchanfrage", "Gerät", "Klicks", "Impressionen", "Position"])
        for n in range(ROWS):
            day, number = FIRST + timedelta(days=n % DAYS), n // DAYS
            clicks = int(chance.paretovariate(1.2)) - 1
            place = f"{chance.uniform(1, 60):.1f}".replace(".", ",")
            page = f"https://rope.example/shop/{number % 900}"
            out.writerow([f"{day:%d.%m.%Y}", page, f"rope {number}", "Smartphone", clicks, clicks * 20 + 3, place])


def measure(folder: Path) -> int:
    """Measure and print; 1 when it is slower or takes more than it should."""
    table = folder / "table.csv.gz"
    write_table(table)
    taken: dict[str, list[dict[str, float]]] = {"bare": [], "import": []}
    for number in range(ROUNDS):
        for kind, rounds in taken.items():
            place = folder / f"{kind}-{number}"
            place.mkdir()
            command = [sys.executable, "-m", "bench.importing", kind, str(table), str(place)]
            rounds.append(json.loads(subprocess.run(command, check=True, capture_output=True, text=True).stdout.splitlines()[-1]))
    bare, own = (median(each["cpu_s"] for each in taken[kind]) for kind in ("bare", "import"))
    wall = median(each["wall_s"] for each in taken["import"])
    most = max(each["peak_mb"] for each in taken["import"])
    print(
        f"{ROWS:,} rows imported: {own:.1f} s of the processor, {bare / own:.2f} of the bare loop ({bare:.1f} s);"
        f" {wall:.1f} s for who waits, wanted {WANTED_S}; peak memory {most:.0f} MB, wanted {WANTED_MB}"
    )
    return 0 if wall <= WANTED_S and most <= WANTED_MB else 1


def _bare(table: Path, folder: Path) -> None:
    """Read every row, make of it what is kept, and write it: what nobody can do without."""
    with gzip.open(table, "rt", encoding="utf-8", newline="") as file, sqlite3.connect(folder / "bare.sqlite") as db:
        db.execute("CREATE TABLE row (day INT, page TEXT, query TEXT, device TEXT, clicks INT, impressions INT, position REAL)")
        rows = csv.reader(file, delimiter=";")
        next(rows)
        db.executemany("INSERT INTO row VALUES (?, ?, ?, ?, ?, ?, ?)", _read(rows))


def _read(rows: Iterator[list[str]]) -> Iterator[tuple[object, ...]]:
    for day, page, query, device, clicks, shown, place in rows:
        when = date(int(day[6:]), int(day[3:5]), int(day[:2])).toordinal()
        yield when, page, query, device, int(clicks), int(shown), float(place.replace(",", "."))


def _import(table: Path, folder: Path) -> None:
    from hodcarrier.audit.place import make_place
    from hodcarrier.core.permissions import Role
    from hodcarrier.register.models import Member
    from hodcarrier.usecases import clients, figure_files, members, sites
    from hodcarrier.wire.clients import ClientBody
    from hodcarrier.wire.figures import FigureFileBody, FigureImport
    from hodcarrier.wire.members import MemberBody
    from hodcarrier.wire.sites import SiteBody

    work = make_place(folder, "https://desk.example")
    body = MemberBody(name="Imke Aldersgate", email="imke@agency.example", role=Role.LEAD, password="a-password-of-the-bench")
    made = members.add_member(work, body)
    with work.reading() as session:
        member = session.get_one(Member, made.id)
        session.expunge(member)
    client = clients.add_client(work, ClientBody(name="Rope & Sail"), None)
    site = sites.add_site(work, SiteBody(client_id=client.id, address="https://rope.example/"), None)
    content = base64.b64encode(table.read_bytes()).decode()
    added = figure_files.add_figure_file(work, site.id, FigureFileBody(name="table.csv.gz", content=content), member)
    done = figure_files.import_figure_file(work, site.id, added.id, FigureImport(), member)
    assert done.outcome is not None and done.outcome.new == ROWS


def main() -> None:
    """One of the two, in this process; prints what it took."""
    kind, table, folder = sys.argv[1], Path(sys.argv[2]), Path(sys.argv[3])
    begun, cpu = time.monotonic(), time.process_time()
    (_bare if kind == "bare" else _import)(table, folder)
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    found = {"wall_s": time.monotonic() - begun, "cpu_s": time.process_time() - cpu, "peak_mb": peak}
    print(json.dumps(found))


if __name__ == "__main__":
    main()
