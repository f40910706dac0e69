"""The postman: sends the mails of the outbox, in a thread of his own, so that a slow server holds up nothing else."""

from __future__ import annotations

import threading
from typing import Protocol

import structlog

from hodcarrier.service.mail import Refused
from hodcarrier.usecases import due_mails, outbox, report_sending
from hodcarrier.usecases.workspace import Workspace

EVERY_S = 1.0
Enclosed = tuple[str, bytes]
log = structlog.get_logger()


class Mailer(Protocol):
    """Sends one mail."""

    def send(self, to: str, subject: str, text: str, html: str, message_id: str, enclosed: Enclosed | None = None) -> None:
        """Send a mail, with an HTML alternative unless ``html`` is empty, and a PDF with its name where there is one. Raises :class:`~hodcarrier.service.mail.Refused` when trying again is of no use."""
        ...


def deliver_due(work: Workspace, mailer: Mailer, should_stop: threading.Event | None = None) -> int:
    """Send every mail that is due, each by itself: what one meets is noted on it. Returns how many were taken."""
    taken = 0
    while not (should_stop and should_stop.is_set()) and (letter := outbox.claim_next(work)):
        try:
            enclosed = report_sending.enclosure(work, letter.report_id) if letter.report_id is not None else None
            mailer.send(letter.recipient, letter.subject, letter.text, letter.html, f"delivery-{letter.id}", enclosed)
        except Refused as refused:
            outbox.note_failed(work, letter.id, str(refused), final=True)
        except Exception as problem:
            log.warning("mail not sent", to=letter.recipient, exc_info=True)
            outbox.note_failed(work, letter.id, str(problem) or type(problem).__name__)
        else:
            outbox.note_sent(work, letter.id)
            taken += 1
    return taken


def go_round(work: Workspace, mailer: Mailer, should_stop: threading.Event) -> None:
    """Write the mails to people that are due, and send all that are."""
    due_mails.gather(work)
    deliver_due(work, mailer, should_stop)
