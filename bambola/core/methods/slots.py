"""The numbers on a card: pure functions of the sizes of a step. Lengths mm, weights g, angles degrees."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from bambola.core.bench import Wool
from bambola.core.facts import NOTHING, Fact, Grams, Mm, fact
from bambola.core.figure import Leaf, Shape
from bambola.core.figure.shapes import ChainShape
from bambola.core.solids import Copy
from bambola.core.solids.forms import Array, chain, profile
from bambola.core.solids.inside import Mask, points_within
from bambola.core.wool.amounts import pinch_mm

MID_SHARE = 0.35
"""The needle changes when a third of the shrinking is still to come. Judged. See craft.md, 10."""
BULK_MM, SKIN_MM, COAT_MM, FLAT_MM = 20.0, 1.5, 3.0, 1.0
"""How deep a needle goes: at most, in skin, beyond a coat, beyond a flat part. Judged. See craft.md, 10."""
DEPTH_MM = {
    "mark": 1.0, "coat": 2.0, "outline": 2.0, "rim": 2.0, "surface": 2.0, "veil": 2.5, "foot": 3.0,
    "cloth": 4.0, "edge": 4.0, "peg": 4.0, "fitting": 5.0, "lump": 5.0, "rocking": 6.0, "layer": 8.0,
    "pair": 8.0, "seam": 15.0,
}  # fmt: skip
"""How deep it goes elsewhere, at most where the piece is thin. Judged. See craft.md, 10."""
SINK_MM = (8.0, 12.0)
"""A fringe is driven so far into what bears it, at most half through. Judged. See craft.md, 10."""
RIBBON_MM, RIBBON_WIDE = (8.0, 25.0), 1.75
"""A ribbon is wound that is so many times as wide as the finished limb, within these. Judged.
See craft.md, 10."""
VEIL_G_CM2 = 0.005
"""A veil through which a hand is still seen. Judged. See craft.md, 10."""
LINE_MM = 1.2
"""A drawn line is at least so wide. Judged. See craft.md, 10."""
CARRIED_MM, LEAST_CARRIED_MM = 2.0, 4.0
"""Wool is carried past the end of a wire by its own thickness and this, at least 4 mm. Judged.
See craft.md, 10."""
HOLDER_FROM_MM, WIDE_FROM_MM = 30.0, 60.0
"""From such a face on 3 needles in a holder, from such a sheet or coat on 6. Judged. See craft.md, 10."""
TIME_SPREAD = 0.4
"""Minutes are likely within so much of what is planned. Judged. See craft.md, 10."""


def change_size(loose: float, finished: float) -> float:
    """Return the size at which the needle is changed."""
    return finished + MID_SHARE * (loose - finished)


def bulk_depth(thick: float) -> float:
    """Return how deep a needle goes into a piece this thick: to its middle, within its reach."""
    return min(thick / 2, BULK_MM)


def seat_width(line_mm: float, flat: bool = False) -> float:
    """Return the width of a seat whose rim is ``line_mm`` round; for a flat part, of a slit with two
    sides."""
    return line_mm / (2 if flat else math.pi)


def overlap_at_join(child: Copy, parent: Copy) -> tuple[float, float]:
    """Return how far two parts lie in each other at their join, along the child's axis: the child's end below
    the rim of its seat, and the round of the parent above it.

    For two balls these are the two caps of their common lens; their sum is the difference in length between
    stacked and side by side.
    """
    to_parent = np.linalg.inv(parent.matrix) @ child.matrix
    high = float(child.shape.extents()[0])

    def axis_in_both(z: Array) -> Mask:
        axis = np.stack([np.zeros_like(z), np.zeros_like(z), z], axis=-1)
        return _lies_in(parent, axis, to_parent) & points_within(
            child.shape, axis.reshape(-1, 3)
        ).reshape(z.shape)

    skin = float(_furthest_heights(axis_in_both, 0.0, high, 1)[0])
    rim = _rim_height(child, parent, to_parent, high)
    return rim, max(0.0, skin - rim)


_STEPS, _TURN = 65, 12


def _furthest_heights(lies: Callable[[Array], Mask], low: float, high: float, lines: int) -> Array:
    """Return the greatest height between ``low`` and ``high`` at which each of ``lines`` is inside, to a four
    thousandth; 0 if none is."""
    z = np.tile(np.linspace(low, high, _STEPS), (lines, 1))
    coarse = np.where(lies(z), z, 0.0).max(axis=1)
    z = np.minimum(high, coarse[:, None] + np.linspace(0.0, (high - low) / (_STEPS - 1), _STEPS))
    furthest: Array = np.maximum(coarse, np.where(lies(z), z, 0.0).max(axis=1))
    return furthest


def _lies_in(parent: Copy, points: Array, to_parent: Array) -> Mask:
    """Return which of ``points`` (..., 3) lie in the parent."""
    moved = points.reshape(-1, 3) @ to_parent[:3, :3].T + to_parent[:3, 3]
    return points_within(parent.shape, moved).reshape(points.shape[:-1])


def _rim_height(child: Copy, parent: Copy, to_parent: Array, high: float) -> float:
    """Return the mean height of the rim where the child's skin leaves the parent, above the child's base."""
    turn = np.arange(_TURN)[:, None] * 2 * np.pi / _TURN

    def skin_in_parent(z: Array) -> Mask:
        wide, deep = _skin_at(child.shape, z)
        skin = np.stack([np.sin(turn) * wide, np.cos(turn) * deep, z], axis=-1)
        return _lies_in(parent, skin, to_parent)

    last = _furthest_heights(skin_in_parent, *_lowest_and_highest(child.shape), _TURN)
    return min(high, float(last.mean()))


def _lowest_and_highest(shape: Shape) -> tuple[float, float]:
    """Return the lowest and highest point of a shape's skin above its base; for a limb, of its first
    joint."""
    if isinstance(shape, ChainShape):
        return 0.0, 2 * float(chain(shape).radii[0])
    if isinstance(shape, Leaf):
        return 0.0, shape.length
    form = profile(shape)
    return float(form.z[0]), float(form.z[-1])


def _skin_at(shape: Shape, z: Array) -> tuple[Array, Array]:
    """Return half the width and the depth of a shape at heights above its base."""
    if isinstance(shape, ChainShape):
        first = float(chain(shape).radii[0])
        half = np.sqrt(np.maximum(0.0, first**2 - np.maximum(0.0, first - z) ** 2))
        return half, half
    if isinstance(shape, Leaf):
        return np.full_like(z, shape.width / 2), np.full_like(z, shape.thickness / 2)
    form = profile(shape)
    return np.interp(z, form.z, form.half_width), np.interp(z, form.z, form.half_depth)


def fringe_depth(parent_thick: float) -> float:
    """Return how deep a fringe is driven in."""
    return min(max(SINK_MM[0], 0.25 * parent_thick), SINK_MM[1], parent_thick / 2)


def ribbon_width(limb_mm: float) -> float:
    """Return the width of the ribbon wound on a limb."""
    return min(max(RIBBON_WIDE * limb_mm, RIBBON_MM[0]), RIBBON_MM[1])


def ribbon_turns(length: float, ribbon_mm: float) -> int:
    """Return the turns of a ribbon, half lapped, along ``length``."""
    return max(1, round(2 * length / ribbon_mm))


def ribbon_layers(grams: float, length: float, thick: float, wire: float) -> int:
    """Return how often a ribbon goes up or down a limb; half lapped, each pass lays two veils."""
    around = math.pi * (thick + wire) / 2
    veil = 2 * VEIL_G_CM2 * around * length / 100
    return max(1, round(grams / veil)) if veil > 0 else 1


def veil_count(cover_g_cm2: float) -> int:
    """Return the number of veils that lay ``cover_g_cm2``."""
    return max(2, round(cover_g_cm2 / VEIL_G_CM2))


def wool_overhang(wool_mm: float) -> float:
    """Return how far wool extends past the end of a wire under ``wool_mm``."""
    return max(LEAST_CARRIED_MM, wool_mm + CARRIED_MM)


def needles_at_once(face_mm: float, layer: bool) -> int:
    """Return the number of needles in the holder for a face this wide; more on sheets and coats."""
    if layer and face_mm > WIDE_FROM_MM:
        return 6
    return 3 if face_mm > HOLDER_FROM_MM else 1


def time_range(minutes: float) -> tuple[float, float]:
    """Return the likely range of minutes for a step."""
    return minutes * (1 - TIME_SPREAD), minutes * (1 + TIME_SPREAD)


LEADS = 3.0
"""Grams lead from so many steps of the scale on. Judged. See craft.md, 10."""
TOP_G_M = 25.0
"""What a metre of top weighs, g, until the maker has weighed one. Judged. See craft.md, 10."""
PAPER_G_M2 = 80.0
"""Writing paper, whose squares balance a pinch on a ruler. See craft.md, 10."""
STRIP_G, PINCH_G, WISP_G = 0.2, 0.05, 0.01
"""From here on a strip, from here a pinch with its paper, from here a pinch alone; less is hairs. Judged.
See craft.md, 10."""
HAIRS_MG = 25.0
"""Hairs in a milligram, about. Judged. See craft.md, 10."""


def ball_mm(grams: float, density: float) -> float:
    """Return the diameter (mm) of a loose ball of ``grams`` at ``density`` g/cm³."""
    return 10 * math.cbrt(6 * grams / (math.pi * density))


def paper_mm(grams: float) -> float:
    """Return the side (mm) of the square of paper that weighs as much."""
    return math.sqrt(grams / PAPER_G_M2) * 1000


def quartered_mm(grams: float, wool: Wool) -> float:
    """Return the length (mm) of a quartered top that weighs ``grams``, from the weight of a metre."""
    return 4000 * grams / (wool.metre_g or TOP_G_M)


def round_grams(grams: float) -> float:
    """Return a weight rounded as hands and scales allow: half grams from 5 g, tenths from 1 g, twentieths
    below."""
    step = 0.5 if grams >= 5 else 0.1 if grams >= 1 else 0.05 if grams >= STRIP_G else 0.01
    return max(step, round(grams / step) * step)


def by_hand(grams: float, wool: Wool, scale_g: float, least_mm: float = 0.0) -> Fact:
    """Return how to take ``grams`` of a wool: the first way, and an alternative. A length of top shorter than
    ``least_mm``, the length it covers, is not offered."""
    if grams <= 0:
        return NOTHING
    ball = Mm(ball_mm(grams, wool.start_density))
    is_strip = wool.form == "top" and quartered_mm(grams, wool) >= least_mm
    if grams >= LEADS * scale_g:
        weight = Grams(round_grams(grams))
        if is_strip and grams < 1:
            return fact("by-hand.weight-strip", weight=weight, long=Mm(quartered_mm(grams, wool)))
        return fact("by-hand.weight", weight=weight, ball=ball)
    if grams >= STRIP_G:
        if is_strip:
            return fact("by-hand.strip", long=Mm(quartered_mm(grams, wool)), ball=ball)
        return fact("by-hand.ball", ball=ball)
    pinch = Mm(pinch_mm(grams))
    if grams >= PINCH_G:
        return fact("by-hand.pinch-paper", pinch=pinch, paper=Mm(paper_mm(grams)))
    if grams >= WISP_G:
        return fact("by-hand.pinch", pinch=pinch)
    low, high = (_round_hair_count(1000 * grams * HAIRS_MG * share) for share in (0.6, 1.6))
    return fact("by-hand.hairs", low=low, high=high, pinch=pinch)


def pinch_of(amount: Fact) -> float:
    """Return the diameter (mm) that the pinch of an amount is rolled to; 0 if it is none."""
    for name, value in amount.slots:
        if name == "pinch" and isinstance(value, Mm):
            return value.value
        if isinstance(value, Fact) and (found := pinch_of(value)):
            return found
    return 0.0


def _round_hair_count(count: float) -> int:
    step = 10 if count >= 30 else 5 if count >= 10 else 1
    return max(1, round(count / step) * step)
