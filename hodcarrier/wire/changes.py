"""That lists have changed."""

from __future__ import annotations

from hodcarrier.core.states import Noun
from hodcarrier.wire.base import Wire


class ChangesOut(Wire):
    """Nouns of which something was made, changed or removed."""

    nouns: list[Noun]
