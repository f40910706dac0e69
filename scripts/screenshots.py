"""Takes the pictures in ``docs/screenshots/`` from a running demo: ``make screenshots`` beside ``make demo``.

Browser pages by headless Chromium, commands in a terminal window on a virtual screen. ``terminal-try`` needs the
example site of the README on port 8899.
"""

from __future__ import annotations

import os
import shlex
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import httpx
from playwright.sync_api import Browser, sync_playwright

from hodcarrier.demo.scenario import PASSWORD

FOLDER = Path(__file__).parent.parent / "docs" / "screenshots"
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
MEMBER = "imke@cobble-lantern.example"
SIZE = {"width": 1280, "height": 800}
DISPLAY = ":77"
XTERM = [
    "-geometry",
    "158x47+0+0",
    "-fa",
    "Monospace",
    "-fs",
    "10",
    "-bg",
    "#1b2326",
    "-fg",
    "#e6eae9",
    "-b",
    "8",
    "-tn",
    "xterm-256color",
]


def pages(address: str, cookies: httpx.Cookies) -> dict[str, str]:
    """Names of pictures with the paths they show."""
    with httpx.Client(base_url=address + "/api/v1", cookies=cookies, trust_env=False) as http:
        report = next(r["id"] for r in http.get("/reports").json() if r["state"] == "draft")
    return {
        "desk": "/",
        "client-dark": "/clients/1",
        "site-summary": "/sites/1",
        "site-findings": "/sites/1/findings",
        "site-check": "/sites/1/checks/index-lost-robots",
        "site-inventory": "/sites/1/inventory",
        "site-changes": "/sites/1/changes",
        "site-trend": "/sites/1/trend?also=search.clicks&every=week",
        "site-figures": "/sites/1/figures",
        "site-plan": "/sites/1/plan",
        "site-structure": "/sites/1/structure",
        "page": "/sites/1/page?url=https%3A%2F%2Ftidewrack.example%2F",
        "todos": "/todos",
        "report": f"/reports/{report}",
        "benchmark": "/benchmarks/3",
        "site-review": "/sites/1/review/2",
    }


def take(browser: Browser, address: str, cookies: httpx.Cookies, wanted: list[str]) -> None:
    """Take the pictures named, or all."""
    for name, path in pages(address, cookies).items():
        if wanted and name not in wanted:
            continue
        context = browser.new_context(viewport=SIZE, color_scheme="dark" if name.endswith("-dark") else "light")  # type: ignore[arg-type]
        context.add_cookies([{"name": n, "value": v, "url": address} for n, v in cookies.items()])
        page = context.new_page()
        page.goto(address + path, wait_until="networkidle")
        page.wait_for_timeout(300)
        page.screenshot(path=FOLDER / f"{name}.png")
        context.close()


TERMINALS = {
    "terminal-run": "hodcarrier run show tidewrack",
    "terminal-try": "hodcarrier try http://127.0.0.1:8899/ --allow-private --rate 400 --parallel 8 --max-pages 1000",
}


def take_terminals(address: str, cookies: httpx.Cookies, wanted: list[str]) -> None:
    """Take pictures of a real terminal window under a virtual screen (needs Debian's xvfb, xterm and imagemagick)."""
    with httpx.Client(base_url=address + "/api/v1", cookies=cookies, trust_env=False) as http:
        token = http.post("/tokens", json={"name": "screenshots"}).json()["secret"]
    path = f"{Path(sys.executable).parent}:{os.environ['PATH']}"
    environment = {
        **os.environ,
        "PATH": path,
        "TERM": "xterm-256color",
        "DISPLAY": DISPLAY,
        "HODCARRIER_URL": address,
        "HODCARRIER_TOKEN": token,
    }
    screen = subprocess.Popen(["Xvfb", DISPLAY, "-screen", "0", "1280x800x24"], stderr=subprocess.DEVNULL)
    try:
        while not Path(f"/tmp/.X11-unix/X{DISPLAY[1:]}").exists():
            time.sleep(0.1)
        for name, command in TERMINALS.items():
            if wanted and name not in wanted:
                continue
            done = FOLDER / f"{name}.done"
            script = f"clear; printf '$ %s\\n' {shlex.quote(command)}; {command}; touch {done}; read -r"
            window = subprocess.Popen(["xterm", *XTERM, "-e", "bash", "-c", script], env=environment)
            until = time.monotonic() + 120
            while not done.exists() and time.monotonic() < until:
                time.sleep(0.2)
            time.sleep(0.5)
            subprocess.run(["import", "-window", "root", str(FOLDER / f"{name}.png")], env=environment, check=True)
            window.terminate()
            done.unlink(missing_ok=True)
    finally:
        screen.terminate()


def take_pdf(address: str, cookies: httpx.Cookies) -> None:
    """Show the pages of a report's PDF side by side (needs Debian's poppler-utils and imagemagick)."""
    with httpx.Client(base_url=address + "/api/v1", cookies=cookies, trust_env=False) as http:
        number = http.get("/reports").json()[0]["id"]
        document = http.get(f"/reports/{number}/pdf", timeout=60).content
    with tempfile.TemporaryDirectory() as folder:
        (Path(folder) / "report.pdf").write_bytes(document)
        subprocess.run(["pdftoppm", "-png", "-r", "60", "report.pdf", "sheet"], cwd=folder, check=True)
        sheets = sorted(str(p) for p in Path(folder).glob("sheet*.png"))[:6]
        subprocess.run(["montage", *sheets, "-tile", "3x", "-geometry", "+8+8", str(FOLDER / "report-pdf.png")], check=True)


def main() -> int:
    """Take all pictures, or those named on the command line, from the demo at ``HODCARRIER_URL``."""
    address = os.environ.get("HODCARRIER_URL", "http://127.0.0.1:8420")
    FOLDER.mkdir(parents=True, exist_ok=True)
    signed_in = httpx.post(address + "/api/v1/session", json={"email": MEMBER, "password": PASSWORD}, trust_env=False)
    signed_in.raise_for_status()
    with sync_playwright() as driver:
        browser = driver.chromium.launch(executable_path=os.environ.get("CHROMIUM", "/usr/bin/chromium"), args=FLAGS)
        take(browser, address, signed_in.cookies, sys.argv[1:])
        browser.close()
    take_terminals(address, signed_in.cookies, sys.argv[1:])
    if not sys.argv[1:] or "report-pdf" in sys.argv[1:]:
        take_pdf(address, signed_in.cookies)
    return 0


if __name__ == "__main__":
    sys.exit(main())
