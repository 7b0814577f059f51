"""Loads, wires and their stock against numbers worked out by hand."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from hypothesis import assume, example, given
from hypothesis import strategies as st
from scipy.optimize import minimize

from bambola.core.armature.cuts import SPLICE_MM, Bend, HandBend, by_hand, pieces_of
from bambola.core.armature.gauge import (
    AS_DRAWN,
    AS_STEADY,
    OWN_WEIGHT,
    Gauge,
    Yardstick,
    bent_nmm,
    felts_of,
    needs_of,
)
from bambola.core.armature.loads import BoneLoad, Mass, mass_along, reactions
from bambola.core.armature.strength import bundle_mm, take_up
from bambola.core.facts import NOTHING, Fact
from bambola.core.figure import Bone, Joint, Limb, Node, Part, Seat
from bambola.core.plan import make_plan
from bambola.core.solids import place
from bambola.demo import BADGER, HERON, load_demo
from bambola.shipped import default_bench
from tests.effort import examples
from tests.figures import ball, figure_of
from tests.said import said


def bend(at: float, angle: float, twist: float = 0.0) -> Bend:
    return Bend(at, angle, twist, "node")


@pytest.mark.parametrize(
    ("bends", "told"),
    [
        ([bend(10, 12), bend(39.9, 14)], [(10, 39.9, 25, 0)]),  # under 30 mm apart: one curve
        ([bend(10, 12), bend(40.1, 14)], [(10, 10, 10, 0), (40.1, 40.1, 15, 0)]),
        ([bend(10, 29.9), bend(20, 29.9)], [(10, 20, 60, 0)]),  # small ones
        ([bend(10, 30.1), bend(20, 29.9)], [(10, 10, 30, 0), (20, 20, 30, 0)]),
        ([bend(10, 20, 40), bend(20, 20, 29)], [(10, 20, 40, 40)]),  # it rolls before its first only
        ([bend(10, 20), bend(20, 20, -31)], [(10, 10, 20, 0), (20, 20, 20, -30)]),
        ([bend(10, 20), bend(20, 20), bend(30, 20), bend(60.1, 20)], [(10, 30, 60, 0), (60.1, 60.1, 20, 0)]),
        ([bend(10, 2.4), bend(50, 2.6)], [(50, 50, 5, 0)]),  # what no hand could set is left out
        ([bend(10, 88, -92)], [(10, 10, 90, -90)]),
        ([bend(10, 60), bend(20, 60, -1)], [(10, 10, 60, 0), (20, 20, 60, 0)]),
        ([], []),
    ],
)  # fmt: skip
def test_bends_are_told_as_hand_sets_them(bends: list[Bend], told: list[tuple[float, ...]]) -> None:
    found = by_hand(bends)
    assert [(b.start_mm, b.end_mm, b.angle_deg, b.twist_deg) for b in found] == told
    assert not any(
        math.copysign(1, b.twist_deg) < 0 for b in found if not b.twist_deg
    )  # nobody rolls by -0


def test_what_hand_does_is_said() -> None:
    assert said(HandBend(10, 10, 90, 0).as_fact) == "bend 90° at 10 mm"
    assert said(HandBend(10, 34, 60, 0).as_fact) != said(HandBend(10, 10, 60, 0).as_fact)
    turned = [said(HandBend(10, 10, 90, twist).as_fact) for twist in (45, -45, 4.9)]
    assert (
        " clockwise" in turned[0] and "anticlockwise" in turned[1] and "lockwise" not in turned[2]
    )
    assert all("45°" in line for line in turned[:2])


SQUARE = np.array([(0.0, 0, 0), (40, 0, 0), (40, 20, 0), (0, 20, 0)])


@example(30.0, 6.0)
@example(1.0, 19.0)
@given(st.floats(0, 40), st.floats(0, 20))
@examples(60)
def test_feet_share_weight_as_evenly_as_balance_allows(x: float, y: float) -> None:
    """Against a library that looks for the same: forces that balance, none pulling, least uneven."""
    force, at = reactions(SQUARE, np.array([3.0, 2.0]), np.array([(x, y, 50.0)] * 2))
    assert force.sum() == pytest.approx(5.0) and force.min() >= 0
    assert force @ at[:, :2] == pytest.approx(np.array([x, y]) * 5)
    assert at == pytest.approx(
        SQUARE, abs=1e-6
    )  # it stands within its feet: they press where they are
    best = minimize(
        lambda f: float(((f - 1.25) ** 2).sum()),
        np.full(4, 1.25),
        bounds=[(0, None)] * 4,
        constraints=[
            {"type": "eq", "fun": lambda f: f.sum() - 5},
            {"type": "eq", "fun": lambda f: f @ SQUARE[:, :2] - 5 * np.array([x, y])},
        ],
    )
    assume(best.success)
    # Feet that would pull are let go one after another, which is near to the best and never below it.
    assert ((force - 1.25) ** 2).sum() <= best.fun + 0.35 and (
        (force - 1.25) ** 2
    ).sum() >= best.fun - 1e-6


def test_weight_beyond_feet_moves_where_they_press() -> None:
    force, at = reactions(SQUARE, np.array([4.0]), np.array([(55.0, 10.0, 30.0)]))
    assert force @ at[:, :2] == pytest.approx(np.array([55.0, 10.0]) * 4)
    assert force[0] == force[3] == 0 and force[1] == pytest.approx(2.0)
    nothing, same = reactions(SQUARE, np.zeros(1), np.zeros((1, 3)))
    assert not nothing.any() and same is SQUARE


def test_wire_weighs_along_its_runs() -> None:
    body = Part(id="body", name="Body", shape=ball(40), core="core-batt")
    nodes = tuple(Node(id=name, part="body", along=0.5) for name in "abc")
    figure = figure_of(body, nodes=nodes)
    lumps = mass_along([(("a", "b", "c"), ((0, 0, 0), (0, 0, 30), (40, 6, 30)), 7.0)], figure)
    long = math.hypot(40, 6)
    assert lumps == [
        Mass(pytest.approx(7 * 30 / (30 + long)), (0, 0, 15), "body", None, frozenset("ab")),
        Mass(pytest.approx(7 * long / (30 + long)), (20, 3, 30), "body", None, frozenset("bc")),
    ]


@pytest.mark.parametrize(
    ("straight", "longest"), [(900, 300), (299, 300), (300, 300), (571, 300), (5000, 333)]
)
def test_wire_is_of_as_few_pieces_as_its_stock_allows(straight: float, longest: float) -> None:
    pieces, splices = pieces_of(straight, [(0.0, straight)], longest)
    # Each piece but the last overlaps the next by a splice.
    fewest = max(1, math.ceil((straight - SPLICE_MM) / (longest - SPLICE_MM) - 1e-9))
    assert len(pieces) == fewest and splices == [SPLICE_MM] * (fewest - 1)
    assert pieces[0].start_mm == 0 and pieces[-1].end_mm == straight
    assert all(p.mm <= longest + 1e-6 and p.clear for p in pieces)
    for one, other in itertools.pairwise(pieces):
        assert one.end_mm - other.start_mm == pytest.approx(SPLICE_MM)
    # Where no place is free it is cut all the same, and said; stock too short to splice is taken as it is.
    crowded, _ = pieces_of(straight, [], longest)
    assert len(crowded) == fewest and all(not p.clear for p in crowded[:-1])
    assert len(pieces_of(straight, [(0.0, straight)], 2 * SPLICE_MM)[0]) == 1


def test_tapered_limb_springs_back_by_its_mean_radius() -> None:
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt")
    arm = Part(
        id="arm", name="Arm", parent="body", core="core-batt", seat=Seat(along=0.5, around=90),
        shape=Limb(joints=(Joint(x=0, y=0, z=0, diameter=24), Joint(x=0, y=0, z=80, diameter=8))),
    )  # fmt: skip
    ends = {"heart": ("body", 0.5), "in": ("arm", 0.1), "out": ("arm", 0.7)}
    nodes = tuple(Node(id=id, part=part, along=along) for id, (part, along) in ends.items())
    for bones, middle in (
        ((Bone(a="in", b="out"),), 0.4),  # from a tenth to seven tenths
        ((Bone(a="heart", b="out", part="arm"),), 0.35),  # from its seat
        ((Bone(a="heart", b="in", part="arm"),), 0.05),
    ):
        figure = figure_of(body, arm, nodes=nodes, bones=bones)
        (felt,) = felts_of(figure, place(figure)).values()
        # Its radius falls evenly, so that its mean is that of the middle.
        assert felt.radius == pytest.approx(12 - 8 * middle, rel=1e-6)
        assert felt.part == "arm" and felt.posed and felt.part_mm == 24.0
    # E I by the turn over the length: as far as it is posed, a stubby one in proportion less.
    stiff = 0.10 * math.pi * 9.0**4 / 4
    assert bent_nmm("medium", 9.0, 80.0) == pytest.approx(stiff * math.radians(60) / 80)
    assert bent_nmm("medium", 9.0, 20.0) == pytest.approx(stiff * math.radians(60) / 54)
    assert bent_nmm("firm", 9.0, 80.0) == pytest.approx(2 * bent_nmm("medium", 9.0, 80.0))
    assert bent_nmm("medium", 0.0, 80.0) == bent_nmm("medium", 9.0, 0.0) == 0.0


def test_more_than_four_strands_are_packed_as_closely_as_four() -> None:
    assert [bundle_mm(2.0, n) for n in (1, 2, 3, 4)] == [2.0, 4.0, 4.3, 4.82]
    for n in (5, 9, 16):  # as much room for each
        assert bundle_mm(2.0, n) ** 2 / n == pytest.approx(4.82**2 / 4)
    assert [take_up(n) for n in (0, 1, 2, 3, 4, 9)] == [1.0, 1.0, 1.06, 1.09, 1.12, 1.12]


def test_stiffness_goes_with_cube_of_diameter() -> None:
    for diameter, cores, steady, share in (
        (1.2, 1, 1.2, 1.0), (1.2, 1, 2.4, 0.125), (2.0, 1, 1.0, 8.0), (0.5, 2, 0.5, 2.0), (1.0, 4, 2.0, 0.5),
    ):  # fmt: skip
        gauge = Gauge("soft steel", diameter, 1.0, NOTHING, cores, steady=steady)
        assert gauge.stiffness == pytest.approx(share)
    for steady in (None, 0.0):
        assert Gauge("soft steel", 1.2, 1.0, NOTHING, steady=steady).stiffness is None


def test_bend_knows_node_at_which_it_is() -> None:
    for demo in (BADGER, HERON):
        document = load_demo(demo)
        plan = make_plan(document.figure, document.brief, default_bench())
        routes = {wire.id: wire.route for wire in plan.resized.figure.wires}
        places = plan.solids.placement.nodes
        bent = [(wire, one) for wire in plan.wires for one in wire.bends]
        assert len(bent) > 4
        for wire, one in bent:
            route = routes[wire.id]
            at = route.index(one.node)
            assert 0 < at < len(route) - 1
            before, here, after = (places[name] for name in route[at - 1 : at + 2])
            turn = np.degrees(np.arccos(np.clip(
                (here - before) @ (after - here)
                / np.linalg.norm(here - before) / np.linalg.norm(after - here), -1, 1)))  # fmt: skip
            assert one.angle_deg == pytest.approx(turn, abs=0.5), (wire.id, one.node)


@pytest.mark.parametrize(
    ("scale", "bore", "moment", "why"),
    [
        (1.0, 80.0, 80.0, AS_DRAWN),  # more than enough, and no more than is as steady
        (2.0, 80.0, 80.0, AS_DRAWN),  # what was drawn does not grow of itself
        (0.5, 400.0, 50.0, OWN_WEIGHT),  # a wire of half the diameter bears an eighth
        (0.5, 480.0, 60.0, AS_DRAWN),
        (1.0, 20.0, 40.0, AS_STEADY),  # enough would be more than is as steady
        (1.0, 0.0, 50.0, OWN_WEIGHT),  # no wire was there
    ],
)
def test_need_lies_between_drawn_and_as_steady(
    scale: float, bore: float, moment: float, why: Fact
) -> None:
    bone = frozenset("ab")
    before, now = BoneLoad("a", "b", 10.0, 10.0, 30.0), BoneLoad("a", "b", 20.0, 20.0, 30.0)
    old = Yardstick({}, {bone: bore}, {bone: before}, {})
    need = needs_of({bone: now}, old, {}, scale)[bone]
    assert (need.moment, need.why) == (pytest.approx(moment), why)
    assert need.enough == 50.0 and need.cause == OWN_WEIGHT  # two and a half times its weight
    assert need.steady == (2 * bore or None)
