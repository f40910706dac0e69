"""Review sheets of a site: begun, filled in, compared, turned into to-dos."""

from __future__ import annotations

import base64
from datetime import date, timedelta

import pytest

from hodcarrier.core.catalogue import doc, page
from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import SheetDifference, SheetOutcome, TodoState
from hodcarrier.register.models import Member
from hodcarrier.usecases import sheet_templates, sheets, todo_changes
from hodcarrier.wire.sheets import (
    SheetAnswerBody,
    SheetAnswers,
    SheetFileBody,
    SheetLine,
    SheetOut,
    SheetStart,
    SheetTemplateBody,
    SheetTodos,
)
from hodcarrier.wire.todos import TodoChange
from tests.usecases.conftest import START, Office
from tests.usecases.test_figures import imported
from tests.usecases.test_many_todos import person

SHOP = {"name": "Shop", "sections": [{"title": "Basket", "items": [{"text": "Keeps", "how": "Close the browser."}, {"text": "Titles", "known_by": "check.title-missing"}, {"text": "Reviews", "asks": "number", "unit": "reviews", "known_by": "figure.site.Reviews"}]}]}  # fmt: skip


@pytest.fixture
def imke(office: Office) -> Member:
    return person(office, "Imke Aldersgate", Role.LEAD)


def template(office: Office, imke: Member, **more: object) -> str:
    body = SheetTemplateBody.model_validate({**SHOP, **more})
    return sheet_templates.add_sheet_template(office.at(START), body, imke).id


def begin(office: Office, imke: Member, key: str, days: int = 0) -> SheetOut:
    return sheets.start_sheet(office.at(START + timedelta(days=days)), office.site.id, SheetStart(template=key), imke)


def lines(sheet: SheetOut) -> dict[str, SheetLine]:
    return {line.key: line for part in sheet.parts for line in part.lines}


def answered(office: Office, sheet: SheetOut, imke: Member, **given: object) -> SheetOut:
    body = SheetAnswers(answers=[SheetAnswerBody.model_validate({"item": "keeps", **given})])
    return sheets.answer_sheet(office.at(START), sheet.id, body, imke)


def test_a_sheet_begins_with_what_is_known_and_says_so(office: Office, imke: Member) -> None:
    office.audit(START, [page(doc("<h1>Shop</h1>", head=""))])
    imported(office, [["2026-11-01", "Reviews", 41]], ["day", "name", "value"])
    found = lines(begin(office, imke, template(office, imke)))
    assert found["keeps"].outcome == SheetOutcome.OPEN and not found["keeps"].source
    titles = found["titles"]
    assert (titles.outcome, titles.note) == (SheetOutcome.RECOMMENDED, "1 of 1 place that were examined")
    assert titles.source == "audit of 3 November 2026"
    assert found["reviews"].number == 41 and found["reviews"].source.startswith("figure of ")


def test_what_a_person_found_stays_when_more_becomes_known(office: Office, imke: Member) -> None:
    sheet = begin(office, imke, template(office, imke))
    assert lines(sheet)["titles"].outcome == SheetOutcome.OPEN, "nothing was audited yet"
    sheet = answered(office, sheet, imke, item="titles", outcome="not-applicable", note="No pages.")
    office.audit(START, [page(doc("<h1>Shop</h1>"))])
    found = lines(sheets.prefill_sheet(office.work, sheet.id))
    assert (found["titles"].outcome, found["titles"].author) == (SheetOutcome.NOT_APPLICABLE, "Imke Aldersgate")
    sheet = answered(office, sheet, imke, item="titles", outcome="open")
    found = lines(sheets.prefill_sheet(office.work, sheet.id))
    assert (found["titles"].outcome, found["titles"].source) == (SheetOutcome.PASSED, "audit of 3 November 2026")


