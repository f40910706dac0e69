"""What people do in the console, in a real browser against the demo."""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import BrowserContext, Page, expect

from tests.conftest import Demo
from tests.console.conftest import sign_in

SCREENS = {
    "/": "Needs attention",
    "/clients": "saltline-stores.example",
    "/clients?archived=yes": "No client is archived.",
    "/clients/1": "Two hours a week.",
    "/clients/sites": "every Tuesday at 02:04",
    "/clients/week": "This week",
    "/clients/presets": "Small site",
    "/clients/new": "Which site is it about?",
    "/sites/1": "Worth doing first",
    f"/sites/1?run={(datetime.now(UTC) - timedelta(days=9)).date()}": "You see the run of",
    "/sites/1/findings": "Checks that fail",
    "/sites/1/findings?by=cause": "Disallow: /shop",
    "/sites/1/checks/index-lost-robots": "Why it matters",
    "/sites/3/checks/link-redirects": "Hide source",
    "/sites/1/inventory": "145 addresses",
    "/sites/1/inventory?of=file&by=used_as": "by Used as",
    "/sites/1/changes": "robots.txt now blocks /shop",
    "/sites/1/trend": "New theme went live",
    "/sites/1/trend?also=search.clicks&every=week": "In between",
    "/sites/1/figures": "Clicked less than usual",
    "/sites/1/figures?view=low-ctr": "Clicks missed",
    "/sites/6/figures?by=page&view=at-risk": "Told by Wilcoxon",
    "/sites/1/figures?show=positions": "how to splice rope",
    "/sites/1/figures?show=links&state=to-gone": "domains link here",
    "/sites/1/figures?show=tables": "Imported tables",
    "/sites/1/figures?show=visits": "Conversions",
    "/sites/1/review": "Local business presence",
    "/sites/1/review/2": "worse now",
    "/sites/1/findings?weight=clicks": "Newly blocked by robots.txt",
    "/sites/1/plan": "Requests per second",
    "/sites/1/page?url=https%3A%2F%2Ftidewrack.example%2F": "In search results",
    "/sites/1/page?url=https%3A%2F%2Ftidewrack.example%2F&tab=terms&focus=rope": "stands",
    "/sites/1/page?url=https%3A%2F%2Ftidewrack.example%2F&tab=source": "at a line",
    "/sites/1/page?url=https%3A%2F%2Ftidewrack.example%2F&tab=runs": "Changed",
    "/sites/1/structure": "How links flow",
    "/sites/1/structure?by=template": "Links between templates",
    "/sites/1/inventory?of=link": "To",
    "/sites/1/findings?by=page": "Pages with findings",
    "/sites/1/findings?by=folder": "Findings by folder",
    "/sites/1/findings?by=area": "Findings by area",
    "/sites/1/fixes?checks=title-short": "Together",
    "/todos": "hreflang without return link",
    "/todos?view=board": "Done, awaits audit",
    "/todos?view=calendar": "today",
    "/sites/1/changes?since=columns": "Pages scored",
    "/sites/6/changes?since=agents": "What another user agent is served",
    "/todos/1": "History",
    "/todos/recurring": "None yet.",
    "/approvals": "Nothing waits for an answer.",
    "/benchmarks": "Pellow Kiln Studio",
    "/benchmarks/3": "What competitors have and we have not",
    "/reports": "Ardmoor Seed Library",
    "/reports?tab=schedules": "Tobin Wraysbury approves it",
    "/reports?tab=templates": "For the board",
    "/reports?tab=brand": "Foot of every page",
    "/reports/templates/1": "Save template",
    "/reports/4": "goes to Guest of Tidewrack Chandlery",
    "/clients/1/portal": "Portal, as the client sees it",
    "/catalogue": "Pages return 404 or 410",
    "/catalogue/profiles": "Product pages are short",
    "/catalogue/profiles/1": "2 limits, 1 severity",
    "/team": "Tobin Wraysbury",
    "/team?tab=you": "Your mails",
    "/team?tab=deliveries": "Told of everything",
    "/team?tab=service": "Run files",
    "/team?tab=log": "Of what",
}
# What passes is not told: to tell it takes as long again as to look.
WCAG = {
    "runOnly": {"type": "tag", "values": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]},
    "resultTypes": ["violations"],
}

