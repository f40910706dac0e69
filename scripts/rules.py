"""Digests of the rules of all checks, kept beside them in ``rules.json``: a rule that changes without a new revision is noticed.

A digest is made from what decides: ``find`` and ``key`` with every function and constant of their module that they use, and the
limits with their defaults. Comments, prose and examples do not count. Run by ``make docs``.
"""

from __future__ import annotations

import ast
import hashlib
import json
from pathlib import Path

from hodcarrier.core.catalogue import load

CHECKS = Path(__file__).parent.parent / "hodcarrier" / "core" / "checks"
RULES = CHECKS / "rules.json"
Rules = dict[str, dict[str, int | str]]


def current() -> Rules:
    """Revision and digest of every check as it is."""
    found: Rules = {}
    for entry in load().values():
        source = (CHECKS / entry.area / f"{entry.id.replace('-', '_')}.py").read_text()
        limits = {name: limit.default for name, limit in entry.check.limits.items()}
        digest = hashlib.blake2b(f"{rule_of(source)}{json.dumps(limits)}".encode(), digest_size=8).hexdigest()
        found[entry.id] = {"revision": entry.check.revision, "digest": digest}
    return found


def rule_of(source: str) -> str:
    """What decides in a module of a check, without comments and docstrings."""
    tree = ast.parse(source)
    defined: dict[str, ast.stmt] = {}
    for node in tree.body:
        if isinstance(node, ast.FunctionDef | ast.ClassDef):
            defined[node.name] = node
        elif isinstance(node, ast.Assign):
            defined.update({target.id: node for target in node.targets if isinstance(target, ast.Name)})
    wanted, used = ["find", "key"], {}
    while wanted:
        name = wanted.pop()
        if name in used or name not in defined or name == "CHECK":
            continue
        node = used[name] = defined[name]
        if isinstance(node, ast.FunctionDef) and ast.get_docstring(node):
            node.body = node.body[1:]
        wanted += [n.id for n in ast.walk(node) if isinstance(n, ast.Name)]
    return "\n".join(ast.dump(used[name]) for name in sorted(used))


def noted() -> Rules:
    """What is noted beside the checks."""
    found: Rules = json.loads(RULES.read_text()) if RULES.exists() else {}
    return found


def unrevised(before: Rules, now: Rules) -> list[str]:
    """Checks whose rule changed while their revision did not."""
    return [
        check
        for check, rule in now.items()
        if check in before and rule["digest"] != before[check]["digest"] and rule["revision"] == before[check]["revision"]
    ]


def write() -> None:
    """Note the digests. Refuses to note a rule that changed without a new revision."""
    before, now = noted(), current()
    if changed := unrevised(before, now):
        raise SystemExit(f"These rules changed without a new revision: {', '.join(changed)}. Raise it in their files.")
    RULES.write_text(json.dumps(now, indent=1) + "\n")
