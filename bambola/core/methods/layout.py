"""Lays a step's picture out on a page: where outlines, numbers and words go, in the page's units, y
downwards. Window, SVG and paper then only draw polygons, discs and words."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import replace

import numpy as np

from bambola.core.facts import NOTHING, Fact
from bambola.core.frozen import frozen
from bambola.core.methods.drawing import (
    DrawnArea,
    DrawnLine,
    Measure,
    Needle,
    Number,
    StepDrawing,
    clear_of_thing,
)
from bambola.core.solids.forms import Array

_ROOM = 0.13
"""Share of the page left free on each side for words and needles."""
_WIDE = 0.6
"""How wide a letter is beside its size, on an average."""


@frozen
class Stroked:
    """A polygon or line (n, 2); ``fill`` and ``stroke`` are roles of colour, ``width`` that of the pen."""

    points: Array
    closed: bool
    fill: str
    stroke: str
    width: float
    dashed: bool = False


@frozen
class Written:
    """Words about a point, ``size`` high, on a patch of paper if they lie on something."""

    x: float
    y: float
    text: str
    size: float
    role: str
    bold: bool = False


@frozen
class Disc:
    """A number in a disc."""

    x: float
    y: float
    radius: float
    text: str


Mark = Stroked | Written | Disc


@frozen
class _LayoutPage:
    wide: float
    high: float
    size: float
    scale: float
    left: float
    top: float

    def points(self, points: Array) -> Array:
        """Return points of the drawing on the page."""
        laid: Array = np.column_stack(
            [points[:, 0] * self.scale + self.left, self.top - points[:, 1] * self.scale]
        )
        return laid

    def point(self, point: tuple[float, float]) -> tuple[float, float]:
        """Return one point on the page."""
        x, y = self.points(np.array([point]))[0]
        return float(x), float(y)

    def within(self, x: float, y: float, text: str, size: float) -> tuple[float, float]:
        """Return a place for words near a point that keeps them wholly on the page."""
        half = len(text) * size * _WIDE / 2 + 4
        return (
            min(max(x, half), max(half, self.wide - half)),
            min(max(y, size), self.high - size),
        )


def lay_out(
    drawing: StepDrawing, say: Callable[[Fact], str], wide: float, high: float, size: float
) -> tuple[Mark, ...]:
    """Return the picture laid out on a page of ``wide`` × ``high`` with words ``size`` high."""
    left, low, right, top = drawing.box
    room_x, room_y = wide * (1 - 2 * _ROOM), high * (1 - 2 * _ROOM)
    scale = min(room_x / max(right - left, 1e-6), room_y / max(top - low, 1e-6))
    page = _LayoutPage(
        wide,
        high,
        size,
        scale,
        wide / 2 - (left + right) / 2 * scale,
        high / 2 + (low + top) / 2 * scale,
    )
    shapes: list[Mark] = []
    words: list[Written | Disc] = []
    for piece in drawing.pieces:
        match piece:
            case DrawnArea(points=points, fill=fill, stroke=stroke):
                dashed = stroke == "hidden"
                pen = 1.4 if dashed else 1.8
                shapes.append(Stroked(page.points(points), True, fill, stroke, pen, dashed))
            case DrawnLine(points=points, stroke=stroke, mm=mm):
                pen = max(1.6, mm * scale)
                shapes.append(
                    Stroked(page.points(points), False, "none", stroke, pen, stroke == "hidden")
                )
            case Measure() | Needle():
                marks = list(
                    _measure_marks(piece, say, page)
                    if isinstance(piece, Measure)
                    else _needle_marks(piece, say, page)
                )
                shapes += [mark for mark in marks if isinstance(mark, Stroked)]
                words += [mark for mark in marks if not isinstance(mark, Stroked)]
            case Number(at=at, n=n):
                x, y = page.point(at)
                radius = size * 0.78
                x = min(max(x, radius + 2), wide - radius - 2)
                y = min(max(y, radius + 2), high - radius - 2)
                words.append(Disc(x, y, radius, str(n)))
    return (*shapes, *_move_apart(words, wide, high))


def _measure_marks(
    piece: Measure, say: Callable[[Fact], str], page: _LayoutPage
) -> Iterator[Stroked | Written]:
    (ax, ay), (bx, by) = (page.point(end) for end in clear_of_thing(piece))
    for own, clear in zip((piece.a, piece.b), ((ax, ay), (bx, by)), strict=True):
        if piece.away:
            yield Stroked(np.array([page.point(own), clear]), False, "none", "measure", 0.8, True)
    yield Stroked(np.array([(ax, ay), (bx, by)]), False, "none", "measure", 1.8)
    long = math.hypot(bx - ax, by - ay) or 1.0
    nx, ny = -(by - ay) / long * page.size * 0.4, (bx - ax) / long * page.size * 0.4
    for x, y in ((ax, ay), (bx, by)):
        yield Stroked(np.array([(x - nx, y - ny), (x + nx, y + ny)]), False, "none", "measure", 1.8)
    text = say(piece.told)
    x, y = page.within((ax + bx) / 2, (ay + by) / 2, text, page.size)
    yield Written(x, y, text, page.size, "measure", bold=True)


def _needle_marks(
    piece: Needle, say: Callable[[Fact], str], page: _LayoutPage
) -> Iterator[Stroked | Written]:
    tip = page.point(piece.tip)
    turn = math.radians(piece.angle)
    way = (math.cos(turn), -math.sin(turn))
    deep = piece.depth * page.scale
    reach = deep + 0.2 * min(page.wide, page.high)

    def along(by: float) -> tuple[float, float]:
        return tip[0] + way[0] * by, tip[1] + way[1] * by

    yield Stroked(np.array([along(deep), along(reach)]), False, "none", "needle", 4.0)
    yield Stroked(np.array([tip, along(deep)]), False, "none", "measure", 2.4)
    barb = page.size * 0.45
    for side in (2.6, -2.6):
        end = (
            tip[0] + math.cos(turn + side + math.pi) * barb,
            tip[1] - math.sin(turn + side + math.pi) * barb,
        )
        yield Stroked(np.array([tip, end]), False, "none", "measure", 2.4)
    if piece.told != NOTHING:
        text = say(piece.told)
        x, y = along(reach + page.size * 0.9)
        x, y = page.within(x, y, text, page.size * 0.86)
        yield Written(x, y, text, page.size * 0.86, "needle")


def _move_apart(words: list[Written | Disc], wide: float, high: float) -> list[Written | Disc]:
    """Return words and discs moved about the page until none overlaps an earlier one."""
    laid: list[Written | Disc] = []
    for mark in words:
        for shift in _SHIFTS:
            here = _shift_mark(mark, shift)
            if _lies_on(here, wide, high) and not any(
                _marks_overlap(here, other) for other in laid
            ):
                laid.append(here)
                break
        else:
            laid.append(mark)
    return laid


_SHIFTS = [
    (x, y) for y in (0.0, -1.2, 1.2, -2.4, 2.4, -3.6, 3.6, 4.8) for x in (0.0, -1.6, 1.6, 3.2, -3.2)
]


def _shift_mark(mark: Written | Disc, shift: tuple[float, float]) -> Written | Disc:
    size = mark.size if isinstance(mark, Written) else mark.radius
    return replace(mark, x=mark.x + shift[0] * size, y=mark.y + shift[1] * size)


def _lies_on(mark: Written | Disc, wide: float, high: float) -> bool:
    x, y, half_wide, half_high = _mark_extent(mark)
    return half_wide <= x <= wide - half_wide and half_high <= y <= high - half_high


def _marks_overlap(a: Written | Disc, b: Written | Disc) -> bool:
    (ax, ay, aw, ah), (bx, by, bw, bh) = _mark_extent(a), _mark_extent(b)
    return abs(ax - bx) < aw + bw and abs(ay - by) < ah + bh


def patch_of(mark: Written) -> tuple[float, float, float, float]:
    """Return left, top, width and height of the paper patch under words."""
    wide, high = len(mark.text) * mark.size * _WIDE + 6, mark.size * 1.3
    return mark.x - wide / 2, mark.y - high / 2, wide, high


def _mark_extent(mark: Written | Disc) -> tuple[float, float, float, float]:
    """Return the middle, half width and half height."""
    if isinstance(mark, Disc):
        return mark.x, mark.y, mark.radius + 1, mark.radius + 1
    _, _, wide, high = patch_of(mark)
    return mark.x, mark.y, wide / 2, high / 2
