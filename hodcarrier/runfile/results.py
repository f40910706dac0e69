"""Reading what checks found in a run: checks, causes, findings, pages, as plain values for the surfaces."""

from __future__ import annotations

import json
import ssl
from collections.abc import Collection, Iterable, Iterator, Sequence
from dataclasses import dataclass, fields
from datetime import UTC, datetime
from itertools import islice
from math import ceil
from typing import Any

import msgspec

from hodcarrier.core.errors import NotFound
from hodcarrier.core.facts.length import DESCRIPTION_PX, TITLE_PX, pixels
from hodcarrier.core.facts.values import FILE_KINDS, Link
from hodcarrier.core.judge.health import RANK, order_of_work
from hodcarrier.core.states import CheckOutcome, Effort, Severity
from hodcarrier.core.web.urls import split
from hodcarrier.core.words import fill
from hodcarrier.runfile import schema
from hodcarrier.runfile.causes import top_cause
from hodcarrier.runfile.packing import unpack_ids
from hodcarrier.runfile.reader import RunFile

Row = dict[str, Any]
FINDING_COLUMNS = "id, fingerprint, check_id, subject, place, message, evidence, cause_id, waived, first_seen, times_returned"
FINDINGS_OF_PAGE = 500
LINKS_IN_SHOWN = 200
PRINTS_AT_ONCE = 500
FINGERPRINT_BYTES = 16


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


# What was asked of how many pages, files or groups; nothing is known of it in files of earlier releases.
ASKED = ("examined", "failing", "passed", "not_applicable")
_OUTCOME = (
    "CASE WHEN state = 'off' THEN 'off' WHEN findings > 0 THEN 'failing' WHEN waived > 0 THEN 'waived'"
    " WHEN examined IS NULL OR (examined = 0 AND unverified + crashed > 0) THEN 'unverified'"
    " WHEN examined = 0 THEN 'not-applicable' ELSE 'passed' END AS outcome"
)


def checks(run: RunFile, outcomes: Collection[CheckOutcome] = (CheckOutcome.FAILING, CheckOutcome.WAIVED)) -> list[Row]:
    """The checks that had one of these outcomes, in the order of work, each with its oldest finding's date."""
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
        "first_seen",
        "times_returned",
        "subject",
        *ASKED,
        "outcome",
    )
    rows = []
    for row in run.rows(f"SELECT {', '.join(names[:-1])}, {_OUTCOME} FROM check_state"):
        item = dict(zip(names, row, strict=True))
        if item["outcome"] not in outcomes:
            continue
        item["effort"] = item["effort"] or Effort.MEDIUM
        item["since"] = item.pop("first_seen")
        rows.append(item)
    return sorted(rows, key=lambda r: (*order_of_work(r["severity"], r["gain"], r["fixes"], r["effort"]), r["id"]))


def check(run: RunFile, check_id: str) -> Row:
    """One check's figures in the run. Raises :class:`NotFound` when the run knows no such check."""
    names = ("id", "state", "findings", "waived", "pages", "fixes", "gain", "unverified", "crashed", "subject", *ASKED, "outcome")
    found = run.rows(f"SELECT {', '.join(names[:-1])}, {_OUTCOME} FROM check_state WHERE id = ?", check_id)
    if not found:
        raise NotFound(f"No check is called “{check_id}” in this run.", "See `hodcarrier catalogue list`.")
    return dict(zip(names, found[0], strict=True))


def findings(run: RunFile, *, limit: int = -1, after: int = 0, **filters: Any) -> list[Row]:
    """Findings with sentences and ages, in the order of their ids. ``filters`` are those of :func:`each_finding`; ``after`` is the last
    id of the part before; a limit of −1 means all."""
    return list(each_finding(run, limit=limit, after=after, **filters))


