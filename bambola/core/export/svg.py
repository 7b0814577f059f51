"""Things to lay beside the work, each at true size in an SVG with a ruler to check it: outlines of the
figure, wires, blanks of flat parts, strips of the face."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from bambola.core.bench import Bench
from bambola.core.export.drawn import (
    INK,
    MADDER,
    DrawnStroke,
    Item,
    PaperPage,
    line,
    shift_items,
    svg_of,
)
from bambola.core.export.packet.pages.bundles import blank_blocks
from bambola.core.export.packet.pages.face import strip_blocks
from bambola.core.export.packet.pages.wires import wire_blocks
from bambola.core.export.packet.sheet import RULER_MM, Block, box_of
from bambola.core.plan import Plan
from bambola.core.quantities import show_length
from bambola.core.solids import outlines
from bambola.core.words import ENGLISH, Words

MARGIN_MM = 10.0


def true_size_svgs(plan: Plan, bench: Bench, words: Words = ENGLISH) -> dict[str, str]:
    """Return the SVG texts by file name."""
    blocks = {f"{view}.svg": [_outline_block(plan, view)] for view in ("front", "side", "top")}
    blocks |= {
        f"wire-{wire.id}.svg": list(wire_blocks(wire, wire.cut_mm + 1.0, words))
        for wire in plan.wires
    }
    blocks |= {f"blank-{part}.svg": [blank] for part, blank in blank_blocks(plan, bench, words)}
    blocks |= {f"face-{face.part}.svg": list(strip_blocks(face, words)) for face in plan.faces}
    high = show_length(plan.to_height_mm, words.units)
    told = {
        name: words.tr(
            "{figure}, {high}: {what}, actual size",
            figure=plan.figure,
            high=high,
            what=name.removesuffix(".svg"),
        )
        for name in blocks
    }
    return {name: _blocks_as_svg(of, told[name]) for name, of in blocks.items()}


def _outline_block(plan: Plan, view: str) -> Block:
    runs = [run * [1.0, -1.0] for run in outlines(plan.solids.placement, view)]
    corner = np.vstack(runs).min(axis=0)
    wide, high = np.ptp(np.vstack(runs), axis=0).tolist()
    drawn = (DrawnStroke(run - corner, INK, 0.4, closed=True, what="outline") for run in runs)
    return Block(wide, high, tuple(drawn))


def _blocks_as_svg(blocks: Sequence[Block], told: str) -> str:
    """Return blocks below each other, and the ruler under them."""
    items: list[Item] = []
    y, wide = MARGIN_MM, RULER_MM
    for block in blocks:
        edges = [box_of(item) for item in block.items]
        left = min(edge[0] for edge in edges)
        items += shift_items(block.items, MARGIN_MM - left, y)
        wide = max(wide, block.wide, max(edge[2] for edge in edges) - left)
        y += block.high + MARGIN_MM
    items += shift_items(tuple(_ruler_items()), MARGIN_MM, y)
    return svg_of(PaperPage(wide + 2 * MARGIN_MM, y + MARGIN_MM, tuple(items), told))


def _ruler_items() -> Iterator[Item]:
    yield line(0, 0, RULER_MM, 0, colour=MADDER, width=0.3, what="ruler")
    for i in range(int(RULER_MM // 10) + 1):
        high = 3.0 if i % 5 == 0 else 2.0
        yield line(10 * i, 0, 10 * i, -high, colour=MADDER, width=0.3, what="ruler-mark")
