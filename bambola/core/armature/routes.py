"""Routes: which wires walk over which bones, in the four schools.

A wire is a walk over bones; it may *fold back* on itself at a node. Wires are bound to each other
where they meet, so a connected skeleton needs one joint fewer than it has wires. All schools cover
every bone with at least its strands; among the routes of a school those with the fewest joints are
best, then those with the least wire (lengths with the take-up of twisted strands).

- *continuous*: one wire that folds back at will.
- *hoops*: wires never fold back and none is doubled: each limb's wire goes over the spine into its
  twin's, and the spine has one of its own.
- *crosspiece*: one wire that does not fold, from hand to hand, and one that may, head to foot.
- *stems*: no wire passes a joint of three or more bones; each limb has its own.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Mapping, Sequence

from bambola.core.armature.skeleton import Pair, Skeleton
from bambola.core.armature.strength import take_up

Route = tuple[str, ...]
"""The nodes of a walk, in order."""


def routes_for(skeleton: Skeleton, school: str) -> list[Route]:
    """The wires of ``school`` over ``skeleton``; each tree of it on its own. Deterministic."""
    lay: dict[str, Callable[[Skeleton], list[Route]]] = {
        "continuous": _continuous, "hoops": hoops, "crosspiece": crosspiece, "stems": stems,
    }  # fmt: skip
    found = [route for tree in skeleton.components() for route in lay[school](tree)]
    # A bone that closes a ring cannot lie on a tree's walk: it gets a piece of its own.
    for a, b in skeleton.chords():
        there_and_back = [(a, b)[i % 2] for i in range(skeleton.strands[frozenset((a, b))] + 1)]
        found.append(tuple(there_and_back))
    return found


def passes(routes: Sequence[Route]) -> dict[Pair, int]:
    """How often the routes pass over each bone."""
    count: dict[Pair, int] = {}
    for route in routes:
        for leg in itertools.pairwise(route):
            count[frozenset(leg)] = count.get(frozenset(leg), 0) + 1
    return count


def wire_length(skeleton: Skeleton, routes: Sequence[Route]) -> float:
    """Length (mm) of all routes together, with the take-up of twisted strands."""
    return sum(skeleton.lengths[bone] * n * take_up(n) for bone, n in passes(routes).items())


def _continuous(tree: Skeleton) -> list[Route]:
    walk = covering_walk(tree)
    return [walk] if walk else []


def covering_walk(tree: Skeleton, already: Mapping[Pair, int] | None = None) -> Route | None:
    """The shortest single walk giving every bone its strands; see :func:`_covering`."""
    found = _covering(tree, already or {})
    return _tour(*found) if found else None


def _covering(
    tree: Skeleton, had: Mapping[Pair, int]
) -> tuple[Skeleton, list[str], dict[Pair, int]] | None:
    """The shortest single walk giving every bone its strands, less those it ``had``: the bones
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
    """The smallest number of passes above zero that is no less than ``need`` and has this parity."""
    n = max(need, 1)
    return n if n % 2 == parity else n + 1


def _joining(bones: list[tuple[str, str]], need: Mapping[Pair, int]) -> list[tuple[str, str]]:
    """The bones that need strands and those that join them: idle ends are pruned away."""
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
    """The path of greatest total saving; of equals the first found. A lone node if none saves."""
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


def _tour(tree: Skeleton, path: Sequence[str], times: Mapping[Pair, int]) -> Route:
    """The walk along ``path`` that visits every branch on the way, out and back."""
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
    """A node's neighbours with mirrored limbs one after the other."""
    ordered: list[str] = []
    for other in tree.near[node]:
        if other not in ordered:
            ordered.append(other)
            twin = tree.twin.get(other)
            if twin in tree.near[node] and twin not in ordered:
                ordered.append(twin)
    return ordered


def crosspiece(tree: Skeleton) -> list[Route]:
    """One wire from hand to hand, and one over all the rest, folded back.

    The hands are the ends of a mirrored pair that does not bear on the ground, if there is one; else
    of any mirrored pair; else any two ends. Of several, those that need the least wire.
    """
    ends = sorted((n for n in tree.near if tree.is_end(n)), key=lambda node: tree.rank[node])
    pairs = list(itertools.combinations(ends, 2))
    mirrored = [(a, b) for a, b in pairs if tree.twin.get(a) == b]
    free = [pair for pair in mirrored if not tree.resting & set(pair)]
    best: tuple[float, Route, tuple[Skeleton, list[str], dict[Pair, int]] | None] | None = None
    for a, b in free or mirrored or pairs:
        across = tuple(tree.path(a, b))
        once = passes([across])
        rest = _covering(tree, once)
        again = rest[2] if rest else {}
        wire = sum(
            tree.lengths[bone] * (n := once.get(bone, 0) + again.get(bone, 0)) * take_up(n)
            for bone in {**once, **again}
        )
        # One wire that does for all needs no joint, and so is better than any two.
        wire = wire if rest else -math.inf
        if best is None or wire < best[0] - 1e-9:
            best = (wire, across, rest)
    if best is None:
        return []
    return [_tour(*best[2]), best[1]] if best[2] else [best[1]]


def stems(tree: Skeleton) -> list[Route]:
    """One wire for each run of bones between joints; it folds where its bones need more strands."""
    stops = {node for node in tree.near if len(tree.near[node]) != 2}
    stops = stops or {min(tree.near, key=lambda node: tree.rank[node])}
    routes: list[Route] = []
    used: set[Pair] = set()
    for start in sorted(stops, key=lambda node: tree.rank[node]):
        for towards in tree.near[start]:
            if frozenset((start, towards)) in used:
                continue
            run = [start, towards]
            while run[-1] not in stops:
                run.append(next(n for n in tree.near[run[-1]] if n != run[-2]))
            legs = list(itertools.pairwise(run))
            used |= {frozenset(leg) for leg in legs}
            walk = covering_walk(tree.only(legs))
            if walk:
                routes.append(walk)
    return routes


def hoops(tree: Skeleton) -> list[Route]:
    """The fewest wires that never fold back and give no bone more strands than it asks.

    The strands meeting at a node pair up with those of other bones; what cannot pair ends there. So
    :func:`least_ends` at every node is reached, and half their sum is the number of wires.
    """
    return _threaded(tree, {frozenset(bone): tree.strands[frozenset(bone)] for bone in tree.bones})


def least_ends(strands: Sequence[int]) -> int:
    """Wires that must end where bones with these strands meet, if none may fold back."""
    return max(sum(strands) % 2, 2 * max(strands) - sum(strands))


def _threaded(tree: Skeleton, times: Mapping[Pair, int]) -> list[Route]:
    """Wires along the strands, each joined at every node to the strand that suits it best."""
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
    """The wire that keeps to the middle leads: how many of its nodes have no mirror image."""
    return int(not any(node in tree.twin for node in route))


def _pairing(tree: Skeleton, node: str, counts: Mapping[str, int]) -> list[tuple[str, str]]:
    """Which strands go through to which at a node, leaving as few ends as can be.

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
