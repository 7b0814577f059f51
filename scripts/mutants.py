"""How many small faults in a room of the core its tests notice: ``make mutants ROOM=wool``.

Seeded mutants of the room's modules are made one after the other, and those of the room's tests that
run the changed line are tried on each, the quickest first: in a process forked from one that has read all of
them, in which the code of the function is exchanged. ``N`` is how many (300), ``SEED`` which (1). Those that
change nothing are listed in ``scripts/equivalent_mutants.txt``, a line each as this prints them, and do not
count.

What a test module keeps for all its tests is seen with the first of them only, so a mutant may be said to
live that the whole suite would notice, never the other way round.
"""

from __future__ import annotations

import gc
import importlib
import itertools
import multiprocessing
import os
import random
import re
import shutil
import subprocess
import sys
import tempfile
import time
from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from importlib.abc import MetaPathFinder
from importlib.machinery import ModuleSpec, PathFinder, SourceFileLoader
from inspect import CO_OPTIMIZED
from multiprocessing.connection import wait
from multiprocessing.process import BaseProcess
from pathlib import Path
from types import CodeType, FunctionType
from xml.etree import ElementTree

from cosmic_ray.ast import ast_nodes, get_ast_from_path
from cosmic_ray.mutating import mutate_code
from cosmic_ray.plugins import get_operator, operator_names
from coverage import CoverageData
from scipy.stats import binomtest

ROOT = Path(__file__).parents[1]
EQUIVALENT = Path(__file__).with_name("equivalent_mutants.txt")
ALSO = {
    "wool": ("weighing",),
    "armature": ("armature_balance", "strips"),
    "balance": ("armature_balance", "notices"),
    "resize": ("small_choices", "notices", "changes", "armature_balance"),
    "order": ("sequencer",),
    "words": ("saying",),
    "export": ("packet",),
    "plan": ("plan", "notices", "moving", "measuring", "routes"),
    "figure": ("additions", "document", "hostile", "placement", "resize", "measuring"),
    "bench": ("document", "hostile", "shelf", "order_laws"),
}
"""Tests that are about a room without naming it, besides those that do."""
SLOW = ("hostile", "measuring", "packet", "plan", "saying")
"""Tests of everything at once, which take longer than all the rest: they are asked of their own rooms."""
FRONT = ("plan", "figure", "bench")
"""Rooms by whose front door every test goes: theirs are those that go further in."""
KINDS = ("ReplaceBinaryOperator", "ReplaceComparisonOperator", "ReplaceUnaryOperator", "NumberReplacer",
         "AddNot", "ReplaceAndWithOr", "ReplaceOrWithAnd", "ReplaceTrueWithFalse", "ReplaceFalseWithTrue",
         "ZeroIterationForLoop", "ReplaceBreakWithContinue", "ReplaceContinueWithBreak")  # fmt: skip
UNLIKELY = ("BitOr", "BitAnd", "BitXor", "Shift", "_Is", "Invert")
"""Bars are mostly between types, which nothing reads at run time; shifts and complements are no slips."""
GUARDS = re.compile(r"(strict|frozen|slots)=(True|False)|@remembered\(\s*\d+\)")
"""What guards against slips of whoever writes the program, or says how much is kept: it computes nothing."""
PATIENCE_S, TIMES = 20.0, 5.0
"""A mutant whose tests take this long and so many times as long as without it never ends."""
PRELOADED = (
    *("cv2", "embreex.rtcore_scene", "hypothesis", "icalendar", "manifold3d", "numpy", "pydantic"),
    *("pytest", "reportlab.pdfgen.canvas", "shapely"),
    *("scipy.interpolate", "scipy.ndimage", "scipy.optimize", "scipy.spatial", "scipy.stats"),
)
"""Packages of others that a test's process has when it is forked, which spares a second a mutant."""


@dataclass(frozen=True)
class Mutant:
    """One small fault: where, and the line before and after."""

    module: Path
    line: int
    code: str
    told: str


