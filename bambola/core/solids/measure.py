"""Measures each copy of a part: net volume, exposed skin, joins, patches.

Volume shared by two parts belongs to the one made first. A limb wound on its wire exists before everything
unwound: its root is whole, and its bearer has only the rest (:mod:`.roots`). Otherwise the volume is the
parent's (between others, that of the part placed first). Two exceptions: where a part caps the end of a wound
limb, the limb ends at the cap's skin and the cap is whole; and what a mirrored pair shares is divided at the
mirror plane.

A copy's measures are those of its shape alone less what it shares with each cluster of touching neighbours.
Shares are computed in the copy's own axes, at the size it was made, and cached: a change that leaves a
cluster as it was measures nothing again there.
"""

from __future__ import annotations

from collections.abc import Callable, Container, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from types import MappingProxyType

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.model import Part
from bambola.core.figure.places import Place
from bambola.core.figure.shapes import Limb, ProfileShape, Rope, Shape
from bambola.core.figure.whole import Figure
from bambola.core.frozen import frozen
from bambola.core.memo import remembered
from bambola.core.solids.copy_solid import CopySolid
from bambola.core.solids.forms import Array
from bambola.core.solids.lengthwise import any_hidden, shown_of
from bambola.core.solids.meshes import KEPT_SHAPES
from bambola.core.solids.placement import GRID, Copy, Placement, place
from bambola.core.solids.regions import settle_places
from bambola.core.solids.roots import LimbRoot, caps_of, root_of, wound_limbs
from bambola.core.solids.shares import Box, Neighbour, ShapeMoments, alone_worth, most_cut, share

_WAYS = (
    np.array(
        [
            (1, 0, 0),
            (0, 1, 0),
            (0, 0, 1),
            (1, 1, 0),
            (1, -1, 0),
            (1, 0, 1),
            (1, 0, -1),
            (0, 1, 1),
            (0, 1, -1),
        ]
    )
    / np.sqrt([1, 1, 1, 2, 2, 2, 2, 2, 2])[:, None]
)
_SIDES = np.vstack([_WAYS, -_WAYS])
"""Two copies whose shadows along one of these ways do not meet cannot touch."""


@dataclass(frozen=True)
class Solids:
    """A placed figure with the measurements of each copy, in the order of its copies. ``near`` (copies,
    copies) says which copies may touch."""

    placement: Placement
    measured: tuple[CopySolid, ...]
    near: NDArray[np.bool_]

    @property
    def net_mm3(self) -> float:
        """The volume of the whole figure, mm³."""
        return sum(solid.net_mm3 for solid in self.measured)

    def copies_of(self, part: str) -> list[tuple[Copy, CopySolid]]:
        """Return the copies of a part with their measurements."""
        return [
            (copy, solid)
            for copy, solid in zip(self.placement.copies, self.measured, strict=True)
            if copy.part.id == part
        ]

    @cached_property
    def centroids(self) -> Array:
        """Centres of the copies' net volumes in the figure's axes, (copies, 3) mm."""
        matrices = np.stack([copy.matrix for copy in self.placement.copies])
        own = np.array([solid.centre for solid in self.measured])
        found: Array = np.einsum("nij,nj->ni", matrices[:, :3, :3], own) + matrices[:, :3, 3]
        return found


class MeasuringCancelledError(Exception):
    """Raised when measuring is cancelled."""


