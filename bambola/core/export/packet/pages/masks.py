"""Masks: a part at true size from each side with places drawn on it, to be cut out and laid on."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bambola.core.export.drawn import FAINT, INK, MADDER, DrawnStroke, DrawnText, Item
from bambola.core.export.packet.job import Job
from bambola.core.export.packet.sheet import SMALL, TITLE, Block, title_block
from bambola.core.figure import Ball, Part, Place, Shape
from bambola.core.figure.fields import View
from bambola.core.solids import Copy, Detail, outline_of_copy
from bambola.core.solids.forms import Array
from bambola.core.solids.regions import VIEWS, drawn_on, settle_places
from bambola.core.words import Words as Maker

_NOBODY = Part(id="mask", name="mask", core="none", shape=Ball(width=1, depth=1, height=1))


def mask_blocks(job: Job) -> Iterator[Block]:
    """Yield a mask for every side of a part with places; a place that covers all of a part needs none."""
    figure = job.plan.resized.figure
    for part in figure.parts:
        row = job.plan.part(part.id)
        places = [p for p in settle_places(part, figure) if not p.is_whole]
        if not places or not row.count or not row.is_felted:
            continue
        drawn = [(place, *drawn_on(part.shape, place.where)) for place in places]
        wool = job.bench.wool_by_id[part.coat.wool if part.coat else part.core].name
        for view in dict.fromkeys(side for _, side, _ in drawn):
            here = [(place, run) for place, side, run in drawn if side == view]
            title = _mask_title(part.name, view, job.words)
            yield title_block(list(_mask_items(part.shape, view, here)), [(title, TITLE)], wool)


def _mask_title(part: str, view: View, words: Maker) -> str:
    told = {
        "front": words.tr("{part}: other wool or hair, from the front", part=part),
        "back": words.tr("{part}: other wool or hair, from behind", part=part),
        "left": words.tr("{part}: other wool or hair, from its left", part=part),
        "right": words.tr("{part}: other wool or hair, from its right", part=part),
        "top": words.tr("{part}: other wool or hair, from its tip", part=part),
    }
    return told[view]


def _mask_items(shape: Shape, view: View, places: list[tuple[Place, Array]]) -> Iterator[Item]:
    flip = np.array([1.0, -1.0])
    run = seen_outline(shape, view)
    yield DrawnStroke(run * flip, INK, 0.4, closed=True, what="mask")
    for place, patch in places:
        for way in (1.0, -1.0) if place.copies == 2 else (1.0,):
            drawn = patch * [way, 1.0] * flip
            yield DrawnStroke(
                drawn, MADDER, 0.25, closed=True, fill=FAINT, what=f"place-{place.id}"
            )
        x, y = (float(mm) for mm in (patch * flip).mean(axis=0))
        yield DrawnText(x, y, place.display_name, SMALL, at="middle")


def seen_outline(shape: Shape, view: View) -> Array:
    """Return the outline of a shape from a side of its box, relative to the middle (n, 2), mm."""
    (across, right), (up, rise), (facing, sense) = VIEWS[view]
    turned = np.zeros((4, 4))
    turned[0, across], turned[2, up], turned[1, facing], turned[3, 3] = right, rise, -sense, 1.0
    run = outline_of_copy(Copy(_NOBODY, None, shape, turned), "front", detail=Detail.CLOSE)
    middle: Array = (run.min(axis=0) + run.max(axis=0)) / 2
    return run - middle
