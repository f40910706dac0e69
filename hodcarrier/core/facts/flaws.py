"""What is wrong in the structure of a document: a head that ends too early, broken lists, tables without headers, fields without labels."""

from __future__ import annotations

import re
from collections.abc import Iterator

from selectolax.lexbor import LexborNode

from hodcarrier.core.facts.document import OBSOLETE, Document, attribute, is_inside
from hodcarrier.core.facts.references import clean

KEPT_MAX = 20
ROWS_MIN = 3
COLUMNS_MIN = 2
CELL_CHARS_MAX = 120
SMALL_PX = 12.0
# Elements that stand in the head (WHATWG HTML, 13.2.6.4.4); any other ends it, wherever it stands in the source.
_OF_HEAD = frozenset(
    {
        "html",
        "head",
        "base",
        "basefont",
        "bgsound",
        "link",
        "meta",
        "title",
        "script",
        "style",
        "noscript",
        "template",
        "noframes",
    }
)
_RAW = frozenset({"script", "style", "title", "template", "noframes"})
_PIECE = re.compile(r"<!--.*?-->|<[!?][^>]*>|<(/?)([a-zA-Z][^\s/>]*)((?:\"[^\"]*\"|'[^']*'|[^>\"'])*)>|[^<\s]+", re.S)
_FOCUSABLE = "a[href], area[href], button, input, select, textarea, iframe, summary, [tabindex]"
_FIELDS = ("input", "select", "textarea")
_NEED_NO_LABEL = frozenset({"hidden", "submit", "reset", "button", "image"})
_FONT_SIZE = re.compile(r"font-size\s*:\s*([\d.]+)\s*(px|pt)", re.I)


def head_breaker(document: Document) -> tuple[str, tuple[str, ...]]:
    """The element (``text`` for bare text) that ends the head before the source does, and what of the head stands after it; empty
    where the head ends as it is written."""
    outside = [
        node
        for name in ("title", "meta", "link")
        for node in document.elements.get(name, ())
        if node.mem_id not in document.head_ids and _is_of_head(node)
    ]
    if not outside:
        return "", ()
    at, breaker, lost = 0, "", []
    text = document.text
    while (piece := _PIECE.search(text, at)) is not None:
        at = piece.end()
        closing, name, attributes = piece.group(1), (piece.group(2) or "").lower(), piece.group(3) or ""
        if not name:
            if piece.group().startswith("<") or breaker:
                continue
            breaker = "text"
        elif closing:
            if name == "head":
                break
        elif name == "body":
            break
        elif name not in _OF_HEAD:
            breaker = breaker or name
        elif breaker and name in ("title", "meta", "link") and "itemprop" not in attributes.lower():
            lost.append(f"<{' '.join([name, *attributes.split()])[:80].rstrip('/ ')}>")
        if name in _RAW and not closing:
            end = re.compile(rf"</{name}\s*>", re.I).search(text, at)
            at = end.end() if end else len(text)
    return (breaker, tuple(lost[:KEPT_MAX])) if breaker and lost else ("", ())


def _is_of_head(node: LexborNode) -> bool:
    """Whether an element in the body has a meaning only in the head."""
    attributes = node.attributes
    if "itemprop" in attributes or "property" in attributes:
        return False
    if node.tag == "link":
        return bool({"canonical", "alternate", "icon", "amphtml"}.intersection((attributes.get("rel") or "").lower().split()))
    return node.tag == "meta" or not is_inside(node, "svg")


def obsolete_in(document: Document) -> tuple[tuple[str, int], ...]:
    """Elements that authors must not use (WHATWG HTML, 16.2), and how many there are of each."""
    return tuple((name, len(document.elements[name])) for name in OBSOLETE if name in document.elements)


def hidden_focus(document: Document) -> Iterator[str]:
    """Elements that take the focus though they are hidden from assistive technology, each once."""
    seen: set[int] = set()
    for node in document.hidden[:200]:
        for part in ([node] if _takes_focus(node) else []) + [n for n in node.css(_FOCUSABLE) if _takes_focus(n)]:
            if part.mem_id not in seen and not _is_shut(part):
                seen.add(part.mem_id)
                yield shown(part)


def _takes_focus(node: LexborNode) -> bool:
    attributes = node.attributes
    index = (attributes.get("tabindex") or "").strip()
    if index.startswith("-") or "disabled" in attributes:
        return False
    tag = node.tag
    if tag in ("a", "area"):
        return "href" in attributes
    if tag == "input":
        return (attributes.get("type") or "").lower() != "hidden"
    return index.isdigit() or tag in ("button", "select", "textarea", "iframe", "summary")


def _is_shut(node: LexborNode) -> bool:
    """Whether an element stands in something that nobody sees or reaches."""
    above: LexborNode | None = node
    while above is not None:
        attributes = above.attributes
        if "hidden" in attributes or "inert" in attributes or "disabled" in attributes:
            return True
        style = (attributes.get("style") or "").replace(" ", "").lower()
        if "display:none" in style or "visibility:hidden" in style:
            return True
        above = above.parent
    return False


