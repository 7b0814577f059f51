"""The skeleton: bones as a tree, with what routes over it need to know."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from bambola.core.armature.strength import take_up
from bambola.core.figure import Figure

Pair = frozenset[str]
"""A bone by its two nodes."""


@dataclass(frozen=True)
class Skeleton:
    """Bones with their lengths (mm) and the strands each needs at least.

    ``points`` are the nodes' places (mm); ``twin`` gives a node's mirror image; ``resting`` are the
    nodes of parts that bear on the ground; ``first`` ranks the nodes, the part everything sits on
    leading.
    """

    bones: tuple[tuple[str, str], ...]
    strands: Mapping[Pair, int]
    lengths: Mapping[Pair, float]
    points: Mapping[str, Sequence[float]] = field(default_factory=dict)
    twin: Mapping[str, str] = field(default_factory=dict)
    resting: frozenset[str] = frozenset()
    first: tuple[str, ...] = ()

    @cached_property
    def neighbours(self) -> dict[str, tuple[str, ...]]:
        """Every node's neighbours, in the order the bones were drawn."""
        found: dict[str, list[str]] = {}
        for a, b in self.bones:
            found.setdefault(a, []).append(b)
            found.setdefault(b, []).append(a)
        return {node: tuple(dict.fromkeys(others)) for node, others in found.items()}

    @cached_property
    def rank(self) -> dict[str, int]:
        """Nodes in a settled order: those of ``first``, then the others as drawn."""
        return {node: i for i, node in enumerate(dict.fromkeys((*self.first, *self.neighbours)))}

    def is_end(self, node: str) -> bool:
        """Return whether only one bone meets there."""
        return len(self.neighbours[node]) == 1

    def components(self) -> list[Skeleton]:
        """Return the connected trees, each on its own; a bone that would close a ring is left out of them."""
        seen: set[str] = set()
        found = []
        for start in sorted(self.neighbours, key=lambda node: self.rank[node]):
            if start in seen:
                continue
            seen.add(start)
            queue, bones = [start], []
            for at in queue:
                for other in self.neighbours[at]:
                    if other not in seen:
                        seen.add(other)
                        queue.append(other)
                        bones.append((at, other))
            found.append(self.restricted_to(bones))
        return found

    def chords(self) -> list[tuple[str, str]]:
        """Return bones that close a ring."""
        kept = {frozenset(bone) for tree in self.components() for bone in tree.bones}
        return [bone for bone in self.bones if frozenset(bone) not in kept]

    def restricted_to(
        self, bones: Iterable[tuple[str, str]], strands: Mapping[Pair, int] | None = None
    ) -> Skeleton:
        """Return the skeleton of just these bones."""
        return Skeleton(
            tuple(bones),
            self.strands if strands is None else strands,
            self.lengths,
            self.points,
            self.twin,
            self.resting,
            tuple(self.rank),
        )

    def outwards(self, root: str) -> tuple[list[str], dict[str, str]]:
        """Return the nodes of a tree from ``root`` outwards, and each one's parent (the root's is itself)."""
        order, parent = [root], {root: root}
        for at in order:
            for other in self.neighbours[at]:
                if other not in parent:
                    parent[other] = at
                    order.append(other)
        return order, parent

    def path(self, a: str, b: str) -> list[str]:
        """Return the nodes from ``a`` to ``b`` of a tree, both included."""
        _, back = self.outwards(a)
        walk = [b]
        while walk[-1] != a:
            walk.append(back[walk[-1]])
        return walk[::-1]

    def bend(self, a: str, middle: str, b: str) -> float:
        """By how much (degrees) a wire from ``a`` over ``middle`` to ``b`` turns; 90 if unknown."""
        try:
            p, q, r = self.points[a], self.points[middle], self.points[b]
        except KeyError:
            return 90.0
        return turn_between(p, q, r)


def turn_between(p: Sequence[float], q: Sequence[float], r: Sequence[float]) -> float:
    """Return the angle (degrees) by which the way p to q to r turns at q; 0 where a run has no length."""
    size = math.dist(p, q) * math.dist(q, r)
    if size <= 0:
        return 0.0
    cosine = sum((b - a) * (c - b) for a, b, c in zip(p, q, r, strict=True)) / size
    return math.degrees(math.acos(max(-1.0, min(1.0, cosine))))


def skeleton_of(
    figure: Figure, points: Mapping[str, Sequence[float]], resting: frozenset[str] = frozenset()
) -> Skeleton:
    """Return the skeleton of ``figure`` with its nodes at ``points`` (mm)."""
    depth = {part.id: i for i, part in enumerate(figure.parents_first)}
    ordered = sorted(figure.nodes, key=lambda node: depth[node.part])
    twin: dict[str, str] = {}
    for a, b in itertools.combinations(figure.nodes, 2):
        mirrored = a.part == b.part and {a.side, b.side} == {"left", "right"}
        if mirrored and (a.along, a.out) == (b.along, b.out) and not {a.id, b.id} & twin.keys():
            twin[a.id], twin[b.id] = b.id, a.id
    bones = tuple(dict.fromkeys((bone.a, bone.b) for bone in figure.bones if bone.a != bone.b))
    return Skeleton(
        bones,
        {frozenset((bone.a, bone.b)): bone.strands for bone in figure.bones},
        {frozenset(bone): math.dist(points[bone[0]], points[bone[1]]) for bone in bones},
        points,
        twin,
        resting,
        tuple(node.id for node in ordered),
    )


def bone_part(figure: Figure) -> dict[Pair, str]:
    """Return the part each bone runs in."""
    node_part = {node.id: node.part for node in figure.nodes}
    return {frozenset((b.a, b.b)): b.part or node_part[b.b] for b in figure.bones}


