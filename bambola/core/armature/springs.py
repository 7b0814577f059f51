"""What the felt round a wire asks of it: posed, a limb of felt springs back, and its wire has to hold it.

A round of felt of radius r and length L that is bent by θ pulls back with E π r⁴ / 4 × θ / L.
"""

from __future__ import annotations

import math
from collections.abc import Mapping

import numpy as np

from bambola.core.armature.skeleton import Pair, bone_part
from bambola.core.figure import Figure, Firmness, Part
from bambola.core.frozen import frozen
from bambola.core.solids import Copy, Placement

FELT_MPA: dict[Firmness, float] = {"soft": 0.04, "medium": 0.10, "firm": 0.20, "hard": 0.30}
"""How stiff felt is in bending, N/mm². Judged. See craft.md, 3."""
POSED_DEG = 60.0
"""As far as a limb is posed at a joint; a stubby one less. Judged. See craft.md, 3."""
STUBBY = 6.0
"""A bone shorter than so many radii of its felt is bent in proportion less. Judged."""
POSED_LENGTHS = 1.5
"""A part so many times as long as it is thick is a limb, neck or tail: it is posed. Judged."""


@frozen
class FeltRoundBone:
    """The felt round one bone that does not lie in the trunk: its part, how thick that is (``part_mm``), the
    mean radius along the bone (mm), and whether it is posed."""

    part: str
    part_mm: float
    radius: float
    posed: bool


def felts_of(figure: Figure, placement: Placement) -> dict[Pair, FeltRoundBone]:
    """Return the felt round every bone, but for those of the trunk (the part that everything sits on)."""
    nodes = {node.id: node for node in figure.nodes}
    found = {}
    for bone, name in bone_part(figure).items():
        part = figure.by_id[name]
        if part.parent is None:
            continue
        own = [nodes[node] for node in bone if nodes[node].part == name]
        side = next((node.side for node in own if node.side), None)
        copies = placement.copies_of(name)
        copy = next((copy for copy in copies if copy.side == side), copies[0])
        along = sorted(node.along for node in own)
        radius = _radius(copy, along[0] if len(along) > 1 else 0.0, along[-1] if along else 1.0)
        thin = part.shape.smallest_mm
        found[bone] = FeltRoundBone(name, thin, radius, is_posed(part))
    return found


def is_posed(part: Part) -> bool:
    """Return whether a part is a limb, neck or tail: it has a length, and is longer than it is thick."""
    length = part.shape.measures().get("length", 0.0)
    return not part.shape.flat and length >= POSED_LENGTHS * part.shape.smallest_mm


def _radius(copy: Copy, start: float, end: float) -> float:
    """Return the mean radius (mm) of a copy along its axis from ``start`` to ``end``."""
    places = [start + share * (end - start) for share in (0.25, 0.5, 0.75)]
    return float(
        np.mean([np.linalg.norm(copy.point(at, 0.0, 1.0) - copy.point(at)) for at in places])
    )


def bent_nmm(firmness: Firmness, radius: float, length: float) -> float:
    """Return the moment (N·mm) of a round of felt of ``radius`` and ``length`` mm that is posed."""
    if radius <= 0 or length <= 0:
        return 0.0
    turn = math.radians(POSED_DEG) * min(1.0, length / (STUBBY * radius))
    return FELT_MPA[firmness] * math.pi * radius**4 / 4 * turn / length


def spring_backs(
    felts: Mapping[Pair, FeltRoundBone], figure: Figure, placement: Placement
) -> dict[Pair, float]:
    """Return the moment (N·mm) with which the felt round every posed bone pulls back at its size in
    ``figure``."""
    found = {}
    for bone, felt in felts.items():
        if felt.posed:
            part = figure.by_id[felt.part]
            a, b = (placement.nodes[node] for node in bone)
            radius = felt.radius * part.shape.smallest_mm / felt.part_mm
            found[bone] = bent_nmm(part.firmness, radius, float(np.linalg.norm(a - b)))
    return found
