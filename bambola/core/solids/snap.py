"""Shapes on a common grid, so that one scaled there and back is recognised as the same value."""

from __future__ import annotations

from bambola.core.figure.shapes import Limb, Rope, Shape, Turned

GRID = 1e-6
"""Sizes and places are compared on this grid (mm): far below a fibre."""


def snapped(shape: Shape) -> Shape:
    """The shape on the comparison grid, so that scaling there and back gives an equal value."""
    if isinstance(shape, Limb):
        return shape.replaced(
            joints=tuple(
                j.replaced(**{k: _snap(getattr(j, k)) for k in ("x", "y", "z", "diameter")})
                for j in shape.joints
            )
        )
    if isinstance(shape, Rope):
        points = tuple((_snap(x), _snap(y), _snap(z)) for x, y, z in shape.points)
        return shape.replaced(points=points, thickness=_snap(shape.thickness))
    if isinstance(shape, Turned):
        stations = tuple(
            st.replaced(width=_snap(st.width), depth=_snap(st.depth)) for st in shape.stations
        )
        return shape.replaced(length=_snap(shape.length), stations=stations)
    return shape.replaced(**{name: _snap(mm) for name, mm in shape.measures().items()})


def _snap(value: float) -> float:
    return round(value / GRID) * GRID
