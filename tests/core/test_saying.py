"""Facts said in words: every kind has its sentence, in every unit, and nothing else is said."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from dataclasses import fields, is_dataclass
from functools import cache
from pathlib import Path
from string import Formatter
from types import ModuleType

import pytest

import bambola.core
import bambola.core.words as words
from bambola.core.facts import Exact, Fact, Grams, Mm, SoldSize, fact, together
from bambola.core.figure import Brief
from bambola.core.methods import kinds, sheet_for
from bambola.core.order import CHOICES, RULES
from bambola.core.plan import Plan, make_plan
from bambola.core.quantities import Units
from bambola.core.rescue import SYMPTOMS, PieceReading, advise
from bambola.core.words import Words, every_sentence
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import default_bench
from tests.effort import THOROUGH
from tests.pseudo import Pseudo
from tests.said import IMPERIAL, METRIC, SOLD_OR_SMALL

CORE = Path(bambola.core.__file__).parent
INCHES = Words(Units("in", "oz"))


@cache
def _kinds() -> list[tuple[str, set[str] | None, str]]:
    """Every kind that the core says, as a pattern, with its slots where they are written out, and where."""
    return list(_said())


def _said() -> Iterator[tuple[str, set[str] | None, str]]:
    for path in sorted(CORE.parent.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if not isinstance(node, ast.Call) or not isinstance(node.func, ast.Name):
                continue
            if node.func.id not in ("fact", "Fact", "told", "kind") or not node.args:
                continue
            slots = {k.arg for k in node.keywords if k.arg is not None}
            whole = all(k.arg is not None for k in node.keywords) and len(node.args) == 1
            for pattern in _patterns(node.args[0]):
                if node.func.id == "told":
                    pattern, slots = f"change\\.{pattern}", slots | {"part"}
                if node.func.id == "kind":
                    pattern, whole = f"{pattern}\\..*", False
                yield pattern, slots if whole else None, f"{path.name}:{node.lineno}"


def _patterns(node: ast.expr) -> Iterator[str]:
    match node:
        case ast.Constant(value=str(kind)):
            yield re.escape(kind)
        case ast.JoinedStr():
            yield "".join(
                re.escape(str(piece.value)) if isinstance(piece, ast.Constant) else ".*"
                for piece in node.values
            )
        case ast.IfExp():
            yield from _patterns(node.body)
            yield from _patterns(node.orelse)


def _slots_of(kind: str) -> set[str]:
    sentences = every_sentence()[kind]
    found: set[str] = set()
    for sentence in sentences if isinstance(sentences, tuple) else (sentences,):
        found |= {name for _, name, _, _ in Formatter().parse(sentence) if name}
    return found


def test_every_fact_has_sentence_with_given_slots() -> None:
    for pattern, slots, where in _kinds():
        fits = re.compile(pattern).fullmatch
        mine = [kind for kind in every_sentence() if fits(kind)]
        assert mine or pattern in ("together", "named"), f"{where}: no sentence for {pattern}"
        for kind in mine if slots is not None and ".*" not in pattern else ():
            assert _slots_of(kind) <= slots, f"{where}: {kind}"


def test_no_sentence_is_never_said() -> None:
    said = re.compile("|".join({f"(?:{pattern})" for pattern, _, _ in _kinds()}))
    named = {
        text
        for path in CORE.parent.rglob("*.py")
        for statement in ast.parse(path.read_text(encoding="utf-8")).body
        if not _are_sentences(statement) and "words" not in path.parts
        for text in _texts(statement)
    }
    for kind in every_sentence():
        assert kind in named or said.fullmatch(kind), kind


def _are_sentences(statement: ast.stmt) -> bool:
    """Whether a statement is the table of a file's sentences."""
    match statement:
        case ast.AnnAssign(target=ast.Name(id="SENTENCES")):
            return True
    return False


def _texts(statement: ast.stmt) -> Iterator[str]:
    for node in ast.walk(statement):
        if isinstance(node, ast.Constant) and isinstance(node.value, str):
            yield node.value


def test_no_kind_has_two_sentences() -> None:
    rooms = [*vars(words).values(), *vars(kinds).values()]
    every = [
        kind
        for room in rooms
        if isinstance(room, ModuleType) and room is not words.saying
        for kind in getattr(room, "SENTENCES", {})
    ]
    assert not {kind for kind in every if every.count(kind) > 1}
    assert set(every) == set(every_sentence()) - {"nothing"}  # that is written in no room


