"""The load on each bone: the weights beyond it on their levers, in the figure's pose.

The skeleton is cut at the inner node of a bone; the moment there is that of everything beyond: wool, fittings
and wire pulling down, the ground pushing up at a foot beyond. Which copies of parts hang beyond which bone
does not depend on the height and is found once (:class:`Rigging`); the moments of a plan are then a few
products of arrays.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from bambola.core.armature.skeleton import Pair, Skeleton, bone_part, skeleton_of
from bambola.core.figure import Figure, Node
from bambola.core.frozen import frozen
from bambola.core.quantities import GRAVITY
from bambola.core.solids import Copy, Placement

Array = NDArray[np.float64]
N_PER_GRAM = GRAVITY / 1000
LEAN_DEG = 8.0
"""No figure stands quite upright: a bone is never taken to bear less than when all leans by this
angle, at which a figure that still stands is called unsafe. A leg in line with its load has no
other moment to be compared by. See craft.md, 3."""


@frozen
class Mass:
    """A lump of the figure: grams, its centre in mm, and the copy of a part it belongs to.

    ``bone`` is the bone it lies along, for wire.
    """

    grams: float
    centre: tuple[float, float, float]
    part: str
    side: str | None
    bone: Pair | None = None


@frozen
class Support:
    """Where the figure is held up: a point (mm) on a copy of a part."""

    point: tuple[float, float, float]
    part: str
    side: str | None


@frozen
class BoneLoad:
    """One bone and the moments (N·mm) at its inner node.

    ``static_nmm`` in the pose, ``design_nmm`` that or, if more, leaning; ``lever_mm`` the longest reach
    beyond it, on which fingers pose it.
    """

    a: str
    b: str
    static_nmm: float
    design_nmm: float
    lever_mm: float


@dataclass(frozen=True)
class Rigging:
    """What is attached where on a skeleton; the same at every height. ``bones`` run from inner to outer node.
    ``beyond`` (bones, nodes) says which nodes lie beyond each; ``lumps`` are (copy, node, share, the two
    nodes it lies between) of each copy's mass."""

    nodes: tuple[str, ...]
    within: tuple[tuple[str, str | None], ...]
    bones: tuple[tuple[str, str], ...]
    beyond: NDArray[np.bool_]
    of_copy: dict[tuple[str, str | None], int]
    copy: NDArray[np.int64]
    node: NDArray[np.int64]
    share: Array
    ends: NDArray[np.int64]
    home: NDArray[np.int64]

    @cached_property
    def outer(self) -> dict[Pair, int]:
        """The index of every bone's outer node."""
        return {frozenset((a, b)): self.nodes.index(b) for a, b in self.bones}


def rig_figure(figure: Figure, placement: Placement) -> Rigging | None:
    """Return the rigging of a placed figure; None if it has no bones."""
    if not figure.bones:
        return None
    skeleton = skeleton_of(figure, {name: p.tolist() for name, p in placement.nodes.items()})
    index = {name: i for i, name in enumerate(placement.nodes)}
    parent = _find_hangers(figure, placement, skeleton)
    bones = tuple(
        (at, node)
        for node, at in parent.items()
        if at and frozenset((at, node)) in skeleton.strands
    )
    copies: dict[tuple[str, str | None], int] = {
        (copy.part.id, copy.side): i for i, copy in enumerate(placement.copies)
    }
    home = [index[_home_node(figure, placement, copy)] for copy in placement.copies]
    lumps = [
        lump
        for i, copy in enumerate(placement.copies)
        for lump in _lumps_of(figure, placement, copy, i, bones, index, home[i])
    ]
    table = np.array([(i, n, a, b) for i, n, _, a, b in lumps], dtype=np.int64)
    share = np.array([w for _, _, w, _, _ in lumps])
    node_of = {n.id: n for n in figure.nodes}
    within = tuple((node_of[n].part, node_of[n].side) for n in index)
    return Rigging(
        tuple(index),
        within,
        bones,
        _nodes_beyond(bones, parent, index),
        copies,
        table[:, 0],
        table[:, 1],
        share,
        table[:, 2:],
        np.array(home, dtype=np.int64),
    )


def _nodes_beyond(
    bones: Sequence[tuple[str, str]], parent: Mapping[str, str | None], index: Mapping[str, int]
) -> NDArray[np.bool_]:
    """Return which nodes (n,) hang beyond which bones (k,): (k, n)."""
    beyond = np.zeros((len(bones), len(index)), dtype=bool)
    row = {node: i for i, (_, node) in enumerate(bones)}
    for node in index:
        at: str | None = node
        while at is not None:
            if at in row:
                beyond[row[at], index[node]] = True
            at = parent.get(at)
    return beyond


