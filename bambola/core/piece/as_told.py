"""The shape of a piece by the sizes that its cards tell, for the picture of the figure as it grows."""

from __future__ import annotations

import numpy as np

from bambola.core.figure import Shape
from bambola.core.figure.shapes import Ball, Cone, Joint, Limb, Rope, Turned
from bambola.core.figure.shapes.profile import Station
from bambola.core.piece.state import PieceState, Size3
from bambola.core.solids import CopySolid
from bambola.core.solids.forms import Array, chain, profile
from bambola.core.solids.lengthwise import NEAR_END, line_mm
from bambola.core.solids.placement import GRID, Copy

_TOLD_AT = np.array([NEAR_END, 0.5, 1 - NEAR_END])
"""Where base, middle and tip of a piece are measured, as shares of its length."""
_ENDS_FREE = 0.3
"""A limb that ends nearer than this share of its tip's radius to where it is drawn to ends in a round tip;
one that ends before goes into what caps it. Judged. See craft.md, 10."""
_SECTIONS = 24
"""Sections of a turned form: its outline is then off by less than a hundredth of its width. Derived."""


def shape_as_told(copy: Copy, solid: CopySolid, piece: PieceState, finished: Size3) -> Shape:
    """Return the shape of ``piece``, a copy of a part, with the lengths and widths its card tells; in the end
    it is ``finished`` (length, width and thickness, mm).

    Its place and the bend of its line are as drawn. Sheets and turned forms have templates, sausages and pads
    are told by name, and parts built up in place have no line: they are the drawn shape, scaled down while
    the piece is smaller. Rings and shells, which are made unrolled, are shown as worn.
    """
    shape = copy.shape
    if piece.section == "ring" or solid.is_shell:
        return shape
    if isinstance(shape, Limb | Rope) and not chain(shape).closed:
        return _limb_as_told(shape, solid.seen.begins, piece)
    if isinstance(shape, Ball | Cone) and not solid.seen.is_flat:
        return _turned_as_told(shape, solid.seen.begins, piece)
    told, measures = piece.size_mm.values(), shape.measures()
    sides = zip(shape.axes, told, finished, strict=True)
    smaller = {side: measures[side] * min(1.0, mm / full) for side, mm, full in sides if full > 0}
    made: Shape = shape.resized(smaller)
    return made


def _limb_as_told(shape: Limb | Rope, begins: float, piece: PieceState) -> Limb:
    """Return a limb along the line of ``shape`` that ``begins`` there (mm), with the told length and
    thicknesses at base, middle and tip."""
    form = chain(shape)
    ends = begins + piece.size_mm["length"]
    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(form.points, axis=0), axis=1))])
    first, whole = float(form.radii[0]), line_mm(shape)
    base, middle, tip = (mm / 2 for mm in piece.across_mm)
    at = begins + _TOLD_AT * piece.size_mm["length"]
    if ends > whole - _ENDS_FREE * float(form.radii[-1]):
        tip = _rounded_end_radius(tip, ends - float(at[2]))
        ends -= tip
    ends = min(ends, whole - tip)
    if begins < first / 2:
        base = _rounded_end_radius(base, float(at[0]))
    begins = min(max(begins, base), (begins + ends) / 2)
    ends = max(ends, begins + GRID)
    bends = first + run
    places = np.unique(np.concatenate([
        [begins, ends], bends[(bends > begins) & (bends < ends)], at[(at > begins) & (at < ends)],
    ]))  # fmt: skip
    radii = _interpolate_radii(places, at, (base, middle, tip))
    points = _points_along(form.points, run, places - first)
    return Limb.model_construct(
        joints=tuple(
            Joint.model_construct(x=x, y=y, z=z, diameter=2 * r)
            for (x, y, z), r in zip(points.tolist(), radii.tolist(), strict=True)
        )
    )


def _rounded_end_radius(half: float, far: float) -> float:
    """Return the radius of a round end that is ``half`` thick at ``far`` mm from its tip."""
    return half if far >= half else (half**2 + far**2) / (2 * far)


def _interpolate_radii(places: Array, at: Array, told: tuple[float, float, float]) -> Array:
    """Return radii (n,) at ``places``, interpolated linearly through those ``told`` ``at`` three of them;
    none is thinner than a tenth of the thickest."""
    base, middle, tip = told
    slopes = (middle - base) / (at[1] - at[0]), (tip - middle) / (at[2] - at[1])
    radii: Array = middle + np.where(places < at[1], *slopes) * (places - at[1])
    return np.maximum(radii, 0.1 * max(told))


def _points_along(points: Array, run: Array, places: Array) -> Array:
    """Return points (k, 3) at ``places`` (k,) mm along a line through ``points`` (n, 3), extended straight
    beyond its ends; ``run`` (n,) is the position of each point along the line."""
    i = np.clip(np.searchsorted(run, places, side="right") - 1, 0, len(run) - 2)
    ways = np.diff(points, axis=0)[i] / np.maximum(np.diff(run)[i], GRID)[:, None]
    found: Array = points[i] + ways * (places - run[i])[:, None]
    return found


def _turned_as_told(shape: Ball | Cone, begins: float, piece: PieceState) -> Turned:
    """Return a turned form whose squared widths run through those told at base, middle and tip; for a ball or
    an egg that is its outline. The hidden lower part is as drawn."""
    form = profile(shape)
    length, deep = piece.size_mm["length"], piece.size_mm["thickness"] / piece.size_mm["width"]
    ends = begins + length
    at = begins + _TOLD_AT * length
    squares = np.polynomial.Polynomial.fit(at, np.square(piece.across_mm), 2)
    share = (1 - np.cos(np.linspace(0.0, np.pi, _SECTIONS))) / 2
    z = share * ends
    drawn = 2 * np.interp(z, form.z, form.half_width)
    widths = np.where(z < begins, drawn, np.sqrt(np.maximum(0.0, squares(z))))
    if form.half_width[-1] < GRID:
        widths[-1] = 0.0
    return Turned.model_construct(
        length=ends,
        stations=tuple(
            Station.model_construct(along=along, width=width, depth=width * deep)
            for along, width in zip(share.tolist(), widths.tolist(), strict=True)
        ),
    )
