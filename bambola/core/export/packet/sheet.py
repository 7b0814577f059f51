"""A sheet of paper: its margins, and how things larger or smaller than it are laid out."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import NamedTuple

from bambola.core.export.drawn import (
    FAINT,
    INK,
    MADDER,
    QUIET,
    Clip,
    DrawnStroke,
    DrawnText,
    Item,
    PaperPage,
    box,
    line,
    shift_items,
    text_wide,
)
from bambola.core.export.packet.papers import FOOT_MM, MARGIN_MM, Paper
from bambola.core.frozen import frozen
from bambola.core.quantities import show_bought
from bambola.core.words import Words as Maker


class Free(NamedTuple):
    """A free rectangle on a sheet, from its upper left corner."""

    x: float
    y: float
    wide: float
    high: float


def pack(
    sizes: Sequence[tuple[float, float]], wide: float, high: float
) -> list[list[tuple[int, float, float]]]:
    """Return for each sheet ``wide`` by ``high`` which of ``sizes`` (width, height) lie on it, and their
    upper left corners. None may be larger than a sheet.

    The longest comes first, each into the free rectangle that leaves the least beside it (best short side
    fit: J. Jylänki, A thousand ways to pack the bin, 2010).
    """
    sheets: list[list[tuple[int, float, float]]] = []
    free: list[list[Free]] = []
    longest_first = sorted(range(len(sizes)), key=lambda i: max(sizes[i]), reverse=True)
    for i in longest_first:
        w, h = sizes[i]
        fits = [
            (min(room.wide - w, room.high - h), n, room)
            for n, rooms in enumerate(free)
            for room in rooms
            if w <= room.wide and h <= room.high
        ]
        if not fits:
            sheets.append([])
            free.append([Free(0.0, 0.0, wide, high)])
            fits = [(0.0, len(free) - 1, free[-1][0])]
        _, n, room = min(fits, key=lambda fit: fit[0])
        sheets[n].append((i, room.x, room.y))
        free[n] = _free_rectangles(free[n], Free(room.x, room.y, w, h))
    return sheets


def _free_rectangles(rooms: Sequence[Free], taken: Free) -> list[Free]:
    """Return the largest free rectangles once ``taken`` is used; they may overlap."""
    found: list[Free] = []
    for room in rooms:
        right, low = room.x + room.wide, room.y + room.high
        end, foot = taken.x + taken.wide, taken.y + taken.high
        if taken.x >= right or end <= room.x or taken.y >= low or foot <= room.y:
            found.append(room)
            continue
        found += [
            Free(room.x, room.y, taken.x - room.x, room.high),
            Free(end, room.y, right - end, room.high),
            Free(room.x, room.y, room.wide, taken.y - room.y),
            Free(room.x, foot, room.wide, low - foot),
        ]
    found = list(dict.fromkeys(room for room in found if room.wide > 0 and room.high > 0))
    return [a for a in found if not any(a is not b and _contains(b, a) for b in found)]


def _contains(outer: Free, inner: Free) -> bool:
    return (
        outer.x <= inner.x
        and outer.y <= inner.y
        and outer.x + outer.wide >= inner.x + inner.wide
        and outer.y + outer.high >= inner.y + inner.high
    )


OVERLAP_MM = 10.0
"""Sheets of one thing are glued over each other by so much."""
SQUARE_MM, RULER_MM = 50.0, 100.0
GAP_MM = 5.0
TITLE, SMALL = 3.4, 2.7
"""The title of what is drawn and the words under it."""


@frozen
class Block:
    """Something ``wide`` by ``high`` mm, its items relative to its upper left corner; at true size it is cut
    into sheets rather than shrunk if too large."""

    wide: float
    high: float
    items: tuple[Item, ...]
    group: str = ""


def sheet(
    paper: Paper, items: Sequence[Item], kind: str, told: str, words: Maker, true_size: bool = False
) -> PaperPage:
    """Return a page with ``items`` in the room of ``paper``; at true size with a ruler and a square to check
    it."""
    placed: list[Item] = list(shift_items(items, MARGIN_MM, MARGIN_MM))
    if true_size:
        placed += _ruler_and_square(paper, words)
    return PaperPage(paper.wide, paper.high, tuple(placed), told, kind)


def _ruler_and_square(paper: Paper, words: Maker) -> Iterator[Item]:
    """Yield a ruler in the foot, and the corners of a square of 50 mm at the lower right."""
    long = RULER_MM if paper.wide > 180 else SQUARE_MM
    x, y = paper.wide - MARGIN_MM - long, paper.high - 8.0
    yield line(x, y, x + long, y, colour=INK, width=0.2, what="ruler")
    for i in range(int(long // 10) + 1):
        high = 3.0 if i % 5 == 0 else 2.0
        yield line(x + 10 * i, y, x + 10 * i, y - high, colour=INK, width=0.2, what="ruler-mark")
    told = words.tr("{long}: if not, print at 100 %", long=show_bought(long, words.units))
    yield DrawnText(x + long, y + 3.6, told, 2.8, colour=QUIET, at="right")
    left, low = paper.wide - MARGIN_MM - SQUARE_MM, paper.high - FOOT_MM
    for cx, cy, dx, dy in (
        (left, low, 1, -1), (left + SQUARE_MM, low, -1, -1),
        (left, low - SQUARE_MM, 1, 1), (left + SQUARE_MM, low - SQUARE_MM, -1, 1),
    ):  # fmt: skip
        yield line(cx, cy, cx + 3 * dx, cy, colour=FAINT, width=0.2, what="square")
        yield line(cx, cy, cx, cy + 3 * dy, colour=FAINT, width=0.2, what="square")


def number_pages(pages: Sequence[PaperPage], figure: str, words: Maker) -> list[PaperPage]:
    """Return the pages with name and number at the foot."""
    found = []
    for n, page in enumerate(pages, 1):
        if not page.foot:
            found.append(page)
            continue
        told = words.tr(
            "{figure} · {told} · page {n} of {of}",
            figure=figure,
            told=page.told,
            n=n,
            of=len(pages),
        )
        foot = DrawnText(MARGIN_MM, page.high - 6.5, told, 3.0, colour=QUIET)
        found.append(PaperPage(page.wide, page.high, (*page.items, foot), page.told, page.kind))
    return found


def remove_number(page: PaperPage) -> PaperPage:
    """Return a page without the name and number that :func:`number_pages` gave it."""
    return replace(page, items=page.items[:-1]) if page.foot else page


def tile_sheets(
    block: Block, paper: Paper, kind: str, told: str, words: Maker
) -> Iterator[PaperPage]:
    """Yield one thing at true size on as many sheets as needed. Sheets overlap: cut along the dashed line of
    one, and lay it on that of the next."""
    wide, high = paper.room
    if block.wide <= wide and block.high <= high:
        dx, dy = (wide - block.wide) / 2, (high - block.high) / 2
        yield sheet(
            paper, list(shift_items(block.items, dx, dy)), kind, told, words, true_size=True
        )
        return
    columns, rows = _sheet_starts(block.wide, wide), _sheet_starts(block.high, high)
    for (j, y), (i, x) in itertools.product(enumerate(rows), enumerate(columns)):
        across = min(wide, block.wide - x)
        down = min(high, block.high - y)
        inside = Clip(0.0, 0.0, across, down, tuple(shift_items(block.items, -x, -y)))
        marks = list(_tile_marks(i, j, len(columns), len(rows), across, down, words))
        where = words.tr("{told}, sheet {row}{column}", told=told, row=chr(65 + j), column=i + 1)
        yield sheet(paper, [inside, *marks], kind, where, words, true_size=True)


def _sheet_starts(long: float, room: float) -> list[float]:
    """Return where sheets begin along one side."""
    if long <= room:
        return [0.0]
    count = math.ceil((long - OVERLAP_MM) / (room - OVERLAP_MM))
    return [i * (room - OVERLAP_MM) for i in range(count)]


def _tile_marks(
    i: int, j: int, columns: int, rows: int, wide: float, high: float, words: Maker
) -> Iterator[Item]:
    """Yield cutting lines in the middle of overlaps, with the number of the sheet beyond."""
    half = OVERLAP_MM / 2
    dash = (3.0, 2.0)
    name = f"{chr(65 + j)}{i + 1}"
    yield DrawnText(wide / 2, 4, words.tr("sheet {name}", name=name), 3.4, "bold", MADDER, "middle")
    if i:
        yield line(half, 0, half, high, colour=MADDER, width=0.2, dash=dash, what="cut")
    if i + 1 < columns:
        x = wide - half
        yield line(x, 0, x, high, colour=MADDER, width=0.2, dash=dash, what="cut")
    if j:
        yield line(0, half, wide, half, colour=MADDER, width=0.2, dash=dash, what="cut")
    if j + 1 < rows:
        y = high - half
        yield line(0, y, wide, y, colour=MADDER, width=0.2, dash=dash, what="cut")


def pack_blocks(
    blocks: Sequence[Block],
    paper: Paper,
    kind: str,
    told: str,
    words: Maker,
    true_size: bool = True,
) -> Iterator[PaperPage]:
    """Yield blocks on as few sheets as possible; larger ones are cut into sheets of their own."""
    wide, high = paper.room
    small = [b for b in blocks if b.wide <= wide and b.high <= high]
    sizes = [(block.wide + GAP_MM, block.high + GAP_MM) for block in small]
    for laid in pack(sizes, wide + GAP_MM, high + GAP_MM):
        items: list[Item] = []
        for i, x, y in laid:
            items += shift_items(small[i].items, x, y)
        yield sheet(paper, items, kind, told, words, true_size=true_size)
    for block in blocks:
        if block.wide > wide or block.high > high:
            yield from tile_sheets(block, paper, kind, told, words)


def frame_block(block: Block) -> Block:
    """Return a block with a faint frame, to be cut out."""
    edge = box(-1.5, -1.5, block.wide + 3, block.high + 3, colour=FAINT, width=0.15)
    return Block(block.wide, block.high, (edge, *block.items), block.group)


def title_block(items: list[Item], titles: list[tuple[str, float]], group: str = "") -> Block:
    """Return a block with its titles above what is drawn."""
    head = 2 + sum(size + 1 for _, size in titles)
    low = min(box_of(item)[1] for item in items)
    left = min(box_of(item)[0] for item in items)
    moved = list(shift_items(items, -left, head - low))
    wide = max(box_of(item)[2] for item in moved)
    high = max(box_of(item)[3] for item in moved)
    y, lines = 0.0, []
    for i, (text, size) in enumerate(titles):
        y += size + 0.6
        lines.append(
            DrawnText(0, y, text, size, "bold" if i == 0 else "text", INK if i == 0 else QUIET)
        )
        wide = max(wide, text_wide(text, size, "bold" if i == 0 else "text"))
    return Block(wide, high, (*lines, *moved), group)


def box_of(item: Item) -> tuple[float, float, float, float]:
    """Return left, upper, right and lower edge of a line or of words, mm."""
    if isinstance(item, DrawnStroke):
        (left, top), (right, low) = item.points.min(axis=0), item.points.max(axis=0)
        return float(left), float(top), float(right), float(low)
    assert isinstance(item, DrawnText)
    wide = text_wide(item.text, item.size, item.face)
    left = item.x - {"left": 0.0, "middle": wide / 2, "right": wide}[item.at]
    return left, item.y - item.size, left + wide, item.y + 0.5
