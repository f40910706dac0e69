"""Every check of the catalogue against its own examples: the one generic test."""

import dataclasses
import inspect
import json
import re
from pathlib import Path

import pytest

from hodcarrier.core import catalogue, checks
from hodcarrier.core.catalogue import AREAS, Entry, Example, Subject
from hodcarrier.core.errors import NotFound
from hodcarrier.core.facts.data import DataFacts
from hodcarrier.core.facts.forms import FormFacts
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.language import LanguageFacts
from hodcarrier.core.facts.links import LinkFacts
from hodcarrier.core.facts.markup import MarkupFacts
from hodcarrier.core.facts.media import MediaFacts
from hodcarrier.core.facts.page import PageFacts
from hodcarrier.core.facts.preview import PreviewFacts
from hodcarrier.core.facts.text import TextFacts
from hodcarrier.core.facts.trust import TrustFacts
from hodcarrier.core.words import fill
from tests.sample_site import keys_of, run_example

ENTRIES = catalogue.load()
CASES = [
    pytest.param(entry, example, id=f"{entry.id}-{number}-{'fails' if example.expect else 'passes'}")
    for entry in ENTRIES.values()
    for number, example in enumerate(entry.check.examples)
]


@pytest.mark.parametrize(("entry", "example"), CASES)
def test_example_yields_exactly_its_keys_and_whole_texts(entry: Entry[object], example: Example) -> None:
    run, summary = run_example(example)
    assert keys_of(run.db, entry.id) == sorted(example.expect)
    assert summary["crashes"] == []
    # Its texts are whole: nothing that a message or a cause names is missing.
    for key, evidence in run.rows("SELECT message, evidence FROM finding WHERE check_id = ?", entry.id):
        assert "–" not in entry.message(key, json.loads(evidence)), key
    for (line,) in run.rows("SELECT line FROM cause WHERE check_id = ?", entry.id):
        assert line
        assert "–" not in line, line


@pytest.mark.parametrize("entry", ENTRIES.values(), ids=lambda entry: entry.id)
def test_texts_are_whole(entry: Entry[object]) -> None:
    check = entry.check
    for text in (check.summary, check.why, check.fix, check.standard, *check.messages.values()):
        assert text.strip(), entry.id
    assert check.why.endswith(".")
    assert check.fix.endswith(".")
    assert entry.area in AREAS


@pytest.mark.parametrize("entry", ENTRIES.values(), ids=lambda entry: entry.id)
def test_examples_show_both_sides_and_every_message(entry: Entry[object]) -> None:
    shown = {key for example in entry.check.examples for key in example.expect}
    assert shown == set(entry.check.messages)
    assert any(not example.expect for example in entry.check.examples)


def test_every_limit_is_tried_on_both_sides() -> None:
    for entry in ENTRIES.values():
        for name in entry.check.limits:
            tuned = [e for e in entry.check.examples if name in e.plan.get("thresholds", {})]
            assert tuned or len(entry.check.examples) >= 4, f"{entry.id} needs examples around {name}"


@pytest.mark.parametrize(("check", "name"), [(entry.id, name) for entry in ENTRIES.values() for name in entry.check.limits])
def test_an_example_passes_exactly_at_the_limit(check: str, name: str) -> None:
    """Moving the limit by the least that tells makes one of the passing examples fail: it stood on the limit itself."""
    entry = ENTRIES[check]
    step = 1 if "_min" in name else -1
    found = []
    for example in entry.check.examples:
        given = example.plan.get("thresholds", {})
        if example.expect or (given and name not in given):
            continue
        moved = {**given, name: given.get(name, entry.check.limits[name].default) + step}
        run, _ = run_example(dataclasses.replace(example, plan={**example.plan, "thresholds": moved}))
        found += run.rows("SELECT 1 FROM finding WHERE check_id = ?", check)
    assert found, f"no example of {check} stands on {name}"


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
        path = Path(checks.__file__).parent / entry.area / (entry.id.replace("-", "_") + ".py")
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


AREAS_OF_FACTS = {
    "head": HeadFacts,
    "language": LanguageFacts,
    "alternates": LanguageFacts,
    "version_targets": LanguageFacts,
    "text": TextFacts,
    "links": LinkFacts,
    "outlinks": LinkFacts,
    "distinct_links": LinkFacts,
    "media": MediaFacts,
    "forms": FormFacts,
    "preview": PreviewFacts,
    "data": DataFacts,
    "markup": MarkupFacts,
    "trust": TrustFacts,
    "fragments_of": LinkFacts,
    "canonical": HeadFacts,
    "canonical_target": HeadFacts,
    "directives": HeadFacts,
}


@pytest.mark.parametrize("entry", ENTRIES.values(), ids=lambda entry: entry.id)
def test_a_check_declares_the_facts_it_reads(entry: Entry[object]) -> None:
    source = inspect.getsource(entry.find) + inspect.getsource(entry.key)
    read = {AREAS_OF_FACTS[name] for name in re.findall(r"page\.(\w+)", source) if name in AREAS_OF_FACTS}
    documents = {need for need in entry.check.needs if need in AREAS_OF_FACTS.values()}
    assert read == documents or (PageFacts in entry.check.needs and read <= documents), entry.id
    assert ".document." not in source and ".facts." not in source, "read an area, not the whole document"


def test_how_far_a_fetch_must_come_follows_from_the_facts() -> None:
    reach = {entry.check.reach for entry in ENTRIES.values() if entry.check.subject == Subject.PAGE}
    assert reach == {"address", "answer", "document", "indexable"}
    assert ENTRIES["title-long"].check.reach == "indexable" and ENTRIES["reach-not-found"].check.reach == "answer"
