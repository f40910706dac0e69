"""What an analyst asks for in a day, each from the desk in four clicks at most, without leaving the console."""

from __future__ import annotations

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.conftest import Demo

pytestmark = pytest.mark.console
CLICKS_MAX = 4
SITE = "Tidewrack Chandlery"


class Desk:
    """The desk, and how many clicks it took from there. What is typed costs none, what is chosen in a menu does."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.clicks = 0

    def click(self, target: Locator) -> None:
        target.click()
        self.clicks += 1

    def link(self, name: str) -> None:
        self.click(self.page.get_by_role("link", name=name, exact=True).first)

    def tab(self, name: str) -> None:
        self.click(self.page.get_by_role("tab", name=name))

    def view(self, name: str) -> None:
        self.click(self.page.get_by_role("button", name="Saved views"))
        self.click(self.page.get_by_role("menuitem", name=name, exact=True))

    def rows(self, caption: str) -> Locator:
        return self.page.get_by_role("region", name=caption).get_by_role("row")


def broken_pages_with_who_links(desk: Desk) -> None:
    desk.link("Ardmoor Seed Library")
    desk.link("Inventory")
    desk.view("Broken links")
    expect(desk.page.get_by_role("columnheader", name="From")).to_be_visible()
    expect(desk.page.get_by_text(re.compile(r"of [\d,]+ links"))).to_be_visible()


def causes_that_return_most(desk: Desk) -> None:
    desk.link(SITE)
    desk.link("Findings")
    desk.tab("by cause")
    expect(desk.rows("Causes: each is one fix").nth(1)).to_contain_text(re.compile(r"\+\d"))


def heavy_images_and_where_they_are_used(desk: Desk) -> None:
    desk.link(SITE)
    desk.link("Inventory")
    desk.view("Images over 200 KB where they are used")
    expect(desk.page.get_by_role("columnheader", name="Size")).to_be_visible()


def deep_pages(desk: Desk) -> None:
    desk.link(SITE)
    desk.link("Inventory")
    desk.view("Deep")
    expect(desk.page.get_by_label("Filter, written out")).to_have_value("depth > 4")


def why_a_page_is_not_indexable(desk: Desk) -> None:
    desk.link(SITE)
    desk.link("Inventory")
    desk.view("Not indexable")
    expect(desk.rows("Inventory").nth(1)).to_contain_text("disallowed")


def what_the_shop_is_worth(desk: Desk) -> None:
    desk.link(SITE)
    desk.link("Structure")
    desk.click(desk.page.get_by_role("button", name="shop/", exact=True))
    expect(desk.page.get_by_role("region", name="Pages by folder")).to_contain_text("rope/")


def the_way_to_a_page(desk: Desk) -> None:
    desk.link(SITE)
    desk.link("Structure")
    desk.page.get_by_label("A part of its URL").fill("splicing")
    desk.click(desk.page.get_by_role("link", name=re.compile("splicing")).first)
    expect(desk.page.get_by_text("on the shortest way")).to_be_visible()


def health_if_robots_were_right_again(desk: Desk) -> None:
    desk.link(SITE)
    desk.link("Findings")
    desk.click(desk.page.get_by_role("checkbox", name="Choose row 1", exact=True))
    desk.link("Plan the fixes")
    expect(desk.page.get_by_text(re.compile(r"points in health"))).to_be_visible()


def what_changed_since_the_first_run(desk: Desk) -> None:
    desk.link(SITE)
    desk.link("Changes")
    desk.click(desk.page.get_by_role("button", name="First run"))
    expect(desk.page.get_by_role("region", name="What happened, with its share of the change in health")).to_be_visible(
        timeout=20_000
    )


def where_else_a_check_fails(desk: Desk) -> None:
    desk.link("Catalogue")
    desk.page.get_by_label("Search checks").fill("Content-Security-Policy")
    desk.click(desk.page.get_by_text("Missing Content-Security-Policy"))
    expect(desk.page.get_by_text(re.compile("^Fails on "))).to_be_visible()


def pages_missing_from_the_sitemap(desk: Desk) -> None:
    desk.link(SITE)
    expect(desk.page.get_by_text("indexable, but in no sitemap")).to_be_visible()


def since_when_robots_is_so(desk: Desk) -> None:
    desk.link(SITE)
    expect(desk.page.get_by_role("region", name="Files that speak for the whole site")).to_contain_text("robots.txt")


TASKS = (
    broken_pages_with_who_links,
    causes_that_return_most,
    heavy_images_and_where_they_are_used,
    deep_pages,
    why_a_page_is_not_indexable,
    what_the_shop_is_worth,
    the_way_to_a_page,
    health_if_robots_were_right_again,
    what_changed_since_the_first_run,
    where_else_a_check_fails,
    pages_missing_from_the_sitemap,
    since_when_robots_is_so,
)


@pytest.mark.parametrize("task", TASKS, ids=lambda task: task.__name__.replace("_", " "))
def test_it_takes_four_clicks_at_most(signed_in: Page, demo: Demo, task: Callable[[Desk], None]) -> None:
    signed_in.goto(demo.url)
    desk = Desk(signed_in)
    task(desk)
    assert desk.clicks <= CLICKS_MAX