# The rows of a table are drawn by one column each: the first ones stand for the others, which take most of the time.
ALIKE = {"exclude": [["tbody tr:nth-child(n+9)"], ["details:nth-of-type(n+9)"]]}


# On a phone in the dark the same elements have other colours and sizes; all else was looked at on the wide screen.
ON_A_PHONE = {
    "runOnly": {"type": "rule", "values": ["color-contrast", "target-size", "scrollable-region-focusable", "meta-viewport"]},
    "resultTypes": ["violations"],
}


def violations(page: Page, options: dict[str, object] = WCAG) -> list[str]:
    found = Axe().run(page, context=ALIKE, options=options).response["violations"]
    return [f"{v['id']}: {v['help']} at {[n['target'] for n in v['nodes']][:3]}" for v in found]


@pytest.fixture(scope="module")
def looked_at(open_browser: Callable[..., BrowserContext], demo: Demo) -> Page:
    """A page of its own: it changes its size and its colours."""
    page = open_browser().pages[0]
    sign_in(page, demo)
    return page


@pytest.mark.parametrize("path", SCREENS)
def test_every_screen_shows_its_figures_and_is_accessible_also_on_a_phone_in_the_dark(
    looked_at: Page, demo: Demo, path: str
) -> None:
    errors: list[str] = []
    looked_at.on("pageerror", lambda error: errors.append(str(error)))
    looked_at.set_viewport_size({"width": 1280, "height": 800})
    looked_at.emulate_media(color_scheme="light")
    looked_at.goto(demo.url + path)
    expect(looked_at.get_by_text(SCREENS[path]).first).to_be_visible()
    looked_at.wait_for_load_state("networkidle")
    assert violations(looked_at) == []
    looked_at.set_viewport_size({"width": 360, "height": 740})
    looked_at.emulate_media(color_scheme="dark")
    expect(looked_at.get_by_text(SCREENS[path]).first).to_be_attached()
    width = looked_at.evaluate("document.documentElement.scrollWidth")
    assert width <= 360, "the page itself must not scroll sideways"
    assert violations(looked_at, ON_A_PHONE) == []
    assert errors == []


def test_signing_in_leads_to_the_page_that_was_asked_for(open_browser: Callable[..., BrowserContext], demo: Demo) -> None:
    page = open_browser().pages[0]
    page.goto(demo.url + "/sites/4/trend")
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    assert violations(page) == []
    page.get_by_label("Email").fill("imke@cobble-lantern.example")
    page.get_by_label("Password").fill("wrong")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_contain_text("do not belong together")
    page.get_by_label("Password").fill("heather-and-gravel")
    page.get_by_role("button", name="Sign in").click()
    expect(page).to_have_url(re.compile("/sites/4/trend$"))
    page.get_by_text("Sign out").click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()


def test_from_the_desk_to_a_confirmed_cause(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url)
    signed_in.get_by_role("link", name="Open check").first.click()
    expect(signed_in.get_by_role("heading", name="Newly blocked by robots.txt")).to_be_visible()
    signed_in.get_by_role("button", name="Create to-do", exact=True).click()
    dialog = signed_in.get_by_role("dialog")
    expect(dialog).to_be_visible()
    assert violations(signed_in) == []
    dialog.get_by_label("Assignee").click()
    signed_in.get_by_role("option").nth(1).click()
    dialog.get_by_text("Priority, estimate, labels, note").click()
    dialog.get_by_label("Note").fill("Take the line out today.")
    dialog.get_by_label("Labels").fill("Relaunch")
    assert violations(signed_in) == []
    dialog.get_by_role("button", name="Create to-do").click()
    expect(dialog.get_by_role("status")).to_contain_text("122 places")
    dialog.get_by_role("link", name=re.compile("To-do ")).click()
    expect(signed_in.get_by_text("Take the line out today.").first).to_be_visible()
    signed_in.get_by_role("button", name="Done").click()
    expect(signed_in.get_by_text("From open to done.")).to_be_visible()


