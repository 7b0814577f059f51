"""The schools of wiring, one file each."""

from __future__ import annotations

from bambola.core.armature.schools import chenille, continuous, crosspiece, hoops, stems
from bambola.core.armature.schools.school import School
from bambola.core.armature.skeleton import Skeleton
from bambola.core.armature.walks import Route

COMPUTED: dict[str, School] = {
    module.SCHOOL.key: module.SCHOOL for module in (continuous, hoops, crosspiece, stems, chenille)
}
"""The schools that lay a figure's wires anew, by key."""
DRAWN = "drawn"
"""The maker's own routes, kept and only checked."""
SCHOOLS = (DRAWN, *COMPUTED)
DEFAULT_SCHOOL = hoops.SCHOOL.key
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
