"""A sheet to photograph pieces on, with four marks by which pictures of it are straightened and measured."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.export.drawn import INK, QUIET, DrawnText, Item, PaperPage, box, wrap_text
from bambola.core.export.packet.job import Job
from bambola.core.export.packet.sheet import sheet
from bambola.core.sight.known import MARK_MM, MARKS, SHEET_MM, mark_cells

_SIZE, _LINE = 3.6, 5.2


def pages(job: Job) -> Iterator[PaperPage]:
    """Yield one page at true size."""
    words = job.words
    wide, _ = job.paper.room
    left = (wide - SHEET_MM[:, 0].max()) / 2
    top = MARK_MM / 2 + 2.0
    items: list[Item] = []
    for mark, (x, y) in zip(MARKS, SHEET_MM, strict=True):
        items += _mark_cells(mark, left + x - MARK_MM / 2, top + y - MARK_MM / 2)
    told = words.tr(
        "Print this at actual size. Lay the piece (or both of a pair) between the marks"
        " and photograph it from straight above, with all four marks in the picture."
    )
    y = top + SHEET_MM[:, 1].max() + MARK_MM / 2 + 8
    for row in wrap_text(told, _SIZE, wide):
        items.append(DrawnText(0, y, row, _SIZE, colour=QUIET))
        y += _LINE
    yield sheet(
        job.paper, items, "table", words.tr("to photograph pieces on"), words, true_size=True
    )


def _mark_cells(mark: int, x: float, y: float) -> Iterator[Item]:
    """Yield the cells of a mark from its upper left corner."""
    cells = mark_cells(mark)
    side = MARK_MM / len(cells)
    for row, line in enumerate(cells):
        for column, is_black in enumerate(line):
            if is_black:
                # A hair wider, that no white shows between two of them.
                at = x + column * side, y + row * side
                yield box(*at, side + 0.02, side + 0.02, fill=INK, colour=INK, width=0.02)