def test_a_due_date_in_the_past_is_said_in_the_form(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url + "/sites/6/findings")
    signed_in.get_by_role("button", name=re.compile("^Create to-do:")).first.click()
    dialog = signed_in.get_by_role("dialog")
    due = dialog.get_by_label("Due", exact=True)
    due.fill("1/1/2020")
    dialog.get_by_role("button", name="Create to-do").click()
    expect(dialog).to_contain_text("in the past")
    expect(due).to_have_value("01/01/2020")
    due.fill("soon")
    dialog.get_by_role("button", name="Create to-do").click()
    expect(dialog).to_contain_text("That is no day. Write it as dd/mm/yyyy.")
    assert violations(signed_in) == []


def test_what_happened_becomes_a_to_do(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url + "/sites/1/changes")
    happened = signed_in.get_by_role("region", name="What happened, with its share of the change in health")
    expect(happened.get_by_text("robots.txt now blocks /shop")).to_be_visible()
    expect(signed_in.get_by_role("img", name=re.compile("^Steps of health"))).to_be_visible()
    assert violations(signed_in) == []
    happened.get_by_role("button", name=re.compile("^Create to-do: Back on")).click()
    dialog = signed_in.get_by_role("dialog")
    dialog.get_by_role("button", name="Create to-do").click()
    # The row shows the to-do at once, in place of the way to one.
    expect(signed_in.get_by_text(re.compile("is made: 1 place")).first).to_be_visible()
    expect(happened.get_by_role("row").filter(has_text="Back on /guides").get_by_role("link")).to_contain_text("open")
    happened.get_by_role("button", name="robots.txt now blocks /shop", exact=True).click()
    expect(signed_in).to_have_url(re.compile("event=0"))
    expect(signed_in.get_by_role("region", name="Findings by class")).to_contain_text("Sitemap lists blocked URLs")
    for tab in ("Causes", "Pages", "Folders", "Templates", "Page changes", "Came and went"):
        signed_in.get_by_role("tab", name=re.compile(f"^{tab}")).click()
        expect(signed_in.get_by_role("tab", name=re.compile(f"^{tab}"))).to_have_attribute("aria-selected", "true")
    signed_in.get_by_role("button", name="Side by side").click()
    expect(signed_in.get_by_role("region", name=re.compile("^Figures of the chosen runs"))).to_contain_text("Health")
    assert violations(signed_in) == []


def test_a_finding_is_waived_and_the_waiver_undone(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url + "/sites/6/findings")
    signed_in.get_by_role("region").get_by_role("link").first.click()
    shown = signed_in.get_by_text(re.compile(r"\d+ places? on \d+ pages?")).first
    before = shown.inner_text()
    signed_in.get_by_label("Choose row 1", exact=True).click()
    signed_in.get_by_role("button", name=re.compile("^Waive:")).click()
    dialog = signed_in.get_by_role("dialog")
    expect(dialog.get_by_text(re.compile("^Covers 1 open finding"))).to_be_visible()
    assert violations(signed_in) == []
    dialog.get_by_label("Reason").fill("Meant so")
    dialog.get_by_role("button", name="Waive", exact=True).click()
    expect(signed_in.get_by_text("1 waived")).to_be_visible()
    signed_in.get_by_role("button", name="Undo").click()
    expect(signed_in.get_by_text("The waiver is undone.").first).to_be_visible()
    expect(shown).to_have_text(before)


