"""The simulated sites, edition by edition. Everything is decided by host, path and edition alone."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

from hodcarrier.demo.pages import Site
from hodcarrier.demo.sites.chandlers import harbour_and_hitch, saltline, tidewrack
from hodcarrier.demo.sites.parts import EDITIONS
from hodcarrier.demo.sites.potters import clayfold, pellow
from hodcarrier.demo.sites.seeds import ardmoor, two_rivers

__all__ = ["EDITIONS", "SITES", "build"]

SITES: dict[str, Callable[[int], Site]] = {
    "tidewrack.example": tidewrack,
    "saltline-stores.example": saltline,
    "harbour-and-hitch.example": harbour_and_hitch,
    "pellow-kiln.example": pellow,
    "clayfold-school.example": clayfold,
    "ardmoor-seeds.example": ardmoor,
    "two-rivers-seedbank.example": two_rivers,
}


@lru_cache(maxsize=64)
def build(host: str, edition: int) -> Site:
    """A site in an edition, with all of its resources."""
    site = SITES[host](edition)
    site.finish()
    return site
