"""How reports look: the marks and colours of the agency and of its clients."""

from __future__ import annotations

from pydantic import Field

from hodcarrier.core.states import Typeface
from hodcarrier.wire.base import Wire, Words

LOGO_BYTES_MAX = 1024 * 1024


class BrandBody(Wire):
    """How reports look; what is left out stays. ``logo`` is an SVG or PNG of up to 1 MiB in base64 (RFC 4648, 4); an empty one takes it away. The typeface and the words of the
    foot are the agency's."""

    colour: str | None = Field(default=None, pattern="^(#[0-9a-fA-F]{6})?$", examples=["#0d5c5f"])
    typeface: Typeface | None = None
    footer: Words | None = Field(default=None, max_length=200)
    logo: str | None = Field(default=None, max_length=LOGO_BYTES_MAX * 4 // 3 + 4)


class BrandOut(Wire):
    """How reports look: ``line_colour`` is what lines and bars are drawn in on white, ``ink`` what is read on the colour, ``remarks`` say what was made of a colour that would not
    be seen. ``has_logo``: there is a mark, at the address beside this one."""

    colour: str
    shown_colour: str
    line_colour: str
    ink: str
    contrast: float
    typeface: Typeface
    footer: str
    has_logo: bool
    remarks: list[str]
