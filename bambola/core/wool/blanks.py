"""Blanks: the outline to lay wool to for a flat part, before it is felted.

A sheet shrinks in both its directions, its crisp edges are folded over, the edge that is joined keeps
a fringe, and a point loses about one thickness. So the blank is the finished outline, made longer by
a lost point, divided by the shrinkage of a sheet, with margins round it.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import manifold3d as m3
import numpy as np

from bambola.core.bench.wools import SHRINK_ALONG
from bambola.core.figure import Leaf
from bambola.core.solids.forms import Array, leaf_outline

FOLD_MM = 6.0
FOLD_SHARE = 0.15
"""A crisp edge is folded over by 6 mm, or by 15 % of the width if that is more. See craft.md, 7."""
POINTED_DEG = 90.0
"""A tip narrower than this is a point and loses one thickness. Judged. See craft.md, 7."""
_ROUND = 256
"""Corners of a full turn in a rounded margin."""


@dataclass(frozen=True)
class Blank:
    """Outlines (n, 2) in mm, x across and y from the joined edge (0) to the tip. ``finished`` is the part
    itself, ``fold`` the line to fold at (the part before it shrinks), ``outline`` the area to lay. ``shrink``
    is the share of the blank's length left after felting."""

    finished: Array
    fold: Array
    outline: Array
    margin_mm: float
    fringe_mm: float
    shrink: float

    @property
    def area_mm2(self) -> float:
        """Area of the wool that is laid."""
        return area_of(self.outline)


def blank_of(
    leaf: Leaf,
    start_density: float,
    packed_density: float,
    fringe_mm: float,
    along: float = SHRINK_ALONG["sheet"],
) -> Blank:
    """Return the blank of a flat part; densities in g/cm³. ``along`` is the weight of its shrinkage both
    along and across."""
    q = start_density / packed_density
    finished = leaf_outline(leaf)
    drawn = finished * [1.0, 1.0 + (leaf.thickness / leaf.length if is_pointed(finished) else 0.0)]
    fold = drawn / q**along
    width = float(np.ptp(fold[:, 0]))
    margin = max(FOLD_MM, FOLD_SHARE * width)
    laid = m3.CrossSection([fold]).offset(margin, m3.JoinType.Round, 2.0, _ROUND)
    far = 4 * (width + margin + float(fold[:, 1].max()) + fringe_mm)
    above = laid ^ m3.CrossSection.square((2 * far, far)).translate((-far, 0.0))
    low, high = _base_of(above)
    fringe = m3.CrossSection.square((high - low, fringe_mm)).translate((low, -fringe_mm))
    # A hair of overlap, so that the two become one outline.
    joined = above + fringe + m3.CrossSection.square((high - low, 2e-6)).translate((low, -1e-6))
    runs = joined.to_polygons()
    outline = np.asarray(max(runs, key=lambda run: abs(area_of(np.asarray(run)))), dtype=np.float64)
    return Blank(finished, fold, outline, margin, fringe_mm, q**along)


def is_pointed(outline: Array) -> bool:
    """Return whether an outline ends in a point: its tip is narrower than a right angle.

    Measured over the last tenth of its length, since outlines are smoothed.
    """
    top = float(outline[:, 1].max())
    below = outline[outline[:, 1] >= 0.9 * top]
    wide = float(np.ptp(below[:, 0]))
    return math.degrees(2 * math.atan2(wide / 2, 0.1 * top)) < POINTED_DEG


def _base_of(section: m3.CrossSection) -> tuple[float, float]:
    """Return the ends of the edge of a section on y = 0."""
    points = np.vstack([np.asarray(run) for run in section.to_polygons()])
    on_base = points[points[:, 1] < 1e-6, 0]
    return float(on_base.min()), float(on_base.max())


def area_of(outline: Array) -> float:
    """Return the area of a closed run of points (n, 2), mm² (shoelace)."""
    x, y = outline.T
    return abs(float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum())) / 2
