"""The load of each join when the figure is handled, compared with the strength of its kind."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from bambola.core.figure import Figure, Join
from bambola.core.frozen import frozen
from bambola.core.quantities import GRAVITY
from bambola.core.solids import Copy, CopySolid, Solids

SNATCH = 3.0
"""A figure picked up is jerked with three times its weight. See craft.md, 4."""
ALLOWED_KPA = {"fringe": 4.0, "patch": 10.0, "scarf": 10.0, "peg": 40.0, "wire": 40.0}
"""What each kind of join bears (judged; to be corrected by the maker's tug tests). See craft.md, 4."""


@frozen
class JoinStress:
    """A join and its stress, kPa; ``carries_all`` if the whole figure hangs from it. ``was_kpa`` is its
    stress at the size the figure was made, joined as ``was_kind``."""

    part: str
    kind: Join
    stress_kpa: float
    allowed_kpa: float
    area_mm2: float
    carries_all: bool
    was_kpa: float = 0.0
    was_kind: Join | None = None

    @property
    def held_before(self) -> float | None:
        """The safety factor of the join as made; None if unknown."""
        if self.was_kind is None or self.was_kpa <= 0:
            return None
        return ALLOWED_KPA[self.was_kind] / self.was_kpa

    @property
    def holds(self) -> bool:
        """Whether the join bears its load."""
        return self.stress_kpa <= self.allowed_kpa


def join_for(join: JoinStress) -> Join:
    """Return the weakest join that bears what ``join`` bears now and is no less than is needed: the one it
    has, else wool over it, else a peg.

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


Lump = tuple[str, str | None, float, tuple[float, float, float]]
"""Something that weighs: the part it is on, its side (None: unknown, or in the middle), g, and where (mm)."""


_Hung = tuple[str | None, float, tuple[float, float, float]]
"""What hangs from a join: its side, g, and where."""


def join_stresses(
    solids: Solids,
    masses: Sequence[Lump],
    joins: Mapping[str, Join],
    before: Mapping[str, JoinStress],
) -> tuple[JoinStress, ...]:
    """Return the stress of every join, and what it bore ``before``; of a pair or more, of the copy that bears
    most.

    The part that bears the datum (a head, as a rule) is what a figure is picked up by: the joins between it
    and what everything sits on carry all that hangs below them. Any other carries its part with what hangs
    beyond. Both with a snatch factor of 3, plus bending from what hangs beyond in the pose:
    force / area + moment / (π d³ / 32), in mN/mm² = kPa, with d the diameter of a round join of that area.
    """
    figure = solids.placement.figure
    lifted = _chain_of_bearers(figure, figure.datum.part)
    total = sum(grams for _, _, grams, _ in masses)
    beyond = _hanging_beyond(figure, masses)
    by_copy: dict[str, list[tuple[Copy, CopySolid]]] = {}
    for copy, solid in zip(solids.placement.copies, solids.measured, strict=True):
        by_copy.setdefault(copy.part.id, []).append((copy, solid))
    found = []
    for part in figure.parts:
        if part.parent is None or part.garment or part.stuff or figure.by_id[part.parent].stuff:
            continue
        carries_all, kind = part.id in lifted, joins.get(part.id, part.join)
        copies = by_copy.get(part.id, [])
        borne = [
            (
                _join_stress(
                    copy,
                    solid.join_mm2,
                    len(copies),
                    sum(other.side == copy.side for other, _ in copies),
                    beyond[part.id],
                    total if carries_all else None,
                ),
                solid.join_mm2,
            )
            for copy, solid in copies
            if solid.join_mm2 > 0
        ]
        if borne:
            stress, area = max(borne, key=lambda b: b[0])
            was = before.get(part.id)
            told = (was.stress_kpa, was.kind) if was else (0.0, None)
            found.append(
                JoinStress(part.id, kind, stress, ALLOWED_KPA[kind], area, carries_all, *told)
            )
    return tuple(found)


def _join_stress(
    copy: Copy,
    area: float,
    copies: int,
    alike: int,
    beyond: Sequence[_Hung],
    lifted: float | None,
) -> float:
    """Return what the join of one copy of ``copies`` bears (kPa) of what hangs ``beyond`` them all, or of
    what is left of the ``lifted`` grams where the figure is picked up by it. ``alike`` of them are a row on
    its side."""
    own = [
        (grams if side == copy.side else grams / copies, at)
        for side, grams, at in beyond
        if side == copy.side or side is None or copy.side is None
    ]
    if alike > 1:  # in a row each bears the one lump that is its own
        here = copy.matrix[:3, 3].tolist()
        own = [min(own, key=lambda lump: math.dist(lump[1], here))]
    grams = sum(g for g, _ in own)
    force = SNATCH * (grams if lifted is None else lifted - grams) * GRAVITY
    moment = grams * GRAVITY * _level_lever(copy.matrix[:3, 3].tolist(), own)
    d = math.sqrt(4 * area / math.pi)
    return force / area + moment / (math.pi * d**3 / 32)


def _chain_of_bearers(figure: Figure, part: str | None) -> set[str]:
    """Return ``part`` and all its bearers, except the one everything sits on."""
    found: set[str] = set()
    while part is not None and (parent := figure.by_id[part].parent) is not None:
        found.add(part)
        part = parent
    return found


def _hanging_beyond(figure: Figure, masses: Sequence[Lump]) -> dict[str, list[_Hung]]:
    """Return what hangs beyond each part's join: what sits on it, directly or indirectly."""
    found: dict[str, list[_Hung]] = {part.id: [] for part in figure.parts}
    for name, side, grams, at in masses:
        part: str | None = name
        while part is not None:
            found[part].append((side, grams, at))
            part = figure.by_id[part].parent
    return found


def _level_lever(
    seat: Sequence[float], own: Sequence[tuple[float, tuple[float, float, float]]]
) -> float:
    """Return the horizontal distance (mm) between a seat and the centre of what hangs from it."""
    grams = sum(g for g, _ in own)
    if grams <= 0:
        return 0.0
    x, y = (sum(g * at[k] for g, at in own) / grams for k in range(2))
    return math.hypot(x - seat[0], y - seat[1])
