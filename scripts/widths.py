"""Writes ``hodcarrier/core/facts/widths.json``, the widths of letters in the reference face, from the package that ships it.

Arimo has the metrics of the sans-serif face that search results are most often set in. Run it after that package was raised:
``python -m scripts.widths``.
"""

from __future__ import annotations

import json
from collections import defaultdict
from pathlib import Path

from fontTools.ttLib import TTFont

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "console/node_modules/@fontsource/arimo"
TARGET = ROOT / "hodcarrier/core/facts/widths.json"


def main() -> None:
    """Write the file: the letters of every width, in units of the face."""
    widths: dict[str, int] = {}
    units = 0
    for path in sorted(SOURCE.glob("files/*-400-normal.woff2")):
        face = TTFont(path)
        units = face["head"].unitsPerEm
        for code, glyph in face.getBestCmap().items():
            widths.setdefault(chr(code), face["hmtx"][glyph][0])
    by_width: defaultdict[int, list[str]] = defaultdict(list)
    for letter, width in sorted(widths.items()):
        by_width[width].append(letter)
    version = json.loads((SOURCE / "package.json").read_text())["version"]
    written = {
        "source": f"Arimo {version}, SIL Open Font License 1.1",
        "units": units,
        "letters": {str(width): "".join(letters) for width, letters in sorted(by_width.items())},
    }
    TARGET.write_text(json.dumps(written, ensure_ascii=False, separators=(",", ":")) + "\n")


if __name__ == "__main__":
    main()
