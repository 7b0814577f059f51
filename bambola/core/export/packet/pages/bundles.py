"""Wool at true size: every bundle as it is rolled, loose balls of what is pulled into veils, and the blanks
of flat parts."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bambola.core.bench import Bench
from bambola.core.export.drawn import INK, MADDER, DrawnStroke, Item, PaperPage
from bambola.core.export.packet.job import Job
from bambola.core.export.packet.sheet import SMALL, TITLE, Block, pack_blocks, title_block
from bambola.core.plan import Plan
from bambola.core.plan.counter.weighing import blanks_of
from bambola.core.quantities import show_length, show_mass
from bambola.core.solids.forms import Array
from bambola.core.wool import Portion, amount, is_plain_core, portion_name
from bambola.core.words import Words as Maker

FOLD_DASH = (1.0, 1.0)


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield the pages, packed."""
    told = job.words.tr("wool before felting, actual size")
    blanks = [block for _, block in blank_blocks(job.plan, job.bench, job.words)]
    yield from pack_blocks([*blanks, *_bundle_blocks(job)], job.paper, "bundles", told, job.words)


def _bundle_blocks(job: Job) -> Iterator[Block]:
    words = job.words
    for part in job.plan.parts:
        for heap in part.heaps:
            if heap.take_g <= 0 or heap.form == "sheet":
                continue
            count = f"{part.count} × " if part.count > 1 else ""
            role = "" if is_plain_core(heap) else f", {words.say(portion_name(heap))}"
            told = f"{words.say(amount(heap))}: {_loose_size(heap, words)}"
            ring = DrawnStroke(bundle_of(heap), INK, 0.35, closed=True, what=f"bundle-{part.id}")
            yield title_block([ring], [(f"{count}{part.name}{role}", TITLE), (told, SMALL)])


def _loose_size(portion: Portion, words: Maker) -> str:
    sizes = sorted({round(v, 2) for v in portion.loose_mm.values()}, reverse=True)
    told = " × ".join(show_length(v, words.units, with_unit=False) for v in sizes)
    size = f"{told} {words.units.length}"
    if portion.form == "veil":
        return words.tr("{size} across, before it is pulled into veils", size=size)
    return size


def bundle_of(portion: Portion) -> Array:
    """Return the outline (n, 2) of a loose bundle, mm: an ellipse, a sausage with round ends, or a cone."""
    turn = np.linspace(0, 2 * np.pi, 97)[:-1]
    circle = np.column_stack([np.cos(turn), np.sin(turn)])
    if portion.form == "veil":
        return circle * (portion.loose_mm["across"] / 2)
    along, across = portion.loose_mm["along"], portion.loose_mm["across"]
    if portion.form == "sausage" and along > across:
        shift = (along - across) / 2
        ends = circle * (across / 2)
        ends[:, 0] += np.where(ends[:, 0] >= 0, shift, -shift)
        return ends
    if portion.form == "cone":
        return np.array([(0.0, -across / 2), (along, 0.0), (0.0, across / 2)])
    return circle * (np.array([along, across]) / 2)


def blank_blocks(plan: Plan, bench: Bench, words: Maker) -> Iterator[tuple[str, Block]]:
    """Yield the blank of every flat part: wool is laid to the outer line, and folded at the dashed one."""
    flip = np.array([1.0, -1.0])
    for part, blank in blanks_of(plan, bench).items():
        row = plan.part(part)
        core = next(heap for heap in row.heaps if heap.role == "core")
        items: list[Item] = [
            DrawnStroke(blank.outline * flip, INK, 0.4, closed=True, what=f"blank-{part}"),
            DrawnStroke(blank.fold * flip, MADDER, 0.3, closed=True, dash=FOLD_DASH, what="fold"),
        ]
        title = words.tr("{count} × {name}, blank", count=row.count, name=row.name)
        told = words.tr(
            "lay {take} to the outer line, fold at the dashed one; {fringe} of fringe at the foot",
            take=show_mass(core.take_g, words.units),
            fringe=show_length(blank.fringe_mm, words.units),
        )
        shrinks = words.tr("it felts to {shrink:.0f} % of its length", shrink=blank.shrink * 100)
        yield part, title_block(items, [(title, TITLE), (told, SMALL), (shrinks, SMALL)])
