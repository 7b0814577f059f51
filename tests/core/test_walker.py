"""Every card asks for what is there: the walker goes through orders of all kinds, and through spoilt ones."""

from __future__ import annotations

import contextlib
import re
from collections.abc import Callable
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.bench import Bench, with_wools_of
from bambola.core.figure import Brief, Document, Figure
from bambola.core.figure.schools import SCHOOLS, ChoiceId
from bambola.core.methods import sheet_for
from bambola.core.methods.told import told
from bambola.core.notes.building import colour_words
from bambola.core.notes.building import figure_of as notes_figure
from bambola.core.notes.reading import read_notes
from bambola.core.order import OrderConflictError
from bambola.core.plan import Plan, make_plan
from bambola.core.quantities import Units
from bambola.core.resize import ResizeError
from bambola.core.words import Words
from bambola.demo import BADGER, HERON, TOAD, load_demo
from bambola.shipped import body_plans, default_bench
from tests.core.walker import Walker
from tests.effort import examples, some
from tests.figures import figures, wired_snake

FIGURES = [
    *(pytest.param(load_demo(path).figure, id=path.name.partition(".")[0]) for path in (BADGER, HERON, TOAD)),
    *(pytest.param(plan.figure, id=plan.figure.id) for plan in body_plans()),
]  # fmt: skip
WAYS = [(choice, school) for choice, schools in SCHOOLS.items() for school in schools[1:]]
IN_THE_TABLE = {
    "wire-before-wool", "layers-inside-out", "coat-under-clothes", "stood-on-its-feet", "parent-firm",
    "sockets-before-glue", "over-before-wide", "enclosed-first", "fur-from-the-edge", "marks-first",
    "check-the-whole", "joined-under-clothes", "blend-over-coats", "coat-over-the-wound",
    "pair-before-joined",
}  # fmt: skip
"""Rules of the order that follow from what a step needs and leaves; the others are tastes."""


def planned(figure: Figure, bench: Bench, times: float, brief: Brief | None = None) -> Plan:
    figure = with_wools_of(figure, bench)
    high = make_plan(figure, Brief(), bench).from_height_mm
    return make_plan(figure, (brief or Brief()).at_height(times * high), bench)


@pytest.mark.parametrize("figure", FIGURES)
def test_cards_never_need_missing_things_at_any_size(figure: Figure, bench: Bench) -> None:
    """345 cards spread a fringe that none had left; wires were bound to wires that were not cut yet."""
    for times in some((0.3, 0.6, 1.0, 1.5, 2.5, 4.0), 3):
        assert Walker(planned(figure, bench, times), bench).walk() == "", times


def test_shipped_badger_can_be_made_as_it_opens(bench: Bench, badger: Document) -> None:
    """Its tail was furred before it was shaped: the fur waited only for a coat, and the tail has none."""
    assert Walker(make_plan(badger.figure, badger.brief, bench), bench).walk() == ""


def antlered(bench: Bench) -> Figure:
    """A list whose antlers' wire runs through the head and ends in neither head nor body."""
    notes = read_notes("body 60\nhead 40\n2 antlers 40 x 6", "mm", colour_words(bench))
    found = notes_figure(notes, bench)
    assert found is not None
    return found.figure


@pytest.mark.parametrize("make", [antlered, lambda _: wired_snake()], ids=["antlers", "snake"])
def test_wire_in_head_or_root_has_its_cards(bench: Bench, make: Callable[[Bench], Figure]) -> None:
    plan = planned(make(bench), bench, 1.0)
    assert Walker(plan, bench).walk() == ""
    assert all(sheet_for(plan, step, bench).card.how for step in plan.steps if step.kind == "wrap")


@pytest.mark.parametrize("figure", FIGURES)
def test_no_card_asks_for_what_is_not_there_whatever_ways(figure: Figure, bench: Bench) -> None:
    for choice, school in some(WAYS, 4):
        plan = planned(figure, bench, 1.3, Brief().schooled(choice, school))
        assert Walker(plan, bench).walk() == "", (choice, school)


