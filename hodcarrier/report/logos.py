"""Logos: what they are by their content, and whether they do no harm."""

from __future__ import annotations

from xml.etree.ElementTree import ParseError

import filetype
from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from hodcarrier.core.errors import InvalidInput

SVG, PNG = "image/svg+xml", "image/png"
_NAMESPACE = "{http://www.w3.org/2000/svg}svg"
# What makes a drawing depend on others, or act.
_FORBIDDEN = frozenset({"script", "foreignObject", "iframe", "embed", "object", "animate", "set", "handler"})
_LINKS = frozenset({"href", "{http://www.w3.org/1999/xlink}href"})


def kind_of_logo(content: bytes) -> str:
    """The media type of a logo. Raises :class:`InvalidInput` for what is neither PNG nor SVG, and for an SVG with scripts or references to elsewhere."""
    guessed = filetype.guess(content)
    if guessed is not None and guessed.mime == PNG:
        return PNG
    try:
        root = fromstring(content)
    except (ParseError, DefusedXmlException, ValueError):
        raise InvalidInput("The logo is neither an SVG nor a PNG.", "Save it as one of the two.", "logo") from None
    if root.tag != _NAMESPACE:
        raise InvalidInput("The logo is XML, but no SVG.", "Save it as an SVG with its namespace.", "logo")
    for element in root.iter():
        name = str(element.tag).rpartition("}")[2]
        if name in _FORBIDDEN:
            raise InvalidInput(f"The logo holds a {name} element.", "Save it as a plain SVG, of shapes alone.", "logo")
        for attribute, value in element.attrib.items():
            if attribute.lower().startswith("on"):
                raise InvalidInput(f"The logo holds a script ({attribute}).", "Save it as a plain SVG, of shapes alone.", "logo")
            if attribute in _LINKS and not value.startswith(("#", "data:image/png", "data:image/jpeg")):
                raise InvalidInput("The logo refers to another file.", "Save it with everything inside.", "logo")
    return SVG
