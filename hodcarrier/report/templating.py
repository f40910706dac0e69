"""How templates are read: every value escaped, and a name that there is not is an error."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from jinja2 import Environment, PackageLoader, StrictUndefined, select_autoescape


def make_environment(filters: Mapping[str, Callable[..., Any]], *, keep_trailing_newline: bool = False) -> Environment:
    """An environment for the templates of this package, with filters of its own."""
    environment = Environment(
        loader=PackageLoader("hodcarrier.report"),
        autoescape=select_autoescape(),
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
        keep_trailing_newline=keep_trailing_newline,
    )
    environment.filters.update(filters)
    return environment
