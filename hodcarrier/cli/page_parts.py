"""``hodcarrier page terms|data|languages|way|source|snippet``: one page of a run in depth."""

from __future__ import annotations

import argparse
from collections.abc import Callable, Iterator
from typing import Any

from hodcarrier.cli.output import count, emit, err, out
from hodcarrier.cli.service import connect, run_of, show, verb
from hodcarrier.wire.pages import DataThing

TERM_COLUMNS = [
    ("text", "Term"),
    ("count", "In the text"),
    ("share", "% of words"),
    ("title", "Title"),
    ("h1", "H1"),
    ("headings", "Headings"),
    ("alts", "Alt texts"),
    ("anchors", "Links in"),
]
FOCUS_COLUMNS = [*TERM_COLUMNS, ("description", "Description"), ("beginning", "First 100 words"), ("url", "URL")]
ERROR_COLUMNS = [("line", "Line"), ("column", "Column"), ("problem", "Problem"), ("remedy", "Fix")]


def add_verbs(verbs: Any) -> None:
    """Describe the commands."""
    terms = _on_page(verbs, "terms", "the terms that a page repeats, and where they stand", _run_terms)
    terms.add_argument("--focus", default="", metavar="TERM", help="also say where this term stands")
    _on_page(verbs, "data", "the structured data of a page as a tree", _run_data)
    _on_page(verbs, "languages", "the versions of a page, and what each names", _run_languages)
    _on_page(verbs, "way", "the shortest way of clicks to a page", _run_way)
    source = _on_page(verbs, "source", "the source of a page, as it was sent", _run_source)
    source.add_argument("--errors", action="store_true", help="list where its HTML breaks the rules of parsing instead")
    snippet = verb(verbs, "snippet", "how a title and a description would stand in search results", _run_snippet)
    snippet.add_argument("--title", default="")
    snippet.add_argument("--description", default="")
    snippet.add_argument("--address", default="", help="for the path above the title")


def _on_page(verbs: Any, name: str, text: str, run: Callable[[argparse.Namespace], int]) -> argparse.ArgumentParser:
    parser = verb(verbs, name, text, run)
    parser.add_argument("run_id", metavar="RUN")
    parser.add_argument("address")
    return parser


def _run_terms(args: argparse.Namespace) -> int:
    with connect(args) as desk:
        found = desk.get_page_terms(run_of(desk, args.run_id), args.address, args.focus)
    if args.format == "json":
        return show(args, found, [])
    if found.focus:
        focus = {**found.focus.term.model_dump(), **found.focus.model_dump(exclude={"term"})}
        emit([focus], args.format, FOCUS_COLUMNS)
    if args.format == "table" or not found.focus:
        rows = [term.model_dump() for term in found.terms]
        emit(rows, args.format, TERM_COLUMNS, "No term stands twice in the main text.")
        err.print(f"{count(found.words, 'word')} in the main text")
    return 0


def _run_data(args: argparse.Namespace) -> int:
    with connect(args) as desk:
        found = desk.get_page_data(run_of(desk, args.run_id), args.address)
    if args.format == "json":
        return show(args, found, [])
    rows = []
    for block in found.blocks:
        head = f"{block.form} block {block.number}" if block.number else block.form
        if block.error:
            rows.append({"block": head, "name": "cannot be read", "value": block.error})
        for thing in block.things:
            rows += [{"block": head, "name": name, "value": value} for name, value in _lines(thing)]
    emit(rows, args.format, [("block", "Where"), ("name", "Property"), ("value", "Value")], "The page has no structured data.")
    if args.format == "table" and found.findings:
        emit([row.model_dump() for row in found.findings], "table", [("severity", "Severity"), ("message", "Finding")])
    return 0


def _lines(thing: DataThing, path: str = "") -> Iterator[tuple[str, str]]:
    yield path or "type", " ".join(thing.types)
    for value in thing.values:
        yield f"{path}.{value.property}".lstrip("."), value.value
    for part in thing.parts:
        yield from _lines(part.thing, f"{path}.{part.property}".lstrip("."))


def _run_languages(args: argparse.Namespace) -> int:
    with connect(args) as desk:
        found = desk.get_page_languages(run_of(desk, args.run_id), args.address)
    if args.format == "json":
        return show(args, found, [])
    own = dict(found.versions[0].names) if found.versions else {}
    rows = []
    for version in found.versions:
        names = dict(version.names)
        said = {code: "–" if code not in names else "yes" if names[code] == own[code] else names[code] for code in found.codes}
        rows.append({"url": version.url, "status": version.status, "lang": version.lang, **said})
    columns = [("url", "Version"), ("status", "Status"), ("lang", "lang"), *((code, f"names {code}") for code in found.codes)]
    emit(rows, args.format, columns, "The page names no versions in other languages.")
    return 0


def _run_way(args: argparse.Namespace) -> int:
    with connect(args) as desk:
        found = desk.get_page_way(run_of(desk, args.run_id), args.address)
    rows = [{"clicks": n, **step.model_dump()} for n, step in enumerate(found)]
    if args.format == "json":
        return show(args, found, [])
    columns = [("clicks", "Clicks"), ("text", "By the link"), ("url", "To"), ("title", "Title")]
    emit(rows, args.format, columns, "No clicks lead from the start to this page.")
    return 0


def _run_source(args: argparse.Namespace) -> int:
    with connect(args) as desk:
        found = desk.get_page_source(run_of(desk, args.run_id), args.address)
    if args.format == "json":
        return show(args, found, [])
    if args.errors or args.format == "csv":
        rows = [error.model_dump() for error in found.errors]
        emit(rows, args.format, ERROR_COLUMNS, "The HTML keeps the rules of parsing.")
        return 0
    out.print(found.text, markup=False, highlight=False, soft_wrap=True)
    if not found.whole:
        err.print("The source is longer; this is its beginning.")
    return 0


def _run_snippet(args: argparse.Namespace) -> int:
    with connect(args) as desk:
        found = desk.try_snippet(args.title, args.description, args.address)
    if args.format == "json":
        return show(args, found, [])
    rows = [
        {
            "screen": screen,
            "part": part,
            "shown": " / ".join(text.lines),
            "px": text.px,
            "limit_px": text.limit_px,
            "cut": "cut" if text.cut else "fits",
        }
        for screen, side in (("desktop", found.desktop), ("phone", found.phone))
        for part, text in (("title", side.title), ("description", side.description))
    ]
    columns = [("screen", "Screen"), ("part", ""), ("shown", "As shown"), ("px", "Pixels"), ("limit_px", "Up to"), ("cut", "")]
    emit(rows, args.format, columns)
    return 0
