"""The wheel alone, in an environment with nothing but what it declares: it serves the console, audits, migrates and draws a PDF."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import venv
from collections.abc import Iterator
from importlib.metadata import Distribution, distribution
from pathlib import Path

import httpx
import pytest
from packaging.requirements import Requirement

import hodcarrier
from hodcarrier.client import Hodcarrier
from hodcarrier.core.catalogue import doc, page
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.members import SignInBody, TokenBody
from hodcarrier.wire.reports import ReportBody
from hodcarrier.wire.sites import SiteBody
from tests.running import OWNER, PASSWORD, free_ports, local_site, wait_for_answer

ROOT = Path(hodcarrier.__file__).parent.parent


def declared(name: str = "hodcarrier", seen: dict[str, Distribution] | None = None) -> dict[str, Distribution]:
    """The distributions that a package needs, and those that they need, without any extra but those asked for."""
    seen = {} if seen is None else seen
    for line in distribution(name).requires or ():
        need = Requirement(line)
        if need.marker is not None and not need.marker.evaluate({"extra": ""}):
            continue
        if need.name.lower() not in seen:
            seen[need.name.lower()] = distribution(need.name)
            declared(need.name, seen)
        for extra in need.extras:
            for more in (Requirement(text) for text in distribution(need.name).requires or ()):
                if more.marker is not None and more.marker.evaluate({"extra": extra}) and more.name.lower() not in seen:
                    seen[more.name.lower()] = distribution(more.name)
                    declared(more.name, seen)
    return seen


@pytest.fixture(scope="module")
def installed(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A new environment with the wheel and links to what it declares, and nothing else."""
    folder = tmp_path_factory.mktemp("wheel")
    source = folder / "source"
    source.mkdir()
    for name in ("pyproject.toml", "README.md"):
        shutil.copy(ROOT / name, source)
    shutil.copytree(ROOT / "hodcarrier", source / "hodcarrier", ignore=shutil.ignore_patterns("__pycache__"))
    build = ["wheel", "--no-deps", "--no-build-isolation", "-q", "--disable-pip-version-check", "-w", str(folder), str(source)]
    subprocess.run([sys.executable, "-m", "pip", *build], check=True)
    (wheel,) = folder.glob("*.whl")
    home = folder / "home"
    venv.create(home, symlinks=True)
    (packages,) = (home / "lib").glob("python*/site-packages")
    for needed in declared().values():
        for file in needed.files or ():
            top = file.parts[0]
            if top not in ("..", "__pycache__") and not (packages / top).exists():
                (packages / top).symlink_to(Path(str(needed.locate_file(top))))
    install = ["install", "--no-deps", "--no-index", "-q", "--disable-pip-version-check", str(wheel)]
    subprocess.run([sys.executable, "-m", "pip", "--python", str(home / "bin" / "python"), *install], check=True)
    return home


@pytest.fixture(scope="module")
def served(installed: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """The address of a service that runs from the wheel."""
    port = free_ports(1)
    command = [
        str(installed / "bin" / "hodcarrier"),
        "serve",
        "--data",
        str(tmp_path_factory.mktemp("data")),
        "--port",
        str(port),
    ]
    environment = {
        **{k: v for k, v in os.environ.items() if not k.startswith("HODCARRIER_") and k != "PYTHONPATH"},
        "HODCARRIER_OWNER_EMAIL": OWNER,
        "HODCARRIER_OWNER_PASSWORD": PASSWORD,
        "HODCARRIER_ALLOW_PRIVATE": "true",
    }
    process = subprocess.Popen(command, env=environment, cwd=installed)
    address = f"http://127.0.0.1:{port}"
    wait_for_answer(address, process)
    yield address
    process.terminate()
    process.wait(30)


def test_the_console_is_in_the_wheel(served: str) -> None:
    with httpx.Client(base_url=served, trust_env=False) as browser:
        start = browser.get("/")
        assert start.status_code == 200 and '<div id="root">' in start.text
        script = next(part for part in start.text.split('"') if part.startswith("/assets/") and part.endswith(".js"))
        assert browser.get(script).status_code == 200
        assert browser.get("/sites/1").text == start.text, "every place of the console is the same page"


def test_a_site_is_audited_and_reported_as_a_pdf(served: str) -> None:
    with local_site(page(doc('<h1>Rope</h1><a href="/a">a</a>')), page(doc("<h1>A</h1>"), "/a")) as site:
        with Hodcarrier(served) as desk:
            desk.sign_in(SignInBody(email=OWNER, password=PASSWORD))
            token = desk.add_token(TokenBody(name="wheel")).secret or ""
        with Hodcarrier(served, token) as desk:
            client = desk.add_client(ClientBody(name="From a wheel"))
            made = desk.add_site(
                SiteBody(
                    client_id=client.id, address=site.address, plan={"private_addresses": ["127.0.0.0/8"], "rate_per_s": 200}
                )
            )
            done = desk.wait_for_run(desk.start_run(made.id).id, every_s=0.1)
            assert done.state == "done" and done.health is not None, done.reason
            day = done.requested_at.date()
            report = desk.add_report(ReportBody(site_id=made.id, from_day=day, to_day=day))
            assert desk.get_report_pdf(report.id).startswith(b"%PDF-")


def test_without_the_extra_the_demo_says_what_to_install(installed: Path, tmp_path: Path) -> None:
    command = [str(installed / "bin" / "hodcarrier"), "demo", "--data", str(tmp_path / "demo")]
    done = subprocess.run(command, capture_output=True, text=True, cwd=installed, check=False)
    assert done.returncode == 1 and "pip install 'hodcarrier[demo]'" in done.stderr
