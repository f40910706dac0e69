"""What can be measured of running text: how alike two texts are, how hard one reads, what language it is in, and what went wrong in it."""

from __future__ import annotations

import math
import re
from collections.abc import Iterable

import ftfy
import numpy as np
import pycld2

SIMHASH_WORDS_MIN = 50
LANGUAGE_CHARS_MIN = 250
LANGUAGE_CHARS_READ = 1_000
LANGUAGE_PERCENT_MIN = 90
EFFORT_CHARS_READ = 8_000
LONG_WORD = 6  # letters; longer ones count (LIX)
GARBLED_KEPT = 5
_ODD = np.uint64(0x9E3779B97F4A7C15)
_ODD_OF_WORDS, _INVERSE_OF_WORDS = np.uint32(0x9E3779B1), np.uint32(pow(0x9E3779B1, -1, 1 << 32))
_ODD_SQUARE = np.uint64(0x9E3779B97F4A7C15**2 % (1 << 64))
_BLANK = 32
_BITS = np.unpackbits(np.arange(256, dtype=np.uint8).reshape(-1, 1), axis=1).astype(np.int64)
# Bytes of words (letters, and what joins them; all of UTF-8 beyond ASCII), bytes that end a sentence, and those that follow one.
_IN_WORD = np.array([chr(c).isalpha() or c in b"'-" or c >= 0x80 for c in range(256)])
_ENDS_SENTENCE = np.array([c in b".!?:" for c in range(256)])
_AFTER_SENTENCE = np.array([c in b" \n\r\t\"')\xc2\xe2" for c in range(256)])
_FILLER = re.compile(
    r"lorem\s+ipsum\s+dolor|dolor\s+sit\s+amet|consectetu\w+\s+adipis\w+|(?:your|insert|enter|add)(?: your)? text (?:goes )?here",
    re.I,
)
# What UTF-8 looks like when it was read as windows-1252, and what stands for bytes that could not be read.
_GARBLED = re.compile(
    "[^\\s]*(?:[ÃÂ][\u0080-\u00bf€‚ƒ„…†‡ˆ‰Š‹Œ‘’“”•–—˜™š›œžŸ]|â€[\u0080-\u00bf˜™œ“”¦¢])[^\\s]*|[^\\s]*\ufffd[^\\s]*"
)
_MAY_BE_GARBLED = ("Ã", "Â", "â€", "\ufffd")
_powers = np.ones(1, np.uint32)
_inverses = np.ones(1, np.uint32)


def _tables(length: int) -> tuple[np.ndarray, np.ndarray]:
    """Powers of an odd number modulo 2^32, and of its inverse; kept, and grown when a longer text comes."""
    global _powers, _inverses
    if len(_powers) < length:
        size = max(length, 2 * len(_powers), 1 << 15)
        one = np.ones(1, np.uint32)
        _powers = np.multiply.accumulate(np.concatenate((one, np.full(size - 1, _ODD_OF_WORDS))), dtype=np.uint32)
        _inverses = np.multiply.accumulate(np.concatenate((one, np.full(size - 1, _INVERSE_OF_WORDS))), dtype=np.uint32)
    return _powers, _inverses


def simhash(raw: bytes | bytearray) -> int:
    """A hash of 64 bits that differs in few bits for texts that share most of their shingles of three words (Charikar, 2002).

    ``raw`` are lower-case letters and blanks. 0 when the text has too few words to tell.
    """
    row = np.frombuffer(raw, np.uint8)
    letters = np.concatenate(([False], row != _BLANK, [False]))
    edges = np.flatnonzero(letters[1:] != letters[:-1])
    starts, ends = edges[0::2], edges[1::2]
    if len(starts) < SIMHASH_WORDS_MIN:
        return 0
    powers, inverses = _tables(len(row) + 1)
    sums = np.zeros(len(row) + 1, np.uint32)
    np.cumsum(row * powers[: len(row)], dtype=np.uint32, out=sums[1:])
    words = ((sums[ends] - sums[starts]) * inverses[starts]).astype(np.uint64)
    shingles = words[:-2] + words[1:-1] * _ODD + words[2:] * _ODD_SQUARE
    shingles ^= shingles >> np.uint64(31)
    shingles *= _ODD
    shingles ^= shingles >> np.uint64(29)
    columns = shingles.astype("<u8").view(np.uint8).reshape(-1, 8).T
    # How often every bit is set: bytes are counted by their value, and each value has its bits.
    ones = np.concatenate([np.bincount(column, minlength=256) @ _BITS for column in columns]) * 2 > len(shingles)
    return int.from_bytes(np.packbits(ones).tobytes(), "little")


