"""Calls about pages, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.wire.pages import LanguageSet, LookBrief, LooksBody, PageData, PageSource, SnippetOut, StepOut, TermsOut


class Pages(SyncCalls):
    """Calls about pages."""

    def get_page_terms(self, run_id: str, url: str, focus: str = "") -> TermsOut:
        """The main terms of a page, and where a focus term stands."""
        found: TermsOut = self._call("get_page_terms", {"run_id": run_id}, query={"url": url, "focus": focus})
        return found

    def get_page_data(self, run_id: str, url: str) -> PageData:
        """The structured data of a page as a tree."""
        found: PageData = self._call("get_page_data", {"run_id": run_id}, query={"url": url})
        return found

    def get_page_languages(self, run_id: str, url: str) -> LanguageSet:
        """The versions of a page, and what each names."""
        found: LanguageSet = self._call("get_page_languages", {"run_id": run_id}, query={"url": url})
        return found

    def get_page_way(self, run_id: str, url: str) -> list[StepOut]:
        """The shortest way of clicks from the start to a page."""
        found: list[StepOut] = self._call("get_page_way", {"run_id": run_id}, query={"url": url})
        return found

    def get_page_source(self, run_id: str, url: str) -> PageSource:
        """The source of a page with its findings, and where its HTML breaks the rules of parsing."""
        found: PageSource = self._call("get_page_source", {"run_id": run_id}, query={"url": url})
        return found

    def try_snippet(self, title: str = "", description: str = "", url: str = "") -> SnippetOut:
        """How a title and a description would stand in search results on a desktop and on a phone."""
        found: SnippetOut = self._call("try_snippet", {}, query={"title": title, "description": description, "url": url})
        return found

    def look_at_pages(self, site_id: int, body: LooksBody) -> list[LookBrief]:
        """Fetch and examine several pages now and compare them with the last run, which stays as it is."""
        found: list[LookBrief] = self._call("look_at_pages", {"site_id": site_id}, body=body)
        return found


class AsyncPages(AsyncCalls):
    """Calls about pages."""

    async def get_page_terms(self, run_id: str, url: str, focus: str = "") -> TermsOut:
        """The main terms of a page, and where a focus term stands."""
        found: TermsOut = await self._call("get_page_terms", {"run_id": run_id}, query={"url": url, "focus": focus})
        return found

    async def get_page_data(self, run_id: str, url: str) -> PageData:
        """The structured data of a page as a tree."""
        found: PageData = await self._call("get_page_data", {"run_id": run_id}, query={"url": url})
        return found

    async def get_page_languages(self, run_id: str, url: str) -> LanguageSet:
        """The versions of a page, and what each names."""
        found: LanguageSet = await self._call("get_page_languages", {"run_id": run_id}, query={"url": url})
        return found

    async def get_page_way(self, run_id: str, url: str) -> list[StepOut]:
        """The shortest way of clicks from the start to a page."""
        found: list[StepOut] = await self._call("get_page_way", {"run_id": run_id}, query={"url": url})
        return found

    async def get_page_source(self, run_id: str, url: str) -> PageSource:
        """The source of a page with its findings, and where its HTML breaks the rules of parsing."""
        found: PageSource = await self._call("get_page_source", {"run_id": run_id}, query={"url": url})
        return found

    async def try_snippet(self, title: str = "", description: str = "", url: str = "") -> SnippetOut:
        """How a title and a description would stand in search results on a desktop and on a phone."""
        found: SnippetOut = await self._call("try_snippet", {}, query={"title": title, "description": description, "url": url})
        return found

    async def look_at_pages(self, site_id: int, body: LooksBody) -> list[LookBrief]:
        """Fetch and examine several pages now and compare them with the last run, which stays as it is."""
        found: list[LookBrief] = await self._call("look_at_pages", {"site_id": site_id}, body=body)
        return found
