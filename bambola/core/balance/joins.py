"""How much each join bears when the figure is handled, against what its kind holds."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from bambola.core.figure import Figure
from bambola.core.solids import Solids

SNATCH = 3.0
"""A figure picked up is jerked with three times its weight."""
GRAVITY = 9.81
ALLOWED_KPA = {"fringe": 4.0, "patch": 10.0, "scarf": 10.0, "peg": 40.0, "wire": 40.0}
"""What each kind of join bears (judged; to be corrected by the maker's tug tests)."""


@dataclass(frozen=True, slots=True)
class JoinStress:
    """A join and what it bears, kPa; ``carries_all`` if the whole figure hangs from it."""

    part: str
    kind: str
    stress_kpa: float
    allowed_kpa: float
    area_mm2: float
    carries_all: bool

    @property
    def holds(self) -> bool:
        """Whether the join bears its load."""
        return self.stress_kpa <= self.allowed_kpa


def join_stresses(
    solids: Solids, masses: Sequence[tuple[str, float, np.ndarray]], joins: Mapping[str, str]
) -> tuple[JoinStress, ...]:
    """Stress of every join to the part everything sits on; ``masses`` are (part, g, centre mm).

    The part that bears the datum (a head, as a rule) is what a figure is picked up by: its join
    carries all the rest. Any other carries its own weight. Both with a snatch factor of 3, plus
    bending from the part's own weight in the pose: force / area + moment / (π d³ / 32), in
    mN/mm² = kPa, with d the diameter of a round join of that area.
    """
    figure = solids.placement.figure
    top = _branch(figure, figure.datum.part) if figure.datum.part else None
    total = sum(grams for _, grams, _ in masses)
    found = []
    for part in figure.parts:
        if part.parent is None or figure.by_id[part.parent].parent is not None or part.garment:
            continue
        copies = solids.of(part.id)
        area = min(solid.join_mm2 for _, solid in copies)
        if area <= 0:
            continue
        own = [(g, at) for name, g, at in masses if _branch(figure, name) == part.id]
        grams = sum(g for g, _ in own) / len(copies)
        carries_all = part.id == top
        force = SNATCH * (total - grams if carries_all else grams) * GRAVITY
        lever = _level_lever(copies[0][0].matrix[:3, 3], own) if len(copies) == 1 else 0.0
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


def _level_lever(seat: np.ndarray, own: Sequence[tuple[float, np.ndarray]]) -> float:
    grams = sum(g for g, _ in own)
    if grams <= 0:
        return 0.0
    centre = sum((g * at for g, at in own), np.zeros(3)) / grams
    return float(np.linalg.norm((centre - seat)[:2]))