@examples(40, 3)
@given(
    figures(), st.sampled_from([(None, ""), *WAYS]), st.sampled_from((0.3, 0.6, 1.0, 1.5, 2.5, 4.0))
)
def test_cards_never_need_missing_things_on_any_figure(
    figure: Figure, way: tuple[ChoiceId | None, str], times: float
) -> None:
    choice, school = way
    brief = Brief().schooled(choice, school) if choice else Brief()
    bench = default_bench()
    with contextlib.suppress(ResizeError, OrderConflictError):
        assert Walker(planned(figure, bench, times, brief), bench).walk() == ""


@pytest.mark.parametrize("figure", FIGURES)
def test_cards_in_inches_have_no_zero_sizes(figure: Figure, bench: Bench) -> None:
    words = Words(Units(length="in", mass="oz"))
    for times in some((0.3, 1.3, 2.5), 1):
        plan = planned(figure, bench, times)
        for step in plan.steps:
            card = told(sheet_for(plan, step, bench).card, words.say)
            for line in (card.amount, card.stop, *card.how, *(look for look, _ in card.checks)):
                assert not re.search(r"(?<![\d/.])0 (in|oz)\b", line), line
                assert not (re.search(r"\d g\b", line) and re.search(r"\boz\b", line)), line


def test_walker_notices_steps_done_too_early(bench: Bench) -> None:
    noticed = asked = 0
    for path in some((BADGER, HERON, TOAD), 1):
        plan = planned(load_demo(path).figure, bench, 1.4)
        at = {step.key: i for i, step in enumerate(plan.steps)}
        for edge in plan.order.edges:
            # Fur may be laid before or after its part is joined: that is the maker's choice.
            is_choice = (edge.before.sort, edge.after.sort) == ("fur", "join")
            if edge.rule in IN_THE_TABLE and not is_choice:
                steps = list(plan.steps)
                steps.insert(at[edge.before], steps.pop(at[edge.after]))
                noticed += bool(Walker(replace(plan, steps=tuple(steps)), bench).walk())
                asked += 1
        free = [
            i for i, (one, two) in enumerate(zip(plan.steps, plan.steps[1:], strict=False), 1)
            if one.n not in two.after and "socket" not in (one.key.sort, two.key.sort)
        ]  # fmt: skip
        for i in free:
            steps = list(plan.steps)
            steps[i - 1], steps[i] = steps[i], steps[i - 1]
            assert Walker(replace(plan, steps=tuple(steps)), bench).walk() == ""
    assert asked > 100 and noticed >= 0.95 * asked, (noticed, asked)


def test_walker_notices_what_is_attached_twice_or_not_at_all(bench: Bench) -> None:
    noticed = asked = 0
    for figure in some([param.values[0] for param in FIGURES], 4):
        plan = planned(figure, bench, 1.4)
        for i, step in enumerate(plan.steps):
            job = plan.job_of(step)
            if step.key.sort in ("join", "detail") or (job and job.made == "in place"):
                if step.key.sort not in ("join", "detail", "core"):
                    continue
                for instead in ((), (step, step)):
                    steps = (*plan.steps[:i], *instead, *plan.steps[i + 1 :])
                    noticed += bool(Walker(replace(plan, steps=steps), bench).walk())
                    asked += 1
    assert asked > 30 and noticed >= 0.95 * asked, (noticed, asked)


def test_sockets_close_at_once_and_last_look_is_last(bench: Bench) -> None:
    """Sockets were glued up to 46 steps after they were opened; smoothing followed the last look."""
    for path in (BADGER, HERON, TOAD):
        keys = [str(step.key) for step in planned(load_demo(path).figure, bench, 1.0).steps]
        for i, key in enumerate(keys):
            if key.startswith("socket:"):
                assert keys[i + 1] == key.replace("socket:", "fit:")
        assert keys[-1] == "check:stand" and "finish" in keys[-3:-1]
