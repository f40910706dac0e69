"""The link graph of a run: who links to whom, who uses which file, and how many clicks everything is from the start."""

from __future__ import annotations

from array import array
from collections import defaultdict, deque
from collections.abc import Iterator, Mapping, Sequence
from typing import TYPE_CHECKING

from hodcarrier.core.facts.answer import REDIRECTS_MAX
from hodcarrier.core.facts.values import FILE_KINDS, FOLLOWED_KINDS, STEP_KINDS
from hodcarrier.examine import ways
from hodcarrier.runfile import schema
from hodcarrier.runfile.packing import LINK_CODES, link_edges

if TYPE_CHECKING:
    from hodcarrier.examine.views import RunViews

_FAR = 1 << 30


def read_graph(views: RunViews) -> None:
    """Read who links to whom from the packed links: inbound links, uses of files, what else names a page, refreshes, and depths."""
    # Arrays of four bytes a link: a list of numbers would take ten times as much.
    inlinks: defaultdict[int, array[int]] = defaultdict(lambda: array("I"))
    users: defaultdict[int, array[int]] = defaultdict(lambda: array("I"))
    uses: defaultdict[int, set[int]] = defaultdict(set)
    outgoing: dict[int, array[int]] = {}
    links = frozenset() if views.plan.obey_nofollow else FOLLOWED_KINDS
    documents = {i for (i,) in views.db.execute("SELECT address_id FROM page") if views.known[i].status == 200}
    file_codes = {code for code, kind in LINK_CODES.items() if kind in FILE_KINDS}
    steps = {code for code, kind in LINK_CODES.items() if kind in STEP_KINDS - FOLLOWED_KINDS | links}
    naming = {code for code, kind in LINK_CODES.items() if kind in ways.NAMED_AS}
    at_once = {code for code, kind in LINK_CODES.items() if kind == "refresh"}
    for source, blob in views.db.execute("SELECT address_id, links FROM page"):
        followed: dict[int, None] = {}
        unfollowed: dict[int, None] = {}
        files: dict[int, None] = {}
        targets, codes = link_edges(blob)
        if not 200 <= (views.known[source].status or 0) < 300:
            continue  # an error page: runs of earlier releases hold its links
        for target, code in zip(targets, codes, strict=True):
            item = views.known[target]
            if item.role == 0 and target != source:
                if code & 1:
                    followed[target] = None
                elif code in steps:
                    unfollowed[target] = None
            if code in naming and item.role == 0 and target != source and target not in views.named:
                views.named[target] = (LINK_CODES[code], source)
            if code in at_once and target != source and views.known[source].refresh_id is None:
                views.known[source].refresh_id = target
            if code in file_codes and item.role < schema.EXTERNAL and target not in documents:
                files[target] = None
                uses[target].add(code)
        for target in followed:
            inlinks[target].append(source)
        for target in files:
            users[target].append(source)
        outgoing[source] = array("I", {**followed, **unfollowed} if unfollowed else followed)
    views.inlinks, views.file_users = dict(inlinks), dict(users)
    views.file_kinds = {i: tuple(dict.fromkeys(LINK_CODES[code] for code in sorted(codes))) for i, codes in uses.items()}
    for i, sources in views.inlinks.items():
        ends = list(_redirects_of(views, i))
        views.over_redirects.update(end for end in ends if any(source != end for source in sources))
    _set_depths(views, outgoing)


def know_fonts(views: RunViews) -> None:
    """Fonts are used by the pages that use the style sheets that load them."""
    for i, fonts in views.files.fonts.items():
        for font in map(views.ids.get, fonts):
            if font is not None and views.known[font].role == schema.FILE:
                views.file_kinds[font] = tuple(dict.fromkeys((*views.file_kinds.get(font, ()), "font")))
                views.file_users[font] = array(
                    "I", dict.fromkeys((*views.file_users.get(font, ()), *views.file_users.get(i, ())))
                )


def _redirects_of(views: RunViews, i: int) -> Iterator[int]:
    """Where the redirects of an address lead, one after the other."""
    seen = {i}
    while (
        (hop := views.known[i].redirect_id or views.known[i].refresh_id) is not None
        and hop not in seen
        and len(seen) <= REDIRECTS_MAX
    ):
        seen.add(hop)
        yield hop
        i = hop


def _set_depths(views: RunViews, outgoing: Mapping[int, Sequence[int]]) -> None:
    """The fewest clicks from a start address to every page. A redirect costs none; a frame or a refresh counts as a click."""
    depths: dict[int, int] = {i: 0 for i, k in enumerate(views.known) if k.found_by & schema.FOUND_START}
    queue = deque(depths)
    while queue:
        here = queue.popleft()
        hop = views.known[here].redirect_id
        if hop is not None and depths.get(hop, _FAR) > depths[here]:
            depths[hop] = depths[here]
            views.before[hop] = here
            queue.appendleft(hop)
        for target in outgoing.get(here, ()):
            if depths.get(target, _FAR) > depths[here] + 1:
                depths[target] = depths[here] + 1
                views.before[target] = here
                queue.append(target)
    for i, item in enumerate(views.known):
        if item.role == 0:
            item.depth = depths.get(i)
