"""Operations on one page of a run in depth."""

from hodcarrier.wire.operations.operation import Operation, Parameter
from hodcarrier.wire.pages import LanguageSet, LookBrief, LooksBody, PageData, PageSource, SnippetOut, StepOut, TermsOut

PAGE = "/runs/{run_id}/page"
URL = (Parameter("url", str),)
OPERATIONS = (
    Operation(
        "get_page_terms",
        "GET",
        PAGE + "/terms",
        "The main terms of a page, and where a focus term stands.",
        TermsOut,
        query=(*URL, Parameter("focus", str, "")),
    ),
    Operation("get_page_data", "GET", PAGE + "/data", "The structured data of a page as a tree.", PageData, query=URL),
    Operation(
        "get_page_languages", "GET", PAGE + "/languages", "The versions of a page, and what each names.", LanguageSet, query=URL
    ),
    Operation(
        "get_page_way", "GET", PAGE + "/way", "The shortest way of clicks from the start to a page.", list[StepOut], query=URL
    ),
    Operation(
        "get_page_source",
        "GET",
        PAGE + "/source",
        "The source of a page with its findings, and where its HTML breaks the rules of parsing.",
        PageSource,
        query=URL,
    ),
    Operation(
        "try_snippet",
        "GET",
        "/snippet",
        "How a title and a description would stand in search results on a desktop and on a phone.",
        SnippetOut,
        query=(Parameter("title", str, ""), Parameter("description", str, ""), Parameter("url", str, "")),
    ),
    Operation(
        "look_at_pages",
        "POST",
        "/sites/{site_id}/looks",
        "Fetch and examine several pages now and compare them with the last run, which stays as it is.",
        list[LookBrief],
        LooksBody,
    ),
)
