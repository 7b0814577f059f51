from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from bambola.core.bench import Bench
from bambola.core.figure import (
    Brief,
    Datum,
    Document,
    FaceMark,
    Figure,
    Fitting,
    Joint,
    Limb,
    Part,
    Piece,
    PoseBend,
    Seat,
    SizeRule,
    Tilt,
)
from bambola.core.plan import make_plan
from bambola.core.resize import ResizeError, resize
from bambola.core.solids import measure_solids, place
from bambola.shipped import default_bench
from tests.effort import examples
from tests.figures import ball, figure_of, figures, one_ball, skin_in_skin


def limbed(**more: object) -> Figure:
    """A body with a pair of arms, hands on both and a thumb on the left hand only."""
    joints = (
        Joint(x=0, y=0, z=0, diameter=8),
        Joint(x=20, y=0, z=0, diameter=7),
        Joint(x=40, y=0, z=0, diameter=6),
    )
    arm = Part(id="arm", name="Arm", parent="body", pair=True, shape=Limb(joints=joints), core="cream",
               seat=Seat(along=0.6, around=90, sink=0))  # fmt: skip
    hand = Part(
        id="hand",
        name="Hand",
        parent="arm",
        shape=ball(10),
        core="cream",
        seat=Seat(along=1, out=0, sink=5),
    )
    thumb = Part(
        id="thumb",
        name="Thumb",
        parent="hand",
        on="left",
        shape=ball(4),
        core="cream",
        seat=Seat(around=0),
    )
    return figure_of(*one_ball(40.0).parts, arm, hand, thumb, **more)


def test_pair_is_mirrored_and_carries_what_sits_on_it() -> None:
    placed = place(limbed())
    for name in ("arm", "hand"):
        left, right = placed.copies_of(name)
        assert (left.side, right.side) == ("left", "right")
        assert left.matrix[0, 3] == pytest.approx(-right.matrix[0, 3])
        assert left.matrix[1:3, 3] == pytest.approx(right.matrix[1:3, 3])
    assert [copy.side for copy in placed.copies_of("thumb")] == ["left"]
    assert placed.copies_of("hand")[0].matrix[0, 3] > 50


def test_both_of_pair_are_worth_same() -> None:
    solids = measure_solids(limbed())
    (_, left), (_, right) = solids.copies_of("arm")
    assert left.net_mm3 == pytest.approx(right.net_mm3, rel=1e-3)
    assert left.join_mm2 == pytest.approx(right.join_mm2, rel=1e-2)


def test_pose_bends_one_side_and_keeps_length() -> None:
    posed = place(limbed(pose=(PoseBend(part="arm", joint=1, side="left", tilt=Tilt(lean=-90)),)))
    straight = place(limbed())
    left, right = posed.copies_of("arm")
    assert right.shape == straight.copies_of("arm")[1].shape
    assert left.shape.measures() == pytest.approx(right.shape.measures())
    hand = posed.copies_of("hand")[0]
    # The elbow stays, the forearm now points straight up.
    assert hand.matrix[0, 3] == pytest.approx(straight.copies_of("hand")[0].matrix[0, 3] - 20.0)
    assert hand.matrix[2, 3] == pytest.approx(straight.copies_of("hand")[0].matrix[2, 3] + 20.0)


@pytest.mark.parametrize(
    ("tilt", "points"),
    [
        (Tilt(), (0, 0, 1)),
        (Tilt(nod=90), (0, -1, 0)),
        (Tilt(lean=90), (1, 0, 0)),
        (Tilt(lean=180), (0, 0, -1)),
        (Tilt(nod=45), (0, -math.sqrt(0.5), math.sqrt(0.5))),
    ],
)
def test_tilts_nod_to_front_and_lean_to_left(tilt: Tilt, points: tuple[float, ...]) -> None:
    horn = Part(
        id="horn", name="Horn", parent="body", shape=ball(6), core="cream", seat=Seat(tilt=tilt)
    )
    copy = place(figure_of(*one_ball(40.0).parts, horn)).copies_of("horn")[0]
    assert copy.matrix[:3, 2] == pytest.approx(points, abs=1e-12)
    assert copy.matrix[:3, 3] == pytest.approx((0, 0, 40))


