"""How many small faults in rooms of the core its tests notice: ``make mutants ROOM="wool tape"``.

Seeded mutants of a room's modules are made one after the other, and tests that run the changed line are
tried on each, first those that have noticed most for the time they take: in a process forked from one that
has read and collected all of them, in which the code of the function is exchanged. ``N`` is how many (300),
``SEED`` which (1), ``TESTS`` the files of tests (all of the core's). Each is tried for up to twenty seconds
of tests, with ``WHOLE=1`` on all that run its line: what is said is the least that is noticed. Those that
change nothing are listed in ``scripts/equivalent_mutants.txt``, a line each as this prints them, and do not
count.

Who lives so far stands in ``build/reach/living-ROOM.txt``. Who was noticed once counts as long as the core is
as it was, and is not tried again: tests are taken to grow only. ``rm -r build/reach`` begins anew.

What a test module keeps for all its tests is seen with the first of them only, so a mutant may be said to
live that the whole suite would notice, never the other way round.
"""

from __future__ import annotations

import gc
import importlib
import itertools
import json
import math
import multiprocessing
import os
import random
import re
import resource
import shutil
import signal
import sys
import tempfile
import time
from collections import Counter, defaultdict
from collections.abc import Generator, Iterable, Iterator
from dataclasses import dataclass, field
from multiprocessing.connection import Connection, wait
from multiprocessing.process import BaseProcess
from pathlib import Path
from typing import Any

import grimp
import pytest
from hypothesis import Phase, settings
from scipy.stats import binomtest

from scripts.faults import ROOT, Instead, Mutant, functions, graft, grafts, module_name, sites
from scripts.names import TESTS
from scripts.reach import KEPT, Reach, reach, state_of, surroundings

EQUIVALENT = Path(__file__).with_name("equivalent_mutants.txt")
COUNT, SEED = int(os.environ.get("N", "300")), int(os.environ.get("SEED", "1"))
WHOLE = bool(os.environ.get("WHOLE"))
ENOUGH = 0.85
BUDGETS = (2.0, 6.0, 12.0, math.inf)
"""For so many more seconds of tests a mutant is tried in each round. Once enough are noticed no more are
tried, unless ``WHOLE=1`` asks for all. Of sight's, whose tests are slow, five seconds left 69 and twenty 45;
of the wool's 55 and ten 54."""
WHOLE_PLAN = "bambola.core.plan.make"
"""What tests without a fault have to work out themselves, as those of most rooms' faults have."""
PATIENCE_S, TIMES = 10.0, 5.0
"""A test that takes so long and so many times as long as without a fault never ends. Judged."""
MEMORY_BYTES = 8 << 30
"""Nor does a fault that fills the machine. Judged."""
QUIET = (
    "-q",
    "-x",
    "-s",
    "-p",
    "no:cacheprovider",
    "-W",
    "ignore::pytest.PytestAssertRewriteWarning",
)
"""Hypothesis is there before pytest can rewrite its assertions, which it does not need."""
NEAR, FAR, TRIED, START_S = 0.3, 0.03, 3, 0.05
"""Before anything is known a test that names the room is thought to notice a tenth of its faults, any other a
hundredth, as if each had been tried three times; beginning one takes a moment. Judged."""
FEW = 20
"""Tests that name what a mutant changes come first, unless they are so many that it says nothing. Judged."""
PRELOADED = (
    *("cv2", "embreex.rtcore_scene", "hypothesis", "icalendar", "manifold3d", "numpy", "pydantic"),
    *("pytest", "reportlab.pdfgen.canvas", "shapely"),
    *("scipy.interpolate", "scipy.ndimage", "scipy.optimize", "scipy.spatial", "scipy.stats"),
)
"""Packages of others that a test's process has when it is forked, which spares a second a mutant."""