def each_finding(
    run: RunFile,
    *,
    check_id: str = "",
    cause: int | None = None,
    severity: str = "",
    waived: bool | None = False,
    limit: int = -1,
    after: int = 0,
) -> Iterator[Row]:
    """Findings as :func:`findings` gives them, one by one while the file is open. ``waived``: only such, only others, or all."""
    filters: list[tuple[str, Any]] = []
    if cause is not None:
        filters.append(("cause_id", cause))
    if check_id:
        filters.append(("check_id", check_id))
    if severity:
        filters.append(("severity", RANK[severity]))
    # One index leads, that of the narrowest filter: a plus takes the others out of the planner's choice.
    where = " AND ".join(["id > ?", *(f"{'+' if n else ''}{column} = ?" for n, (column, _) in enumerate(filters))])
    values = [after, *(value for _, value in filters)]
    select = f"SELECT {FINDING_COLUMNS} FROM finding WHERE {where}"
    if waived is not None:
        select += f" AND waived = {int(waived)}"
    elif filters:
        # Both kinds, each in the order of its index, merged into one order.
        select, values = f"{select} AND waived = 0 UNION ALL {select} AND waived = 1", values * 2
    known = texts(run)
    for row in run.each(f"{select} ORDER BY id LIMIT ?", *values, limit):
        yield make_finding(row, known)


def findings_on(run: RunFile, address: int) -> list[Row]:
    """The findings on one address, waived or not."""
    known = texts(run)
    sql = f"SELECT {FINDING_COLUMNS} FROM finding WHERE subject_id = ? ORDER BY id LIMIT {FINDINGS_OF_PAGE}"
    return [make_finding(row, known) for row in run.rows(sql, address)]


def findings_that_begin(run: RunFile, begins: bytes, limit: int) -> list[Row]:
    """Findings, waived or not, whose fingerprints begin so."""
    known = texts(run)
    last = begins + b"\xff" * (FINGERPRINT_BYTES - len(begins))
    sql = f"SELECT {FINDING_COLUMNS} FROM finding WHERE fingerprint BETWEEN ? AND ? ORDER BY fingerprint LIMIT ?"
    return [make_finding(row, known) for row in run.rows(sql, begins, last, limit)]


def findings_by_print(run: RunFile, prints: Iterable[bytes]) -> list[Row]:
    """The open findings with some fingerprints."""
    known = texts(run)
    found = []
    for some in in_parts(prints):
        sql = f"SELECT {FINDING_COLUMNS} FROM finding WHERE fingerprint IN ({','.join('?' * len(some))}) AND waived = 0"
        found += run.rows(sql, *some)
    return [make_finding(row, known) for row in sorted(found)]


def causes_of(run: RunFile, prints: Iterable[bytes]) -> list[tuple[bytes, int]]:
    """The causes of the findings with some fingerprints: fingerprint and cause of each that is found."""
    found: list[tuple[Any, ...]] = []
    for some in in_parts(prints):
        found += run.rows(f"SELECT fingerprint, cause_id FROM finding WHERE fingerprint IN ({','.join('?' * len(some))})", *some)
    return [(fingerprint, cause) for fingerprint, cause in found]


def in_parts(prints: Iterable[bytes]) -> Iterator[tuple[bytes, ...]]:
    """Fingerprints, each once, in parts that fit into one statement."""
    left = iter(dict.fromkeys(prints))
    while part := tuple(islice(left, PRINTS_AT_ONCE)):
        yield part


def count_findings(
    run: RunFile, *, check_id: str = "", cause: int | None = None, severity: str = "", waived: bool | None = False
) -> int:
    """How many findings :func:`findings` would give in all. Totals are stored with checks and causes."""
    counted = {None: "findings + waived", False: "findings", True: "waived"}[waived]
    table, where, values = "check_state", ["1"], []  # type: tuple[str, list[str], list[Any]]
    if cause is not None:
        table = "cause"
        where.append("id = ?")
        values.append(cause)
    if check_id:
        where.append(f"{'check_id' if table == 'cause' else 'id'} = ?")
        values.append(check_id)
    if severity:
        where.append("check_id IN (SELECT id FROM check_state WHERE severity = ?)" if table == "cause" else "severity = ?")
        values.append(severity)
    return int(run.rows(f"SELECT coalesce(sum({counted}), 0) FROM {table} WHERE {' AND '.join(where)}", *values)[0][0])


