"""The elements of a step's picture: outlines, measures and needles in millimetres, y upwards, for any
renderer. Every number in it is a slot of the step's card."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

import numpy as np

from bambola.core.facts import NOTHING, Fact
from bambola.core.figure import Part
from bambola.core.frozen import frozen
from bambola.core.methods.at import StepInPlan
from bambola.core.solids.forms import Array
from bambola.core.solids.lengthwise import NEAR_END

Fill = Literal["wool", "core", "under", "paper", "none"]
"""The wool in hand, a core, what lies under it, bare paper, nothing."""
Stroke = Literal["skin", "hidden", "cut", "wire", "thread", "hair", "ground"]
Point = tuple[float, float]


@frozen
class DrawnArea:
    """A closed outline (n, 2)."""

    points: Array
    fill: Fill
    stroke: Stroke = "skin"


@frozen
class DrawnLine:
    """An open line (n, 2); ``mm`` is its real thickness, 0 for a pen line."""

    points: Array
    stroke: Stroke
    mm: float = 0.0


@frozen
class Measure:
    """A number along the thing it measures, from ``a`` to ``b``; ``away`` moves its line aside, mm."""

    a: Point
    b: Point
    told: Fact
    away: float = 0.0


@frozen
class Needle:
    """A needle with its tip at ``tip``, come from ``angle`` degrees (0 from the right, 90 from above), in by
    ``depth`` mm."""

    tip: Point
    angle: float
    depth: float
    told: Fact = NOTHING


@frozen
class Number:
    """The place where sentence ``n`` of the card happens."""

    at: Point
    n: int


Piece = DrawnArea | DrawnLine | Measure | Needle | Number


@frozen
class StepDrawing:
    """A step's picture, background first."""

    pieces: tuple[Piece, ...]

    @property
    def box(self) -> tuple[float, float, float, float]:
        """Left, low, right and high of everything drawn except numbers and the shafts of needles, mm."""
        points = np.vstack([_reach_of(piece) for piece in self.pieces])
        (left, low), (right, high) = points.min(axis=0), points.max(axis=0)
        return float(left), float(low), float(right), float(high)


def _reach_of(piece: Piece) -> Array:
    match piece:
        case DrawnArea(points=points) | DrawnLine(points=points):
            return points
        case Measure(a=a, b=b):
            return np.array([*(clear_of_thing(piece)), a, b])
        case Needle(tip=tip):
            return np.array([tip])
        case Number(at=at):
            return np.array([at])


def clear_of_thing(measure: Measure) -> tuple[Point, Point]:
    """Return the ends of a measure's line, moved clear of the thing."""
    (ax, ay), (bx, by) = measure.a, measure.b
    long = math.hypot(bx - ax, by - ay) or 1.0
    dx, dy = -(by - ay) / long * measure.away, (bx - ax) / long * measure.away
    return (ax + dx, ay + dy), (bx + dx, by + dy)


def oval(
    wide: float, high: float, at: Point = (0.0, 0.0), turns: float = 1.0, start: float = 0.0
) -> Array:
    """Return an ellipse (or a share of one, from ``start`` degrees on) about ``at``."""
    t = np.linspace(0, 2 * np.pi * turns, 97) + math.radians(start)
    return np.column_stack([at[0] + wide / 2 * np.cos(t), at[1] + high / 2 * np.sin(t)])


def rod(long: float, thick: float, at: Point = (0.0, 0.0)) -> Array:
    """Return a lying sausage with round ends about ``at``; one as long as thick is a ball."""
    half = max(0.0, (long - thick) / 2)
    t = np.linspace(-np.pi / 2, np.pi / 2, 33)
    right = np.column_stack([half + thick / 2 * np.cos(t), thick / 2 * np.sin(t)])
    both: Array = np.vstack([right, -right]) + np.array(at)
    return both


def tapered(long: float, base: float, middle: float, tip: float) -> Array:
    """Return a lying limb with round ends, its base at the left, with these thicknesses at base, middle and
    tip."""
    x = long / 2 * -np.cos(np.linspace(0.0, np.pi, 49))
    thick = np.interp(
        x, np.array([NEAR_END - 0.5, 0.0, 0.5 - NEAR_END]) * long, (base, middle, tip)
    )
    ends = np.where(x < 0, base, tip) / 2
    into = np.minimum(np.clip(long / 2 - np.abs(x), 0.0, None), ends)
    half = thick / 2 * np.sqrt(np.clip(1 - (1 - into / np.maximum(ends, 1e-9)) ** 2, 0.0, 1.0))
    both: Array = np.vstack([np.column_stack([x, half]), np.column_stack([x, -half])[::-1]])
    return both


def box(wide: float, high: float, at: Point = (0.0, 0.0)) -> Array:
    """Return a rectangle about ``at``."""
    x, y = wide / 2, high / 2
    corners: Array = np.array([(-x, -y), (x, -y), (x, y), (-x, y)]) + np.array(at)
    return corners


def line(*points: Point) -> Array:
    """Return a line through ``points``."""
    return np.array(points, dtype=float)


def cone(long: float, wide: float, narrow: float = 0.0) -> Array:
    """Return a lying cone, its base at the left."""
    return np.array(
        [
            (-long / 2, -wide / 2),
            (long / 2, -narrow / 2),
            (long / 2, narrow / 2),
            (-long / 2, wide / 2),
        ]
    )


def rolled_outline(form: str, sizes: Sequence[float]) -> Array:
    """Return a rolled form lying as it is rolled: its length across the page."""
    along, across = sizes[0], sizes[1]
    if form == "sausage" and along >= across:
        return rod(along, across)
    if form == "cone":
        return cone(along, across, across * 0.3)
    if form == "sheet":
        return box(along, across)
    return oval(across, along)


def fringe(at: Point, wide: float, long: float, way: float = -90.0, hairs: int = 15) -> list[Piece]:
    """Return loose hairs as long as ``long`` along an edge ``wide``, pointing ``way`` degrees."""
    a = math.radians(way)
    across = np.array([-math.sin(a), math.cos(a)])
    found: list[Piece] = []
    for share in np.linspace(-0.5, 0.5, hairs):
        start = np.array(at) + across * share * wide
        spread = math.radians(way + 50 * share)
        end = start + long * np.array([math.cos(spread), math.sin(spread)])
        found.append(DrawnLine(np.array([start, end]), "hair"))
    return found


_ON_ITSELF = frozenset({"inset", "face", "fur"})
"""What is laid on the part itself, and not where that is joined."""
CORE, WOOL = "#EDE4D2", "#DDD2BF"
"""Undyed wool, as a core is, and as a part of no wool is shown."""


def fills_of(at: StepInPlan, paper: str) -> dict[str, str]:
    """Return the fill of each kind of outline: the wool in hand, and the coat of the bearer."""
    figure = at.plan.resized.figure
    part = figure.by_id.get(at.row.id) if at.step.part else None
    parent = figure.by_id.get(part.parent) if part and part.parent else part
    under = part if at.sort in _ON_ITSELF else parent

    def coat(of: Part | None) -> str:
        return at.bench.colours[of.coat.wool if of.coat else of.core] if of else WOOL

    return {
        "wool": at.wool.colour if at.wool else coat(part),
        "core": CORE,
        "under": coat(under),
        "paper": paper,
        "none": "none",
    }