@dataclass
class Experience:
    """Which tests have noticed faults of a room, and so which are the best to ask of another."""

    room: str
    reach: Reach
    noticed: Counter[str] = field(default_factory=Counter)
    tried: Counter[str] = field(default_factory=Counter)
    passed: dict[Mutant, set[str]] = field(default_factory=lambda: defaultdict(set))

    def __post_init__(self) -> None:
        names = re.compile(rf"from bambola\.core\.{self.room}\b")
        files = {test.partition("::")[0] for test in self.reach.seconds}
        self._near = {f for f in files if names.search((ROOT / f).read_text(encoding="utf-8"))}

    def left(self, mutant: Mutant) -> set[str]:
        """Return the tests for a mutant that have not been tried on it."""
        source = (ROOT / mutant.module).read_text()
        tests = self.reach.of(mutant, grafts(mutant, source, str(mutant.module)) is None)
        return tests - self.passed[mutant]

    def order(self, mutant: Mutant, budget: float) -> list[str]:
        """Return those of them first that may be thought to notice most in a second, for so many seconds."""
        told = self.reach.told(mutant)
        if len(told) > FEW:
            told = set()
        order = sorted(
            self.left(mutant), key=lambda test: (test not in told, -self._worth(test), test)
        )
        spent = itertools.accumulate(self.reach.seconds[test] for test in order)
        return [
            test
            for n, (test, s) in enumerate(zip(order, spent, strict=True))
            if not n or s < budget
        ]

    def _worth(self, test: str) -> float:
        before = NEAR if test.partition("::")[0] in self._near else FAR
        chance = (self.noticed[test] + before) / (self.tried[test] + TRIED)
        return chance / (self.reach.seconds[test] + START_S)

    def told(self, living: Iterable[Mutant]) -> list[str]:
        """Return those that live, each with whether there are tests left to try on it."""
        return [f"  {'not yet' if self.left(m) else 'lives'}: {m.told}" for m in living]

    def learn(self, mutant: Mutant, order: list[str], by: str | None) -> None:
        """These were tried on a mutant, one after the other, until one noticed it."""
        last = order.index(by) if by in order else len(order)
        self.tried.update(order[: last + 1])
        self.noticed.update([by] if by else [])
        self.passed[mutant].update(order[:last])


@dataclass(frozen=True)
class Trial:
    """A fault, or none, on tests in this order, in a process of its own."""

    mutant: Mutant | None
    order: list[str]
    process: BaseProcess
    hear: Connection
    took: dict[str, float] = field(default_factory=dict)

    def by(self) -> str | None:
        """Return the test that noticed it, "" where the process did not live to tell; None where none has."""
        try:
            said = self.hear.recv()
        except EOFError:
            return ""
        if isinstance(said, str):
            return said
        self.took.update(said)
        return None


class Watch:
    """A plugin of pytest that ends the process at the first failure and says which, ends a test that takes
    too long, and says at last how many seconds each took with all that it was set up with."""

    def __init__(self, say: Connection, seconds: dict[str, float]) -> None:
        self.say, self.seconds = say, seconds
        self.shared: dict[str, float] = {}
        self.took: dict[str, float] = defaultdict(float)
        self._making = 0.0

    def pytest_runtest_setup(self, item: pytest.Item) -> None:
        longest = PATIENCE_S + TIMES * self.seconds[function_of(item)]
        signal.setitimer(signal.ITIMER_PROF, longest)
        signal.setitimer(signal.ITIMER_REAL, 4 * longest)

    @pytest.hookimpl(wrapper=True)
    def pytest_fixture_setup(self, fixturedef: pytest.FixtureDef[Any]) -> Generator[None, Any, Any]:
        begun = time.monotonic()
        made = yield
        if fixturedef.scope != "function":
            self.shared[fixturedef.argname] = time.monotonic() - begun
            self._making += self.shared[fixturedef.argname]
        return made

    @pytest.hookimpl(wrapper=True)
    def pytest_runtest_protocol(self, item: pytest.Function) -> Generator[None, Any, Any]:
        begun, self._making = time.monotonic(), 0.0
        done = yield
        self.took[function_of(item)] += time.monotonic() - begun - self._making
        self.took[function_of(item)] += sum(
            self.shared.get(name, 0.0) for name in item.fixturenames
        )
        return done

    def pytest_runtest_logreport(self, report: pytest.TestReport) -> None:
        if report.failed:
            self.say.send(function_of(report))
            os._exit(1)


