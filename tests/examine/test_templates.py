"""Causes by template: one fix, one line, called by the paths of its pages."""

from __future__ import annotations

from hodcarrier.core.catalogue import Sample, doc, page
from tests.sample_site import audit

HEAD = "<title>Rope for small boats</title><meta name=description content='Rope for small boats, by the metre'>"
PRODUCT = '<div class="product"><div class="gallery"></div><form class="buy"></form></div>'


def lines(site: tuple[Sample, ...], check: str) -> list[str]:
    run, _ = audit(site)
    return [line for (line,) in run.rows("SELECT line FROM cause WHERE check_id = ? ORDER BY line", check)]


def links(*paths: str) -> str:
    return "".join(f'<a href="{path}">{path}</a>' for path in paths)


def test_a_fault_of_one_template_is_one_cause_named_by_its_paths() -> None:
    products = [f"/shop/rope-{n}" for n in range(9)]
    others = [f"/guides/{n}" for n in range(5)]
    site = (
        page(doc(links(*products, *others), HEAD)),
        *(page(doc(PRODUCT, HEAD, lang=""), path) for path in products),
        *(page(doc("<p>Knots</p>", HEAD), path) for path in others),
    )
    assert lines(site, "lang-missing") == ["9 pages built like /shop/*, such as /shop/rope-0"]


def test_a_fault_of_every_page_is_one_cause_however_they_are_built() -> None:
    draws = ("<div class=note></div>", "<table class=data></table>", "<div class=example></div>", "<dl class=method></dl>")
    paths = [f"/{folder}/{n}" for folder in ("library", "reference", "tutorial") for n in range(8)]
    site = (
        page(doc(links(*paths), HEAD, lang="")),
        *(
            page(doc("".join(draws[i] for i in range(4) if n * 7 % 16 >> i & 1), HEAD, lang=""), path)
            for n, path in enumerate(paths)
        ),
    )
    assert lines(site, "lang-missing") == ["25 pages all over the site, such as /"]


def test_a_single_page_is_called_by_its_own_path() -> None:
    assert lines((page(doc(lang=""), "/"),), "lang-missing") == ["/"]