def broken_lists(document: Document) -> Iterator[str]:
    """What stands in a list though it is no item of it, and items that stand in no list (WHATWG HTML, 4.4.5 to 4.4.8)."""
    items = 0
    for name in ("ul", "ol"):
        for node in document.elements.get(name, ()):
            if "role" in node.attributes and attribute(node, "role").strip().lower() not in ("list", ""):
                continue
            for child in node.iter(include_text=False):
                tag = child.tag
                if tag == "li":
                    items += 1
                elif tag not in ("script", "template", "-comment"):
                    yield f"{name} > {tag}"
    loose = document.elements.get("li", ())
    if len(loose) > items:
        for node in loose:
            parent = node.parent
            if parent is None or (
                parent.tag not in ("ul", "ol", "menu") and "role" not in parent.attributes and "role" not in node.attributes
            ):
                yield f"{parent.tag if parent is not None else ''} > li"


def headless_tables(document: Document) -> Iterator[str]:
    """The first cells of tables that hold data without any header cell. Tables that may be there for the layout are left out."""
    for node in document.elements.get("table", ()):
        if len(node.css("table")) > 1:  # itself, and others in it
            continue
        role = attribute(node, "role").strip().lower()
        if (
            role in ("presentation", "none")
            or is_inside(node, "table")
            or node.css_first("th, form, [role], img, div, p, ul, ol, h1, h2, h3, h4")
        ):
            continue
        rows = [[cell.text_lexbor() for cell in row.css("td")] for row in node.css("tr")]
        widths = {len(row) for row in rows}
        if len(rows) < ROWS_MIN or len(widths) != 1 or widths.pop() < COLUMNS_MIN or node.css_first("[colspan], [rowspan]"):
            continue
        cells = [clean(cell) for row in rows for cell in row]
        # What sets data apart from names put side by side: a column of figures.
        figures = any(all(any(c.isdigit() for c in cell) for cell in column[1:]) for column in zip(*rows, strict=True))
        if figures and all(len(cell) <= CELL_CHARS_MAX for cell in cells) and sum(map(bool, cells)) > len(cells) / 2:
            yield " | ".join(cells[: len(rows[0])])[:CELL_CHARS_MAX]


def unlabelled(document: Document) -> Iterator[str]:
    """Form fields without a label, a name of their own or a title (WCAG 2.2, 1.3.1 and 4.1.2)."""
    fields = [node for name in _FIELDS for node in document.elements.get(name, ())]
    if not fields:
        return
    named: set[str] | None = None
    for node in fields:
        attributes = node.attributes
        if node.tag == "input" and (attributes.get("type") or "").strip().lower() in _NEED_NO_LABEL:
            continue
        if any((attributes.get(name) or "").strip() for name in ("aria-label", "aria-labelledby", "title")) or is_inside(
            node, "label"
        ):
            continue
        if named is None:
            named = {attribute(label, "for") for label in document.tree.css("label[for]")}
        if (attributes.get("id") or "") not in named - {""} and not _is_shut(node):
            yield shown(node)


def small_text(document: Document) -> float:
    """The share of the visible text, by its letters, that a style of the page's own elements sets below 12 pixels."""
    if "font-size" not in document.text or document.tree.body is None:
        return 0.0
    small = 0
    counted: set[int] = set()
    for node in document.tree.body.css('[style*="font-size"]'):
        size = _FONT_SIZE.search(attribute(node, "style"))
        if size is None or float(size.group(1).strip(".") or 0) * (4 / 3 if size.group(2).lower() == "pt" else 1) >= SMALL_PX:
            continue
        above = node.parent
        while above is not None and above.mem_id not in counted:
            above = above.parent
        if above is None:
            counted.add(node.mem_id)
            small += len(clean(node.text_lexbor()))
    whole = len(clean(document.tree.body.text_lexbor())) if small else 0
    return min(1.0, small / whole) if whole else 0.0


def inline_bytes(document: Document) -> int:
    """The bytes of scripts and styles that stand in the document itself; data in scripts is not counted."""
    total = 0
    for node in document.elements.get("script", ()):
        attributes = node.attributes
        kind = (attributes.get("type") or "").strip().lower()
        if not attributes.get("src") and (not kind or "javascript" in kind or kind == "module"):
            total += len(node.text_lexbor().encode("utf-8", "replace"))
    return total + sum(len(node.text_lexbor().encode("utf-8", "replace")) for node in document.elements.get("style", ()))


def shown(node: LexborNode) -> str:
    """An element's start tag, as short as it can be told by."""
    parts = [node.tag or ""]
    for name in ("type", "name", "id", "href", "src", "class"):
        if value := clean(attribute(node, name)):
            parts.append(f'{name}="{value[:80]}"')
        if len(parts) == 3:
            break
    return f"<{' '.join(parts)}>"
