"""Keys of steps, choices and schools: values that are kept as text."""

from __future__ import annotations

from typing import get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.bench import Bench
from bambola.core.figure import Brief
from bambola.core.figure.questions import MetalAnswer, SizeAnswer
from bambola.core.figure.schools import SCHOOLS, WAYS, ChoiceId, SchoolId, known_schools, school_for
from bambola.core.order import CHOICES, RULES
from bambola.core.order.keys import FINISH, SECOND, Sort, TaskKey, key_of
from bambola.core.plan import make_plan
from bambola.demo import BADGER, HERON, TOAD, load_demo

SORTS = get_args(Sort)
ids = st.from_regex(r"[a-z][a-z0-9-]{0,12}", fullmatch=True)


@given(st.sampled_from(SORTS), ids, st.one_of(st.just(""), ids, st.integers(1, 40)))
def test_key_tells_again_what_it_was_made_of(sort: Sort, about: str, detail: str | int) -> None:
    key = key_of(sort, about, detail)
    assert (key.sort, key.about, key.detail) == (sort, about, str(detail))
    assert TaskKey(str(key)) == key == ":".join(filter(None, (sort, about, str(detail))))
    if isinstance(detail, int) or not detail:
        assert key.nth == (detail or 1)
    second = key_of(sort, about + SECOND, detail)
    assert second.of_first == key == key.of_first and second != key
    assert key.is_of(about, sort) and second.is_of(about, sort)
    assert not key.is_of(about + "x", sort) and not key.is_of(about)
    assert not key.is_of(about, *(other for other in SORTS if other != sort))


def test_keys_of_whole_figure_are_about_nothing() -> None:
    assert (FINISH, FINISH.sort, FINISH.about, FINISH.detail, FINISH.nth) == ("finish",) * 2 + (
        "",
        "",
        1,
    )


@pytest.mark.parametrize("demo", [BADGER, HERON, TOAD])
def test_every_step_of_plan_is_of_sort_that_is_known(demo: object, bench: Bench) -> None:
    document = load_demo(demo)  # type: ignore[arg-type]
    for school in ("back to back", "one at a time"):
        plan = make_plan(document.figure, document.brief.schooled("limbs", school), bench)
        parts = {part.id for part in document.figure.parts}
        wires = {wire.id for wire in plan.wires} | {wire.id for wire in plan.work.wires}
        things = {f.id for f in document.figure.fittings} | wires | {"", "ground", "stand"}
        for step in plan.steps:
            assert step.key.sort in SORTS
            assert step.key.about.removesuffix(SECOND) in parts | things, step.key
            if step.part:
                assert step.key.about in things or step.key.of_first.about == step.part, step.key
        assert len({step.key for step in plan.steps}) == len(plan.steps)
        rounds = [step.key.nth for step in plan.steps if step.key.is_of("body", "core")]
        assert rounds == list(range(1, len(rounds) + 1))


def test_every_choice_has_its_schools_and_every_school_its_choice() -> None:
    assert tuple(SCHOOLS) == get_args(ChoiceId) and [c.id for c in CHOICES] != []
    assert {choice.id for choice in CHOICES} == set(SCHOOLS) and set(WAYS) <= set(SCHOOLS)
    assert {school for schools in SCHOOLS.values() for school in schools} == set(get_args(SchoolId))
    for choice in CHOICES:
        assert choice.default == choice.schools[0] == school_for(choice.id, {})
        assert len(set(choice.schools)) == len(choice.schools) >= 2
    assert len({rule.id for rule in RULES}) == len(RULES)


def test_only_known_schools_are_followed() -> None:
    said = {"face": "before", "ears": "sideways", "hats": "on", "neck": "peg", "wire": "stems"}
    assert known_schools(said) == {"face": "before", "neck": "peg"}
    assert school_for("face", known_schools(said)) == "before"
    assert school_for("ears", known_schools(said)) == "one by one"
    # A school of an older version is the nearest of now.
    assert known_schools({"ears": "as they meet"}) == {"ears": "pair first"}
    assert Brief(schools=said).schools == said  # a design keeps what it says


def test_number_and_metal_answers_equal_their_text() -> None:
    assert (
        SizeAnswer.answer_for(7.50),
        SizeAnswer.answer_for(7.5).mm,
        SizeAnswer.answer_for(8),
    ) == (
        "7.5",
        7.5,
        "8",
    )
    assert (MetalAnswer.answer_for("soft copper"), MetalAnswer.answer_for("soft steel").metal) == (
        "metal:soft copper",
        "soft steel",
    )
