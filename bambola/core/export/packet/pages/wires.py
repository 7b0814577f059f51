"""Every wire along the ruler with its bends, and laid out bent, both at true size."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bambola.core.armature import CutPiece, CutWire
from bambola.core.export.drawn import (
    INK,
    MADDER,
    QUIET,
    WELD,
    WOAD,
    DrawnStroke,
    DrawnText,
    Item,
    PaperPage,
    dot,
    line,
    text_wide,
)
from bambola.core.export.packet.job import Job, each_plan
from bambola.core.export.packet.sheet import Block, pack_blocks, tile_sheets
from bambola.core.export.strips import (
    StripRow,
    bend_words,
    bends_of,
    rows_of,
    stretches_of,
    wire_title,
)
from bambola.core.plan import Plan
from bambola.core.quantities import show_length
from bambola.core.words import Words as Maker

ROW_MM, ROOM_MM, _HEAD_MM = 30.0, 12.0, 8.0
FLAT_SHARE = 0.12
"""A wire whose bends leave its own plane by less than this share of its spread is drawn as it lies.
Judged."""


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield strips first, then the bent wires."""
    words = job.words
    for plan, height in each_plan(job):
        room = job.paper.room[0] - ROOM_MM
        strips = [b for wire in plan.wires for b in wire_blocks(wire, room, words)]
        told = words.tr("wires along the ruler, actual size") + height
        yield from pack_blocks(strips, job.paper, "wires", told, words)
        told = words.tr("wires bent, actual size") + height
        bent = [b for wire in plan.wires if (b := _bent_wire_block(plan, wire, words)) is not None]
        wide, high = job.paper.room
        small = [b for b in bent if b.wide <= wide and b.high <= high]
        yield from pack_blocks(small, job.paper, "wires", told, words)
        for block in bent:
            if block not in small:
                yield from tile_sheets(block, job.paper, "wires", told, words)


def wire_blocks(wire: CutWire, room: float, words: Maker) -> Iterator[Block]:
    """Yield a wire along its ruler at true size, cut into pieces if longer than ``room`` mm."""
    for i, piece in enumerate(wire.pieces):
        for j, row in enumerate(rows_of(piece.mm, room)):
            # Strips are packed as they fit: what goes on elsewhere says of which wire it is.
            title, name = wire_title(wire, words), words.say(wire.name)
            if j:
                title = words.tr("{name}, from {letter} on", name=name, letter=row.before)
            elif i:
                title = words.tr("{name}, piece {n}", name=name, n=i + 1)
            yield _wire_strip(wire, piece, row, title, words)


def _wire_strip(wire: CutWire, piece: CutPiece, row: StripRow, title: str, words: Maker) -> Block:
    y, x0 = _HEAD_MM + 11.0, 5.0 - row.start_mm
    items: list[Item] = [DrawnText(0, 4, title, 3.6, "bold")]
    a, b = x0 + row.start_mm, x0 + row.end_mm
    pen = max(0.5, min(2.0, wire.diameter_mm))
    items.append(line(a, y, b, y, colour=WOAD, width=pen, what="wire"))
    for s in stretches_of(wire, piece):
        start, end = max(s.start_mm, row.start_mm), min(s.end_mm, row.end_mm)
        if s.kind != "run" and end > start:
            items.append(line(x0 + start, y + 3, x0 + end, y + 3, colour=WELD, width=1.2))
            why = words.say(s.why)
            # At the end of a wire its words end with it, so that they stay on the sheet.
            at = x0 + min(start, max(row.start_mm, row.end_mm - text_wide(why, 2.3)))
            items.append(DrawnText(at, y + 7, why, 2.3, colour=QUIET))
    for n, bend in enumerate(bends_of(wire, piece)):
        if row.start_mm <= bend.at_mm <= row.end_mm:
            at = x0 + bend.at_mm
            items.append(line(at, y - 4, at, y + 2, colour=MADDER, width=0.35, what="bend"))
            told = f"{show_length(bend.at_mm, words.units)} · {bend_words(bend, words)}"
            half = text_wide(told, 2.4) / 2
            shown = min(max(at, a + half - 5.0), max(b - half + 5.0, a + half - 5.0))
            items.append(DrawnText(shown, y - 4.6 - 2.9 * (n % 3), told, 2.4, at="middle"))
    first = -int(-row.start_mm // 10) * 10
    for mm in range(first, int(row.end_mm) + 1, 10):
        deep = 12.0 if mm % 50 == 0 else 10.5
        items.append(line(x0 + mm, y + 9, x0 + mm, y + deep, colour=QUIET, width=0.15))
    for letter, edge, way in ((row.before, a, -1), (row.after, b, 1)):
        if letter:
            items.append(line(edge, y - 4, edge, y + 4, colour=MADDER, width=0.3, what="match"))
            items.append(
                DrawnText(edge + 2.6 * way, y + 1.2, letter, 3.6, "bold", MADDER, "middle")
            )
    wide = max(b + 6.0, text_wide(title, 3.6, "bold"))
    return Block(wide, _HEAD_MM + ROW_MM - 6, tuple(items))


def _bent_wire_block(plan: Plan, wire: CutWire, words: Maker) -> Block | None:
    """Return a bent wire in the plane in which it spreads most."""
    points = np.array(wire.points_mm)
    if len(points) < 3:
        return None
    middle = points.mean(axis=0)
    _, spread, axes = np.linalg.svd(points - middle, full_matrices=False)
    flat = (points - middle) @ axes[:2].T
    if np.ptp(flat[:, 0]) < np.ptp(flat[:, 1]):
        flat = flat[:, ::-1]
    low = flat.min(axis=0)
    run = (flat - low) * [1.0, 1.0] + [4.0, 12.0]
    items: list[Item] = [
        DrawnText(0, 4, words.say(wire.name), 3.6, "bold"),
        DrawnStroke(run, WOAD, max(0.5, min(2.0, wire.diameter_mm)), what=f"bent-{wire.id}"),
    ]
    if spread[2] > FLAT_SHARE * spread[0]:
        told = words.tr("seen flat: it leaves this plane; the bends tell how far to turn it")
        items.append(DrawnText(0, 8, told, 2.6, colour=QUIET))
    seen: set[tuple[int, int]] = set()
    for k, (x, y) in enumerate(run.tolist()):
        spot = (round(x), round(y))
        if spot not in seen:
            seen.add(spot)
            items.append(dot(x, y, 0.8, INK))
            items.append(DrawnText(x + 1.2, y - 1.2, str(k + 1), 2.6))
    wide, high = float(run[:, 0].max()) + 6, float(run[:, 1].max()) + 4
    return Block(max(wide, text_wide(words.say(wire.name), 3.6, "bold")), high, tuple(items))
