"""Converts tape readings, girths and lengths over the surface, into measures.

A tape round an oval reads the perimeter of an ellipse, 4 a E(e), computed by the arithmetic-geometric mean. A
tape along a part reads the length of its surface.
"""

from __future__ import annotations

import math

import numpy as np

from bambola.core.facts import Exact, RefusedError, fact
from bambola.core.figure import Leaf, Shape
from bambola.core.figure.shapes import ChainShape
from bambola.core.figure.survey import How
from bambola.core.solids.forms import chain, profile

_ROUND = {"diameter", "thickness", "base", "tip"}
_OVAL = {"width": "depth", "depth": "width"}
_ALONG = {"length", "height"}


def ellipse_girth(width: float, depth: float) -> float:
    """Return the perimeter (mm) of an ellipse ``width`` by ``depth`` (mm), to machine precision: 2π (M² - Σ
    2^(n-1) c²)/M by the arithmetic-geometric mean of the half axes, after Gauss."""
    a, b = max(width, depth) / 2, min(width, depth) / 2
    if b <= 0:
        return 4 * a
    x, y, total, weight = a, b, a * a + b * b, 1.0
    while abs(x - y) > 1e-15 * a:
        x, y, gap = (x + y) / 2, math.sqrt(x * y), (x - y) / 2
        total -= 2 * weight * gap * gap
        weight *= 2
    return math.pi * total / x


def width_from_girth(girth: float, ratio: float = 1.0) -> float:
    """Return the width (mm) of the oval with this ``girth`` (mm) whose depth is ``ratio`` times its width."""
    return girth / ellipse_girth(1.0, ratio)


def ways_of_taking(shape: Shape, measure: str) -> tuple[How, ...]:
    """Return the ways a measure of a shape can be taken by hand."""
    if measure in _ALONG:
        return ("straight", "over the surface")
    if isinstance(shape, Leaf):
        return ("straight", "over the surface") if measure == "width" else ("straight",)
    return ("straight", "girth", "over the surface")


def across_of(shape: Shape, measure: str) -> float:
    """Return the perpendicular size as a share of ``measure``, which makes the section round or oval."""
    measures = shape.measures()
    other = _OVAL.get(measure)
    return measures[other] / measures[measure] if other in measures else 1.0


def tape_now(shape: Shape, measure: str, how: How) -> float:
    """Return what a tape would read (mm) on ``shape`` for ``measure`` taken ``how``."""
    mm = shape.measures()[measure]
    if how == "girth":
        return ellipse_girth(mm, mm * across_of(shape, measure))
    if how != "over the surface":
        return mm
    if measure in _ALONG:
        return _run_over(shape)
    if isinstance(shape, Leaf):
        return mm + shape.thickness * (math.pi / 2 - 1)
    return ellipse_girth(mm, mm * across_of(shape, measure)) / 2


def _run_over(shape: Shape) -> float:
    """Return the length over the surface from base to tip along the front, mm."""
    if isinstance(shape, ChainShape):
        form = chain(shape)
        # Along the side from where the first round is stoutest, then over the round end to its very tip.
        ends = 0.0 if form.closed else float(form.radii[0] + form.radii[-1])
        return shape.measures()["length"] - ends + math.pi / 2 * float(form.radii[-1])
    if isinstance(shape, Leaf):
        return shape.length + shape.thickness / 2 * (math.pi / 2 - 1)
    form_ = profile(shape)
    return float(np.hypot(np.diff(form_.z), np.diff(form_.half_depth)).sum())


def by_tape(shape: Shape, measure: str, mm: float, how: How) -> dict[str, float]:
    """Return the measures of ``shape`` (mm) that follow from a reading ``mm`` of ``measure`` taken ``how``.

    A girth of an oval keeps its proportion, so width and depth both follow. Raises ``ValueError``
    with one sentence for a reading that no such part can have.
    """
    if how == "girth":
        width = width_from_girth(mm, across_of(shape, measure))
        return _with_other(shape, measure, width)
    if how != "over the surface":
        return {measure: mm}
    if measure in _ALONG:
        return {measure: _from_run(shape, measure, mm)}
    if isinstance(shape, Leaf):
        return {measure: _above_nought(mm - shape.thickness * (math.pi / 2 - 1), mm)}
    return _with_other(shape, measure, width_from_girth(2 * mm, across_of(shape, measure)))


def _with_other(shape: Shape, measure: str, width: float) -> dict[str, float]:
    other = _OVAL.get(measure)
    if other in shape.measures():
        return {measure: width, str(other): width * across_of(shape, measure)}
    return {measure: width}


def _from_run(shape: Shape, measure: str, mm: float) -> float:
    from scipy.optimize import brentq

    def miss(length: float) -> float:
        return _run_over(shape.resized({measure: length})) - mm

    low = shape.least_length(shape.measures()) * (1 + 1e-9) or mm * 1e-3
    high = max(mm, low) + 2 * max(shape.measures().values())
    if miss(low) > 0:
        least = _run_over(shape.resized({measure: low}))
        raise RefusedError(fact("tape.too-flat", mm=Exact(mm), least=Exact(least)))
    return float(brentq(miss, low, high, xtol=1e-9))


def _above_nought(width: float, mm: float) -> float:
    if width <= 0:
        raise RefusedError(fact("tape.too-short", mm=Exact(mm)))
    return width
