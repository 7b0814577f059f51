"""Pegs, the lightness of wools and bought clothes, by hand."""

from __future__ import annotations

import math

import pytest

from bambola.core.armature import Mass
from bambola.core.armature.gauge import capacity_nmm
from bambola.core.bench import Bench, Wool
from bambola.core.facts import Mm
from bambola.core.figure import Bone, Brief, Figure, Garment, Part, Seat
from bambola.core.methods import card_for
from bambola.core.plan import make_plan
from bambola.core.plan.making.jobs import lightness
from bambola.core.plan.making.wiring import pegs
from bambola.core.solids.measure import measure_solids
from tests.core.test_gauge_laws import coil
from tests.core.walker import Walker
from tests.figures import arm_on_post, ball, figure_of, one_ball
from tests.said import said


def knobs(pair: bool) -> Figure:
    knob = Part(
        id="knob", name="Knob", parent="body", core="core-batt", shape=ball(20), pair=pair,
        seat=Seat(along=0.5, around=90, out=1.0),
    )  # fmt: skip
    return figure_of(*one_ball(50).parts, knob)


@pytest.mark.parametrize("pair", [False, True])
def test_peg_bears_two_and_half_times_what_sits_on_it(pair: bool, bench: Bench) -> None:
    solids = measure_solids(knobs(pair))
    copies = solids.placement.copies_of("knob")
    lumps = [
        Mass(100.0, (float(c.matrix[0, 3]) + sense * 30.0, *map(float, c.matrix[1:3, 3])), "knob", c.side)
        for c, sense in zip(copies, (1, -1), strict=False)
    ]  # fmt: skip
    found = pegs(solids, {"knob": "peg"}, [*lumps, Mass(900.0, (0, 0, 0), "body", None)], bench)
    assert [wire.id for wire in found] == (
        [f"peg-knob-{c.side}" for c in copies] if pair else ["peg-knob"]
    )
    moment = 0.1 * 9.80665 * 30.0  # N·mm: 100 g at 30 mm
    for wire, copy in zip(found, copies, strict=True):
        assert capacity_nmm("soft steel", wire.needed_mm) == pytest.approx(2.5 * moment, rel=1e-3)
        assert said(wire.stock) == "soft steel" and wire.strands == 1
        # The next size below that bears nine tenths will do.
        assert wire.diameter_mm == 1.2 < wire.needed_mm
        assert wire.holds == pytest.approx((1.2 / wire.needed_mm) ** 3) and wire.holds > 0.9
        # Straight through the join: 15 mm into the body, and 0.35 of the knob's depth into the knob.
        assert [allowance.mm for allowance in wire.allowances] == pytest.approx([15.0, 7.0])
        assert (wire.cut_mm, wire.pieces[0].end_mm) == (22.0, 22.0)
        assert wire.grams == pytest.approx(7.85e-3 * math.pi * 0.6**2 * 22.0, rel=0.01)
        assert [(s.start_mm, s.end_mm) for s in wire.stretches] == [(0.0, 15.0), (15.0, 22.0)]
        seat, axis = copy.matrix[:3, 3], copy.matrix[:3, 2]
        assert wire.points_mm[0] == pytest.approx(seat - 15.0 * axis)
        assert wire.points_mm[1] == pytest.approx(seat + 7.0 * axis)


def test_stoutest_peg_tells_its_share_of_load(bench: Bench) -> None:
    solids = measure_solids(knobs(False))
    (copy,) = solids.placement.copies_of("knob")
    x, y, z = copy.matrix[:3, 3].tolist()
    thin = bench.replaced(wire_sizes=(0.1, 0.15, 0.2), wire_stock=())
    (peg,) = pegs(solids, {"knob": "peg"}, [Mass(100.0, (x + 30, y, z), "knob", None)], thin)
    assert peg.diameter_mm == 0.2
    assert peg.holds == pytest.approx((0.2 / peg.needed_mm) ** 3) and peg.holds < 0.5
    (bare,) = pegs(solids, {"knob": "peg"}, [], thin)
    assert bare.holds == 1.0  # nothing hangs on it
    assert pegs(solids, {"knob": "scarf"}, [], thin) == ()


