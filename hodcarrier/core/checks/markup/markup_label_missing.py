"""A form field that people fill in has no label, aria-label, aria-labelledby or title. A placeholder is no label. Fields that nobody sees pass."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.catalogue.mending import attribute
from hodcarrier.core.facts.forms import FormFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(FormFacts,),
    summary="Form fields without a label",
    terms=("label", "input", "accessibility", "form"),
    why="A screen reader cannot say what belongs in the field. Others lose a name to click on, and the placeholder is gone once they type.",
    fix="Tie a label to the field with for and id. Where the design has no room for it, add an aria-label.",
    mend=attribute("aria-label", "What to enter here"),
    effort=Effort.SMALL,
    standard="WCAG 2.2, 1.3.1, 3.3.2 and 4.1.2",
    messages={"label": "{element} has no label"},
    cause="element",
    cause_line="{element} on {pages:page}",
    examples=(
        fails("label")(page(doc("<form><input name=q placeholder=Search></form>"))),
        fails("label")(page(doc("<form><select name=length></select><textarea name=note aria-label=Note></textarea></form>"))),
        passes(page(doc("<label for=q>Search</label><input id=q><label>Length <input name=l></label>"))),
        passes(page(doc("<input type=hidden name=a><input type=submit><input name=q title=Search>"))),
        passes(page(doc("<div hidden><input name=q></div>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for element in page.forms.unlabelled:
        yield Fail("label", element, {"element": element, "selector": element.strip("<>").split(" ")[0]})
