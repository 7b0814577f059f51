"""How much each join bears when the figure is handled, against what its kind holds."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from bambola.core.figure import Figure, Join
from bambola.core.solids import Solids

SNATCH = 3.0
"""A figure picked up is jerked with three times its weight."""
GRAVITY = 9.81
ALLOWED_KPA = {"fringe": 4.0, "patch": 10.0, "scarf": 10.0, "peg": 40.0, "wire": 40.0}
"""What each kind of join bears (judged; to be corrected by the maker's tug tests)."""


@dataclass(frozen=True, slots=True)
class JoinStress:
    """A join and what it bears, kPa; ``carries_all`` if the whole figure hangs from it.

    ``was_kpa`` is what it bore at the size the figure was made.
    """

    part: str
    kind: Join
    stress_kpa: float
    allowed_kpa: float
    area_mm2: float
    carries_all: bool
    was_kpa: float = 0.0

    @property
    def holds(self) -> bool:
        """Whether the join bears its load."""
        return self.stress_kpa <= self.allowed_kpa


def join_for(join: JoinStress) -> Join:
    """The weakest join that bears what ``join`` bears now and is no less than is needed: the one it has,
    else wool over it, else a peg.

    What the figure is lifted by (its neck) gets a scarf, any other join a patch. A peg in the neck that
    was needed as made and no longer is falls away. Nothing here bears more than a peg.
    """
    wool: Join = "scarf" if join.carries_all else "patch"
    if join.kind == "peg" and join.carries_all:
        needless = join.was_kpa > ALLOWED_KPA[wool] >= join.stress_kpa
        return wool if needless else "peg"
    if join.holds:
        return join.kind
    return wool if join.stress_kpa <= ALLOWED_KPA[wool] else "peg"


def join_stresses(
    solids: Solids,
    masses: Sequence[tuple[str, float, tuple[float, float, float]]],
    joins: Mapping[str, Join],
) -> tuple[JoinStress, ...]:
    """Stress of every join to the part everything sits on; ``masses`` are (part, g, centre mm).

    The part that bears the datum (a head, as a rule) is what a figure is picked up by: its join
    carries all the rest. Any other carries its own weight. Both with a snatch factor of 3, plus
    bending from the part's own weight in the pose: force / area + moment / (π d³ / 32), in
    mN/mm² = kPa, with d the diameter of a round join of that area.
    """
    figure = solids.placement.figure
    branch = {part.id: _branch(figure, part.id) for part in figure.parts}
    top = branch[figure.datum.part] if figure.datum.part else None
    total = sum(grams for _, grams, _ in masses)
    borne: dict[str | None, list[tuple[float, tuple[float, float, float]]]] = {}
    for name, grams, at in masses:
        borne.setdefault(branch[name], []).append((grams, at))
    by_copy = list(zip(solids.placement.copies, solids.measured, strict=True))
    found = []
    for part in figure.parts:
        if part.parent is None or figure.by_id[part.parent].parent is not None or part.garment:
            continue
        copies = [(copy, solid) for copy, solid in by_copy if copy.part is part]
        area = min(solid.join_mm2 for _, solid in copies)
        if area <= 0:
            continue
        own = borne.get(part.id, [])
        grams = sum(g for g, _ in own) / len(copies)
        carries_all = part.id == top
        force = SNATCH * (total - grams if carries_all else grams) * GRAVITY
        lever = _level_lever(copies[0][0].matrix[:3, 3].tolist(), own) if len(copies) == 1 else 0.0
        d = math.sqrt(4 * area / math.pi)
        bending = grams * GRAVITY * lever / (math.pi * d**3 / 32)
        kind = joins.get(part.id, part.join)
        found.append(
            JoinStress(part.id, kind, force / area + bending, ALLOWED_KPA[kind], area, carries_all)
        )
    return tuple(found)


def _branch(figure: Figure, part: str) -> str | None:
    """The part joined to the root through which ``part`` hangs, or None for the root itself."""
    at = figure.by_id[part]
    while at.parent is not None:
        if figure.by_id[at.parent].parent is None:
            return at.id
        at = figure.by_id[at.parent]
    return None


def _level_lever(
    seat: Sequence[float], own: Sequence[tuple[float, tuple[float, float, float]]]
) -> float:
    """Distance (mm) seen from above between a seat and the centre of what hangs from it."""
    grams = sum(g for g, _ in own)
    if grams <= 0:
        return 0.0
    x, y = (sum(g * at[k] for g, at in own) / grams for k in range(2))
    return math.hypot(x - seat[0], y - seat[1])
