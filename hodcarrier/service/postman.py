"""The postman: sends the mails of the outbox, in a thread of his own, so that a slow server holds up nothing else."""

from __future__ import annotations

import threading
from dataclasses import dataclass, field
from typing import Protocol

import structlog

from hodcarrier.service.mail import Refused
from hodcarrier.usecases import outbox, todo_mails
from hodcarrier.usecases.workspace import Workspace

EVERY_S = 1.0
log = structlog.get_logger()


class Mailer(Protocol):
    """Sends one mail."""

    def send(self, to: str, subject: str, text: str, html: str, message_id: str) -> None:
        """Send a mail, with an HTML alternative unless ``html`` is empty. Raises :class:`~hodcarrier.service.mail.Refused` when trying again is of no use."""
        ...


def deliver_due(work: Workspace, mailer: Mailer, should_stop: threading.Event | None = None) -> int:
    """Send every mail that is due, each by itself: what one meets is noted on it. Returns how many were taken."""
    taken = 0
    while not (should_stop and should_stop.is_set()) and (letter := outbox.claim_next(work)):
        try:
            mailer.send(letter.recipient, letter.subject, letter.text, letter.html, f"delivery-{letter.id}")
        except Refused as refused:
            outbox.note_failed(work, letter.id, str(refused), final=True)
        except Exception as problem:
            log.warning("mail not sent", to=letter.recipient, exc_info=True)
            outbox.note_failed(work, letter.id, str(problem) or type(problem).__name__)
        else:
            outbox.note_sent(work, letter.id)
            taken += 1
    return taken


@dataclass
class Postman:
    """Looks into the outbox again and again until it is ended."""

    work: Workspace
    mailer: Mailer
    _ended: threading.Event = field(default_factory=threading.Event)
    _thread: threading.Thread | None = None

    def start(self) -> None:
        """Begin."""
        self._ended.clear()
        self._thread = threading.Thread(target=self._round, name="postman", daemon=True)
        self._thread.start()

    def end(self) -> None:
        """Finish the mail that is being sent, and go. A mail cut off here is sent again when its claim lapses."""
        self._ended.set()
        if self._thread is not None:
            self._thread.join(15)

    def _round(self) -> None:
        while not self._ended.is_set():
            try:
                todo_mails.gather(self.work)
                deliver_due(self.work, self.mailer, self._ended)
            except Exception:
                log.exception("the outbox could not be read")
            self._ended.wait(EVERY_S)
