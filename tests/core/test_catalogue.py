"""Every check of the catalogue against its own examples: the one generic test."""

import json
import re
from pathlib import Path

import pytest

from hodcarrier.core import catalogue
from hodcarrier.core.catalogue import AREAS, Entry, Example, fill
from hodcarrier.core.errors import NotFound
from tests.sample_site import keys_of, run_example

ENTRIES = catalogue.load()
CASES = [
    pytest.param(entry, example, id=f"{entry.id}-{number}-{'fails' if example.expect else 'passes'}")
    for entry in ENTRIES.values()
    for number, example in enumerate(entry.check.examples)
]


@pytest.mark.parametrize(("entry", "example"), CASES)
def test_example_yields_exactly_its_keys(entry: Entry, example: Example) -> None:
    run, summary = run_example(example)
    assert keys_of(run.db, entry.id) == sorted(example.expect)
    assert summary["crashes"] == []


@pytest.mark.parametrize("entry", ENTRIES.values(), ids=lambda entry: entry.id)
def test_texts_are_whole(entry: Entry) -> None:
    check = entry.check
    for text in (check.summary, check.why, check.fix, check.standard, *check.messages.values()):
        assert text.strip(), entry.id
    assert check.why.endswith(".")
    assert check.fix.endswith(".")
    assert entry.area in AREAS


@pytest.mark.parametrize("entry", ENTRIES.values(), ids=lambda entry: entry.id)
def test_examples_show_both_sides_and_every_message(entry: Entry) -> None:
    shown = {key for example in entry.check.examples for key in example.expect}
    assert shown == set(entry.check.messages)
    assert any(not example.expect for example in entry.check.examples)


@pytest.mark.parametrize("entry", ENTRIES.values(), ids=lambda entry: entry.id)
def test_findings_fill_their_messages_and_causes(entry: Entry) -> None:
    for example in entry.check.examples:
        run, _ = run_example(example)
        for key, evidence in run.rows("SELECT message, evidence FROM finding WHERE check_id = ?", entry.id):
            assert "–" not in entry.message(key, json.loads(evidence)), (entry.id, key)
        for (line,) in run.rows("SELECT line FROM cause WHERE check_id = ?", entry.id):
            assert line
            assert "–" not in line, (entry.id, line)


def test_every_limit_is_tried_on_both_sides() -> None:
    for entry in ENTRIES.values():
        for name in entry.check.limits:
            tuned = [e for e in entry.check.examples if name in e.plan.get("thresholds", {})]
            assert tuned or len(entry.check.examples) >= 4, f"{entry.id} needs examples around {name}"


def test_limits_with_one_name_mean_one_thing() -> None:
    seen: dict[str, str] = {}
    for entry in ENTRIES.values():
        for name in entry.check.limits:
            assert seen.setdefault(name, entry.id) == entry.id


def test_size_and_spread() -> None:
    assert len(ENTRIES) >= 40
    assert len({entry.area for entry in ENTRIES.values()}) >= 10


def test_file_name_is_id() -> None:
    for entry in ENTRIES.values():
        path = Path(catalogue.checks.__file__).parent / entry.area / (entry.id.replace("-", "_") + ".py")
        assert path.is_file()
        assert re.fullmatch(r"[a-z]+(-[a-z0-9]+)+", entry.id)


def test_unknown_check_names_near_ones() -> None:
    with pytest.raises(NotFound, match="title-short"):
        catalogue.get("title-s")


def test_missing_data_shows_as_a_dash() -> None:
    assert fill("{a} of {b}", {"a": 12345}) == "12,345 of –"


@pytest.mark.parametrize(
    ("template", "data", "text"),
    [
        ("linked from {links:page}", {"links": 1}, "linked from 1 page"),
        ("linked from {links:page}", {"links": 0}, "linked from 0 pages"),
        ("linked from {links:page}", {"links": 1312}, "linked from 1,312 pages"),
        ("linked from {links:page}", {}, "linked from –"),
        ("{kib} KiB, {status}, {on}", {"kib": 2048, "status": 1000, "on": True}, "2,048 KiB, 1000, True"),
        ("{words}", {}, "–"),
    ],
)
def test_messages_count_as_people_do(template: str, data: dict[str, object], text: str) -> None:
    assert fill(template, data) == text
