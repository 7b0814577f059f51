"""How many small faults in a room of the core its tests notice: ``make mutants ROOM=wool``.

Seeded mutants of the room's modules are made one after the other in copies of the tree, and the room's tests
run on each. ``N`` is how many (300), ``SEED`` which (1). Those that change nothing are listed in
``scripts/equivalent_mutants.txt``, a line each as this prints them, and do not count.
"""

from __future__ import annotations

import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from queue import SimpleQueue

from cosmic_ray.ast import ast_nodes, get_ast_from_path
from cosmic_ray.mutating import mutate_code
from cosmic_ray.plugins import get_operator, operator_names
from scipy.stats import binomtest

ROOT = Path(__file__).parents[1]
EQUIVALENT = Path(__file__).with_name("equivalent_mutants.txt")
TESTS = {
    "wool": ("wool", "weighing", "blanks", "learning", "pan", "shelf", "splitting"),
    "armature": ("wire", "armature_balance", "routes", "strips"),
    "balance": ("armature_balance", "standing", "notices"),
    "resize": ("resize", "notices", "changes", "armature_balance"),
    "order": ("order", "moving", "sequencer", "improving", "sittings", "week"),
    "solids": ("solids", "placement", "seating", "wool"),
}
KINDS = ("ReplaceBinaryOperator", "ReplaceComparisonOperator", "ReplaceUnaryOperator", "NumberReplacer",
         "AddNot", "ReplaceAndWithOr", "ReplaceOrWithAnd", "ReplaceTrueWithFalse", "ReplaceFalseWithTrue",
         "ZeroIterationForLoop", "ReplaceBreakWithContinue", "ReplaceContinueWithBreak")  # fmt: skip
UNLIKELY = ("BitOr", "BitAnd", "BitXor", "Shift", "_Is", "Invert")
"""Bars are mostly between types, which nothing reads at run time; shifts and complements are no slips."""
PATIENCE_S = 300.0


@dataclass(frozen=True)
class Mutant:
    """One small fault: where, and the line before and after."""

    module: Path
    code: str
    told: str


def mutants(room: str) -> Iterator[Mutant]:
    """Every mutant of a room."""
    names = [
        n
        for n in operator_names()
        if any(k in n for k in KINDS) and not any(u in n for u in UNLIKELY)
    ]
    for module in sorted((ROOT / "bambola/core" / room).glob("*.py")):
        source = module.read_text()
        tree = get_ast_from_path(module)
        for name in names:
            operator = get_operator(name)()
            count = sum(len(list(operator.mutation_positions(node))) for node in ast_nodes(tree))
            for n in range(count):
                code = mutate_code(source, operator, n)
                if code is not None and code != source:
                    yield Mutant(
                        module.relative_to(ROOT),
                        code,
                        _told(module.relative_to(ROOT), source, code),
                    )


def _told(module: Path, before: str, after: str) -> str:
    pairs = zip(before.splitlines(), after.splitlines(), strict=False)
    line, (old, new) = next((n, p) for n, p in enumerate(pairs, 1) if p[0] != p[1])
    return f"{module}:{line}: {' '.join(old.split())} -> {' '.join(new.split())}"


def is_noticed(tree: Path, mutant: Mutant, tests: list[str]) -> bool:
    """Whether a test fails, or never ends, with the mutant in the copy at ``tree``."""
    path = tree / mutant.module
    sound = path.read_text()
    path.write_text(mutant.code)
    command = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", *tests]
    # With the same examples each time, whether a mutant lives can be looked at again.
    env = {**os.environ, "PYTHONPATH": str(tree), "QT_QPA_PLATFORM": "offscreen", "CI": "1"}
    try:
        done = subprocess.run(
            command, cwd=tree, env=env, timeout=PATIENCE_S, check=False,
            stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
        )  # fmt: skip
        return done.returncode != 0
    except subprocess.TimeoutExpired:
        return True
    finally:
        path.write_text(sound)


def main() -> int:
    """Try the mutants of one room; nought if more than 85 % are noticed."""
    room = sys.argv[1]
    count, seed = int(os.environ.get("N", "300")), int(os.environ.get("SEED", "1"))
    tests = [f"tests/core/test_{name}.py" for name in ("laws", *TESTS[room])]
    known = set(EQUIVALENT.read_text().splitlines()) if EQUIVALENT.exists() else set()
    every = list(mutants(room))
    chosen = random.Random(seed).sample(every, min(count, len(every)))
    lived: list[str] = []
    equivalent = noticed = 0
    with tempfile.TemporaryDirectory() as scratch:
        trees: SimpleQueue[Path] = SimpleQueue()
        for n in range(os.cpu_count() or 1):
            tree = Path(scratch) / str(n)
            for part in ("bambola", "tests"):
                shutil.copytree(
                    ROOT / part, tree / part, ignore=shutil.ignore_patterns("__pycache__")
                )
            shutil.copy(ROOT / "pyproject.toml", tree)
            trees.put(tree)

        def tried(mutant: Mutant) -> bool:
            tree = trees.get()
            try:
                return is_noticed(tree, mutant, tests)
            finally:
                trees.put(tree)

        with ThreadPoolExecutor(os.cpu_count()) as pool:
            for mutant, found in zip(chosen, pool.map(tried, chosen), strict=True):
                noticed += found
                if not found and mutant.told in known:
                    equivalent += 1
                elif not found:
                    lived.append(mutant.told)
                    print(f"  lives: {mutant.told}", flush=True)
    counted = len(chosen) - equivalent
    low, high = binomtest(noticed, counted).proportion_ci(method="wilson")
    print(
        f"{room}: {noticed} of {counted} mutants noticed, {noticed / counted:.0%} "
        f"(95 %: {low:.0%} to {high:.0%}); {equivalent} change nothing; {len(every)} in all, seed {seed}"
    )
    return 0 if noticed > 0.85 * counted else 1


if __name__ == "__main__":
    sys.exit(main())
