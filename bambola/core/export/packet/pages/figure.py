"""The figure at true size from the front and the side, to hold every piece against."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

import numpy as np
from PIL import Image

from bambola.core.export.drawn import (
    INK,
    MADDER,
    QUIET,
    WOAD,
    DrawnPicture,
    DrawnStroke,
    DrawnText,
    Item,
    PaperPage,
    dot,
    line,
)
from bambola.core.export.felt import encode_jpeg, felted_picture
from bambola.core.export.packet.job import Job
from bambola.core.export.packet.pages.cover import grey_safe
from bambola.core.export.packet.sheet import Block, tile_sheets
from bambola.core.plan import Plan
from bambola.core.quantities import show_length
from bambola.core.relief import Camera
from bambola.core.solids import AXES, Copy, Detail
from bambola.core.solids.forms import Array
from bambola.core.solids.outlines import outlines_and_parts

LaidAnswer = Callable[[Array], Array]
"""Puts points as seen, mm and y upwards, on to the page."""
CAMERAS = {"front": Camera(), "side": Camera(turn=90), "back": Camera(turn=180)}
LIGHT = 0.55
"""How far the picture is faded under the lines."""
STEP_MM = 0.4
"""A picture under lines has a dot every so many millimetres."""
FIRM_DASH, KINDS = (1.6, 1.0), ((), (3.0, 1.2), (0.8, 0.8))
"""Dashes: where felt is firm up to; and of several heights in one outline."""
EDGE_MM = 6.0
LEAST_BEND = 15.0


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield a page for each view; for several heights, with nested outlines."""
    names = {
        "front": job.words.tr("front, actual size"),
        "side": job.words.tr("its left side, actual size"),
    }
    for view, told in names.items():
        yield from tile_sheets(seen_block(job, view), job.paper, "figure", told, job.words)


def seen_block(job: Job, view: str) -> Block:
    """Return the figure at true size from one side."""
    plan = job.plan
    seen = [
        (each, *outlines_and_parts(each.solids.placement, view, Detail.CLOSE)) for each in job.plans
    ]
    points = np.vstack(seen[-1][1])
    (left, low), (right, high) = points.min(axis=0), points.max(axis=0)
    flip = np.array([1.0, -1.0])
    corner = np.array([left - EDGE_MM, -(high + EDGE_MM)])

    def laid(run: Array) -> Array:
        found: Array = run * flip - corner
        return found

    wide, tall = right - left + 2 * EDGE_MM, high - low + 2 * EDGE_MM + 5
    items: list[Item] = []
    if len(job.plans) == 1:
        items.append(_picture(job, view, laid))
        items += _part_outlines(plan, view, seen[-1][2], laid)
    for (plan_, runs, _), dash in zip(reversed(seen), KINDS * len(seen), strict=False):
        shift = np.array([0.0, 0.0])
        if plan_ is not plan:  # all stand on one ground line
            shift = np.array([0.0, plan.solids.placement.ground - plan_.solids.placement.ground])
        items += [
            DrawnStroke(laid(run + shift), INK, 0.5, closed=True, dash=dash, what="outline")
            for run in runs
        ]
    if len(job.plans) == 1:
        items += _wire_lines(plan, view, laid)
        items += _mark_dots(plan, view, laid)
    ground = laid(np.array([(left, plan.solids.placement.ground)]))[0, 1]
    items.append(line(0, ground, wide, ground, colour=QUIET, width=0.3, what="ground"))
    told = f"{show_length(plan.to_height_mm, job.words.units)} · {grey_safe(job.words)}"
    items.append(DrawnText(1, tall - 1, told, 2.8, colour=QUIET))
    return Block(float(wide), float(tall), tuple(items))


def _picture(job: Job, view: str, laid: LaidAnswer) -> DrawnPicture:
    """Return the felt picture, faded."""
    step = max(STEP_MM, job.plan.solids.placement.height / 1200)
    made = felted_picture(job.plan.resized.figure, CAMERAS[view], step, job.bench)
    x, y = laid(np.array([(made.left, made.top)]))[0]
    rows, columns = made.owner.shape
    image = encode_jpeg(Image.fromarray(made.pixels), LIGHT)
    return DrawnPicture(float(x), float(y), columns * made.step, rows * made.step, image)


def _part_outlines(
    plan: Plan, view: str, seen: Sequence[tuple[Copy, Array]], laid: LaidAnswer
) -> Iterator[Item]:
    """Yield the outline of every part, and the line where its firm felt ends and the fringe begins."""
    jobs = {job.id: job for job in plan.work.parts}
    for copy, run in seen:
        if len(run):
            yield DrawnStroke(laid(run), QUIET, 0.2, closed=True, what="part")
        job = jobs.get(copy.part.id)
        if (
            job
            and job.made == "apart"
            and job.join != "peg"
            and copy.part.parent
            and not job.garment
        ):
            yield DrawnStroke(
                laid(_firm_line(copy, view)), MADDER, 0.3, dash=FIRM_DASH, what="firm"
            )


def _firm_line(copy: Copy, view: str) -> Array:
    """Return the line across the part where it leaves its bearer and the fringe begins."""
    long = float(copy.shape.extents()[0])
    along = min(0.5, max(0.02, copy.part.seat.sink / max(long, 1e-6)))
    around = (90.0, -90.0) if view != "side" else (0.0, 180.0)
    axes = AXES[view]
    found: Array = np.array([axes[:2] @ copy.point(along, a, 1.0) for a in around])
    return found


def _wire_lines(plan: Plan, view: str, laid: LaidAnswer) -> Iterator[Item]:
    axes = AXES[view]
    for wire in plan.wires:
        run = np.array([axes[:2] @ np.array(p) for p in wire.points_mm])
        yield DrawnStroke(laid(run), WOAD, 0.7, what="wire")
        for bend in wire.bends:
            at = plan.solids.placement.nodes.get(bend.node)
            if at is None or bend.angle_deg < LEAST_BEND:
                continue
            x, y = laid(np.array([axes[:2] @ at]))[0]
            yield dot(float(x), float(y), 0.8, WOAD)
            told = f"{5 * round(bend.angle_deg / 5)}°"
            yield DrawnText(float(x) + 1.4, float(y) + 0.9, told, 2.5, colour=WOAD)


def _mark_dots(plan: Plan, view: str, laid: LaidAnswer) -> Iterator[Item]:
    """Yield a dot for every visible mark of a face."""
    axes = AXES[view]
    for face in plan.faces:
        for copy in plan.solids.placement.copies_of(face.part):
            middle = copy.point(0.5, 0.0, 0.0)
            for mark in face.named_marks:
                for way in (1, -1) if mark.both else (1,):
                    point = copy.point(mark.along, way * mark.around, 1.0)
                    if float(axes[2] @ (point - middle)) > 0:
                        x, y = laid(np.array([axes[:2] @ point]))[0]
                        yield dot(float(x), float(y), 0.7, MADDER)
