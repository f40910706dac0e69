"""How a fix looks as code: an element as it stands in the source, mended by what the finding's evidence says.

Each function here makes a :data:`Mend` from a few words; a check names one in its metadata. A template is filled with the evidence and with
``page`` (the page's URL), ``origin``, ``title``, ``lang`` and ``spoken`` (the language its text is in) where they are known. What cannot be filled is not shown.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from html import escape
from string import Formatter
from typing import Any

from hodcarrier.core.facts.source import ATTRIBUTE, START_TAG

Mend = Callable[[str, Mapping[str, Any]], str]


def filled(template: str, data: Mapping[str, Any], *, as_html: bool = False) -> str:
    """A template with the evidence in it, escaped for HTML or as it is; empty when something is not known, or known to be empty."""
    names = {name for _, name, _, _ in Formatter().parse(template) if name}
    values = {name: str(data.get(name, "")) for name in names}
    if not all(values.values()):
        return ""
    return template.format_map({name: escape(value) if as_html else value for name, value in values.items()})


def attribute(name: str, template: str) -> Mend:
    """The element with an attribute set, in place of the one it has."""

    def mend(before: str, data: Mapping[str, Any]) -> str:
        value = filled(template, data)
        return _with(before, name, value) if value else ""

    return mend


def attributes(**templates: str) -> Mend:
    """The element with several attributes set."""

    def mend(before: str, data: Mapping[str, Any]) -> str:
        for name, template in templates.items():
            value = filled(template, data)
            before = _with(before, name, value) if value else ""
        return before

    return mend


def flag(name: str) -> Mend:
    """The element with an attribute that needs no value."""
    return lambda before, _data: _with(before, name, None)


def without_word(name: str, word: str) -> Mend:
    """The element without one word of an attribute's list, and without the attribute when nothing is left of it."""

    def mend(before: str, _data: Mapping[str, Any]) -> str:
        value = next((v for n, v in _written(before) if n == name), "")
        left = " ".join(each for each in value.split() if each.lower() != word)
        return _with(before, name, left or None, drop=not left)

    return mend


def content(template: str) -> Mend:
    """The element with another content."""

    def mend(before: str, data: Mapping[str, Any]) -> str:
        opened, text = START_TAG.match(before), filled(template, data)
        return f"{opened.group()}{escape(text, quote=False)}</{opened['tag']}>" if opened and text else ""

    return mend


def renamed(template: str) -> Mend:
    """The element under another name, which the template gives."""

    def mend(before: str, data: Mapping[str, Any]) -> str:
        opened, name = START_TAG.match(before), filled(template, data)
        if not opened or not name:
            return ""
        return re.sub(rf"(?i)(</?){re.escape(opened['tag'])}(?=[\s/>])", rf"\g<1>{name}", before)

    return mend


def inside(template: str) -> Mend:
    """The element with something in it that is missing now."""

    def mend(before: str, data: Mapping[str, Any]) -> str:
        opened, text = START_TAG.match(before), filled(template, data, as_html=True)
        return f"{opened.group() if opened else before}\n  {text}" if text else ""

    return mend


def ahead(code: str) -> Mend:
    """Something before the element."""
    return lambda before, _data: f"{code}\n{before}"


def line(template: str) -> Mend:
    """A line that stands elsewhere: a header of the answer, a line of robots.txt, an element of another page."""
    return lambda _before, data: filled(template, data)


def https() -> Mend:
    """The element with https where it says http."""
    return lambda before, _data: re.sub(r"(?i)http://", "https://", before)


def _written(before: str) -> list[tuple[str, str]]:
    opened = START_TAG.match(before)
    if opened is None:
        return []
    return [
        (found["name"].lower(), found["double"] or found["single"] or found["bare"] or "")
        for found in ATTRIBUTE.finditer(opened["inside"])
    ]


def _with(before: str, name: str, value: str | None, *, drop: bool = False) -> str:
    """An element with an attribute set to a value (``None``: one without a value), or without it (``drop``)."""
    opened = START_TAG.match(before)
    if opened is None:
        return ""
    written = "" if drop else f" {name}" if value is None else f' {name}="{escape(value)}"'
    inner = opened["inside"]
    found = next((each for each in ATTRIBUTE.finditer(inner) if each["name"].lower() == name), None)
    if found is not None:
        start = len(inner[: found.start()].rstrip())
        inner = inner[:start] + written + inner[found.end() :]
    else:
        closing = "/" if inner.rstrip().endswith("/") else ""
        inner = inner.rstrip().removesuffix("/").rstrip() + written + (" /" if closing else "")
    return f"<{opened['tag']}{inner}>" + before[opened.end() :]
