"""Sending mail over SMTP (RFC 5321), or into the log when no server is set."""

from __future__ import annotations

import smtplib
from dataclasses import dataclass
from email.message import EmailMessage
from email.utils import formatdate

import structlog

TIMEOUT_S = 20
log = structlog.get_logger()


class Refused(Exception):
    """A mail that will never be taken: trying again is of no use."""


@dataclass(frozen=True)
class SmtpMailer:
    """Sends through one SMTP server."""

    host: str
    port: int
    sender: str

    def send(
        self, to: str, subject: str, text: str, html: str, message_id: str = "", enclosed: tuple[str, bytes] | None = None
    ) -> None:
        """Send one mail, with an ``html`` alternative and a PDF (its name and content) where there is one. Raises :class:`OSError` (``smtplib`` errors are some) when the server does not take it now, :class:`Refused`
        when it never will: an address that is none, or a permanent reply (RFC 5321, 4.2.1: 5yz)."""
        message = EmailMessage()
        try:
            message["From"], message["To"], message["Subject"] = self.sender, to, " ".join(subject.split())
        except (ValueError, IndexError, AttributeError) as error:
            raise Refused(f"“{to!r}” is no address that a mail can be sent to: {error}.") from None
        message["Date"] = formatdate(usegmt=True)
        if message_id:
            message["Message-ID"] = f"<{message_id}@{self.sender.rpartition('@')[2] or 'localhost'}>"
        message.set_content(text)
        if html:
            message.add_alternative(html, subtype="html")
        if enclosed is not None:
            name, content = enclosed
            message.add_attachment(content, maintype="application", subtype="pdf", filename=name)
        try:
            with smtplib.SMTP(self.host, self.port, timeout=TIMEOUT_S) as server:
                server.send_message(message)
        except smtplib.SMTPRecipientsRefused as refused:
            code, reply = next(iter(refused.recipients.values()))
            self._raise(code, reply, refused)
        except smtplib.SMTPResponseException as refused:
            self._raise(refused.smtp_code, refused.smtp_error, refused)

    def _raise(self, code: int, reply: bytes | str, error: OSError) -> None:
        words = reply.decode(errors="replace") if isinstance(reply, bytes) else reply
        if 500 <= code < 600:
            raise Refused(f"The mail server refuses it for good: {code} {words}") from error
        raise OSError(f"The mail server does not take it now: {code} {words}") from error


@dataclass(frozen=True)
class LogMailer:
    """Writes into the log that a mail would have gone out: used when no mail server is set."""

    def send(
        self,
        to: str,
        subject: str,
        text: str,
        html: str,  # noqa: ARG002
        message_id: str = "",
        enclosed: tuple[str, bytes] | None = None,
    ) -> None:
        """Note recipient and subject."""
        log.info(
            "mail not sent, no server is set",
            to=to,
            subject=subject,
            chars=len(text),
            id=message_id,
            enclosed=enclosed[0] if enclosed else "",
        )