@dataclass(frozen=True)
class Site:
    """Where a fault can be made: the ``n``-th place in a module for one kind of slip."""

    module: Path
    slip: str
    n: int

    def mutant(self) -> Mutant | None:
        """The fault; None where it would change nothing that is computed."""
        source = self.module.read_text()
        code = mutate_code(source, get_operator(self.slip)(), self.n)
        if code is None or GUARDS.sub("", code) == GUARDS.sub("", source):
            return None
        return _mutant(self.module.relative_to(ROOT), source, code)


def sites(room: str) -> Iterator[Site]:
    """Every place of a room where a fault can be made."""
    slips = [
        n
        for n in operator_names()
        if any(k in n for k in KINDS) and not any(u in n for u in UNLIKELY)
    ]
    for module in sorted((ROOT / "bambola/core" / room).rglob("*.py")):
        nodes = list(ast_nodes(get_ast_from_path(module)))
        for slip in slips:
            operator = get_operator(slip)()
            count = sum(len(list(operator.mutation_positions(node))) for node in nodes)
            yield from (Site(module, slip, n) for n in range(count))


def _mutant(module: Path, before: str, after: str) -> Mutant:
    pairs = zip(before.splitlines(), after.splitlines(), strict=False)
    line, (old, new) = next((n, p) for n, p in enumerate(pairs, 1) if p[0] != p[1])
    told = f"{module}:{line}: {' '.join(old.split())} -> {' '.join(new.split())}"
    return Mutant(module, line, after, told)


@dataclass(frozen=True)
class Reach:
    """Which test functions run which line of a room, the quickest first."""

    lines: dict[str, dict[int, list[str]]]
    every: list[str]
    seconds: dict[str, float]

    def of(self, mutant: Mutant) -> list[str]:
        """The tests to try on a mutant; all, where the line runs when the module is read."""
        known = self.lines.get(str(mutant.module), {})
        # A line that goes on from another is counted with the line where it begins.
        begun = [line for line in known if line <= mutant.line]
        return known[max(begun)] if begun and known[max(begun)] else self.every

    def patience(self, tests: list[str]) -> float:
        """How long the tests may take, in seconds."""
        return PATIENCE_S + TIMES * sum(self.seconds[test] for test in tests)


_FORGETFUL = """
from bambola.core.memo import memory

def pytest_runtest_setup(item):
    memory().forget()  # else a test would not be seen to run what an earlier one has found
"""


def reach(tree: Path, room: str, tests: list[str]) -> Reach:
    """Run the room's tests once, watched."""
    settings, timings = tree / "coverage.ini", tree / "timings.xml"
    settings.write_text(
        f"[run]\ndynamic_context = test_function\nsource = bambola/core/{room}\nrelative_files = true\n"
    )
    (tree / "forgetful.py").write_text(_FORGETFUL)
    subprocess.run(
        [sys.executable, "-m", "coverage", "run", f"--rcfile={settings}", "-m", "pytest", "-q",
         "-p", "no:cacheprovider", "-p", "forgetful", f"--junit-xml={timings}", *tests],
        cwd=tree, env=_surroundings(tree), check=True, stdout=subprocess.DEVNULL,
    )  # fmt: skip
    seconds: dict[str, float] = defaultdict(float)
    for case in ElementTree.parse(timings).iter("testcase"):
        name = str(case.get("name")).partition("[")[0]
        seconds[f"{case.get('classname')}.{name}"] += float(case.get("time", 0))
    took = {_node_id(context): each for context, each in seconds.items()}
    data = CoverageData(str(tree / ".coverage"))
    data.read()
    lines = {
        file: {
            line: _quickest([_node_id(c) for c in contexts if c in seconds], took)
            for line, contexts in sorted(data.contexts_by_lineno(file).items())
        }
        for file in data.measured_files()
    }
    return Reach(lines, _quickest(list(took), took), took)


def _quickest(tests: list[str], took: dict[str, float]) -> list[str]:
    return sorted(tests, key=lambda test: took[test])


def _node_id(context: str) -> str:
    module, _, test = context.rpartition(".")
    return f"{module.replace('.', '/')}.py::{test}"


