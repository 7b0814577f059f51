"""The weigh-out list, wool by wool, with boxes to tick; pinches at true size; how hanks are split."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bambola.core.export.drawn import (
    INK,
    QUIET,
    WOAD,
    DrawnStroke,
    DrawnText,
    Item,
    PaperPage,
    shift_items,
    wrap_text,
)
from bambola.core.export.packet.columns import (
    GAP_MM,
    ColumnLine,
    columns_of,
    head,
    in_columns,
    keep_together,
    with_tick_box,
    words_in,
)
from bambola.core.export.packet.job import Job, each_plan
from bambola.core.export.packet.sheet import SMALL, Block, pack_blocks, sheet
from bambola.core.export.wool_text import fitting_size, shopping_lines, split_lines, split_title
from bambola.core.plan import Plan
from bambola.core.plan.counter.weighing import Weighing, pair_advice, weighings
from bambola.core.quantities import show_mass
from bambola.core.wool import amount, is_plain_core, kept_by, portion_name
from bambola.core.wool.amounts import pinch_mm
from bambola.core.words import Words as Maker

PINCH_G = 0.3
"""Pinches of no more than this are drawn at true size. See craft.md, 10."""


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield lines in two columns if the paper is wide enough, then the pinches."""
    words, (columns, column) = job.words, columns_of(job.paper)
    for plan, height in each_plan(job):
        told = words.tr("weigh out") + height
        pages_, at, y = in_columns(_weigh_out_lines(plan, job, column), job.paper)
        pinches = list(_pinch_blocks(plan, job))
        rest, foot = _in_column(pinches, column, words)
        if pinches and y + foot + 6 <= job.paper.room[1] and at % columns:
            pages_[-1] += shift_items(rest, (at % columns) * (column + GAP_MM), y + 6)
            pinches = []
        for items in pages_:
            yield sheet(job.paper, items, "wool", told, words, true_size=True)
        told = words.tr("pinches, rolled in the fingers, actual size") + height
        yield from pack_blocks(pinches, job.paper, "wool", told, words)


def _in_column(pinches: list[Block], wide: float, words: Maker) -> tuple[list[Item], float]:
    """Return the pinches in rows under a heading, and their height."""
    items: list[Item] = [DrawnText(0, 4, words.tr("Pinches at actual size"), 4.4, "title", WOAD)]
    x, y, row = 0.0, 8.0, 0.0
    for block in pinches:
        if x and x + block.wide > wide:
            x, y, row = 0.0, y + row + 3, 0.0
        items += shift_items(block.items, x, y)
        x, row = x + block.wide + 3, max(row, block.high)
    return items, y + row


def _weigh_out_lines(plan: Plan, job: Job, wide: float) -> Iterator[ColumnLine]:
    words, wool = job.words, ""
    for weighing in weighings(plan):
        if weighing.portion.wool != wool:
            wool = weighing.portion.wool
            known = job.bench.wool_by_id[wool]
            yield head(known.name, known.colour)
        yield with_tick_box(_portion_line(weighing, plan, job, wide))
    for title, lines in (
        (words.tr("From the shelf"), list(_from_the_shelf(plan, job))),
        (words.tr("To buy"), list(shopping_lines(plan, job.bench, words))),
    ):
        if lines:
            yield head(title)
            yield from (words_in(text, wide) for text in lines)
    for name, split in (job.splits or {}).items():
        yield head(split_title(job.bench.wool_by_id[name].name, split, words))
        for text in split_lines(plan, split, words):
            yield words_in(text, wide)


def _portion_line(w: Weighing, plan: Plan, job: Job, wide: float) -> ColumnLine:
    words, p = job.words, w.portion
    role = "" if is_plain_core(p) else f", {words.say(portion_name(p))}"
    which = words.tr(", figure {figure}", figure=w.figure) if plan.count > 1 else ""
    keep = words.say(kept_by(p))
    told = words.tr("take {amount}", amount=words.say(amount(p)))
    text = f"{words.say(w.title)}{role}{which}: {told}" + (f", {keep}" if keep else "")
    rows = [words_in(text, wide, indent=5.5)]
    if w.twin is None and w.copies > 1:
        advice = words.say(pair_advice(plan.part(w.part), p))
        rows.append(words_in(advice, wide, SMALL, colour=QUIET, indent=5.5))
    return keep_together(rows)


def _from_the_shelf(plan: Plan, job: Job) -> Iterator[str]:
    """Yield what is taken of each wool, and what is mixed of which."""
    words, bench = job.words, job.bench
    for t in plan.wools:
        told = []
        if t.shelf_g > 0:
            told.append(words.tr("{shelf} from the shelf", shelf=show_mass(t.shelf_g, words.units)))
        if t.scraps_g > 0:
            scraps = show_mass(t.scraps_g, words.units)
            told.append(words.tr("{scraps} of scraps into cores", scraps=scraps))
        if told:
            yield f"{t.name}: {'; '.join(told)}"
    for row in plan.fittings:
        if row.have:
            size = fitting_size(plan, row, row.use_mm, words.units)
            words_told = words.tr("in the box")
            yield f"{min(row.have, row.count * plan.count)} × {row.name}, {size}, {words_told}"
    names = bench.wool_by_id
    for mix in plan.mixes:
        parts = ", ".join(
            words.tr(
                "{n} handfuls of {name:lower} ({weight})",
                n=n,
                name=names[wool].name,
                weight=show_mass(grams, words.units),
            )
            for wool, grams, n in mix.parts
        )
        yield words.tr(
            "Mix {grams} of {name:lower}: {parts}",
            grams=show_mass(mix.grams, words.units),
            name=names[mix.wool].name,
            parts=parts,
        )


def _pinch_blocks(plan: Plan, job: Job) -> Iterator[Block]:
    """Yield a circle for every pinch too light for a kitchen scale."""
    words = job.words
    for part in plan.parts:
        for p in part.heaps:
            if not 0 < p.take_g <= PINCH_G:
                continue
            across = pinch_mm(p.take_g)
            t = np.linspace(0, 2 * np.pi, 49)[:-1]
            ring = across / 2 * np.column_stack([1 + np.cos(t), 1 + np.sin(t)])
            fill = job.bench.wool_by_id[p.wool].colour
            count = f"{part.count} × " if part.count > 1 else ""
            role = "" if is_plain_core(p) else f", {words.say(portion_name(p))}"
            names = wrap_text(f"{count}{part.name}{role}", 2.7, 25)
            items: list[Item] = [
                DrawnStroke(ring, INK, 0.25, closed=True, fill=fill, what="pinch"),
                *(DrawnText(0, across + 3.4 + 3.4 * i, name, 2.7) for i, name in enumerate(names)),
            ]
            yield Block(max(across, 25.0), across + 4 + 3.4 * len(names), tuple(items))
