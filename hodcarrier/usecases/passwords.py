"""Passwords and secrets: only their hashes are kept."""

from __future__ import annotations

import hashlib
import threading

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerifyMismatchError

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.passwords import complaint
from hodcarrier.register.models import Member
from hodcarrier.usecases.workspace import Workspace, fetch

# A hash takes 64 MiB: two at a time, however many sign in at once.
_turns = threading.BoundedSemaphore(2)
_hasher = PasswordHasher()
NOBODY = _hasher.hash("nobody has this password")


def hash_secret(secret: str) -> str:
    """SHA-256 of a random secret (tokens and sessions have 256 bits, so no slow hash is needed)."""
    return hashlib.sha256(secret.encode()).hexdigest()


def is_password(hashed: str, password: str) -> bool:
    """Whether a password is the one of a hash."""
    with _turns:
        try:
            return _hasher.verify(hashed, password)
        except (VerifyMismatchError, InvalidHashError):
            return False


def hash_password(password: str, *about: str) -> str:
    """The hash of a new password. Raises :class:`InvalidInput` for one that will not do."""
    if problem := complaint(password, "hodcarrier", *about):
        raise InvalidInput(
            problem, "Choose another: three or four words that have nothing to do with each other are easy to keep.", "password"
        )
    with _turns:
        return _hasher.hash(password)


def check_password(work: Workspace, member_id: int, password: str, field: str = "password") -> Member:
    """The member whose password this is. Raises :class:`InvalidInput` when it is not."""
    with work.reading() as session:
        known = fetch(session, Member, member_id, "member")
        session.expunge(known)
    if not is_password(known.password_hash, password):
        raise InvalidInput("The current password is not that.", "Type it again.", field)
    return known
