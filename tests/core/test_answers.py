"""Every answer to every question changes what is made, or is declared to leave it."""

from __future__ import annotations

from collections.abc import Iterator

import pytest

from bambola.core.figure import (
    Brief,
    Coat,
    Cone,
    Datum,
    Figure,
    Fitting,
    Garment,
    Part,
    Piece,
    Rope,
    Seat,
    SizeRule,
)
from bambola.core.figure.questions import QUESTIONS
from bambola.core.plan import Plan, make_plan
from bambola.core.solids import place
from bambola.demo import BADGER, HERON, load_demo
from bambola.shipped import body_plans, default_bench
from tests.core.test_small_choices import backed_by_spines, holding_a_tray
from tests.figures import arm_on_post, ball, figure_of, one_ball

LEAVE = {
    ("dress", "leave"), ("floating", "leave"), ("folding", "as-drawn"), ("hard-core", "smaller-core"),
    ("reach", "leave"), ("row", "number"), ("shape", "longer"), ("sits-on", "with-it"),
    ("small-face", "kept"),
    ("soft-centre", "solid"), ("stock", "leave"), ("stock", "stand"),
}  # fmt: skip
"""Answers that say what is done anyway while there is none."""

WEAKEST = "metal:soft aluminium"
"""It may be answered, but is never offered: every other metal bears more."""


def _cored() -> Figure:
    core = Fitting(
        id="bauble", name="Bauble", kind="core", part="body", seat=Seat(along=0.5), size=30.0,
        follows="hold", pieces=(Piece(shape=ball(30.0)),),
    )  # fmt: skip
    post = Part(id="post", name="Post", shape=ball(40.0), core="core-batt", parent="body")
    body = Part(id="body", name="Body", shape=ball(40.0), core="core-batt")
    return figure_of(body, post, fittings=(core,), datum=Datum(part="post"))


def _ringed() -> Figure:
    figure = one_ball(90.0, coat=Coat(wool="woad"))
    hoop = Rope(points=((45, 0, 0), (0, 45, 0), (-45, 0, 0), (0, -45, 0)), thickness=4, closed=True)
    ring = Part(
        id="ring", name="Ring", parent="body", shape=hoop, core="madder", seat=Seat(along=0.5),
        garment=Garment(opening=75, passes="body", kind="pulled over", bought=True),
    )  # fmt: skip
    return figure.replaced(parts=(*figure.parts, ring))


def _horned() -> tuple[Figure, Brief]:
    horn = Part(
        id="horn", name="Horn", parent="body", shape=Cone(length=37, base=20, tip=8), core="cream",
        seat=Seat(along=0.5, around=90, sink=5),
    )  # fmt: skip
    rule = SizeRule(measure="base", rule="hold", value=81.0)
    return figure_of(*one_ball(60).parts, horn, datum=Datum(part="body")), Brief(
        height=60, rules={"horn": (rule,)}
    )


def _stacked() -> Figure:
    head = Part(id="head", name="Head", parent="body", shape=ball(30), core="cream")
    snout = Part(
        id="snout", name="Snout", parent="head", shape=ball(12), core="cream", seat=Seat(along=0.5)
    )
    return figure_of(*one_ball(60).parts, head, snout)


def _floating() -> Figure:
    return figure_of(
        *one_ball(60).parts,
        Part(
            id="moon", name="Moon", parent="body", shape=ball(20), core="cream", seat=Seat(sink=-9)
        ),
    )


def _cases() -> Iterator[tuple[Figure, Brief]]:
    """Figures and heights at which every question is asked."""
    badger, heron = (load_demo(demo) for demo in (BADGER, HERON))
    shares = ((badger, (0.17, 2.0)), (heron, (0.15, 0.4)))
    for document, times in shares:
        height = place(document.figure).height
        yield from ((document.figure, document.brief.at_height(height * share)) for share in times)
    held = _stacked()
    yield held, Brief(height=place(held).height * 2).ruled("head", (SizeRule(rule="hold"),))
    plans = {plan.figure.id: plan.figure for plan in body_plans()}
    for name, share in (("long-haired-animal", 0.15), ("cub", 0.4), ("two-legged-doll", 3.0)):
        yield plans[name], Brief(height=place(plans[name]).height * share)
    spines = backed_by_spines()
    for share in (0.15, 2.0):
        yield spines, Brief(height=place(spines).height * share)
    tray = holding_a_tray()
    yield tray, Brief(height=place(tray).height * 0.8)
    stems = arm_on_post(length=60.0, diameter=9.0)
    twice = stems.replaced(bones=tuple(bone.replaced(strands=2) for bone in stems.bones))
    yield twice, Brief(height=30.0, schools={"wire": "stems"})
    slim = arm_on_post(length=60.0, diameter=6.5)
    stout = tuple(wire.replaced(metal="soft steel", diameter=2.5) for wire in slim.wires)
    yield slim.replaced(wires=stout), Brief(height=place(slim).height)
    yield from (
        (_cored(), Brief(height=56.0)),
        (_ringed(), Brief()),
        _horned(),
        (_floating(), Brief()),
    )


def _made(plan: Plan) -> tuple[object, ...]:
    return plan.resized.figure, plan.wires, plan.bones, plan.steps, plan.parts


@pytest.fixture(scope="module")
def changes() -> dict[tuple[str, str], bool]:
    """Whether an answer changed what is made, by question and answer: wherever it does so first."""
    bench, found = default_bench(), dict[tuple[str, str], bool]()
    for figure, brief in _cases():
        plan, asked = make_plan(figure, brief, bench), set[str]()
        for notice in plan.notices:
            kind = notice.code.partition(":")[0]
            if kind not in QUESTIONS or kind in asked:
                continue
            asked.add(kind)
            for option in notice.options:
                if not found.get((kind, option.id)):
                    answered = make_plan(figure, brief.answered(notice.code, option.id), bench)
                    found[kind, option.id] = _made(answered) != _made(plan)
    return found


@pytest.mark.parametrize("kind", QUESTIONS)
def test_every_answer_changes_plan_or_is_declared_to_leave_it(
    kind: str, changes: dict[tuple[str, str], bool]
) -> None:
    for answer in map(str, QUESTIONS[kind].answers):
        if answer == WEAKEST:
            continue
        assert (kind, answer) in changes, f"no figure here is asked {kind} with “{answer}”"
        assert changes[kind, answer] != ((kind, answer) in LEAVE), f"{kind}: {answer}"
