"""Shapes to solids: places, volumes, exposed skin, outlines."""

from bambola.core.solids.measure import CopySolid, Solids, measure_solids, outlines
from bambola.core.solids.meshes import Mesh, mesh_of, solid_of
from bambola.core.solids.patches import covered
from bambola.core.solids.placement import Copy, PlacedFitting, Placement, place
from bambola.core.solids.snap import snapped

__all__ = [
    "Copy", "CopySolid", "Mesh", "PlacedFitting", "Placement", "Solids", "covered",
    "measure_solids", "mesh_of", "outlines", "place", "snapped", "solid_of",
]  # fmt: skip