def test_answers_are_written_down_all_or_none(office: Office, imke: Member) -> None:
    sheet = begin(office, imke, template(office, imke))
    sheet = answered(office, sheet, imke, outcome="recommended", note="Lost after an hour.")
    assert sheet.sentence == "1 of 3 items looked at: 0 in order, a change recommended for 1."
    sheet = answered(office, sheet, imke, note="Lost after a minute.")
    assert (lines(sheet)["keeps"].outcome, lines(sheet)["keeps"].note) == (SheetOutcome.RECOMMENDED, "Lost after a minute.")
    wrong = SheetAnswers(answers=[SheetAnswerBody(item="keeps", outcome=SheetOutcome.PASSED), SheetAnswerBody(item="none")])
    with pytest.raises(InvalidInput, match="no item “none”"):
        sheets.answer_sheet(office.work, sheet.id, wrong, imke)
    assert lines(sheets.get_sheet(office.work, sheet.id))["keeps"].outcome == SheetOutcome.RECOMMENDED
    with pytest.raises(InvalidInput, match="asks for no number"):
        answered(office, sheet, imke, number=4)
    by_table = SheetAnswers(table="key,outcome,number\nkeeps,passed,\nreviews,,7\n")
    found = lines(sheets.answer_sheet(office.work, sheet.id, by_table, imke))
    assert (found["keeps"].outcome, found["reviews"].number) == (SheetOutcome.PASSED, 7)


def test_a_filling_is_compared_with_the_last_one(office: Office, imke: Member) -> None:
    key = template(office, imke)
    first = answered(office, begin(office, imke, key), imke, outcome="recommended")
    with pytest.raises(Conflict, match=r"shop\.example has this sheet for 2026-11-03 already"):
        begin(office, imke, key)
    second = answered(office, begin(office, imke, key, days=30), imke, outcome="passed")
    line = lines(second)["keeps"]
    assert (second.before_id, second.before_day) == (first.id, date(2026, 11, 3))
    assert (line.before_outcome, line.difference) == (SheetOutcome.RECOMMENDED, SheetDifference.BETTER)
    assert first.before_id is None
    assert [each.id for each in sheets.list_sheets(office.work, office.site.id)] == [second.id, first.id]
    other = begin(office, imke, "before-launch", days=31)
    assert other.before_id is None, "another template is another sheet"


def test_a_sheet_keeps_its_items_when_the_template_changes(office: Office, imke: Member) -> None:
    key = template(office, imke)
    sheet = begin(office, imke, key)
    other = SheetTemplateBody.model_validate({"name": "Shop", "sections": [{"items": [{"text": "Something else"}]}]})
    changed = sheet_templates.replace_sheet_template(office.work, int(key), other, 1, imke)
    assert (changed.version, changed.items) == (2, 1)
    with pytest.raises(Conflict, match="changed this template"):
        sheet_templates.replace_sheet_template(office.work, int(key), other, 1, imke)
    sheet_templates.remove_sheet_template(office.work, int(key), imke)
    assert list(lines(sheets.get_sheet(office.work, sheet.id))) == ["keeps", "titles", "reviews"]
    with pytest.raises(NotFound, match="no template"):
        begin(office, imke, key, days=1)


def test_templates_that_cannot_be_are_refused(office: Office, imke: Member) -> None:
    template(office, imke)
    with pytest.raises(Conflict, match="already a template called"):
        template(office, imke)
    for more, words in (
        ({"sections": []}, "no item"),
        ({"sections": [{"items": [{"text": "x", "known_by": "check.luck"}]}]}, "Nothing called “check.luck”"),
        ({"sections": [{"items": [{"text": "x", "known_by": "figure.luck"}]}]}, "Nothing called “figure.luck”"),
        ({"table": "item\nx"}, "both sections and a table"),
    ):
        with pytest.raises(InvalidInput, match=words):
            template(office, imke, name="Another", **more)
    made = template(office, imke, name="From a table", sections=[], table="section,item\nBasket,Keeps\n,Empties\n")
    found = next(each for each in sheet_templates.list_sheet_templates(office.work) if each.id == made)
    assert [item.key for section in found.sections for item in section.items] == ["keeps", "empties"]


