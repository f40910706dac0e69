"""All that reports say, gathered from where it is written."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import hodcarrier
from hodcarrier.core.benchmark.measures import MEASURES
from hodcarrier.core.catalogue import AREAS
from hodcarrier.core.review.shipped import SHIPPED
from hodcarrier.report.sections import SECTIONS, glossary, health, speed

PACKAGE = Path(hodcarrier.__file__).parent
# Functions that are given texts to say, one for anything, or two for a number of things.
SAY, COUNT = {"say", "_on", "_rule", "_faulty"}, {"count", "_faults"}


def _calls() -> Iterator[tuple[str, list[str]]]:
    for path in (*sorted((PACKAGE / "report").rglob("*.py")), PACKAGE / "usecases" / "report_sending.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call):
                name = node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")
                yield name, [a.value for a in node.args if isinstance(a, ast.Constant) and isinstance(a.value, str)]


def said() -> set[str]:
    """Texts without a number of things."""
    found = {text for name, texts in _calls() if name in SAY for text in texts}
    for path in (PACKAGE / "report" / "templates").glob("*.html"):
        found |= set(re.findall(r'say\("([^"]+)"', path.read_text()))
    found |= {section.title for section in SECTIONS.values()} | set(AREAS.values()) | set(health._TRENDS.values())
    found |= {text for _, text, *_ in speed.MEASURES}
    for pair in (*glossary._ALWAYS, *(pair for pairs in glossary._OF.values() for pair in pairs)):
        found |= set(pair)
    found |= {measure.name for measure in MEASURES}
    found |= {measure.unit for measure in MEASURES if measure.unit not in ("", "%", "points", "bytes")}
    for template in SHIPPED.values():
        found |= {template.name, *(item.text for section in template.sections for item in section.items)}
    return found


def counted() -> set[tuple[str, str]]:
    """Texts for one thing and for many."""
    return {(texts[0], texts[1]) for name, texts in _calls() if name in COUNT and len(texts) > 1}
