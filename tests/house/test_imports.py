"""Rules of the house: who may import whom, third-party packages included, and that every dependency is declared, bounded and used."""

from __future__ import annotations

import ast
import re
import sys
import tomllib
from importlib.metadata import packages_distributions
from pathlib import Path

import pytest
from packaging.requirements import Requirement

import hodcarrier

ROOT = Path(hodcarrier.__file__).parent.parent
PACKAGE = ROOT / "hodcarrier"
MODULES = sorted(PACKAGE.rglob("*.py"))
LAYERS = {path.name for path in PACKAGE.iterdir() if (path / "__init__.py").exists()}
CORE_ROOMS = {path.name for path in (PACKAGE / "core").iterdir() if path.is_dir() and (path / "__init__.py").exists()}

# Which layers a layer may import (besides itself). The command line imports what it starts inside functions only.
MAY_IMPORT: dict[str, set[str]] = {
    "core": set(),
    "runfile": {"core"},
    "figurefile": {"core"},
    "crawl": {"core", "runfile"},
    "examine": {"core", "runfile"},
    "register": {"core"},
    "wire": {"core"},
    "report": {"core", "wire"},
    "usecases": {"core", "runfile", "figurefile", "register", "wire", "report"},
    "audit": {"core", "runfile", "figurefile", "crawl", "examine", "register", "wire", "usecases"},
    "service": LAYERS - {"cli", "client", "demo"},
    "client": {"core", "wire"},
    "cli": {"core", "wire", "client", "report"},
    "demo": LAYERS,
}
STARTED_BY_CLI = {"audit", "runfile", "service", "demo"}
# The rooms of the core, and the modules at its top that each may use.
CORE_MAY_IMPORT: dict[str, set[str]] = {
    "web": {"errors"},
    "states": set(),
    "facts": {"web", "states"},
    "catalogue": {"facts", "web", "plan", "states", "words", "errors", "checks"},
    "checks": {"catalogue", "facts", "web"},
    "judge": {"web", "states", "words"},
    "inventory": {"facts", "web", "states", "errors"},
    "figures": {"web", "states", "errors", "words", "benchmark"},
    "review": {"states", "errors", "words"},
    "reports": {"states", "judge"},
    "structure": set(),
    "benchmark": {"catalogue", "states", "words", "summary"},
}
TOP_MAY_IMPORT = {"web", "facts", "states"}
# Third-party packages by layer, as they are imported.
THIRD_PARTY: dict[str, set[str]] = {
    "core": {
        "ada_url",
        "dateutil",
        "defusedxml",
        "filetype",
        "ftfy",
        "html5lib",
        "icu4py",
        "imagesize",
        "lark",
        "msgspec",
        "numpy",
        "pycld2",
        "rcssmin",
        "re2",
        "rjsmin",
        "selectolax",
        "tinycss2",
        "wcwidth",
        "webencodings",
        "xxhash",
    },
    "runfile": {"isal", "msgspec", "numpy"},
    "figurefile": {"charset_normalizer", "numpy", "openpyxl"},
    "crawl": {"aiohttp", "brotli", "cryptography", "msgspec", "structlog", "yarl"},
    "examine": {"numpy", "xxhash"},
    "register": {"alembic", "cryptography", "sqlalchemy"},
    "wire": {"pydantic"},
    "report": {
        "babel",
        "defusedxml",
        "docx",
        "filetype",
        "icalendar",
        "jinja2",
        "markdown_it",
        "markupsafe",
        "msgspec",
        "pypdfium2",
        "weasyprint",
        "xlsxwriter",
    },
    "usecases": {"argon2", "msgspec", "pyotp", "segno", "sqlalchemy", "tomli_w"},
    "audit": {"sqlalchemy", "structlog"},
    "service": {"aiohttp", "fastapi", "h11", "prometheus_client", "sqlalchemy", "starlette", "structlog", "uvicorn"},
    "client": {"httpx", "pydantic"},
    "cli": {"msgspec", "pydantic", "rich", "uvicorn"},
    "demo": {"aiohttp", "aiosmtpd", "cryptography", "httpx", "sqlalchemy", "structlog", "trustme", "uvicorn"},
}
# What no module of the core may touch: clock, environment, files, network.
KEPT_OUT_OF_CORE = {"os", "pathlib", "socket", "sqlite3", "subprocess", "time", "random"}
# Packages that nobody imports, and who reads them.
READ_BY = {"tzdata": "zoneinfo"}


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


def place_in_core(name: str) -> str:
    """The room of the core that a module is in, or the name of a module at its top."""
    parts = name.split(".")
    return parts[2] if parts[:2] == ["hodcarrier", "core"] and len(parts) > 2 else ""


