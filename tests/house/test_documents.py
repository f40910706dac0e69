"""Rules of the house: that the documents are current, that links lead somewhere, and that no machine is named."""

from __future__ import annotations

import json
import re
import subprocess
import sys
from pathlib import Path

import hodcarrier
from hodcarrier.core.figures.feed_schema import feed_schema
from hodcarrier.service.settings import Settings
from scripts import client, rules
from scripts.generate import catalogue_page, client_page, openapi_document

ROOT = Path(hodcarrier.__file__).parent.parent
DOCS = ROOT / "docs"


def test_generated_documents_are_current() -> None:
    assert (DOCS / "catalogue.md").read_text() == catalogue_page(), "run make docs"
    assert (DOCS / "client.md").read_text() == client_page(), "run make docs"
    assert (DOCS / "openapi.json").read_text() == openapi_document(), "run make docs"
    assert json.loads((DOCS / "figure-feed.schema.json").read_text()) == feed_schema(), "run make docs"


def test_the_clients_calls_are_current() -> None:
    for name, source in client.modules().items():
        assert (client.CALLS / name).read_text() == source, "run make docs"


def test_every_rule_that_changed_has_a_new_revision() -> None:
    """A rule, its helpers or its limits differ from what is noted beside the checks: raise the revision, then run make docs."""
    noted, now = rules.noted(), rules.current()
    assert rules.unrevised(noted, now) == [], "raise the revision of these checks"
    assert noted == now, "run make docs"


def test_the_consoles_types_are_current(tmp_path: Path) -> None:
    made = tmp_path / "generated.ts"
    subprocess.run(
        ["npx", "--no-install", "openapi-typescript", str(DOCS / "openapi.json"), "-o", str(made)],
        cwd=ROOT / "console",
        check=True,
        capture_output=True,
    )
    assert made.read_text() == (ROOT / "console" / "src" / "api" / "generated.ts").read_text(), "run make docs"


def test_every_operation_says_what_it_does() -> None:
    document = json.loads((DOCS / "openapi.json").read_text())
    assert document["openapi"].startswith("3.1")
    for path, operations in document["paths"].items():
        for method, operation in operations.items():
            assert operation.get("description"), f"{method} {path}"


def test_every_setting_is_documented() -> None:
    text = (DOCS / "configuration.md").read_text()
    for name in Settings.__dataclass_fields__:
        assert f"`{name}`" in text and f"`HODCARRIER_{name.upper()}`" in text, name


def test_every_noun_is_in_the_guide() -> None:
    from hodcarrier.cli.main import make_parser

    text = (DOCS / "guide.md").read_text()
    nouns = next(a for a in make_parser()._actions if getattr(a, "choices", None)).choices
    assert [noun for noun in nouns if f"hodcarrier {noun}" not in text] == []  # type: ignore[union-attr]


def test_every_table_of_the_run_file_is_documented() -> None:
    from hodcarrier.runfile import schema

    text = (DOCS / "run-file.md").read_text()
    tables = re.findall(r"CREATE TABLE (\w+)", schema.FACTS + schema.RESULTS)
    assert len(tables) > 10
    assert [table for table in tables if f"`{table}`" not in text] == []


def test_screenshots_are_few_and_all_shown() -> None:
    pictures = sorted(path.name for path in (DOCS / "screenshots").glob("*.png"))
    readme = (ROOT / "README.md").read_text()
    assert 5 <= len(pictures) < 20
    assert [name for name in pictures if f"docs/screenshots/{name}" not in readme] == []


def test_links_between_documents_lead_somewhere() -> None:
    for path in [ROOT / "README.md", ROOT / "CHANGELOG.md", *DOCS.rglob("*.md")]:
        for target in re.findall(r"\]\(([^)#:]+)\)", path.read_text()):
            assert (path.parent / target).exists(), f"{path.name} → {target}"


def test_no_machine_is_named() -> None:
    files = subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=True).stdout.splitlines()
    for name in files:
        path = ROOT / name
        if path.suffix in (".py", ".md", ".sh", ".toml", ".json", ".ts", ".tsx", ".lock", "") and path.is_file():
            text = path.read_text(errors="ignore")
            assert "/work/" + "main" not in text and "/root" + "/" not in text, name
            assert "files.python" + "hosted.org" not in text and "registry." + "npmjs.org" not in text, name


def test_this_python_is_supported() -> None:
    assert sys.version_info >= (3, 11)
