"""Limbs too thin for their wire, and what each way out bears: worked out by hand.

A round wire bears its yield by d³ / 6: soft steel 250, brass 200, copper 70 N/mm². Felt hides it under 2.5 mm
a side, wool wound on with glue under 0.5.
"""

from __future__ import annotations

import math
from collections.abc import Callable

import pytest

from bambola.core.armature import BoneLoad
from bambola.core.armature.gauge import Gauge
from bambola.core.armature.skeleton import Pair
from bambola.core.armature.thin import ThinLimb, thin_limbs
from bambola.core.bench import Bench, WireStock
from bambola.core.facts import NOTHING
from bambola.core.figure import Figure, Metal
from bambola.core.solids import place
from tests.figures import arm_on_post

IN_TRUNK, IN_ARM = frozenset(("heart", "shoulder")), frozenset(("shoulder", "hand"))
STEM = WireStock(
    id="stem", name="Stem", metal="soft steel", diameter=0.5, cores=2, form="stem", length=300
)


def steel(mm: float) -> float:
    return 250 * mm**3 / 6


ThinAnswer = Callable[..., ThinLimb | None]


@pytest.fixture
def thin(bench: Bench) -> ThinAnswer:
    """The arm of a post, ``limb`` mm thick, where 10 N·mm come on its trunk and 20 on itself."""
    shelf = bench.replaced(wire_stock=(STEM,))

    def found(
        limb: float, mm: float = 2.0, needed: float = 2.0, metal: Metal = "soft steel", cores: int = 1,
        figure: Figure | None = None, wound: frozenset[str] = frozenset(), shelf: Bench = shelf,
        weights: tuple[float, float] = (10.0, 20.0),
    ) -> ThinLimb | None:  # fmt: skip
        figure = figure or arm_on_post(60.0, limb)
        gauge = Gauge(metal, mm, needed, NOTHING, cores)
        loads: dict[Pair, BoneLoad] = {
            bone: BoneLoad(min(bone), max(bone), nmm, nmm, 60.0)
            for bone, nmm in zip((IN_TRUNK, IN_ARM), weights, strict=True)
        }
        rows = thin_limbs(figure, place(figure), {"arm": gauge}, loads, shelf, wound)
        return rows[0] if rows else None

    return found


def test_what_hides_and_what_it_bears_is_as_by_hand(thin: ThinAnswer) -> None:
    assert thin(6.0) == ThinLimb(
        "arm", "arm", 6.0, 7.0,
        1.0, pytest.approx(steel(1.0) / 20),
        0.4, 5.4, pytest.approx(steel(0.4) / 20),
        None, False, None, pytest.approx(2 * steel(0.5) / 20),
    )  # fmt: skip
    assert thin(7.0) is None and thin(6.999) is not None
    nothing_hides = thin(5.2)
    assert nothing_hides is not None
    assert (nothing_hides.fits_diameter, nothing_hides.fits_bears) == (None, 0.0)
    weightless = thin(6.0, weights=(0.0, 0.0))
    assert weightless is not None and weightless.fits_bears == math.inf


def test_another_metal_is_offered_that_bears_as_much_and_hides(thin: ThinAnswer) -> None:
    for needed, stronger in (
        (1.40, ("half-hard brass", 1.0)),  # 70 × 1.4³ = 200 × 0.987³
        (1.42, ("half-hard brass", 1.0)),  # 1.0007: nobody measures that
        (1.45, ("soft steel", 1.0)),  # 1.022 of brass would show, 0.949 of steel does not
        (1.60, None),
    ):
        row = thin(6.0, metal="soft copper", needed=needed)
        assert row is not None and row.stronger == stronger
    own = thin(6.0, metal="half-hard brass", needed=1.0)
    assert own is not None and own.stronger == ("soft steel", 1.0)


def test_glue_wound_wool_hides_wire_in_thin_limbs(thin: ThinAnswer) -> None:
    for limb, wound in (
        (3.5, (2.0, math.inf)),  # as stout as it should be
        (3.51, None),
        (2.2, (1.2, pytest.approx(steel(1.2) / 20))),
        (1.3, None),
    ):
        row = thin(limb)
        assert row is not None and row.wound == wound
    glued = thin(2.9, wound=frozenset({"arm"}))
    assert glued is not None and glued.needs_mm == 3.0
    assert thin(3.0, wound=frozenset({"arm"})) is None


def test_stems_are_offered_if_on_shelf_and_hidden(thin: ThinAnswer, bench: Bench) -> None:
    assert (
        row := thin(6.0)
    ) is not None and row.chenille is not None  # two cores of half a millimetre
    for other in (
        thin(5.99),
        thin(6.0, cores=2),  # that is of stems already
        thin(6.0, shelf=bench.replaced(wire_stock=())),
    ):
        assert other is not None and other.chenille is None
    # Two strands of two cores are 2.41 of one: 1.2 mm, so that 6.2 hide them.
    for limb, hides in ((6.21, True), (6.2, False)):
        assert (row := thin(limb, figure=twice(limb))) is not None
        assert (row.chenille is not None) is hides


def twice(limb: float) -> Figure:
    """The arm's wire goes out and back, as its bone asks."""
    figure = arm_on_post(60.0, limb)
    bones = tuple(b.replaced(strands=2) if b.b == "hand" else b for b in figure.bones)
    wires = tuple(w.replaced(route=(*w.route, "shoulder", "heart")) for w in figure.wires)
    return figure.replaced(bones=bones, wires=wires)


def test_two_strands_share_weight_and_take_twice_room(thin: ThinAnswer) -> None:
    row = thin(6.0, figure=twice(6.0), cores=1)
    assert row is not None and row.fewer
    assert row.needs_mm == 9.0 and row.slim_mm == pytest.approx(5.8)
    assert row.fits_diameter == 0.5 and row.fits_bears == pytest.approx(steel(0.5) / 10)
    cored = thin(6.0, mm=0.5, figure=twice(6.0), cores=2)
    assert cored is not None and cored.needs_mm == pytest.approx(0.5 * 2.41 + 5)
    wound = thin(3.0, figure=twice(3.0))
    assert wound is not None and wound.wound == (1.0, pytest.approx(steel(1.0) / 10))
