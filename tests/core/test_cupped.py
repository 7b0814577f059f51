"""A sheet cupped at its base: as large as before, bent as far as it is told, and measured so."""

from __future__ import annotations

import math

import numpy as np
import pytest

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Coat, Joint, Leaf, Limb, Part, Seat, Tilt
from bambola.core.methods import sheet_for
from bambola.core.piece import pieces_by_step
from bambola.core.piece.standing import course_of, standing_after
from bambola.core.plan import make_plan
from bambola.core.solids import mesh_of
from bambola.core.solids.forms import curl_sheet, flatten_sheet, seat_point, support_distances
from bambola.core.solids.inside import points_within, random_points_within
from bambola.core.solids.lengthwise import slices
from bambola.core.solids.touch import nearest_seat
from tests.core.walker import Walker
from tests.figures import ball, figure_of, patch

EAR = Leaf(length=40.0, width=24.0, thickness=4.0)
rng = np.random.default_rng(3)


@pytest.mark.parametrize(("curl", "cup"), [(0.0, 90.0), (60.0, 60.0), (0.0, 200.0), (0.0, -120.0)])
def test_cupped_sheet_holds_what_plane_one_does(curl: float, cup: float) -> None:
    ear = EAR.replaced(curl=curl, cup=cup)
    plane, bent = mesh_of(EAR), mesh_of(ear)
    # A strip bent about the middle of its thickness keeps its area, slice by slice.
    assert bent.volume == pytest.approx(plane.volume, rel=0.02)
    inside = random_points_within(ear)
    box = np.prod(support_distances(ear, np.eye(3)) + support_distances(ear, -np.eye(3)))
    assert len(inside) and points_within(ear, inside).all()
    many = rng.random((60_000, 3)) * (
        support_distances(ear, np.eye(3)) + support_distances(ear, -np.eye(3))
    )
    share = points_within(ear, many - support_distances(ear, -np.eye(3))).mean()
    assert share * box == pytest.approx(plane.volume, rel=0.03)


@pytest.mark.parametrize(
    ("curl", "cup"), [(0.0, 0.0), (1e-13, 0.0), (80.0, 0.0), (20.0, 110.0), (-40.0, 0.0)]
)
def test_bending_and_laying_flat_undo_each_other(curl: float, cup: float) -> None:
    ear = EAR.replaced(curl=curl, cup=cup)
    flat = (rng.random((500, 3)) - [0.5, 0.5, 0.0]) * [24.0, 4.0, 40.0]
    assert flatten_sheet(ear, curl_sheet(ear, flat)) == pytest.approx(flat, abs=1e-6)
    for along, around in ((0.2, 40.0), (0.7, -60.0)):
        assert nearest_seat(ear, seat_point(ear, along, around, 1.0))[:2] == pytest.approx(
            (along, around), abs=0.01
        )


def test_cup_bends_base_and_not_tip() -> None:
    ear = EAR.replaced(cup=120.0)
    for z, degrees in ((0.0, 120.0), (20.0, 60.0), (40.0, 0.0)):
        (a, b) = curl_sheet(ear, np.array([[-12.0, 0.0, z], [12.0, 0.0, z]]))
        arc = math.radians(degrees)
        chord = 24.0 if not arc else 2 * (24.0 / arc) * math.sin(arc / 2)
        assert np.linalg.norm(a - b) == pytest.approx(chord)
    with pytest.raises(ValueError, match="leaf-cup"):
        Leaf(length=40.0, width=24.0, thickness=4.0, curl=200.0, cup=150.0)


@pytest.mark.parametrize(("cup", "told"), [(0.0, ""), (90.0, "flat.cup"), (180.0, "flat.folded")])
def test_card_says_how_it_is_cupped(bench: Bench, cup: float, told: str) -> None:
    head = Part(id="head", name="Head", shape=ball(60), core="core-batt", coat=Coat(wool="cream"))
    ear = Part(id="ear", name="Ear", parent="head", shape=EAR.replaced(cup=cup), core="walnut", pair=True,
               seat=Seat(along=0.85, around=60, sink=5, tilt=Tilt(lean=30)))  # fmt: skip
    plan = make_plan(figure_of(head, ear), Brief(), bench)
    step = next(s for s in plan.steps if s.key.is_of("ear", "core"))
    kinds = {fact.kind for fact in sheet_for(plan, step, bench).card.how}
    assert (told in kinds) if told else not kinds & {"flat.cup", "flat.folded"}


@pytest.mark.parametrize(("thick", "school", "is_in_one"), [
    (4.0, None, True), (4.0, "on top", False), (5.9, None, True), (6.1, None, False),
])  # fmt: skip
def test_thin_sheet_of_two_colours_is_one_blank(
    bench: Bench, thick: float, school: str | None, is_in_one: bool
) -> None:
    head = Part(id="head", name="Head", shape=ball(60), core="core-batt", coat=Coat(wool="cream"))
    inner = patch("inner-ear", "madder", ((-0.4, -0.5), (0.4, -0.5), (0.4, 0.5), (-0.4, 0.5)))
    ear = Part(id="ear", name="Ear", parent="head", shape=EAR.replaced(thickness=thick), core="walnut",
               pair=True, places=(inner,),
               seat=Seat(along=0.85, around=60, sink=5, tilt=Tilt(lean=30)))  # fmt: skip
    brief = Brief().schooled("blank", school)
    plan = make_plan(figure_of(head, ear), brief, bench)
    keys = {str(s.key) for s in plan.steps}
    assert ("inset:ear:inner-ear" in keys) != is_in_one
    assert ("blank" in plan.choices) == (thick < 6)
    step = next(s for s in plan.steps if s.key.is_of("ear", "core"))
    laid = {p.detail: p for p, _ in plan.laid_by(step)}
    assert ("inner-ear" in laid) == is_in_one
    told = [f for f in sheet_for(plan, step, bench).card.how if f.kind == "flat.colour"]
    assert len(told) == is_in_one
    # Whatever is laid when, the piece weighs as much at the end, and is seen in its two colours.
    end = [i.after for s, i in zip(plan.steps, pieces_by_step(plan, bench), strict=True)
           if i.after and i.after.part == "ear" and s.key.sort in ("core", "inset")][-1]  # fmt: skip
    own = [p.grams for p in plan.part("ear").portions if p.role in ("core", "inset")]
    assert end.wool_g == pytest.approx(sum(own), rel=1e-6)
    if is_in_one:
        shown = standing_after(course_of(plan, bench), step.n).made
        assert shown is not None and shown.copies[0].part.patches
    assert Walker(plan, bench).walk() == ""


@pytest.mark.parametrize("length", [0.05, 0.17, 2.0])
def test_sheet_far_shorter_than_it_is_thick_has_body(length: float) -> None:
    stub = Leaf(length=length, width=16.0, thickness=5.4, curl=60.0)
    assert 0.6 < mesh_of(stub).volume / (length * 16.0 * 5.4) < 1.0


def test_two_joints_in_one_place_are_one() -> None:
    knee, ankle = (Joint(x=0, y=0, z=z, diameter=d) for z, d in ((0.0, 14.0), (-30.0, 8.0)))
    once, twice = (slices(Limb(joints=joints)) for joints in ((knee, ankle), (knee, ankle, ankle)))
    assert twice.wide == pytest.approx(once.wide)
    assert twice.points == pytest.approx(once.points)
