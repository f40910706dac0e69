"""The error tree of Hodcarrier.

::

    HodcarrierError
    ├── InvalidInput        something a person gave cannot be used
    │   ├── InvalidUrl
    │   ├── InvalidPlan
    │   └── InvalidSchedule
    ├── NotFound            a record that does not exist
    ├── NotAllowed          the member may not do this
    ├── SignInNeeded        nobody is signed in
    ├── TooMany             something was tried too often
    ├── Conflict            the record is in a state that does not permit this
    │   └── RunMismatch     two runs that do not belong to one site
    ├── DamagedRun          a run file that cannot be read
    ├── DamagedRecord       a stored value that cannot be read
    └── Unavailable         a part of this machine is missing (a library, a port, a folder)

Each class has a stable ``code``; HTTP status and exit code are mapped from it at the surfaces. A broken *site* is
never an exception: it is recorded as a fetch outcome.
"""

from __future__ import annotations


class HodcarrierError(Exception):
    """Base of all errors. ``message`` says what happened, ``hint`` what to do about it."""

    code = "error"

    def __init__(self, message: str, hint: str = "") -> None:
        super().__init__(message)
        self.message = message
        self.hint = hint

    def __str__(self) -> str:
        return f"{self.message} {self.hint}".strip()


class InvalidInput(HodcarrierError):
    """A value a person gave cannot be used; ``field`` names it."""

    code = "invalid-input"

    def __init__(self, message: str, hint: str = "", field: str = "") -> None:
        super().__init__(message, hint)
        self.field = field


class InvalidUrl(InvalidInput):
    """A text that is no URL by the WHATWG URL standard, or not one we can audit."""

    code = "invalid-url"


class InvalidPlan(InvalidInput):
    """A plan with a value out of range or of the wrong kind."""

    code = "invalid-plan"


class InvalidSchedule(InvalidInput):
    """A recurrence, time or zone that cannot be read."""

    code = "invalid-schedule"


class NotFound(HodcarrierError):
    """No record of that kind has that id or name."""

    code = "not-found"


class NotAllowed(HodcarrierError):
    """The signed-in member's role does not permit this."""

    code = "not-allowed"


class SignInNeeded(HodcarrierError):
    """The request carries no valid session and no valid token."""

    code = "sign-in-needed"


class CodeNeeded(SignInNeeded):
    """The password was right; the account wants a second step."""

    code = "code-needed"
    field = "code"


class TooMany(HodcarrierError):
    """Something was tried too often; ``wait_s`` says for how long to leave it."""

    code = "too-many"

    def __init__(self, message: str, hint: str, wait_s: int) -> None:
        super().__init__(message, hint)
        self.wait_s = wait_s


class Conflict(HodcarrierError):
    """The record is in a state that does not permit this."""

    code = "conflict"


class RunMismatch(Conflict):
    """Two runs were to be compared that do not belong to the same site."""

    code = "run-mismatch"


class DamagedRun(HodcarrierError):
    """A run file that is missing, unfinished, of another version, or not a run file at all."""

    code = "damaged-run"


class DamagedRecord(HodcarrierError):
    """A stored value of a later release, or one that cannot be read."""

    code = "damaged-record"


class Unavailable(HodcarrierError):
    """A part of this machine that is needed is missing or in use."""

    code = "unavailable"
