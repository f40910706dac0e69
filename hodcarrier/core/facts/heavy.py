"""Which documents might hold a crawl up.

Building the tree of a hostile document can take the square of its length: elements nested ten thousand deep, one element with
a hundred thousand attributes. Documents that might be such are read in a process of their own (:mod:`hodcarrier.crawl.readers`).
"""

from __future__ import annotations

import numpy as np

# A document nested so deep takes some hundredths of a second; beyond it, time grows with the square.
DEPTH_MAX = 2_000
TAG_BYTES_MAX = 100_000
_TAG, _SLASH = ord("<"), ord("/")
_STEP = np.zeros(256, np.int8)
_STEP[[*range(ord("a"), ord("z") + 1), *range(ord("A"), ord("Z") + 1)]] = 1
_STEP[_SLASH] = -1


def is_heavy(body: bytes) -> bool:
    """Whether reading a document might take long: its elements may be nested very deep, or a tag is very long."""
    row = np.frombuffer(body, np.uint8)
    # Most documents have fewer beginnings of tags in all than would have to be open.
    begun = np.count_nonzero((row[:-1] == _TAG) & (row[1:] != _SLASH))
    return (begun > DEPTH_MAX and depth_at_most(body) > DEPTH_MAX) or _has_long_tag(body)


def depth_at_most(body: bytes) -> int:
    """How deep elements can be nested: the most tags that are open at once, by their beginnings alone.

    Elements that have no end tag, and ``<`` in scripts, count as open for ever; end tags without a beginning close nothing. It is rather too
    deep than too flat.
    """
    row = np.frombuffer(body + b" ", np.uint8)
    level = np.cumsum(_STEP[row[(row == _TAG).nonzero()[0] + 1]], dtype=np.int64)
    return int((level - np.minimum.accumulate(np.minimum(level, 0))).max(initial=0))


def _has_long_tag(body: bytes) -> bool:
    """Whether more than :data:`TAG_BYTES_MAX` follow a ``<`` without a ``>``."""
    at, end = 0, len(body)
    while end - at > TAG_BYTES_MAX:
        # Leap from one ``>`` to the last one within reach: where none is, the stretch begins with text or with a long tag.
        near = body.rfind(b">", at, at + TAG_BYTES_MAX)
        if near < 0:
            near = body.find(b">", at)
            near = end if near < 0 else near
            begin = body.rfind(b"<", at, near)
            if begin >= 0 and near - begin > TAG_BYTES_MAX:
                return True
        at = near + 1
    return False
