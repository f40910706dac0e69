"""Writes ``hodcarrier/core/web/schema_org.json``, the vocabulary of schema.org, from the declarations that the package schema-dts ships.

Run it after that package was raised: ``python -m scripts.vocabulary``.
"""

from __future__ import annotations

import json
import re
import sys
from collections import defaultdict
from pathlib import Path

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "console/node_modules/schema-dts"
TARGET = ROOT / "hodcarrier/core/web/schema_org.json"
_LEAF = re.compile(r"^(?:export )?(?:type|interface) (\w+)Leaf\b", re.M)
_UNION = re.compile(r"^export type (\w+)(?:<[^=]*>)? = ([^;]+);", re.M)
_BASE = re.compile(r"^interface (\w+)Base extends [^{]*\{\n(.*?)^\}", re.S | re.M)
_PROPERTY = re.compile(r'(/\*\*(?:(?!\*/).)*\*/)?\s*"([^"@]+)"\?: SchemaValue<(.*?), "[^"]+">;', re.S)
_NAME = re.compile(r"^\w+$")
_PLAIN = {"string", "number", "boolean", "IdReference"}


def read(text: str) -> dict[str, object]:
    """The vocabulary in the declarations: types with those they are kinds of, properties with the types that have them and what their
    values may be, and the members of enumerations."""
    types: defaultdict[str, list[str]] = defaultdict(list)
    members: dict[str, list[str]] = {}
    for name in _LEAF.findall(text):
        types[name] = []
    del types["StupidType"]  # the vocabulary's own joke
    for name, union in _UNION.findall(text):
        parts = [part.strip() for part in re.sub(r"<[^>]*>", "", union).split("|")]
        named = [part.strip('"') for part in parts if part.startswith('"') and "://" not in part]
        if named and name in types:
            members[name] = named
        for part in parts:
            if name in types and part in types and part != name:
                types[part].append(name)
    properties: defaultdict[str, dict[str, set[str]]] = defaultdict(lambda: {"of": set(), "values": set(), "old": set()})
    for owner, body in _BASE.findall(text):
        if owner not in types:
            continue
        for note, name, values in _PROPERTY.findall(body):
            about = properties[name]
            about["of"].add(owner)
            about["values"].update(v for v in re.split(r"\s*\|\s*", values.strip("() ")) if _NAME.match(v) and v not in _PLAIN)
            if "@deprecated" in note:
                about["old"].add("yes")
    return {
        "types": {name: sorted(set(parents)) for name, parents in sorted(types.items())},
        "properties": {
            name: {key: sorted(about[key]) for key in ("of", "values")} | ({"old": True} if about["old"] else {})
            for name, about in sorted(properties.items())
        },
        "members": dict(sorted(members.items())),
    }


def main() -> int:
    """Write the file; says how much it holds."""
    version = json.loads((SOURCE / "package.json").read_text())["version"]
    # A name that begins with a digit has an underscore in front there.
    found = read(re.sub(r"\b_(?=\d)", "", (SOURCE / "dist/schema.d.ts").read_text()))
    TARGET.write_text(json.dumps({"source": f"schema-dts {version}", **found}, separators=(",", ":"), ensure_ascii=False) + "\n")
    print({name: len(part) for name, part in found.items() if isinstance(part, dict)}, TARGET.stat().st_size)
    return 0


if __name__ == "__main__":
    sys.exit(main())
