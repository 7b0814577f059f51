"""The wire skeleton: how long, how stout, bent where."""

from bambola.core.armature.cuts import (
    Allowance,
    Bend,
    CutWire,
    StockCut,
    ThinLimb,
    cut_wires,
    gauge_wires,
    path_length,
    stock_cuts,
    thin_limbs,
    wire_in_parts,
    without_wire_in,
)
from bambola.core.armature.strength import Mass, bundle_mm, wire_moments

__all__ = [
    "Allowance", "Bend", "CutWire", "Mass", "StockCut", "ThinLimb", "bundle_mm", "cut_wires",
    "gauge_wires", "path_length", "stock_cuts", "thin_limbs", "wire_in_parts", "wire_moments",
    "without_wire_in",
]  # fmt: skip
