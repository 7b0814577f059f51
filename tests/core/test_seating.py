"""Places turned back into seats, and what moving, turning, stretching and touching do with them."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from bambola.core.facts import RefusedError
from bambola.core.figure import Figure, Joint, Leaf, Limb, Part, PoseBend, Rope, Seat, Shape, Tilt
from bambola.core.figure.graft import descendants
from bambola.core.solids import (
    AXES,
    frame_along,
    nearest_seat,
    own_copy,
    place,
    reseat,
    seat_for,
    tilt_of,
)
from bambola.core.solids.edit import (
    about_axis,
    axis_ends,
    move_part,
    pose_limb,
    put_on,
    stretch_part,
    turn_part,
)
from bambola.core.solids.forms import seat_point
from bambola.core.solids.placement import rotation, seat_matrix
from bambola.core.solids.touch import nearest_axis, patch_outline, skin_point, skin_seat
from bambola.demo import HERON, load_demo
from tests.figures import arm_on_post, ball, figure_of, figures, one_ball, shapes
from tests.said import refused

angles = st.floats(-179, 179)


@given(angles, st.floats(-89, 89), angles)
def test_tilt_is_read_back_from_its_rotation(turn: float, nod: float, lean: float) -> None:
    matrix = rotation(Tilt(nod=nod, lean=lean, turn=turn))[:3, :3]
    again = rotation(tilt_of(matrix))[:3, :3]
    assert again == pytest.approx(matrix, abs=1e-9)


@pytest.mark.parametrize("nod", [90.0, -90.0])
def test_tilt_straight_forwards_is_read_back_too(nod: float) -> None:
    matrix = rotation(Tilt(nod=nod, turn=33.0, lean=20.0))[:3, :3]
    assert rotation(tilt_of(matrix))[:3, :3] == pytest.approx(matrix, abs=1e-6)


@given(shapes(), st.floats(0.05, 0.95), angles, st.floats(0.1, 1.5))
def test_seat_on_shape_is_found_again(
    shape: Shape, along: float, around: float, out: float
) -> None:
    if isinstance(shape, Leaf):
        assume(out <= 1.0)
    point = seat_point(shape, along, around, out)
    found = seat_point(shape, *nearest_seat(shape, point))
    if isinstance(shape, Limb | Rope):
        # Inside a bend two places of the axis are as near; either is a true place.
        assert np.linalg.norm(found - point) < 0.12 * max(shape.measures().values())
    else:
        assert found == pytest.approx(point, abs=1e-6)


@given(shapes(), st.floats(0.1, 0.9), angles, st.floats(0.3, 1.0), st.floats(-4, 12), angles)
def test_reseating_puts_base_where_it_was(
    shape: Shape, along: float, around: float, out: float, sink: float, nod: float
) -> None:
    if isinstance(shape, Limb | Rope):
        return
    seat = Seat(along=along, around=around, out=out, sink=sink, tilt=Tilt(nod=nod, turn=12))
    was = seat_matrix(shape, seat)
    found = seat_for(shape, was[:3, 3], was[:3, :3], sink=0.0)
    now = seat_matrix(shape, found)
    assert now[:3, 3] == pytest.approx(was[:3, 3], abs=1e-3)
    assert now[:3, :3] == pytest.approx(was[:3, :3], abs=1e-9)


def test_seat_keeps_its_sink_where_it_can() -> None:
    shape = ball(40)
    seat = Seat(along=0.7, around=30, out=0.9, sink=4.0, tilt=Tilt(nod=25))
    was = seat_matrix(shape, seat)
    assert seat_for(shape, was[:3, 3], was[:3, :3], sink=4.0).sink == 4.0


@given(st.floats(-1, 1), st.floats(-1, 1), st.floats(-1, 1), angles)
def test_turning_about_axis_agrees_with_scipy(x: float, y: float, z: float, deg: float) -> None:
    axis = np.array([x, y, z])
    assume(np.linalg.norm(axis) > 0.05)
    unit = axis / np.linalg.norm(axis)
    known = Rotation.from_rotvec(math.radians(deg) * unit).as_matrix()
    assert about_axis(axis, deg) == pytest.approx(known, abs=1e-9)


@given(st.floats(-1, 1), st.floats(-1, 1), st.floats(-1, 1))
def test_frame_is_right_handed_and_runs_along(x: float, y: float, z: float) -> None:
    axis = np.array([x, y, z])
    assume(np.linalg.norm(axis) > 0.05)
    frame = frame_along(axis, np.array([1.0, 0, 0]))
    assert np.linalg.det(frame) == pytest.approx(1.0)
    assert frame[:, 2] == pytest.approx(axis / np.linalg.norm(axis))


def matrices(figure: Figure) -> dict[tuple[str, str | None], np.ndarray]:
    return {(c.part.id, c.side): c.matrix for c in place(figure).copies}


@given(figures(), st.floats(-6, 6), st.floats(-6, 6))
def test_moving_part_moves_it_by_that_and_nothing_else(
    figure: Figure, dx: float, dz: float
) -> None:
    part = figure.parts[1]
    assume(figure.by_id[part.parent or ""].shape.kind not in ("limb", "rope", "leaf"))
    was, by = matrices(figure), np.array([dx, 1.0, dz])
    parent = own_copy(place(figure), part.parent or "")
    key = (part.id, "left" if part.pair else None)
    assert parent is not None
    # Beyond its ends a parent has no seats: there the nearest one has to do.
    inner = np.linalg.inv(parent.matrix) @ [*(was[key][:3, 3] + by), 1.0]
    height = parent.shape.measures().get("height") or parent.shape.measures()["length"]
    assume(0.02 * height < inner[2] < 0.98 * height)
    now = matrices(move_part(figure, part.id, by))
    with_it = descendants(figure, part.id)
    for other, matrix in was.items():
        if other[0] not in with_it:
            assert now[other] == pytest.approx(matrix)
    assert now[key][:3, 3] - was[key][:3, 3] == pytest.approx(by, abs=1e-3)
    assert now[key][:3, :3] == pytest.approx(was[key][:3, :3])


def test_root_cannot_move_but_can_turn() -> None:
    figure = arm_on_post()
    with refused(RefusedError, "carries everything else"):
        move_part(figure, "body", np.array([1.0, 0, 0]))
    new = turn_part(figure, "body", 30.0, np.array([0.0, -1, 0]))
    assert matrices(new)["body", None][:3, :3] == pytest.approx(
        Rotation.from_rotvec([0, -math.radians(30), 0]).as_matrix(), abs=1e-9
    )


def test_turning_part_keeps_its_base() -> None:
    figure = load_demo(HERON).figure
    was = matrices(figure)["neck", None]
    new = turn_part(figure, "neck", 20.0, np.array([1.0, 0, 0]))
    now = matrices(new)["neck", None]
    assert now[:3, 3] == pytest.approx(was[:3, 3], abs=1e-3)
    angle = Rotation.from_matrix(now[:3, :3] @ was[:3, :3].T).magnitude()
    assert math.degrees(angle) == pytest.approx(20.0, abs=1e-6)


def test_stretching_changes_one_measure_and_says_what_cannot_be() -> None:
    figure = load_demo(HERON).figure
    new = stretch_part(figure, "neck", {"length": 150.0}).by_id["neck"].shape.measures()
    old = figure.by_id["neck"].shape.measures()
    assert new["length"] == pytest.approx(150.0) and new["thickness"] == pytest.approx(
        old["thickness"]
    )
    with refused(RefusedError, "at least 13 mm long"):
        stretch_part(figure, "bill", {"length": 3.0})
    with refused(RefusedError, "must lie above 0"):
        stretch_part(figure, "bill", {"length": -3.0})


def test_part_put_on_another_stays_where_it_is() -> None:
    figure = load_demo(HERON).figure
    was = matrices(figure)
    new = put_on(figure, "crest", "neck")
    assert new.by_id["crest"].parent == "neck"
    for key, matrix in matrices(new).items():
        assert matrix == pytest.approx(was[key], abs=0.01), key
    with refused(RefusedError, "Neck cannot sit on Head, which sits on it"):
        put_on(figure, "neck", "head")


@pytest.mark.parametrize("view", ["front", "side"])
def test_touch_meets_skin_that_is_seen(view: str) -> None:
    figure = figure_of(Part(id="body", name="Body", shape=ball(40), core="core-batt"))
    copy = place(figure).copies[0]
    for u, v in ((9.0, 26.0), (0.0, 20.0), (-13.0, 22.0), (5.0, 3.0), (-6.0, 36.0), (18.0, 17.0)):
        found = skin_seat(copy, AXES[view], u, v)
        assert found is not None
        point = skin_point(copy, *found)
        # On a ball of radius 20 about (0, 0, 20), on the side that faces the viewer.
        assert np.linalg.norm(point - [0, 0, 20]) == pytest.approx(20, rel=0.01)
        assert AXES[view][:2] @ point == pytest.approx([u, v], abs=0.2)
        assert AXES[view][2] @ point > 0
    assert skin_seat(copy, AXES[view], 21.0, 20.0) is None


def test_bones_snap_to_axis_and_to_joints() -> None:
    placement = place(load_demo(HERON).figure)
    leg = own_copy(placement, "leg")
    assert leg is not None
    knee = leg.shape.joints[1]  # type: ignore[union-attr]
    u, v = AXES["front"][:2] @ (leg.matrix[:3, :3] @ [knee.x, knee.y, knee.z] + leg.matrix[:3, 3])
    found = nearest_axis(placement, AXES["front"], float(u) + 1.0, float(v) + 1.2, 6.0)
    assert found is not None and found[0].part.id == "leg"
    runs = np.linalg.norm(np.diff(leg.shape.centres(), axis=0), axis=1)  # type: ignore[union-attr]
    assert found[1] == pytest.approx(runs[0] / runs.sum(), abs=0.03)
    assert nearest_axis(placement, AXES["front"], 400.0, 0.0, 6.0) is None


@pytest.mark.parametrize(
    ("v", "reach", "share"),
    [
        (46.0, 20.0, 0.5),  # the joint, 4 mm off, draws by a quarter of the reach
        (46.0, 4.0, 0.45),  # it is out of reach
        (43.0, 12.0, 0.425),  # it draws by 3 mm only, and the axis is 3 mm off
        (95.0, 20.0, 1.0),
        (4.0, 20.0, 0.0),
    ],
)
def test_joint_draws_and_so_do_both_ends(v: float, reach: float, share: float) -> None:
    joints = tuple(Joint(x=0, y=0, z=z, diameter=10) for z in (0, 50, 100))
    placement = place(
        figure_of(Part(id="post", name="Post", shape=Limb(joints=joints), core="core-batt"))
    )
    foot = placement.copies[0].point(0.0)
    found = nearest_axis(placement, AXES["front"], 3.0, float(foot[2]) + v, reach)
    assert found is not None and found[1] == pytest.approx(share, abs=1e-9)


def test_patch_is_drawn_on_its_visible_half() -> None:
    (copy,) = place(one_ball(40.0)).copies
    for degrees in (-30.0, 20.0):
        axes = AXES["front"] @ about_axis(np.array([0.0, 0.0, 1.0]), degrees).T
        middle = np.array([0.0, -10.0, 20.0])  # half way from the middle of the ball to its front
        view, outline = patch_outline(
            copy, axes, [tuple(axes[:2] @ (middle + d)) for d in np.eye(3)[[0, 2]] * 4]
        )
        assert view == "front"
        assert outline[1] == pytest.approx((0.0, 0.2), abs=1e-6)
        assert outline[0][1] == pytest.approx(0.0, abs=1e-6)


def test_patch_drawn_on_picture_covers_what_was_drawn() -> None:
    figure = figure_of(
        Part(
            id="body", name="Body", shape=ball(40), core="core-batt", seat=Seat(tilt=Tilt(turn=90))
        )
    )
    copy = place(figure).copies[0]
    view, outline = patch_outline(copy, AXES["front"], [(-10, 10), (10, 10), (0, 30)])
    # Turned a quarter about itself, the side that faces the viewer is the part's own right or left.
    assert view in ("left", "right")
    known = np.array([(-0.5, -0.5), (0.0, 0.5), (0.5, -0.5)])
    assert np.array(sorted(outline)) == pytest.approx(known, abs=0.02)


def test_axis_ends_of_every_shape_are_its_base_and_tip() -> None:
    placement = place(load_demo(HERON).figure)
    for copy in placement.copies:
        base, tip = axis_ends(copy)
        assert base == pytest.approx(copy.matrix[:3, 3], abs=1e-6)
        run = copy.shape.measures().get("height") or copy.shape.measures()["length"]
        assert np.linalg.norm(tip - base) <= run * (1 + 1e-6)


def test_reseating_in_figures_axes() -> None:
    figure = load_demo(HERON).figure
    placement = place(figure)
    body, head = own_copy(placement, "body"), own_copy(placement, "head")
    assert body is not None and head is not None
    seat = reseat(body, head.matrix[:3, 3], head.matrix[:3, :3])
    now = body.matrix @ seat_matrix(body.shape, seat)
    assert now == pytest.approx(head.matrix, abs=0.05)


def with_arms(*pose: PoseBend) -> Figure:
    """A body with a pair of arms of three joints, level and straight."""
    body = Part(id="body", name="Body", shape=ball(60), core="core-batt")
    arm = Part(
        id="arm", name="Arm", parent="body", pair=True, core="core-batt",
        seat=Seat(along=0.6, around=90, tilt=Tilt(lean=90)),
        shape=Limb(joints=tuple(Joint(x=0, y=0, z=z, diameter=10) for z in (0, 20, 40, 60))),
    )  # fmt: skip
    return figure_of(body, arm, pose=pose)


def tips(figure: Figure) -> dict[str | None, np.ndarray]:
    return {copy.side: copy.point(1.0) for copy in place(figure).copies_of("arm")}


@pytest.mark.parametrize("side", ["left", "right"])
def test_one_arm_bends_and_other_stays(side: str) -> None:
    figure = with_arms()
    was = tips(figure)
    other = "right" if side == "left" else "left"
    (copy,) = (c for c in place(figure).copies_of("arm") if c.side == side)
    for share, arm in ((0.0, 60.0), (1 / 3, 40.0), (2 / 3, 20.0)):
        near = copy.point(share)
        bent = pose_limb(figure, "arm", side, near, 30.0, np.array([0.0, 1.0, 0.0]))  # type: ignore[arg-type]
        now = tips(bent)
        assert now[other] == pytest.approx(was[other])
        # It goes round the joint by thirty degrees, about the way that was asked for.
        assert np.linalg.norm(now[side] - was[side]) == pytest.approx(
            2 * arm * math.sin(math.radians(15)), rel=0.13
        )
        (bend,) = bent.pose
        assert (bend.part, bend.joint, bend.side) == ("arm", round(share * 3), side)


def test_common_pose_is_split_for_one_arm() -> None:
    both = PoseBend(part="arm", joint=1, side="both", tilt=Tilt(nod=40))
    elbow = PoseBend(part="arm", joint=2, side="right", tilt=Tilt(nod=15))
    figure = with_arms(both, elbow)
    was = tips(figure)
    for side, other in (("left", "right"), ("right", "left")):
        (copy,) = (c for c in place(figure).copies_of("arm") if c.side == side)
        bent = pose_limb(figure, "arm", side, copy.point(1 / 3), 25.0, np.array([0.0, 0.0, 1.0]))  # type: ignore[arg-type]
        now = tips(bent)
        assert now[other] == pytest.approx(was[other]) and not np.allclose(now[side], was[side])
        kept = {(b.joint, b.side): b.tilt for b in bent.pose}
        assert set(kept) == {(1, "left"), (1, "right"), (2, "right")}
        assert kept[1, other] == both.tilt and kept[2, "right"] == elbow.tilt
        # Turned back, it is where it was.
        (copy,) = (c for c in place(bent).copies_of("arm") if c.side == side)
        again = pose_limb(bent, "arm", side, copy.point(1 / 3), -25.0, np.array([0.0, 0.0, 1.0]))  # type: ignore[arg-type]
        assert tips(again)[side] == pytest.approx(was[side], abs=1e-6)


def test_what_is_bent_elsewhere_or_on_other_side_stays() -> None:
    shoulder, wrist = (
        PoseBend(part="arm", joint=j, side="left", tilt=Tilt(nod=20)) for j in (0, 2)
    )
    figure = with_arms(shoulder, wrist)
    was = tips(figure)
    (copy,) = (c for c in place(figure).copies_of("arm") if c.side == "left")
    bent = pose_limb(figure, "arm", "left", copy.point(1 / 3), 25.0, np.array([0.0, 0.0, 1.0]))
    kept = {(b.joint, b.side): b.tilt for b in bent.pose}
    assert set(kept) == {(0, "left"), (1, "left"), (2, "left")}
    assert kept[0, "left"] == shoulder.tilt and kept[2, "left"] == wrist.tilt
    again = pose_limb(bent, "arm", "left", copy.point(0.0), 25.0, np.array([0.0, 0.0, 1.0]))
    assert {(b.joint, b.side) for b in again.pose} == set(kept)
    assert tips(again)["right"] == pytest.approx(was["right"])


def test_what_has_no_joints_is_not_posed() -> None:
    with refused(RefusedError, "no joints"):
        pose_limb(with_arms(), "body", None, np.zeros(3), 10.0, np.array([0.0, 0.0, 1.0]))
