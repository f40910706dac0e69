"""All facts of one HTML document: a struct for each area, collected in one traversal."""

from __future__ import annotations

from collections.abc import Sequence

import msgspec

from hodcarrier.core.facts import data, forms, head, language, links, markup, media, preview, template, text, trust
from hodcarrier.core.facts.data import DataFacts
from hodcarrier.core.facts.document import Document
from hodcarrier.core.facts.forms import FormFacts
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.language import LanguageFacts
from hodcarrier.core.facts.links import LinkFacts
from hodcarrier.core.facts.markup import MarkupFacts
from hodcarrier.core.facts.media import MediaFacts
from hodcarrier.core.facts.preview import PreviewFacts
from hodcarrier.core.facts.template import TemplateFacts
from hodcarrier.core.facts.text import TextFacts
from hodcarrier.core.facts.trust import TrustFacts
from hodcarrier.core.web.urls import Resolver

# A run file notes which version of each area it holds; a reader for older ones lifts them.
VERSIONS = {
    module.__name__.rpartition(".")[2]: module.VERSION
    for module in (head, language, text, links, media, forms, preview, data, markup, template, trust)
}


class PageFacts(msgspec.Struct, frozen=True, array_like=True):
    """The facts of one document by area. Sizes in bytes, lengths in characters or words as the names say.

    A run file stores the areas in this order: add at the end only.
    """

    url: str
    head: HeadFacts = HeadFacts()
    language: LanguageFacts = LanguageFacts()
    text: TextFacts = TextFacts()
    links: LinkFacts = LinkFacts()
    media: MediaFacts = MediaFacts()
    forms: FormFacts = FormFacts()
    preview: PreviewFacts = PreviewFacts()
    data: DataFacts = DataFacts()
    markup: MarkupFacts = MarkupFacts()
    template: TemplateFacts = TemplateFacts()
    trust: TrustFacts = TrustFacts()


def collect(
    body: bytes,
    url: str,
    content_type: str = "",
    resolver: Resolver | None = None,
    expected: Sequence[str] = (),
    inspect: bool = False,
) -> PageFacts:
    """All facts of a document fetched from ``url`` (normalised). Never raises for any bytes.

    A ``resolver`` that is kept from page to page remembers what it has resolved. ``expected`` are texts that the source is
    searched for. ``inspect``: read the errors of the source too, which takes long.
    """
    document = Document(body, url, content_type, resolver or Resolver(), expected)
    read = DataFacts.collect(document)
    return PageFacts(
        url=url,
        head=HeadFacts.collect(document),
        language=LanguageFacts.collect(document),
        links=LinkFacts.collect(document),
        media=MediaFacts.collect(document),
        forms=FormFacts.collect(document),
        preview=PreviewFacts.collect(document),
        data=read,
        markup=MarkupFacts.collect(document, inspect),
        template=TemplateFacts.collect(document),
        trust=TrustFacts.collect(document, read),
        text=TextFacts.collect(document),  # last: it cuts the tree
    )
