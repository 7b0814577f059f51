"""Templates: every part's finished outline from two sides with its length, its girth at three places, and its
bundle before felting; flat parts with their blank; masks of places on parts."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bambola.core.export.drawn import (
    INK,
    MADDER,
    QUIET,
    WELD,
    DrawnStroke,
    DrawnText,
    Item,
    PaperPage,
    line,
    shift_items,
)
from bambola.core.export.packet.job import Job
from bambola.core.export.packet.pages.bundles import FOLD_DASH, blank_blocks, bundle_of
from bambola.core.export.packet.pages.figure import KINDS
from bambola.core.export.packet.pages.masks import mask_blocks
from bambola.core.export.packet.sheet import (
    GAP_MM,
    SMALL,
    TITLE,
    Block,
    box_of,
    pack_blocks,
    title_block,
)
from bambola.core.figure import Ball, Part, Shape
from bambola.core.figure.shapes import ChainShape, Leaf, ProfileShape
from bambola.core.plan import Plan
from bambola.core.quantities import show_length
from bambola.core.solids import Copy, Detail, outline_of_copy
from bambola.core.solids.forms import Array, chain
from bambola.core.solids.outlines import distance, level_halves
from bambola.core.tape.girth import ellipse_girth
from bambola.core.wool import Portion
from bambola.core.words import Words as Maker

SMALL_MM, ENLARGED = 3.0, 4.0
"""What is smaller is drawn so many times as large beside its true size. Judged."""
ALIKE_MM = 0.3
"""Outlines no farther apart than this are drawn once: about as wide as a drawn line. Judged."""
GIRTHS = (0.25, 0.5, 0.75)
BUNDLE_DASH = (2.5, 1.5)


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield all parts, grouped by wool, packed."""
    blocks = [block for part in job.plan.parts for block in _part_blocks(job, part.id)]
    blocks += [block for _, block in blank_blocks(job.plan, job.bench, job.words)]
    blocks += mask_blocks(job)
    blocks.sort(key=lambda block: block.group)
    told = job.words.tr("templates, actual size")
    yield from pack_blocks(blocks, job.paper, "templates", told, job.words)


def _part_blocks(job: Job, part_id: str) -> Iterator[Block]:
    """Yield a part's two sides next to each other, or separately if too wide for a sheet."""
    row = job.plan.part(part_id)
    if not row.is_felted or not row.count:
        return
    part = job.plan.resized.figure.by_id[part_id]
    front, side = (_own_outline(part.shape, view) for view in ("front", "side"))
    wool = job.bench.wool_by_id[part.coat.wool if part.coat else part.core].name
    titles = _block_titles(job.plan, part_id, wool, job.words)
    first, second = _front_items(job, part, front), _side_items(part, side)
    if _are_alike(front, side):
        yield title_block(first, titles, wool)
        return
    if _width_of(first) + GAP_MM + _width_of(second) <= job.paper.room[0]:
        beside = shift_items(second, max(box_of(item)[2] for item in first) + GAP_MM, 0.0)
        yield title_block([*first, *beside], titles, wool)
        return
    yield title_block(first, titles, wool)
    yield title_block(
        second, [(job.words.tr("{part}, from its side", part=titles[0][0]), TITLE)], wool
    )


def _front_items(job: Job, part: Part, run: Array) -> list[Item]:
    """Return the front: outline, girths, bundle, other heights."""
    flip = np.array([1.0, -1.0])
    core = next(
        (p for p in job.plan.part(part.id).heaps if p.role == "core" and p.take_g > 0), None
    )
    bundle = _bundle_outline(part, core, run)
    group = [run] if bundle is None else [run, bundle]
    low, top = np.vstack(group).min(axis=0), max(float(r[:, 1].max()) for r in group)
    shift = np.array([-low[0], top])
    items: list[Item] = [
        DrawnStroke(run * flip + shift, INK, 0.4, closed=True, what=f"template-{part.id}"),
        *_outlines_at_other_heights(job, part.id, shift, run),
        *_girth_items(part.shape, run, shift, job.words),
    ]
    if bundle is not None:
        drawn = bundle * flip + shift
        items.append(DrawnStroke(drawn, WELD, 0.3, closed=True, dash=BUNDLE_DASH, what="bundle"))
    sizes = [plan.resized.figure.by_id[part.id].shape.extents() for plan in job.plans]
    if min(min(extents) for extents in sizes) < SMALL_MM:
        items += _enlarged_outlines(items, part.id, job.words)
    return items


def _enlarged_outlines(items: list[Item], part_id: str, words: Maker) -> Iterator[Item]:
    """Yield the outlines at all heights once more, enlarged enough to compare by hand."""
    own = (f"template-{part_id}", "other")
    runs = [item for item in items if isinstance(item, DrawnStroke) and item.what in own]
    low = np.vstack([item.points for item in runs]).min(axis=0)
    shift = np.array([max(box_of(item)[2] for item in items) + GAP_MM, 0.0])
    big = [(item.points - low) * ENLARGED + shift for item in runs]
    for item, points in zip(runs, big, strict=True):
        yield DrawnStroke(points, QUIET, 0.3, closed=True, dash=item.dash, what="enlarged")
    every = np.vstack(big)
    told = words.tr("{n:g} times", n=ENLARGED)
    yield DrawnText(float(every[:, 0].min()), float(every[:, 1].max()) + 3, told, SMALL)


