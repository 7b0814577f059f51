"""Walks over bones: what a wire is before it has a length.

A wire is a walk over bones; it may *fold back* on itself at a node. Wires are bound to each other
where they meet, so a connected skeleton needs one joint fewer than it has wires.
"""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence

from bambola.core.armature.skeleton import Pair, Skeleton
from bambola.core.armature.strength import take_up

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
    bones = _joining(list(tree.bones), need)
    if not bones:
        return None
    part = tree.only(bones)

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


def _joining(bones: list[tuple[str, str]], need: Mapping[Pair, int]) -> list[tuple[str, str]]:
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
    root = min(tree.near, key=lambda node: tree.rank[node])
    order, parent = tree.outwards(root)
    down: dict[str, tuple[float, list[str]]] = {}
    best: tuple[float, list[str]] = (0.0, [root])
    for node in reversed(order):
        arms = [(0.0, [node])]
        for child in tree.near[node]:
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
    for other in tree.near[node]:
        if other not in ordered:
            ordered.append(other)
            twin = tree.twin.get(other)
            if twin in tree.near[node] and twin not in ordered:
                ordered.append(twin)
    return ordered
