"""Writes the generated documents: ``docs/catalogue.md`` and ``docs/openapi.json``. Run by ``make docs``."""

from __future__ import annotations

import json
import re
import tempfile
from pathlib import Path

from hodcarrier.core.catalogue import AREAS, load
from hodcarrier.service.app import make_app, make_workspace
from hodcarrier.service.settings import Settings
from scripts import client, rules

DOCS = Path(__file__).parent.parent / "docs"
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
                f"Severity {check.severity} · looks at: {check.subject} · {check.effort} effort · rests on {check.standard}",
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


def openapi_document() -> str:
    """The OpenAPI document of the service."""
    with tempfile.TemporaryDirectory() as folder:
        settings = Settings(data=Path(folder))
        return json.dumps(make_app(settings, make_workspace(settings)).openapi(), indent=1) + "\n"


if __name__ == "__main__":
    client.write()
    rules.write()
    (DOCS / "catalogue.md").write_text(catalogue_page())
    (DOCS / "openapi.json").write_text(openapi_document())
