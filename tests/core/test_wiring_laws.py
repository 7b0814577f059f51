"""How wires are laid, called, bound and led on."""

from __future__ import annotations

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.armature import SCHOOLS
from bambola.core.armature.schools import hoops, least_ends
from bambola.core.armature.skeleton import Skeleton, skeleton_of, turn_between
from bambola.core.armature.wiring import joint_count, wired_by, wired_through, without_wire_in
from bambola.core.figure import Bone, Node, Part, Seat, Wire
from bambola.core.solids import place
from bambola.demo import BADGER, HERON, load_demo
from tests.figures import arm_on_post, ball, figure_of
from tests.said import said


@pytest.mark.parametrize("demo", [BADGER, HERON])
def test_new_routes_are_named_and_bound(demo: object) -> None:
    figure = load_demo(demo).figure  # type: ignore[arg-type]
    points = {name: at.tolist() for name, at in place(figure).nodes.items()}
    tree = skeleton_of(figure, points)
    for school in SCHOOLS:
        if school == "drawn":
            continue
        laid = wired_by(figure, school, points)
        assert [w.id for w in laid.wires] == [
            f"{school}-{n}" for n in range(1, len(laid.wires) + 1)
        ]
        assert len({said(w.display_name) for w in laid.wires}) == len(laid.wires)
        met: set[str] = set()
        for wire in laid.wires:
            assert set(wire.binds) <= met & set(wire.route) and len(wire.binds) <= 1
            assert bool(wire.binds) == bool(met & set(wire.route))
            met |= set(wire.route)
        bones = {frozenset(bone) for bone in tree.bones}
        laid_on = {
            frozenset(leg) for w in laid.wires for leg in zip(w.route, w.route[1:], strict=False)
        }
        assert bones <= laid_on


def test_wires_are_named_after_their_main_part() -> None:
    def called(demo: object, school: str, strands: int = 1) -> list[str]:
        figure = load_demo(demo).figure  # type: ignore[arg-type]
        bones = tuple(
            b.replaced(strands=strands) if "pelvis" in (b.a, b.b) else b for b in figure.bones
        )
        points = {name: at.tolist() for name, at in place(figure).nodes.items()}
        return [
            said(w.display_name)
            for w in wired_by(figure.replaced(bones=bones), school, points).wires
        ]

    assert called(BADGER, "hoops") == ["Spine wire", "Leg hoop", "Arm hoop"]
    assert called(HERON, "hoops") == ["Neck wire", "Leg hoop"]  # it goes on through the body
    limbs = ["Left leg wire", "Right leg wire", "Left arm wire", "Right arm wire"]
    assert called(BADGER, "stems") == ["Spine wire", *limbs]
    # Three through the trunk: they are told apart by number.
    trebled = called(BADGER, "hoops", strands=3)
    assert [name for name in trebled if "Spine" in name] == [
        "Spine wire",
        "Spine wire 2",
        "Spine wire 3",
    ]


def test_wire_keeps_its_peg_in_every_school() -> None:
    figure = arm_on_post()
    knob = Part(
        id="knob", name="Knob", parent="arm", core="core-batt", seat=Seat(along=1.0), shape=ball(16)
    )
    (drawn,) = figure.wires
    pegged = figure.replaced(parts=(*figure.parts, knob), wires=(drawn.replaced(stub="knob"),))
    points = {name: at.tolist() for name, at in place(pegged).nodes.items()}
    for school in ("hoops", "stems", "continuous"):
        ends = {w.route[-1]: w.stub for w in wired_by(pegged, school, points).wires}
        assert ends["hand"] == "knob" and set(ends.values()) <= {"knob", None}
        bare = wired_by(pegged, school, points, bare=frozenset({"knob"})).wires
        assert not any(w.stub for w in bare)