def test_many_to_dos_are_made_changed_and_changed_back(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url + "/sites/6/findings?sort=-Places")
    signed_in.get_by_role("row").nth(1).get_by_role("link").first.click()
    for row in (1, 2, 3):
        signed_in.get_by_label(f"Choose row {row}", exact=True).click()
    signed_in.get_by_role("button", name=re.compile("^Create to-do:")).last.click()
    dialog = signed_in.get_by_role("dialog")
    dialog.get_by_label("Make").click()
    signed_in.get_by_role("option", name="one for each page").click()
    for name in ("Casper", "Oona"):
        dialog.get_by_role("checkbox", name=re.compile(f"^{name}")).click()
    expect(dialog.get_by_role("list", name="To-dos that would be made")).to_contain_text("Oona")
    assert violations(signed_in) == []
    dialog.get_by_text("Priority, estimate, labels, note").click()
    dialog.get_by_label("Labels").fill("of the morning")
    dialog.get_by_role("button", name="Create to-dos").click()
    made = dialog.get_by_role("list", name="To-dos that were made").get_by_role("listitem")
    expect(made.first).to_be_visible()
    number = made.count()
    signed_in.goto(demo.url + "/todos?label=of+the+morning")
    rows = signed_in.get_by_role("region", name=re.compile("^To-dos by due")).get_by_role("row")
    expect(rows).to_have_count(number + 1)
    signed_in.get_by_label("Choose all", exact=True).click()
    signed_in.get_by_role("button", name="Change…").click()
    dialog.get_by_label("Priority").click()
    signed_in.get_by_role("option", name="urgent").click()
    assert violations(signed_in) == []
    dialog.get_by_role("button", name="Change to-dos").click()
    expect(rows.filter(has_text="urgent")).to_have_count(number)
    signed_in.get_by_role("button", name="Undo").click()
    expect(rows.filter(has_text="urgent")).to_have_count(0)
    signed_in.get_by_role("button", name="Board").click()
    card = signed_in.get_by_role("region", name="Open").get_by_role("listitem").first
    card.get_by_role("button", name=re.compile("^Begin:")).click()
    expect(signed_in.get_by_role("region", name="Doing").get_by_role("listitem").filter(has_text="Mark done")).to_have_count(1)
    assert violations(signed_in) == []
    signed_in.get_by_role("button", name="Calendar").click()
    expect(signed_in.get_by_role("grid")).to_be_visible()
    assert violations(signed_in) == []


def test_the_palette_goes_anywhere(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url)
    expect(signed_in.get_by_role("heading", name="Needs attention")).to_be_visible()
    signed_in.keyboard.press("/")
    signed_in.get_by_role("combobox", name="Go to").fill("pellow")
    expect(signed_in.get_by_role("option").filter(has_text="Pellow Kiln Studio").first).to_be_visible()
    assert violations(signed_in) == []
    signed_in.get_by_role("option").filter(has_text="pellow").filter(has_text="site").first.click()
    expect(signed_in).to_have_url(re.compile(r"/sites/\d+$"))
    signed_in.keyboard.press("Control+k")
    signed_in.get_by_role("combobox", name="Go to").fill("Trend")
    signed_in.keyboard.press("Enter")
    expect(signed_in).to_have_url(re.compile(r"/sites/\d+/trend$"))
    signed_in.keyboard.press("/")
    signed_in.get_by_role("combobox", name="Go to").fill("link-broken")
    signed_in.get_by_role("option").first.click()
    expect(signed_in).to_have_url(re.compile(r"/catalogue#link-broken$"))
    expect(signed_in.get_by_text("How to fix it").first).to_be_visible()


def test_a_table_of_figures_is_looked_at_corrected_and_imported(signed_in: Page, demo: Demo, tmp_path: Path) -> None:
    table = tmp_path / "reviews.csv"
    table.write_text("Report of the month\nWhen;What;Wert\n03.04.2026;Reviews;1.234,5\n04.04.2026;Reviews;x\n", encoding="cp1252")
    signed_in.goto(demo.url + "/sites/4/figures?show=tables")
    signed_in.get_by_label("Table of figures").set_input_files(table)
    expect(signed_in.get_by_role("heading", name="reviews.csv")).to_be_visible()
    signed_in.get_by_role("combobox", name="Figures").click()
    signed_in.get_by_role("option", name="The site as a whole").click()
    expect(signed_in.get_by_label("Headings in row")).to_have_value("2")
    for label, column in (("Day (needed)", "When"), ("Figure (needed)", "What")):
        signed_in.get_by_label(label).click()
        signed_in.get_by_role("option", name=column, exact=True).click()  # the second before the first has been answered
    rows = signed_in.get_by_role("region", name="The first rows as they are understood")
    expect(rows).to_contain_text("2026-04-03")
    expect(rows).to_contain_text("1,234.5")
    expect(signed_in.get_by_text("Value: “x” is no number")).to_be_visible()
    expect(signed_in.get_by_text("These days could be read in more than one way")).to_be_visible()
    assert violations(signed_in) == []
    signed_in.get_by_role("button", name="Import 1 row, leave out 1").click()
    expect(signed_in.get_by_role("region", name="Tables that were imported")).to_contain_text("1 new, 1 left out")
    expect(signed_in.get_by_role("region", name="Figures there are")).to_contain_text("reviews.csv")


