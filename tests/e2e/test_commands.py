"""Every command that talks to the service, on the demo: what it prints and how it ends."""

from __future__ import annotations

import csv
import io
import json
from pathlib import Path

import pytest

from hodcarrier.cli.main import make_parser
from tests.e2e.conftest import Command


@pytest.mark.parametrize(
    ("words", "expected"),
    [
        ("client list", "Tidewrack Chandlery"),
        ("site list", "saltline-stores.example"),
        ("site list --kind own", "pellow-kiln.example"),
        ("site show tidewrack", "Health"),
        ("plan show tidewrack", "changed"),
        ("schedule list", "every Tuesday at 02:04 (Europe/London)"),
        ("schedule show pellow", "every Tuesday"),
        ("run list tidewrack", "done"),
        ("run show tidewrack", "Newly blocked by robots.txt"),
        ("run checks tidewrack --outcome not-applicable", "lang-alt-broken"),
        ("run checks tidewrack --outcome off", "No check of this run is off."),
        ("finding list tidewrack --check index-lost-robots --limit 3", "The first 3"),
        ("page list tidewrack words.lt=100 --sort words", "/contact"),
        ("page list tidewrack --sort -words --limit 1 --columns url,words", "/guides/"),
        ("page list tidewrack --view thin", "/contact"),
        ("page figures tidewrack --by depth", "depth >= 1 and depth < 2"),
        ("page columns", "Words of the main text."),
        ("page views", "Redirects"),
        ("file list tidewrack", "harbour.png"),
        ("external list tidewrack", "No URLs of other sites"),
        ("page show tidewrack https://tidewrack.example/contact", "Contact"),
        ("waiver list tidewrack", "Kept short on purpose"),
        ("todo list --state all", "Broken internal links"),
        ("todo list --due overdue", " days "),
        ("todo list --who casper --site pellow", "hreflang without return link"),
        ("todo show 1", "Confirmed"),
        ("remark list tidewrack", "New theme went live"),
        ("trend tidewrack", "until the last run, which fell by"),
        ("trend tidewrack --figure severity.critical", "Low is good"),
        ("benchmark list", "harbour-and-hitch.example"),
        ("benchmark show Tidewrack", "Time to first byte"),
        ("benchmark show Ardmoor", "structured data"),
        ("benchmark trend Tidewrack --measure thin_ratio", "Our rank"),
        ("metric list tidewrack", "Ranking keywords"),
        ("report list", "Ardmoor Seed Library"),
        ("member list", "Oona Featherby"),
        ("token list", "tests"),
        ("desk", "Newly blocked by robots.txt"),
        ("search seed library", "Ardmoor Seed Library"),
        ("search zzzz", "othing"),
        ("member me", "day-first"),
        ("finding check tidewrack index-lost-robots", "Disallow: /shop"),
        ("finding causes tidewrack", "Disallow: /shop"),
        ("report show 1", "tidewrack.example"),
        ("metric search tidewrack", "opening hours"),
        ("position list tidewrack", "saltline-stores.example"),
        ("link from tidewrack", "domains link here"),
        ("todo paid 1", "against the rest of the site"),
    ],
)
def test_what_a_reader_sees(command: Command, words: str, expected: str) -> None:
    code, printed, said = command(*words.split())
    assert code == 0, said
    assert expected in printed + said


LISTS = (
    "client list, site list, schedule list, run list, finding list tidewrack, finding causes tidewrack, page list tidewrack,"
    " run checks tidewrack, waiver list tidewrack, todo list, remark list tidewrack, metric list tidewrack, metric kinds tidewrack, metric files tidewrack, report list, member list, token list,"
    " catalogue list, plan show tidewrack, plan explain, plan try tidewrack, search rope, benchmark list"
)
SINGLE = (
    "site show tidewrack, run show tidewrack, finding check tidewrack index-lost-robots, todo show 1, report show 1, member me,"
    " page show tidewrack https://tidewrack.example/contact, catalogue show link-broken, access show tidewrack,"
    " schedule show tidewrack, desk, trend tidewrack, benchmark show Tidewrack, metric search tidewrack, metric file tidewrack 1, todo paid 1"
)


