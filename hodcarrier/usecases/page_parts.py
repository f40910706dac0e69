"""One page of a run in depth, as the surfaces show it."""

from __future__ import annotations

from dataclasses import asdict

from hodcarrier.core.catalogue import Area
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.facts.snippet import Fitted, Snippet, on_desktop, on_phone
from hodcarrier.core.facts.terms import Term
from hodcarrier.core.states import SourceDocument
from hodcarrier.core.web.urls import normalize
from hodcarrier.runfile import page_parts, results
from hodcarrier.runfile.evidence import located
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.pages import (
    DataBlock,
    DataPart,
    DataThing,
    DataValue,
    FittedOut,
    FocusOut,
    LanguageSet,
    PageData,
    PageSource,
    ParseErrorOut,
    SnippetOut,
    SnippetSide,
    StepOut,
    TermOut,
    TermsOut,
    VersionOut,
)
from hodcarrier.wire.results import FindingRow

TEXT_MAX = 2_000


def get_page_terms(work: Workspace, run_id: str, url: str, focus: str) -> TermsOut:
    """The main terms of a page, and where a focus term stands."""
    with work.open_run(run_id) as opened:
        found = page_parts.terms_of(opened, normalize(url), focus[:TEXT_MAX])
    asked = found.focus
    return TermsOut(
        words=found.words,
        terms=[_term(term) for term in found.terms],
        focus=FocusOut(term=_term(asked.term), description=asked.description, beginning=asked.beginning, url=asked.url)
        if asked
        else None,
    )


def _term(term: Term) -> TermOut:
    return TermOut(**asdict(term))


def get_page_data(work: Workspace, run_id: str, url: str) -> PageData:
    """The structured data of a page, with the findings on it."""
    with work.open_run(run_id) as opened:
        page = normalize(url)
        blocks = page_parts.data_of(opened, page)
        texts = results.texts(opened)
        rows = [row for row in results.findings_on(opened, opened.known_id(page)) if texts[row["check"]].area == Area.DATA]
        findings = [FindingRow(**row) for row in located(opened, rows)]
    return PageData(
        blocks=[
            DataBlock(form=block.form, number=block.number, error=block.error, things=[_thing(node) for node in block.things])
            for block in blocks
        ],
        findings=findings,
    )


def _thing(node: page_parts.Node) -> DataThing:
    return DataThing(
        types=list(node.types),
        id=node.id,
        values=[DataValue(property=name, value=value) for name, value in node.values],
        parts=[DataPart(property=name, thing=_thing(part)) for name, part in node.parts],
    )


def get_page_languages(work: Workspace, run_id: str, url: str) -> LanguageSet:
    """The versions of a page in other languages."""
    with work.open_run(run_id) as opened:
        found = page_parts.versions_of(opened, normalize(url))
    own = dict(found[0].names) if found else {}
    urls = {version.url for version in found}
    missing = sum(1 for version in found for other in urls - {version.url} if other not in {named for _, named in version.names})
    return LanguageSet(
        codes=list(own),
        versions=[VersionOut(url=v.url, status=v.status, lang=v.lang, indexable=v.indexable, names=list(v.names)) for v in found],
        missing=missing,
    )


def get_page_way(work: Workspace, run_id: str, url: str) -> list[StepOut]:
    """The shortest way of clicks to a page."""
    with work.open_run(run_id) as opened:
        return [StepOut(url=s.url, title=s.title, text=s.text) for s in page_parts.way_to(opened, normalize(url))]


def get_page_source(work: Workspace, run_id: str, url: str) -> PageSource:
    """The source of a page, with the findings that stand in it and its errors."""
    page = normalize(url)
    with work.open_run(run_id) as opened:
        found = page_parts.source_of(opened, page)
        rows = located(opened, results.findings_on(opened, opened.known_id(page)))
    inside = [row for row in rows if row["source"] and row["source"].document == SourceDocument.PAGE and row["source"].line > 0]
    return PageSource(
        text=found.text,
        whole=found.whole,
        findings=[FindingRow(**row) for row in inside],
        errors=[ParseErrorOut(line=e.line, column=e.column, problem=e.problem, remedy=e.remedy) for e in found.errors],
    )


def try_snippet(title: str, description: str, url: str) -> SnippetOut:
    """How a title and a description would stand in search results. Raises :class:`InvalidInput` for texts that are far too long."""
    for name, text in (("title", title), ("description", description)):
        if len(text) > TEXT_MAX:
            raise InvalidInput(f"The {name} has more than {TEXT_MAX:,} characters.", "Give a shorter one.", name)
    page = normalize(url) if url else ""
    return SnippetOut(desktop=_side(on_desktop(page, title, description)), phone=_side(on_phone(page, title, description)))


def _side(found: Snippet) -> SnippetSide:
    return SnippetSide(path=list(found.path), title=_fitted(found.title), description=_fitted(found.description))


def _fitted(found: Fitted) -> FittedOut:
    return FittedOut(lines=list(found.lines), px=found.px, limit_px=found.limit_px, cut=found.cut)