def test_windows_are_told_apart_by_their_titles(signed_in: Page, demo: Demo) -> None:
    for path, title in {
        "/": "Desk · Hodcarrier",
        "/sites/1/findings": "Findings · tidewrack.example · Hodcarrier",
        "/todos": "To-dos · Hodcarrier",
    }.items():
        signed_in.goto(demo.url + path)
        expect(signed_in).to_have_title(title)


def test_days_follow_the_profile(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url + "/team?tab=you")
    order = signed_in.get_by_label("Date format")
    profile = signed_in.locator("section").filter(has=order)
    order.click()
    signed_in.get_by_role("option", name="yyyy-mm-dd").click()
    profile.get_by_role("button", name="Save", exact=True).click()
    expect(signed_in.get_by_text("Your settings are saved.").first).to_be_visible()
    signed_in.goto(demo.url + "/reports")
    expect(signed_in.get_by_label("From", exact=True)).to_have_value(re.compile(r"^\d{4}-\d\d-\d\d$"))
    signed_in.goto(demo.url + "/team?tab=you")
    order.click()
    signed_in.get_by_role("option", name="dd/mm/yyyy").click()
    profile.get_by_role("button", name="Save", exact=True).click()
    expect(signed_in.get_by_text("Your settings are saved.").first).to_be_visible()


def test_chosen_places_become_a_to_do(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url + "/sites/1/findings?sort=-Places")
    signed_in.get_by_role("row").nth(1).get_by_role("link").first.click()
    signed_in.get_by_label("Choose row 1", exact=True).click()
    expect(signed_in.get_by_text("1 chosen")).to_be_visible()
    signed_in.get_by_label("Choose row 2", exact=True).click()
    signed_in.get_by_role("button", name=re.compile("^Create to-do:")).last.click()
    expect(signed_in.get_by_role("dialog")).to_be_visible()
    signed_in.keyboard.press("Escape")
    expect(signed_in.get_by_text("2 chosen")).to_be_visible()


def test_columns_are_chosen_and_stay_in_the_address(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url + "/sites/1/inventory")
    signed_in.get_by_role("button", name=re.compile("^Columns")).click()
    dialog = signed_in.get_by_role("dialog")
    dialog.get_by_role("checkbox", name="Click depth").click()
    dialog.get_by_placeholder("Search columns").fill("structured")
    dialog.get_by_role("checkbox", name="Structured data", exact=True).click()
    assert violations(signed_in) == []
    dialog.get_by_role("button", name="Done").click()
    signed_in.reload()
    expect(signed_in.get_by_role("columnheader", name="Structured data")).to_be_visible()
    expect(signed_in.get_by_role("columnheader", name="Click depth")).to_have_count(0)


def test_what_was_shown_stays_when_the_service_fails(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url)
    expect(signed_in.get_by_role("heading", name="Needs attention")).to_be_visible()
    signed_in.route("**/api/v1/desk", lambda route: route.abort())
    expect(signed_in.get_by_role("alert")).to_contain_text("The service does not answer.", timeout=20_000)
    expect(signed_in.get_by_role("heading", name="Needs attention")).to_be_visible()
    signed_in.unroute("**/api/v1/desk")
    signed_in.get_by_role("button", name="Try again").click()
    expect(signed_in.get_by_role("alert")).to_have_count(0)


