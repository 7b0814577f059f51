"""Lines of text in one or two columns, over as many sheets as needed."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from bambola.core.export.drawn import (
    INK,
    WOAD,
    DrawnText,
    Face,
    Item,
    PaperPage,
    box,
    shift_items,
    wrap_text,
)
from bambola.core.export.packet.papers import Paper
from bambola.core.export.packet.sheet import sheet
from bambola.core.frozen import frozen
from bambola.core.words import Words as Maker

GAP_MM = 8.0
_TWO_FROM_MM = 160.0
LEADING = 1.28
SIZE = 3.3


@frozen
class ColumnLine:
    """A piece of a column ``high`` mm high, its items relative to its upper left corner; a heading stays with
    what follows."""

    high: float
    items: tuple[Item, ...]
    is_head: bool = False


def columns_of(paper: Paper) -> tuple[int, float]:
    """Return the number of columns of a sheet, and their width, mm."""
    wide, _ = paper.room
    n = 2 if wide > _TWO_FROM_MM else 1
    return n, (wide - GAP_MM * (n - 1)) / n


def head(text: str, colour: str = "") -> ColumnLine:
    """Return a heading, with a swatch of wool before it if it has a ``colour``."""
    if not colour:
        return ColumnLine(8.5, (DrawnText(0, 5.6, text, 4.4, "title", WOAD),), is_head=True)
    swatch = box(0, 2, 4, 4, colour=INK, width=0.2, fill=colour)
    return ColumnLine(8.5, (swatch, DrawnText(6, 5.6, text, 4.4, "title", WOAD)), is_head=True)


def words_in(
    text: str,
    wide: float,
    size: float = SIZE,
    face: Face = "text",
    colour: str = INK,
    indent: float = 0.0,
) -> ColumnLine:
    """Return ``text`` in as many rows as it takes."""
    rows = wrap_text(text, size, wide - indent, face)
    items = tuple(
        DrawnText(indent, size * (1 + LEADING * i), row, size, face, colour)
        for i, row in enumerate(rows)
    )
    return ColumnLine(size * LEADING * len(rows) + 0.2 * size, items)


def keep_together(lines: Iterable[ColumnLine]) -> ColumnLine:
    """Return lines that must stay together in one column."""
    items: list[Item] = []
    y = 0.0
    for line in lines:
        items += shift_items(line.items, 0.0, y)
        y += line.high
    return ColumnLine(y, tuple(items))


def with_tick_box(line: ColumnLine) -> ColumnLine:
    """Return a line with a box to tick before it."""
    tick = box(0, 0.6, 3.2, 3.2, colour=INK, width=0.25)
    return ColumnLine(line.high, (tick, *line.items))


def in_columns(lines: Iterable[ColumnLine], paper: Paper) -> tuple[list[list[Item]], int, float]:
    """Return the items of each sheet relative to its room; the column in which the last one ends, counted
    over all sheets, and how far down."""
    n, wide = columns_of(paper)
    sheets: list[list[Item]] = [[]]
    at, y = 0, 0.0
    for line in lines:
        if y > 0 and y + line.high + (10 if line.is_head else 0) > paper.room[1]:
            at, y = at + 1, 0.0
            if at % n == 0:
                sheets.append([])
        sheets[-1] += shift_items(line.items, (at % n) * (wide + GAP_MM), y)
        y += line.high
    return sheets, at, y


def column_pages(
    lines: Iterable[ColumnLine], paper: Paper, kind: str, told: str, words: Maker
) -> Iterator[PaperPage]:
    """Yield pages of such columns."""
    for items in in_columns(lines, paper)[0]:
        yield sheet(paper, items, kind, told, words)