def test_every_rule_and_choice_has_its_words() -> None:
    every = [Fact(f"rule.{rule.id}") for rule in RULES]
    for choice in CHOICES:
        every += [choice.name, choice.reason]
        every += [
            told(school)
            for school in choice.schools
            for told in (choice.school_name, choice.what_makers_do)
        ]
    assert all(len(Words().say(one)) > 3 for one in every)


def facts_in(value: object) -> Iterator[Fact]:
    """Every fact within a value."""
    if isinstance(value, Fact):
        yield value
    elif isinstance(value, dict):
        for one in value.values():
            yield from facts_in(one)
    elif isinstance(value, list | tuple | set | frozenset):
        for one in value:
            yield from facts_in(one)
    elif is_dataclass(value) and not isinstance(value, type):
        for field in fields(value):
            if field.name not in ("resized", "solids", "order", "work", "usual"):
                yield from facts_in(getattr(value, field.name))


@pytest.fixture(scope="module")
def plans() -> list[Plan]:
    """The three figures, each at the height it was made and at four others."""
    bench = default_bench()
    found = []
    for demo in (BADGER, HERON, TOAD):
        document = load_demo(demo)
        made = make_plan(document.figure, Brief(), bench).from_height_mm
        for share in (1.0, 0.4, 0.8, 1.6, 3.0):
            found.append(make_plan(document.figure, document.brief.at_height(made * share), bench))
    return found


def test_texts_never_mix_unit_systems(
    plans: list[Plan],
) -> None:
    told = {one for plan in plans for one in facts_in(plan)}
    bench = default_bench()
    for plan in plans if THOROUGH else plans[::5]:
        for step in plan.steps:
            told |= set(facts_in(sheet_for(plan, step, bench).card))
    piece = PieceReading(30.0, 20.0, 2.0, "soft", 36.0, 24.0)
    for symptom in SYMPTOMS:
        told |= set(facts_in(advise(plans[0], "arm", symptom, piece, bench)))
    assert len(told) > 1100
    for one in told:
        inches = SOLD_OR_SMALL.sub("", INCHES.say(one))
        assert not METRIC.search(inches), inches
        assert not IMPERIAL.search(Words().say(one)), Words().say(one)
        assert "  " not in INCHES.say(one), f"{one.kind} says a slot that holds nothing"


def test_everything_said_comes_from_catalogue(plans: list[Plan]) -> None:
    """In a made-up language every text stands in brackets, whole, with what it is about within."""
    words = Words(catalogue=Pseudo())
    for plan in plans:
        for one in facts_in(plan):
            if one.kind in ("nothing", "together"):
                continue
            said = words.say(one)
            assert said.startswith("⟦") and said.endswith("⟧"), said
            assert said.count("⟦") == said.count("⟧")


def test_quantities_are_told_as_they_are_used() -> None:
    def said(value: object, words: Words) -> str:
        return words.say(fact("wool.rows-tip", n=1, hair=value)).removeprefix(
            "1 row from the tip, hair "
        )  # type: ignore[arg-type]

    metric = Words()
    assert [said(Mm(mm), metric) for mm in (1.24, 7.3, 19.6, 46.4, 2400)] == [
        "1.2 mm", "7.5 mm", "19.5 mm", "46 mm", "2.4 m",
    ]  # fmt: skip
    assert [said(Exact(mm), metric) for mm in (7.34, 53.3)] == ["7.3 mm", "53 mm"]
    assert said(Exact(4.3), INCHES) == "11/64 in" and said(Mm(2400), INCHES) == "7.9 ft"
    assert said(SoldSize(8), metric) == "8 mm" and said(SoldSize(8), INCHES) == "8 mm (5/16 in)"
    assert said(Grams(60), INCHES) == "2.12 oz" and said(Grams(2), INCHES) == "2 g"
    both = together(fact("leave"), fact("named", name="Head"))
    assert metric.say(both) == "Leave it Head"
    three = tuple(fact("the", name=name) for name in ("Head", "Ear", "Tail"))
    assert metric.say(fact("step.mark", what=three, part="Body")) == (
        "Mark the head, the ear and the tail on the body"
    )


def test_fact_is_never_written_as_it_is() -> None:
    with pytest.raises(TypeError, match="is to be said"):
        f"{fact('leave')}"