def test_the_inventory_is_filtered_in_every_way(signed_in: Page, demo: Demo) -> None:
    """By a view that ships, a condition put together, the line, and a bar of a spread; the address keeps all of it."""
    signed_in.goto(demo.url + "/sites/1/inventory")
    signed_in.get_by_role("button", name="Saved views").click()
    signed_in.get_by_role("menuitem", name="Not indexable", exact=True).click()
    line = signed_in.get_by_label("Filter, written out")
    expect(line).to_have_value("not indexable")
    expect(signed_in.get_by_text(re.compile(r"^\d+ of 145 addresses"))).to_be_visible()
    signed_in.get_by_role("button", name="Filter…").click()
    dialog = signed_in.get_by_role("dialog")
    dialog.get_by_role("button", name="Add a condition").click()
    dialog.get_by_label("Value").last.fill("302")
    assert violations(signed_in) == []
    dialog.get_by_role("button", name="Show").click()
    expect(line).to_have_value("indexable != yes and status = 302".replace("indexable != yes", "not (indexable = yes)"))
    expect(signed_in.get_by_text("1 of 145 addresses")).to_be_visible()
    line.fill("words < 9 000")
    line.press("Enter")
    expect(signed_in.get_by_role("alert").first).to_contain_text("cannot be read at")
    line.fill("words > 100")
    line.press("Enter")
    signed_in.get_by_role("button", name="Spread").click()
    signed_in.get_by_role("button", name=re.compile("^Status 200 to 299")).click()
    expect(line).to_have_value("words > 100 and status >= 200 and status < 300")
    shown = signed_in.get_by_text(re.compile(r"^\d+ of 145 addresses")).inner_text()
    assert violations(signed_in) == []
    address = signed_in.url
    signed_in.goto(demo.url)
    signed_in.goto(address)
    expect(signed_in.get_by_text(shown)).to_be_visible()


def test_the_plan_says_what_is_wrong_and_keeps_what_was_typed(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url + "/sites/4/plan")
    field = signed_in.get_by_label("Requests per second")
    field.fill("5000")
    signed_in.get_by_role("button", name="Save plan").click()
    expect(signed_in.get_by_role("alert")).to_contain_text("Requests per second is 5000")
    expect(field).to_have_value("5000")
    expect(signed_in.get_by_text("1 setting changed, not saved yet.")).to_be_visible()
    assert violations(signed_in) == []
    signed_in.get_by_text("4 more settings: Time zone").click()
    expect(signed_in.get_by_role("textbox", name="Host mapping")).to_be_disabled()
    signed_in.get_by_role("link", name="Findings", exact=True).click()
    signed_in.get_by_role("button", name="Stay here").click()
    expect(field).to_have_value("5000")


def test_the_keyboard_reaches_everything(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url + "/sites/1")
    expect(signed_in.get_by_text("Worth doing first")).to_be_visible()
    names = set()
    for _ in range(40):
        signed_in.keyboard.press("Tab")
        names.add(signed_in.evaluate("document.activeElement?.textContent?.trim().slice(0, 40)"))
    for name in ("Desk", "To-dos", "Findings", "Plan", "Run audit"):
        assert any(str(text).startswith(name) for text in names), name


def test_what_is_not_there_says_so(signed_in: Page, demo: Demo) -> None:
    for path in ("/nowhere", "/sites/999", "/todos/999", "/benchmarks/999", "/sites/1/checks/no-such-check"):
        signed_in.goto(demo.url + path)
        expect(signed_in.get_by_text(re.compile("no |not |nothing ", re.I)).first).to_be_visible()
        assert "undefined" not in signed_in.inner_text("main")


