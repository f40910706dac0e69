"""Whether everything in a service's folder is whole: the register, each run's file, each site's figures, the key."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from dataclasses import dataclass, field
from pathlib import Path

from sqlalchemy import func, select

from hodcarrier.audit.place import KEY, REGISTER, RUNS, check_folder, open_place
from hodcarrier.core.errors import HodcarrierError
from hodcarrier.core.states import FileState
from hodcarrier.core.words import fill
from hodcarrier.register.models import EXAMINED, FigureFeed, Run, Site, SiteAccess
from hodcarrier.usecases import files
from hodcarrier.usecases.workspace import Workspace

PROBLEMS_MAX = 20


@dataclass
class Diagnosis:
    """What was found, in sentences. ``files`` counts the run files that were read; ``can_repair``: something can be set aside."""

    problems: list[str] = field(default_factory=list)
    repaired: list[str] = field(default_factory=list)
    files: int = 0
    can_repair: bool = False


def examine_folder(data: Path, *, repair: bool = False) -> Diagnosis:
    """Look at everything. With ``repair`` damaged run files are set aside and restored ones taken back.

    The service may be at work meanwhile. Raises :class:`InvalidInput` when there is no service's folder.
    """
    check_folder(data)
    found = Diagnosis()
    found.problems += register_problems(data / REGISTER)
    if found.problems:
        return found  # what it says of run files cannot be relied on
    work = open_place(data)
    _look_at_key(work, data, found)
    if repair:
        found.repaired += [f"The file of run {run_id} is back and is used again." for run_id in files.take_back(work)]
    for damaged in files.check_files(work, whole=True):
        found.problems.append(f"Run {damaged.run_id} of {damaged.site_host}: {damaged.problem}")
        found.can_repair = True
        if repair:
            files.set_aside(work, damaged)
            found.repaired.append(f"The file of run {damaged.run_id} is set aside; the run keeps its figures.")
    _look_for_strays(work, data, found, repair=repair)
    _look_at_figures(work, found)
    return found


def register_problems(path: Path) -> list[str]:
    """What SQLite finds wrong with a register: damaged pages, and records that belong to nothing."""
    try:
        with closing(sqlite3.connect(f"file:{path}?mode=ro", uri=True, timeout=30)) as db:
            said = [line for (line,) in db.execute(f"PRAGMA quick_check({PROBLEMS_MAX})")]
            lost = [] if said != ["ok"] else db.execute("PRAGMA foreign_key_check").fetchmany(PROBLEMS_MAX)
    except sqlite3.DatabaseError as error:
        return [f"The register cannot be read: {error}. Restore a backup."]
    problems = [] if said == ["ok"] else [f"The register is damaged: {line}. Restore a backup." for line in said]
    return problems + [
        f"The register has a record in {table} that belongs to nothing in {parent}." for table, _, parent, _ in lost
    ]


def _look_at_key(work: Workspace, data: Path, found: Diagnosis) -> None:
    """Whether what is sealed can be opened."""
    with work.reading() as session:
        access = session.scalars(select(SiteAccess.sealed)).all()
        sealed = [*access, *session.scalars(select(FigureFeed.sealed).where(FigureFeed.sealed != ""))]
    if sealed and not (data / KEY).is_file():
        of_sites = fill("{n:site}", {"n": len(access)})
        of_feeds = fill("{n:feed}", {"n": len(sealed) - len(access)})
        found.problems.append(
            f"{KEY} is missing: the access of {of_sites} and the tokens of {of_feeds} have to be entered again, or the key restored."
        )
        return
    for text in sealed:
        try:
            work.vault.open(text)
        except HodcarrierError as error:
            found.problems.append(f"{error.message} {error.hint}")
            return


def _look_for_strays(work: Workspace, data: Path, found: Diagnosis, *, repair: bool) -> None:
    """Run files that belong to no run any more: what is left when the service was killed while something was removed."""
    with work.reading() as session:
        known = set(session.scalars(select(Run.id)))
        kept = select(func.count()).select_from(Run).join(Site).where(EXAMINED, Run.file == FileState.KEPT)
        found.files = session.scalar(kept) or 0
    for path in sorted((data / RUNS).iterdir()):
        run_id = path.name.partition(".")[0]
        if run_id not in known:
            if repair:
                work.store.remove(run_id)
                found.repaired.append(f"{path.name} belonged to no run and is removed.")
            else:
                found.problems.append(f"{path.name} belongs to no run.")


def _look_at_figures(work: Workspace, found: Diagnosis) -> None:
    """Whether the figures of each site can be read, and belong to a site."""
    with work.reading() as session:
        known = dict(session.execute(select(Site.id, Site.host)).all())
    for site_id in work.figures.sites():
        name = work.figures.path(site_id).name
        if site_id not in known:
            found.problems.append(f"{name} in the folder of figures belongs to no site. Remove it.")
            continue
        try:
            with work.figures.read(site_id) as db:
                said = [line for (line,) in db.execute(f"PRAGMA quick_check({PROBLEMS_MAX})")] if db is not None else ["ok"]
        except (HodcarrierError, sqlite3.DatabaseError) as error:
            said = [str(error)]
        if said != ["ok"]:
            found.problems.append(f"The figures of {known[site_id]} are damaged: {said[0]}. Restore {name} from a backup.")
