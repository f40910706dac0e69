"""Rules of the house: who may import whom, how long modules are, and that the documents are current."""

from __future__ import annotations

import ast
import json
import re
import subprocess
import sys
from pathlib import Path

import pytest

import hodcarrier
from hodcarrier.core.catalogue import load
from hodcarrier.service.settings import Settings
from scripts.generate import catalogue_page, openapi_document

ROOT = Path(hodcarrier.__file__).parent.parent
PACKAGE = ROOT / "hodcarrier"
DOCS = ROOT / "docs"
LAYERS = {path.name for path in PACKAGE.iterdir() if (path / "__init__.py").exists()}

# Which layers a layer may import (besides itself). The command line imports what it starts inside functions only.
MAY_IMPORT: dict[str, set[str]] = {
    "core": set(),
    "runfile": {"core"},
    "crawl": {"core", "runfile"},
    "examine": {"core", "runfile"},
    "register": {"core"},
    "wire": {"core"},
    "report": {"core", "wire"},
    "usecases": {"core", "runfile", "register", "wire", "report"},
    "service": {"core", "runfile", "crawl", "examine", "register", "wire", "usecases", "report"},
    "client": {"wire"},
    "cli": {"core", "wire", "client", "report"},
    "demo": LAYERS,
}
STARTED_BY_CLI = {"crawl", "examine", "runfile", "service", "demo"}
# What no module of the core may touch: clock, environment, files, network.
KEPT_OUT_OF_CORE = {
    "os",
    "pathlib",
    "socket",
    "sqlite3",
    "subprocess",
    "time",
    "random",
    "httpx",
    "aiohttp",
    "sqlalchemy",
    "pydantic",
}
MODULES = sorted(PACKAGE.rglob("*.py"))


def imports(path: Path) -> list[tuple[str, bool]]:
    """Every imported module name, relative ones resolved, and whether it is imported at the top of the module."""
    tree = ast.parse(path.read_text())
    package = path.relative_to(ROOT).with_suffix("").parts[:-1]
    found = []
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            names = [alias.name for alias in node.names]
        elif isinstance(node, ast.ImportFrom):
            base = list(package[: len(package) - node.level + 1]) if node.level else []
            module = ".".join([*base, *([node.module] if node.module else [])])
            names = [module] + [f"{module}.{alias.name}" for alias in node.names]
        else:
            continue
        found += [(name, node in tree.body) for name in names]
    return found


def layer_of(name: str) -> str:
    parts = name.split(".")
    return parts[1] if parts[0] == "hodcarrier" and len(parts) > 1 and parts[1] in LAYERS else ""


def test_every_layer_is_in_the_table() -> None:
    assert set(MAY_IMPORT) == LAYERS


@pytest.mark.parametrize("path", MODULES, ids=lambda p: str(p.relative_to(PACKAGE)))
def test_imports_go_one_way(path: Path) -> None:
    own = path.relative_to(PACKAGE).parts[0]
    for name, at_top in imports(path):
        other = layer_of(name)
        if other and other != own and own in MAY_IMPORT:
            started = STARTED_BY_CLI if own == "cli" and not at_top else set()
            assert other in MAY_IMPORT[own] | started, f"{own} imports {name}"


@pytest.mark.parametrize("path", [p for p in MODULES if p.is_relative_to(PACKAGE / "core")], ids=lambda p: p.stem)
def test_the_core_reads_no_clock_file_or_network(path: Path) -> None:
    assert not {name.partition(".")[0] for name, _ in imports(path)} & KEPT_OUT_OF_CORE
    assert not re.search(r"\b(datetime|date)\.(now|today|utcnow)\(|\bopen\(|\bprint\(", path.read_text())


@pytest.mark.parametrize("path", MODULES, ids=lambda p: str(p.relative_to(PACKAGE)))
def test_modules_are_small_and_say_what_they_are(path: Path) -> None:
    text = path.read_text()
    longest = 700 if path.name == "sites.py" else 500
    assert text.count("\n") <= longest, "split it"
    if text.strip() and "migrations" not in path.parts:
        assert ast.get_docstring(ast.parse(text)), "a module begins with what it is for"


def test_public_functions_have_docstrings() -> None:
    missing = []
    for path in MODULES:
        if "migrations" in path.parts:
            continue
        for node in ast.parse(path.read_text()).body:
            public = isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef | ast.ClassDef) and not node.name.startswith("_")
            if public and not ast.get_docstring(node):  # type: ignore[arg-type]
                missing.append(f"{path.relative_to(ROOT)}: {node.name}")  # type: ignore[attr-defined]
    assert missing == []


def test_generated_documents_are_current() -> None:
    assert (DOCS / "catalogue.md").read_text() == catalogue_page(), "run make docs"
    assert (DOCS / "openapi.json").read_text() == openapi_document(), "run make docs"


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


def test_the_first_check_of_each_area_is_found_in_two_guesses() -> None:
    for entry in load().values():
        assert (PACKAGE / "core" / "checks" / entry.area / f"{entry.id.replace('-', '_')}.py").is_file()


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
