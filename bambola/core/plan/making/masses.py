"""Everything that has weight: wool, fittings and wire, as lumps with their centres."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping, Sequence
from types import MappingProxyType

import numpy as np

from bambola.core.armature import Gauge, Mass, mass_along, wire_grams, wire_in_parts
from bambola.core.figure import Figure, Join
from bambola.core.solids import Placement, Solids
from bambola.core.solids.meshes import mesh_of
from bambola.core.wool import PartWool


def wool_masses(
    solids: Solids, wool: Mapping[str, PartWool], found: Mapping[str, float] = MappingProxyType({})
) -> list[Mass]:
    """Return the wool of every copy, in the order of the copies; the ``found`` weight of a finished part
    replaces the computed one."""
    return [
        Mass(
            found.get(copy.part.id, wool[copy.part.id].grams),
            (at[0], at[1], at[2]),
            copy.part.id,
            copy.side,
        )
        for copy, at in zip(solids.placement.copies, solids.centroids.tolist(), strict=True)
    ]


def fitting_masses(solids: Solids) -> list[Mass]:
    """Return the fittings and bought garments that have weight."""
    worn = [
        Mass(copy.part.garment.mass, (at[0], at[1], at[2]), copy.part.id, copy.side)
        for copy, at in zip(solids.placement.copies, solids.centroids.tolist(), strict=True)
        if copy.part.garment and copy.part.garment.bought and copy.part.garment.mass > 0
    ]
    return worn + [
        Mass(
            placed.fitting.mass,
            tuple((placed.matrix[:3, 3] + placed.matrix[:3, 2] * placed.fitting.size / 2).tolist()),
            placed.fitting.part,
            placed.side,
        )
        for placed in solids.placement.fittings
        if placed.fitting.mass > 0
    ]


def hidden_in_parts(placement: Placement, gauges: Mapping[str, Gauge]) -> dict[str, float]:
    """Return the volume (mm³) of wire and hard cores within one copy of each part."""
    volume = wire_in_parts(placement, gauges) if gauges else {}
    for fitting in placement.figure.fittings:
        if fitting.kind == "core":
            hard = sum(mesh_of(piece.shape).volume for piece in fitting.pieces)
            volume[fitting.part] = volume.get(fitting.part, 0.0) + hard
    return volume


def gauged_masses(placement: Placement, gauges: Mapping[str, Gauge]) -> list[Mass]:
    """Return the weights of the wires along their bones, before they are cut."""
    figure = placement.figure
    rows = []
    for wire in figure.wires:
        points = [tuple(placement.nodes[n].tolist()) for n in wire.route]
        length = sum(math.dist(a, b) for a, b in itertools.pairwise(points))
        rows.append((wire.route, points, wire_grams(gauges[wire.id], length)))
    return mass_along(rows, figure)


def centre_of(masses: Sequence[Mass]) -> np.ndarray:
    """Return the common centre (3,) of lumps, mm."""
    grams = np.array([m.grams for m in masses])
    found: np.ndarray = (
        grams @ np.array([m.centre for m in masses]) / max(float(grams.sum()), 1e-12)
    )
    return found


def held_by(figure: Figure, joins: Mapping[str, Join]) -> dict[str, Join]:
    """Return the strongest means in each join: a wire through it, or what the maker chose."""
    nodes = {node.id: node.part for node in figure.nodes}
    through: set[str] = set()
    for wire in figure.wires:
        for a, b in itertools.pairwise(wire.route):
            if nodes[a] != nodes[b]:
                through |= {nodes[a], nodes[b]}
        if wire.stub:
            through.add(wire.stub)
    return {part: "wire" if part in through else kind for part, kind in joins.items()}
