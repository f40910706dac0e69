"""Since when robots.txt is as it is: by the runs that met it so, without a gap."""

from __future__ import annotations

from datetime import timedelta

from hodcarrier.core.catalogue import Sample, doc, page
from hodcarrier.core.states import SiteFileKind
from hodcarrier.usecases.site_files import list_site_files
from tests.usecases.conftest import START, Office


def robots(text: str) -> Sample:
    return Sample("/robots.txt", text.encode(), headers=(("content-type", "text/plain"),))


def test_a_file_is_as_it_is_since_the_run_that_met_it_so_first(office: Office) -> None:
    for week, text in enumerate(("User-agent: *", "User-agent: *\nDisallow: /x", "User-agent: *\nDisallow: /x")):
        run = office.audit(START + timedelta(weeks=week), (page(doc("<h1>Home</h1>")), robots(text)))
        (found,) = (row for row in list_site_files(office.work, run) if row.kind == SiteFileKind.ROBOTS)
        assert (found.status, found.entries) == (200, int(week > 0))
        assert found.since == (START + timedelta(weeks=1) if week else None)