class Trials:
    """A plugin of pytest that tries faults where tests would be run."""

    def __init__(self, tree: Path, known: Reach, rooms: list[str]) -> None:
        self.tree, self.reach, self.rooms = tree, known, rooms
        self.items: dict[str, list[pytest.Item]] = defaultdict(list)
        self.there = functions()
        self.imports = grimp.build_graph("bambola", cache_dir=None)
        self.poor: list[str] = []

    def pytest_runtestloop(self, session: pytest.Session) -> bool:
        for item in session.items:
            self.items[function_of(item)].append(item)
        importlib.import_module(
            "tests.core.kept_plans"
        ).written()  # what is remembered of it, is found once
        gc.freeze()  # so that a process that is forked need not copy what it only looks at
        self.reach.seconds.update(self._sound())
        self.poor = [room for room in self.rooms if not self._enough(room)]
        return True

    def _sound(self) -> dict[str, float]:
        """Return how many seconds each test takes where no fault is made; all must pass. Kept by file."""
        files = itertools.groupby(sorted(self.items), key=lambda test: test.partition("::")[0])
        seconds: dict[str, float] = {}
        left = []
        for file, tests in files:
            where = _sound_of(file)
            if where.exists():
                seconds |= json.loads(where.read_text())
            else:
                left.append(list(tests))
        for trial in self._ended((None, tests) for tests in left):
            if (by := trial.by()) is not None:
                raise pytest.UsageError(f"A test fails with no fault made: {by or trial.order[0]}.")
            _sound_of(trial.order[0].partition("::")[0]).write_text(json.dumps(trial.took))
            seconds |= trial.took
        return seconds

    def _enough(self, room: str) -> bool:
        """Try a room's; whether enough of them are noticed."""
        every, chosen = seeded(room)
        listed = set(EQUIVALENT.read_text().splitlines())
        counted = [mutant for mutant in chosen if mutant.told not in listed]
        once = KEPT / f"noticed-{room}-{state_of([])}.json"
        before = set(json.loads(once.read_text())) if once.exists() else set()
        known = Experience(room, self.reach)
        living = [mutant for mutant in counted if mutant.told not in before]
        for budget in BUDGETS if WHOLE else BUDGETS[:-1]:
            self._round(known, living, budget, len(counted) - math.floor(ENOUGH * len(counted)))
            said = f"{room}: {len(living)} of {len(counted)} live so far"
            (KEPT / f"living-{room}.txt").write_text("\n".join([said, *known.told(living), ""]))
            noticed = before | {m.told for m in counted} - {m.told for m in living}
            once.write_text(json.dumps(sorted(noticed)))
            print(said, file=sys.stderr)
        print(*known.told(living), sep="\n")
        if not counted:
            print(f"{room}: no mutant of {len(chosen)} changes anything", flush=True)
            return True
        rate = binomtest(len(counted) - len(living), len(counted))
        low, high = rate.proportion_ci(method="wilson")
        print(
            f"{room}: {rate.k} of {rate.n} mutants noticed, {rate.statistic:.0%} "
            f"(95 %: {low:.0%} to {high:.0%}); {len(chosen) - len(counted)} change nothing; "
            f"{every} in all, seed {SEED}",
            flush=True,
        )
        return bool(rate.statistic > ENOUGH)

    def _round(self, known: Experience, living: list[Mutant], budget: float, few: int) -> None:
        """Take from ``living`` whoever is noticed in so many seconds more, till fewer than ``few`` live."""

        def is_asked() -> bool:
            return WHOLE or len(living) >= few

        asked = (
            (mutant, order)
            for mutant in list(living)
            if is_asked() and (order := known.order(mutant, budget))
        )
        for trial in self._ended(asked):
            assert trial.mutant is not None
            by = trial.by()
            known.learn(trial.mutant, trial.order, by)
            if by is not None:
                living.remove(trial.mutant)

    def _ended(self, asked: Iterable[tuple[Mutant | None, list[str]]]) -> Iterator[Trial]:
        """Trials as they end, as many at a time as there are processors."""
        fork = multiprocessing.get_context("fork")
        running: dict[int, Trial] = {}
        try:
            for mutant, order in asked:
                hear, say = fork.Pipe(duplex=False)
                process = fork.Process(target=self._try, args=(mutant, order, say))
                process.start()
                say.close()
                running[process.sentinel] = Trial(mutant, order, process, hear)
                if len(running) == os.cpu_count():
                    yield from self._first(running)
            while running:
                yield from self._first(running)
        finally:
            for trial in running.values():
                trial.process.kill()

    def _first(self, running: dict[int, Trial]) -> list[Trial]:
        ended = wait(list(running))
        return [running.pop(sentinel) for sentinel in list(running) if sentinel in ended]

    def _try(self, mutant: Mutant | None, order: list[str], say: Connection) -> None:
        """What a forked process does."""
        quiet = os.open(os.devnull, os.O_WRONLY)
        os.dup2(quiet, 1)
        os.dup2(quiet, 2)
        resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
        watch = Watch(say, self.reach.seconds)
        self._forget(mutant)
        if mutant is None or self._graft(mutant):
            items = [item for test in order for item in self.items[test]]
            items[0].config.pluginmanager.register(watch)
            for item, following in itertools.zip_longest(items, items[1:]):
                item.ihook.pytest_runtest_protocol(item=item, nextitem=following)
            say.send(dict(watch.took))
            os._exit(0)
        # Read the package and its tests anew, with the fault in the file.
        for name in [n for n in sys.modules if n.split(".")[0] in ("bambola", "tests")]:
            del sys.modules[name]
        sys.meta_path.insert(0, Instead(mutant))
        if pytest.main([*QUIET, *order], plugins=[watch]) == 0:
            say.send(dict(watch.took))
        os._exit(0)

    def _forget(self, mutant: Mutant | None) -> None:
        """Let go what was found by functions that go by the module of a fault; the rest is as it would be."""
        memory = importlib.import_module("bambola.core.memo").current_memory()
        known = dict(memory.results)
        memory.forget()
        fault = module_name(mutant.module) if mutant else WHOLE_PLAN
        memory.results.update(
            (function, results)
            for function, results in known.items()
            if fault != function.__module__
            and fault not in self.imports.find_upstream_modules(function.__module__)
        )

    def _graft(self, mutant: Mutant) -> bool:
        path = self.tree / mutant.module
        changed = grafts(mutant, path.read_text(), str(path))
        return changed is not None and graft(changed, self.there)


