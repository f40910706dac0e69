"""What the package is made of is known: every part with its version, licence and digest."""

from __future__ import annotations

import json
import re
import tomllib
from importlib import metadata

from packaging.requirements import Requirement
from packaging.utils import canonicalize_name

from scripts import sbom


def test_every_part_of_the_package_is_in_the_bill_with_its_licence_and_digest() -> None:
    locked = sbom.digests((sbom.ROOT / "requirements.lock").read_text())
    components = {c["name"]: c for c in (sbom.component(found, locked) for found in sbom.needed(sbom.PACKAGE))}
    declared = tomllib.loads((sbom.ROOT / "pyproject.toml").read_text())["project"]["dependencies"]
    assert {canonicalize_name(Requirement(text).name) for text in declared} <= set(components)
    assert "pytest" not in components and sbom.PACKAGE not in components, "the tools of its makers are not shipped"
    for name, found in components.items():
        assert found["version"] == metadata.version(name) and found["hashes"], name
        assert all(re.fullmatch("[0-9a-f]{64}", digest["content"]) for digest in found["hashes"])
    assert "not stated" not in sbom.licences({"components": list(components.values())})


def test_a_bill_is_json_that_names_its_standard() -> None:
    bill = json.loads(json.dumps(sbom.make()))
    assert (bill["bomFormat"], bill["specVersion"]) == ("CycloneDX", "1.6")
    references = [each["bom-ref"] for each in bill["components"]]
    assert len(set(references)) == len(references) > 100
    assert {"pkg:npm/react", "pkg:npm/react-dom"} <= {reference.rpartition("@")[0] for reference in references}