def measure_solids(
    figure: Figure,
    scale: float = 1.0,
    base: Solids | None = None,
    bent: Container[str] = (),
    told: Callable[[float], bool] | None = None,
) -> Solids:
    """Measure every copy of ``figure``, which is ``scale`` times as large as it was made; ``scale`` only
    decides in which size results are cached.

    With ``base``, the figure as made, ``bent`` names the parts that did not scale evenly; everything in an
    evenly scaled neighbourhood is taken from ``base``. Results are in mm, mm² and mm³ of ``figure``. ``told``
    gets the share done, and cancels by returning False. Raises :class:`CalledOffError`.
    """
    placement = place(figure)
    copies = placement.copies
    low, high, near = _neighbours(copies)
    touching = near & ~_looked_under(copies) & ~_empty_beside(copies)
    kept = _unmoved_copies(placement, near, base, bent, scale)
    layers = worn_layers(figure)
    worn = [layers[copy.part.id] for copy in copies]
    most = most_cut(len(copies))
    caps, pairs = caps_of(figure), _mirrored_pairs(copies)
    roots = _limb_roots(figure, copies, touching, kept, scale)
    sights = _copy_views(copies, touching & ~kept[:, None], scale, roots)
    wound = wound_limbs(figure)
    before = [(worn[i], copy.part.id not in wound, i) for i, copy in enumerate(copies)]
    bearers: dict[str | None, Copy] = {copy.part.id: copy for copy in reversed(copies)}
    measured = []
    for i, copy in enumerate(copies):
        if told is not None and not told(i / len(copies)):
            raise MeasuringCancelledError
        if base is not None and kept[i]:
            measured.append(base.measured[i].scaled(scale))
            continue
        root = roots.get(i)
        shape = root.limb if root else _normal_shape(copy.shape, scale)
        places = _normal_places(copy.part, figure, scale)
        region = np.maximum(low, low[i]), np.minimum(high, high[i])
        shares = [
            share(
                shape,
                tuple(
                    # What is worn takes nothing from what lies deeper, in whatever order they are placed.
                    sights[i, j].neighbour(
                        "twin"
                        if (i, j) in pairs
                        else _role_of(copy, copies[j], before[j] < before[i], caps),
                        roots.get(i),
                        roots.get(j),
                    )
                    for j in cluster
                ),
                places,
                most,
            )
            for cluster in _touching_clusters(np.flatnonzero(touching[i]).tolist(), *region)
        ]
        worth = alone_worth(shape, places)
        thins = root.thins_mm if root else 0.0
        on = bearers.get(copy.part.parent)
        bearer = (
            alone_worth(_normal_shape(on.shape, scale), _normal_places(on.part, figure, scale))
            if on
            else None
        )
        measured.append(_subtract_shares(shape, worth, shares, bearer, thins).scaled(scale))
    return Solids(placement, tuple(measured), near)


def measured_before(figure: Figure, measured: tuple[CopySolid, ...]) -> Solids | None:
    """Return the solids of ``figure`` if ``measured`` belongs to it, else None."""
    placement = place(figure)
    if len(measured) != len(placement.copies):
        return None
    return Solids(placement, measured, _neighbours(placement.copies)[2])


def _neighbours(copies: Sequence[Copy]) -> tuple[Array, Array, NDArray[np.bool_]]:
    """Return the reach of each copy along the directions, (copies, ways), and which copies may touch,
    (copies, copies)."""
    reach = np.array([copy.reaches(_SIDES) for copy in copies])
    high, low = reach[:, : len(_WAYS)], -reach[:, len(_WAYS) :]
    near: NDArray[np.bool_] = np.all((low[:, None] <= high) & (high[:, None] >= low), axis=2)
    np.fill_diagonal(near, False)
    return low, high, near


def _looked_under(copies: Sequence[Copy]) -> NDArray[np.bool_]:
    """Return which copy is measured as if another were not there, (copies, copies): cloth comes off, so skin
    has its coat under it; only fur does not grow there."""
    cloth = np.array([copy.part.stuff is not None for copy in copies])
    furred = np.array([bool(copy.part.furs) for copy in copies])
    found: NDArray[np.bool_] = cloth[None, :] & ~furred[:, None]
    return found


def _empty_beside(copies: Sequence[Copy]) -> NDArray[np.bool_]:
    """Return which copy is ignored by which, (copies, copies): a hollow is empty except for its bearer."""
    empty = np.array([copy.part.hollow for copy in copies])
    if not empty.any():
        return np.zeros((len(copies), len(copies)), dtype=bool)
    bears = np.array([[copy.part.id == other.part.parent for other in copies] for copy in copies])
    found: NDArray[np.bool_] = (empty[None, :] & ~bears) | (empty[:, None] & ~bears.T)
    return found


def worn_layers(figure: Figure) -> dict[str, int]:
    """Return by id in how many garments each part is: 0 for the figure itself."""
    found: dict[str, int] = {}
    for part in figure.parents_first:
        below = found[part.parent] if part.parent is not None else 0
        found[part.id] = below + (part.garment is not None or part.stuff is not None)
    return found


