"""A cookie that an https page sets lacks Secure, or both HttpOnly and SameSite."""

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
    When,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.catalogue.mending import line
from hodcarrier.core.facts.answer import Answer

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.SECURE,
    needs=(Answer,),
    summary="Cookies without protection",
    terms=(
        "Set-Cookie",
        "HttpOnly",
        "SameSite",
        "Secure",
    ),
    why="Without Secure the cookie travels over http as well. Without HttpOnly or SameSite other scripts or sites can use it.",
    fix="Set Secure on every cookie, HttpOnly where no script reads it, and SameSite=Lax unless other sites need it.",
    mend=line("Set-Cookie: {name}=…; Secure; HttpOnly; SameSite=Lax"),
    effort=Effort.SMALL,
    standard="RFC 6265, 4.1.2",
    messages={"open": "The cookie {name} lacks {missing}"},
    cause="element",
    cause_line="The cookie {name} lacks {missing}",
    examples=(
        fails("open")(
            page(
                doc(),
                headers=(
                    ("content-type", "text/html; charset=utf-8"),
                    ("set-cookie", "sid=1; HttpOnly; SameSite=Lax"),
                ),
            )
        ),
        fails("open")(
            page(
                doc(),
                headers=(
                    ("content-type", "text/html; charset=utf-8"),
                    ("set-cookie", "sid=1; Secure"),
                ),
            )
        ),
        passes(
            page(
                doc(),
                headers=(
                    ("content-type", "text/html; charset=utf-8"),
                    ("set-cookie", "sid=1; Secure; HttpOnly"),
                ),
            )
        ),
        passes(
            page(
                doc(),
                headers=(
                    ("content-type", "text/html; charset=utf-8"),
                    ("set-cookie", "theme=dark; secure; samesite=lax"),
                ),
            )
        ),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    for value in answer.header_values("set-cookie") if answer is not None and page.is_secure else ():
        pair, *rest = value.split(";")
        named = {part.partition("=")[0].strip().lower() for part in rest}
        missing = [] if "secure" in named else ["Secure"]
        if not named & {"httponly", "samesite"}:
            missing.append("HttpOnly and SameSite")
        name = pair.partition("=")[0].strip()
        if missing:
            yield Fail("open", name, {"name": name, "missing": " and ".join(missing)})
