"""Backups of a service's folder, made while it works: the register and the figures as they are at one moment, every run it knows, and the key.

A backup is a folder with the same files and a list of their SHA-256 digests. Run files never change once they are whole, so a further backup
into the same folder copies new ones only.
"""

from __future__ import annotations

import hashlib
import json
import os
import shutil
import sqlite3
from contextlib import closing
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from hodcarrier.audit.place import FIGURES, KEY, REGISTER, RUNS, check_folder, hold_folder
from hodcarrier.core.errors import InvalidInput, Unavailable
from hodcarrier.figurefile.store import FigureStore
from hodcarrier.register.database import copy_live
from hodcarrier.runfile.store import LocalRunStore

LIST = "backup.json"
CHUNK = 1024 * 1024


@dataclass(frozen=True)
class Backed:
    """What a backup holds: how many run files, of which so many were copied now, and how many bytes in all."""

    runs: int
    copied: int
    total_bytes: int


def back_up(data: Path, target: Path, like: Path | None = None) -> Backed:
    """Back up a service's folder, which may be at work. Raises :class:`InvalidInput` or :class:`Unavailable`.

    Run files that an earlier backup (``like``) has already are shared with it, where the file system can do that.
    """
    check_folder(data)
    if target.exists() and any(target.iterdir()) and not (target / LIST).is_file():
        raise InvalidInput(f"{target} holds something else.", "Name an empty folder, or one of an earlier backup.", "target")
    try:
        for folder in (RUNS, FIGURES):
            (target / folder).mkdir(parents=True, exist_ok=True)
        target.chmod(0o700)
        known = _digests(target) if (target / LIST).is_file() else {}
        if like is not None and not known:
            known = _share(like, target)
        # The register first: a run it knows as done is whole by now, and stays so while it is copied.
        fresh = _copy_register(data / REGISTER, target)
        digests = {REGISTER: _digest(fresh)}
        if (data / KEY).is_file():
            digests[KEY] = _copy(data / KEY, target / KEY)
        copied = 0
        for run_id in _runs_of(fresh):
            source = LocalRunStore(data / RUNS).whole_path(run_id)
            name = f"{RUNS}/{source.name}"
            kept = target / name
            try:
                size = source.stat().st_size
                if name in known and kept.is_file() and kept.stat().st_size == size:
                    digests[name] = known[name]
                else:
                    digests[name] = _copy(source, kept)
                    copied += 1
            except FileNotFoundError:
                continue  # it was removed, before this or meanwhile
        for site_id in FigureStore(data / FIGURES).sites():
            digests |= _copy_figures(data, target, site_id)
        for folder in (RUNS, FIGURES):
            for path in (target / folder).iterdir():
                if f"{folder}/{path.name}" not in digests:
                    path.unlink()
        fresh.replace(target / REGISTER)
        listed = {"made_at": datetime.now(UTC).isoformat(timespec="seconds"), "sha256": digests}
        part = target / (LIST + ".unfinished")
        part.write_text(json.dumps(listed, indent=1))
        part.replace(target / LIST)
    except OSError as error:
        raise Unavailable(
            f"The backup broke off: {error.strerror} ({error.filename}).", "Make room, or name another folder."
        ) from error
    total = sum((target / name).stat().st_size for name in digests)
    return Backed(sum(name.startswith(RUNS) for name in digests), copied, total)


def restore(source: Path, data: Path) -> Backed:
    """Put a backup into an empty folder, after every file was found to be whole. Raises :class:`InvalidInput` or :class:`Unavailable`."""
    damaged = check(source)
    if damaged:
        raise InvalidInput(f"The backup is damaged: {', '.join(damaged[:5])}.", "Use another backup.", "source")
    if data.exists() and any(path.name != "service.lock" for path in data.iterdir()):
        raise InvalidInput(f"{data} is not empty.", "Name an empty or new folder with --data; nothing is overwritten.", "data")
    names = list(_digests(source))
    try:
        with hold_folder(data):
            data.chmod(0o700)
            for folder in (RUNS, FIGURES):
                (data / folder).mkdir(exist_ok=True)
            for name in sorted(names, key=lambda each: each == REGISTER):  # the register last: without it there is no service
                _copy(source / name, data / name)
    except OSError as error:
        raise Unavailable(f"The backup could not be restored: {error.strerror}.", "Make room, or name another folder.") from error
    return Backed(sum(name.startswith(RUNS) for name in names), len(names), sum((data / n).stat().st_size for n in names))


def check(source: Path) -> list[str]:
    """The files of a backup that are missing or not as they were written. Raises :class:`InvalidInput` when it is no backup."""
    return [
        name for name, digest in _digests(source).items() if not (source / name).is_file() or _digest(source / name) != digest
    ]


def _digests(folder: Path) -> dict[str, str]:
    try:
        listed: dict[str, str] = json.loads((folder / LIST).read_text())["sha256"]
    except (OSError, ValueError, KeyError, TypeError):
        raise InvalidInput(
            f"There is no backup in {folder}.", "Name a folder that `hodcarrier backup` has made.", "source"
        ) from None
    if any(Path(name).is_absolute() or ".." in Path(name).parts for name in listed):
        raise InvalidInput(f"The list of the backup in {folder} names files outside of it.", "Use another backup.", "source")
    return listed


def _copy_register(source: Path, folder: Path) -> Path:
    """The register as it is at one moment, checked, under a name of its own."""
    part = folder / (REGISTER + ".unfinished")
    copy_live(source, part)
    with closing(sqlite3.connect(part)) as copy:
        if copy.execute("PRAGMA integrity_check").fetchone() != ("ok",):
            raise Unavailable("The register is damaged.", "Restore an earlier backup.")
        copy.execute("PRAGMA journal_mode=DELETE")
    part.chmod(0o600)
    return part


def _copy_figures(data: Path, target: Path, site_id: int) -> dict[str, str]:
    """The figures of a site as they are at one moment; nothing when the site was removed meanwhile."""
    source = FigureStore(data / FIGURES).path(site_id)
    kept = target / FIGURES / source.name
    part = kept.with_suffix(".unfinished")
    if not source.is_file():
        return {}
    copy_live(source, part)
    with closing(sqlite3.connect(part)) as copy:
        copy.execute("PRAGMA journal_mode=DELETE")
    part.chmod(0o600)
    part.replace(kept)
    return {f"{FIGURES}/{kept.name}": _digest(kept)}


def _share(like: Path, target: Path) -> dict[str, str]:
    """Link the run files of another backup into this one; gives their digests. What cannot be linked will be copied."""
    shared = {}
    for name, digest in _digests(like).items():
        if name.startswith(RUNS):
            try:
                (target / name).unlink(missing_ok=True)
                os.link(like / name, target / name)
            except OSError:
                continue
            shared[name] = digest
    return shared


def _runs_of(register: Path) -> list[str]:
    with closing(sqlite3.connect(register)) as db:
        return [run_id for (run_id,) in db.execute("SELECT id FROM run WHERE summary IS NOT NULL ORDER BY id")]


def _copy(source: Path, target: Path) -> str:
    """Copy a file under a name of its own first; gives its digest, taken from what was written."""
    part = target.with_name(target.name + ".unfinished")
    shutil.copyfile(source, part)
    part.chmod(0o600)
    part.replace(target)
    return _digest(target)


def _digest(path: Path) -> str:
    found = hashlib.sha256()
    with path.open("rb") as file:
        while chunk := file.read(CHUNK):
            found.update(chunk)
    return found.hexdigest()
