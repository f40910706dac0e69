"""A mail drawn from what it says, as text and as HTML."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from jinja2 import Environment

from hodcarrier.core.words import visible
from hodcarrier.report.templating import make_environment


@dataclass(frozen=True)
class MailItem:
    """One thing that a mail tells: a title that leads to ``url``, lines about it, and the words of a person."""

    title: str
    url: str = ""
    lines: Sequence[str] = ()
    quote: str = ""


@dataclass(frozen=True)
class MailPart:
    """Things that a mail tells under one heading."""

    heading: str
    items: Sequence[MailItem]


@dataclass(frozen=True)
class Mail:
    """A mail that is ready to be sent."""

    subject: str
    text: str
    html: str


@lru_cache(maxsize=1)
def _environment() -> Environment:
    return make_environment({}, keep_trailing_newline=True)


def draw_mail(subject: str, opening: str, parts: Sequence[MailPart], why: str, settings_url: str, language: str = "en") -> Mail:
    """A mail with an opening sentence and its parts. ``why`` says why somebody gets it, ``settings_url`` leads to where that is chosen; ``language`` is the code of what it is written in."""
    values = {
        "subject": subject,
        "opening": opening,
        "parts": parts,
        "why": why,
        "settings_url": settings_url,
        "language": language,
    }
    text, html = (_environment().get_template(name).render(values) for name in ("mail.txt", "mail.html"))
    return Mail(subject, visible(text), visible(html))