def _surroundings(tree: Path) -> dict[str, str]:
    # With the same examples each time, whether a mutant lives can be looked at again.
    return {
        **os.environ,
        "PYTHONPATH": str(tree),
        "QT_QPA_PLATFORM": "offscreen",
        "CI": "1",
        "OMP_NUM_THREADS": "1",
    }


def _code_of(outer: CodeType, within: str = "") -> Iterator[tuple[str, CodeType]]:
    """Every piece of code in a module's, by where it is."""
    for n, code in enumerate(c for c in outer.co_consts if isinstance(c, CodeType)):
        where = f"{within}/{n}:{code.co_name}"
        yield where, code
        yield from _code_of(code, where)


def _runs_when_read(code: CodeType) -> bool:
    """Whether it is of a module or class, which no caller runs again."""
    return not code.co_flags & CO_OPTIMIZED


def _own(code: CodeType) -> tuple[object, ...]:
    """What a piece of code does itself, without what is nested in it."""
    consts = tuple(repr(c) for c in code.co_consts if not isinstance(c, CodeType))
    return code.co_code, code.co_names, code.co_varnames, consts


def grafts(mutant: Mutant, source: str, path: str) -> dict[CodeType, CodeType] | None:
    """The code of functions to put in place of what was read, so that nothing need be read again; None where
    the fault is in what runs when the module is read."""
    old, new = (compile(text, path, "exec") for text in (source, mutant.code))
    before, after = dict(_code_of(old)), dict(_code_of(new))
    if _own(old) != _own(new) or before.keys() != after.keys():
        return None
    changed = [(where, a, after[where]) for where, a in before.items() if a != after[where]]
    for where, a, b in changed:
        outer = where.rpartition("/")[0]
        read_once = a.co_name.startswith("<") and (not outer or _runs_when_read(before[outer]))
        if (_runs_when_read(a) and _own(a) != _own(b)) or read_once:
            return None
    return {a: b for _, a, b in changed if not _runs_when_read(a)}


def _graft(changed: dict[CodeType, CodeType]) -> int:
    """Put code in place wherever it is used; how often."""
    count = 0
    for function in [f for f in gc.get_objects() if isinstance(f, FunctionType)]:
        if (new := changed.get(function.__code__)) is not None:
            function.__code__ = new
            count += 1
    return count


def _tests_pass(tree: Path, mutant: Mutant, tests: list[str]) -> None:
    """What a forked process does; its exit code is pytest's."""
    quiet = os.open(os.devnull, os.O_WRONLY)
    os.dup2(quiet, 1)
    os.dup2(quiet, 2)
    import pytest

    path = tree / mutant.module
    changed = grafts(mutant, path.read_text(), str(path))
    if changed is None or _graft(changed) < 1:
        # Read the package and its tests anew, with the fault in the file.
        for name in [n for n in sys.modules if n.split(".")[0] in ("bambola", "tests")]:
            del sys.modules[name]
        sys.meta_path.insert(0, _Instead(mutant))
    else:
        importlib.import_module("bambola.core.memo").memory().forget()
    # Hypothesis is there before pytest can rewrite its assertions, which it does not need.
    options = [
        "-x",
        "-q",
        "-p",
        "no:cacheprovider",
        "-W",
        "ignore::pytest.PytestAssertRewriteWarning",
    ]
    os._exit(pytest.main([*options, *tests]))


class _Instead(MetaPathFinder):
    """Reads one module of the package from a mutant."""

    def __init__(self, mutant: Mutant) -> None:
        name = str(mutant.module.with_suffix("")).replace("/", ".")
        self.name, self.mutant = name.removesuffix(".__init__"), mutant

    def find_spec(self, name: str, path: object = None, target: object = None) -> ModuleSpec | None:
        if name != self.name:
            return None
        found = PathFinder.find_spec(name, path)  # type: ignore[arg-type]
        assert found is not None
        loader = SourceFileLoader(name, str(found.origin))
        loader.get_code = lambda _: compile(self.mutant.code, str(found.origin), "exec")  # type: ignore[method-assign]
        found.loader = loader
        return found


