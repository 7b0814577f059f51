"""No wire passes a joint of three or more bones; each limb has its own."""

from __future__ import annotations

import itertools

from bambola.core.armature.schools.school import School
from bambola.core.armature.skeleton import Pair, Skeleton
from bambola.core.armature.walks import Route, covering_walk


def stems(tree: Skeleton) -> list[Route]:
    """Return one wire for each run of bones between joints; it folds where its bones need more strands."""
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


SCHOOL = School("stems", stems)