def test_a_report_from_empty_template_to_sent(signed_in: Page, open_browser: Callable[..., BrowserContext], demo: Demo) -> None:
    page = signed_in
    page.goto(demo.url + "/reports/templates/new")
    expect(page.get_by_text("No sections yet.")).to_be_visible()
    page.get_by_label("Name", exact=True).fill("An hour in the morning")
    for kind in ("Cover", "In short", "Health", "What comes next"):
        page.get_by_label("Add section").click()
        page.get_by_role("option", name=kind, exact=True).click()
    page.get_by_role("button", name="Move What comes next up").click()
    expect(page.frame_locator("iframe").get_by_role("heading", name="What comes next")).to_be_visible()
    page.get_by_role("link", name="Templates").click()
    page.get_by_role("button", name="Stay here").click()
    assert violations(page) == []
    page.get_by_role("button", name="Save template").click()
    expect(page.get_by_text("4 sections: Cover, In short, What comes next, Health")).to_be_visible()
    page.goto(demo.url + "/reports")
    page.get_by_label("Site", exact=True).click()
    page.get_by_role("option", name="Pellow Kiln Studio: pellow-kiln.example").click()
    page.get_by_label("Template", exact=True).click()
    page.get_by_role("option", name="An hour in the morning").click()
    page.get_by_role("button", name="Create draft").click()
    expect(page.get_by_role("button", name="Approve report")).to_be_enabled()
    page.get_by_role("list", name="Sections").get_by_role("button", name="Health", exact=True).click()
    page.get_by_label("Your words").fill("The kiln is **hot** again.")
    shown = page.frame_locator("iframe")
    expect(shown.get_by_text("hot", exact=True)).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name="Remove What comes next").click()
    page.get_by_role("button", name="Save report").click()
    expect(page.get_by_text("The report is saved.").first).to_be_visible()
    expect(page.get_by_role("button", name="Send…")).to_be_disabled()
    page.get_by_role("button", name="Approve report").click()
    expect(page.get_by_text("approved by Imke Aldersgate")).to_be_visible()
    page.get_by_role("button", name="Send…").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("To", exact=True).fill("Rosa Penhallow")
    dialog.get_by_role("button", name="Send report").click()
    expect(dialog.get_by_text("Write a name and an address on each line.")).to_be_visible()
    dialog.get_by_label("To", exact=True).fill("Rosa Penhallow, rosa@pellow.example")
    assert violations(page) == []
    dialog.get_by_role("button", name="Send report").click()
    expect(page.get_by_text("sent on").first).to_be_visible()
    page.get_by_role("button", name="Share by link…").click()
    dialog.get_by_label("For", exact=True).fill("Jory")
    dialog.get_by_label("Passphrase").fill("harbour lights")
    dialog.get_by_role("button", name="Create link").click()
    address = dialog.get_by_role("status").locator("code").inner_text()
    reader = open_browser().pages[0]
    reader.goto(address)
    reader.get_by_label("Passphrase").fill("harbour light")
    assert violations(reader) == []
    reader.get_by_role("button", name="Open report").click()
    expect(reader.get_by_role("alert")).to_contain_text("not the passphrase")
    reader.get_by_label("Passphrase").fill("harbour lights")
    reader.get_by_role("button", name="Open report").click()
    expect(reader.get_by_text("hot", exact=True)).to_be_visible()
    assert violations(reader) == []
    page.reload()
    expect(page.get_by_text("opened 1 time")).to_be_visible()
    page.get_by_role("button", name="Prolong the link of Jory").click()
    expect(page.get_by_text("The link of Jory is good for 90 days.").first).to_be_visible()
    page.get_by_role("button", name="Revoke the link of Jory").click()
    expect(page.get_by_text("revoked")).to_be_visible()
    reader.reload()
    expect(reader.get_by_text("not valid any more")).to_be_visible()


def test_a_guest_sees_their_portal_only(open_browser: Callable[..., BrowserContext], demo: Demo) -> None:
    page = open_browser().pages[0]
    page.goto(demo.url)
    page.get_by_label("Email").fill("guest@pellow.example")
    page.get_by_label("Password").fill("heather-and-gravel")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("heading", name="Pellow Kiln Studio")).to_be_visible()
    assert [link.inner_text() for link in page.get_by_role("navigation").get_by_role("link").all()] == ["Overview"]
    expect(page.get_by_role("link", name=re.compile("^Pellow Kiln Studio: ")).first).to_be_visible()
    assert violations(page) == []
    for path in ("/clients", "/todos", "/sites/4", "/reports/2", "/catalogue", "/clients/1/portal"):
        page.goto(demo.url + path)
        expect(page.get_by_role("alert").first).to_be_visible()