def _side_items(part: Part, run: Array) -> list[Item]:
    """Return the side: the outline alone."""
    low, high = run.min(axis=0), run.max(axis=0)
    drawn = run * [1.0, -1.0] + np.array([-low[0], high[1]])
    return [DrawnStroke(drawn, INK, 0.4, closed=True, what=f"side-{part.id}")]


def _width_of(items: list[Item]) -> float:
    return max(box_of(i)[2] for i in items) - min(box_of(i)[0] for i in items)


def _block_titles(plan: Plan, part_id: str, wool: str, words: Maker) -> list[tuple[str, float]]:
    row = plan.part(part_id)
    count = f"{row.count} × " if row.count > 1 else ""
    sizes = " × ".join(show_length(mm, words.units, with_unit=False) for mm in row.to_mm.values())
    return [(f"{count}{row.name}", TITLE), (f"{sizes} {words.units.length} · {wool}", SMALL)]


def _own_outline(shape: Shape, view: str) -> Array:
    """Return the outline of an upright part about its own axis, mm."""
    return outline_of_copy(Copy(_NOBODY, None, shape, np.eye(4)), view, detail=Detail.CLOSE)


_NOBODY = Part(id="template", name="template", core="none", shape=Ball(width=1, depth=1, height=1))


def _are_alike(a: Array, b: Array) -> bool:
    """Return whether two outlines are the same, or mirrored, within ``ALIKE_MM``."""
    a, b = (run - (run.min(axis=0) + run.max(axis=0)) / 2 for run in (a, b))
    return any(
        max(distance(turned, a).max(), distance(a, turned).max()) < ALIKE_MM
        for turned in (b, b * [-1.0, 1.0])
    )


def _outlines_at_other_heights(job: Job, part_id: str, shift: Array, run: Array) -> Iterator[Item]:
    """Yield the outlines at the other heights, in place, with other dashes."""
    low = run.min(axis=0)
    for plan, dash in zip(reversed(job.plans[:-1]), KINDS[1:] * len(job.plans), strict=False):
        shape = plan.resized.figure.by_id[part_id].shape
        other = _own_outline(shape, "front")
        at = (other - other.min(axis=0) + low) * [1.0, -1.0] + shift
        middle = (np.ptp(run[:, 0]) - np.ptp(other[:, 0])) / 2
        yield DrawnStroke(
            at + np.array([middle, 0.0]), INK, 0.3, closed=True, dash=dash, what="other"
        )


def _bundle_outline(part: Part, core: Portion | None, outline: Array) -> Array | None:
    """Return the outline of the core's bundle about the finished one; flat parts have a blank instead."""
    if core is None or core.form in ("sheet", "veil") or isinstance(part.shape, Leaf):
        return None
    run = bundle_of(core)
    lies = np.ptp(outline[:, 0]) > np.ptp(outline[:, 1])
    if (np.ptp(run[:, 0]) > np.ptp(run[:, 1])) != lies or core.form == "cone":
        run = run[:, ::-1]
    middles = [(r.min(axis=0) + r.max(axis=0)) / 2 for r in (run, outline)]
    found: Array = run - middles[0] + middles[1]
    return found


def _girth_items(shape: Shape, run: Array, shift: Array, words: Maker) -> Iterator[Item]:
    """Yield the girths at three places, written there."""
    if isinstance(shape, Leaf):
        return
    low, high = run.min(axis=0), run.max(axis=0)
    flip = np.array([1.0, -1.0])
    for share in GIRTHS:
        mm = _girth_at(shape, share)
        y = low[1] + share * (high[1] - low[1])
        near = run[np.argsort(np.abs(run[:, 1] - y))[:6]]
        a, b = (np.array([x, y]) * flip + shift for x in (near[:, 0].min(), near[:, 0].max()))
        if high[1] - low[1] >= 12:
            yield line(a[0], a[1], b[0], b[1], colour=MADDER, width=0.15, dash=FOLD_DASH)
        if high[1] - low[1] >= 20 or share == 0.5:
            told = words.tr("round {mm}", mm=show_length(mm, words.units))
            yield DrawnText(b[0] + 0.8, b[1] + 0.9, told, 2.4, colour=MADDER)


def _girth_at(shape: Shape, share: float) -> float:
    """Return the girth of a part at a share of its length, mm."""
    if isinstance(shape, ProfileShape):
        wide, deep = level_halves(shape, share)
        return ellipse_girth(2 * wide, 2 * deep)
    assert isinstance(shape, ChainShape)
    form = chain(shape)
    steps = np.linalg.norm(np.diff(form.points, axis=0), axis=1)
    at = np.concatenate([[0.0], np.cumsum(steps)]) / max(float(steps.sum()), 1e-9)
    return float(2 * np.pi * np.interp(share, at, form.radii[: len(at)]))
