"""A morning of an analyst, played whole in a browser: from the desk over what happened to to-dos that are handed out, checked, confirmed and opened again;
with the mails that went out and the calendar that shows when what is due."""

from __future__ import annotations

import email
import re
import threading
from collections.abc import Callable, Iterator
from email import policy
from pathlib import Path

import httpx
import pyotp
import pytest
from icalendar import Calendar
from playwright.sync_api import BrowserContext, Page, expect

from hodcarrier.client import Hodcarrier
from hodcarrier.core.catalogue import Sample, doc, gone, page, text_file
from hodcarrier.core.permissions import Role
from hodcarrier.demo.mailsink import start_sink
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.members import InvitationBody, MemberBody
from hodcarrier.wire.sites import SiteBody
from tests.running import OWNER, PASSWORD, LocalSite, Service, free_ports, local_site, start_service

PAGES = 13
PEOPLE = ("Casper Dunmore", "Oona Featherby")


def product(number: int, broken: bool) -> Sample:
    old = '<p>See also <a href="/guide">the guide</a>.</p>' if broken else ""
    head = f'<title>Rope number {number} of the chandlery</title><meta name=description content="Rope {number}, laid by hand in the shed.">'
    return page(doc(f'<h1>Rope {number}, by the metre</h1><a href="/">All ropes</a>{old}', head), f"/rope-{number}")


def shop() -> list[Sample]:
    links = "".join(f'<a href="/rope-{n}">Rope {n}</a> ' for n in range(PAGES))
    head = '<title>Ropes of the chandlery, by the metre</title><meta name=description content="All ropes, laid by hand in the shed.">'
    front = page(doc(f"<h1>Ropes</h1>{links}", head), "/")
    return [
        front,
        *(product(n, False) for n in range(PAGES)),
        gone("/guide"),
        text_file("/robots.txt", "User-agent: *\nDisallow:\n"),
    ]


@pytest.fixture(scope="module")
def mails(tmp_path_factory: pytest.TempPathFactory) -> Iterator[tuple[Path, int]]:
    folder, port = tmp_path_factory.mktemp("mail"), free_ports(1)
    sink = start_sink(folder, port)
    yield folder, port
    sink.stop()


@pytest.fixture(scope="module")
def desk_service(tmp_path_factory: pytest.TempPathFactory, mails: tuple[Path, int]) -> Iterator[Service]:
    data = tmp_path_factory.mktemp("morning")
    started = start_service(data, free_ports(1), smtp_host="127.0.0.1", smtp_port=str(mails[1]))
    yield started
    started.process.terminate()
    started.process.wait(30)


@pytest.fixture(scope="module")
def night(desk_service: Service) -> Iterator[LocalSite]:
    """A shop that was fine a week ago; last night thirteen of its pages linked to a guide that is gone."""
    with local_site(*shop()) as site, desk_service.client() as desk:
        for name in PEOPLE:
            address = f"{name.split()[0].lower()}@agency.example"
            desk.add_member(MemberBody(name=name, email=address, role=Role.FIXER, password="heather and gravel"))
        client = desk.add_client(ClientBody(name="Rope & Sail"))
        plan = {"private_addresses": ["127.0.0.0/8"], "rate_per_s": 500}
        made = desk.add_site(SiteBody(client_id=client.id, address=site.address, plan=plan))
        audit(desk, made.id)
        for n in range(PAGES):
            site.samples[f"/rope-{n}"] = product(n, True)
        audit(desk, made.id)
        yield site


def audit(desk: Hodcarrier, site: int) -> None:
    run = desk.wait_for_run(desk.start_run(site).id, every_s=0.1)
    assert run.state == "done", run.reason


def mails_to(folder: Path, person: str, count: int) -> list[str]:
    """The subjects of the mails to somebody, once there are so many."""
    wait = threading.Event()
    for _ in range(300):
        read = [email.message_from_bytes(p.read_bytes(), policy=policy.default) for p in sorted(folder.glob("*.eml"))]
        found = [str(mail["Subject"]).strip() for mail in read if mail["To"] == f"{person}@agency.example"]
        if len(found) >= count:
            return found
        wait.wait(0.1)
    raise AssertionError(f"{person} got {found}")


