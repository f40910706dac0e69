"""How a message to a webhook is signed, and how a receiver sees that it is genuine: as the Standard Webhooks specification (1.0) has it."""

from __future__ import annotations

import base64
import hashlib
import hmac
from collections.abc import Sequence
from datetime import datetime

PREFIX = "whsec_"


def signature_headers(secrets: Sequence[str], message_id: str, sent: datetime, body: bytes) -> dict[str, str]:
    """The headers of a message: its id, the second it is sent (Unix time), and a signature by each of the secrets.

    A signature is HMAC-SHA-256 (RFC 2104) over id, time and body, joined by full stops. Raises ``ValueError`` for a secret that is none.
    """
    seconds = str(int(sent.timestamp()))
    signed = b".".join([message_id.encode(), seconds.encode(), body])
    signatures = [base64.b64encode(hmac.new(_key(secret), signed, hashlib.sha256).digest()).decode() for secret in secrets]
    return {
        "webhook-id": message_id,
        "webhook-timestamp": seconds,
        "webhook-signature": " ".join(f"v1,{signature}" for signature in signatures),
    }


def written_secret(key: bytes) -> str:
    """A key as people copy it."""
    return PREFIX + base64.b64encode(key).decode()


def _key(secret: str) -> bytes:
    if not secret.startswith(PREFIX):
        raise ValueError("a secret begins with whsec_")
    return base64.b64decode(secret.removeprefix(PREFIX), validate=True)
