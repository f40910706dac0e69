"""The identity of a finding across runs."""

from __future__ import annotations

import hashlib


def fingerprint(check: str, subject: str, place: str) -> bytes:
    """BLAKE2b-128 over check id, subject URL (or ``site``) and place, each with its length in front."""
    digest = hashlib.blake2b(digest_size=16)
    for part in (check, subject, place):
        data = part.encode("utf-8", "surrogatepass")
        digest.update(len(data).to_bytes(4, "big") + data)
    return digest.digest()
