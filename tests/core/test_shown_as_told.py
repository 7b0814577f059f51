"""The picture of a piece has the sizes that its card tells: on shapes whose widths are known by hand."""

from __future__ import annotations

import math
from dataclasses import replace
from types import SimpleNamespace
from typing import Any, cast

import numpy as np
import pytest

from bambola.core.bench import Bench
from bambola.core.figure import Ball, Brief, Document, Joint, Limb, Shape
from bambola.core.figure.shapes import Pad, Turned
from bambola.core.piece.as_told import shape_as_told
from bambola.core.piece.standing import course_of, standing_after
from bambola.core.piece.state import PieceState, Section, Size3
from bambola.core.plan import make_plan
from bambola.core.solids import Copy, CopySolid
from bambola.core.solids.meshes import mesh_of
from bambola.demo import TOAD, load_demo


def piece(length: float, across: Size3, thick: float, section: Section = "round") -> PieceState:
    size = {"length": length, "width": across[1], "thickness": thick}
    return PieceState("part", 1, size, across, section, 1.0, 1.0, "medium")


def shown(shape: Shape, told: PieceState, begins: float = 0.0, is_flat: bool = False) -> Shape:
    copy = SimpleNamespace(shape=shape)
    seen = SimpleNamespace(begins=begins, is_flat=is_flat)
    solid = SimpleNamespace(is_shell=False, seen=seen)
    finished = tuple(told.size_mm.values())
    return shape_as_told(cast(Copy, copy), cast(CopySolid, solid), told, cast(Size3, finished))


def width_at(shape: Shape, z: float) -> float:
    """How wide a mesh is in a slice of a millimetre round a height."""
    at = mesh_of(shape).vertices
    edges = mesh_of(shape).faces
    lines = np.concatenate([at[edges[:, [0, 1]]], at[edges[:, [1, 2]]]])
    low, high = lines[:, :, 2].min(axis=1), lines[:, :, 2].max(axis=1)
    through = lines[(low <= z) & (high >= z) & (high > low)]
    share = (z - through[:, 0, 2]) / (through[:, 1, 2] - through[:, 0, 2])
    x = through[:, 0, 0] + share * (through[:, 1, 0] - through[:, 0, 0])
    return float(np.ptp(x))


@pytest.mark.parametrize(
    ("length", "across"), [(70.0, (14.0, 24.0, 12.0)), (68.0, (13.0, 18.0, 16.0))]
)
def test_limb_is_as_long_and_thick_as_told(length: float, across: Size3) -> None:
    """Of a straight limb drawn 70 mm long and 20 thick, pieces of other sizes that end in round tips."""
    joints = tuple(Joint(x=0, y=0, z=z, diameter=20) for z in (0.0, 50.0))
    made = shown(Limb(joints=joints), piece(length, across, across[1]))
    heights = mesh_of(made).vertices[:, 2]
    # It begins where the drawn one does: its radius below its first joint.
    assert heights.min() == pytest.approx(-10.0, abs=0.6)
    assert np.ptp(heights) == pytest.approx(length, abs=0.6)
    for share, told in zip((0.1, 0.5, 0.9), across, strict=True):
        assert width_at(made, share * length - 10.0) == pytest.approx(told, abs=0.6)


def test_ball_is_ball_of_told_size() -> None:
    """Its widths at a tenth and nine tenths are six tenths of the whole (Pythagoras)."""
    across = 36 * 0.6, 36.0, 36 * 0.6
    made = shown(Ball(width=40, depth=40, height=40), piece(36.0, across, 36.0))
    assert isinstance(made, Turned)
    for station in made.stations:
        z = station.along * 36.0
        assert station.width == pytest.approx(2 * math.sqrt(max(0.0, z * (36 - z))), abs=0.05)
        assert station.depth == pytest.approx(station.width)
    assert made.measures()["length"] == pytest.approx(36.0)
    # What is hidden below is as drawn: of one that begins 10 mm up the lower part is the drawn ball's.
    capped = shown(Ball(width=40, depth=40, height=40), piece(30.0, (34.6, 40.0, 20.0), 40.0), 10.0)
    assert isinstance(capped, Turned) and capped.measures()["length"] == pytest.approx(40.0)
    low = [s for s in capped.stations if s.along * 40 < 9]
    for station in low:
        z = station.along * 40
        assert station.width == pytest.approx(2 * math.sqrt(z * (40 - z)), abs=1.0)


def test_smaller_lump_and_flat_side_are_drawn_shape_scaled() -> None:
    told = piece(20.0, (15.0, 15.0, 15.0), 4.0, "lump")
    whole = Pad(width=30, depth=8, height=40)
    finished = {"along": 40.0, "across": 30.0, "through": 8.0}
    copy, solid = (
        SimpleNamespace(shape=whole),
        SimpleNamespace(is_shell=False, seen=SimpleNamespace(begins=0.0, is_flat=False)),
    )
    made = shape_as_told(
        cast(Copy, copy), cast(CopySolid, solid), told, cast(Any, tuple(finished.values()))
    )
    assert sorted(made.measures().values()) == pytest.approx([4.0, 15.0, 20.0])
    larger = replace(told, size_mm={"length": 50.0, "width": 40.0, "thickness": 9.0})
    made = shape_as_told(
        cast(Copy, copy), cast(CopySolid, solid), larger, cast(Any, tuple(finished.values()))
    )
    assert made.measures() == pytest.approx(whole.measures())  # never larger than drawn
    ring = replace(told, section="ring")
    assert shape_as_told(cast(Copy, copy), cast(CopySolid, solid), ring, (1.0, 1.0, 1.0)) is whole


def test_parts_come_one_by_one_and_patches_with_their_step(bench: Bench) -> None:
    demo: Document = load_demo(TOAD)
    plan = make_plan(demo.figure, Brief(height=140.0), bench)
    course = course_of(plan, bench)
    assert standing_after(course, 0).states.keys() == plan.resized.figure.by_id.keys()
    assert set(standing_after(course, 0).states.values()) == {"to come"}
    assert standing_after(course, 0).in_hand is None
    order, seen = ["to come", "made", "joined"], dict.fromkeys(plan.resized.figure.by_id, "to come")
    for n, step in enumerate(plan.steps, 1):
        now = standing_after(course, n)
        assert now.in_hand == step.part
        for part, state in now.states.items():
            assert order.index(state) >= order.index(seen[part])  # nothing comes off again
            seen[part] = state
        for placement, state in ((now.joined, "joined"), (now.made, "made")):
            shown_parts = {copy.part.id for copy in placement.copies} if placement else set()
            assert shown_parts <= {part for part, found in now.states.items() if found == state}
            for copy in placement.copies if placement else ():
                laid = {place.id for place in copy.part.patches}
                for place in plan.resized.figure.by_id[copy.part.id].patches:
                    key = next(
                        (
                            s
                            for s in plan.steps
                            if s.key.about == copy.part.id and s.key.detail == place.id
                        ),
                        None,
                    )
                    if key is not None:
                        assert (place.id in laid) is (key.n <= n), (n, place.id)
    assert set(seen.values()) == {"joined"}
