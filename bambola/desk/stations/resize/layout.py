"""The layout of the table: geometry, computed again after a change."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import numpy as np
from PyQt6.QtCore import QPointF, QRectF

from bambola.core.relief import Camera
from bambola.core.solids import Copy, Placement
from bambola.desk.kit.painters.marks import flag_box
from bambola.desk.kit.pictures import RenderResult
from bambola.desk.kit.theme import Theme
from bambola.desk.kit.views import base_of
from bambola.language import N_, tr

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


_WORDS = {
    "height": N_("high"),
    "length": N_("long"),
    "width": N_("wide"),
    "depth": N_("deep"),
    "thickness": N_("thick"),
    "diameter": N_("thick"),
}
_BESIDE = 0.4
"""What stands less than this share of a measure above its part is cleared by the line. Judged."""
FORESHORTENED = 0.72
"""A measure seen shorter than this share of itself is left to the card: the line would mislead."""


@dataclass(frozen=True, slots=True)
class DimensionLine:
    """A measure in the view: its ends, the direction and distance (mm) to move the line clear, and its text.
    ``across`` means that other parts lie that way, so it is drawn over the part itself."""

    measure: str
    mm: float
    word: str
    start: tuple[float, float]
    end: tuple[float, float]
    away: tuple[float, float]
    clear: float
    across: bool


def part_dimensions(
    placement: Placement, part: str, camera: Camera, rightmost: float | None = None
) -> Iterator[DimensionLine]:
    """Yield dimension lines for the copy of ``part`` furthest to the right in the view. ``rightmost`` is the
    reach of the whole figure that way (mm), if known."""
    right, up, _ = camera.axes()
    copies = placement.copies_of(part)
    if not copies:
        return
    copy = max(copies, key=lambda c: float(c.matrix[:3, 3] @ right))
    measures = copy.shape.measures()
    if rightmost is None:
        rightmost = max(c.reach(right) for c in placement.copies)
    highest = placement.top if camera.tip < 60 else max(c.reach(up) for c in placement.copies)
    for measure, start, end in _own_axes(copy):
        a = (float(start @ right), float(start @ up))
        b = (float(end @ right), float(end @ up))
        seen = float(np.hypot(b[0] - a[0], b[1] - a[1]))
        if seen < FORESHORTENED * float(np.linalg.norm(end - start)):
            continue
        upright = abs(b[1] - a[1]) >= abs(b[0] - a[0])
        centre = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
        across = False
        if upright:
            # Beside the whole figure: over an arm or a lantern it would be lost.
            away, clear = (1.0, 0.0), rightmost - centre[0]
        else:
            # Clear of what sits on it and stands up, such as ears; what towers over it is not gone round.
            sitting = (c.reach(up) for c in placement.copies if c.part.parent == part)
            beside = max(sitting, default=copy.reach(up))
            top = max(copy.reach(up), beside if beside - copy.reach(up) < _BESIDE * seen else 0.0)
            away, clear = (0.0, 1.0), top - centre[1]
            across = top < highest - 0.12 * seen
        word = tr(_WORDS.get(measure, measure))
        yield DimensionLine(measure, measures[measure], word, a, b, away, max(0.0, clear), across)


def _own_axes(copy: Copy) -> Iterator[tuple[str, np.ndarray, np.ndarray]]:
    """Yield the ends (3,) of the measures along the part's own axes, in the figure's."""
    measures = copy.shape.measures()
    along = next((n for n in ("height", "length") if n in measures), None)
    if along and copy.shape.straight:
        yield along, copy.point(0.0), copy.point(1.0)
    if "width" in measures:
        middle, turn = copy.point(copy.shape.fullest_at), copy.matrix[:3, :3]
        half = measures["width"] / 2
        yield "width", middle - turn[:, 0] * half, middle + turn[:, 0] * half
