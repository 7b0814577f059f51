"""The likely name of a new part, from where it sits, its direction and its size."""

from __future__ import annotations

import numpy as np

from bambola.core.figure import Figure
from bambola.core.sight.build import BuiltPart
from bambola.core.solids import Copy, own_copy, place
from bambola.core.solids.forms import Array

UPPER, LOWER = 0.55, 0.45
"""Arms begin above this share of the body's height, legs below that. Judged. See craft.md, 9."""
LONG = 1.5
"""A limb is so many times as long as wide. Judged. See craft.md, 9."""
SMALL, FAIR = 0.25, 0.6
"""A nose is narrower than this share of its head, a snout than that. Judged. See craft.md, 9."""
STEEP = 0.6
"""What rises or falls by more than this share of its length stands up or runs down. Judged. See
craft.md, 9."""
FLAT = 0.35
"""What stands on the ground and is lower than this share of the trunk is a foot, not a leg. Judged. See
craft.md, 9."""


def likely_name(
    figure: Figure, built: BuiltPart, parent: str | None, pair: bool, surely: bool = False
) -> str:
    """Return the likely name of a part ``built`` from lines or regions, such as ``head``; empty if place and
    shape do not tell. It sits on ``parent``, and may be one of a ``pair``. With ``surely`` a limb is named
    only if its direction agrees with its place, since regions of a picture may be anything."""
    bearer = own_copy(place(figure), parent) if parent else None
    if bearer is None:
        return "body"
    mine, its = _built_extent(built), _copy_box(bearer)
    size, bulk = mine[1] - mine[0], its[1] - its[0]
    # Where it begins on what bears it: 0 at its lowest, 1 at its highest.
    at = float((built.base[2] - its[0][2]) / max(bulk[2], 1e-9))
    slim = _is_slim(built)
    kind = built.shape.kind
    known = figure.by_id[bearer.part.id].name.casefold()
    on_trunk = bearer.part.parent is None
    if on_trunk and not pair:
        large = kind in ("ball", "turned") and size[0] > FAIR / 2 * bulk[0]
        if at > UPPER and mine[1][2] > its[1][2] and large and not slim:
            return "head"
        backwards = built.turn[:, 2] @ np.array([0.0, 1.0, 0.0]) > 0.3
        return "tail" if slim and backwards and at < UPPER else ""
    if on_trunk and kind != "leaf":
        if surely and pair and at < LOWER and _is_foot(mine, its):
            return "foot"
        if not slim:
            return ""
        return _limb_name(built, at, mine, its) if surely else _by_height(at)
    if known == "head" and kind not in ("limb", "rope", "cone"):
        return _on_head(mine, its, size, bulk, pair)
    if known == "snout" and not pair and size[0] < FAIR * bulk[0]:
        return "nose"
    ends = {"arm": "hand", "leg": "foot"}
    return ends.get(known, "") if size.max() < 0.7 * bulk.max() else ""


def _by_height(at: float) -> str:
    """Return the name of a limb by where on the trunk it begins (0 lowest, 1 highest)."""
    return "arm" if at > UPPER else "leg" if at < LOWER else ""


def _is_foot(mine: Array, its: Array) -> bool:
    """Return whether a part stands on the ground with the trunk and is low."""
    size, bulk = mine[1][2] - mine[0][2], its[1][2] - its[0][2]
    return bool(mine[0][2] < its[0][2] + 0.1 * bulk and size < FLAT * bulk)


def _limb_name(built: BuiltPart, at: float, mine: Array, its: Array) -> str:
    """Return the name of a slim part on the trunk: arms reach beyond it and do not stand up, legs run
    down."""
    up = float(built.turn[2, 2])
    stands_out = mine[1][0] > its[1][0] or mine[0][0] < its[0][0] or mine[0][1] < its[0][1]
    if at > UPPER and up < STEEP and stands_out:
        return "arm"
    return "leg" if at < LOWER and up < -STEEP else ""


def _on_head(mine: Array, its: Array, size: Array, bulk: Array, pair: bool) -> str:
    """Return the name of a part on a head: ears stand out at its top, snout and nose in front."""
    if pair:
        stands = mine[1][2] > its[1][2] + 0.5 * SMALL * bulk[2]
        return "ear" if stands and size.max() > SMALL * bulk[2] else ""
    share = float(size[0] / max(bulk[0], 1e-9))
    low = mine[:, 2].mean() < its[:, 2].mean() + 0.2 * bulk[2]
    if not low or mine[0][1] > its[:, 1].mean():
        return ""
    return "nose" if share < SMALL else "snout" if share < FAIR else ""


def _is_slim(built: BuiltPart) -> bool:
    """Return whether a part is much longer than it is wide."""
    measures = built.shape.measures()
    long = measures.get("length", measures.get("height", 0.0))
    wide = [mm for name, mm in measures.items() if name not in ("length", "height")]
    return bool(wide) and long >= LONG * max(wide)


def _built_extent(built: BuiltPart) -> Array:
    """Return the least and greatest coordinates (2, 3) of a built part."""
    from bambola.core.solids import mesh_of

    places = mesh_of(built.shape).vertices @ built.turn.T + built.base
    return np.array([places.min(axis=0), places.max(axis=0)])


def _copy_box(copy: Copy) -> Array:
    reach = copy.reaches(np.vstack([np.eye(3), -np.eye(3)]))
    return np.array([-reach[3:], reach[:3]])
