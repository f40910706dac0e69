"""Takes the pictures in ``docs/screenshots/`` from a running demo: ``make screenshots`` beside ``make demo``.

Browser pages by headless Chromium; terminal pictures are drawn from a command's real output in the same browser.
"""

from __future__ import annotations

import html
import os
import subprocess
import sys
from pathlib import Path

import httpx
from playwright.sync_api import Browser, Page, sync_playwright

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


def pages(address: str, cookies: httpx.Cookies) -> dict[str, str]:
    """Names of pictures with the paths they show."""
    with httpx.Client(base_url=address + "/api/v1", cookies=cookies, trust_env=False) as http:
        todo = next(t["id"] for t in http.get("/todos").json() if t["state"] == "confirmed")
        report = http.get("/reports").json()[0]["id"]
    return {
        "desk": "/",
        "desk-dark": "/",
        "clients": "/clients",
        "site-summary": "/sites/1",
        "site-findings": "/sites/1/findings",
        "site-check": "/sites/1/checks/index-lost-robots",
        "site-inventory": "/sites/1/inventory",
        "site-changes": "/sites/1/changes",
        "site-trend": "/sites/1/trend",
        "site-plan": "/sites/1/plan",
        "page": "/sites/1/page?url=https%3A%2F%2Ftidewrack.example%2F",
        "todos": "/todos",
        "todo": f"/todos/{todo}",
        "benchmark": "/benchmarks/1",
        "report": f"/reports/{report}",
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


def take_terminal(page: Page, name: str, command: list[str], environment: dict[str, str]) -> None:
    """Draw a command and what it printed."""
    done = subprocess.run(
        command, capture_output=True, text=True, env={**os.environ, **environment, "COLUMNS": "120"}, check=True
    )
    shown = "$ " + " ".join(["hodcarrier", *command[1:]]) + "\n" + done.stdout
    page.set_content(
        f"<style>body{{margin:0;background:#1b2326;color:#e6eae9}}pre{{margin:16px;font:14px/1.4 'IBM Plex Mono','DejaVu Sans Mono',monospace}}</style><pre>{html.escape(shown)}</pre>"
    )
    page.screenshot(path=FOLDER / f"{name}.png")


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
    return 0


if __name__ == "__main__":
    sys.exit(main())