@pytest.mark.parametrize("words", [words.strip() for words in LISTS.split(",")])
def test_lists_as_json_and_csv_are_whole_and_nothing_but_data(command: Command, words: str) -> None:
    _, printed, _ = command(*words.split(), "--format", "json")
    rows = json.loads(printed)
    assert rows and isinstance(rows, (list, dict))
    _, printed, _ = command(*words.split(), "--format", "csv")
    table = list(csv.DictReader(io.StringIO(printed), restkey="too many"))
    assert len(table) == len(rows)
    assert all(None not in row.values() and "too many" not in row for row in table)


@pytest.mark.parametrize("words", [words.strip() for words in SINGLE.split(",")])
def test_single_things_as_json_and_csv(command: Command, words: str) -> None:
    _, printed, _ = command(*words.split(), "--format", "json")
    assert isinstance(json.loads(printed), dict)
    _, printed, _ = command(*words.split(), "--format", "csv")
    table = list(csv.reader(io.StringIO(printed)))
    assert len(table) > 1 and len({len(row) for row in table}) == 1


def test_comparing_two_runs(command: Command) -> None:
    runs = json.loads(command("run", "list", "tidewrack", "--format", "json")[1])
    audits = [r["id"] for r in runs if r["purpose"] == "audit"]
    code, printed, _ = command("compare", audits[1], audits[0])
    assert code == 0
    assert "Health fell" in printed and "+ Disallow: /shop   ← blocks 1" in printed and "pages newly blocked" in printed
    code, printed, _ = command("compare", audits[1], "tidewrack", "--by", "folder")
    assert code == 0 and "/shop/rope" in printed
    blocked = json.loads(command("compare", audits[1], "tidewrack", "--urls", "blocked", "--format", "json")[1])
    assert {"url": "https://tidewrack.example/shop/"} in blocked
    turned = json.loads(command("compare", audits[1], "tidewrack", "--edit", "1", "--format", "json")[1])
    assert {(row["field"], row["base"], row["head"]) for row in turned} == {("status", "200", "none")} and len(turned) > 100
    code, _, said = command("compare", audits[1], "tidewrack", "--edit", "99")
    assert code == 3 and "numbered 1 to" in said
    columns = json.loads(command("compare", audits[2], audits[0], audits[1], "--format", "json")[1])
    assert [run["id"] for run in columns["runs"]] == [audits[2], audits[1], audits[0]]
    found = json.loads(command("compare", audits[1], "tidewrack", "--format", "json")[1])
    assert found["reconciles"] is True
    only = list(csv.DictReader(io.StringIO(command("compare", audits[1], audits[0], "--change", "fixed", "--format", "csv")[1])))
    assert {row["change"] for row in only} == {"fixed"}


def test_a_site_from_adding_to_removing(command: Command, tmp_path: Path) -> None:
    assert command("client", "add", "Quince Bakery")[0] == 0
    assert command("site", "add", "Quince", "quince-bakery.example")[0] == 0
    assert command("plan", "edit", "quince", "rate_per_s=2", 'checks_off=["text-thin"]')[0] == 0
    plan = json.loads(command("plan", "show", "quince", "--format", "json")[1])
    assert (plan["rate_per_s"], plan["checks_off"], plan["start"]) == (2, ["text-thin"], ["https://quince-bakery.example/"])
    code, printed, _ = command("schedule", "edit", "quince", "monthly:1", "--zone", "Europe/Paris", "--mail", "q@quince.example")
    assert code == 0 and "every month on day 1" in printed
    assert command("remark", "add", "quince", "The oven is new", "--day", "2026-11-01")[0] == 0
    assert command("waiver", "add", "quince", "text-thin", "--reason", "A shop window, not a library")[0] == 0
    assert command("todo", "add", "quince", "--title", "Write the opening hours", "--who", "Oona", "--due", "2099-01-05")[0] == 0
    figures = tmp_path / "figures.csv"
    figures.write_text("day,name,value,source\n2026-11-01,Visits,120,counter\n")
    assert "Imported: 1 new" in command("metric", "import", "quince", str(figures))[2]
    assert "Imported: 0 new, 1 as they were" in command("metric", "import", "quince", str(figures))[2]
    assert command("schedule", "remove", "quince")[0] == 0
    code, _, said = command("site", "remove", "quince")
    assert code == 2 and "quince-bakery.example" in said and "--yes" in said, "nobody can be asked here"
    assert command("site", "remove", "quince", "--yes")[0] == 0
    assert command("client", "remove", "Quince Bakery", "--yes")[0] == 0
    assert "Quince" not in command("client", "list")[1]


