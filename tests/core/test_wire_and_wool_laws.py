"""Metals, bends, splices, pans and pairs by numbers worked out by hand: what mutants lived by."""

from __future__ import annotations

import pytest

from bambola.core.armature.cuts import pieces_of, wire_grams
from bambola.core.armature.gauge import Gauge
from bambola.core.armature.skeleton import turn_between
from bambola.core.armature.strength import capacity_nmm, diameter_bearing
from bambola.core.bench import Bench
from bambola.core.facts import NOTHING
from bambola.core.figure import Brief, Coat
from bambola.core.plan import make_plan
from bambola.core.wool.pan import PanState, WeighingTarget, after_reading
from tests.figures import one_ball, patch

METALS = {
    # A metre of a square millimetre and a quarter's circle less: g, and N·mm at which it stays bent.
    "soft aluminium": (2.1206, 7.5), "soft copper": (7.0372, 11.6667),
    "half-hard brass": (6.6759, 33.3333), "soft steel": (6.1654, 41.6667),
}  # fmt: skip


@pytest.mark.parametrize("metal", METALS)
def test_metre_of_millimetre_weighs_and_bears_what_its_metal_does(metal: str) -> None:
    grams, moment = METALS[metal]
    assert wire_grams(Gauge(metal, 1.0, 1.0, ""), 1000.0) == pytest.approx(grams, rel=1e-4)  # type: ignore[arg-type]
    assert wire_grams(Gauge(metal, 2.0, 2.0, NOTHING, cores=2), 500.0) == pytest.approx(
        4 * grams, rel=1e-4
    )  # type: ignore[arg-type]
    assert capacity_nmm(metal, 1.0) == pytest.approx(moment, rel=1e-4)  # type: ignore[arg-type]
    assert capacity_nmm(metal, 2.0, 3) == pytest.approx(24 * moment, rel=1e-4)  # type: ignore[arg-type]
    assert diameter_bearing(16 * moment, metal, 2) == pytest.approx(2.0, rel=1e-4)  # type: ignore[arg-type]


def test_way_turns_by_angle_between_its_runs() -> None:
    corner = (1.0, 2.0, 3.0)
    for then, degrees in (
        ((1.0, 2.0, 8.0), 0.0), ((1.0, 9.0, 3.0), 90.0), ((1.0, 5.0, 6.0), 45.0),
        ((1.0, 2.0, 1.0), 180.0), (corner, 0.0),
    ):  # fmt: skip
        assert turn_between((1.0, 2.0, -4.0), corner, then) == pytest.approx(degrees, abs=1e-5)


def test_wire_is_spliced_as_late_as_possible() -> None:
    # 700 of stock 300: each piece gives thirty to its splice, which keeps five from a bend.
    pieces, splices = pieces_of(700.0, [(0.0, 250.0), (260.0, 700.0)], 300.0)
    assert [(p.start_mm, p.end_mm, p.clear) for p in pieces] == [
        (0, 300, True), (270, 570, True), (540, 700, True),
    ]  # fmt: skip
    assert splices == [30, 30]
    bent, _ = pieces_of(500.0, [(0.0, 200.0), (280.0, 500.0)], 300.0)
    assert [(p.start_mm, p.end_mm) for p in bent] == [(0, 195), (165, 465), (435, 500)]
    # With no free stretch in reach it lies across a bend, and says so; a wire that fits is one piece.
    (first, _), _ = pieces_of(400.0, [(350.0, 400.0)], 300.0)
    assert (first.end_mm, first.clear) == (300, False)
    assert pieces_of(300.0, [(0.0, 300.0)], 300.0) == (pieces_of(300.0, [], 300.0)[0], [])
    assert len(pieces_of(500.0, [(0.0, 500.0)], 60.0)[0]) == 1


@pytest.mark.parametrize(
    "shown, zero", [(0.1, 0.1), (-0.1, -0.1), (0.2, 0.0), (-0.21, 0.0)]
)  # steps of a tenth of a gram
def test_pan_drift_of_one_step_is_ignored(shown: float, zero: float) -> None:
    aim = WeighingTarget(5.0, 6.0, 5.5)
    pan = after_reading(PanState(grams=shown), shown, "steady", 1.0, aim, 0.1)
    assert pan.zero == zero and pan.grams == pytest.approx(shown - zero)


@pytest.mark.parametrize("shown, zero", [(0.3, 0.3), (-0.3, -0.3), (0.4, 0.0)])
def test_pan_lifted_clear_may_have_drifted_by_three_steps(shown: float, zero: float) -> None:
    aim = WeighingTarget(5.0, 6.0, 5.5)
    pan = after_reading(PanState(grams=5.5, lying=5.5), shown, "steady", 1.0, aim, 0.1)
    assert pan.clear and pan.zero == zero
    still = after_reading(PanState(grams=5.5, lying=5.5), 1.2, "steady", 1.0, aim, 0.1)
    assert not still.clear and still.standing == "lift off"


def test_patch_reaches_under_coat_only_where_there_is_one(bench: Bench) -> None:
    corner = 1 / 6  # ten millimetres square on the front of a ball of sixty
    outline = ((-corner, -corner), (corner, -corner), (corner, corner), (-corner, corner))
    spot = patch("belly", "cream", outline=outline)
    grams = {}
    for coat in (None, Coat(wool="cream")):
        figure = one_ball(60.0, places=(spot,), coat=coat)
        part = make_plan(figure, Brief(), bench).parts[0]
        (inset,) = (p for p in part.portions if p.role == "inset")
        grams[coat is not None] = inset.grams
    # A square centimetre of its 0.016 g, on a ball a hair more; under a coat three millimetres along forty.
    assert grams[False] == pytest.approx(0.016, rel=0.03)
    assert grams[True] == pytest.approx(grams[False] * 2.2, rel=0.02)
