"""Every fact that the core can tell has a sentence, and every sentence a fact (``make check``).

Kinds are read from the code: whole ones, those put together from parts (``f"measure.{name}"``, of which at
least one sentence must be), and those that a function puts together from what it is called with
(``check("squeeze")``). The slots given to a fact are those that its sentence asks for.
"""

from __future__ import annotations

import ast
import re
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from string import Formatter

from bambola.core.words import every_sentence

ROOT = Path(__file__).parent.parent
MAKERS = {"Fact", "fact"}
SAID_AT_ONCE = {"together"}
"""Facts that are put into words without a sentence of their own."""


@dataclass(frozen=True)
class Told:
    """A kind as the code writes it: its pieces, the names between them ("" where none is one), and the slots
    that come with it (None where they are not all written out)."""

    where: str
    pieces: tuple[str, ...]
    names: tuple[str, ...]
    slots: frozenset[str] | None

    @property
    def pattern(self) -> re.Pattern[str]:
        """What its kinds look like."""
        return re.compile(".+".join(map(re.escape, self.pieces)))


def _text(node: ast.AST) -> tuple[tuple[str, ...], tuple[str, ...]] | None:
    """Return the pieces of a text, and the names that stand between them."""
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        return (node.value,), ()
    if not isinstance(node, ast.JoinedStr):
        return None
    pieces, names = [""], []
    for value in node.values:
        if isinstance(value, ast.Constant):
            pieces[-1] += str(value.value)
        elif isinstance(value, ast.FormattedValue):
            names.append(value.value.id if isinstance(value.value, ast.Name) else "")
            pieces.append("")
    return tuple(pieces), tuple(names)


def _called(node: ast.Call) -> str:
    match node.func:
        case ast.Name(id=name) | ast.Attribute(attr=name):
            return name
    return ""


def _branches(node: ast.AST) -> Iterator[ast.AST]:
    if isinstance(node, ast.IfExp):
        yield from _branches(node.body)
        yield from _branches(node.orelse)
    else:
        yield node


def told_in(path: Path, tree: ast.AST) -> Iterator[Told]:
    """Yield every kind of fact that a module writes."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Call) and _called(node) in MAKERS and node.args:
            given = {word.arg for word in node.keywords}
            every = None if None in given or len(node.args) > 1 else frozenset(filter(None, given))
            for each in _branches(node.args[0]):
                if text := _text(each):
                    yield Told(f"{path.relative_to(ROOT)}:{node.lineno}", *text, every)


def passed_on(trees: dict[Path, ast.Module]) -> Iterator[Told]:
    """Yield the kinds that functions put together from a text that they are called with."""
    takers: dict[str, list[tuple[int, str, Told]]] = {}
    for path, tree in trees.items():
        for function in ast.walk(tree):
            if isinstance(function, ast.FunctionDef):
                given = [arg.arg for arg in function.args.args]
                for told in told_in(path, function):
                    if len(told.names) == 1 and told.names[0] in given:
                        at = given.index(told.names[0])
                        takers.setdefault(function.name, []).append((at, told.names[0], told))
    for path, tree in trees.items():
        for node in ast.walk(tree):
            if not isinstance(node, ast.Call):
                continue
            for at, name, told in takers.get(_called(node), ()):
                arguments = {word.arg: word.value for word in node.keywords}
                argument = node.args[at] if at < len(node.args) else arguments.get(name)
                for each in _branches(argument) if argument else ():
                    if (text := _text(each)) and len(text[0]) == 1:
                        kind = text[0][0].join(told.pieces)
                        where = f"{path.relative_to(ROOT)}:{node.lineno}"
                        yield Told(where, (kind,), (), None)


def asked_by(kind: str) -> set[str]:
    """Return the slots that the sentence of a kind asks for."""
    sentence = every_sentence()[kind]
    forms = sentence if isinstance(sentence, tuple) else (sentence,)
    return {name for form in forms for _, name, _, _ in Formatter().parse(form) if name}


def is_sentences(statement: ast.stmt) -> bool:
    """Return whether a statement is the table of a file's sentences."""
    target = getattr(statement, "target", None)
    return isinstance(target, ast.Name) and target.id == "SENTENCES"


def faults(told: list[Told], texts: set[str]) -> Iterator[str]:
    """Yield what is wrong, a line each; ``texts`` are all that the code writes."""
    used: set[str] = set(SAID_AT_ONCE)
    for each in told:
        found = [kind for kind in every_sentence() if each.pattern.fullmatch(kind)]
        used.update(found)
        if not found and each.pieces[0] not in SAID_AT_ONCE:
            yield f"{each.where}: no sentence says “{'…'.join(each.pieces)}”"
        elif not each.names and each.slots is not None and found:
            missing = asked_by(found[0]) - each.slots
            if missing:
                yield f"{each.where}: “{found[0]}” asks for {', '.join(sorted(missing))}"
    for kind in every_sentence():
        # A kind may be in a table as well, or be the tail that a table gives to a head.
        if kind not in used and kind not in texts and kind.partition(".")[2] not in texts:
            yield f"no fact is told by the sentence “{kind}”"


def main() -> int:
    """Print every fault; how many there are."""
    paths = sorted((ROOT / "bambola").rglob("*.py"))
    trees = {path: ast.parse(path.read_text(encoding="utf-8")) for path in paths}
    told = [each for path, tree in trees.items() for each in told_in(path, tree)]
    told += passed_on(trees)
    texts = {
        node.value
        for path, tree in trees.items()
        for statement in tree.body
        if "words" not in path.parts and not is_sentences(statement)
        for node in ast.walk(statement)
        if isinstance(node, ast.Constant) and isinstance(node.value, str)
    }
    found = list(faults(told, texts))
    print(*found, sep="\n", end="\n" if found else "")
    return min(len(found), 100)


if __name__ == "__main__":
    sys.exit(main())
