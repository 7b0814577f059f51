"""Remedies, hanging and poses, each checked by doing it."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.spatial import ConvexHull

from bambola.core.balance import loop_point, remedies
from bambola.core.bench import Bench
from bambola.core.facts import RefusedError
from bambola.core.figure import Brief, Document, Figure, Fitting, Part, Piece, Seat, Tilt
from bambola.core.plan import make_plan
from bambola.core.solids import measure_solids, place
from bambola.core.solids.edit import pose_limb
from tests.figures import arm_on_post, ball, figure_of
from tests.said import refused, said


def lean_of(contacts: np.ndarray, centre: np.ndarray) -> float:
    """Tip angle by another library: distance to the hull's edge over the height."""
    edges = ConvexHull(contacts).equations
    return math.degrees(math.atan2(-float((edges @ [*centre[:2], 1.0]).max()), centre[2]))


@pytest.mark.parametrize("centre", [(0.0, 9.0, 60.0), (6.0, -14.0, 80.0), (0.0, 22.0, 70.0)])
def test_each_remedy_does_just_what_it_promises(centre: tuple[float, float, float]) -> None:
    turns = np.linspace(0, 2 * np.pi, 40, endpoint=False)
    ring = np.column_stack([9 * np.cos(turns), 16 * np.sin(turns)])
    prints = [ring + np.array([22, 0]), ring - np.array([22, 0])]
    point = np.array(centre)
    found = {r.kind: r for r in remedies(prints, centre, 100.0, 150.0, 8.0)}
    assert lean_of(np.vstack(prints), point) < 8 and {"feet", "ballast", "stand"} <= found.keys()

    def with_feet(k: float) -> float:
        return lean_of(
            np.vstack([(o - o.mean(axis=0)) * k + o.mean(axis=0) for o in prints]), point
        )

    def with_ballast(grams: float) -> float:
        at = np.array([0.0, 0.0, 0.12 * 150])
        return lean_of(np.vstack(prints), (point * 100 + at * grams) / (100 + grams))

    assert with_feet(found["feet"].value) == pytest.approx(8, abs=0.02)
    assert with_ballast(found["ballast"].value) == pytest.approx(8, abs=0.05)
    contact = found["contact"]
    assert contact.at_mm is not None
    assert lean_of(np.vstack([*prints, [contact.at_mm]]), point) == pytest.approx(8, abs=0.15)
    nearer = np.array(centre[:2]) + (np.array(contact.at_mm) - centre[:2]) * 0.93
    assert lean_of(np.vstack([*prints, [nearer]]), point) < 8
    stand = found["stand"]
    assert stand.value / 2 >= centre[2] * math.tan(math.radians(8)) - 1e-6


def with_arm_out(badger: Document) -> Figure:
    """The lantern's arm lifted from the shoulder, out to the front."""
    shoulder = place(badger.figure).nodes["shoulder-l"]
    return pose_limb(badger.figure, "arm", "left", shoulder, 40.0, np.array([-1.0, 0, 0]))


def test_badger_with_its_lantern_held_out_gets_verdict_and_remedy(
    bench: Bench, badger: Document
) -> None:
    figure = with_arm_out(badger)
    assert {b.side for b in figure.pose} == {"left"} and figure.pose != badger.figure.pose
    before, plan = (
        make_plan(f, Brief(height=220, steady=15), bench) for f in (badger.figure, figure)
    )
    assert plan.balance.stands and plan.balance.tip_angle_deg != before.balance.tip_angle_deg
    assert plan.balance.centre_mm[1] < before.balance.centre_mm[1]  # the weight moves to the front
    notice = next(n for n in plan.notices if n.code == "standing")
    assert f"{plan.balance.tip_angle_deg:.0f}°" in said(notice.text) and "ballast" in said(
        notice.text
    )
    grams = next(r.value for r in plan.balance.remedies if r.kind == "ballast")
    # The shoulder's wire bears more than before on the longer lever.
    bears = [
        next(b for b in p.bones if b.a == "chest" and b.b == "shoulder-l") for p in (before, plan)
    ]
    assert bears[1].static_nmm != pytest.approx(bears[0].static_nmm, rel=0.01)
    # Sewn in low between the feet, that much makes it as steady as wished.
    x, y, z = plan.balance.centre_mm
    at = next(r.at_mm for r in plan.balance.remedies if r.kind == "ballast")
    assert at is not None
    total = plan.balance.mass_g + grams
    centre = (
        np.array([x, y, z]) * plan.balance.mass_g + np.array([*at, 0.12 * 220]) * grams
    ) / total
    assert lean_of(np.array(plan.balance.contact_mm), centre) == pytest.approx(15, abs=0.1)


def pendulum() -> Figure:
    body = Part(id="body", name="Body", shape=ball(40), core="core-batt")
    bob = Fitting(
        id="bob", name="Bob", kind="prop", part="body", seat=Seat(along=0.5, around=0), size=6, mass=60.0,
        pieces=(Piece(shape=ball(6)),),
    )  # fmt: skip
    return figure_of(body, fittings=(bob,), stance="hanging")


@pytest.mark.parametrize("tilt", [0.0, 20.0, -15.0])
def test_hanging_figure_hangs_plumb_under_its_loop(bench: Bench, tilt: float) -> None:
    figure = pendulum()
    plan = make_plan(figure, Brief(height=40, hang_tilt=tilt), bench)
    assert plan.balance.loop_mm is not None
    loop, centre = np.array(plan.balance.loop_mm), np.array(plan.balance.centre_mm)
    up = loop - centre
    assert math.degrees(math.atan2(up[1], up[2])) == pytest.approx(tilt, abs=1e-6)
    # On the ball's skin: twenty millimetres from its middle.
    assert float(np.linalg.norm(loop - (0, 0, 20))) == pytest.approx(20, abs=0.35)
    assert not [n for n in plan.notices if n.code == "standing"]


def test_loop_needs_skin_over_centre() -> None:
    placement = measure_solids(pendulum()).placement
    assert loop_point(placement, np.array([90.0, 0, 10]), 0.0) is None


def test_posing_turns_one_limb_by_just_angle_asked() -> None:
    figure = arm_on_post()
    placement = place(figure)
    turned = pose_limb(
        figure, "arm", None, placement.nodes["shoulder"], 40.0, np.array([0.0, -1, 0])
    )
    was, now = (p.nodes["hand"] - p.nodes["shoulder"] for p in (placement, place(turned)))
    cosine = float(was @ now / (np.linalg.norm(was) * np.linalg.norm(now)))
    assert math.degrees(math.acos(cosine)) == pytest.approx(40, abs=1e-6)
    back = pose_limb(
        turned, "arm", None, placement.nodes["shoulder"], -40.0, np.array([0.0, -1, 0])
    )
    assert place(back).nodes["hand"] == pytest.approx(placement.nodes["hand"], abs=1e-9)
    with refused(RefusedError, "no joints"):
        pose_limb(figure, "body", None, np.zeros(3), 10, np.array([0.0, 0, 1]))
    assert figure.by_id["arm"].seat.tilt == Tilt()
