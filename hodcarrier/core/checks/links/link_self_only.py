"""An indexable page is linked from two pages or more, all of them of its own template, on a site that has three templates or more.

That is how products stand that only other products name: nothing above them leads there. Silent of templates whose pages lie in no folder of their
own: in a manual, pages that lead on are built like those that they lead to."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    PageView,
    Sample,
    Severity,
    Subject,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.template import TemplateFacts

INLINKS_MIN = 2
TEMPLATES_MIN = 3


def kind(path: str, mark: str, links: str) -> Sample:
    """A sample page of a kind of its own."""
    return page(doc(f'<div class="{mark}"><div class="{mark}-in"><p class="{mark}-text">{mark}</p>{links}</div></div>'), path)


def link(*paths: str) -> str:
    """Links to some paths."""
    return "".join(f"<a href={path}>{path}</a>" for path in paths)


def names_a_folder(template: str) -> bool:
    """Whether the pages of a template lie in a folder of their own, by its name."""
    return any(part and "*" not in part for part in template.partition(" ")[0].split("/"))


GUIDES = ("/guide/a", "/guide/b", "/guide/c")
LISTS = ("/list/a", "/list/b", "/list/c")
ROPES = ("/rope/a", "/rope/b", "/rope/c")
SHOP = (
    kind("/", "home", link(*GUIDES, *LISTS)),
    *(kind(path, "guide", "") for path in GUIDES),
    *(kind(path, "list", link("/rope/a", "/rope/b")) for path in LISTS),
    *(kind(path, "rope", link("/rope/c")) for path in ROPES),
)

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    about="indexable",
    needs=(TemplateFacts,),
    across=True,
    summary="Linked from pages of its own kind only",
    terms=("internal linking", "site structure", "crosslinks"),
    why="No list, no menu and no article leads to the page: visitors come across it only by chance, and little of the site's standing reaches it.",
    fix="Link to it from a category, a guide or the menu that it belongs to.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"own": "All {inlinks} pages that link here are of one kind: {template}"},
    cause="template",
    examples=(
        fails("own")(*SHOP),
        passes(*SHOP[:1], kind("/guide/a", "guide", link("/rope/c")), *SHOP[2:]),
        passes(page(doc("<a href=/a>a</a>")), page(doc(), "/a")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    template = page.linked_by_template() if page.inlinks >= INLINKS_MIN and page.templates >= TEMPLATES_MIN else ""
    if template and template == page.own_template and names_a_folder(template) and not page.is_start:
        yield Fail("own", "", {"inlinks": page.inlinks, "template": template})
