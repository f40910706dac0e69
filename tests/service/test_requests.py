"""Generated requests over all operations: values at and beyond every edge, in every place that takes one.

Whatever is sent, the answer is what was asked for or a problem document that says what to do; never "something broke inside".
"""

from __future__ import annotations

import json
import random
from collections.abc import Callable
from pathlib import Path
from typing import Any
from urllib.parse import quote, urlencode

import pytest

from hodcarrier.core.permissions import Role
from hodcarrier.wire.operations import OPERATIONS, Operation
from tests.service.agency import Agency, make_agency

BATCHES, REQUESTS = 4, 250

TEXTS = (
    "", " ", "\t\n", "a", "0", "-1", "1e999", "NaN", "null", "true", "x" * 20_000, "\x00", "a\x00b", "\ud800", "a\r\nX-More: b",
    "’; drop table site; --", "../../etc/passwd", "%2e%2e%2f", "%", "%zz", "\u202eabc", "👩‍👧", "é" * 3000, "(a+)+$", "[", "(", "*" * 300,
    "http://[::1", "https://rope.example/", "https://rope.example:99999/", "//", "http://a b/", "javascript:alert(1)",
    "2026-02-30", "9999-12-31", "0001-01-01", "2026-11-03", "24:00", "02:00", "Mars/Base", "UTC", "../UTC", "weekly:TU", "daily",
    "FREQ=DAILY;COUNT=0", "FREQ=MONTHLY;BYMONTHDAY=31", "RRULE:", "monthly:32", "latest", "latest-1", "latest-999", "latest-" + "9" * 30,
    "1@2026-11-03", "1@2026-02-30", "@", "9@@", "9" * 30 + "@2026-11-03",
    "title-long", "no-such-check", "url:[", "title:(a", "day,name,value\n2026-01-01,Visits,5", 'day,name,value\n"', "rate_per_s = [",
    "rate_per_s = 1\nrate_per_s = 2", "start = 5", "critical", "fixed", "dropped", "owner", "csv", "sarif", "1,2,3", "²", "١٢",
)  # fmt: skip
NUMBERS: tuple[Any, ...] = (
    0, 1, -1, 2, 7, 0.5, -0.0, 1e308, -1e308, 1e-320, 10**9, 2**31, 2**53, 2**63 - 1, 2**63, -(2**63), 2**64, 10**40, float("nan"),
    float("inf"), -float("inf"),
)  # fmt: skip
OTHERS: tuple[Any, ...] = (None, True, False, [], {}, [[]], {"a": {"b": [1]}}, [None], {"": ""})
FILTERS = (
    "status",
    "words.lt",
    "words.gt",
    "title.has",
    "status.near",
    "health.lt",
    "colour",
    "url",
    ".",
    "a.b.c",
    "critical.gt",
    "",
)


class Maker:
    """Makes requests to operations from a document, from one seed."""

    def __init__(self, document: dict[str, Any], seed: int) -> None:
        self.schemas = document["components"]["schemas"]
        self.random = random.Random(seed)

    def anything(self) -> Any:
        return self.random.choice(self.random.choice((TEXTS, NUMBERS, OTHERS)))

    def value(self, schema: dict[str, Any], depth: int = 0) -> Any:
        """Something of the schema or, one time in five, of no schema at all."""
        if self.random.random() < 0.2 or depth > 6:
            return self.anything()
        if "$ref" in schema:
            return self.value(self.schemas[schema["$ref"].rsplit("/", 1)[1]], depth)
        if "anyOf" in schema:
            return self.value(self.random.choice(schema["anyOf"]), depth)
        if "enum" in schema or "const" in schema:
            return self.random.choice(schema.get("enum") or [schema["const"]])
        if "examples" in schema and self.random.random() < 0.5:
            return self.random.choice(schema["examples"])
        makers: dict[str, Callable[[], Any]] = {
            "object": lambda: self.table(schema, depth),
            "array": lambda: [
                self.value(schema.get("items", {}), depth + 1) for _ in range(self.random.choice((0, 1, 1, 2, 12)))
            ],
            "string": lambda: self.random.choice(TEXTS),
            "integer": lambda: self.random.choice(NUMBERS[:5]) if self.random.random() < 0.7 else self.random.choice(NUMBERS),
            "number": lambda: self.random.choice(NUMBERS),
            "boolean": lambda: self.random.random() < 0.5,
            "null": lambda: None,
        }
        return makers.get(schema.get("type", ""), self.anything)()

    def table(self, schema: dict[str, Any], depth: int) -> dict[str, Any]:
        needed = schema.get("required", ())
        made = {
            name: self.value(kind, depth + 1)
            for name, kind in schema.get("properties", {}).items()
            if self.random.random() < (0.9 if name in needed else 0.4)
        }
        if isinstance(more := schema.get("additionalProperties"), dict):
            made.update({str(self.random.choice(TEXTS)): self.value(more, depth + 1) for _ in range(2)})
        if self.random.random() < 0.05:
            made[str(self.random.choice(TEXTS))] = self.anything()
        return made

    def body(self, schema: dict[str, Any]) -> bytes:
        odd = (b"", b"{", b"\xff\xfe", b"[" * 5000, b"null", b'"x"', b'{"a":1}{"a":2}', b"NaN")
        if self.random.random() < 0.1:
            return self.random.choice(odd)
        return json.dumps(self.value(schema)).encode()

    def path(self, operation: Operation, agency: Agency) -> str:
        things = self.random.choice((agency.own, agency.own, agency.own, agency.other, agency.nothing))
        path = things.path(operation.name)
        if "{" in operation.path and self.random.random() < 0.25:
            last = quote(str(self.random.choice(self.random.choice((TEXTS, NUMBERS)))), safe="", errors="surrogatepass")
            parts = ["{}" if part.startswith("{") else part for part in operation.path.split("/")]
            path = "/api/v1" + "/".join(last if part == "{}" else part for part in parts)
        query: list[tuple[str, str]] = []
        for parameter in operation.query:
            if self.random.random() < 0.6:
                known = [agency.own.ids["run_id"], "latest-1", *TEXTS, *map(str, NUMBERS)]
                query.append((parameter.wire_name, str(self.random.choice(known))))
        if operation.filters and self.random.random() < 0.7:
            query.append((self.random.choice(FILTERS), str(self.anything())))
        if self.random.random() < 0.05:
            query.append(("more", "x"))
        return path + ("?" + urlencode(query, errors="surrogatepass") if query else "")


