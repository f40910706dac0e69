"""Runs the real crawl and the real examination over made-up answers, without a network."""

from __future__ import annotations

import asyncio
import sqlite3
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Any

import msgspec

from hodcarrier.core.catalogue import Catalogue, Example, Sample
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.probes import Accepted
from hodcarrier.core.plan import Plan, plan_values, read_plan
from hodcarrier.core.web.urls import split
from hodcarrier.crawl.engine import Crawl
from hodcarrier.crawl.fetch import Fetched
from hodcarrier.examine.examination import examine
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.writer import RunWriter

NOW = datetime(2026, 11, 24, 2, 0, tzinfo=UTC)
ORIGIN = "https://shop.example"
# In order in every respect.
CERTIFICATE: dict[str, Any] = {
    "host": "shop.example",
    "names": ["shop.example", "www.shop.example"],
    "covers_host": True,
    "issuer": "Tidal Sample Authority",
    "starts": "2026-10-01T00:00:00+00:00",
    "ends": "2027-03-01T00:00:00+00:00",
    "key": "RSA",
    "key_bits": 3072,
    "signature": "sha256",
}


@dataclass
class SampleFetcher:
    """Answers from samples; what is not among them answers 404. ``asked`` lists every request in order."""

    samples: Mapping[str, Sample]
    asked: list[str] = field(default_factory=list)
    slowed: tuple[str, float] = ("", 0.0)

    def slow_to(self, url: str, interval_s: float) -> None:
        self.slowed = (url, interval_s)

    def slower(self, url: str) -> float:
        return 1.0

    async def handshake(self, url: str, version: object) -> Accepted:
        return Accepted.UNKNOWN

    async def certificate(self, url: str) -> None:
        return None

    async def get(self, url: str, method: str = "GET", bytes_max: int = 0, begin_bytes: int = 0) -> Fetched:
        self.asked.append(url)
        await asyncio.sleep(0)
        parts = split(url)
        path = parts.path + ("?" + parts.query if parts.query else "")
        sample = self.samples.get(url if not url.startswith(ORIGIN) else path) or Sample(
            path, "", 404, (("content-type", "text/plain"),)
        )
        if sample.failure:
            return Fetched(Answer(None, sample.failure, "as the sample says"))
        body = sample.body.encode() if isinstance(sample.body, str) else sample.body
        headers = tuple((k.lower(), v) for k, v in sample.headers)
        content_type = next((v for k, v in headers if k == "content-type"), "").partition(";")[0].strip()
        if method == "HEAD" and sample.wire_bytes is None and not any(k == "content-length" for k, _ in headers):
            headers += (("content-length", str(len(body))),)
        wire = 0 if method == "HEAD" else len(body) if sample.wire_bytes is None else sample.wire_bytes
        answer = Answer(
            sample.status,
            sample.cut,
            "",
            content_type,
            headers,
            sample.http_version,
            wire,
            0 if method == "HEAD" else len(body),
            sample.first_byte_ms,
            sample.first_byte_ms,
        )
        location = answer.header("location") if 300 <= sample.status < 400 else ""
        return Fetched(answer, b"" if method == "HEAD" else body, location)


def make_plan(values: Mapping[str, Any] | None = None) -> Plan:
    return read_plan({"start": [ORIGIN + "/"], "rate_per_s": 1000, **(values or {})})


def crawl(answers: tuple[Sample, ...], plan: Plan | None = None, **more: Any) -> tuple[RunWriter, SampleFetcher, str]:
    plan = plan or make_plan()
    writer = RunWriter.create(":memory:", {"plan": plan_values(plan)})
    fetcher = SampleFetcher({sample.path: sample for sample in answers})
    end = asyncio.run(Crawl(plan, writer, fetcher, now=lambda: NOW, **more).run())
    writer.put_meta("end", end)
    writer.db.commit()
    return writer, fetcher, end


def audit(
    answers: tuple[Sample, ...],
    plan_changes: Mapping[str, Any] | None = None,
    base: RunFile | None = None,
    now: datetime = NOW,
    waivers: Any = (),
    catalogue: Catalogue | None = None,
) -> tuple[RunFile, dict[str, Any]]:
    values = dict(plan_changes or {})
    days = values.pop("sample_certificate_days", None)
    https, missing, tls = (values.pop(f"sample_{name}", None) for name in ("https", "missing", "tls"))
    variants, icon = values.pop("sample_variants", None), values.pop("sample_icon", None)
    certificate = values.pop("sample_certificate", None)
    inspect = bool(values.pop("sample_inspect", False))
    writer, _, _ = crawl(answers, make_plan(values), inspect=inspect)
    if https is not None:
        writer.add_probe("https", {"url": ORIGIN + "/", **https})
        writer.db.commit()
    if missing is not None:
        writer.add_probe("missing", {"url": ORIGIN + "/made-up", **missing})
        writer.db.commit()
    if variants is not None:
        writer.add_probe("variants", {"variants": variants})
        writer.db.commit()
    if icon is not None:
        writer.add_probe("icon", {"url": ORIGIN + "/favicon.ico", "status": icon})
        writer.db.commit()
    if certificate is not None:
        writer.add_probe("certificate", {**CERTIFICATE, **certificate})
        writer.db.commit()
    if tls is not None:
        writer.add_probe("tls", {"versions": tls})
        writer.db.commit()
    if days is not None:
        ends = (now + timedelta(days=days, hours=1)).strftime("%b %d %H:%M:%S %Y GMT")
        writer.put_meta("certificates", {ORIGIN: ends})
        writer.db.commit()
    summary = examine(writer.db, now, base, waivers, catalogue=catalogue)
    return RunFile(writer.db), msgspec.to_builtins(summary, str_keys=True)


def run_example(example: Example) -> tuple[RunFile, dict[str, Any]]:
    base = None
    if example.before:
        base, _ = audit(example.before, example.plan, now=NOW - timedelta(days=7))
    return audit(example.answers, example.plan, base)


def keys_of(db: sqlite3.Connection, check: str) -> list[str]:
    return sorted(row[0] for row in db.execute("SELECT message FROM finding WHERE check_id = ?", (check,)))
