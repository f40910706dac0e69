"""The housekeeper: once a day a backup and the rule of retention, at the start a look at the latest run files."""

from __future__ import annotations

import shutil
import threading
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime
from functools import partial
from pathlib import Path

import structlog

from hodcarrier.audit.backup import LIST, back_up
from hodcarrier.core.errors import HodcarrierError
from hodcarrier.service.settings import Settings
from hodcarrier.usecases import figure_files, files, recurring_todos, todo_mails, webhooks
from hodcarrier.usecases.workspace import Workspace

EVERY_S = 60.0
log = structlog.get_logger()


@dataclass
class Housekeeper:
    """Keeps house in a thread of its own. ``troubles`` holds what went wrong with each thing it does, in words, until it goes well."""

    work: Workspace
    settings: Settings
    troubles: dict[str, str] = field(default_factory=dict)
    _done: dict[str, str] = field(default_factory=dict)
    _ended: threading.Event = field(default_factory=threading.Event)
    _thread: threading.Thread | None = None

    def start(self) -> None:
        """Begin."""
        self._ended.clear()
        self._thread = threading.Thread(target=self._round, name="housekeeper", daemon=True)
        self._thread.start()

    def end(self) -> None:
        """Go. A backup that is under way is broken off and made anew next time."""
        self._ended.set()
        if self._thread is not None:
            self._thread.join(5)

    def _round(self) -> None:
        self._try("files", self._look_at_files)
        while not self._ended.is_set():
            self.keep_house()
            self._try("recurring", partial(recurring_todos.make_due, self.work))
            self._try("reminders", partial(todo_mails.remind, self.work))
            self._ended.wait(EVERY_S)

    def keep_house(self) -> None:
        """Do what is due today and was not done yet. What fails is tried again the next time, and told meanwhile."""
        today = self.work.now().strftime("%Y-%m-%d")
        for name, wanted, task in (
            ("backup", self.settings.backups is not None, self._make_backup),
            ("retention", self.settings.keep_weeks > 0, self._let_go),
            ("tables", True, partial(figure_files.forget_tables, self.work)),
            ("messages", True, partial(webhooks.forget_old_messages, self.work)),
        ):
            if wanted and self._done.get(name) != today and self._try(name, task):
                self._done[name] = today

    def _try(self, name: str, task: Callable[[], object]) -> bool:
        try:
            task()
        except Exception as error:
            log.exception("housekeeping failed", what=name)
            said = error.message if isinstance(error, HodcarrierError) else str(error) or type(error).__name__
            self.troubles[name] = f"{_NAMES[name]} failed: {said}"
            return False
        self.troubles.pop(name, None)
        return True

    def _look_at_files(self) -> None:
        for damaged in files.check_files(self.work, whole=False, latest_only=True):
            log.error("run file set aside", run=damaged.run_id, site=damaged.site_host, why=damaged.problem)
            files.set_aside(self.work, damaged)

    def _make_backup(self) -> None:
        """A folder for each day: what did not change since the last one takes no room of its own."""
        assert self.settings.backups is not None
        made = backups_in(self.settings.backups)
        target = self.settings.backups / self.work.now().strftime("%Y-%m-%d")
        if target not in made:
            found = back_up(self.settings.data, target, like=made[-1] if made else None)
            log.info("backed up", runs=found.runs, copied=found.copied, bytes=found.total_bytes)
            made.append(target)
        for old in made[: -self.settings.backups_kept]:
            shutil.rmtree(old)
            log.info("backup removed", folder=old.name)

    def _let_go(self) -> None:
        found = files.apply_retention(self.work, self.settings.keep_weeks, None)
        if found.removable:
            log.info("run files removed", files=len(found.removable), bytes=found.removable_bytes)


_NAMES = {
    "backup": "The daily backup",
    "retention": "Removing old run files",
    "files": "Looking at run files",
    "reminders": "Reminding people",
    "recurring": "Making recurring to-dos",
    "messages": "Clearing the logs of webhooks",
    "tables": "Removing tables of figures that nobody imported",
}


def backups_in(folder: Path) -> list[Path]:
    """The daily backups in a folder that are whole, the oldest first. Whatever else lies there is nobody's business."""
    if not folder.is_dir():
        return []
    return sorted(path for path in folder.iterdir() if _is_day(path.name) and (path / LIST).is_file())


def _is_day(name: str) -> bool:
    try:
        return datetime.strptime(name, "%Y-%m-%d").strftime("%Y-%m-%d") == name
    except ValueError:
        return False
