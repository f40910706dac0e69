"""``make sbom``: what the package is made of, as a CycloneDX 1.6 bill of materials, and under which licences.

Read from what is installed: the Python packages that the package needs (not those of its extras), with the digests of the lock file, and the
npm packages that are built into the console. Written to ``dist/sbom.cdx.json`` and ``dist/licences.txt``.
"""

from __future__ import annotations

import base64
import json
import re
import sys
from collections import deque
from importlib import metadata
from pathlib import Path
from typing import Any

from packaging.requirements import Requirement
from packaging.utils import canonicalize_name

ROOT = Path(__file__).parent.parent
DIST = ROOT / "dist"
PACKAGE = "hodcarrier"
# Where the metadata of a release say nothing that can be read, what its licence file says.
_CLASSIFIER = "License :: OSI Approved :: "


def needed(name: str) -> list[metadata.Distribution]:
    """The installed packages that a package needs here, and those that these need, by name."""
    found: dict[str, metadata.Distribution] = {}
    queue: deque[tuple[str, frozenset[str]]] = deque([(name, frozenset())])
    while queue:
        at, extras = queue.popleft()
        distribution = metadata.distribution(at)
        for text in distribution.requires or ():
            requirement = Requirement(text)
            marker = requirement.marker
            if marker is not None and not any(marker.evaluate({"extra": extra}) for extra in (*extras, "")):
                continue
            key = canonicalize_name(requirement.name)
            if key not in found:
                found[key] = metadata.distribution(key)
                queue.append((key, frozenset(requirement.extras)))
    return [found[key] for key in sorted(found)]


def licence_of(distribution: metadata.Distribution) -> str:
    """The licence of a package: its SPDX expression, else what its classifiers or its licence field say."""
    about = distribution.metadata
    if about["License-Expression"]:
        return str(about["License-Expression"])
    named = [c.removeprefix(_CLASSIFIER) for c in about.get_all("Classifier") or () if c.startswith(_CLASSIFIER)]
    if named:
        return " or ".join(named)
    return (str(about["License"] or "").strip().splitlines() or ["not stated"])[0]


def digests(lock: str) -> dict[str, list[str]]:
    """SHA-256 digests by package, of all files of the locked version."""
    found: dict[str, list[str]] = {}
    name = ""
    for line in lock.splitlines():
        if match := re.match(r"([A-Za-z0-9._-]+)(?:\[[^\]]*\])?==", line):
            name = canonicalize_name(match[1])
        found.setdefault(name, []).extend(re.findall(r"--hash=sha256:([0-9a-f]{64})", line))
    return found


def component(distribution: metadata.Distribution, locked: dict[str, list[str]]) -> dict[str, Any]:
    """A Python package as a component."""
    name, version = canonicalize_name(distribution.name), distribution.version
    licence = licence_of(distribution)
    key = "expression" if distribution.metadata["License-Expression"] else "name"
    licences = [{"expression": licence}] if key == "expression" else [{"license": {"name": licence}}]
    return {
        "type": "library",
        "bom-ref": f"pkg:pypi/{name}@{version}",
        "name": name,
        "version": version,
        "purl": f"pkg:pypi/{name}@{version}",
        "licenses": licences,
        "hashes": [{"alg": "SHA-256", "content": digest} for digest in locked.get(name, ())],
    }


def console_components() -> list[dict[str, Any]]:
    """The npm packages that are built into the console: all of its lock file that are not tools of its makers alone."""
    packages = json.loads((ROOT / "console/package-lock.json").read_text())["packages"]
    found = []
    for place, about in sorted(packages.items()):
        if not place or about.get("dev") or about.get("link"):
            continue
        name = place.rpartition("node_modules/")[2]
        purl = f"pkg:npm/{name.replace('@', '%40', 1)}@{about['version']}"
        algorithm, _, digest = about["integrity"].partition("-")
        found.append(
            {
                "type": "library",
                "bom-ref": purl,
                "name": name,
                "version": about["version"],
                "purl": purl,
                "licenses": [{"expression": about["license"]}] if about.get("license") else [],
                "hashes": [{"alg": {"sha512": "SHA-512"}[algorithm], "content": base64.b64decode(digest).hex()}],
            }
        )
    return list({each["bom-ref"]: each for each in found}.values())


def make() -> dict[str, Any]:
    """The bill of materials."""
    locked = digests((ROOT / "requirements.lock").read_text())
    version = metadata.version(PACKAGE)
    components = [component(distribution, locked) for distribution in needed(PACKAGE)] + console_components()
    return {
        "bomFormat": "CycloneDX",
        "specVersion": "1.6",
        "version": 1,
        "metadata": {"component": {"type": "application", "bom-ref": PACKAGE, "name": PACKAGE, "version": version}},
        "components": components,
    }


def licences(bill: dict[str, Any]) -> str:
    """A line for each component: its name, version and licence."""
    lines = []
    for each in bill["components"]:
        said = [
            entry.get("expression") or entry["license"].get("id") or entry["license"]["name"]
            for entry in each.get("licenses", ())
        ]
        lines.append(f"{each['name']} {each['version']}: {', '.join(said) or 'not stated'}")
    return "\n".join(lines) + "\n"


def main() -> int:
    """Write both files; 1 when a component does not say its licence."""
    bill = make()
    DIST.mkdir(exist_ok=True)
    (DIST / "sbom.cdx.json").write_text(json.dumps(bill, indent=1) + "\n")
    text = licences(bill)
    (DIST / "licences.txt").write_text(text)
    print(f"{len(bill['components'])} components in dist/sbom.cdx.json and dist/licences.txt.")
    silent = [line for line in text.splitlines() if line.endswith("not stated")]
    for line in silent:
        print(line)
    return 1 if silent else 0


if __name__ == "__main__":
    sys.exit(main())
