"""Share links: what somebody without an account sees of a to-do, and may do; over HTTP as a browser does it."""

from __future__ import annotations

from datetime import timedelta
from html.parser import HTMLParser
from urllib.parse import urlencode

import pytest

from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.permissions import Role
from hodcarrier.register.models import Member
from hodcarrier.report.sheet import draw_sheet, markdown
from hodcarrier.service.postman import deliver_due
from hodcarrier.usecases import due_mails, todo_changes, todo_links, todo_lists
from hodcarrier.usecases.todo_sheet import todo_sheet
from hodcarrier.wire.todos import TodoChange, TodoLinkBody
from tests.service.agency import make_agency
from tests.usecases.conftest import START, Office
from tests.usecases.test_many_todos import person
from tests.usecases.test_todos import make, shop

DAY = timedelta(days=1)


@pytest.fixture
def imke(office: Office) -> Member:
    return person(office, "Imke Aldersgate", Role.LEAD)


@pytest.fixture
def todo(office: Office) -> int:
    office.audit(START, shop(2))
    return make(office, 0)


def share(office: Office, todo: int, imke: Member, **more: object) -> str:
    body = TodoLinkBody.model_validate({"name": "Rosa", **more})
    url = todo_links.add_todo_link(office.at(START), todo, body, imke).url
    assert url and url.startswith("https://desk.example/shared/")
    return url.rpartition("/")[2]


def story(office: Office, todo: int) -> list[tuple[str, str]]:
    return [(event.who, event.text) for event in todo_lists.get_todo(office.work, todo).events[1:]]


def test_a_link_shows_the_places_with_their_source_and_the_remedy(office: Office, todo: int, imke: Member) -> None:
    note = TodoChange(note="Use **the guide**.")
    todo_changes.change_todo(office.at(START), todo, note, None, imke)
    shown = todo_links.open_link(office.work, share(office, todo, imke))
    page = draw_sheet(shown.sheet)
    assert "<strong>the guide</strong>" in page
    assert "Why it matters." in page and "How to fix it." in page
    assert "https://shop.example/1" in page and "&lt;a href=&#34;/gone&#34;" in page
    assert (shown.name, shown.may_finish, shown.asks) == ("Rosa", True, False)


def test_what_is_said_by_a_link_is_signed_and_told(office: Office, todo: int, imke: Member) -> None:
    todo_changes.change_todo(office.at(START), todo, TodoChange(assignee=imke.id), None, imke)
    secret = share(office, todo, imke)
    todo_links.answer_link(office.at(START + DAY), secret, " Which guide? ")
    assert story(office, todo)[-1] == ("Rosa, by a link", "Which guide?")
    due_mails.gather(office.at(START + DAY))
    deliver_due(office.at(START + DAY), office.mail)
    assert office.mail.sent[-1][0] == imke.email and "Rosa wrote:\n  > Which guide?" in office.mail.sent[-1][2]


def test_done_by_a_link_is_judged_by_the_next_run(office: Office, todo: int, imke: Member) -> None:
    secret = share(office, todo, imke)
    shown = todo_links.answer_link(office.work, secret, "All repaired.", done=True)
    assert not shown.may_finish
    assert todo_lists.get_todo(office.work, todo).state == "done"
    with pytest.raises(Conflict, match="is done already"):
        todo_links.answer_link(office.work, secret, "", done=True)
    office.audit(START + 7 * DAY, shop(0))
    assert todo_lists.get_todo(office.work, todo).state == "confirmed"


def test_a_client_agrees_when_asked(office: Office, todo: int, imke: Member) -> None:
    plain, asking = share(office, todo, imke), share(office, todo, imke, name="Hugo", asks_approval=True)
    assert todo_lists.get_todo(office.work, todo).approval == "waiting"
    todo_links.answer_link(office.work, plain, "Fine with me.", agrees=True)
    assert todo_lists.get_todo(office.work, todo).approval == "waiting", "only who was asked can agree"
    assert todo_links.answer_link(office.work, asking, "", agrees=True).asks is False
    assert todo_lists.get_todo(office.work, todo).approval == "given"
    assert story(office, todo)[-1] == ("Hugo, by a link", "Agreed to.")


def test_a_link_ends(office: Office, todo: int, imke: Member) -> None:
    secret = share(office, todo, imke, days=2)
    todo_links.open_link(office.at(START + DAY), secret)
    [link] = todo_links.list_todo_links(office.at(START + DAY), todo)
    assert (link.seen, link.seen_at, link.active, link.url) == (1, START + DAY, True, None)
    with pytest.raises(NotFound, match="not valid any more"):
        todo_links.open_link(office.at(START + 2 * DAY), secret)
    again = share(office, todo, imke)
    todo_links.revoke_todo_link(office.work, todo, 2, imke)
    for wrong in (again, "guessed"):
        with pytest.raises(NotFound):
            todo_links.answer_link(office.work, wrong, "Hello?")
    with pytest.raises(NotFound, match="has no link 1"):
        todo_links.revoke_todo_link(office.work, todo + 1, 1, imke)


