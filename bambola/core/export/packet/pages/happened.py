"""*What happened*: a page to fill in by hand, with the fields of the log."""

from __future__ import annotations

import itertools
from collections.abc import Iterator

from bambola.core.export.drawn import (
    FAINT,
    INK,
    QUIET,
    DrawnText,
    Item,
    PaperPage,
    box,
    line,
    wrap_text,
)
from bambola.core.export.packet.job import Job
from bambola.core.export.packet.sheet import sheet
from bambola.core.quantities import show_length

ROW_MM = 8.6


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield a row for every part, on as many pages as needed, and the whole figure at the end."""
    words, plan, paper = job.words, job.plan, job.paper
    wide, high = paper.room
    heads = (
        words.tr("part, planned"), words.tr("wool in"), words.tr("trimmed"), words.tr("loose"),
        words.tr("finished"), words.tr("min"), words.tr("needle"), words.tr("note"),
    )  # fmt: skip
    shares = (0.25, 0.09, 0.09, 0.13, 0.13, 0.07, 0.08, 0.16)
    lefts = [wide * sum(shares[:i]) for i in range(len(shares) + 1)]
    rows = [part for part in plan.parts if part.is_felted and part.count]
    each = int((high - 60) // ROW_MM)
    told = words.tr("what happened")
    for start in range(0, max(1, len(rows)), each):
        items: list[Item] = [DrawnText(0, 8, words.tr("What happened"), 7, "title")]
        y = 16.0
        for x, head in zip(lefts, heads, strict=False):
            items.append(DrawnText(x + 1, y, head, 2.8, colour=QUIET))
        y += 2
        for part in rows[start : start + each]:
            sizes = " × ".join(
                show_length(mm, words.units, with_unit=False) for mm in part.to_mm.values()
            )
            count = f"{part.count} × " if part.count > 1 else ""
            items.append(DrawnText(1, y + 4, f"{count}{part.name}", 3.3, "bold"))
            items.append(DrawnText(1, y + 7.4, sizes, 2.7, colour=QUIET))
            for left, right in itertools.pairwise(lefts):
                edge = box(left, y, right - left, ROW_MM, colour=FAINT, width=0.25)
                items.append(edge)
            y += ROW_MM
        if start + each >= len(rows):
            items += _page_items(job, y + 6, wide)
        yield sheet(paper, items, "happened", told, words)


def _page_items(job: Job, y: float, wide: float) -> Iterator[Item]:
    words = job.words
    asked = (
        words.tr("height reached"), words.tr("hours in all"), words.tr("what it cost"),
        words.tr("sold for, where and when"), words.tr("what to change next time"),
    )  # fmt: skip
    for i, text in enumerate(asked):
        at = y + 8 * i
        yield DrawnText(0, at, wrap_text(text, 3.3, 60)[0], 3.3)
        yield line(60, at + 0.5, wide, at + 0.5, colour=INK, width=0.2)