def schema_of(document: dict[str, Any], operation: Operation) -> dict[str, Any] | None:
    described = document["paths"]["/api/v1" + operation.path][operation.method.lower()]
    content = described.get("requestBody", {}).get("content", {})
    found: dict[str, Any] | None = next((part["schema"] for part in content.values()), None)
    return found


@pytest.fixture(scope="module")
def document(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Any]:
    return make_agency(tmp_path_factory.mktemp("document")).app.openapi()  # type: ignore[no-any-return]


@pytest.mark.parametrize("seed", range(BATCHES))
def test_whatever_is_sent_the_answer_helps(tmp_path: Path, document: dict[str, Any], seed: int) -> None:
    agency = make_agency(tmp_path)
    maker = Maker(document, seed)
    # Signing out or demoting oneself would turn all that follows into refusals; removing everything is for the end of a batch.
    # Who watches for changes is told of them as long as was asked for.
    ends = [name for name in OPERATIONS if name != "watch_changes"]
    gentle = [name for name in ends if not name.startswith(("remove_", "revoke_", "sign_out", "change_member"))]
    for number in range(REQUESTS):
        names = gentle if number < REQUESTS * 0.8 else ends
        operation = OPERATIONS[maker.random.choice(names)]
        schema = schema_of(document, operation)
        body = maker.body(schema) if schema else None
        path = maker.path(operation, agency)
        answer = agency.send(
            operation.method, path, Role.OWNER, body, {"If-Match": maker.random.choice(("1", '"2"', "x", b"\xb2"))}
        )
        told = f"{operation.method} {path[:300]} {(body or b'')[:300]!r} → {answer.status_code} {answer.text[:300]}"
        assert answer.status_code < 500, told
        if answer.status_code >= 400:
            problem = answer.json()
            assert problem["detail"] and problem["type"].startswith("urn:hodcarrier:"), told
            assert not any(word in problem["detail"] for word in ("Error(", "Traceback", "NoneType", "<class")), told


def test_a_calendar_program_reads_a_feed_without_signing_in(tmp_path: Path) -> None:
    agency = make_agency(tmp_path)
    made = agency.request("POST", "/api/v1/feeds", Role.FIXER, {}).json()
    path = made["url"].removeprefix("https://desk.example")
    answer = agency.request("GET", path, None)
    assert answer.status_code == 200 and answer.headers["content-type"] == "text/calendar; charset=utf-8"
    assert answer.text.startswith("BEGIN:VCALENDAR\r\n") and "Ring them (rope.example)" in answer.text
    assert answer.headers["x-robots-tag"] == "noindex"
    wrong = agency.request("GET", "/calendar/guessed.ics", None)
    assert wrong.status_code == 404 and wrong.json()["hint"] == "Make a new feed under Team & settings."
    assert agency.request("DELETE", f"/api/v1/feeds/{made['id']}", Role.LEAD).status_code == 403
    assert agency.request("DELETE", f"/api/v1/feeds/{made['id']}", Role.FIXER).status_code == 204
    assert agency.request("GET", path, None).status_code == 404
