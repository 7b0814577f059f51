"""How stout a wire must be: moments old and new, and the smallest stock that reaches them.

The same metal holds as well as before when its diameter follows the cube root of the bending
moment (plastic moment of a round wire: yield × d³ / 6 a strand). A limb may be posed any way up,
so its moment is taken with the limb held level: mass beyond the joint times the distance to its
centre. Being posed by fingers is the same force on a longer lever.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from bambola.core.figure import Figure, Wire
from bambola.core.solids import Placement

METAL_DENSITY = {
    "soft aluminium": 2.70, "soft copper": 8.96, "half-hard brass": 8.50, "soft steel": 7.85,
}  # fmt: skip
"""g/cm³ of the metals themselves."""

BUNDLE = {1: 1.0, 2: 2.0, 3: 2.15, 4: 2.41}
"""Diameter of a bundle of twisted strands, in diameters of one."""
TAKE_UP = {1: 1.0, 2: 1.06, 3: 1.09, 4: 1.12}
"""Length of wire per length of a twisted bundle."""
HIDE_MM = 2.5
"""Wool needed on each side of a wire so that it is neither seen nor felt."""


@dataclass(frozen=True, slots=True)
class Mass:
    """A lump of the figure: grams, its centre in mm, and the copy of a part it belongs to."""

    grams: float
    centre: tuple[float, float, float]
    part: str
    side: str | None


def bundle_mm(diameter: float, strands: int) -> float:
    """Thickness (mm) of ``strands`` twisted wires; beyond four, packed as densely as four."""
    return diameter * BUNDLE.get(strands, 2.41 * math.sqrt(strands / 4))


def take_up(strands: int) -> float:
    """Length of wire per length of bone; beyond four strands as four."""
    return TAKE_UP[min(max(strands, 1), 4)]


def strands_on(figure: Figure) -> dict[frozenset[str], int]:
    """How often the wires pass over each bone, all wires together."""
    count: dict[frozenset[str], int] = {}
    for wire in figure.wires:
        for leg in zip(wire.route, wire.route[1:], strict=False):
            count[frozenset(leg)] = count.get(frozenset(leg), 0) + 1
    return count


def bone_part(figure: Figure) -> dict[frozenset[str], str]:
    """The part each bone runs in."""
    node_part = {node.id: node.part for node in figure.nodes}
    return {frozenset((b.a, b.b)): b.part or node_part[b.b] for b in figure.bones}


def wire_moments(
    figure: Figure, placement: Placement, masses: Sequence[Mass]
) -> dict[str, dict[frozenset[str], float]]:
    """For every wire, the level-held moment (g·mm) about the nearer node of each bone it passes.

    What a bone carries is the part it runs in with all that sits on it; a bone in the part
    everything sits on carries the whole figure.
    """
    nodes = {node.id: node for node in figure.nodes}
    where = bone_part(figure)
    first = {frozenset((b.a, b.b)): b.a for b in figure.bones}
    moments: dict[str, dict[frozenset[str], float]] = {}
    for wire in figure.wires:
        rows = moments[wire.id] = {}
        for leg in zip(wire.route, wire.route[1:], strict=False):
            bone = frozenset(leg)
            if bone in rows:
                continue
            near = nodes[first[bone]]
            far = next(nodes[n] for n in bone if n != near.id) if len(bone) > 1 else near
            carried = _carried(placement, where[bone], far.side, masses)
            grams = sum(mass.grams for mass in carried)
            if grams <= 0:
                continue
            centre = [sum(m.grams * m.centre[k] for m in carried) / grams for k in range(3)]
            rows[bone] = grams * math.dist(centre, placement.nodes[near.id])
    return moments


def _carried(
    placement: Placement, part: str, side: str | None, masses: Iterable[Mass]
) -> list[Mass]:
    figure = placement.figure
    if figure.by_id[part].parent is None:
        return list(masses)
    below = {part}
    for candidate in figure.parents_first:
        if candidate.parent in below:
            below.add(candidate.id)
    return [m for m in masses if m.part in below and (side is None or m.side in (None, side))]


def needed_diameter(
    wire: Wire,
    old: Mapping[frozenset[str], float],
    new: Mapping[frozenset[str], float],
    lever: float,
) -> tuple[float, str]:
    """The diameter (mm) that holds as well as before, and the reason that governs.

    ``lever`` is the ratio of the wire's path lengths, new to old.
    """
    weights = [new[bone] / old[bone] for bone in old if old[bone] > 0 and bone in new]
    weight = max(weights, default=lever**4)
    ratio, why = (weight, "its own weight") if weight >= lever else (lever, "posing by fingers")
    return wire.diameter * ratio ** (1 / 3), why


def stock_at_least(diameter: float, sizes: Iterable[float]) -> float | None:
    """The smallest stock (mm) reaching ``diameter``; None if the stoutest is too thin."""
    return next((size for size in sizes if size >= diameter * (1 - 1e-3)), None)
