"""What is weighed out, wool by wool, with boxes to tick; pinches at true size; how a hank is split."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bambola.core.export.drawn import (
    INK,
    QUIET,
    WOAD,
    Item,
    Page,
    Stroke,
    Words,
    box,
    shifted,
    wrapped,
)
from bambola.core.export.packet.build import Job, each_plan
from bambola.core.export.packet.sheet import Block, packed, sheet
from bambola.core.export.split_text import split_lines, split_title
from bambola.core.plan import Plan
from bambola.core.plan.counter.weighing import Weighing, pair_advice, weighings
from bambola.core.wool import amount, called, is_plain_core, kept_by
from bambola.core.wool.amounts import pinch_mm
from bambola.core.words import Words as Maker

LINE, SIZE = 5.0, 3.3
PINCH_G = 0.3
"""Pinches of no more than this are drawn at true size. See craft.md, 10."""
COLUMN_GAP = 8.0


def pages(job: Job) -> Iterator[Page]:
    """Two columns of lines where the paper is wide enough, then the pinches."""
    words = job.words
    wide, high = job.paper.room
    columns = 2 if wide > 160 else 1
    column = (wide - COLUMN_GAP * (columns - 1)) / columns
    for plan, height in each_plan(job):
        told = words.tr("weigh out") + height
        lines = list(_lines(plan, job, column))
        pages_: list[list[Item]] = [[]]
        y, at = 0.0, 0
        for kind, block_high, items in lines:
            if y + block_high + (10 if kind == "head" else 0) > high:
                at, y = at + 1, 0.0
                if at % columns == 0:
                    pages_.append([])
            pages_[-1] += shifted(items, (at % columns) * (column + COLUMN_GAP), y)
            y += block_high
        pinches = list(_pinches(plan, job))
        rest, foot = _in_column(pinches, column, words)
        if pinches and y + foot + 6 <= high and at % columns:
            pages_[-1] += shifted(rest, (at % columns) * (column + COLUMN_GAP), y + 6)
            pinches = []
        for items in pages_:
            yield sheet(job.paper, items, "wool", told, words, true_size=True)
        told = words.tr("pinches, rolled in the fingers, true size") + height
        yield from packed(pinches, job.paper, "wool", told, words)


def _in_column(pinches: list[Block], wide: float, words: Maker) -> tuple[list[Item], float]:
    """The pinches in rows under a heading, and how high that is."""
    items: list[Item] = [Words(0, 4, words.tr("Pinches at true size"), 4.4, "title", WOAD)]
    x, y, row = 0.0, 8.0, 0.0
    for block in pinches:
        if x and x + block.wide > wide:
            x, y, row = 0.0, y + row + 3, 0.0
        items += shifted(block.items, x, y)
        x, row = x + block.wide + 3, max(row, block.high)
    return items, y + row


def _lines(plan: Plan, job: Job, wide: float) -> Iterator[tuple[str, float, list[Item]]]:
    words, wool = job.words, ""
    for weighing in weighings(plan):
        if weighing.portion.wool != wool:
            wool = weighing.portion.wool
            known = job.bench.wool_by_id[wool]
            swatch = box(0, 2, 4, 4, colour=INK, width=0.2, fill=known.colour)
            yield "head", 8.5, [swatch, Words(6, 5.6, known.name, 4.4, "title", WOAD)]
        yield "line", *_line(weighing, plan, job, wide)
    for name, split in (job.splits or {}).items():
        title = split_title(job.bench.wool_by_id[name].name, split, words)
        yield "head", 8.5, [Words(0, 5.6, title, 4.4, "title", WOAD)]
        for text in split_lines(plan, split, words):
            rows = wrapped(text, SIZE, wide)
            yield (
                "line",
                LINE * len(rows),
                [Words(0, SIZE + LINE * i, row, SIZE) for i, row in enumerate(rows)],
            )


def _line(w: Weighing, plan: Plan, job: Job, wide: float) -> tuple[float, list[Item]]:
    words, p = job.words, w.portion
    role = "" if is_plain_core(p) else f", {words.say(called(p))}"
    which = words.tr(", figure {figure}", figure=w.figure) if plan.count > 1 else ""
    keep = words.say(kept_by(p))
    told = words.tr("take {amount}", amount=words.say(amount(p)))
    text = f"{words.say(w.title)}{role}{which}: {told}" + (f", {keep}" if keep else "")
    items: list[Item] = [box(0, 0.6, 3.2, 3.2, colour=INK, width=0.25)]
    y = SIZE
    for row in wrapped(text, SIZE, wide - 5.5):
        items.append(Words(5.5, y, row, SIZE))
        y += SIZE + 0.9
    if w.twin is None and w.copies > 1:
        for row in wrapped(words.say(pair_advice(plan.part(w.part), p)), 2.7, wide - 5.5):
            items.append(Words(5.5, y - 0.4, row, 2.7, colour=QUIET))
            y += 3.5
    return y + 0.9, items


def _pinches(plan: Plan, job: Job) -> Iterator[Block]:
    """A circle for every pinch too light for a kitchen scale."""
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
            role = "" if is_plain_core(p) else f", {words.say(called(p))}"
            names = wrapped(f"{count}{part.name}{role}", 2.7, 25)
            items: list[Item] = [
                Stroke(ring, INK, 0.25, closed=True, fill=fill, what="pinch"),
                *(Words(0, across + 3.4 + 3.4 * i, name, 2.7) for i, name in enumerate(names)),
            ]
            yield Block(max(across, 25.0), across + 4 + 3.4 * len(names), tuple(items))
