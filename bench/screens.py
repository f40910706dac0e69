"""``make bench SCREENS=1``: how long each screen takes until its data is there, on a large run and a large register.

In headless Chromium, each screen opened by its address with an empty cache of answers. A screen has settled with the last answer of the
service that it asked for, and drawn.
"""

from __future__ import annotations

import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from bench.reading import prepare, service
from scripts.screenshots import FLAGS, SIZE
from tests.running import OWNER, PASSWORD

WANTED_MS = 1_000.0
TIMES = 3
SCREENS = {
    "desk": "/",
    "clients": "/clients",
    "to-dos": "/todos",
    "to-do": "/todos/77",
    "summary": "/sites/1",
    "findings": "/sites/1/findings",
    "check": "/sites/1/checks/link-broken",
    "inventory": "/sites/1/inventory",
    "few words": "/sites/1/inventory?where=words+%3C+200",
    "links": "/sites/1/inventory?of=link",
    "structure": "/sites/1/structure",
    "findings by page": "/sites/1/findings?by=page",
    "fixes": "/sites/1/fixes?checks=link-broken,media-alt-missing",
    "page": "/sites/1/page?url=https%3A%2F%2Flarge.example%2F",
    "way to a page": "/sites/1/page?url=https%3A%2F%2Flarge.example%2Fanchor%2Frope%2Fpage-1&tab=way",
    "changes": "/sites/1/changes",
    "trend": "/sites/1/trend",
    "plan": "/sites/1/plan",
    "catalogue": "/catalogue",
    "team": "/team",
}
_LAST_ANSWER = """() => new Promise((done) => requestAnimationFrame(() => setTimeout(() => {
  const answers = performance.getEntriesByType("resource").filter((entry) => entry.name.includes("/api/"));
  done({ settled: Math.max(0, ...answers.map((entry) => entry.responseEnd)), asked: answers.length,
         twice: answers.length - new Set(answers.map((entry) => entry.name)).size,
         nodes: document.getElementsByTagName("*").length, long: window.long || 0 });
})))"""
_WATCH = (
    "window.long = 0; new PerformanceObserver((list) => list.getEntries().forEach((entry) => { window.long += entry.duration; }))"
    + (".observe({ type: 'longtask', buffered: true });")
)


def measure(folder: Path, pages: int) -> int:
    """Measure and print; 1 when a screen takes too long."""
    base, head = prepare(folder, pages)
    slow = False
    with service(folder) as found, sync_playwright() as driver:
        with found.client() as desk:
            desk.compare_runs(base, head)
        browser = driver.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport=SIZE)  # type: ignore[arg-type]
        page.add_init_script(_WATCH)
        page.goto(found.url)
        page.get_by_label("Email").fill(OWNER)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        page.get_by_text("Sign out").wait_for()
        print("\n| screen | settled after | answers | asked for twice | long tasks | elements |\n|---|---|---|---|---|---|")
        for name, path in SCREENS.items():
            slow = _open(page, name, found.url + path) or slow
        browser.close()
    return int(slow)


def _open(page: Page, name: str, address: str) -> bool:
    worst: dict[str, float] = {}
    for _ in range(TIMES):
        page.goto(address)
        page.wait_for_load_state("networkidle")
        if page.locator("[role=alert]").count():
            sys.stderr.write(f"{name}: {page.locator('[role=alert]').first.inner_text()}\n")
        told = page.evaluate(_LAST_ANSWER)
        worst = max(worst, told, key=lambda each: each.get("settled", 0.0))
    late = worst["settled"] > WANTED_MS
    print(
        f"| {name} | {worst['settled']:.0f} ms{' (!)' if late else ''} | {worst['asked']} | {worst['twice']} | {worst['long']:.0f} ms |"
        f" {worst['nodes']:,} |",
        flush=True,
    )
    return late