@pytest.mark.parametrize(
    ("shelf", "knob", "taken"),
    [((0.6, 1.0), 20, 0.6), ((1.5,), 20, 0.4), ((), 20, 0.4), ((0.4, 0.6), 20, 0.4), ((0.6,), 5.5, 0.4)],
)  # fmt: skip
def test_peg_uses_easy_wire_from_shelf(
    shelf: tuple[float, ...], knob: float, taken: float, bench: Bench
) -> None:
    """A peg that needs next to nothing was bought of 0.4 mm with 0.6 on the shelf."""
    solids = measure_solids(figure_of(
        *one_ball(50).parts,
        Part(id="knob", name="Knob", parent="body", core="core-batt", shape=ball(knob), seat=Seat(sink=2)),
    ))  # fmt: skip
    stocked = bench.replaced(wire_stock=tuple(coil(mm) for mm in shelf))
    (peg,) = pegs(solids, {"knob": "peg"}, [], stocked)
    assert peg.diameter_mm == taken


def test_colours_are_as_light_as_eye_sees_them() -> None:
    shades = {
        "#ffffff": 1.0, "#000000": 0.0, "#ff0000": 0.2126, "#00ff00": 0.7152, "#0000ff": 0.0722,
        "#336699": 0.2126 * 0.2 + 0.7152 * 0.4 + 0.0722 * 0.6,
    }  # fmt: skip
    wools = tuple(Wool(id=f"w{n}", name="W", colour=colour) for n, colour in enumerate(shades))
    told = dict(lightness(Bench(wools=wools)))
    assert [told[wool.id] for wool in wools] == pytest.approx(list(shades.values()))


def test_bought_garment_says_how_far_it_is_off(bench: Bench) -> None:
    scarf = Part(
        id="scarf", name="Scarf", parent="body", shape=ball(14), core="madder", seat=Seat(along=0.5),
        garment=Garment(opening=130, passes="body", bought=True, mass=2.0),
    )  # fmt: skip
    figure = figure_of(*one_ball(40).parts, scarf)
    height = make_plan(figure, Brief(), bench).from_height_mm
    for scale in (1.0, 2.0, 0.5):
        plan = make_plan(figure, Brief(height=height * scale), bench)
        (row,) = (row for row in plan.fittings if row.id == "scarf")
        assert row.wanted_mm == pytest.approx(130 * scale) and row.count == 1
        assert row.deviation_pct == pytest.approx((row.use_mm / (130 * scale) - 1) * 100)


def test_what_is_worn_or_bears_all_stands_on_no_peg(bench: Bench) -> None:
    """A design may name a peg for any part; the wait for its glue was asked for without the join."""
    (body,) = one_ball(50).parts
    cape = Part(
        id="cape", name="Cape", parent="body", core="core-batt", shape=ball(20), join="peg",
        garment=Garment(opening=400.0, passes="head"), seat=Seat(along=0.9),
    )  # fmt: skip
    head = Part(
        id="head",
        name="Head",
        parent="body",
        core="core-batt",
        shape=ball(20),
        seat=Seat(along=1.0),
    )
    plan = make_plan(figure_of(body.replaced(join="peg"), head, cape), Brief(), bench)
    assert not [step for step in plan.steps if step.key.sort in ("peg", "dry")]


def test_limb_on_stem_is_pushed_into_finished_bearer(bench: Bench) -> None:
    """It had a blend for all its joining, and stood on nothing."""
    bones = (Bone(a="heart", b="shoulder"), Bone(a="shoulder", b="hand"))
    plan = make_plan(arm_on_post().replaced(bones=bones), Brief(), bench)
    assert Walker(plan, bench).walk() == "" and plan.part("body").made == "apart"
    keys = [str(step.key) for step in plan.steps]
    own = [key for key in keys if key.partition(":")[2].partition(":")[0] == "arm"]
    assert own[-4:] == ["peg:arm", "coat:arm", "join:arm", "dry:arm"]
    # The wire begins in the middle of a ball 50 mm across; the arm at its skin, where it is 12 mm thick.
    wound = card_for(plan, plan.steps[keys.index("core:arm:1")], bench)
    bare = next(fact for fact in wound.how if fact.kind == "wrap-limb.from-stem")
    depth = dict(bare.slots)["bare"]
    assert isinstance(depth, Mm) and depth.value == pytest.approx(25, abs=1.0)
    assert plan.part("arm").piece_mm["length"] == pytest.approx(60 + 6, abs=1.5)
    # With the wire bound to another in the body, that is wound on the frame, and nothing is pushed in.
    framed = make_plan(arm_on_post(), Brief(), bench)
    assert "join:arm" not in [str(step.key) for step in framed.steps]
