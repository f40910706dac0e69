"""Writes the generated documents: ``docs/catalogue.md``, ``docs/client.md``, the topics in ``docs/webhooks.md``, ``docs/figure-feed.schema.json`` and ``docs/openapi.json``. Run by ``make docs``."""

from __future__ import annotations

import ast
import inspect
import json
import re
import tempfile
import textwrap
from collections.abc import Callable
from pathlib import Path
from typing import Any

from hodcarrier.client import Hodcarrier
from hodcarrier.core.catalogue import AREAS, load
from hodcarrier.core.figures.feed_schema import feed_schema
from hodcarrier.service.app import make_app, make_workspace
from hodcarrier.service.settings import Settings
from hodcarrier.wire.base import Wire
from hodcarrier.wire.glossary import description_of
from hodcarrier.wire.operations import OPERATIONS, Operation
from hodcarrier.wire.webhooks import TOPICS, message_of
from scripts import client, rules

DOCS = Path(__file__).parent.parent / "docs"
LINE_CHARS = 110
TOPICS_BEGIN = "## Topics"
ROLE = re.compile(r":\w+:`~?([^`]+)`")
COUNTED = re.compile(r"\{(\w+):([\w ]+)\}")


def catalogue_page() -> str:
    """The catalogue as Markdown, from the live registry."""
    entries = list(load().values())
    lines = [
        "# The catalogue of checks",
        "",
        f"{len(entries)} checks in {len({e.area for e in entries})} areas. Written from the checks themselves by `make docs`; do not edit.",
    ]
    for area, name in AREAS.items():
        inside = [e for e in entries if e.area == area]
        if not inside:
            continue
        lines += ["", f"## {name}"]
        for entry in inside:
            check = entry.check
            lines += [
                "",
                f"### `{entry.id}` {check.summary}",
                "",
                f"Severity {check.severity} · looks at: {check.subject}{' · applies to: ' + check.applies_to if check.applies_to else ''} · {check.effort} effort"
                f" · rests on {check.standard}",
                "",
                *([f"Also searched as {', '.join(check.terms)}.", ""] if check.terms else []),
                f"**Why it matters.** {check.why}",
                "",
                f"**How to fix it.** {check.fix}",
                "",
                "**Says**",
                "",
                *("- " + COUNTED.sub(r"{\1} \2s", message) for message in check.messages.values()),
            ]
            if check.limits:
                lines += ["", "**Limits**", ""]
                lines += [f"- `{name}` = {limit.default:g} {limit.unit}: {limit.meaning}" for name, limit in check.limits.items()]
    return "\n".join(lines) + "\n"


def client_page() -> str:
    """The client's methods as Markdown, from their signatures and docstrings."""
    lines = [
        "# The client library",
        "",
        "Every method of `hodcarrier.client.Hodcarrier`; `AsyncHodcarrier` has the same, to be awaited. Written from the docstrings by",
        "`make docs`; do not edit. Models are in `hodcarrier.wire`, closed sets of words in `hodcarrier.core.states`.",
    ]
    for kind in (Hodcarrier, *Hodcarrier.__bases__):
        methods = [(name, value) for name, value in vars(kind).items() if inspect.isfunction(value) and not name.startswith("_")]
        if not methods:
            continue
        lines += ["", f"## {'Connection and shortcuts' if kind is Hodcarrier else kind.__name__}"]
        for name, method in methods:
            lines += [
                "",
                f"### `{name}`",
                "",
                "```python",
                _signature(name, method),
                "```",
                "",
                ROLE.sub(r"`\1`", inspect.getdoc(method) or ""),
            ]
            if name in OPERATIONS:
                operation = OPERATIONS[name]
                lines += ["", f"`{operation.method} /api/v1{operation.path}` · {_who(operation)}"]
    return "\n".join(lines) + "\n"


def webhooks_page() -> str:
    """What webhooks are told, as Markdown: the page of the docs up to its marker, then every topic with its data."""
    page = DOCS / "webhooks.md"
    lines = [page.read_text().partition(TOPICS_BEGIN)[0] + TOPICS_BEGIN, "", "Written by `make docs`; do not edit from here on."]
    for topic, words in TOPICS.items():
        lines += ["", f"### `{topic}`", "", words]
    shown: set[type] = set()
    for topic in TOPICS:
        news = message_of(topic).model_fields["data"].annotation
        assert news is not None and issubclass(news, Wire)
        if news in shown:
            continue
        shown.add(news)
        lines += ["", f"## Data of `{topic.partition('.')[0]}.…`", "", "| name | meaning |", "|---|---|"]
        lines += [f"| `{name}` | {description_of(news.__name__, name)} |" for name in news.model_fields]
    return "\n".join(lines) + "\n"


def _who(operation: Operation) -> str:
    return "anybody" if operation.permission.public else operation.permission.words()


def _signature(name: str, method: Callable[..., Any]) -> str:
    """As it is written, without ``self``."""
    function = ast.parse(textwrap.dedent(inspect.getsource(method))).body[0]
    assert isinstance(function, (ast.FunctionDef, ast.AsyncFunctionDef)) and function.returns is not None
    given = ast.unparse(function.args).removeprefix("self").removeprefix(", ")
    line = f"{name}({given}) -> {ast.unparse(function.returns)}"
    return line if len(line) <= LINE_CHARS else "\n    ".join(textwrap.wrap(line, LINE_CHARS))


def openapi_document() -> str:
    """The OpenAPI document of the service."""
    with tempfile.TemporaryDirectory() as folder:
        settings = Settings(data=Path(folder))
        return json.dumps(make_app(settings, make_workspace(settings)).openapi(), indent=1) + "\n"


if __name__ == "__main__":
    client.write()
    rules.write()
    (DOCS / "catalogue.md").write_text(catalogue_page())
    (DOCS / "client.md").write_text(client_page())
    (DOCS / "webhooks.md").write_text(webhooks_page())
    (DOCS / "figure-feed.schema.json").write_text(json.dumps(feed_schema(), indent=1) + "\n")
    (DOCS / "openapi.json").write_text(openapi_document())
