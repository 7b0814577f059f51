"""One kind of shape as another of about the same size: what the maker meant, not what was proposed."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from bambola.core.figure.shapes import (
    Ball,
    Cone,
    Joint,
    Leaf,
    Limb,
    Pad,
    Rope,
    Sausage,
    Shape,
    Station,
    Turned,
)  # fmt: skip

KINDS: dict[str, str] = {
    "ball": "ball or egg", "sausage": "sausage", "cone": "cone", "limb": "limb", "pad": "pad",
    "leaf": "flat, like a leaf", "rope": "rope", "turned": "turned",
}  # fmt: skip
"""Every kind of shape, in a maker's words."""


_LIMB_TIP, _ROPE_TIP = 0.8, 0.6


def as_kind(shape: Shape, kind: str) -> Shape:
    """``shape`` as a ``kind`` as long, wide and deep as it is."""
    measures = shape.measures()
    run = measures.get("height") or measures["length"]
    wide = next(measures[n] for n in ("width", "diameter", "base", "thickness") if n in measures)
    deep = measures.get("depth", measures.get("thickness", wide))
    makers: Mapping[str, Shape] = {
        "ball": Ball(width=wide, depth=deep, height=run),
        "pad": Pad(width=wide, depth=deep, height=run),
        "sausage": Sausage(length=max(run, wide), diameter=wide),
        "cone": Cone(length=max(run, 1.01 * wide), base=wide, tip=0.4 * wide),
        "limb": Limb(
            joints=_joints(shape, max(run - (1 + _LIMB_TIP) / 2 * wide, 0.1 * wide), wide)
        ),
        "rope": Rope(
            points=_points(shape, max(run - (1 + _ROPE_TIP) / 2 * wide, 0.1 * wide)),
            thickness=wide,
            tip=_ROPE_TIP,
        ),
        "leaf": Leaf(length=run, width=wide, thickness=min(deep, 0.25 * min(run, wide))),
        "turned": Turned(length=run, stations=_stations(wide, deep)),
    }
    return makers[kind]


def _points(shape: Shape, run: float) -> tuple[tuple[float, float, float], ...]:
    if isinstance(shape, Limb):
        return tuple((j.x, j.y, j.z) for j in shape.joints)
    if isinstance(shape, Rope):
        return shape.points
    return ((0.0, 0.0, 0.0), (0.0, 0.0, run / 2), (0.0, 0.0, run))


def _joints(shape: Shape, run: float, wide: float) -> tuple[Joint, ...]:
    if isinstance(shape, Limb):
        return shape.joints
    points = _points(shape, run)
    tip = shape.tip if isinstance(shape, Rope) else _LIMB_TIP
    shares = np.linspace(1.0, tip, len(points))
    return tuple(
        Joint(x=x, y=y, z=z, diameter=float(wide * share))
        for (x, y, z), share in zip(points, shares, strict=True)
    )


def _stations(wide: float, deep: float) -> tuple[Station, ...]:
    """The outline of an egg, to be pulled into another."""
    along = (0.0, 0.1, 0.3, 0.5, 0.7, 0.9, 1.0)
    return tuple(
        Station(
            along=t, width=wide * 2 * (t * (1 - t)) ** 0.5, depth=deep * 2 * (t * (1 - t)) ** 0.5
        )
        for t in along
    )