def test_items_become_todos_once(office: Office, imke: Member) -> None:
    sheet = answered(office, begin(office, imke, template(office, imke)), imke, outcome="recommended", note="Lost after an hour.")
    [todo] = sheets.add_sheet_todos(office.at(START), sheet.id, SheetTodos(items=["keeps", "keeps"], assignee=imke.id), imke)
    assert (todo.title, todo.assignee, todo.labels) == ("Keeps", "Imke Aldersgate", ["review"])
    assert todo.note == "Lost after an hour.\n\nClose the browser.\n\nFrom the review sheet “Shop”."
    line = lines(sheets.get_sheet(office.work, sheet.id))["keeps"]
    assert line.todo and line.todo.id == todo.id
    with pytest.raises(Conflict, match=f"is in to-do {todo.id} already"):
        sheets.add_sheet_todos(office.at(START), sheet.id, SheetTodos(items=["titles", "keeps"]), imke)
    todo_changes.change_todo(office.at(START), todo.id, TodoChange(state=TodoState.DROPPED, drop_reason="Not now"), None, imke)
    assert sheets.add_sheet_todos(office.at(START), sheet.id, SheetTodos(items=["keeps"]), imke)
    sheets.remove_sheet(office.work, sheet.id, imke)
    with pytest.raises(NotFound):
        sheets.get_sheet(office.work, sheet.id)


def test_files_show_what_was_found(office: Office, imke: Member) -> None:
    sheet = begin(office, imke, template(office, imke))
    body = SheetFileBody(item="keeps", name="../what I saw.txt", content=base64.b64encode(b"an empty basket").decode())
    made = sheets.add_sheet_file(office.at(START), sheet.id, body, imke)
    assert (made.name, made.media) == ("what I saw.txt", "text/plain")
    assert [file.id for file in lines(sheets.get_sheet(office.work, sheet.id))["keeps"].files] == [made.id]
    assert sheets.read_sheet_file(office.work, sheet.id, made.id)[1] == b"an empty basket"
    with pytest.raises(InvalidInput, match="no item"):
        sheets.add_sheet_file(office.work, sheet.id, body.model_copy(update={"item": "none"}), imke)
    with pytest.raises(InvalidInput, match="empty, or larger"):
        sheets.add_sheet_file(office.work, sheet.id, body.model_copy(update={"content": ""}), imke)
    sheets.remove_sheet_file(office.work, sheet.id, made.id)
    with pytest.raises(NotFound, match="no file"):
        sheets.read_sheet_file(office.work, sheet.id, made.id)


def test_a_sheet_is_a_table(office: Office, imke: Member) -> None:
    sheet = answered(office, begin(office, imke, template(office, imke)), imke, outcome="passed", note="Yes")
    rows = sheets.sheet_table(office.work, sheet.id)
    assert next((row["section"], row["key"], row["outcome"], row["note"]) for row in rows) == ("Basket", "keeps", "passed", "Yes")
    assert len(rows) == 3


def test_a_sheet_of_an_earlier_day_knows_what_was_known_then(office: Office, imke: Member) -> None:
    office.audit(START, [page(doc("<h1>Shop</h1>", head=""))])
    office.audit(START + timedelta(days=14), [page(doc("<h1>Shop</h1>"))])
    key = template(office, imke)
    then = SheetStart(template=key, day=date(2026, 11, 10))
    found = lines(sheets.start_sheet(office.at(START + timedelta(days=20)), office.site.id, then, imke))
    assert (found["titles"].outcome, found["titles"].source) == (SheetOutcome.RECOMMENDED, "audit of 3 November 2026")
    before = SheetStart(template=key, day=date(2026, 11, 1))
    found = lines(sheets.start_sheet(office.at(START + timedelta(days=20)), office.site.id, before, imke))
    assert found["titles"].outcome == SheetOutcome.OPEN
