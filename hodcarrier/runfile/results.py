"""Reading what checks found in a run: checks, causes, findings, pages, as plain values for the surfaces."""

from __future__ import annotations

import json
import math
import re
import ssl
from collections.abc import Sequence
from dataclasses import dataclass, fields
from datetime import UTC, datetime
from typing import Any

import msgspec

from hodcarrier.core.errors import InvalidInput, NotFound
from hodcarrier.core.facts.values import FILE_KINDS, Link
from hodcarrier.core.judge.health import order_of_work
from hodcarrier.core.states import Effort, Severity
from hodcarrier.core.web.urls import split
from hodcarrier.core.words import fill
from hodcarrier.runfile import schema
from hodcarrier.runfile.packing import unpack_ids
from hodcarrier.runfile.reader import RunFile

Row = dict[str, Any]
FINDING_COLUMNS = (
    "finding.id, finding.fingerprint, finding.check_id, finding.subject, finding.place, message, evidence, cause_id, waived"
)


@dataclass(frozen=True)
class CheckText:
    """A check as the run file tells it: what it was when the run was examined."""

    area: str
    area_name: str
    severity: Severity
    subject: str
    effort: Effort
    summary: str
    why: str
    fix: str
    standard: str
    messages: dict[str, str]
    limits: dict[str, float]
    revision: int

    def message(self, key: str, data: dict[str, Any]) -> str:
        """The sentence for a finding."""
        template = self.messages.get(key)
        return fill(template, data) if template else self.summary


def texts(run: RunFile) -> dict[str, CheckText]:
    """Every check of the run with its texts, severities and limits."""
    names = [f.name for f in fields(CheckText)]
    found = {}
    for check, *values in run.rows(f"SELECT id, {', '.join(names)} FROM check_state"):
        row = dict(zip(names, values, strict=True))
        row["messages"], row["limits"] = json.loads(row["messages"]), json.loads(row["limits"])
        found[check] = msgspec.convert({**row, "effort": row["effort"] or Effort.MEDIUM}, CheckText)
    return found


def checks(run: RunFile) -> list[Row]:
    """Every check that failed somewhere, in the order of work, with its oldest finding's date."""
    since = {
        check: (first, returned)
        for check, first, returned in run.rows(
            "SELECT check_id, min(first_seen), max(times_returned) FROM history WHERE state = 'open' GROUP BY check_id"
        )
    }
    names = (
        "id",
        "area",
        "area_name",
        "severity",
        "effort",
        "summary",
        "findings",
        "waived",
        "pages",
        "fixes",
        "gain",
        "unverified",
    )
    rows = []
    for row in run.rows(f"SELECT {', '.join(names)} FROM check_state WHERE findings + waived > 0"):
        item = dict(zip(names, row, strict=True))
        item["effort"] = item["effort"] or Effort.MEDIUM
        item["since"], item["times_returned"] = since.get(item["id"], (None, 0))
        rows.append(item)
    return sorted(rows, key=lambda r: (*order_of_work(r["severity"], r["gain"], r["fixes"], r["effort"]), r["id"]))


def check(run: RunFile, check_id: str) -> Row:
    """One check's figures in the run. Raises :class:`NotFound` when the run knows no such check."""
    names = ("id", "state", "findings", "waived", "pages", "fixes", "gain", "unverified", "crashed")
    found = run.rows(f"SELECT {', '.join(names)} FROM check_state WHERE id = ?", check_id)
    if not found:
        raise NotFound(f"No check is called “{check_id}” in this run.", "See `hodcarrier catalogue list`.")
    return dict(zip(names, found[0], strict=True))


def causes(run: RunFile, check_id: str = "", limit: int = 200, after: int = 0) -> list[Row]:
    """Causes of one check (or of all), the most valuable first, each with its age."""
    where = "WHERE cause.findings > 0" + (" AND check_id = ?" if check_id else "")
    values: tuple[Any, ...] = (check_id,) if check_id else ()
    sql = (
        "SELECT cause.id, check_id, key, line, cause.findings, cause.pages, cause.gain, severity, summary FROM cause"
        f" JOIN check_state ON check_state.id = check_id {where} ORDER BY cause.gain DESC, cause.findings DESC, cause.id LIMIT ? OFFSET ?"
    )
    names = ("id", "check", "key", "line", "findings", "pages", "gain", "severity", "summary")
    rows = [dict(zip(names, row, strict=True)) for row in run.rows(sql, *values, limit, after)]
    for row in rows:
        age = run.rows(
            "SELECT min(h.first_seen), max(h.times_returned) FROM finding f JOIN history h ON h.fingerprint = f.fingerprint WHERE f.cause_id = ?",
            row["id"],
        )
        row["since"], row["times_returned"] = age[0]
    return rows