def _lumps_of(
    figure: Figure,
    placement: Placement,
    copy: Copy,
    number: int,
    bones: Sequence[tuple[str, str]],
    index: Mapping[str, int],
    home: int,
) -> Iterator[tuple[int, int, float, int, int]]:
    """Yield a copy's weight along the bones inside it: its number, the node that bears it, its share, the
    bone's ends; all of it on its ``home`` node if no bone runs through it."""
    inside = _bones_inside(figure, bones, copy)
    weights = [_girth_weight(placement, copy, figure, a, b) for a, b in inside]
    total = sum(weights)
    if total <= 0:
        yield number, home, 1.0, home, home
        return
    for (a, b), weight in zip(inside, weights, strict=True):
        yield number, index[b], weight / total, index[a], index[b]


def _find_hangers(
    figure: Figure, placement: Placement, skeleton: Skeleton
) -> dict[str, str | None]:
    """Return for every node the one it hangs from: along its bone, or for a separate wire by its part."""
    parent: dict[str, str | None] = {}
    trees = skeleton.components()
    node_of = {node.id: node for node in figure.nodes}
    for tree in trees:
        root = min(tree.neighbours, key=lambda node: tree.rank[node])
        order, back = tree.outwards(root)
        parent |= {node: (None if node == root else back[node]) for node in order}
    for root in [node for node, at in parent.items() if at is None]:
        near = _node_carrying(figure, placement, node_of[root])
        # Hung only on what does not hang from it.
        at = near
        while at is not None and at != root:
            at = parent.get(at)
        parent[root] = near if near is not None and at is None else None
    for node in figure.nodes:
        parent.setdefault(node.id, None)
    return parent


def _node_carrying(figure: Figure, placement: Placement, node: Node) -> str | None:
    """Return the node of an inner part from which a node's part hangs, the nearest one."""
    part = figure.by_id[node.part].parent
    while part is not None:
        found = _nearest_node(figure, placement, part, node.side, placement.nodes[node.id])
        if found is not None:
            return found
        part = figure.by_id[part].parent
    return None


def _nearest_node(
    figure: Figure, placement: Placement, part: str, side: str | None, point: Array
) -> str | None:
    there = [n for n in figure.nodes if n.part == part and n.side in (None, side)]
    there = there or [n for n in figure.nodes if n.part == part and side is None]
    best = min(
        there, key=lambda n: float(np.linalg.norm(placement.nodes[n.id] - point)), default=None
    )
    return best.id if best else None


def _home_node(figure: Figure, placement: Placement, copy: Copy) -> str:
    """Return the node a copy hangs from: its own node nearest to its seat, else its parent's, and so on
    inwards."""
    part: str | None = copy.part.id
    while part is not None:
        found = _nearest_node(figure, placement, part, copy.side, copy.matrix[:3, 3])
        if found is not None:
            return found
        part = figure.by_id[part].parent
    boned = {end for bone in figure.bones for end in (bone.a, bone.b)}
    return min(boned, key=lambda n: float(np.linalg.norm(placement.nodes[n] - copy.matrix[:3, 3])))


def _bones_inside(
    figure: Figure, bones: Sequence[tuple[str, str]], copy: Copy
) -> list[tuple[str, str]]:
    """Return the bones a copy's wool lies along: those with both nodes in it, else those running through
    it."""
    node = {n.id: n for n in figure.nodes}
    where = bone_part(figure)
    own = [
        (a, b)
        for a, b in bones
        if where[frozenset((a, b))] == copy.part.id
        and all(node[n].side in (None, copy.side) for n in (a, b))
    ]
    return [(a, b) for a, b in own if node[a].part == node[b].part == copy.part.id] or own


def _girth_weight(placement: Placement, copy: Copy, figure: Figure, a: str, b: str) -> float:
    """Return how much of a copy's wool lies along a bone: its length by the square of the wool's radius."""
    node = {n.id: n for n in figure.nodes}
    squares = []
    for name in (a, b):
        n = node[name]
        if n.part == copy.part.id:
            squares.append(
                float(np.linalg.norm(copy.point(n.along, n.around, 1) - copy.point(n.along))) ** 2
            )
    run = float(np.linalg.norm(placement.nodes[a] - placement.nodes[b]))
    return run * max(sum(squares) / len(squares), 1e-6) if squares else run


