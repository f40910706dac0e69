"""One page of a run in depth."""

from __future__ import annotations

from fastapi import APIRouter

from hodcarrier.audit.look import look_at_several
from hodcarrier.service.deps import Work, actual_run
from hodcarrier.service.guard import serves
from hodcarrier.usecases import page_parts
from hodcarrier.wire.pages import LanguageSet, LookBrief, LooksBody, PageData, PageSource, SnippetOut, StepOut, TermsOut

router = APIRouter()


@serves(router, "get_page_terms")
def get_page_terms(run_id: str, url: str, work: Work, focus: str = "") -> TermsOut:
    return page_parts.get_page_terms(work, actual_run(work, run_id), url, focus)


@serves(router, "get_page_data")
def get_page_data(run_id: str, url: str, work: Work) -> PageData:
    return page_parts.get_page_data(work, actual_run(work, run_id), url)


@serves(router, "get_page_languages")
def get_page_languages(run_id: str, url: str, work: Work) -> LanguageSet:
    return page_parts.get_page_languages(work, actual_run(work, run_id), url)


@serves(router, "get_page_way")
def get_page_way(run_id: str, url: str, work: Work) -> list[StepOut]:
    return page_parts.get_page_way(work, actual_run(work, run_id), url)


@serves(router, "get_page_source")
def get_page_source(run_id: str, url: str, work: Work) -> PageSource:
    return page_parts.get_page_source(work, actual_run(work, run_id), url)


@serves(router, "try_snippet")
def try_snippet(title: str = "", description: str = "", url: str = "") -> SnippetOut:
    return page_parts.try_snippet(title, description, url)


@serves(router, "look_at_pages")
def look_at_pages(site_id: int, body: LooksBody, work: Work) -> list[LookBrief]:
    return look_at_several(work, site_id, body.urls)