def _unmoved_copies(
    placement: Placement,
    near: NDArray[np.bool_],
    base: Solids | None,
    bent: Container[str],
    scale: float,
) -> NDArray[np.bool_]:
    """Return which copies, with all their neighbours then and now, only grew ``scale`` times: (copies,)."""
    if base is None or len(base.placement.copies) != len(placement.copies):
        return np.zeros(len(placement.copies), dtype=bool)  # a row has more or fewer now
    even = np.array([copy.part.id not in bent for copy in placement.copies])
    at = np.array([copy.matrix[:3, 3] for copy in placement.copies]) / scale
    was = np.array([copy.matrix[:3, 3] for copy in base.placement.copies])
    shift = at - was
    same = np.abs(shift[:, None] - shift).max(axis=2) < GRID
    found: NDArray[np.bool_] = even & ((same & even) | ~(near | base.near)).all(axis=1)
    return found


def _touching_clusters(near: list[int], low: Array, high: Array) -> list[list[int]]:
    """Return ``near`` divided into groups that may touch within ``low`` to ``high``, in rising order."""
    groups: list[list[int]] = []
    for j in near:
        touching = [
            g
            for g in groups
            if any((low[j] <= high[k]).all() and (high[j] >= low[k]).all() for k in g)
        ]
        groups = [g for g in groups if g not in touching]
        groups.append(sorted([j, *(k for g in touching for k in g)]))
    return groups


@remembered(KEPT_SHAPES)
def _normal_shape(shape: Shape, scale: float) -> Shape:
    if scale == 1.0:
        return shape
    return shape.scaled(1 / scale).snapped(GRID)


def _normal_places(part: Part, figure: Figure, scale: float) -> tuple[Place, ...]:
    places = settle_places(part, figure)
    return tuple(place.scaled(1 / scale, GRID) for place in places) if scale != 1.0 else places


@frozen
class _CopyInAxes:
    """Another copy's shape and place in a copy's own axes, at the size in which results are cached."""

    shape: Shape
    rows: tuple[tuple[float, ...], ...]

    def neighbour(self, role: str, own: LimbRoot | None, other: LimbRoot | None) -> Neighbour:
        """Return it as a neighbour in that role, with roots where the limb has one."""
        if role == "later" and other is not None:
            return Neighbour("wound", self.shape, self.rows, other.buried)
        root = own.buried if role == "parent" and own is not None else None
        return Neighbour(role, self.shape, self.rows, root)


def _role_of(copy: Copy, other: Copy, first: bool, caps: Container[str]) -> str:
    """Return the role of ``other`` for ``copy``."""
    if copy.part.parent == other.part.id and other.side in (None, copy.side):
        return "capped" if copy.part.id in caps else "parent"
    if other.part.parent == copy.part.id and copy.side in (None, other.side):
        # A hollow takes away what it fills.
        return "earlier" if other.part.id in caps or other.part.hollow else "later"
    return "earlier" if first else "later"


def _origin_distance(copy: Copy, other: Copy) -> float:
    """Return the distance between the origins of two copies, mm."""
    return float(np.linalg.norm(copy.matrix[:3, 3] - other.matrix[:3, 3]))


def _mirrored_pairs(copies: Sequence[Copy]) -> frozenset[tuple[int, int]]:
    """Return which copies are a mirrored pair, in both directions."""
    of: dict[str, list[int]] = {}
    for i, copy in enumerate(copies):
        of.setdefault(copy.part.id, []).append(i)
    pairs = [
        (i, j)
        for i, j in (both for both in of.values() if len(both) == 2)
        if copies[i].side is not None and _origin_distance(copies[i], copies[j]) > GRID
    ]
    return frozenset(pair for i, j in pairs for pair in ((i, j), (j, i)))


def _limb_roots(
    figure: Figure,
    copies: Sequence[Copy],
    touching: NDArray[np.bool_],
    kept: NDArray[np.bool_],
    scale: float,
) -> dict[int, LimbRoot]:
    """Return the roots of wound limbs in what bears them, by the number of the limb's copy."""
    wound = wound_limbs(figure) - caps_of(figure)
    bears = np.zeros_like(touching)
    for i, copy in enumerate(copies):
        if copy.part.id in wound and not (kept[i] and kept[touching[i]].all()):
            for j in np.flatnonzero(touching[i]).tolist():
                bears[i, j] = _role_of(copy, copies[j], False, ()) == "parent"
    found = {}
    for (i, _), sight in _copy_views(copies, bears, scale).items():
        shape = _normal_shape(copies[i].shape, scale)
        assert isinstance(shape, Limb | Rope)
        root = root_of(shape, sight.shape, sight.rows)
        if root is not None:
            found[i] = root
    return found


