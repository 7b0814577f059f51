"""What the core works out once, when it is read, and which of its functions and which tests use it."""

from __future__ import annotations

import ast
from collections import defaultdict
from collections.abc import Iterator
from pathlib import Path

from scripts.faults import CORE, ROOT, Mutant, code_of, runs_when_read

TESTS = ROOT / "tests/core"


class Names:
    """Where what is worked out when a module is read is used: in which lines of which functions."""

    def __init__(self) -> None:
        self.uses: dict[str, set[tuple[str, int]]] = defaultdict(set)
        self.makes: dict[str, set[str]] = defaultdict(set)
        self.tests: dict[str, set[str]] = defaultdict(set)
        for module in sorted(TESTS.glob("test_*.py")):
            for name, tests in _told_in(module).items():
                self.tests[name] |= tests
        for module in sorted(CORE.rglob("*.py")):
            path, source = str(module.relative_to(ROOT)), module.read_text()
            for _, code in code_of(compile(source, path, "exec")):
                if not runs_when_read(code):
                    lines = {(path, line) for *_, line in code.co_lines() if line}
                    for name in code.co_names:
                        self.uses[name] |= lines
            for statement in _read_once(ast.parse(source)):
                made = _made_by(statement)
                for node in ast.walk(statement):
                    if name := getattr(node, "id", None) or getattr(node, "attr", None):
                        self.makes[name] |= made

    def lines(self, mutant: Mutant) -> set[tuple[str, int]]:
        """Lines that use what the statement at a mutant's line makes, or what is made of that; none where the
        line makes nothing that has a name."""
        names: set[str] = set()
        more = _made_at(mutant)
        while more:
            names |= more
            more = set().union(*(self.makes[name] for name in more)) - names
        return set().union(*(self.uses[name] for name in names))

    def told_in(self, mutant: Mutant) -> set[str]:
        """Tests that name themselves what that statement makes."""
        return set().union(*(self.tests[name] for name in _made_at(mutant)))


def _made_at(mutant: Mutant) -> set[str]:
    """Return the names that the statement at a mutant's line binds."""
    within = [
        s
        for s in _read_once(ast.parse((ROOT / mutant.module).read_text()))
        if s.lineno <= mutant.line <= (s.end_lineno or s.lineno)
    ]
    return _made_by(within[-1]) if within else set()


def _told_in(module: Path) -> dict[str, set[str]]:
    """Return which tests of a file name what; what is named beside them, all of them do."""
    tree, file = ast.parse(module.read_text()), module.relative_to(ROOT)
    tests = [s for s in tree.body if isinstance(s, ast.FunctionDef) and s.name.startswith("test_")]
    every = {f"{file}::{test.name}" for test in tests}
    found: dict[str, set[str]] = defaultdict(set)
    for statement in tree.body:
        if isinstance(statement, ast.Import | ast.ImportFrom):
            continue
        of = {f"{file}::{statement.name}"} if statement in tests else every  # type: ignore[attr-defined]
        for node in ast.walk(statement):
            if name := getattr(node, "id", None) or getattr(node, "attr", None):
                found[name] |= of
    return found


def _read_once(tree: ast.Module | ast.ClassDef) -> Iterator[ast.stmt]:
    """Yield what runs when a module is read, classes before what is in them."""
    for statement in tree.body:
        yield statement
        if isinstance(statement, ast.ClassDef):
            yield from _read_once(statement)


def _made_by(statement: ast.stmt) -> set[str]:
    """Return the names that a statement binds."""
    if isinstance(statement, ast.FunctionDef | ast.ClassDef):
        return {statement.name}
    targets = getattr(statement, "targets", None) or [getattr(statement, "target", None)]
    return {n.id for t in targets if t is not None for n in ast.walk(t) if isinstance(n, ast.Name)}
