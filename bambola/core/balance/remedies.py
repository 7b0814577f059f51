"""What would make a figure stand: bigger feet, weight low down, a third contact, a stand.

Each is computed: the least of it that lets the figure lean by the wished angle in every direction.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from bambola.core.balance.ground import hull_of

MOST_GROWTH = 4.0
"""Feet are not proposed larger than so many times their size, nor ballast heavier than the figure
times this."""
_TURNS = np.radians(np.arange(0, 360, 0.5))
WAYS = np.column_stack([np.cos(_TURNS), np.sin(_TURNS)])
"""Ways on the ground that are looked along, half a degree apart, (720, 2)."""
BISECTIONS = 18
"""Halvings of a search: a two hundred thousandth of its range."""
BALLAST_HEIGHT = 0.12
"""Ballast lies this share of the height above the ground, in the lowest wool that has room. Judged."""


@dataclass(frozen=True, slots=True)
class Remedy:
    """One way to make a figure steady. ``value`` is a factor for feet, g for ballast, mm otherwise.

    ``at_mm`` is where on the ground (x, y) it goes, for a contact or a stand.
    """

    kind: Literal["feet", "ballast", "contact", "stand"]
    value: float
    at_mm: tuple[float, float] | None = None


def remedies(
    prints: Sequence[np.ndarray],
    centre: tuple[float, float, float],
    grams: float,
    height: float,
    wished_deg: float,
) -> tuple[Remedy, ...]:
    """The least of each remedy by which the figure bears a lean of ``wished_deg`` every way.

    ``prints`` are the outlines (n, 2) of what bears on the ground, ``centre`` that of its ``grams``
    (mm, from the ground), ``height`` the figure's own. A remedy that cannot do it is left out.
    """
    found: list[Remedy] = []
    point, high = np.array(centre[:2]), centre[2]
    slope = math.tan(math.radians(wished_deg))
    if prints:
        middles = [_middle(outline) for outline in prints]

        def grown(k: float) -> float:
            feet = [m + (o - m) * k for o, m in zip(prints, middles, strict=True)]
            return _inside(np.vstack(feet), point) - high * slope

        factor = _least(grown, 1.0, MOST_GROWTH)
        if factor is not None:
            found.append(Remedy("feet", factor))
        hull = hull_of(prints)
        low, over = height * BALLAST_HEIGHT, np.mean(middles, axis=0)

        def weighted(extra: float) -> float:
            share = extra / (grams + extra)
            at = point + (over - point) * share
            return _inside(hull, at) - (high + (low - high) * share) * slope

        ballast = _least(weighted, 0.0, MOST_GROWTH * grams)
        if ballast is not None:
            found.append(Remedy("ballast", ballast, (float(over[0]), float(over[1]))))
        third = _third(hull, point, high * slope, height)
        if third is not None:
            found.append(third)
    # A round base under the plumb point does it whatever the feet are; the feet must stand on it.
    reach = max((float(np.linalg.norm(o - point, axis=1).max()) for o in prints), default=0.0)
    radius = max(high * slope, reach)
    found.append(Remedy("stand", 2 * radius, (float(point[0]), float(point[1]))))
    return tuple(found)


def _third(feet: np.ndarray, point: np.ndarray, need: float, height: float) -> Remedy | None:
    """Where one more contact must be: the nearest place that is enough.

    A circle of radius ``need`` about the plumb point lies in the hull if the hull reaches that far every
    way. A contact at distance t and heading θ reaches t cos(φ - θ) along φ, so it must be as far as the
    worst of the ways in which the feet alone fall short asks.
    """
    short = WAYS[_reach(feet, point) < need]
    if not len(short):
        return None
    facing = WAYS @ short.T
    with np.errstate(divide="ignore"):
        far = np.where(facing > 1e-9, need / facing, np.inf).max(axis=1)
    best = int(far.argmin())
    if far[best] > 2 * height:
        return None
    x, y = (point + WAYS[best] * far[best]).tolist()
    return Remedy("contact", float(far[best]), (x, y))


def _reach(points: np.ndarray, at: np.ndarray) -> np.ndarray:
    """How far the hull of ``points`` (n, 2) reaches from ``at`` along each of :data:`WAYS`, mm."""
    found: np.ndarray = ((points - at) @ WAYS.T).max(axis=0)
    return found


def _least(enough: Callable[[float], float], low: float, high: float) -> float | None:
    """The least value from ``low`` to ``high`` at which ``enough`` is not negative; it rises."""
    if enough(high) < 0:
        return None
    if enough(low) >= 0:
        return low
    for _ in range(BISECTIONS):
        middle = (low + high) / 2
        low, high = (low, middle) if enough(middle) >= 0 else (middle, high)
    return high


def _middle(outline: np.ndarray) -> np.ndarray:
    found: np.ndarray = (outline.min(axis=0) + outline.max(axis=0)) / 2
    return found


def _inside(points: np.ndarray, at: np.ndarray) -> float:
    """How far inside the hull of ``points`` a point lies, mm; negative outside.

    The least reach: of a hull round the point that is the distance of its nearest edge, here to a
    twenty thousandth, since the ways are half a degree apart.
    """
    return float(_reach(points, at).min())