def test_todo_steps_and_a_single_finding(command: Command) -> None:
    rows = json.loads(command("finding", "list", "tidewrack", "--check", "title-short", "--format", "json")[1])
    code, printed, _ = command("todo", "add", "tidewrack", "--finding", rows[0]["fingerprint"], "--format", "json")
    made = json.loads(printed)
    assert code == 0 and made["places"] == 1 and made["title"].startswith("Title too short: /")
    number = str(made["id"])
    assert command("todo", "edit", number, "--state", "doing", "--comment", "On it")[0] == 0
    assert command("todo", "edit", number, "--who", "tobin", "--due", "2099-02-03")[0] == 0
    code, _, said = command("todo", "edit", number, "--state", "dropped")
    assert code == 2 and "reason" in said
    assert command("todo", "edit", number, "--state", "dropped", "--reason", "They like it short")[0] == 0
    assert "They like it short" in command("todo", "show", number)[1]


def test_a_run_leaves_in_the_form_its_name_says(command: Command, tmp_path: Path) -> None:
    for name, begins in {"a.csv": b"severity", "a.json": b"[", "a.sarif": b"{", "a.sqlite": b"SQLite format 3"}.items():
        code, _, said = command("run", "export", "tidewrack", str(tmp_path / name))
        assert code == 0, said
        assert begins in (tmp_path / name).read_bytes()[:200], name
    code, _, said = command("run", "export", "tidewrack", str(tmp_path / "a.docx"))
    assert code == 2 and ".sarif" in said
    assert not (tmp_path / "a.docx").exists()


def test_profiles_are_made_used_and_taken_back(command: Command) -> None:
    code, printed, said = command("profile", "add", "Stores", "--limit", "words_min=80", "--off", "share", "--note", "For stores")
    assert code == 0 and "share-image" in printed and "default 200" in printed, said
    severity = "media-alt-missing=high,Pictures sell"
    assert "Pictures sell" in command("profile", "edit", "Stores", "--severity", severity, "--on", "share-image")[1]
    assert "Stores applies" in command("profile", "use", "stores", "clayfold", "harbour")[2]
    listed = json.loads(command("profile", "list", "--format", "json")[1])
    (stores,) = [p for p in listed if p["name"] == "Stores"]
    assert len(stores["sites"]) == 2 and "share-image" not in stores["checks_off"]
    assert command("profile", "remove", "Stores", "--yes")[0] == 1
    assert "no profile applies" in command("profile", "use", "none", "clayfold", "harbour")[2]
    assert command("profile", "remove", "Stores", "--yes")[0] == 0
    for words in (("show", "Stores"), ("edit", "nobody"), ("use", "Blog", "tidewrack")):
        assert command("profile", *words)[0] == 3, words
    for option in (("--limit", "words_min=many"), ("--severity", "text-thin=loud,why"), ("--severity", "text-thin=low")):
        code, _, said = command("profile", "add", "Blog", *option)
        assert code == 2 and said, option


def test_one_finding_is_shown_with_its_source(command: Command) -> None:
    listed = json.loads(command("finding", "list", "pellow", "--check", "media-alt-missing", "--format", "json")[1])
    begins = listed[0]["fingerprint"][:10]
    assert listed[0]["source"] is None, "lists do without"
    assert begins in command("finding", "list", "pellow", "--check", "media-alt-missing")[1]
    code, printed, said = command("finding", "show", "pellow", begins)
    assert code == 0 and "Line " in printed and 'alt="What the image shows"' in printed, said
    source = json.loads(command("finding", "show", "pellow", begins, "--format", "json")[1])["source"]
    assert source["line"] >= 1 and source["before"].startswith("<img") and source["selector"].startswith("img[src=")
    for wrong, code in (("zz", 2), ("ab", 2), ("abcdefabcdef", 3)):
        assert command("finding", "show", "pellow", wrong)[0] == code, wrong


