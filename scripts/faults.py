"""Small faults that can be made in the code of a room, and how they are put in place."""

from __future__ import annotations

import ast
import gc
import re
from collections import defaultdict
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from importlib.abc import MetaPathFinder
from importlib.machinery import ModuleSpec, PathFinder, SourceFileLoader
from inspect import CO_OPTIMIZED
from pathlib import Path
from types import CodeType, FunctionType

from cosmic_ray.ast import ast_nodes, get_ast_from_path
from cosmic_ray.mutating import mutate_code
from cosmic_ray.plugins import get_operator, operator_names

ROOT = Path(__file__).parents[1]
CORE = ROOT / "bambola/core"
KINDS = ("ReplaceBinaryOperator", "ReplaceComparisonOperator", "ReplaceUnaryOperator", "NumberReplacer",
         "AddNot", "ReplaceAndWithOr", "ReplaceOrWithAnd", "ReplaceTrueWithFalse", "ReplaceFalseWithTrue",
         "ZeroIterationForLoop", "ReplaceBreakWithContinue", "ReplaceContinueWithBreak")  # fmt: skip
UNLIKELY = ("BitOr", "BitAnd", "BitXor", "Shift", "_Is", "Invert")
"""Bars are mostly between types, which nothing reads at run time; shifts and complements are no slips."""
GUARDS = re.compile(r"(strict|frozen|slots)=(True|False)|@remembered\(\s*\d+\)")
"""What guards against slips of whoever writes the program, or says how much is kept: it computes nothing."""


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
        """Return the fault; None where it would change nothing that is computed."""
        source = self.module.read_text()
        code = mutate_code(source, get_operator(self.slip)(), self.n)
        if code is None or GUARDS.sub("", code) == GUARDS.sub("", source):
            return None
        try:
            ast.parse(code)
        except SyntaxError:  # a sign of its own was put where Python knows none
            return None
        return _mutant(self.module.relative_to(ROOT), source, code)


def sites(room: str) -> Iterator[Site]:
    """Yield every place of a room where a fault can be made."""
    slips = [
        n
        for n in operator_names()
        if any(k in n for k in KINDS) and not any(u in n for u in UNLIKELY)
    ]
    for module in sorted((CORE / room).rglob("*.py")):
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


def code_of(outer: CodeType, within: str = "") -> Iterator[tuple[str, CodeType]]:
    """Yield every piece of code in a module's, by where it is."""
    for n, code in enumerate(c for c in outer.co_consts if isinstance(c, CodeType)):
        where = f"{within}/{n}:{code.co_name}"
        yield where, code
        yield from code_of(code, where)


def runs_when_read(code: CodeType) -> bool:
    """Return whether it is of a module or class, which no caller runs again."""
    return not code.co_flags & CO_OPTIMIZED


def _own(code: CodeType) -> tuple[object, ...]:
    """Return what a piece of code does itself, without what is nested in it."""
    consts = tuple(repr(c) for c in code.co_consts if not isinstance(c, CodeType))
    return code.co_code, code.co_names, code.co_varnames, consts


def grafts(mutant: Mutant, source: str, path: str) -> dict[CodeType, CodeType] | None:
    """Return the code of functions to put in place of what was read, so that nothing need be read again; None
    where the fault is in what runs when the module is read."""
    old, new = (compile(text, path, "exec") for text in (source, mutant.code))
    before, after = dict(code_of(old)), dict(code_of(new))
    if _own(old) != _own(new) or before.keys() != after.keys():
        return None
    changed = [(where, a, after[where]) for where, a in before.items() if a != after[where]]
    for where, a, b in changed:
        outer = where.rpartition("/")[0]
        read_once = a.co_name.startswith("<") and (not outer or runs_when_read(before[outer]))
        if (runs_when_read(a) and _own(a) != _own(b)) or read_once:
            return None
    return {a: b for _, a, b in changed if not runs_when_read(a)}


def functions() -> dict[CodeType, list[FunctionType]]:
    """Return every function there is, by its code."""
    found: dict[CodeType, list[FunctionType]] = defaultdict(list)
    for function in gc.get_objects():
        if isinstance(function, FunctionType):
            found[function.__code__].append(function)
    return found


def graft(changed: dict[CodeType, CodeType], there: Mapping[CodeType, list[FunctionType]]) -> bool:
    """Put code in place wherever it is used; whether it is anywhere."""
    found = [(function, new) for old, new in changed.items() for function in there.get(old, ())]
    for function, new in found:
        function.__code__ = new
    return bool(found)


class Instead(MetaPathFinder):
    """Reads one module of the package from a mutant."""

    def __init__(self, mutant: Mutant) -> None:
        self.name, self.mutant = module_name(mutant.module), mutant

    def find_spec(self, name: str, path: object = None, target: object = None) -> ModuleSpec | None:
        if name != self.name:
            return None
        found = PathFinder.find_spec(name, path)  # type: ignore[arg-type]
        assert found is not None
        loader = SourceFileLoader(name, str(found.origin))
        loader.get_code = lambda _: compile(self.mutant.code, str(found.origin), "exec")  # type: ignore[method-assign]
        found.loader = loader
        return found


def module_name(path: Path) -> str:
    """Return what a file is imported as: ``bambola/core/wool/__init__.py`` is ``bambola.core.wool``."""
    return ".".join(path.with_suffix("").parts).removesuffix(".__init__")