def lived(mutants: list[Mutant], tree: Path, known: Reach) -> Iterator[Mutant]:
    """Those that no test notices, as they are found; a test that never ends notices too."""
    fork = multiprocessing.get_context("fork")
    waiting = list(reversed(mutants))
    running: dict[int, tuple[BaseProcess, Mutant, float]] = {}  # until when each may run
    while waiting or running:
        while waiting and len(running) < (os.cpu_count() or 1):
            mutant = waiting.pop()
            tests = known.of(mutant)
            process = fork.Process(target=_tests_pass, args=(tree, mutant, tests))
            process.start()
            running[process.sentinel] = (process, mutant, time.monotonic() + known.patience(tests))
        ended = set(wait(list(running), timeout=1.0))
        for sentinel, (process, mutant, until) in list(running.items()):
            if sentinel not in ended and time.monotonic() < until:
                continue
            if sentinel not in ended:
                process.kill()
            process.join()
            del running[sentinel]
            if process.exitcode == 0:
                yield mutant


def _copied(tree: Path) -> Path:
    for part in ("bambola", "tests", "scripts", "docs"):
        shutil.copytree(ROOT / part, tree / part, ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copy(ROOT / "pyproject.toml", tree)
    return tree


def _read(tree: Path, tests: list[str]) -> None:
    """Read the package and its tests as they are, once for all processes that are forked."""
    os.environ.update(_surroundings(tree))
    os.chdir(tree)
    sys.path.insert(0, str(tree))
    for name in ("tests.conftest", *(test.removesuffix(".py").replace("/", ".") for test in tests)):
        importlib.import_module(name)


def tests_of(room: str) -> list[str]:
    """The tests of a room: those that import from it, what is listed besides, laws and plans as read."""
    naming = re.compile(rf"from bambola\.core\.{room}" + (r"\." if room in FRONT else r"\b"))
    found = {
        path.stem.removeprefix("test_")
        for path in (ROOT / "tests/core").glob("test_*.py")
        if naming.search(path.read_text(encoding="utf-8"))
    }
    names = sorted((found - set(SLOW)) | {"laws", "kept_plans", *ALSO.get(room, ())})
    return [f"tests/core/test_{name}.py" for name in names]


def main() -> int:
    """Try the mutants of one room; nought if more than 85 % are noticed."""
    room = sys.argv[1]
    count, seed = int(os.environ.get("N", "300")), int(os.environ.get("SEED", "1"))
    tests = tests_of(room)
    listed = set(EQUIVALENT.read_text().splitlines()) if EQUIVALENT.exists() else set()
    every = list(sites(room))
    random.Random(seed).shuffle(every)
    found = (mutant for site in every if (mutant := site.mutant()) is not None)
    chosen = list(itertools.islice(found, count))
    for name in PRELOADED:
        importlib.import_module(name)
    living: list[Mutant] = []
    with tempfile.TemporaryDirectory() as scratch:
        tree = _copied(Path(scratch))
        known = reach(tree, room, tests)
        _read(tree, tests)
        sound = Mutant(chosen[0].module, 0, (ROOT / chosen[0].module).read_text(), "nothing")
        if not list(lived([sound], tree, known)):
            print("The tests fail with no fault made.")
            return 2
        for mutant in lived(chosen, tree, known):
            living.append(mutant)
            if mutant.told not in listed:
                print(f"  lives: {mutant.told}", flush=True)
    equivalent = sum(m.told in listed for m in living)
    counted, noticed = len(chosen) - equivalent, len(chosen) - len(living)
    low, high = binomtest(noticed, counted).proportion_ci(method="wilson")
    print(
        f"{room}: {noticed} of {counted} mutants noticed, {noticed / counted:.0%} "
        f"(95 %: {low:.0%} to {high:.0%}); {equivalent} change nothing; {len(every)} in all, seed {seed}"
    )
    return 0 if noticed > 0.85 * counted else 1


if __name__ == "__main__":
    sys.exit(main())
