"""Wires never fold back and none is doubled: each limb's goes over the spine into its twin's.

The spine has a wire of its own.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from bambola.core.armature.schools.school import School
from bambola.core.armature.skeleton import Pair, Skeleton
from bambola.core.armature.walks import Route


def hoops(tree: Skeleton) -> list[Route]:
    """Return the fewest wires that never fold back and give no bone more strands than it asks.

    The strands meeting at a node pair up with those of other bones; what cannot pair ends there. So
    :func:`least_ends` at every node is reached, and half their sum is the number of wires.
    """
    return _threaded(tree, {frozenset(bone): tree.strands[frozenset(bone)] for bone in tree.bones})


def least_ends(strands: Sequence[int]) -> int:
    """Return wires that must end where bones with these strands meet, if none may fold back."""
    return max(sum(strands) % 2, 2 * max(strands) - sum(strands))


def _threaded(tree: Skeleton, times: Mapping[Pair, int]) -> list[Route]:
    """Return wires along the strands, each joined at every node to the strand that suits it best."""
    onward: dict[tuple[str, str, int], tuple[str, int]] = {}
    for node in tree.near:
        counts = {other: times[frozenset((node, other))] for other in tree.near[node]}
        used = dict.fromkeys(counts, 0)
        for a, b in _pairing(tree, node, counts):
            i, j = used[a], used[b]
            used[a], used[b] = i + 1, j + 1
            # Coming from a on strand i, the wire goes on to b on strand j, and the other way round.
            onward[(a, node, i)] = (b, j)
            onward[(b, node, j)] = (a, i)
    ended = [
        (other, node, i)
        for node in sorted(tree.near, key=lambda n: tree.rank[n])
        for other in tree.near[node]
        for i in range(times[frozenset((node, other))])
        if (other, node, i) not in onward
    ]
    routes: list[Route] = []
    done: set[tuple[str, str, int]] = set()
    for end in ended:
        if end in done:
            continue
        # Leave the end backwards: from its node towards the neighbour it came from.
        came, here, strand = end
        walk = [here]
        done.add(end)
        at, towards, i = here, came, strand
        while True:
            walk.append(towards)
            step = onward.get((at, towards, i))
            if step is None:
                done.add((at, towards, i))
                break
            at, (towards, i) = towards, step
        routes.append(tuple(walk))
    return sorted(routes, key=lambda route: (-_spine_share(tree, route), tree.rank[route[0]]))


def _spine_share(tree: Skeleton, route: Route) -> int:
    """Return the wire that keeps to the middle leads: how many of its nodes have no mirror image."""
    return int(not any(node in tree.twin for node in route))


def _pairing(tree: Skeleton, node: str, counts: Mapping[str, int]) -> list[tuple[str, str]]:
    """Return which strands go through to which at a node, leaving as few ends as can be.

    Mirrored limbs go through to each other, then the straightest ways. Exhaustive with what was
    already worked out remembered: few strands meet at one node.
    """
    names = sorted(counts, key=lambda n: tree.rank[n])
    known: dict[tuple[int, ...], tuple[int, float, tuple[tuple[int, int], ...]]] = {}

    def best(left: tuple[int, ...]) -> tuple[int, float, tuple[tuple[int, int], ...]]:
        if left in known:
            return known[left]
        i = next((k for k, n in enumerate(left) if n), None)
        if i is None:
            return (0, 0.0, ())
        one_less = (*left[:i], left[i] - 1, *left[i + 1 :])
        ends, bent, pairs = best(one_less)
        found = (ends + 1, bent, pairs)
        for j in range(i + 1, len(left)):
            if one_less[j]:
                rest = (*one_less[:j], one_less[j] - 1, *one_less[j + 1 :])
                ends, bent, pairs = best(rest)
                a, b = names[i], names[j]
                turn = 0.0 if tree.twin.get(a) == b else 1.0 + tree.bend(a, node, b)
                found = min(found, (ends, bent + turn, ((i, j), *pairs)))
        known[left] = found
        return found

    pairs = best(tuple(counts[name] for name in names))[2]
    return [(names[i], names[j]) for i, j in pairs]


SCHOOL = School("hoops", hoops)