def _copy_views(
    copies: Sequence[Copy],
    near: NDArray[np.bool_],
    scale: float,
    roots: Mapping[int, LimbRoot] = MappingProxyType({}),
) -> dict[tuple[int, int], _CopyInAxes]:
    """Return each copy's view of the copies ``near`` it (copies, copies), all at once."""
    of, seen = np.nonzero(near)
    if not len(of):
        return {}
    shapes = {
        int(j): roots[j].limb if j in roots else _normal_shape(copies[j].shape, scale)
        for j in np.unique(seen)
    }
    matrices = np.stack([copy.matrix for copy in copies])
    turns, at = matrices[:, :3, :3], matrices[:, :3, 3] / scale
    back = turns[of].transpose(0, 2, 1)
    rows = np.concatenate(
        [back @ turns[seen], np.einsum("nij,nj->ni", back, at[seen] - at[of])[:, :, None]], axis=2
    )
    # A symmetric shape is its own mirror image: seen so, both of a pair are the same case.
    handed = np.linalg.det(turns)
    same = np.array([_is_symmetric(shapes[j]) for j in seen.tolist()])
    rows[(handed[of] * handed[seen] < 0) & same, :, 0] *= -1
    rounded = (np.round(rows / GRID) * GRID + 0.0).tolist()
    return {
        (i, j): _CopyInAxes(shapes[j], tuple(map(tuple, seen_rows)))
        for i, j, seen_rows in zip(of.tolist(), seen.tolist(), rounded, strict=True)
    }


def _is_symmetric(shape: Shape) -> bool:
    return isinstance(shape, ProfileShape)


def _subtract_shares(
    shape: Shape,
    alone: ShapeMoments,
    shares: Sequence[ShapeMoments],
    bearer: ShapeMoments | None,
    thins_mm: float,
) -> CopySolid:
    """Return the measures of a shape less what it ``shares``; ``bearer`` is its bearer's measure alone."""
    joined = sum(share.join_mm2 for share in shares)
    net = max(0.0, alone.volume - sum(share.volume for share in shares))
    x, y, z = (
        (alone.moment[k] - sum(share.moment[k] for share in shares)) / net if net > 1e-6 else 0.0
        for k in range(3)
    )
    patches = _left_of(alone.patches, [share.patches for share in shares])
    hidden = any_hidden([share.hidden for share in shares if share.hidden])
    return CopySolid(
        net,
        max(0.0, alone.skin - sum(share.skin for share in shares)),
        (x, y, z),
        joined,
        sum(share.join_line_mm for share in shares),
        patches,
        tuple(
            edge * left / whole if whole > 0 else 0.0
            for edge, left, whole in zip(alone.edges, patches, alone.patches, strict=True)
        ),
        _left_of(alone.furs, [share.furs for share in shares]),
        alone.volume,
        _remaining_shares(alone.box, [share.box for share in shares]),
        shown_of(shape, hidden, thins_mm),
        joined / bearer.skin if bearer and bearer.skin > 0 else 0.0,
    )


def _left_of(alone: tuple[float, ...], shared: Sequence[tuple[float, ...]]) -> tuple[float, ...]:
    """Return the remainder of each area, mm²."""
    return tuple(max(0.0, area - sum(each[k] for each in shared)) for k, area in enumerate(alone))


def _remaining_shares(whole: Box, cut: Sequence[Box]) -> tuple[float, float, float]:
    """Return the shares of a box's width, depth and length left within all of ``cut``."""
    x, y, z = (
        float(
            max(
                0.0,
                min(whole[k + 3], *(b[k + 3] for b in cut)) - max(whole[k], *(b[k] for b in cut)),
            )
            / (whole[k + 3] - whole[k])
        )
        if cut
        else 1.0
        for k in range(3)
    )
    return x, y, z