def strands_on(figure: Figure) -> dict[Pair, int]:
    """Return how often the wires pass over each bone, all wires together."""
    count: dict[Pair, int] = {}
    for wire in figure.wires:
        for leg in itertools.pairwise(wire.route):
            count[frozenset(leg)] = count.get(frozenset(leg), 0) + 1
    return count


Route = tuple[str, ...]
"""The nodes of a walk, in order."""


def passes(routes: Sequence[Route]) -> dict[Pair, int]:
    """Return how often the routes pass over each bone."""
    count: dict[Pair, int] = {}
    for route in routes:
        for leg in itertools.pairwise(route):
            count[frozenset(leg)] = count.get(frozenset(leg), 0) + 1
    return count


def covering_walk(tree: Skeleton, already: Mapping[Pair, int] | None = None) -> Route | None:
    """Return the shortest single walk giving every bone its strands; see :func:`shortest_covering_walk`."""
    found = shortest_covering_walk(tree, already or {})
    return branch_tour(*found) if found else None


def shortest_covering_walk(
    tree: Skeleton, had: Mapping[Pair, int]
) -> tuple[Skeleton, list[str], dict[Pair, int]] | None:
    """Return the shortest single walk giving every bone its strands, less those it ``had``: the bones
    it passes, the path it is open along, and how often it passes each.

    A walk from u to v passes the bones between them an odd number of times and all others an even
    one; so each bone is rounded up to even, or to odd on the one path where that saves most. Bones
    that need nothing are passed only where they join the rest. None if nothing is to be covered.
    """
    need = {
        frozenset(bone): max(0, tree.strands[frozenset(bone)] - had.get(frozenset(bone), 0))
        for bone in tree.bones
    }
    bones = _joining_bones(list(tree.bones), need)
    if not bones:
        return None
    part = tree.restricted_to(bones)

    def cost(bone: Pair, n: int) -> float:
        all_told = n + had.get(bone, 0)
        return tree.lengths[bone] * n * take_up(all_told)

    pairs = [frozenset(bone) for bone in bones]
    even = {bone: _at_least(need[bone], 0) for bone in pairs}
    odd = {bone: _at_least(need[bone], 1) for bone in pairs}
    saves = {b: cost(b, even[b]) - cost(b, odd[b]) for b in even}
    open_path = _best_path(part, saves)
    on_path = {frozenset(leg) for leg in itertools.pairwise(open_path)}
    times = {b: odd[b] if b in on_path else even[b] for b in even}
    return part, open_path, times


def _at_least(need: int, parity: int) -> int:
    """Return the smallest number of passes above zero that is no less than ``need`` and has this parity."""
    n = max(need, 1)
    return n if n % 2 == parity else n + 1


def _joining_bones(bones: list[tuple[str, str]], need: Mapping[Pair, int]) -> list[tuple[str, str]]:
    """Return the bones that need strands and those that join them: idle ends are pruned away."""
    meeting: dict[str, set[str]] = {}
    for a, b in bones:
        meeting.setdefault(a, set()).add(b)
        meeting.setdefault(b, set()).add(a)
    idle = [node for node, others in meeting.items() if len(others) == 1]
    for end in idle:
        if len(meeting[end]) != 1:
            continue
        (inner,) = meeting[end]
        if not need[frozenset((end, inner))]:
            meeting[end].clear()
            meeting[inner].discard(end)
            if len(meeting[inner]) == 1:
                idle.append(inner)
    return [(a, b) for a, b in bones if b in meeting[a]]


def _best_path(tree: Skeleton, saves: Mapping[Pair, float]) -> list[str]:
    """Return the path of greatest total saving; of equals the first found. A lone node if none saves."""
    root = min(tree.neighbours, key=lambda node: tree.rank[node])
    order, parent = tree.outwards(root)
    down: dict[str, tuple[float, list[str]]] = {}
    best: tuple[float, list[str]] = (0.0, [root])
    for node in reversed(order):
        arms = [(0.0, [node])]
        for child in tree.neighbours[node]:
            if parent[child] == node and child != root:
                gain, way = down[child]
                arms.append((gain + saves[frozenset((node, child))], [node, *way]))
        arms.sort(key=lambda arm: -arm[0])
        down[node] = arms[0]
        over = arms[0][0] + (arms[1][0] if len(arms) > 1 else 0.0)
        if over > best[0] + 1e-9:
            across = arms[1][1][1:] if len(arms) > 1 else []
            best = (over, [*reversed(arms[0][1]), *across])
    return best[1]


def branch_tour(tree: Skeleton, path: Sequence[str], times: Mapping[Pair, int]) -> Route:
    """Return the walk along ``path`` that visits every branch on the way, out and back."""
    on_path, walk = set(path), [path[0]]

    def go(a: str, b: str, n: int) -> None:
        walk.extend((b, a)[i % 2] for i in range(n))

    def branches(node: str, parent: str | None) -> None:
        for other in _twins_together(tree, node):
            if other == parent or other in on_path:
                continue
            n = times[frozenset((node, other))]
            go(node, other, n - 2)
            walk.append(other)
            branches(other, node)
            walk.append(node)

    for i, node in enumerate(path):
        branches(node, path[i - 1] if i else None)
        if i + 1 < len(path):
            go(node, path[i + 1], times[frozenset((node, path[i + 1]))])
    return tuple(walk)


def _twins_together(tree: Skeleton, node: str) -> list[str]:
    """Return a node's neighbours with mirrored limbs one after the other."""
    ordered: list[str] = []
    for other in tree.neighbours[node]:
        if other not in ordered:
            ordered.append(other)
            twin = tree.twin.get(other)
            if twin in tree.neighbours[node] and twin not in ordered:
                ordered.append(twin)
    return ordered