def test_longer_run_of_divided_wire_is_kept() -> None:
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt")
    tail = Part(id="tail", name="Tail", parent="body", core="core-batt", seat=Seat(), shape=ball(9))
    for route in ("zbmgnaqc", "anqcgzbm", "bzngmcaq"):  # whatever the nodes are called
        nodes = [Node(id=n, part="tail" if n == "g" else "body", along=0.5) for n in route]
        bones = [Bone(a=a, b=b) for a, b in itertools.pairwise(route)]
        wire = Wire(
            id="w",
            name="W",
            metal="soft steel",
            diameter=1.0,
            route=tuple(route),
            binds=(route[0], route[-1]),
        )
        left = without_wire_in(
            figure_of(body, tail, nodes=nodes, bones=bones, wires=(wire,)), frozenset({"tail"})
        )
        (kept,) = left.wires
        longer = max(route.split("g"), key=len)
        assert "".join(kept.route) == longer
        assert kept.binds == tuple(n for n in (route[0], route[-1]) if n in longer)


def test_wire_into_part_continues_ending_wire() -> None:
    figure = arm_on_post()
    head = Part(
        id="head",
        name="Head",
        parent="body",
        core="core-batt",
        seat=Seat(along=1.0),
        shape=ball(20),
    )
    (arm,) = figure.wires
    copper = arm.replaced(
        id="two", name="Two", metal="soft copper", diameter=2.0, route=("shoulder", "hand")
    )
    points = {name: at.tolist() for name, at in place(figure).nodes.items()}
    whole = figure.replaced(parts=(*figure.parts, head), wires=(arm, copper))
    led = wired_through(whole, "head", points)
    (added,) = (w for w in led.wires if w.id not in ("arm", "two"))
    assert (added.metal, added.diameter, added.route) == (
        "soft steel",
        1.0,
        ("heart", "head-heart"),
    )
    assert added.binds == ("heart",) and said(added.display_name) == "Head wire"
    assert wired_through(led, "head", points).wires == led.wires  # it is there
    back = whole.replaced(wires=(arm.replaced(route=arm.route[::-1]),))
    assert [w.route for w in wired_through(back, "head", points).wires] == [
        ("hand", "shoulder", "heart", "head-heart")
    ]
    assert joint_count(led) == 2 and joint_count(back) == 0


@given(st.dictionaries(st.sampled_from("abcdef"), st.integers(1, 5), min_size=1, max_size=4))
def test_fewest_wires_end_at_junctions(
    strands: dict[str, int],
) -> None:
    """Against pairing them greedily: always two of the bones with most strands left."""
    left = sorted(strands.values())
    while len(left) > 1 and left[-2]:
        left[-1], left[-2] = left[-1] - 1, left[-2] - 1
        left.sort()
    assert least_ends(list(strands.values())) == sum(left)


def test_wire_turns_by_angle_between_its_runs() -> None:
    o, x, y = (0.0, 0.0, 0.0), (30.0, 0.0, 0.0), (30.0, 5.0, 0.0)
    assert turn_between(o, x, y) == pytest.approx(90.0)
    assert turn_between(o, x, o) == pytest.approx(180.0) and turn_between(o, x, (60, 0, 0)) == 0.0
    assert turn_between(o, x, (60.0, 30.0, 0.0)) == pytest.approx(45.0)
    assert turn_between(o, o, x) == 0.0  # a run without length has no way
    # Back the way it came, and straight on, however that is rounded.
    for p, q in np.random.default_rng(4).uniform(-50, 50, (300, 2, 3)):
        assert turn_between(p, q, p) == pytest.approx(180.0, abs=1e-5)
        assert turn_between(p, q, 2 * q - p) == pytest.approx(0.0, abs=1e-5)


def test_where_wires_cross_each_goes_straight_on() -> None:
    ends = {
        "a": (30.0, 0.0, 0.0),
        "b": (0.0, 30.0, 5.0),
        "c": (-30.0, 0.0, 0.0),
        "d": (0.0, -30.0, 0.0),
    }
    bones = tuple(("m", end) for end in ends)
    pairs = [frozenset(bone) for bone in bones]
    tree = Skeleton(
        bones, dict.fromkeys(pairs, 1), dict.fromkeys(pairs, 30.0), {"m": (0.0, 0.0, 0.0), **ends}
    )
    assert {frozenset(route) for route in hoops(tree)} == {frozenset("amc"), frozenset("bmd")}
