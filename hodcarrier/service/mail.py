"""Sending mail over SMTP (RFC 5321), or into the log when no server is set."""

from __future__ import annotations

import smtplib
from dataclasses import dataclass
from email.message import EmailMessage

import structlog

log = structlog.get_logger()


@dataclass(frozen=True)
class SmtpMailer:
    """Sends through one SMTP server."""

    host: str
    port: int
    sender: str

    def send(self, to: str, subject: str, text: str) -> None:
        """Send one mail. Raises :class:`OSError` (``smtplib`` errors are some) when the server does not take it."""
        message = EmailMessage()
        message["From"], message["To"], message["Subject"] = self.sender, to, " ".join(subject.split())
        message.set_content(text)
        with smtplib.SMTP(self.host, self.port, timeout=10) as server:
            server.send_message(message)


@dataclass(frozen=True)
class LogMailer:
    """Writes into the log that a mail would have gone out: used when no mail server is set."""

    def send(self, to: str, subject: str, text: str) -> None:
        """Note recipient and subject."""
        log.info("mail not sent, no server is set", to=to, subject=subject, chars=len(text))