def bone_loads(
    rigging: Rigging,
    placement: Placement,
    wool: Array,
    centroids: Array,
    others: Sequence[Mass],
    supports: Sequence[Support],
) -> dict[Pair, BoneLoad]:
    """Return the load of every bone. ``wool`` (copies,) g at ``centroids`` (copies, 3) mm; ``others`` are
    fittings and wire; ``supports`` are where the figure stands or hangs (none: it is held at its root).
    """
    points = np.array([placement.nodes[name] for name in rigging.nodes])
    middle = (points[rigging.ends[:, 0]] + points[rigging.ends[:, 1]]) / 2
    mean = np.zeros_like(centroids)
    np.add.at(mean, rigging.copy, middle * rigging.share[:, None])
    # Each lump lies along its bone, and all of a copy together have its own centre.
    at = centroids[rigging.copy] + middle - mean[rigging.copy]
    weight = wool[rigging.copy] * rigging.share
    node = rigging.node
    if others:
        at = np.vstack([at, [m.centre for m in others]])
        weight = np.concatenate([weight, [m.grams for m in others]])
        hooks = [_node_for_load(rigging, points, m.part, m.side, m.centre, m.bone) for m in others]
        node = np.concatenate([node, hooks])
    down = weight * N_PER_GRAM
    if supports:
        pushed = reactions(np.array([s.point for s in supports]), down, at)
        at = np.vstack([at, pushed[1]])
        down = np.concatenate([down, -pushed[0]])
        hooks = [_node_for_load(rigging, points, s.part, s.side, s.point) for s in supports]
        node = np.concatenate([node, hooks])
    inner = points[[rigging.nodes.index(a) for a, _ in rigging.bones]]
    beyond = rigging.beyond[:, node].astype(float)
    moment = beyond @ (down[:, None] * at) - (beyond @ down)[:, None] * inner
    static = np.hypot(moment[:, 0], moment[:, 1])
    design = np.maximum(static, math.tan(math.radians(LEAN_DEG)) * np.abs(moment[:, 2]))
    reach = np.linalg.norm(points[None] - inner[:, None], axis=2)
    lever = np.where(rigging.beyond, reach, 0.0).max(axis=1)
    return {
        frozenset((a, b)): BoneLoad(a, b, float(static[i]), float(design[i]), float(lever[i]))
        for i, (a, b) in enumerate(rigging.bones)
    }


def _node_for_load(
    rigging: Rigging,
    points: Array,
    part: str,
    side: str | None,
    place: Sequence[float],
    bone: Pair | None = None,
) -> int:
    """Return the node a thing hangs from: the outer one of its bone, the nearest in its part, or its
    part's."""
    if bone is not None and bone in rigging.outer:
        return rigging.outer[bone]
    own = [i for i, (p, s) in enumerate(rigging.within) if p == part and s in (None, side)]
    if own:
        return min(own, key=lambda i: math.dist(points[i], place))
    found = rigging.of_copy.get((part, side))
    if found is None:
        found = next(i for (p, _), i in rigging.of_copy.items() if p == part)
    return int(rigging.home[found])


def reactions(points: Array, down: Array, at: Array) -> tuple[Array, Array]:
    """Return how supports at ``points`` (k, 3) share the weights ``down`` (n,) N at ``at`` (n, 3).

    Returns the forces (k,) and the points (k, 3) where they act. The shares are as even as balance
    allows; a support cannot pull. What no share balances moves all the points under the weight: a foot
    presses with its heel or toe before the figure tips.
    """
    total = float(down.sum())
    if total <= 0:
        return np.zeros(len(points)), points
    centre = (down @ at[:, :2]) / total
    active = list(range(len(points)))
    while True:
        share = _even_shares(points[active, :2], centre)
        if share.min() >= -1e-9 or len(active) == 1:
            break
        active.pop(int(share.argmin()))
    force = np.zeros(len(points))
    force[active] = np.clip(share, 0.0, None) * total
    force *= total / force.sum()
    moved = points.copy()
    moved[:, :2] += centre - (force @ points[:, :2]) / total
    return force, moved


def _even_shares(points: Array, centre: Array) -> Array:
    """Return shares summing to one, their point as near ``centre`` as can be, otherwise as even as can be."""
    k = len(points)
    even = np.full(k, 1.0 / k)
    # Deviations from even that keep the sum: least in size among those that balance best.
    spread = np.eye(k) - 1.0 / k
    move = np.linalg.pinv(points.T @ spread) @ (centre - points.T @ even)
    found: Array = even + spread @ move
    return found


def mass_along(
    wires: Sequence[tuple[Sequence[str], Sequence[Sequence[float]], float]], figure: Figure
) -> list[Mass]:
    """Return the weight of wires as lumps: each of (route, points in mm, grams) spread along its runs."""
    nodes = {node.id: node for node in figure.nodes}
    found = []
    for route, points, grams in wires:
        runs = [math.dist(a, b) for a, b in itertools.pairwise(points)]
        total = sum(runs)
        for i, run in enumerate(runs):
            node = nodes[route[i + 1]]
            a, b = points[i], points[i + 1]
            middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2)
            bone = frozenset(route[i : i + 2])
            share = grams * run / total if total else 0.0
            found.append(Mass(share, middle, node.part, node.side, bone))
    return found