def test_a_morning(
    open_browser: Callable[..., BrowserContext], desk_service: Service, night: LocalSite, mails: tuple[Path, int]
) -> None:
    errors: list[str] = []
    view = open_browser().pages[0]
    view.on("response", lambda answer: errors.append(f"{answer.status} {answer.url}") if answer.status >= 400 else None)
    host = night.address.removeprefix("http://").rstrip("/")

    # Signing in, the desk: what got worse, and by how much.
    view.goto(desk_service.url)
    view.get_by_label("Email").fill(OWNER)
    view.get_by_label("Password").fill(PASSWORD)
    view.get_by_role("button", name="Sign in").click()
    errors.clear()  # who is signed out is told so by the service
    attention = view.get_by_text("Broken internal links: 13 new")
    expect(attention).to_be_visible()
    news = view.locator("section").filter(has=view.get_by_role("heading", name=re.compile("^Since ")))
    expect(news).to_contain_text("Rope & Sail")

    # The worst site, and what happened to it.
    view.get_by_role("table", name="All own sites").get_by_role("link", name="Rope & Sail").click()
    expect(view.get_by_role("heading", name=host)).to_be_visible()
    view.get_by_role("link", name="Changes", exact=True).click()
    expect(view.get_by_text("What happened").first).to_be_visible()
    expect(view.get_by_text(re.compile("13 pages|/guide")).first).to_be_visible()

    # One place is waived, twelve become to-dos for two people.
    view.goto(desk_service.url)
    view.get_by_role("link", name=re.compile("^Open check: Broken internal links")).click()
    view.get_by_label("Choose row 1", exact=True).click()
    view.get_by_role("button", name="Waive").last.click()
    dialog = view.get_by_role("dialog")
    dialog.get_by_label("Reason").fill("The guide comes back on Monday")
    dialog.get_by_role("button", name=re.compile("^Waive")).click()
    expect(view.get_by_text("12 places on 12 pages")).to_be_visible(timeout=30_000)
    view.get_by_label("Choose all").click()
    expect(view.get_by_text("12 chosen")).to_be_visible()
    view.get_by_role("button", name="Create to-do").last.click()
    dialog.get_by_label("Make").click()
    view.get_by_role("option", name="one for each page").click()
    for name in PEOPLE:
        dialog.get_by_label(re.compile(name)).click()
    expect(dialog.get_by_text("12 to-dos")).to_be_visible()
    dialog.get_by_role("button", name="Create to-dos").click()
    expect(dialog.get_by_role("status")).to_be_visible()
    dialog.get_by_role("button", name="Close").last.click()
    for person in ("casper", "oona"):
        assert mails_to(mails[0], person, 1) == ["Assigned to you: 6 to-dos"]

    # One is repaired, and confirmed at once; another is only said to be done.
    with desk_service.client() as desk:
        found = list(desk.list_todos())
        pages = {todo.id: desk.get_todo(todo.id).linked[0].subject for todo in found}
    first, second = found[0].id, found[1].id
    repair(night, pages[first])
    view.goto(f"{desk_service.url}/todos/{first}")
    view.get_by_role("button", name="Check now").click()
    expect(view.get_by_text("Confirmed: its one place passed.").first).to_be_visible(timeout=30_000)
    view.goto(f"{desk_service.url}/todos/{second}")
    view.get_by_role("button", name="Mark done").click()
    expect(view.get_by_text("From open to done.")).to_be_visible()

    # Four more are repaired; the next run confirms those, and opens the one again that was not.
    for todo in found[2:6]:
        repair(night, pages[todo.id])
    view.goto(f"{desk_service.url}/sites/1")
    with view.expect_response(lambda answer: answer.request.method == "POST" and answer.url.endswith("/runs")) as started:
        view.get_by_role("button", name="Run audit").click()
    with desk_service.client() as desk:
        desk.wait_for_run(started.value.json()["id"], every_s=0.1)
    view.goto(desk_service.url)
    judged = view.locator("section").filter(has=view.get_by_role("heading", name="To-dos judged by runs"))
    expect(judged.get_by_text("▼ confirmed")).to_have_count(5)
    expect(judged.get_by_text("↺ opened again")).to_have_count(1)
    judged.get_by_role("listitem").filter(has_text="opened again").get_by_role("link").click()
    expect(view.get_by_text("Opened again: still there on 1 of 1.").first).to_be_visible()
    assert view.url.endswith(f"/todos/{second}")
    assignee = "casper" if found[1].assignee == PEOPLE[0] else "oona"
    assert mails_to(mails[0], assignee, 2)[1].startswith("Opened again: ")

    # Due dates in a calendar program.
    view.goto(f"{desk_service.url}/team?tab=you")
    view.get_by_label("A feed of").click()
    view.get_by_role("option", name="all to-dos of Rope & Sail").click()
    view.get_by_role("button", name="Make feed").click()
    address = view.get_by_role("status").locator("code").inner_text()
    calendar = Calendar.from_ical(httpx.get(address, trust_env=False).content)
    assert len(calendar.walk("VEVENT")) == 7
    assert errors == []


def repair(site: LocalSite, url: str) -> None:
    path = "/" + url.rpartition("/")[2]
    site.samples[path] = product(int(path.rpartition("-")[2]), False)