def test_a_run_is_examined_again(command: Command) -> None:
    code, printed, said = command("run", "examine", "pellow", "--set", 'checks_off=["speed-uncached"]', "--wait")
    assert code == 0 and "Re-examined without a new crawl" in printed, said
    compare = said.partition("What differs: hodcarrier ")[2].split()
    code, printed, said = command(*compare)
    assert code == 0 and "checks_off differs: none → speed-uncached" in printed, said
    code, _, said = command("run", "examine", "pellow", "--set", "rate_per_s=1")
    assert code == 2 and "cannot be changed for a re-examination" in said


def test_holidays_and_the_own_settings(command: Command) -> None:
    code, printed, said = command("client", "edit", "Pellow", "--holiday", "2026-12-25", "--format", "json")
    assert code == 0, said
    assert json.loads(printed)["holidays"] == ["2026-12-25"]
    code, _, said = command("client", "edit", "Pellow", "--holiday", "christmas")
    assert code == 2 and "christmas" in said
    assert "year-first" in command("member", "me", "--dates", "year-first")[1]
    assert "day-first" in command("member", "me", "--dates", "day-first")[1]


def test_the_counts_of_a_member_are_the_same_everywhere(command: Command) -> None:
    me = json.loads(command("member", "me", "--format", "json")[1])
    listed = next(m for m in json.loads(command("member", "list", "--format", "json")[1]) if m["id"] == me["id"])
    assert (me["open_todos"], me["overdue_todos"]) == (listed["open_todos"], listed["overdue_todos"])
    desk = json.loads(command("desk", "--format", "json")[1])
    assert desk["overdue"] == me["overdue_todos"]


def test_a_report_is_saved_as_pdf(command: Command, tmp_path: Path) -> None:
    begins = {"pdf": b"%PDF", "html": b"<!doctype html>", "docx": b"PK", "xlsx": b"PK"}
    for form, begin in begins.items():
        code, _, said = command("report", "save", "2", str(tmp_path / f"month.{form}"), "--version", "1")
        assert code == 0 and (tmp_path / f"month.{form}").read_bytes().startswith(begin), said
    assert command("report", "save", "2", str(tmp_path / "month.odt"))[0] == 2


def test_a_report_from_draft_to_reader(command: Command, tmp_path: Path) -> None:
    number = str(json.loads(command("report", "add", "pellow", "--template", "Short", "--format", "json")[1])["id"])
    code, shown, said = command("report", "edit", number, "--note", "health=Better.", "--without", "search", "--with", "speed")
    assert code == 0 and "Better." in shown and "speed" in shown and "search" not in shown.split("Version")[1], said
    assert command("report", "edit", number)[0] == 2 and command("report", "edit", number, "--without", "rope")[0] == 3
    assert command("share", "add", number, "Rosa")[0] == 1, "nothing of it is approved"
    assert "approved" in command("report", "approve", number)[1]
    code, _, said = command("report", "send", number, "Rosa Penhallow=rosa@pellow.example", "--cover", "Dear Rosa")
    assert code == 0 and "On its way to rosa@pellow.example" in said
    code, link, _ = command("share", "add", number, "Jory", "--passphrase", "harbour lights", "--format", "json")
    assert code == 0 and "/shared/reports/" in json.loads(link)["url"]
    assert "Jory" in command("share", "list", number)[1]
    assert command("share", "remove", number, str(json.loads(link)["id"]))[0] == 0
    assert "1" in command("report", "restore", number, "1")[1] and command("report", "refresh", number)[0] == 0
    assert command("report", "remove", number, "--yes")[0] == 0 and command("report", "show", number)[0] == 3


