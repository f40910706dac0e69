"""Files that people attached, as answers."""

from __future__ import annotations

from urllib.parse import quote

from fastapi import Response

PICTURES = ("image/png", "image/jpeg", "image/gif", "image/webp", "image/avif")


def attached(name: str, media: str, content: bytes) -> Response:
    """A file: pictures are shown; whatever else it is, a browser saves it and runs nothing."""
    kind = "inline" if media in PICTURES else "attachment"
    headers = {
        "Content-Disposition": f"{kind}; filename*=UTF-8''{quote(name)}",
        "Content-Security-Policy": "default-src 'none'; sandbox",
    }
    return Response(content, media_type=media, headers=headers)
