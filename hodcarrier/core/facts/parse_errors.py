"""Where the HTML of a document breaks the rules of parsing (WHATWG HTML, 13.2): line, column, what is wrong, and how to mend it.

Finding them takes a hundred times as long as parsing, so it is done for a page that somebody looks at, not for every page of a run.
"""

from __future__ import annotations

from collections.abc import Iterator

import html5lib
import msgspec

# Beyond this a document is not read to its end: nobody mends more errors than its beginning has.
CHARS_MAX = 2_000_000
KEPT_MAX = 200

# What is wrong and what to do, by the parser's code; ``{name}`` is the element that it names.
_WORDS: dict[str, tuple[str, str]] = {
    "duplicate-attribute": ("An attribute stands twice on one element; the second is ignored", "Keep one of the two."),
    "attributes-in-end-tag": ("An end tag has attributes", "Remove them."),
    "end-tag-too-early": ("</{name}> closes an element while others in it are open", "Close the inner elements first."),
    "end-tag-too-early-named": ("</{name}> comes while <{gotName}> is open", "Close <{gotName}> before it."),
    "end-tag-too-early-ignored": (
        "</{name}> comes too early and is ignored",
        "Remove it, or move it behind what it should close.",
    ),
    "adoption-agency-1.1": ("</{name}> crosses another element", "Close elements in the reverse order of their opening."),
    "adoption-agency-1.2": ("</{name}> crosses another element", "Close elements in the reverse order of their opening."),
    "adoption-agency-1.3": ("</{name}> crosses another element", "Close elements in the reverse order of their opening."),
    "unexpected-end-tag": ("</{name}> closes nothing that is open", "Remove it, or open the element where it should begin."),
    "unexpected-end-tag-treated-as": ("</{originalName}> is read as <{newName}>", "Write what is meant."),
    "unexpected-end-tag-after-body": ("</{name}> comes after the body", "Move it before </body>, or remove it."),
    "unexpected-start-tag-after-body": ("<{name}> comes after the body", "Move it before </body>."),
    "unexpected-char-after-body": ("Text comes after the body", "Move it before </body>."),
    "unexpected-start-tag": ("<{name}> may not stand here", "Move it to where it is allowed."),
    "unexpected-start-tag-ignored": (
        "<{name}> may not stand here and is ignored",
        "Remove it, or move it to where it is allowed.",
    ),
    "unexpected-start-tag-implies-end-tag": (
        "<{startName}> closes <{endName}>, which may not hold it",
        "Close <{endName}> before it, or take it out of there.",
    ),
    "unexpected-start-tag-treated-as": ("<{originalName}> is read as <{newName}>", "Write <{newName}>."),
    "unexpected-start-tag-out-of-my-head": ("<{name}> stands behind the head and is put into it", "Move it into the head."),
    "unexpected-start-tag-implies-table-voodoo": (
        "<{name}> stands in a table outside a cell and is moved in front of it",
        "Put it into a cell, or outside the table.",
    ),
    "unexpected-end-tag-implies-table-voodoo": (
        "</{name}> stands in a table outside a cell",
        "Put the element into a cell, or outside the table.",
    ),
    "unexpected-char-implies-table-voodoo": (
        "Text stands in a table outside a cell and is moved in front of it",
        "Put it into a cell, or outside the table.",
    ),
    "unexpected-start-tag-in-select": ("<{name}> may not stand in a select and is ignored", "Take it out of the select."),
    "unexpected-form-in-table": (
        "A form begins in a table outside a cell",
        "Put the whole table into the form, or the form into a cell.",
    ),
    "unexpected-hidden-input-in-table": ("A hidden field stands in a table outside a cell", "Move it into a cell."),
    "unexpected-cell-in-table-body": ("A cell stands in no row", "Put a tr element around it."),
    "expected-closing-tag-but-got-eof": ("The document ends while <{name}> is open", "Close it."),
    "expected-named-closing-tag-but-got-eof": ("The document ends while <{name}> is open", "Close it."),
    "expected-one-end-tag-but-got-another": (
        "</{gotName}> stands where </{expectedName}> is due",
        "Close elements in the reverse order of their opening.",
    ),
    "missing-end-tag": ("An end tag is missing", "Close the element."),
    "missing-end-tags": ("End tags are missing", "Close the elements."),
    "no-end-tag": ("The element {name} is never closed", "Close it."),
    "non-void-element-with-trailing-solidus": (
        "<{name}/> is read as <{name}>: only void elements close themselves",
        "Write <{name}></{name}>.",
    ),
    "expected-doctype-but-got-start-tag": ("The document begins without a doctype", "Put <!doctype html> at its top."),
    "expected-doctype-but-got-chars": ("Text stands in front of the doctype", "Put <!doctype html> at the top."),
    "expected-doctype-but-got-end-tag": ("The document begins without a doctype", "Put <!doctype html> at its top."),
    "expected-doctype-but-got-eof": ("The document is empty", "Look for an error of the server."),
    "unknown-doctype": ("The doctype is none of HTML", "Write <!doctype html>."),
    "unexpected-doctype": ("A second doctype stands in the document", "Remove it; it comes from an included file."),
    "expected-named-entity": ("An & stands alone", "Write &amp; for it."),
    "named-entity-without-semicolon": (
        "A character reference has no semicolon",
        "Add it, or write &amp; where the sign itself is meant.",
    ),
    "numeric-entity-without-semicolon": ("A numeric character reference has no semicolon", "Add it."),
    "illegal-windows-1252-entity": (
        "A character reference names a control character",
        "Name the character by its Unicode number.",
    ),
    "illegal-codepoint-for-numeric-entity": ("A character reference names no character", "Correct the number."),
    "invalid-codepoint": ("A control character stands in the text", "Remove it."),
    "null-character": ("A NUL character stands in the text", "Remove it."),
    "unexpected-character-after-attribute-value": ("No blank stands between two attributes", "Put one there."),
    "unexpected-character-in-unquoted-attribute-value": (
        "An attribute without quotes has a quote, < or = in it",
        "Put the value into quotes.",
    ),
    "equals-in-unquoted-attribute-value": ("An attribute without quotes has a quote, < or = in it", "Put the value into quotes."),
    "invalid-character-in-attribute-name": (
        "An attribute's name has a quote or < in it",
        "Look for a quote that is missing before it.",
    ),
    "invalid-character-after-attribute-name": (
        "A quote or < stands behind an attribute's name",
        "Look for a quote that is missing before it.",
    ),
    "unexpected-character-after-solidus-in-tag": ("A slash stands inside a tag", "Remove it."),
    "expected-tag-name": ("A < begins no tag", "Write &lt; for it."),
    "expected-tag-name-but-got-question-mark": ("A processing instruction stands in HTML", "Remove it."),
    "expected-closing-tag-but-got-char": ("</ is followed by no name", "Correct the end tag, or write &lt; for the sign."),
    "incorrect-comment": ("A comment is not well formed", "Begin it with <!-- and end it with -->."),
    "expected-dashes-or-doctype": ("<! begins neither a comment nor the doctype", "Begin comments with <!--."),
    "eof-in-comment": ("A comment is never closed", "Close it with -->."),
    "char-in-head-noscript": ("Text stands in a noscript element of the head", "Move the noscript element into the body."),
    "unexpected-inhead-noscript-tag": (
        "<{name}> stands in a noscript element of the head",
        "Move the noscript element into the body.",
    ),
    "two-heads-are-not-better-than-one": ("A second head begins", "Remove it; it comes from an included file."),
    "non-html-root": ("A second html element begins", "Remove it; it comes from an included file."),
    "end-tag-after-implied-root": ("</{name}> comes before anything was opened", "Remove it."),
}
# What an older edition of the standard called errors, and the parser still does.
_ALLOWED_BY_NOW = frozenset(
    {
        "unexpected-char-in-comment",
        "unexpected-dash-after-double-dash-in-comment",
        "unexpected-space-after-double-dash-in-comment",
    }
)
_OTHERWISE = ("The parser stumbles: {code}", "Look at this place in the source.")


class ParseError(msgspec.Struct, frozen=True, array_like=True):
    """One place where parsing had to be repaired: ``line`` and ``column`` count from 1."""

    line: int
    column: int
    code: str
    problem: str
    remedy: str


def parse_errors(text: str) -> tuple[ParseError, ...]:
    """The errors of a document, in its order; the first of many."""
    parser = html5lib.HTMLParser(namespaceHTMLElements=False)
    parser.parse(text[:CHARS_MAX])
    return tuple(_told(parser.errors))[:KEPT_MAX]


def _told(errors: list[tuple[tuple[int, int], str, dict[str, str]]]) -> Iterator[ParseError]:
    for (line, column), code, names in errors:
        if code in _ALLOWED_BY_NOW:
            continue
        problem, remedy = _WORDS.get(code, _OTHERWISE)
        values = _Names(names, code=code.replace("-", " "))
        yield ParseError(line, column + 1, code, problem.format_map(values), remedy.format_map(values))


class _Names(dict[str, str]):
    """Names that a parser gives with an error; one that it does not give is told without."""

    def __missing__(self, _key: str) -> str:
        return "…"