def findings(
    run: RunFile,
    *,
    check_id: str = "",
    cause: int | None = None,
    subject: str = "",
    severity: str = "",
    waived: bool | None = False,
    fingerprints: Sequence[bytes] | None = None,
    limit: int | None = 100,
    after: int = 0,
) -> list[Row]:
    """Findings with sentences and ages, in the order of their ids; ``after`` is the last id of the page before."""
    where, values = _finding_filter(check_id, cause, subject, severity, waived, fingerprints)
    where.append("finding.id > ?")
    values.append(after)
    sql = (
        f"SELECT {FINDING_COLUMNS}, first_seen, times_returned FROM finding LEFT JOIN history USING (fingerprint)"
        f" WHERE {' AND '.join(where)} ORDER BY finding.id" + (" LIMIT ?" if limit is not None else "")
    )
    known = texts(run)
    return [make_finding(row, known) for row in run.rows(sql, *values, *([limit] if limit is not None else []))]


def count_findings(
    run: RunFile, *, check_id: str = "", cause: int | None = None, severity: str = "", waived: bool | None = False
) -> int:
    """How many findings :func:`findings` would give in all."""
    where, values = _finding_filter(check_id, cause, "", severity, waived, None)
    return int(run.rows(f"SELECT count(*) FROM finding WHERE {' AND '.join(where)}", *values)[0][0])


def _finding_filter(
    check_id: str, cause: int | None, subject: str, severity: str, waived: bool | None, fingerprints: Sequence[bytes] | None
) -> tuple[list[str], list[Any]]:
    where: list[str] = ["1"]
    values: list[Any] = []
    for column, value in (("finding.check_id", check_id), ("finding.subject", subject)):
        if value:
            where.append(f"{column} = ?")
            values.append(value)
    if cause is not None:
        where.append("cause_id = ?")
        values.append(cause)
    if severity:
        where.append("finding.check_id IN (SELECT id FROM check_state WHERE severity = ?)")
        values.append(severity)
    if waived is not None:
        where.append("waived = ?")
        values.append(int(waived))
    if fingerprints is not None:
        where.append(f"finding.fingerprint IN ({','.join('?' * len(fingerprints))})")
        values.extend(fingerprints)
    return where, values


def make_finding(row: tuple[Any, ...], known: dict[str, CheckText]) -> Row:
    """A finding from a row of :data:`FINDING_COLUMNS` and its history."""
    identity, fingerprint, check_id, subject, place, key, evidence, cause, waived, since, returned = row
    text, data = known[check_id], json.loads(evidence)
    return {
        "id": identity,
        "fingerprint": fingerprint.hex(),
        "check": check_id,
        "severity": text.severity,
        "summary": text.summary,
        "subject": subject,
        "place": place,
        "message": text.message(key, data),
        "evidence": data,
        "cause": cause,
        "waived": bool(waived),
        "since": since,
        "times_returned": returned or 0,
    }


PAGE_FIELDS = {
    "url": "address.url",
    "status": "answer.status",
    "title": "page.title",
    "description": "page.description",
    "h1": "page.h1",
    "words": "page.words",
    "depth": "address.depth",
    "inlinks": "verdict.inlinks",
    "health": "verdict.health",
    "first_byte_ms": "answer.first_byte_ms",
    # A file whose size nobody told has none; an empty page has 0 bytes.
    "decoded_bytes": "CASE WHEN address.role = 0 THEN answer.decoded_bytes ELSE nullif(answer.decoded_bytes, 0) END",
    "content_type": "answer.content_type",
    "why_not": "verdict.why_not",
    "state": "address.state",
    "critical": "verdict.critical",
    "high": "verdict.high",
    "medium": "verdict.medium",
    "low": "verdict.low",
}
TEXT_FIELDS = frozenset({"url", "title", "description", "h1", "content_type", "why_not"})
OPERATORS = {"": "=", "lt": "<", "gt": ">", "le": "<=", "ge": ">=", "not": "IS NOT"}
_PAGE_JOIN = (
    " FROM address LEFT JOIN answer ON answer.address_id = address.id LEFT JOIN page ON page.address_id = address.id"
    " LEFT JOIN verdict ON verdict.address_id = address.id"
)


