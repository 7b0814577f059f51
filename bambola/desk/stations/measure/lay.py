"""The mapping between millimetres and the board."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QTransform

from bambola.core.figure import Framing


@dataclass(frozen=True, slots=True)
class Lay:
    """``scale`` is pixels a mm; ``x``, ``y`` is the place of u = 0, v = 0 on the board."""

    scale: float
    x: float
    y: float

    def to_screen(self, u: float, v: float) -> QPointF:
        """Return a place in mm in pixels of the board."""
        return QPointF(self.x + u * self.scale, self.y - v * self.scale)

    def to_mm(self, at: QPointF) -> tuple[float, float]:
        """Return a place on the board in mm."""
        return (at.x() - self.x) / self.scale, (self.y - at.y()) / self.scale


def fit_box(box: tuple[float, float, float, float], area: QRectF) -> Lay:
    """Return the mapping that shows ``box`` (left, bottom, right, top in mm) as large as ``area`` allows."""
    left, bottom, right, top = box
    wide, high = max(right - left, 1e-6), max(top - bottom, 1e-6)
    scale = min(area.width() / wide, area.height() / high)
    x = area.center().x() - (left + right) / 2 * scale
    y = area.center().y() + (bottom + top) / 2 * scale
    return Lay(scale, x, y)


def zoomed(lay: Lay, at: QPointF, factor: float) -> Lay:
    """Return the mapping ``lay`` enlarged by ``factor`` about a place on the board."""
    scale = min(max(lay.scale * factor, 0.02), 400.0)
    f = scale / lay.scale
    return Lay(scale, at.x() + (lay.x - at.x()) * f, at.y() + (lay.y - at.y()) * f)


def picture_box(framing: Framing) -> tuple[float, float, float, float]:
    """Return left, bottom, right and top (mm) of the visible part of a picture."""
    left, top, right, bottom = framing.crop or (
        0.0,
        0.0,
        float(framing.width),
        float(framing.height),
    )
    (u1, v1), (u2, v2) = framing.to_mm(left, top), framing.to_mm(right, bottom)
    return min(u1, u2), min(v1, v2), max(u1, u2), max(v1, v2)


def picture_to_screen(framing: Framing, lay: Lay) -> QTransform:
    """Return the transform from pixels of the picture file to the board."""

    def at(x: float, y: float) -> QPointF:
        return lay.to_screen(*framing.to_mm(*framing.straightened(x, y)))

    o, a, b = at(0, 0), at(1, 0), at(0, 1)
    return QTransform(a.x() - o.x(), a.y() - o.y(), b.x() - o.x(), b.y() - o.y(), o.x(), o.y())
