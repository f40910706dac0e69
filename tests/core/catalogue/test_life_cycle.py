"""A check is changed, renamed or retired: what was found by it before is neither fixed nor lost, and everything still explains itself."""

from __future__ import annotations

import dataclasses
from datetime import timedelta
from typing import Any

import pytest

from hodcarrier.core.catalogue import Area, Catalogue, Entry, Retired, Severity, doc, load, page
from hodcarrier.core.errors import NotFound
from hodcarrier.core.states import Change
from hodcarrier.runfile import results
from hodcarrier.runfile.comparison import compare
from hodcarrier.runfile.reader import RunFile
from tests.sample_site import NOW, audit

CHECK = "title-long"
SITE = (page(doc('<a href="/a">a</a>', f"<title>{'little ' * 10}</title>")), page(doc(), "/a"))
LATER = NOW + timedelta(days=7)


def with_entry(
    entry: Entry[Any] | None, aliases: dict[str, str] | None = None, retired: dict[str, Retired] | None = None
) -> Catalogue:
    """The catalogue with ``title-long`` replaced (``None``: taken out)."""
    entries = {check: found for check, found in load().items() if check != CHECK}
    if entry is not None:
        entries[entry.id] = entry
    return Catalogue(entries, aliases or {}, retired or {})


def looser(revision: int) -> Catalogue:
    """``title-long`` with a limit of 200 characters."""
    entry = load()[CHECK]
    limit = dataclasses.replace(entry.check.limits["title_chars_max"], default=200)
    check = dataclasses.replace(entry.check, limits={**entry.check.limits, "title_chars_max": limit}, revision=revision)
    return with_entry(dataclasses.replace(entry, check=check))


def classes(base: RunFile, head: RunFile) -> set[Change]:
    found = compare(base, head)
    assert found.balance.reconciles
    return {item.change for item in found.items if item.check in (CHECK, "title-lengthy")}


def test_a_looser_limit_of_a_new_revision_fixes_nothing() -> None:
    base, _ = audit(SITE)
    head, _ = audit(SITE, base=base, now=LATER, catalogue=looser(4))
    assert classes(base, head) == {Change.CHECK_CHANGED}
    assert any(s.name == CHECK and s.head == "revision 4" for s in compare(base, head).settings)
    assert compare(base, head).settings[0].name == "catalogue", "its version is derived from what is in it"


def test_a_plans_own_limit_fixes_nothing_either() -> None:
    base, _ = audit(SITE)
    head, _ = audit(SITE, {"thresholds": {"title_chars_max": 200}}, base, LATER)
    assert classes(base, head) == {Change.CHECK_CHANGED}
    assert classes(head, base) == {Change.CHECK_CHANGED}, "nor is anything new the other way round"


def test_the_history_takes_it_for_unverified_and_nothing_returns_later() -> None:
    base, _ = audit(SITE)
    middle, _ = audit(SITE, base=base, now=LATER, catalogue=looser(4))
    assert middle.rows("SELECT state FROM history WHERE check_id = ?", CHECK) == [("unverified",)]
    again, _ = audit(SITE, base=middle, now=LATER + timedelta(days=7))
    assert again.rows("SELECT state, times_returned FROM history WHERE check_id = ?", CHECK) == [("open", 0)]


def test_a_retired_check_fixes_nothing_and_its_run_explains_itself() -> None:
    gone = Retired(Area.TITLES, Severity.MEDIUM, "Title too long", "0.2.0", "Searches show titles of any length now.")
    base, _ = audit(SITE)
    head, _ = audit(SITE, base=base, now=LATER, catalogue=with_entry(None, retired={CHECK: gone}))
    assert classes(base, head) == {Change.CHECK_CHANGED}
    assert any((s.name, s.head) == (CHECK, "retired") for s in compare(base, head).settings)
    (row,) = results.findings(base, check_id=CHECK)
    assert (row["severity"], row["summary"]) == ("medium", "Title too long") and "characters" in row["message"]


def test_a_renamed_check_keeps_its_findings() -> None:
    entry = dataclasses.replace(load()[CHECK], id="title-lengthy", identity=CHECK)
    renamed = with_entry(entry, {CHECK: "title-lengthy"})
    base, _ = audit(SITE)
    head, _ = audit(SITE, base=base, now=LATER, catalogue=renamed)
    assert [r["since"] for r in results.findings(head, check_id="title-lengthy")] == [NOW.isoformat()]
    prints = [
        {r["fingerprint"] for r in results.findings(run, check_id=check)}
        for run, check in ((base, CHECK), (head, "title-lengthy"))
    ]
    assert prints[0] == prints[1]


def test_a_plan_that_names_a_check_by_its_old_id_still_switches_it_off() -> None:
    entry = dataclasses.replace(load()[CHECK], id="title-lengthy", identity=CHECK)
    run, _ = audit(SITE, {"checks_off": [CHECK]}, catalogue=with_entry(entry, {CHECK: "title-lengthy"}))
    assert run.rows("SELECT state FROM check_state WHERE id = 'title-lengthy'") == [("off",)]


def test_what_became_of_an_id_is_said() -> None:
    gone = Retired(Area.TITLES, Severity.LOW, "Old", "0.3.0", "It was never right.", ("title-short",))
    known = Catalogue(dict(load()), {"title-brief": "title-short", "title-tiny": "title-brief"}, {"title-odd": gone})
    assert known.find("title-tiny").id == "title-short"
    assert known.names("title-short") == ["title-brief", "title-tiny"]
    with pytest.raises(NotFound, match=r"retired in 0\.3\.0: It was never right.* See title-short"):
        known.find("title-odd")


def test_the_version_of_the_catalogue_follows_what_is_in_it() -> None:
    assert load().version == Catalogue(dict(load()), {}, {}).version
    assert len({load().version, looser(4).version, looser(1).version, with_entry(None).version}) == 4


def test_a_rule_that_looks_at_something_else_is_refused() -> None:
    import types

    from hodcarrier.core.catalogue.registry import read_entry
    from hodcarrier.core.checks.files import files_robots_missing
    from hodcarrier.core.checks.titles import title_long

    wrong = types.ModuleType("wrong")
    wrong.CHECK, wrong.find = title_long.CHECK, files_robots_missing.find  # type: ignore[attr-defined]
    with pytest.raises(TypeError, match="find takes a PageView"):
        read_entry(wrong, "title-wrong", Area.TITLES, {})