def test_the_morning_can_be_done_by_keyboard(
    open_browser: Callable[..., BrowserContext], desk_service: Service, night: LocalSite
) -> None:
    """Signing in, a to-do found, commented on with a mention, and marked done, without a pointer."""
    view: Page = open_browser().pages[0]
    view.goto(desk_service.url)
    view.get_by_label("Email").focus()
    view.keyboard.type(OWNER)
    view.keyboard.press("Tab")
    view.keyboard.type(PASSWORD)
    view.keyboard.press("Enter")
    expect(view.get_by_role("heading", name="Needs attention")).to_be_visible()
    with desk_service.client() as desk:
        todo = next(todo for todo in desk.list_todos() if todo.state == "open")
    view.goto(f"{desk_service.url}/todos/{todo.id}")
    comment = view.get_by_label("Comment", exact=True)
    comment.focus()
    view.keyboard.type("Please look, @Oo")
    expect(view.get_by_role("button", name="@Oona Featherby")).to_be_visible()
    view.keyboard.press("Tab")
    view.keyboard.press("Enter")
    expect(comment).to_have_value("Please look, @Oona Featherby ")
    view.keyboard.press("Tab")
    view.keyboard.press("Tab")
    view.keyboard.press("Enter")
    expect(view.get_by_text("Please look, @Oona Featherby", exact=True)).to_be_visible()
    view.get_by_role("button", name="Mark done").focus()
    view.keyboard.press("Enter")
    expect(view.get_by_text("From open to done.")).to_be_visible()


def test_who_is_invited_chooses_a_password_and_is_signed_in(
    open_browser: Callable[..., BrowserContext], desk_service: Service, mails: tuple[Path, int]
) -> None:
    with desk_service.client() as desk:
        desk.invite_member(InvitationBody(name="Rosa Quill", email="rosa@agency.example", role=Role.ANALYST))
    assert mails_to(mails[0], "rosa", 1) == ["You are invited to Hodcarrier"]
    view = open_browser().pages[0]
    view.goto(link_in_mail(mails[0], "rosa"))
    view.get_by_label("New password").fill("four words nobody guesses")
    view.get_by_role("button", name="Save and sign in").click()
    expect(view.get_by_role("heading", name="Needs attention")).to_be_visible()

    view.get_by_role("button", name="Sign out").click()
    view.get_by_role("link", name="Forgotten your password?").click()
    expect(view.get_by_role("heading", name="Forgotten password")).to_be_visible()  # until then, the form is that of signing in
    view.get_by_label("Email").fill("rosa@agency.example")
    view.get_by_role("button", name="Send link").click()
    expect(view.get_by_role("status")).to_contain_text("a mail with a link is on its way")
    assert mails_to(mails[0], "rosa", 2)[1] == "Your password for Hodcarrier"
    view.goto(link_in_mail(mails[0], "rosa"))
    view.reload()  # the address differs behind the number sign alone
    view.get_by_label("New password").fill("another four good words")
    view.get_by_role("button", name="Save and sign in").click()
    expect(view.get_by_role("heading", name="Needs attention")).to_be_visible()
    view.goto(f"{desk_service.url}/new-password")
    expect(view.get_by_text("The address is not complete.")).to_be_visible()


def link_in_mail(folder: Path, person: str) -> str:
    """The link in the last mail to somebody."""
    read = [email.message_from_bytes(p.read_bytes(), policy=policy.default) for p in sorted(folder.glob("*.eml"))]
    last = [mail for mail in read if mail["To"] == f"{person}@agency.example"][-1]
    found = re.search(r"http://\S+/new-password#\S+", next(last.iter_parts()).get_content())
    assert found
    return found[0]


def test_signing_in_by_two_steps_is_set_up_and_used(open_browser: Callable[..., BrowserContext], desk_service: Service) -> None:
    with desk_service.client() as desk:
        body = MemberBody(name="Hugo Penhale", email="hugo@agency.example", role=Role.ANALYST, password="heather and gravel")
        desk.add_member(body)
    view = open_browser().pages[0]

    def enter() -> None:
        view.get_by_label("Email").fill("hugo@agency.example")
        view.get_by_label("Password").fill("heather and gravel")
        view.get_by_role("button", name="Sign in").click()

    view.goto(desk_service.url)
    enter()
    expect(view.get_by_role("heading", name="Needs attention")).to_be_visible()
    view.goto(f"{desk_service.url}/team?tab=you")
    view.get_by_label("Your password, once more").fill("heather and gravel")
    view.get_by_role("button", name="Set up").click()
    expect(view.get_by_alt_text("QR code with the secret")).to_be_visible()
    secret = view.locator("section").filter(has=view.get_by_role("heading", name="Two-step sign-in")).locator("code").inner_text()
    view.get_by_label("Code").fill(pyotp.TOTP(secret).now())
    view.get_by_role("button", name="Switch on").click()
    codes = view.get_by_role("status").locator("xpath=following-sibling::ul").get_by_role("listitem")
    expect(codes).to_have_count(10)
    recovery = codes.first.inner_text()
    view.get_by_role("button", name="I have kept them").click()
    expect(view.get_by_role("button", name="Switch off")).to_be_visible()
    view.get_by_role("button", name="Sign out").click()
    enter()
    view.get_by_label("Code").fill(recovery)
    view.get_by_role("button", name="Sign in").click()
    expect(view.get_by_role("heading", name="Needs attention")).to_be_visible()
