"""Every step has a picture, drawn to one scale: what is measured in it is as long as is written on it."""

from __future__ import annotations

import io
import math
import xml.etree.ElementTree as ET

import numpy as np
import pytest
from PIL import Image

from bambola.core.armature.cuts import by_hand
from bambola.core.export.step_drawn import step_png, step_svg
from bambola.core.methods import Card, sheet_for
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Measure, Needle, Number, StepDrawing
from bambola.core.methods.layout import Disc, Mark, Stroked, Written, lay_out, patch_of
from bambola.core.order import Step
from bambola.core.plan import Plan
from bambola.core.words import ENGLISH
from bambola.shipped import default_bench
from tests.core.test_methods import EACH, HEIGHTS, plan_of
from tests.effort import THOROUGH
from tests.said import said

BENCH = default_bench()


def drawn(plan: Plan, step: Step) -> tuple[Card, StepDrawing]:
    sheet = sheet_for(plan, step, BENCH)
    return sheet.card, sheet.drawing


def step_of(plan: Plan, key: str) -> Step:
    return next(step for step in plan.steps if step.key.startswith(key))


def told_lengths(drawing: StepDrawing) -> list[tuple[float, float]]:
    """What is written on each measure (mm), and how long it is drawn."""
    measures = [p for p in drawing.pieces if isinstance(p, Measure)]
    assert all(m.told.kind in ("drawn.length", "drawn.girth") for m in measures)
    return [
        (dict(m.told.slots)["mm"].value, math.dist(m.a, m.b))  # type: ignore[union-attr]
        for m in measures
        if m.told.kind == "drawn.length"
    ]


def lies_within(mark: Mark, wide_: float, high_: float) -> bool:
    match mark:
        case Written():
            left, top, wide, high = patch_of(mark)
            return left >= -1 and top >= -9 and left + wide <= wide_ + 1 and top + high <= high_ + 9
        case Disc(x=x, y=y, radius=r):
            return r <= x <= wide_ - r and r <= y <= high_ - r
        case Stroked(points=points):
            return bool(np.isfinite(points).all())


SIZES = ((1.0, 20.0), (0.36, 14.0))
"""As on paper, and in a corner of the window: shares of a sheet, and how large the writing is."""


@pytest.mark.parametrize(("name", "share"), EACH)
def test_every_step_is_drawn_to_scale_with_its_own_numbers(name: str, share: float) -> None:
    plan = plan_of(name, share)
    for step in plan.steps:
        card, drawing = drawn(plan, step)
        assert any(isinstance(p, DrawnArea | DrawnLine) for p in drawing.pieces), step.key
        for written, long in told_lengths(drawing):
            assert long == pytest.approx(written, rel=0.01), step.key
        for piece in drawing.pieces:
            if isinstance(piece, Number):  # each number of the picture is a sentence of the card
                assert 1 <= piece.n <= len(card.how), step.key
            if isinstance(piece, Needle):  # and each needle one of its runs
                runs = {(run.gauge, run.depth_mm) for run in card.needles}
                gauge = dict(piece.told.slots)["gauge"]
                assert (gauge, piece.depth) in runs, step.key
        for share, size in SIZES if THOROUGH else SIZES[step.n % 2 :][:1]:
            wide, high = 900 * share, 640 * share
            marks = lay_out(drawing, ENGLISH.say, wide, high, size)
            assert all(lies_within(mark, wide, high) for mark in marks), step.key


def test_join_is_drawn_with_seat_and_fringe_it_tells() -> None:
    for share in HEIGHTS:
        plan = plan_of("lamplighter-badger", share)
        card, drawing = drawn(plan, step_of(plan, "join:snout"))
        how = " ".join(said(line) for line in card.how)
        marks = [said(p.told) for p in drawing.pieces if isinstance(p, Measure)]
        assert len(marks) == 2 and all(mark in how for mark in marks)


def test_pictures_follow_height_where_hands_do() -> None:
    small, large = (plan_of("lamplighter-badger", share) for share in (HEIGHTS[0], HEIGHTS[-1]))
    for key in ("join:snout", "coat:head", "core:cape"):
        a, b = (told_lengths(drawn(plan, step_of(plan, key))[1]) for plan in (small, large))
        assert {round(x, 1) for x, _ in a} != {round(x, 1) for x, _ in b}, key
    rounds = [s.key for s in large.steps if s.key.startswith("core:body")]
    assert len(rounds) > sum(s.key.startswith("core:body") for s in small.steps)


def test_same_picture_is_written_as_svg_and_as_pixels() -> None:
    plan = plan_of("marsh-heron", HEIGHTS[-1])
    for step in plan.steps[:: max(1, len(plan.steps) // 5)]:
        tree = ET.fromstring(step_svg(plan, step, BENCH))
        words = [e.text for e in tree.iter("{http://www.w3.org/2000/svg}text")]
        measures = [p for p in drawn(plan, step)[1].pieces if isinstance(p, Measure)]
        assert all(said(m.told) in words for m in measures)
        picture = Image.open(io.BytesIO(step_png(plan, step, BENCH)))
        assert picture.size == (900, 640)
        pixels = np.asarray(picture.convert("L"))
        assert 0.002 < float((pixels < 200).mean()) < 0.9  # something is drawn, and not all is dark


def test_wires_end_is_numbered_by_sentence_about_it() -> None:
    plan = plan_of("lamplighter-badger", HEIGHTS[-1])
    for wire in plan.wires:  # with bends there is a sentence more before it
        card, drawing = drawn(plan, step_of(plan, f"cut:{wire.id}"))
        marked, ends = sorted(p.n for p in drawing.pieces if isinstance(p, Number))
        assert said(card.how[marked - 1]).startswith("Lay it along a ruler")
        assert "end" in said(card.how[ends - 1]), wire.id


def test_each_bend_is_numbered_where_wire_turns() -> None:
    plan = plan_of("lamplighter-badger", HEIGHTS[-1])
    card, drawing = drawn(plan, step_of(plan, "bend:legs"))
    wire = next(w for w in plan.wires if w.id == "legs")
    bends = by_hand(wire.bends)
    numbers = [p for p in drawing.pieces if isinstance(p, Number)]
    assert [p.n for p in numbers] == list(range(2, len(bends) + 2))
    assert all(f"{bend.angle_deg:.0f}°" in said(card.how[i + 1]) for i, bend in enumerate(bends))
    (line,) = (p.points for p in drawing.pieces if isinstance(p, DrawnLine))
    below = numbers[0].at[1] - min(line[:, 1], key=lambda y: abs(numbers[0].at[1] - y))
    for bend, number in zip(bends, numbers, strict=True):
        if bend.start_mm == bend.end_mm:  # a single bend lies at a corner of the wire
            gaps = np.hypot(line[:, 0] - number.at[0], line[:, 1] - number.at[1] + below)
            assert gaps.min() < 0.2 * abs(below) + 0.5
