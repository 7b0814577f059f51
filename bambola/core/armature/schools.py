"""The schools of wiring: how wires are laid over a skeleton. A new one is a function and an entry here."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Mapping, Sequence

from bambola.core.armature.gauge import CHENILLE
from bambola.core.armature.skeleton import (
    Pair,
    Route,
    Skeleton,
    branch_tour,
    covering_walk,
    passes,
    shortest_covering_walk,
)
from bambola.core.armature.strength import take_up
from bambola.core.frozen import frozen


@frozen
class School:
    """A way of laying wires over a skeleton.

    ``lay`` gives the wires of one tree of bones: every bone with at least its strands, and of all ways the
    school has, one with the fewest joints and then the least wire. ``called`` names its wires in the order
    they are laid; where it is empty they are named by the limbs they run through. ``stock`` is what it is
    laid of, where that makes the school.
    """

    key: str
    lay: Callable[[Skeleton], list[Route]]
    called: tuple[str, ...] = ()
    stock: str | None = None


def hoops(tree: Skeleton) -> list[Route]:
    """Return the fewest wires that never fold back and give no bone more strands than it asks.

    The strands meeting at a node pair up with those of other bones; what cannot pair ends there. So
    :func:`least_ends` at every node is reached, and half their sum is the number of wires.
    """
    return _thread_strands(
        tree, {frozenset(bone): tree.strands[frozenset(bone)] for bone in tree.bones}
    )


def least_ends(strands: Sequence[int]) -> int:
    """Return wires that must end where bones with these strands meet, if none may fold back."""
    return max(sum(strands) % 2, 2 * max(strands) - sum(strands))


def _thread_strands(tree: Skeleton, times: Mapping[Pair, int]) -> list[Route]:
    """Return wires along the strands, each joined at every node to the strand that suits it best."""
    onward: dict[tuple[str, str, int], tuple[str, int]] = {}
    for node in tree.neighbours:
        counts = {other: times[frozenset((node, other))] for other in tree.neighbours[node]}
        used = dict.fromkeys(counts, 0)
        for a, b in _pair_strands(tree, node, counts):
            i, j = used[a], used[b]
            used[a], used[b] = i + 1, j + 1
            # Coming from a on strand i, the wire goes on to b on strand j, and the other way round.
            onward[(a, node, i)] = (b, j)
            onward[(b, node, j)] = (a, i)
    ended = [
        (other, node, i)
        for node in sorted(tree.neighbours, key=lambda n: tree.rank[n])
        for other in tree.neighbours[node]
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


def _pair_strands(tree: Skeleton, node: str, counts: Mapping[str, int]) -> list[tuple[str, str]]:
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


HOOPS = School("hoops", hoops)


CHENILLE_STEMS = School("chenille", hoops, stock=CHENILLE)


def continuous(tree: Skeleton) -> list[Route]:
    """Return the shortest single walk."""
    walk = covering_walk(tree)
    return [walk] if walk else []


CONTINUOUS = School(
    "continuous",
    continuous,
    ("one-long",),
)


def stems(tree: Skeleton) -> list[Route]:
    """Return one wire for each run of bones between joints; it folds where its bones need more strands."""
    stops = {node for node in tree.neighbours if len(tree.neighbours[node]) != 2}
    stops = stops or {min(tree.neighbours, key=lambda node: tree.rank[node])}
    routes: list[Route] = []
    used: set[Pair] = set()
    for start in sorted(stops, key=lambda node: tree.rank[node]):
        for towards in tree.neighbours[start]:
            if frozenset((start, towards)) in used:
                continue
            run = [start, towards]
            while run[-1] not in stops:
                run.append(next(n for n in tree.neighbours[run[-1]] if n != run[-2]))
            legs = list(itertools.pairwise(run))
            used |= {frozenset(leg) for leg in legs}
            walk = covering_walk(tree.restricted_to(legs))
            if walk:
                routes.append(walk)
    return routes


STEMS = School("stems", stems)


def crosspiece(tree: Skeleton) -> list[Route]:
    """Return one wire from hand to hand, and one over all the rest, folded back.

    The hands are the ends of a mirrored pair that does not bear on the ground, if there is one; else
    of any mirrored pair; else any two ends. Of several, those that need the least wire.
    """
    ends = sorted((n for n in tree.neighbours if tree.is_end(n)), key=lambda node: tree.rank[node])
    pairs = list(itertools.combinations(ends, 2))
    mirrored = [(a, b) for a, b in pairs if tree.twin.get(a) == b]
    free = [pair for pair in mirrored if not tree.resting & set(pair)]
    best: tuple[float, Route, tuple[Skeleton, list[str], dict[Pair, int]] | None] | None = None
    for a, b in free or mirrored or pairs:
        across = tuple(tree.path(a, b))
        once = passes([across])
        rest = shortest_covering_walk(tree, once)
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
    return [branch_tour(*best[2]), best[1]] if best[2] else [best[1]]


CROSSPIECE = School(
    "crosspiece",
    crosspiece,
    ("long", "crosspiece"),
)


COMPUTED: dict[str, School] = {
    school.key: school for school in (CONTINUOUS, HOOPS, CROSSPIECE, STEMS, CHENILLE_STEMS)
}
"""The schools that lay a figure's wires anew, by key."""
DRAWN = "drawn"
"""The maker's own routes, kept and only checked."""
SCHOOLS = (DRAWN, *COMPUTED)
DEFAULT_SCHOOL = HOOPS.key
"""The school of a skeleton on which no wire is drawn: fewest turns of the wire, limbs single."""


def stock_of(school: str) -> str | None:
    """Return what a school is laid of, where it says so."""
    return COMPUTED[school].stock if school in COMPUTED else None


def routes_for(skeleton: Skeleton, school: str) -> list[Route]:
    """Return the wires of ``school`` over ``skeleton``; each tree of it on its own. Deterministic."""
    found = [route for tree in skeleton.components() for route in COMPUTED[school].lay(tree)]
    # A bone that closes a ring cannot lie on a tree's walk: it gets a piece of its own.
    for a, b in skeleton.chords():
        there_and_back = [(a, b)[i % 2] for i in range(skeleton.strands[frozenset((a, b))] + 1)]
        found.append(tuple(there_and_back))
    return found
