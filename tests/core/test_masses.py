"""What weighs, where it is, and what is no wool: by hand."""

from __future__ import annotations

import math

import numpy as np
import pytest

from bambola.core.armature import Gauge, Mass, wire_grams
from bambola.core.facts import Fact
from bambola.core.figure import Fitting, Garment, Part, Piece, Rope, Seat, Wire
from bambola.core.figure.shapes import Station, Turned
from bambola.core.plan.making.dress import worn_mm
from bambola.core.plan.making.masses import (
    centre_of,
    fitting_masses,
    gauged_masses,
    held_by,
    hidden_in_parts,
)
from bambola.core.solids import place
from bambola.core.solids.measure import measure_solids
from tests.figures import arm_on_post, ball, figure_of, one_ball


def bead(id_: str, mass: float, size: float, **more: object) -> Fitting:
    given = {"kind": "bead", "seat": Seat(along=0.5, around=0.0, out=1.0), **more}
    return Fitting(
        id=id_, name=id_, part="body", mass=mass, size=size, pieces=(Piece(shape=ball(size)),), **given
    )  # type: ignore[arg-type]  # fmt: skip


def test_fitting_weighs_in_its_middle_and_one_without_mass_nowhere() -> None:
    on_top = bead("light", 0.5, 4.0, seat=Seat(along=1.0, out=1.0))
    figure = one_ball(40.0).replaced(
        fittings=(bead("heavy", 3.0, 6.0), on_top, bead("paint", 0.0, 4.0))
    )
    heavy, light = fitting_masses(measure_solids(figure))
    assert (heavy.grams, heavy.part, light.grams) == (3.0, "body", 0.5)
    # It stands on the skin: on the front of the ball, and on its top.
    assert heavy.centre == pytest.approx((0.0, -20.0, 20.0 + 3.0), abs=0.05)
    assert light.centre == pytest.approx((0.0, 0.0, 40.0 + 2.0), abs=0.05)


@pytest.mark.parametrize(("mass", "bought", "weighs"), [
    (2.0, True, True), (0.4, True, True), (0.0, True, False), (2.0, False, False),
])  # fmt: skip
def test_bought_garment_has_weight_felted_one_is_wool(
    mass: float, bought: bool, weighs: bool
) -> None:
    scarf = Part(
        id="scarf", name="Scarf", parent="body", shape=ball(14), core="madder", seat=Seat(along=0.5),
        garment=Garment(opening=90, passes="body", bought=bought, mass=mass),
    )  # fmt: skip
    solids = measure_solids(figure_of(*one_ball(40).parts, scarf))
    found = fitting_masses(solids)
    assert [m.grams for m in found] == ([mass] if weighs else [])
    for lump in found:
        assert lump.part == "scarf"
        assert lump.centre == pytest.approx(solids.centroids[1].tolist())


def test_hard_cores_and_wire_take_room_of_wool() -> None:
    figure = arm_on_post(60.0)
    gauge = Gauge("soft steel", 2.0, 2.0, Fact("test"), 2)
    wired = hidden_in_parts(place(figure), {"arm": gauge})
    assert wired["arm"] == pytest.approx(2 * math.pi * 60.0, rel=0.01)  # two of 1 mm radius
    assert hidden_in_parts(place(figure), {}) == {}
    cork, stone = bead("cork", 1.0, 20.0, kind="core"), bead("stone", 1.0, 10.0, kind="core")
    cored = figure.replaced(fittings=(cork, stone, bead("nose", 1.0, 8.0, kind="nose")))
    balls = math.pi / 6 * (20.0**3 + 10.0**3)
    assert hidden_in_parts(place(cored), {}) == {"body": pytest.approx(balls, rel=0.01)}
    both = hidden_in_parts(place(cored), {"arm": gauge})
    assert both["body"] == pytest.approx(balls + wired["body"], rel=0.01)


def test_wire_weighs_as_long_as_its_bones_are() -> None:
    figure = arm_on_post(60.0)
    placement = place(figure)
    gauge = Gauge("soft steel", 1.5, 1.5, Fact("test"))
    masses = gauged_masses(placement, {"arm": gauge})
    heart, shoulder, hand = (placement.nodes[n] for n in ("heart", "shoulder", "hand"))
    legs = [math.dist(heart, shoulder), math.dist(shoulder, hand)]
    assert sum(m.grams for m in masses) == pytest.approx(wire_grams(gauge, sum(legs)))
    # As a whole it weighs in the middle of its two legs, each by its length.
    middles = np.array([(heart + shoulder) / 2, (shoulder + hand) / 2])
    assert centre_of(masses) == pytest.approx(np.array(legs) @ middles / sum(legs), abs=0.01)


def test_lumps_balance_where_lever_would() -> None:
    lumps = [Mass(1.0, (0.0, 0.0, 0.0), "a", None), Mass(3.0, (8.0, -4.0, 2.0), "b", None)]
    assert centre_of(lumps).tolist() == [6.0, -3.0, 1.5]
    assert centre_of([Mass(0.0, (5.0, 5.0, 5.0), "a", None)]).tolist() == [0.0, 0.0, 0.0]


def test_join_with_wire_through_it_is_held_by_wire() -> None:
    figure = arm_on_post()
    assert held_by(figure, {"arm": "sewn", "ear": "felted"}) == {"arm": "wire", "ear": "felted"}
    within = Wire(
        id="w", name="W", metal="soft aluminium", diameter=1.0, route=("shoulder", "hand")
    )
    only_within = figure.replaced(wires=(within,))
    assert held_by(only_within, {"arm": "sewn"}) == {"arm": "sewn"}
    stub = figure.replaced(wires=(within.replaced(stub="arm"),))
    assert held_by(stub, {"arm": "sewn"}) == {"arm": "wire"}


def test_what_garment_closes_round() -> None:
    turns = [math.tau * k / 24 for k in range(24)]
    ring = Rope(
        thickness=6.0,
        closed=True,
        points=tuple((20 * math.cos(t), 20 * math.sin(t), 0.0) for t in turns),
    )
    worn = Garment(opening=90, passes="body")

    def part(shape: object) -> Part:
        return Part(
            id="c", name="C", parent="body", shape=shape, core="madder", seat=Seat(along=0.5), garment=worn
        )  # type: ignore[arg-type]  # fmt: skip

    def closes(shape: object) -> float:
        garment = part(shape)
        return worn_mm(garment, figure_of(*one_ball(40).parts, garment))

    assert closes(ring) == pytest.approx(math.tau * (20 - 3), rel=0.01)  # the hole of the ring
    tiny = ring.replaced(points=tuple((x / 12, y / 12, z) for x, y, z in ring.points))
    assert closes(tiny) == 0.0  # thicker than it is wide
    waist = Turned(length=30.0, stations=(
        Station(along=0.0, width=20.0, depth=20.0), Station(along=0.5, width=12.0, depth=12.0),
        Station(along=1.0, width=24.0, depth=24.0),
    ))  # fmt: skip
    assert closes(waist) == pytest.approx(math.pi * 12.0, rel=1e-6)
    assert closes(ball(14.0)) == pytest.approx(math.pi * 40.0, rel=2e-3)  # what it is worn on
