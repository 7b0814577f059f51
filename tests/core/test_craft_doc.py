"""The craft's constants as they are told to strangers, held to the code."""

from __future__ import annotations

import ast
import re
from importlib import import_module
from pathlib import Path

import pytest

import bambola

ROOT = Path(bambola.__file__).parents[1]
TOLD = (ROOT / "docs/craft.md").read_text(encoding="utf-8")
ROWS = re.findall(r"^\| `([\w.]+)\.(\w+)` \| `(.+?)` \| (.+) \|$", TOLD, re.M)
ROOMS = (
    "armature",
    "balance",
    "bench",
    "resize",
    "wool",
    "plan/making",
    "methods",
    "face",
    "rescue",
    "piece",
    "heights",
    "notes",
    "strokes",
)


def test_tables_have_values_of_code() -> None:
    for module, name, value, _ in ROWS:
        found = import_module(f"bambola.core.{module}")
        assert getattr(found, name) == pytest.approx(eval(value, vars(found).copy())), name


@pytest.mark.parametrize("room", ROOMS)
def test_every_constant_of_craft_is_told(room: str) -> None:
    told = {(module, name) for module, name, _, _ in ROWS}
    assert len(told) == len(ROWS) > 80
    for path in (ROOT / "bambola/core" / room).rglob("*.py"):
        module = ".".join(path.relative_to(ROOT / "bambola/core").with_suffix("").parts)
        for name in constants(path):
            assert (module, name) in told, f"{module}.{name} is missing in docs/craft.md"
        sections = {int(n) for n in re.findall(r"craft\.md,\s(\d+)\.", path.read_text("utf-8"))}
        assert sections <= set(range(1, 12))
        if any(known == module for known, _ in told):
            assert sections, f"{module} cites no section"


INNER = {
    "PRESETS",
    "MOST_PATTERNS",
    "FEW_PIECES",
    "BISECTIONS",
    "NOMINAL_MM",
    "TOLERANCE_MM",
    "N_PER_GRAM",
    "SYMPTOMS",
    "EXPRESSIONS",
    "READY",
    "COMMON",
}
"""How finely and how long something is searched, and a unit: no craft."""


def constants(path: Path) -> list[str]:
    """The public constants of a module that hold a number of their own."""
    found = []
    for node in ast.parse(path.read_text(encoding="utf-8")).body:
        if isinstance(node, ast.Assign | ast.AnnAssign) and node.value is not None:
            targets = node.targets if isinstance(node, ast.Assign) else [node.target]
            numbers = [
                c for c in ast.walk(node.value)
                if isinstance(c, ast.Constant) and type(c.value) in (int, float)
            ]  # fmt: skip
            names = [n.id for t in targets for n in ast.walk(t) if isinstance(n, ast.Name)]
            found += [
                name for name in names
                if numbers and name.isupper() and name[0] != "_" and name not in INNER
            ]  # fmt: skip
    return found