def pages(
    run: RunFile,
    filters: Sequence[tuple[str, str, str]] = (),
    sort: str = "url",
    limit: int = 100,
    offset: int = 0,
    role: str = "page",
) -> tuple[list[Row], int]:
    """Pages (or files) with their facts, filtered and sorted, and how many there are.

    A filter is (field, operator, value); operators are those of :data:`OPERATORS` and ``has``. ``sort`` is a field, with
    ``-`` in front for descending. Raises :class:`InvalidInput` for unknown ones.
    """
    where, values = ["address.role = ?"], [schema.ROLES.index(role)]  # type: tuple[list[str], list[Any]]
    for name, operator, value in filters:
        if name not in PAGE_FIELDS:
            raise InvalidInput(f"Pages have no field “{name}”.", f"Fields are {', '.join(PAGE_FIELDS)}.", name)
        if operator not in OPERATORS and operator != "has":
            raise InvalidInput(
                f"There is no operator “{operator}”.", f"Operators are {', '.join(o for o in OPERATORS if o)}, has.", name
            )
        typed = _filter_value(name, operator, value)
        if operator == "has":
            where.append(f"{PAGE_FIELDS[name]} LIKE ? ESCAPE '\\'")
            values.append("%" + re.sub(r"([\\%_])", r"\\\1", value) + "%")
        elif typed == "" and operator == "":
            where.append(f"coalesce({PAGE_FIELDS[name]}, '') = ''")
        else:
            where.append(f"{PAGE_FIELDS[name]} {OPERATORS[operator]} ?")
            values.append(typed)
    key = sort.lstrip("-")
    if key not in PAGE_FIELDS:
        raise InvalidInput(f"Pages cannot be sorted by “{key}”.", f"Fields are {', '.join(PAGE_FIELDS)}.", "sort")
    condition = " WHERE " + " AND ".join(where)
    order = f" ORDER BY {PAGE_FIELDS[key]} {'DESC' if sort.startswith('-') else 'ASC'} NULLS LAST, address.id"
    columns = ", ".join(PAGE_FIELDS.values())
    total = int(run.rows(f"SELECT count(*){_PAGE_JOIN}{condition}", *values)[0][0])
    found = run.rows(f"SELECT address.id, {columns}{_PAGE_JOIN}{condition}{order} LIMIT ? OFFSET ?", *values, limit, offset)
    rows = [dict(zip(("id", *PAGE_FIELDS), row, strict=True)) for row in found]
    for row in rows:
        row["state"] = schema.STATES[row["state"]]
    return rows, total


def _filter_value(name: str, operator: str, value: str) -> Any:
    """The value of a filter as its field is stored. An empty one asks for what is missing."""
    if name == "state":
        if value not in schema.STATES:
            raise InvalidInput(f"There is no state “{value}”.", f"States are {', '.join(schema.STATES)}.", name)
        return schema.STATES.index(value)
    if name in TEXT_FIELDS or operator == "has" or (not value and operator in ("", "not")):
        return value
    try:
        number = float(value)
    except ValueError:
        number = math.nan
    if not math.isfinite(number):
        raise InvalidInput(f"“{value}” is not a number.", f"{name} is compared with a number, as in {name}.lt=200.", name)
    return number


def _dated(tls: dict[str, str]) -> dict[str, str]:
    """Facts of a certificate with their moments as days (ISO 8601); they come as ``notAfter`` of the certificate writes them."""
    days = {}
    for name in ("not_before", "not_after"):
        if tls.get(name):
            days[name] = datetime.fromtimestamp(ssl.cert_time_to_seconds(tls[name]), UTC).date().isoformat()
    return {**tls, **days}


