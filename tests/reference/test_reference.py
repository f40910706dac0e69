"""The site in order has no findings; each check is broken in it once, and exactly what is expected is said."""

from __future__ import annotations

from datetime import timedelta

import pytest

from hodcarrier.core.catalogue import load
from tests.reference import data, files_and_safety, reach_and_index, texts
from tests.reference.breaking import Break
from tests.reference.site import PROBES, answers
from tests.sample_site import NOW, audit

TABLE: dict[str, Break] = {**reach_and_index.TABLE, **texts.TABLE, **files_and_safety.TABLE, **data.TABLE}


def found_after(broken: Break) -> set[str]:
    """The checks that fail on the site once it was broken."""
    good = answers()
    base = audit(tuple(good.values()), PROBES, now=NOW - timedelta(days=7))[0] if broken.after_good else None
    site = good
    for change in broken.changes:
        site = change(site)
    run, summary = audit(tuple(site.values()), {**PROBES, **broken.plan}, base)
    assert summary["crashes"] == []
    return {check for (check,) in run.rows("SELECT DISTINCT check_id FROM finding")}


def test_a_site_in_order_has_no_findings() -> None:
    run, summary = audit(tuple(answers().values()), PROBES)
    assert run.rows("SELECT check_id, subject, place, evidence FROM finding") == []
    assert run.rows("SELECT check_id, subject, reason FROM unverified") == [] == summary["crashes"]
    assert summary["health"] == 100.0 and summary["pages_scored"] == 30


@pytest.mark.parametrize("check", TABLE)
def test_a_broken_site_is_told_exactly_what_is_broken(check: str) -> None:
    assert found_after(TABLE[check]) == {check, *TABLE[check].also}


def test_every_check_is_broken_once() -> None:
    assert set(TABLE) == set(load())