def distance(one: int, other: int) -> int:
    """In how many bits two hashes differ."""
    return (one ^ other).bit_count()


def similarity(one: int, other: int) -> float:
    """How alike two texts are by their hashes, from 0 to 1: the cosine of the angle that the bits in which they differ stand for."""
    return max(0.0, math.cos(math.pi * distance(one, other) / 64))


def language_of(text: str) -> str:
    """The language a text is in, as a code of two letters (ISO 639-1) or three; empty where that is not certain, or the text too short."""
    if len(text) < LANGUAGE_CHARS_MIN:
        return ""
    start = max(0, min(len(text) // 3, len(text) - LANGUAGE_CHARS_READ))
    sample = " ".join(text[start : start + LANGUAGE_CHARS_READ].split())
    if len(sample) < LANGUAGE_CHARS_MIN:
        return ""
    try:
        reliable, _, details = pycld2.detect(sample.encode("utf-8", "replace"), isPlainText=True)
    except pycld2.error:  # a character that it does not take
        return ""
    _, code, percent, _ = details[0]
    return str(code).partition("-")[0] if reliable and percent >= LANGUAGE_PERCENT_MIN and code != "un" else ""


def effort_of(paragraphs: Iterable[str]) -> tuple[int, int, int]:
    """Sentences, words and words of more than six letters in running text: what LIX is made of (Björnsson, 1968). Of a long text the
    beginning is enough."""
    sample: list[str] = []
    left = EFFORT_CHARS_READ
    for text in paragraphs:
        sample.append(text[:left])
        left -= len(text)
        if left <= 0:
            break
    raw = ("\n".join(sample) + "\n").encode("utf-8", "replace")
    row = np.frombuffer(raw, np.uint8)
    inside = _IN_WORD[row]
    edges = np.flatnonzero(np.diff(inside, prepend=False, append=False))
    # Of a letter beyond ASCII, only the first byte counts.
    letters = np.concatenate(([0], np.cumsum((row & 0xC0) != 0x80)))
    lengths = letters[edges[1::2]] - letters[edges[0::2]]
    ends = _ENDS_SENTENCE[row[:-1]] & _AFTER_SENTENCE[row[1:]]
    return int(np.count_nonzero(ends)), len(lengths), int(np.count_nonzero(lengths > LONG_WORD))


def fillers_in(text: str) -> tuple[str, ...]:
    """The phrases of a text that only stand in for one that is to come."""
    if not any(part in text for part in ("ipsum", "IPSUM", "ext here", "ext goes here")):
        return ()
    return tuple(dict.fromkeys(" ".join(found.group().split()) for found in _FILLER.finditer(text)))[:5]


def garbled_in(text: str) -> tuple[tuple[str, str], ...]:
    """Words whose characters were lost or read in the wrong encoding, each with what it should be; empty where nobody can tell."""
    if text.isascii() or not any(mark in text for mark in _MAY_BE_GARBLED):
        return ()
    found = []
    for word in dict.fromkeys(match.group() for match in _GARBLED.finditer(text)):
        right = "" if "\ufffd" in word else ftfy.fix_encoding(word)
        if right != word:
            found.append((word[:60], right[:60]))
            if len(found) == GARBLED_KEPT:
                break
    return tuple(found)