def is_third_party(name: str) -> bool:
    top = name.partition(".")[0]
    return top not in sys.stdlib_module_names and top not in ("hodcarrier", "__future__")


def own_layer(path: Path) -> str:
    return path.relative_to(PACKAGE).parts[0].removesuffix(".py")


def test_every_layer_is_in_the_tables() -> None:
    assert set(MAY_IMPORT) == set(THIRD_PARTY) == LAYERS
    assert set(CORE_MAY_IMPORT) == CORE_ROOMS


@pytest.mark.parametrize("path", MODULES, ids=lambda p: str(p.relative_to(PACKAGE)))
def test_imports_go_one_way(path: Path) -> None:
    own = own_layer(path)
    for name, at_top in imports(path):
        other = layer_of(name)
        started = STARTED_BY_CLI if own == "cli" and not at_top else set()
        if other and other != own and own in MAY_IMPORT:
            assert other in MAY_IMPORT[own] | started, f"{own} imports {name}"
        if is_third_party(name) and own in THIRD_PARTY:
            assert name.partition(".")[0] in THIRD_PARTY[own], f"{own} imports {name}"


CORE = [p for p in MODULES if p.is_relative_to(PACKAGE / "core")]


@pytest.mark.parametrize("path", CORE, ids=lambda p: str(p.relative_to(PACKAGE / "core")))
def test_the_rooms_of_the_core_import_one_way(path: Path) -> None:
    parts = path.relative_to(PACKAGE / "core").parts
    own = parts[0] if len(parts) > 1 else ""
    for name, _ in imports(path):
        other = place_in_core(name)
        if not other or other == own:
            continue
        if own:
            assert other in CORE_MAY_IMPORT[own], f"{own} imports {name}"
        else:
            assert other not in CORE_ROOMS or other in TOP_MAY_IMPORT, f"the top of the core imports {name}"


@pytest.mark.parametrize("path", CORE, ids=lambda p: str(p.relative_to(PACKAGE / "core")))
def test_the_core_reads_no_clock_file_or_network(path: Path) -> None:
    assert not {name.partition(".")[0] for name, _ in imports(path)} & KEPT_OUT_OF_CORE
    assert not re.search(r"\b(datetime|date)\.(now|today|utcnow)\(|\bopen\(|\bprint\(", path.read_text())


def declared() -> dict[str, Requirement]:
    """What ``pyproject.toml`` declares for using the package, the demo included."""
    project = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]
    lines = [*project["dependencies"], *project["optional-dependencies"]["demo"]]
    return {requirement.name: requirement for requirement in map(Requirement, lines)}


def canonical(name: str) -> str:
    return re.sub(r"[-_.]+", "-", name).lower()


def test_every_dependency_is_declared_and_used() -> None:
    distributions = packages_distributions()
    used = {
        canonical(distributions[name.partition(".")[0]][0])
        for path in MODULES
        for name, _ in imports(path)
        if is_third_party(name)
    }
    assert used == {canonical(name) for name in declared()} - set(READ_BY)


def test_every_dependency_has_bounds() -> None:
    for name, requirement in declared().items():
        operators = {part.operator for part in requirement.specifier}
        assert ">=" in operators, f"{name} has no lower bound"
        assert "<" in operators or name in READ_BY, f"{name} has no upper bound"


def test_what_only_the_demo_needs_is_an_extra() -> None:
    needed = {name for layer, names in THIRD_PARTY.items() if layer != "demo" for name in names}
    project = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]
    extra = {Requirement(line).name for line in project["optional-dependencies"]["demo"]}
    assert extra == THIRD_PARTY["demo"] - needed


def test_nobody_but_the_store_builds_paths_of_run_files() -> None:
    """Runs reach their files through a store: outside of it nothing names their endings."""
    ours = {
        PACKAGE / "runfile" / "store.py",
        PACKAGE / "runfile" / "reader.py",
        PACKAGE / "figurefile" / "store.py",  # whose files are no run files
        PACKAGE / "cli" / "attempt.py",
        PACKAGE / "cli" / "export.py",
        PACKAGE / "service" / "routes" / "exports.py",
        PACKAGE / "wire" / "glossary.py",  # says what the parameter "part" is
        PACKAGE / "wire" / "glossary_of_runs.py",
    }
    named = [p for p in MODULES if re.search(r"\.(sqlite|part)\"", p.read_text()) and p not in ours]
    assert [str(p.relative_to(PACKAGE)) for p in named] == ["audit/place.py"], "that one is the register"
