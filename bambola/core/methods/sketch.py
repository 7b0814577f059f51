"""Measures and needles as most pictures use them."""

from __future__ import annotations

from collections.abc import Sequence

from bambola.core.facts import Degrees, Fact, Mm, fact
from bambola.core.methods.drawing import Measure, Needle, Piece, Point
from bambola.core.methods.values import NeedleRun


def length(mm: float) -> Fact:
    """Return a length as text on a thing."""
    return fact("drawn.length", mm=Mm(mm))


def across(left: Point, right: Point, mm: float, away: float = 0.0) -> Measure:
    """Return a measure along a thing."""
    return Measure(left, right, length(mm), away)


def sides(sizes: Sequence[float], wide: float, high: float, clear: float) -> list[Piece]:
    """Return measures of the two sides of something ``wide`` and ``high`` about the middle."""
    return [
        across((-wide / 2, -high / 2), (wide / 2, -high / 2), sizes[0], -clear),
        across((wide / 2, -high / 2), (wide / 2, high / 2), sizes[1], -clear),
    ]


def stab(tip: Point, run: NeedleRun, angle: float) -> Needle:
    """Return a needle of a run, from ``angle`` degrees."""
    told = fact(
        "drawn.needle", gauge=run.gauge, depth=Mm(run.depth_mm), angle=Degrees(run.angle_deg)
    )
    return Needle(tip, angle, run.depth_mm, told)


def at_ends(
    x: float, taper: tuple[float, float, float], before: float, beyond: float
) -> tuple[Measure, Measure]:
    """Return measures of the thickness near base and tip, ``x`` from the middle, of something lying left to
    right."""
    base, _, tip = taper
    return (
        across((-x, -base / 2), (-x, base / 2), base, before),
        across((x, -tip / 2), (x, tip / 2), tip, beyond),
    )
