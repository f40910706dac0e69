"""Content codings: one, several, unknown ones, and bodies that unpack to more than anybody asked for."""

from __future__ import annotations

import gzip
import zlib

import brotli
import pytest

from hodcarrier.crawl import inflate
from hodcarrier.crawl.inflate import CODINGS_MAX, UnknownCoding, inflater

BODY = b"Rope for small boats. " * 500
MANY = 1_000_000


@pytest.mark.parametrize(
    ("coding", "packed"),
    [
        ("", BODY),
        ("identity", BODY),
        ("gzip", gzip.compress(BODY)),
        ("X-GZIP", gzip.compress(BODY)),
        ("deflate", zlib.compress(BODY)),
        ("deflate", zlib.compress(BODY)[2:-4]),
        ("br", brotli.compress(BODY)),
        ("gzip, br", brotli.compress(gzip.compress(BODY))),
        ("identity, deflate, gzip", gzip.compress(zlib.compress(BODY))),
        ("gzip, gzip, gzip", gzip.compress(gzip.compress(gzip.compress(BODY)))),
    ],
    ids=lambda value: "" if isinstance(value, bytes) else value,  # packed bytes tell the time: no name may depend on it
)
def test_codings_are_taken_off_from_the_last_to_the_first(coding: str, packed: bytes) -> None:
    assert inflater(coding)(packed, MANY) == BODY


@pytest.mark.parametrize("coding", ["zstd", "gzip, zstd", ", ".join(["gzip"] * (CODINGS_MAX + 1))])
def test_what_nobody_asked_for_is_refused(coding: str) -> None:
    with pytest.raises(UnknownCoding):
        inflater(coding)


@pytest.mark.parametrize("coding", ["gzip", "deflate", "br"])
def test_no_more_comes_out_than_is_asked_for(coding: str) -> None:
    packed = {"gzip": gzip.compress, "deflate": zlib.compress, "br": brotli.compress}[coding](b"0" * MANY)
    assert len(inflater(coding)(packed, 1000)) <= max(1000, 65_536)
    assert len(inflater("gzip")(gzip.compress(b"0" * MANY), 1000)) == 1000


@pytest.mark.parametrize(("most", "fits"), [(400, False), (401, True)])
def test_what_is_in_between_is_bounded_too(most: int, fits: bool, monkeypatch: pytest.MonkeyPatch) -> None:
    inner = zlib.compress(bytes(range(256)) * 2, 0)[:401]
    monkeypatch.setattr(inflate, "INNER_BYTES_MAX", most)
    reader = inflater("deflate, gzip")
    if fits:
        assert reader(gzip.compress(inner), MANY)
    else:
        with pytest.raises(zlib.error, match="too well"):
            reader(gzip.compress(inner), MANY)


def test_a_stream_that_turns_bad_is_not_begun_anew_as_another() -> None:
    reader = inflater("deflate")
    packed = zlib.compress(BODY)
    assert reader(packed[:20], MANY) is not None
    with pytest.raises(zlib.error):
        reader(b"\xff" * 40, MANY)
