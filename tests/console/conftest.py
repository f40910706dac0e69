"""A browser that drives the console of the demo: Debian's Chromium, headless, with a profile folder of its own."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from playwright.sync_api import BrowserContext, Page, expect, sync_playwright

from hodcarrier.demo.scenario import PASSWORD
from scripts.screenshots import FLAGS
from tests.conftest import Demo

CHROMIUM = os.environ.get("CHROMIUM", "/usr/bin/chromium")
MEMBER = "imke@cobble-lantern.example"
# What is expected may take as long as on a machine with other work.
PATIENCE_MS = 15_000
expect.set_options(timeout=PATIENCE_MS)


@pytest.fixture(scope="package")
def open_browser(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Callable[..., BrowserContext]]:
    """Opens browser contexts, each with a new profile. It ends with this folder: its event loop would stop other tests."""
    with sync_playwright() as driver:
        opened: list[BrowserContext] = []

        def make(width: int = 1280, height: int = 800, scheme: str = "light") -> BrowserContext:
            profile: Path = tmp_path_factory.mktemp("profile")
            context = driver.chromium.launch_persistent_context(
                str(profile),
                executable_path=CHROMIUM,
                args=FLAGS,
                viewport={"width": width, "height": height},
                color_scheme=scheme,  # type: ignore[arg-type]
                timezone_id="Europe/London",
                locale="en-GB",
            )
            context.set_default_timeout(PATIENCE_MS)
            opened.append(context)
            return context

        yield make
        for context in opened:
            context.close()


def sign_in(page: Page, demo: Demo, path: str = "/") -> None:
    """Sign in through the form, arriving at the page that was asked for."""
    page.goto(demo.url + path)
    page.get_by_label("Email").fill(MEMBER)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.wait_for_url(lambda address: "/sign-in" not in address)
    page.get_by_role("main").wait_for()


@pytest.fixture(scope="module")
def signed_in(open_browser: Callable[..., BrowserContext], demo: Demo) -> Page:
    """A page at 1280x800, signed in as the lead. Anything the console logs as an error fails the test that asks."""
    page = open_browser().pages[0]
    sign_in(page, demo)
    return page
