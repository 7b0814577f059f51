"""One wire that folds back at will."""

from __future__ import annotations

from bambola.core.armature.schools.school import School
from bambola.core.armature.skeleton import Skeleton
from bambola.core.armature.walks import Route, covering_walk


def continuous(tree: Skeleton) -> list[Route]:
    """Return the shortest single walk."""
    walk = covering_walk(tree)
    return [walk] if walk else []


SCHOOL = School(
    "continuous",
    continuous,
    ("one-long",),
)