def seeded(room: str) -> tuple[int, list[Mutant]]:
    """Return how many mutants a room has, and those of them that are tried."""
    every = list(sites(room))
    random.Random(SEED).shuffle(every)
    found = (mutant for site in every if (mutant := site.mutant()) is not None)
    return len(every), list(itertools.islice(found, COUNT))


def _sound_of(file: str) -> Path:
    return KEPT / f"without-{Path(file).stem}-{state_of([ROOT / file])}.json"


def function_of(test: pytest.Item | pytest.TestReport) -> str:
    """Return the name of a test without its case."""
    return test.nodeid.partition("[")[0]


def _copied(tree: Path) -> Path:
    for part in ("bambola", "tests", "scripts", "docs", "benchmarks"):
        shutil.copytree(ROOT / part, tree / part, ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copy(ROOT / "pyproject.toml", tree)
    return tree


def _read(tree: Path, tests: list[str]) -> None:
    """Read the package and its tests as they are, once for all processes that are forked."""
    for name in PRELOADED:
        importlib.import_module(name)
    os.environ.update(surroundings(tree))
    os.chdir(tree)
    sys.path.insert(0, str(tree))
    importlib.import_module("tests.conftest")
    # That an example fails is enough; the shortest need not be looked for.
    phases = (Phase.explicit, Phase.generate)
    settings.register_profile("first", settings.get_profile("bambola"), phases=phases)
    settings.load_profile("first")
    for test in tests:
        importlib.import_module(test.removesuffix(".py").replace("/", "."))


def main() -> int:
    """Try the mutants of rooms; nought if more than 85 % of each are noticed."""
    every = (str(path.relative_to(ROOT)) for path in TESTS.glob("test_*.py"))
    tests = os.environ["TESTS"].split() if "TESTS" in os.environ else sorted(every)
    with tempfile.TemporaryDirectory() as scratch:
        tree = _copied(Path(scratch))
        known = reach(tree, tests)
        _read(tree, tests)
        trials = Trials(tree, known, sys.argv[1:])
        done = pytest.main([*QUIET, *tests], plugins=[trials])
    return int(done) or len(trials.poor)


if __name__ == "__main__":
    sys.exit(main())
