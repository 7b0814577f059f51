"""Run the tests near to what differs from main, for daily work: ``make near``.

Near is each changed file of tests, and each test that runs a changed line of the core, as
``scripts/reach.py`` last saw it (``make mutants`` keeps that in ``build/reach``). For other modules, and
where nothing was kept, it is each test whose file imports a changed module, or imports one that does.
``--list`` only prints them; ``BASE`` is what to compare with.
"""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
from collections import defaultdict
from collections.abc import Iterator
from pathlib import Path

import grimp

from scripts.faults import ROOT
from scripts.reach import KEPT

_HUNK = re.compile(r"^@@ -(\d+)(?:,(\d+))? ")


def _git(*arguments: str) -> str:
    done = subprocess.run(["git", *arguments], cwd=ROOT, check=True, capture_output=True, text=True)
    return done.stdout


def changed_lines() -> dict[str, set[int]]:
    """Return the changed Python files, and the lines of each as they were before."""
    base = os.environ.get("BASE") or _git("merge-base", "HEAD", "main").strip()
    found: dict[str, set[int]] = defaultdict(set)
    file = ""
    for line in _git("diff", "-U0", "--no-renames", base, "--", "*.py").splitlines():
        if line.startswith("diff --git "):
            file = line.rpartition(" b/")[2]
            found[file] |= set()
        elif hunk := _HUNK.match(line):
            first, count = int(hunk[1]), int(hunk[2] or 1)
            found[file] |= set(range(first, first + max(1, count)))
    for file in _git("ls-files", "--others", "--exclude-standard", "*.py").splitlines():
        found[file] |= set()
    return found


def tests_of_lines(lines: dict[str, set[int]]) -> Iterator[tuple[str, str]]:
    """Yield each changed file whose reach is known, with a test that runs a changed line of it."""
    newest: dict[str, Path] = {}
    for path in sorted(KEPT.glob("test_*-*.json"), key=lambda path: path.stat().st_mtime):
        newest[path.name.rpartition("-")[0]] = path
    for path in newest.values():
        for file, by_line in json.loads(path.read_text())["lines"].items():
            for line, tests in by_line.items() if file in lines else ():
                if int(line) in lines[file]:
                    yield from ((file, test) for test in tests)


def tests_of_imports(modules: set[str]) -> set[str]:
    """Return the files of tests that import one of ``modules``, or import one that does."""
    graph = grimp.build_graph("bambola", "tests")
    known = modules & set(graph.modules)
    importers = {one for module in known for one in graph.find_modules_that_directly_import(module)}
    further = {
        one
        for module in importers - modules
        if not module.startswith("tests.")
        for one in graph.find_modules_that_directly_import(module)
    }
    names = {one.rpartition(".")[2]: one for one in importers | further}
    return {f"{at.replace('.', '/')}.py" for name, at in names.items() if name.startswith("test_")}


def near() -> list[str]:
    """Return the tests to run, as pytest takes them."""
    lines = changed_lines()
    there = {file for file in lines if (ROOT / file).exists()}
    chosen = {file for file in there if Path(file).name.startswith("test_")}
    reached = set(tests_of_lines(lines))
    told = {file for file, _ in reached}
    modules = {
        file.removesuffix(".py").removesuffix("/__init__").replace("/", ".")
        for file in there - told
        if file.startswith(("bambola/", "tests/")) and file not in chosen
    }
    whole = chosen | tests_of_imports(modules)
    single = {test for _, test in reached if test.partition("::")[0] not in whole}
    return sorted(whole | {test for test in single if (ROOT / test.partition("::")[0]).exists()})


def main() -> int:
    """Print the tests, and run them unless only asked to list them."""
    tests = near()
    print(f"{len(tests)} files and tests are near.", *tests, sep="\n  ", flush=True)
    if "--list" in sys.argv or not tests:
        return 0
    run = [sys.executable, "-m", "pytest", "-n", "auto", "--dist", "worksteal", *tests]
    return subprocess.run(run, cwd=ROOT, check=False).returncode


if __name__ == "__main__":
    sys.exit(main())
