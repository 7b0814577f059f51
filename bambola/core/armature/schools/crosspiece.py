"""One wire that does not fold, from hand to hand, and one that may, head to foot."""

from __future__ import annotations

import itertools
import math

from bambola.core.armature.schools.school import School
from bambola.core.armature.skeleton import Pair, Skeleton
from bambola.core.armature.strength import take_up
from bambola.core.armature.walks import Route, branch_tour, passes, shortest_covering_walk


def crosspiece(tree: Skeleton) -> list[Route]:
    """Return one wire from hand to hand, and one over all the rest, folded back.

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


SCHOOL = School(
    "crosspiece",
    crosspiece,
    ("long", "crosspiece"),
)