def make_finding(row: tuple[Any, ...], known: dict[str, CheckText]) -> Row:
    """A finding from a row of :data:`FINDING_COLUMNS`."""
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
        "times_returned": returned,
    }


def _dated(tls: dict[str, str]) -> dict[str, str]:
    """Facts of a certificate with their moments as days (ISO 8601); they come as ``notAfter`` of the certificate writes them."""
    days = {}
    for name in ("not_before", "not_after"):
        if tls.get(name):
            days[name] = datetime.fromtimestamp(ssl.cert_time_to_seconds(tls[name]), UTC).date().isoformat()
    return {**tls, **days}


def page(run: RunFile, url: str) -> Row:
    """Everything known of one URL. Raises :class:`NotFound` when the run does not know it."""
    address = run.known_id(url)
    columns = ("id", *schema.SHOWN, "role")
    item = dict(zip(columns, run.rows(f"SELECT {', '.join(columns)} FROM inventory WHERE id = ?", address)[0], strict=True))
    item["rule"] = run.rows("SELECT rule FROM address WHERE id = ?", address)[0][0]
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
    item["title_px"] = ceil(pixels(facts.head.title, TITLE_PX)) if facts else None
    item["description_px"] = ceil(pixels(facts.head.description, DESCRIPTION_PX)) if facts else None
    item["lang"] = facts.language.lang if facts else ""
    item["encoding"] = facts.language.encoding if facts else ""
    item["canonical"] = facts.head.canonical if facts else ""
    item["robots"] = sorted(facts.head.directives()) if facts else []
    item["headings"] = [[h.level, h.text] for h in facts.text.headings] if facts else []
    item["data_types"] = list(facts.data.types) if facts else []
    item["links_out"] = _links_out(run, facts.links.all) if facts else []
    item["findings"] = findings_on(run, address) + _file_findings(run, facts.links.all if facts else ())
    return item


def _file_findings(run: RunFile, links: Sequence[Link]) -> list[Row]:
    """Findings on the files a page uses: they count for its health."""
    checks_of_files = [row[0] for row in run.rows("SELECT id FROM check_state WHERE subject = 'file' AND findings + waived > 0")]
    if not checks_of_files:
        return []
    files = dict.fromkeys(link.url for link in links if link.kind in FILE_KINDS)
    known = texts(run)
    marks = ",".join("?" * len(checks_of_files))
    sql = (
        f"SELECT {FINDING_COLUMNS} FROM finding WHERE subject_id = (SELECT id FROM address WHERE url = ?) AND +check_id IN ({marks})"
        " ORDER BY id"
    )
    return [make_finding(row, known) for url in files for row in run.rows(sql, url, *checks_of_files)]


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
    return [run.url(i) for i in unpack_ids(blob[0][0])[:LINKS_IN_SHOWN]] if blob else []


def _links_out(run: RunFile, links: Sequence[Any]) -> list[Row]:
    if not links:
        return []
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


def compared_at(run: RunFile) -> str:
    """When a run was examined that has another one before it; empty for a first one."""
    at = str(run.meta("examined_at") or "")
    sql = "SELECT EXISTS (SELECT 1 FROM finding WHERE first_seen != ?) OR EXISTS (SELECT 1 FROM earlier)"
    return at if run.rows(sql, at)[0][0] else ""


def worth_doing_first(run: RunFile, count: int = 8) -> list[Row]:
    """The first rows of :func:`checks` that are not waived away, each with the line of its weightiest cause."""
    chosen = [row for row in checks(run) if row["findings"]][:count]
    for row in chosen:
        row["cause"] = top_cause(run, row["id"])
    return chosen
