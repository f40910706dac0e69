"""Errors as problem details (RFC 9457): one place that makes them."""

from __future__ import annotations

from starlette.responses import JSONResponse

from hodcarrier.core import errors

STATUS: dict[type[errors.HodcarrierError], int] = {
    errors.InvalidInput: 422,
    errors.NotFound: 404,
    errors.NotAllowed: 403,
    errors.SignInNeeded: 401,
    errors.TooMany: 429,
    errors.Conflict: 409,
    errors.DamagedRun: 410,
    errors.DamagedRecord: 410,
    errors.Unavailable: 503,
}


def problem(status: int, code: str, title: str, detail: str, hint: str = "", field: str = "") -> JSONResponse:
    """A problem document. Whatever it quotes can be sent: half of a surrogate pair becomes a question mark."""
    body = {"type": f"urn:hodcarrier:{code}", "title": title, "status": status, "detail": detail, "hint": hint, "field": field}
    sent = {name: value.encode(errors="replace").decode() if isinstance(value, str) else value for name, value in body.items()}
    return JSONResponse(sent, status, media_type="application/problem+json")


def answer_of(error: errors.HodcarrierError) -> JSONResponse:
    """The answer to an error of ours."""
    status = next((code for kind, code in STATUS.items() if isinstance(error, kind)), 500)
    title = error.code.replace("-", " ").capitalize()
    answer = problem(status, error.code, title, error.message, error.hint, getattr(error, "field", ""))
    if isinstance(error, errors.TooMany):
        answer.headers["Retry-After"] = str(error.wait_s)
    return answer
