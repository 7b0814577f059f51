"""Patterns of what is cut of cloth and the like, at true size: the line to cut, and inside it the line to sew
on. What is cut to a length is told in words."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bambola.core.export.drawn import INK, MADDER, DrawnStroke, Item, PaperPage, box, line
from bambola.core.export.packet.job import Job, each_plan
from bambola.core.export.packet.sheet import SMALL, TITLE, Block, pack_blocks, title_block
from bambola.core.plan.making.patterns import PatternPiece, PatternPlan
from bambola.core.plan.reading.stuff import added_fact, piece_fact

SEWN_DASH = (3.0, 1.5)
"""How the line to sew on is drawn, mm. Judged."""
_SHOWN_MM = 40.0


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield all patterns, packed; none for a figure all of wool."""
    for plan, height in each_plan(job):
        blocks = [
            _pattern_block(job, row, piece)
            for row in plan.patterns
            if row.count
            for piece in row.pieces
            if piece.form != "lump"
        ]
        told = job.words.tr("patterns, actual size") + height
        yield from pack_blocks(blocks, job.paper, "patterns", told, job.words)


def _pattern_block(job: Job, row: PatternPlan, piece: PatternPiece) -> Block:
    words, name = job.words, job.plan.part(row.part).name
    copies = f"{row.count} × " if row.count > 1 else ""
    titles = [(f"{copies}{name}", TITLE), (words.say(piece_fact(row, piece)), SMALL)]
    added = words.say(added_fact(row))
    if added:
        titles.append((added, SMALL))
    room = job.paper.room[0]
    is_half = room < piece.wide_mm <= 2 * room
    if is_half:
        titles.append((words.tr("half of it: lay its left edge on a fold"), SMALL))
    return title_block(list(_pattern_items(row, piece, is_half)), titles, words.say(row.name))


def _pattern_items(row: PatternPlan, piece: PatternPiece, is_half: bool) -> Iterator[Item]:
    flip = np.array([1.0, -1.0])
    if not piece.cut_mm:
        # A length needs no pattern: a piece of it shows how wide it is.
        wide, long = min(piece.wide_mm, _SHOWN_MM), _SHOWN_MM
        yield box(0.0, 0.0, long, wide, colour=INK, width=0.3)
        return
    cut, sewn = np.array(piece.cut_mm), np.array(piece.sewn_mm)
    if is_half:  # it is its own mirror image
        cut, sewn = (
            np.column_stack([np.maximum(run[:, 0], 0.0), run[:, 1]]) for run in (cut, sewn)
        )
    yield DrawnStroke(cut * flip, INK, 0.4, closed=True, what=f"pattern-{row.part}")
    if row.seam_mm or row.hem_mm or row.overlap_mm:
        yield DrawnStroke(sewn * flip, MADDER, 0.25, closed=True, dash=SEWN_DASH, what="sewn")
    if row.kind in ("cloth", "net"):
        half, x = min(20.0, piece.long_mm * 0.3), piece.wide_mm / 4 if is_half else 0.0
        yield line(x, -half, x, half, colour=MADDER, width=0.25, what="grain")
