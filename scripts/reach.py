"""Which tests of the core run which of its lines, and how long they take."""

from __future__ import annotations

import hashlib
import json
import os
import subprocess
import sys
from collections import defaultdict
from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

from coverage import CoverageData

from scripts.faults import CORE, ROOT, Mutant
from scripts.names import Names

KEPT = ROOT / "build/reach"
"""What was found of a file of tests is kept, and is good as long as neither it nor the core changes."""


@dataclass(frozen=True)
class Reach:
    """Which test functions run which line of the core, and the seconds each takes (watched, which takes
    longer)."""

    lines: dict[str, dict[int, set[str]]]
    seconds: dict[str, float]
    names: Names

    def of(self, mutant: Mutant, read_once: bool) -> set[str]:
        """Return the tests that a mutant may fail; all, where nothing tells which."""
        if read_once:
            found = [self.lines.get(file, {}).get(n, set()) for file, n in self.names.lines(mutant)]
            tests = set().union(*found, self.told(mutant))
        else:
            known = self.lines.get(str(mutant.module), {})
            # A line that goes on from another is counted with the line where it begins.
            begun = [line for line in known if line <= mutant.line]
            tests = known[max(begun)] if begun else set()
        return tests or set(self.seconds)

    def told(self, mutant: Mutant) -> set[str]:
        """Return the tests that name what a mutant changes, where that is worked out once."""
        return self.names.told_in(mutant) & self.seconds.keys()


def surroundings(tree: Path) -> dict[str, str]:
    """With the same examples each time, whether a mutant lives can be looked at again."""
    return {
        **os.environ,
        "PYTHONPATH": str(tree),
        "QT_QPA_PLATFORM": "offscreen",
        "CI": "1",
        "OMP_NUM_THREADS": "1",
    }


def reach(tree: Path, tests: Iterable[str]) -> Reach:
    """Run files of tests once, watched."""
    KEPT.mkdir(parents=True, exist_ok=True)
    (tree / "coverage.ini").write_text("[run]\nsource = bambola/core\nrelative_files = true\n")
    with ThreadPoolExecutor(os.cpu_count()) as pool:
        found = list(pool.map(lambda test: _watched(tree, test), tests))
    lines: dict[str, dict[int, set[str]]] = defaultdict(lambda: defaultdict(set))
    seconds: dict[str, float] = {}
    for each in found:
        seconds |= each["seconds"]
        for file, by_line in each["lines"].items():
            for line, names in by_line.items():
                lines[file][int(line)].update(names)
    return Reach(lines, seconds, Names())


def state_of(tests: Iterable[Path]) -> str:
    """Return a sign of the core and of files of tests, which is another where anything in them is."""
    files = [*sorted(CORE.rglob("*.py")), *sorted(tests)]
    return hashlib.sha256(b"".join(path.read_bytes() for path in files)).hexdigest()[:16]


def kept(find: Callable[[], dict[str, Any]], where: Path) -> dict[str, Any]:
    """Return what was found before, or is found now."""
    if not where.exists():
        where.write_text(json.dumps(find()))
    found: dict[str, Any] = json.loads(where.read_text())
    return found


def _watched(tree: Path, test: str) -> dict[str, Any]:
    name = Path(test).stem
    return kept(lambda: _watch(tree, test, name), KEPT / f"{name}-{state_of([ROOT / test])}.json")


def _watch(tree: Path, test: str, name: str) -> dict[str, Any]:
    data, timings = tree / f"{name}.coverage", tree / f"{name}.xml"
    subprocess.run(
        [sys.executable, "-m", "coverage", "run", f"--rcfile={tree / 'coverage.ini'}",
         f"--data-file={data}", "-m", "pytest", "-q", "-p", "no:cacheprovider", "-p", "scripts.watched",
         f"--junit-xml={timings}", test],
        cwd=tree, env=surroundings(tree), check=True, stdout=subprocess.DEVNULL,
    )  # fmt: skip
    seconds: dict[str, float] = defaultdict(float)
    for case in ElementTree.parse(timings).iter("testcase"):
        function = str(case.get("name")).partition("[")[0]
        seconds[f"{_file(str(case.get('classname')))}::{function}"] += float(case.get("time", 0))
    covered = CoverageData(str(data))
    covered.read()
    lines = {
        file: {
            line: sorted(test for test in tests if test in seconds)
            for line, tests in covered.contexts_by_lineno(file).items()
        }
        for file in covered.measured_files()
    }
    return {"lines": lines, "seconds": seconds}


def _file(module: str) -> str:
    return f"{module.replace('.', '/')}.py"
