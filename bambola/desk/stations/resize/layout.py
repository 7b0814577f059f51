"""The layout of the table: geometry, computed again after a change."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF

from bambola.core.relief import Camera
from bambola.desk.kit.painters.tape import flag_box
from bambola.desk.kit.pictures import RenderResult
from bambola.desk.kit.seen import base_of
from bambola.desk.kit.theme import Theme

OLD, NEW = "old", "new"
TWO_PX = 400
"""On a table narrower than this (before scaling) there is room for one figure: the new one."""


@dataclass(frozen=True, slots=True)
class Spot:
    """The place of one figure: pixel x of its axis, and its reach to left and right in the view (mm)."""

    axis: float
    left: float
    right: float


@dataclass(frozen=True)
class TableLayout:
    """Scale (pixels a mm), ground line, tape, and the places of the figures."""

    theme: Theme
    camera: Camera
    mm_px: float
    range_mm: float
    ground_y: float
    tape: QRectF
    spots: Mapping[str, Spot]

    def y_of(self, mm: float) -> float:
        """Return the pixel y of a height above the ground."""
        return self.ground_y - mm * self.mm_px

    def mm_at(self, y: float) -> float:
        """Return the height above the ground (mm) of a pixel y."""
        return (self.ground_y - y) / self.mm_px

    def flag(self, mm: float) -> QRectF:
        """Return the rectangle of the flag at a height."""
        # Where there is room for one figure only, it lies on the tape.
        left = self.tape.right() + 1 if OLD in self.spots else self.tape.left()
        return flag_box(QPointF(left, self.y_of(mm)), self.theme.px(98), self.theme)

    def middle(self, name: str) -> float:
        """Return pixel x of a figure's middle in the view."""
        spot = self.spots[name]
        return spot.axis + (spot.left + spot.right) / 2 * self.mm_px

    def picture_box(self, name: str, made: RenderResult, height: float) -> QRectF:
        """Return the place of the picture of a figure ``height`` mm tall; an older picture is stretched to
        it."""
        stretch = height / made.shot.placement.height * self.mm_px
        picture, spot = made.picture, self.spots[name]
        rows, columns = picture.owner.shape
        base = base_of(made.shot.placement, made.shot.camera)
        return QRectF(
            spot.axis + picture.left * stretch,
            self.ground_y - (picture.top - base) * stretch,
            columns * picture.step * stretch,
            rows * picture.step * stretch,
        )


def lay_out(
    theme: Theme,
    size: tuple[int, int],
    camera: Camera,
    heights: Mapping[str, float],
    extents: Mapping[str, tuple[float, float, float]],
    least_range: float,
) -> TableLayout:
    """Return both figures and the tape in ``size`` px, at the largest scale that fits. ``heights`` are in mm;
    ``extents`` are left, right and top (mm in the view, above the ground); the tape reaches at least
    ``least_range`` mm."""
    px, (width, height) = theme.px, size
    if width < px(TWO_PX):
        extents = {NEW: extents[NEW]}
    ground_y, top_y = height - px(44), px(34)
    range_mm = max(
        max(*heights.values(), *(top for *_, top in extents.values())) * 1.08, least_range
    )
    tape = QRectF(px(22), top_y, px(36), ground_y - top_y)
    start = tape.right() + px(118 if OLD in extents else 70)
    # On the right, room for what is written on the dimension lines, where there is any.
    room = max(60.0, width - start)
    room -= min(px(104), max(px(8), room - px(330)))
    gap = px(34) if width < px(700) else px(56)
    gap = gap if OLD in extents else px(4)
    wide = sum(right - left for left, right, _ in extents.values())
    # Over the figures, room for a dimension line and its words.
    crown = max(top for *_, top in extents.values())
    mm_px = min(
        (ground_y - top_y) / range_mm,
        (ground_y - px(74)) / crown,
        max(20.0, room - gap) / wide,
    )
    range_mm = (ground_y - top_y) / mm_px
    spare = room - gap - wide * mm_px
    x, spots = start + spare * 0.30, {}
    for name, (left, right, _) in extents.items():
        spots[name] = Spot(x - left * mm_px, left, right)
        x += (right - left) * mm_px + gap + spare * 0.20
    return TableLayout(theme, camera, mm_px, range_mm, ground_y, tape, spots)
