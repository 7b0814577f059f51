"""Turns shapes into solids: places, volumes, exposed skin, outlines."""

from bambola.core.solids.copy_solid import CopySolid
from bambola.core.solids.edit import own_copy
from bambola.core.solids.lengthwise import VisibleShape, shown_of
from bambola.core.solids.measure import (
    MeasuringCancelledError,
    Solids,
    measure_solids,
    measured_before,
)
from bambola.core.solids.meshes import Detail, Mesh, mesh_of, solid_of
from bambola.core.solids.outlines import AXES, outline_of_copy, outlines
from bambola.core.solids.placement import Copy, PlacedFitting, Placement, place
from bambola.core.solids.touch import frame_along, nearest_seat, reseat, seat_for, tilt_of