def test_nothing_and_too_much_are_refused(office: Office, todo: int, imke: Member) -> None:
    secret = share(office, todo, imke)
    for wrong in ("", "  \n", "x" * 5_001):
        with pytest.raises(InvalidInput):
            todo_links.answer_link(office.work, secret, wrong)
    for _ in range(todo_links.COMMENTS_MAX):
        todo_links.answer_link(office.work, secret, "Hello")
    with pytest.raises(Conflict, match="many comments"):
        todo_links.answer_link(office.work, secret, "Hello")


def test_a_sheet_goes_without_the_file_of_the_run(office: Office, todo: int) -> None:
    for path in office.work.store.whole_path("x").parent.glob("*.sqlite"):
        path.unlink()
    sheet = todo_sheet(office.work, todo)
    assert [place.subject for place in sheet.places] and sheet.checks == [] and sheet.run_at == ""
    assert "https://shop.example/1" in draw_sheet(sheet)


@pytest.mark.parametrize(
    ("text", "never"),
    [
        ("<script>alert(1)</script>", "<script"),
        ("[x](javascript:alert(1))", "href"),
        ("![x](https://elsewhere.example/pixel.png)", "<img"),
        ('<a onmouseover="x">y</a>', "<a "),
    ],
)
def test_a_note_cannot_run_or_fetch_anything(text: str, never: str) -> None:
    assert never not in markdown(text)


class Form(HTMLParser):
    """The buttons and fields of a page's form."""

    def __init__(self, page: str) -> None:
        super().__init__()
        self.fields: list[tuple[str | None, str | None]] = []
        self.method = ""
        self.feed(page)

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        values = dict(attrs)
        if tag == "form":
            self.method = values["method"] or ""
        if tag in ("button", "textarea"):
            self.fields.append((values.get("name"), values.get("value")))


def test_a_browser_reads_and_answers(tmp_path) -> None:  # type: ignore[no-untyped-def]
    agency = make_agency(tmp_path)
    todo = agency.own.ids["todo_id"]
    link = agency.request("POST", f"/api/v1/todos/{todo}/links", Role.LEAD, {"name": "Rosa <b>", "asks_approval": True}).json()
    path = link["url"].removeprefix("https://desk.example")
    page = agency.send("GET", path, None)
    assert page.status_code == 200 and page.headers["x-robots-tag"] == "noindex, nofollow" and "Rosa &lt;b&gt;" in page.text
    form = Form(page.text)
    assert form.method == "post"
    assert form.fields == [("comment", None), ("answer", "agree"), ("answer", "comment"), ("answer", "done")]
    typed = {"Content-Type": "application/x-www-form-urlencoded"}

    def send(**fields: str) -> str:
        answer = agency.send("POST", path, None, urlencode(fields).encode(), typed)
        return f"{answer.status_code} {answer.text}"

    assert "the agency knows that you agree" in send(answer="agree", comment="")
    assert "your comment is with the agency" in send(answer="comment", comment="Über <i>alles</i>")
    refused = send(answer="comment", comment="")
    assert refused.startswith("422 ") and "The comment is empty." in refused
    endless = agency.send("POST", path, None, b"comment=" + b"x" * 70_000, typed)
    assert endless.status_code == 413
    foreign = agency.send("POST", path, None, b"comment=x", {**typed, "Origin": "https://elsewhere.example"})
    assert foreign.status_code == 403
    assert "marked as done" in send(answer="done", comment="")
    late = send(answer="done", comment="And this too.")
    assert late.startswith("422 ") and "is done already" in late and "And this too." in late, "what was written is not lost"
    shown = agency.request("GET", f"/api/v1/todos/{todo}", Role.LEAD).json()
    assert (shown["state"], shown["approval"]) == ("done", "given")
    assert any(event["text"] == "Über <i>alles</i>" for event in shown["events"])
    assert agency.request("DELETE", f"/api/v1/todos/{todo}/links/{link['id']}", Role.LEAD).status_code == 204
    assert agency.send("GET", path, None).status_code == 404
    sheet = agency.request("GET", f"/api/v1/todos/{todo}/sheet", Role.FIXER)
    assert sheet.status_code == 200 and "<form" not in sheet.text and "Ring them" in sheet.text