def page(run: RunFile, url: str) -> Row:
    """Everything known of one URL. Raises :class:`NotFound` when the run does not know it."""
    address = run.address_id(url)
    if address is None:
        raise NotFound(f"This run does not know {url}.", "Look for it in the inventory, or in another run.")
    columns = ", ".join(PAGE_FIELDS.values())
    found = run.rows(f"SELECT address.id, {columns}, address.rule, address.role{_PAGE_JOIN} WHERE address.id = ?", address)[0]
    item = dict(zip(("id", *PAGE_FIELDS, "rule", "role"), found, strict=True))
    item["role"] = schema.ROLES[item["role"]]
    item["state"] = schema.STATES[item["state"]]
    answer, facts = run.answer(address), run.facts(address)
    item["headers"] = [list(pair) for pair in answer.headers] if answer else []
    item["failure"] = answer.failure if answer else ""
    item["http_version"], item["remote"] = (answer.http_version, answer.remote) if answer else ("", "")
    item["tls"] = _dated((run.meta("tls") or {}).get(split(url).origin, {}))
    item["encoding_source"] = facts.language.encoding_source if facts else None
    item["path"] = redirect_path(run, address)
    item["links_in"] = _links_in(run, address)
    item["listed"] = bool(run.rows("SELECT 1 FROM listed WHERE address_id = ?", address))
    item["lang"] = facts.language.lang if facts else ""
    item["encoding"] = facts.language.encoding if facts else ""
    item["canonical"] = facts.head.canonical if facts else ""
    item["robots"] = sorted(facts.head.directives()) if facts else []
    item["headings"] = [[h.level, h.text] for h in facts.text.headings] if facts else []
    item["data_types"] = list(facts.data.types) if facts else []
    item["links_out"] = _links_out(run, facts.links.all) if facts else []
    item["findings"] = findings(run, subject=url, waived=None, limit=500) + _file_findings(run, facts.links.all if facts else ())
    return item


def _file_findings(run: RunFile, links: Sequence[Link]) -> list[Row]:
    """Findings on the files a page uses: they count for its health."""
    files = dict.fromkeys(link.url for link in links if link.kind in FILE_KINDS)
    checks_of_files = [row[0] for row in run.rows("SELECT id FROM check_state WHERE subject = 'file' AND findings + waived > 0")]
    if not checks_of_files:
        return []
    return [row for url in files for row in findings(run, subject=url, waived=None) if row["check"] in checks_of_files]


def redirect_path(run: RunFile, address: int) -> list[Row]:
    """The hops from an address to its final answer."""
    path: list[Row] = []
    seen: set[int] = set()
    at: int | None = address
    while at is not None and at not in seen and len(path) <= 11:
        seen.add(at)
        row = run.rows(
            "SELECT url, status, failure, redirect_id FROM address LEFT JOIN answer ON answer.address_id = address.id WHERE id = ?",
            at,
        )[0]
        path.append({"url": row[0], "status": row[1], "failure": row[2] or ""})
        at = row[3]
    return path


def _links_in(run: RunFile, address: int) -> list[str]:
    blob = run.rows("SELECT sources FROM inlink WHERE target_id = ?", address)
    return [run.url(i) for i in unpack_ids(blob[0][0])[:200]] if blob else []


def _links_out(run: RunFile, links: Sequence[Any]) -> list[Row]:
    urls = [link.url for link in links]
    marks = ",".join("?" * len(set(urls)))
    statuses = dict(
        run.rows(
            f"SELECT url, status FROM address LEFT JOIN answer ON answer.address_id = address.id WHERE url IN ({marks})",
            *set(urls),
        )
    )
    return [
        {"url": k.url, "kind": k.kind, "text": k.text, "landmark": k.landmark, "rel": list(k.rel), "status": statuses.get(k.url)}
        for k in links[:1000]
    ]


def worth_doing_first(run: RunFile, count: int = 8) -> list[Row]:
    """The first rows of :func:`checks` that are not waived away, each with the line of its weightiest cause."""
    chosen = [row for row in checks(run) if row["findings"]][:count]
    for row in chosen:
        top = causes(run, row["id"], limit=1)
        row["cause"] = top[0]["line"] if top else ""
    return chosen