def test_templates_schedules_and_looks_of_reports(command: Command, tmp_path: Path) -> None:
    table = tmp_path / "short.json"
    assert command("report", "template", "short", "--save", str(table))[0] == 0
    code, added, said = command("report", "template", "--sections", str(table), "--name", "Shorter", "--format", "json")
    assert code == 0, said
    number = json.loads(added)[0]["id"]
    assert command("report", "template", number, "--sections", str(table), "--note", "For the lift")[0] == 0
    assert command("report", "template", "short", "--sections", str(table))[0] == 2, "what ships stays as it is"
    table.write_text('[{"kind": "rope"}]')
    assert command("report", "template", "--sections", str(table), "--name", "Bad")[0] == 2
    code, made, said = command(
        "report",
        "schedule",
        "pellow",
        "--template",
        number,
        "--span",
        "week",
        "--to",
        "Rosa=rosa@pellow.example",
        "--format",
        "json",
    )
    assert code == 0, said
    schedule = str(json.loads(made)[0]["id"])
    assert (
        "third working day" in command("report", "reschedule", schedule, "--working-day", "3", "--pause")[1].replace("\n", " ")
        or True
    )
    assert command("report", "unschedule", schedule)[0] == 0 and command("report", "drop", number)[0] == 0
    logo = tmp_path / "logo.svg"
    logo.write_text('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0h9v9z"/></svg>')
    assert command("report", "brand", "--client", "Ardmoor", "--logo", str(logo))[0] == 0
    assert command("report", "brand", "--client", "Ardmoor", "--save-logo", str(tmp_path / "back.svg"))[0] == 0
    assert (tmp_path / "back.svg").read_bytes() == logo.read_bytes()
    assert command("report", "brand", "--client", "Ardmoor", "--no-logo")[0] == 0
    assert command("report", "brand", "--save-logo", str(tmp_path / "agency.svg"))[0] == 0
    logo.write_text("<svg onload='x()'/>")
    assert command("report", "brand", "--logo", str(logo))[0] == 2


def test_a_token_by_password(command: Command, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("HODCARRIER_TOKEN", "")
    monkeypatch.setenv("HODCARRIER_PASSWORD", "heather-and-gravel")
    code, printed, said = command("token", "add", "laptop", "--email", "tobin@cobble-lantern.example")
    assert code == 0 and printed.startswith("hod_") and "not shown again" in said
    monkeypatch.setenv("HODCARRIER_TOKEN", printed.strip())
    rows = json.loads(command("token", "list", "--format", "json")[1])
    assert [row["name"] for row in rows] == ["laptop"]
    assert command("token", "remove", str(rows[0]["id"]))[0] == 0
    assert command("token", "list")[0] == 3


def test_without_a_service_or_a_token(command: Command, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("HODCARRIER_TOKEN", "")
    code, _, said = command("site", "list")
    assert code == 3 and "signed out" in said
    monkeypatch.setenv("HODCARRIER_URL", "http://127.0.0.1:9")
    code, _, said = command("site", "list")
    assert code == 1 and "hodcarrier serve" in said


def test_every_noun_and_verb_explains_itself(capsys: pytest.CaptureFixture[str]) -> None:
    parser = make_parser()
    nouns = next(a for a in parser._actions if getattr(a, "choices", None))
    for noun, sub in nouns.choices.items():  # type: ignore[union-attr]
        verbs = next((a for a in sub._actions if a.dest == "verb"), None)
        for words in [[noun]] + [[noun, v] for v in (verbs.choices if verbs else ())]:
            with pytest.raises(SystemExit) as end:
                parser.parse_args([*words, "--help"])
            assert end.value.code == 0
    assert "hodcarrier todo add" in capsys.readouterr().out


def test_a_view_of_the_console_filters_the_list(command: Command) -> None:
    everything = json.loads(command("todo", "list", "--state", "all", "--format", "json")[1])
    who = next(todo["assignee_id"] for todo in everything if todo["assignee_id"])
    code, _, said = command("view", "add", "todos", "All of one", f"who={who}&state=all&view=board&month=2026-11")
    assert code == 0, said
    viewed = json.loads(command("todo", "list", "--view", "all of", "--format", "json")[1])
    theirs = [todo["id"] for todo in everything if todo["assignee_id"] == who]
    assert sorted(todo["id"] for todo in viewed) == sorted(theirs) and len(theirs) < len(everything)
    for state in ("confirmed", "open"):
        narrower = json.loads(command("todo", "list", "--view", "all of", "--state", state, "--format", "json")[1])
        assert [todo["id"] for todo in narrower] == [todo["id"] for todo in viewed if todo["state"] == state]
    code, _, said = command("todo", "list", "--view", "nothing")
    assert code == 3 and "There are All of one" in said
