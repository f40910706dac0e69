"""Sites of broken bytes: the site in order with its answers cut, mixed, nested and sown with noise. Whatever comes, no check may crash.

``make fuzz`` tries seeds until its time is over and prints those that broke something; the tests try some that are kept.
"""

from __future__ import annotations

import random
import sys
import time
from dataclasses import replace

from hodcarrier.core.catalogue import Sample
from hodcarrier.runfile import results
from hodcarrier.runfile.evidence import located
from tests.reference.site import PROBES, answers
from tests.sample_site import audit

TOKENS = (
    b"<", b">", b"</", b"<!--", b"-->", b"<![CDATA[", b"]]>", b"&", b"&#0;", b"&#xD800;", b"\0", b"\xff\xfe", b"\xef\xbb\xbf", b"\xed\xa0\x80", b'"', b"'", b"=",
    b"<svg>", b"<math>", b"<template>", b"<table><tr><td>", b"</table>", b"<select>", b"<frameset>", b"<plaintext>", b"<script>", b"</script>", b"<noscript>",
    b"<a href=", b"<a href='http://[' >", b"<img srcset=',,, x 2x'>", b"<base href='//'>", b"<meta http-equiv=refresh content='0;url='>", b"<link rel=canonical href>",
    b'<script type="application/ld+json">', b'{"@context":"https://schema.org","@type":[1,{}],"offers":[[]],"name":{"@value":null}}', b"<div itemscope itemprop=x itemtype='a b'>",
    b"<p typeof=Product property=offers vocab=x>", b"<html lang='x-'>", b"<link rel=alternate hreflang='' href=''>", b"<input aria-hidden=true tabindex=9>", b"<ul><ul><li>",
    b"\xc3\xa3\xc2\x81", b"\xf0\x9f\x92\xa9" * 5, b"lorem ipsum dolor " * 3, b"User-agent:", b"Sitemap: \xff", b"<urlset><url><loc>", b"%", b"%%%", b"#:~:text=",
)  # fmt: skip


def spoiled(body: bytes, noise: random.Random) -> bytes:
    """A body after some accidents."""
    for _ in range(noise.randint(1, 6)):
        at = noise.randrange(len(body) + 1)
        until = min(len(body), at + noise.randrange(1, 400))
        kind = noise.randrange(7)
        if kind == 0:
            body = body[:at]
        elif kind == 1:
            body = body[:at] + noise.choice(TOKENS) + body[at:]
        elif kind == 2:
            body = body[:at] + noise.choice(TOKENS) * noise.choice((3, 50, 400)) + body[at:]
        elif kind == 3:
            body = body[:at] + noise.randbytes(noise.randint(1, 60)) + body[at:]
        elif kind == 4:
            body = body[:at] + body[until:]
        elif kind == 5:
            body = body[:at] + body[at:until][::-1] + body[until:]
        else:
            body = body[:until] + body[at:]
    return body


def spoiled_site(seed: int) -> tuple[Sample, ...]:
    """The site in order after accidents to some of its answers: bodies, headers, types, statuses."""
    noise = random.Random(seed)
    site = dict(answers())
    for path in noise.sample(sorted(site), noise.randint(1, 12)):
        sample = site[path]
        body = sample.body.encode() if isinstance(sample.body, str) else sample.body
        changes: dict[str, object] = {"body": spoiled(body, noise)}
        if noise.random() < 0.2:
            name = noise.choice(
                ("content-type", "link", "x-robots-tag", "cache-control", "expires", "vary", "set-cookie", "content-length")
            )
            value = spoiled(
                noise.choice((b"text/html; charset=utf-8", b"image/svg+xml", b"max-age=1, x", b"</a>; rel=canonical")), noise
            ).decode("latin-1")
            changes["headers"] = (*sample.headers, (name, value)) if noise.random() < 0.5 else ((name, value), *sample.headers)
        if noise.random() < 0.1:
            changes["status"] = noise.choice((200, 204, 206, 301, 404, 500, 999))
        site[path] = replace(sample, **changes)  # type: ignore[arg-type]
    return tuple(site.values())


def crashes_of(seed: int) -> list[str]:
    """What went wrong on the site of a seed, a line for each; checks are asked of every page with the errors of its source, too, and every
    finding is looked for in it."""
    try:
        run, summary = audit(spoiled_site(seed), {**PROBES, "sample_inspect": True, "check_external": False})
        located(run, results.findings(run, waived=None))
    except Exception as error:  # noqa: BLE001
        return [f"{type(error).__name__}: {error}"[:300]]
    return [f"{crash['check']} on {crash['subject']}: {crash['error']}" for crash in summary["crashes"]]


def main() -> int:
    """Try seeds until the time is over (minutes; the first seed may be given)."""
    minutes, seed = float(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else 0
    until, tried, broken = time.monotonic() + 60 * minutes, 0, 0
    while time.monotonic() < until:
        found = crashes_of(seed)
        broken += bool(found)
        for line in found:
            print(f"seed {seed}: {line}", flush=True)
        seed, tried = seed + 1, tried + 1
    print(f"{tried} sites, {broken} of them broke something; the next seed is {seed}.")
    return 1 if broken else 0


if __name__ == "__main__":
    sys.exit(main())
