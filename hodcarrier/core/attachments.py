"""Files that people attach: what they are by their content, and names that do no harm."""

from __future__ import annotations

import base64
import re

import filetype

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.words import visible

PLAIN = "text/plain"
UNKNOWN = "application/octet-stream"


def media_of(content: bytes) -> str:
    """What a file is by its first bytes, whatever its name says: a browser must not be led to run it as something else."""
    kind = filetype.guess(content)
    if kind is not None:
        return str(kind.mime)
    try:
        text = content.decode()
    except UnicodeDecodeError:
        return UNKNOWN
    return UNKNOWN if "\0" in text else PLAIN


def clean_name(name: str) -> str:
    """A file's name without a path, or characters that would steer anything."""
    last = re.split(r"[/\\]", name)[-1]
    return re.sub(r'[\x00-\x1f"<>|:*?]', "_", visible(last)).strip(". ") or "file"


def bytes_of(content: str) -> bytes:
    """What somebody sent as base64 (RFC 4648, 4). Raises :class:`~hodcarrier.core.errors.InvalidInput` for what is none."""
    try:
        return base64.b64decode(content, validate=True)
    except ValueError:
        raise InvalidInput(
            "The file cannot be read: it is no base64.", "Send its bytes as base64 (RFC 4648).", "content"
        ) from None