@pytest.mark.parametrize(
    ("kind", "part", "height"),
    [("crown", "head", 60.0), ("back", "body", 40.0), ("ear tips", None, 64.0)],
)
def test_height_is_measured_to_datum(kind: str, part: str | None, height: float) -> None:
    head = Part(
        id="head", name="Head", parent="body", shape=ball(24), core="cream", seat=Seat(sink=4)
    )
    ear = Part(id="ear", name="Ear", parent="head", shape=ball(6), core="cream", seat=Seat(sink=2))
    datum = Datum(kind=kind, part=part)  # type: ignore[arg-type]
    figure = figure_of(*one_ball(40.0).parts, head, ear, datum=datum)
    assert place(figure).height == pytest.approx(height, abs=1e-6)


def test_lowest_foot_is_ground() -> None:
    foot = Part(id="foot", name="Foot", parent="body", shape=ball(12), core="cream",
                seat=Seat(along=0, out=0, sink=9))  # fmt: skip
    placed = place(figure_of(*one_ball(40.0).parts, foot, datum=Datum(part="body")))
    assert placed.ground == pytest.approx(-9.0) and placed.height == pytest.approx(49.0)


def held_parts(figure: Figure, draw: st.DataObject) -> dict[str, tuple[SizeRule, ...]]:
    names = [part.id for part in figure.parts[1:]]
    held = draw.draw(st.lists(st.sampled_from(names), min_size=1, max_size=2, unique=True))
    return {name: (SizeRule(rule="hold"),) for name in held}


@examples(12, 2)
@given(figures(), st.floats(0.6, 1.8), st.data())
def test_scaled_measures_equal_fresh_ones(figure: Figure, s: float, data: st.DataObject) -> None:
    bench = default_bench()
    rules = held_parts(figure, data)
    height = place(figure).height * s
    try:
        resized = resize(figure, Brief(height=height, rules=rules), bench)
    except ResizeError:
        return
    bent = {name for name, sized in resized.parts.items() if sized.bent_by}
    quick = measure_solids(resized.figure, resized.scale, measure_solids(figure), bent)
    anew = measure_solids(resized.figure)
    assume(not skin_in_skin(anew))
    for a, b in zip(quick.measured, anew.measured, strict=True):
        assert a.net_mm3 == pytest.approx(b.net_mm3, rel=0.02, abs=2.0)
        assert a.exposed_mm2 == pytest.approx(b.exposed_mm2, rel=0.02, abs=4.0)
    assert quick.net_mm3 == pytest.approx(anew.net_mm3, rel=0.005)


def test_parts_add_up_to_whole_figure(badger: Document) -> None:
    import manifold3d as m3

    from bambola.core.solids import solid_of

    solids = measure_solids(badger.figure)
    bodies = [solid_of(c.shape).transform(c.matrix[:3]) for c in solids.placement.copies]
    union = m3.Manifold.batch_boolean(bodies, m3.OpType.Add)
    assert solids.net_mm3 == pytest.approx(union.volume(), rel=0.005)
    exposed = sum(solid.exposed_mm2 for solid in solids.measured)
    assert exposed == pytest.approx(union.surface_area(), rel=0.02)
    corners = np.asarray(union.to_mesh().vert_properties)[:, 2]
    assert corners.max() - corners.min() == pytest.approx(
        solids.placement.height + 4.5, abs=1.0
    )  # the ears stand above the crown


def test_fittings_sit_on_skin_at_every_size(bench: Bench) -> None:
    eye = Fitting(id="eye", name="Eyes", kind="eye", part="body", pair=True, size=5, follows="ready-made",
                  seat=Seat(along=0.5, around=30, sink=2, tilt=Tilt(nod=90)),
                  pieces=(Piece(shape=ball(5)),))  # fmt: skip
    marks = (FaceMark(id="eye-line", name="Eye line", part="body", along=0.5, around=30),)
    figure = Figure.model_validate(
        {**one_ball(40.0).model_dump(), "fittings": (eye,), "marks": marks}
    )
    for height in (40.0, 90.0, 31.0):
        plan = make_plan(figure, Brief(height=height), bench)
        left, right = plan.solids.placement.fittings
        skin = left.matrix[:3, 3] + left.matrix[:3, 2] * left.fitting.seat.sink
        assert np.linalg.norm(skin - [0, 0, height / 2]) == pytest.approx(height / 2, rel=1e-6)
        assert left.matrix[0, 3] == pytest.approx(-right.matrix[0, 3])
        assert left.fitting.size == plan.fittings[0].use_mm
