"""Parts joined and cut by strokes: what comes of it is what was there, and nothing else moves."""

from __future__ import annotations

import manifold3d as m3
import numpy as np
import pytest

from bambola.core.bench import Bench
from bambola.core.facts import RefusedError
from bambola.core.figure import Figure, Sight, Survey
from bambola.core.figure.survey import Spot
from bambola.core.plan.reading.regrouping import cut_across, merge_parts
from bambola.core.sight.build import origin_of
from bambola.core.solids import AXES, place
from bambola.core.solids.forms import Array
from bambola.core.solids.meshes import solid_of
from bambola.shipped import body_plans, default_bench

BEAR = next(plan.figure for plan in body_plans() if plan.figure.id == "upright-animal")


@pytest.fixture
def bench() -> Bench:
    return default_bench()


def volume(figure: Figure) -> float:
    solids = [solid_of(copy.shape).transform(copy.matrix[:3]) for copy in place(figure).copies]
    return float(m3.Manifold.batch_boolean(solids, m3.OpType.Add).volume())


def stand(figure: Figure, survey: Survey) -> dict[tuple[str, str | None], Array]:
    """Where each copy of a part and each fitting stands in the pictures' axes."""
    placement, origin = place(figure), origin_of(figure, survey)
    found = {(c.part.id, c.side): c.matrix[:3, 3] + origin for c in placement.copies}
    found |= {(f.fitting.id, f.side): f.matrix[:3, 3] + origin for f in placement.fittings}
    return {key: np.asarray(at) for key, at in found.items()}


def across(part: str, at: float, view: Sight, side: str | None = None) -> tuple[Spot, Spot]:
    """A level stroke over a part of the bear, ``at`` along it."""
    copy = next(c for c in place(BEAR).copies_of(part) if c.side == side)
    u, v = AXES[view][:2] @ (copy.point(at) + origin_of(BEAR, Survey()))
    return (float(u) - 60, float(v)), (float(u) + 60, float(v))


def moved(was: Figure, now: Figure, noted: Survey, but: set[str]) -> float:
    """How far anything but some parts has moved at most, mm."""
    before, after = stand(was, Survey()), stand(now, noted)
    assert {part for part, _ in after} >= {part for part, _ in before} - but
    return max(
        float(np.linalg.norm(after[key] - at))
        for key, at in before.items()
        if key[0] not in but and key in after
    )


@pytest.mark.parametrize(
    ("part", "into", "stays"),
    [
        ("paw", "arm", "arm"),
        ("tail", "body", "body"),
        ("nose", "snout", "snout"),
        ("head", "snout", "head"),  # what bears the other stays
        ("head", "body", "body"),
    ],
)
def test_joined_parts_keep_volume_and_others_stay(part: str, into: str, stays: str) -> None:
    now, noted = merge_parts(BEAR, Survey(), part, into)
    gone = {part, into} - {stays}
    assert set(BEAR.by_id) - set(now.by_id) == gone
    for other in now.parts:
        was = BEAR.by_id[other.id].parent
        assert other.parent == (stays if was in gone else was)
    assert volume(now) == pytest.approx(volume(BEAR), rel=0.08)
    assert moved(BEAR, now, noted, {part, into}) < 0.5
    assert now.by_id[stays].coat == BEAR.by_id[stays].coat
    assert {t.part for t in noted.traces} == {stays}  # and can be pulled


def test_fitting_stays_with_what_its_part_is_joined_to() -> None:
    now, noted = merge_parts(BEAR, Survey(), "head", "body")
    assert {f.part for f in now.fittings} == {"body"}
    assert moved(BEAR, now, noted, {"head", "body"}) < 0.5


@pytest.mark.parametrize("side", ["left", "right"])
def test_arm_is_cut_on_both_sides_wherever_stroke_is(bench: Bench, side: str) -> None:
    stroke = across("arm", 0.5, "front", side)
    half = (stroke[0][0] + 40, stroke[0][1]), (stroke[1][0] - 40, stroke[1][1])
    now, noted, new = cut_across(BEAR, Survey(), "arm", "front", half, "Forearm", bench)
    assert now.by_id[new].parent == "arm" and now.by_id["paw"].parent == new
    assert len(place(now).copies_of(new)) == 2 and now.by_id[new].coat == BEAR.by_id["arm"].coat
    assert volume(now) == pytest.approx(volume(BEAR), rel=0.03)
    assert moved(BEAR, now, noted, {"arm", new}) < 0.5
    # Upper arm and forearm end and begin at the stroke.
    wrist = place(now).copies_of(new)[0].point(0.0) + origin_of(now, noted)
    assert float(wrist[2]) == pytest.approx(stroke[0][1], abs=10)
    again, _ = merge_parts(now, noted, new, "arm")
    long = BEAR.by_id["arm"].shape.measures()["length"]
    assert again.by_id["arm"].shape.measures()["length"] == pytest.approx(long, rel=0.08)


@pytest.mark.parametrize(("at", "above"), [(0.65, True), (0.3, False)])
def test_of_trunk_larger_piece_stays(bench: Bench, at: float, above: bool) -> None:
    stroke = across("body", at, "side")
    now, noted, new = cut_across(BEAR, Survey(), "body", "side", stroke, "Piece", bench)
    assert now.by_id[new].parent == "body" and now.by_id["body"].parent is None
    assert now.by_id["head"].parent == (new if above else "body")
    assert now.by_id["leg"].parent == ("body" if above else new)
    assert moved(BEAR, now, noted, {"body", new}) < 0.5
    assert volume(now) == pytest.approx(volume(BEAR), rel=0.06)


def test_what_cannot_be_is_said(bench: Bench) -> None:
    with pytest.raises(RefusedError) as told:
        merge_parts(BEAR, Survey(), "tail", "arm")
    assert "edit.joins-pair" in str(told.value)
    beside = (500.0, 0.0), (500.0, 90.0)
    with pytest.raises(RefusedError) as told:
        cut_across(BEAR, Survey(), "tail", "side", beside, "Piece", bench)
    assert "edit.cuts-nothing" in str(told.value)
