"""The page that asks for the passphrase of a share link, in the language of the report."""

from __future__ import annotations

from functools import lru_cache

from jinja2 import Environment

from hodcarrier.report.language import language
from hodcarrier.report.templating import make_environment


@lru_cache(maxsize=1)
def _environment() -> Environment:
    return make_environment({})


def draw_question(title: str, code: str, *, refused: bool) -> str:
    """A form for the passphrase; ``refused``: the one before was wrong."""
    words = language(code)
    return (
        _environment()
        .get_template("asks.html")
        .render(
            language=words.code,
            title=title,
            label=words.say("Passphrase"),
            button=words.say("Open report"),
            trouble=words.say("That is not the passphrase. Try again, or ask whoever sent you the link.") if refused else "",
        )
    )