def test_a_plan_is_tried_taken_over_and_read_as_text(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url + "/sites/5/plan")
    signed_in.get_by_label("Exclude").fill("/classes/*")
    signed_in.get_by_role("button", name="Try on pages of the last run").click()
    expect(signed_in.get_by_text("would be fetched. Nothing is saved yet.")).to_be_visible()
    signed_in.get_by_label("Sample URLs").fill("/classes/knots\n/about")
    signed_in.get_by_role("button", name="Try on these addresses").click()
    expect(signed_in.get_by_text("1 of 2 sample addresses would be fetched.")).to_be_visible()
    signed_in.get_by_role("button", name="Put back").click()
    signed_in.get_by_role("button", name="As text (TOML)").click()
    text = signed_in.get_by_label("The plan as TOML")
    expect(text).to_have_value(re.compile("start = "))
    text.fill("speed = 3")
    signed_in.get_by_role("button", name="Replace the plan").click()
    expect(signed_in.get_by_role("alert")).to_contain_text("speed")
    assert violations(signed_in) == []
    signed_in.get_by_label("From another site").click()
    signed_in.get_by_role("option", name="saltline-stores.example").click()
    signed_in.get_by_role("button", name="Copy plan").click()
    expect(signed_in.get_by_text("Done. The form beside shows the new plan.")).to_be_visible()


def test_a_page_is_looked_at_again(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url + "/sites/1/page?url=https%3A%2F%2Ftidewrack.example%2Fcontact")
    signed_in.get_by_role("button", name="Check again now").click()
    expect(signed_in.get_by_text("Checked again just now")).to_be_visible()
    expect(signed_in.get_by_text("its facts are as in the last run")).to_be_visible()
    assert violations(signed_in) == []


def test_access_can_be_set_and_forgotten_but_never_read(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url + "/sites/7/plan")
    signed_in.get_by_role("button", name="Set access").click()
    signed_in.get_by_label("Name", exact=True).fill("imke")
    signed_in.get_by_label("Site password").fill("sesame-open")
    signed_in.get_by_role("button", name="Keep it").click()
    expect(signed_in.get_by_text("a password.")).to_be_visible()
    expect(signed_in.get_by_label("Site password")).to_have_count(0)
    assert "sesame-open" not in signed_in.content()
    signed_in.get_by_role("button", name="forget").click()
    expect(signed_in.get_by_text("Crawled as a visitor sees it: no sign-in, cookies or extra headers are sent.")).to_be_visible()


def test_a_profile_is_changed_and_a_run_judged_by_it(signed_in: Page, demo: Demo) -> None:
    signed_in.goto(demo.url + "/catalogue/profiles")
    signed_in.get_by_role("button", name="Add profile").click()
    dialog = signed_in.get_by_role("dialog")
    dialog.get_by_label("Name").fill("Quiet")
    dialog.get_by_role("button", name="Add profile").click()
    expect(signed_in.get_by_role("heading", name="Quiet")).to_be_visible()
    signed_in.get_by_placeholder("Search checks").fill("uncached")
    signed_in.get_by_role("checkbox", name=re.compile("Files that browsers cannot keep")).click()
    signed_in.get_by_role("button", name="Save profile").click()
    expect(signed_in.get_by_text("The profile is saved.").first).to_be_visible()
    assert violations(signed_in) == []
    signed_in.goto(demo.url + "/sites/4/plan")
    signed_in.get_by_label("Profile").click()
    signed_in.get_by_role("option", name="Quiet").click()
    signed_in.get_by_role("button", name="Re-examine last run").click()
    with signed_in.context.expect_page() as opened:
        signed_in.get_by_role("link", name="See what differs").click()
    expect(opened.value.get_by_text("none → Quiet")).to_be_visible()
    expect(opened.value.get_by_text("none → speed-uncached")).to_be_visible()
    opened.value.close()
