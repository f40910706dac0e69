"""Colours that people choose, and what can be read on them."""

from __future__ import annotations

DARK, LIGHT = "#1b2326", "#ffffff"


def luminance(colour: str) -> float:
    """The relative luminance of a colour ``#rrggbb``, 0 to 1 (WCAG 2.2, definition of relative luminance)."""
    parts = (int(colour[at : at + 2], 16) / 255 for at in (1, 3, 5))
    red, green, blue = (part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in parts)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(one: str, other: str) -> float:
    """The contrast of two colours, 1 to 21 (WCAG 2.2, definition of contrast ratio)."""
    high, low = sorted((luminance(one), luminance(other)), reverse=True)
    return (high + 0.05) / (low + 0.05)


def ink_on(colour: str) -> str:
    """Which of dark and light ink is read better on a colour."""
    return max((LIGHT, DARK), key=lambda ink: contrast(ink, colour))


def mixed(colour: str, other: str, part: float) -> str:
    """A colour with a ``part`` (0 to 1) of another one in it."""
    pairs = ((int(colour[at : at + 2], 16), int(other[at : at + 2], 16)) for at in (1, 3, 5))
    return "#" + "".join(f"{round(one + (two - one) * part):02x}" for one, two in pairs)
