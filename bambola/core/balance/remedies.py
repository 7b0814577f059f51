"""What would make a figure stand: bigger feet, weight low down, a third contact, a stand.

Of each the least is computed that lets the figure lean by the wished angle in every direction.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

import numpy as np

from bambola.core.frozen import frozen

MOST_GROWTH = 4.0
"""Feet are not proposed larger than so many times their size, nor ballast heavier than the figure
times this. See craft.md, 4."""
_TURNS = np.radians(np.arange(0, 360, 1.0))
WAYS = np.column_stack([np.cos(_TURNS), np.sin(_TURNS)])
"""Ways on the ground that are looked along, a degree apart, (360, 2). Between two of them a hull
reaches less by under a five thousandth."""
BISECTIONS = 14
"""Halvings of a search: a sixteen thousandth of its range."""
BALLAST_HEIGHT = 0.12
"""Ballast lies this share of the height above the ground, in the lowest wool that has room. Judged.
See craft.md, 4."""


@frozen
class Remedy:
    """One way to make a figure steady. ``value`` is a factor for feet, or its underside where there are none,
    g for ballast, mm otherwise.

    ``at_mm`` is where on the ground (x, y) it goes, for a contact or a stand.
    """

    kind: Literal["feet", "underside", "ballast", "contact", "stand"]
    value: float
    at_mm: tuple[float, float] | None = None


def remedies(
    prints: Sequence[np.ndarray],
    centre: tuple[float, float, float],
    grams: float,
    height: float,
    wished_deg: float,
    footed: bool = True,
) -> tuple[Remedy, ...]:
    """Return the least of each remedy by which the figure bears a lean of ``wished_deg`` every way.

    ``prints`` are the outlines (n, 2) of what bears on the ground, ``centre`` that of its ``grams``
    (mm, from the ground), ``height`` the figure's own; one that is not ``footed`` sits on itself. A remedy
    that cannot do it is left out.

    A figure bears the lean if a circle of radius ``need`` about its plumb point lies within the hull of
    its contacts, that is, if the hull reaches that far every way.
    """
    point, high = np.array(centre[:2]), centre[2]
    need = high * math.tan(math.radians(wished_deg))
    found: list[Remedy | None] = []
    if prints:
        middles = np.array([(outline.min(axis=0) + outline.max(axis=0)) / 2 for outline in prints])
        # How far each contact reaches along every way: from the plumb point and from its own middle.
        own = np.stack(
            [((o - m) @ WAYS.T).max(axis=0) for o, m in zip(prints, middles, strict=True)]
        )
        apart = (middles - point) @ WAYS.T
        reach = (apart + own).max(axis=0)
        found += [
            _larger(own, apart, need, footed),
            _ballast(reach, middles.mean(axis=0) - point, need, high, height, grams),
            _third(reach, need, height),
        ]
    # A round base under the plumb point does it whatever the feet are; the feet must stand on it.
    far = max((float(np.linalg.norm(o - point, axis=1).max()) for o in prints), default=0.0)
    found.append(Remedy("stand", 2 * max(need, far), (0.0, 0.0)))
    x, y = centre[0], centre[1]
    return tuple(
        replace(r, at_mm=(r.at_mm[0] + x, r.at_mm[1] + y)) if r.at_mm else r for r in found if r
    )


def _larger(own: np.ndarray, apart: np.ndarray, need: float, footed: bool) -> Remedy | None:
    """Return the factor by which all contacts must grow about their middle for one of them to reach far
    enough in every direction."""
    with np.errstate(divide="ignore", invalid="ignore"):
        factor = np.where(own > 1e-9, (need - apart) / own, np.inf).min(axis=0).max()
    kind: Literal["feet", "underside"] = "feet" if footed else "underside"
    return Remedy(kind, max(1.0, float(factor))) if factor <= MOST_GROWTH else None


def _ballast(
    reach: np.ndarray, over: np.ndarray, need: float, high: float, height: float, grams: float
) -> Remedy | None:
    """Return the grams at the bottom, over the middle of the feet, that move the centre down and inwards
    enough."""
    low, along = height * BALLAST_HEIGHT, WAYS @ over

    def steady(extra: float) -> bool:
        share = extra / (grams + extra)
        lowered = 1 + (low - high) / high * share
        return bool((reach - share * along >= need * lowered).all())

    least, most = 0.0, MOST_GROWTH * grams
    if not steady(most):
        return None
    for _ in range(BISECTIONS):
        middle = (least + most) / 2
        least, most = (least, middle) if steady(middle) else (middle, most)
    return Remedy("ballast", most, (float(over[0]), float(over[1])))


def _third(reach: np.ndarray, need: float, height: float) -> Remedy | None:
    """Return the nearest sufficient place for one more contact.

    A contact at distance t and heading θ reaches t cos(φ - θ) along φ, so its distance is set by the worst
    direction in which the feet alone fall short.
    """
    short = WAYS[reach < need]
    if not len(short):
        return None
    facing = WAYS[::3] @ short.T
    with np.errstate(divide="ignore"):
        far = np.where(facing > 1e-9, need / facing, np.inf).max(axis=1)
    best = int(far.argmin())
    if far[best] > 2 * height:
        return None
    x, y = (WAYS[::3][best] * far[best]).tolist()
    return Remedy("contact", float(far[best]), (x, y))
