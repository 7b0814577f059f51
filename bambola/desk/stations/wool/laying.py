"""The layout of everything on the table at one scale: geometry without painting."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QPainterPath, QPolygonF

from bambola.core.plan import PartPlan
from bambola.core.solids import Placement
from bambola.core.solids.forms import Array
from bambola.core.wool import Blank, Portion

Kind = Literal["bundle", "blank", "heap", "part"]


@dataclass(frozen=True)
class TableThing:
    """Something that lies on the table: a bundle, a blank, a heap of coat, or the finished part.

    ``size`` in mm, across and down. ``portion`` is its index among the part's portions (None: the part).
    """

    kind: Kind
    size: tuple[float, float]
    portion: int | None = None
    outline: Array | None = None
    fold: Array | None = None


@dataclass(frozen=True)
class PartThings:
    """The things of one part, from left to right, the finished part last."""

    part: str
    things: tuple[TableThing, ...]


@dataclass(frozen=True)
class PortionLayout:
    """A setting laid down: its box, and the box of each thing, px."""

    setting: PartThings
    box: QRectF
    boxes: tuple[QRectF, ...]


@dataclass(frozen=True)
class PlacedPortion:
    """A portion on the table: its ``index`` among its part's portions, and its place."""

    part: str
    index: int
    box: QRectF

    @property
    def key(self) -> str:
        """A key that is unique on the table."""
        return f"{self.part} {self.index}"


@dataclass(frozen=True)
class Room:
    """Lengths on the screen that do not follow the scale, px."""

    gap: float
    label: float
    head: float
    foot: float
    least: float


def setting_of(part: PartPlan, blank: Blank | None, finished: tuple[float, float]) -> PartThings:
    """Return the things of one part; ``finished`` is the size of its picture, mm."""
    things = [
        _portion_thing(portion, i, blank)
        for i, portion in enumerate(part.heaps)
        if portion.take_g > 0
    ]
    return PartThings(part.id, (*things, TableThing("part", finished)))


def _portion_thing(portion: Portion, i: int, blank: Blank | None) -> TableThing:
    if portion.role == "core" and blank is not None:
        low, high = blank.outline.min(axis=0), blank.outline.max(axis=0)
        size = (float(high[0] - low[0]), float(high[1] - low[1]))
        return TableThing("blank", size, i, blank.outline, blank.fold)
    if portion.form == "veil":
        across = portion.loose_mm["across"]
        return TableThing("heap", (across, across), i)
    along, across = portion.loose_mm["along"], portion.loose_mm["across"]
    return TableThing("bundle", (max(along, across), min(along, across)), i)


def lay_out(
    settings: Sequence[PartThings], wide: float, scale: float, room: Room
) -> tuple[tuple[PortionLayout, ...], float]:
    """Return the settings laid out in rows across ``wide`` px at ``scale`` px a mm, and their height."""
    laid: list[PortionLayout] = []
    row: list[tuple[PartThings, float, float]] = []
    y = room.gap

    def finish() -> None:
        nonlocal y
        if not row:
            return
        tall = max(high for *_, high in row)
        spare = max(0.0, wide - sum(w for _, w, _ in row) - room.gap * (len(row) + 1))
        x = room.gap
        for setting, own, _ in row:
            # What a row has to spare is shared, so that nothing crowds at the left.
            own += spare / len(row)
            laid.append(_layout_in_box(setting, QRectF(x, y, own, tall), scale, room))
            x += own + room.gap
        y += tall + room.gap
        row.clear()

    used = room.gap
    for setting in settings:
        own, high = _size_needed(setting, scale, room)
        if row and used + own + room.gap > wide:
            finish()
            used = room.gap
        row.append((setting, own, high))
        used += own + room.gap
    finish()
    return tuple(laid), y


def _size_needed(setting: PartThings, scale: float, room: Room) -> tuple[float, float]:
    widths = [max(room.label, t.size[0] * scale) for t in setting.things]
    own = sum(widths) + room.gap * (len(widths) + 1) + room.label * 0.3
    tall = max(t.size[1] for t in setting.things) * scale
    return max(own, room.least), tall + room.head + room.foot


def _layout_in_box(setting: PartThings, box: QRectF, scale: float, room: Room) -> PortionLayout:
    widths = [max(room.label, t.size[0] * scale) for t in setting.things]
    spare = box.width() - sum(widths) - room.gap * (len(widths) + 1)
    x = box.left() + room.gap + max(0.0, spare - room.label * 0.3) / 2
    middle = box.top() + room.head + (box.height() - room.head - room.foot) / 2
    boxes = []
    for i, (thing, own) in enumerate(zip(setting.things, widths, strict=True)):
        if i == len(widths) - 1:
            x += room.label * 0.3  # room for the arrow before the finished part
        w, h = thing.size[0] * scale, thing.size[1] * scale
        boxes.append(QRectF(x + (own - w) / 2, middle - h / 2, w, h))
        x += own + room.gap
    return PortionLayout(setting, box, tuple(boxes))


def fitting_scale(
    settings: Sequence[PartThings], wide: float, tall: float, room: Room, least: float, most: float
) -> float:
    """Return the largest scale (px a mm) between ``least`` and ``most`` at which everything is visible."""
    low, high = least, most
    for _ in range(18):
        middle = (low + high) / 2
        widest = max((_size_needed(s, middle, room)[0] for s in settings), default=0.0)
        fits = widest + 2 * room.gap <= wide and lay_out(settings, wide, middle, room)[1] <= tall
        low, high = (middle, high) if fits else (low, middle)
    return low


def thing_at(laid: Sequence[PortionLayout], at: QPointF) -> tuple[str, int | None] | None:
    """Return the part and portion at a place."""
    for place in laid:
        if place.box.contains(at):
            near = min(
                zip(place.setting.things, place.boxes, strict=True),
                key=lambda row: abs(row[1].center().x() - at.x()),
            )
            return place.setting.part, near[0].portion
    return None


def seen_size(alone: Placement) -> tuple[float, float]:
    """Return width and height (mm) of a lying part, from the front."""
    copy = alone.copies[0]
    ways = np.array([(1.0, 0.0, 0.0), (-1.0, 0.0, 0.0), (0.0, 0.0, 1.0), (0.0, 0.0, -1.0)])
    reach = copy.reaches(ways)
    return float(reach[0] + reach[1]), float(reach[2] + reach[3])


def path_in(run: Array, whole: Array, box: QRectF, scale: float) -> QPainterPath:
    """Return an outline scaled into ``box`` as part of ``whole``; its tip is up."""
    low, high = whole.min(axis=0), whole.max(axis=0)
    points = [
        QPointF(box.left() + (x - low[0]) * scale, box.top() + (high[1] - y) * scale)
        for x, y in run.tolist()
    ]
    path = QPainterPath()
    path.addPolygon(QPolygonF(points))
    path.closeSubpath()
    return path
