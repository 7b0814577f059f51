"""The wire skeleton: routes over it, what each bone bears, how stout, how long, out of what stock."""

from bambola.core.armature.cuts import (
    Allowance,
    Bend,
    CutWire,
    Stretch,
    cut_wires,
    end_mm,
    stub_mm,
    wire_grams,
    wire_in_parts,
)
from bambola.core.armature.gauge import (
    CHENILLE,
    Gauge,
    ThinLimb,
    Yardstick,
    gauge_wires,
    needed_moments,
    stock_name,
    thin_limbs,
    yardstick_of,
)
from bambola.core.armature.loads import (
    BoneLoad,
    Mass,
    Rigging,
    Support,
    bone_loads,
    mass_along,
    rig,
)
from bambola.core.armature.schools import SCHOOLS, routes_for
from bambola.core.armature.skeleton import Skeleton, bone_part, skeleton_of, strands_on
from bambola.core.armature.splicing import CutPiece
from bambola.core.armature.stock import Piece, StockCut, cutting_plan, longest_piece
from bambola.core.armature.strength import (
    METAL_DENSITY,
    bundle_mm,
    capacity_nmm,
    diameter_bearing,
    stock_at_least,
)
from bambola.core.armature.walks import wire_length
from bambola.core.armature.wiring import (
    joint_count,
    loose_wires,
    missing_strands,
    school_of,
    wired_by,
    wired_through,
)

__all__ = [
    "CHENILLE",
    "METAL_DENSITY",
    "SCHOOLS",
    "Allowance",
    "Bend",
    "BoneLoad",
    "CutPiece",
    "CutWire",
    "Gauge",
    "Mass",
    "Piece",
    "Rigging",
    "Skeleton",
    "StockCut",
    "Stretch",
    "Support",
    "ThinLimb",
    "Yardstick",
    "bone_loads",
    "bone_part",
    "bundle_mm",
    "capacity_nmm",
    "cut_wires",
    "cutting_plan",
    "diameter_bearing",
    "end_mm",
    "gauge_wires",
    "joint_count",
    "longest_piece",
    "loose_wires",
    "mass_along",
    "missing_strands",
    "needed_moments",
    "rig",
    "routes_for",
    "school_of",
    "skeleton_of",
    "stock_at_least",
    "stock_name",
    "strands_on",
    "stub_mm",
    "thin_limbs",
    "wire_grams",
    "wire_in_parts",
    "wire_length",
    "wired_by",
    "wired_through",
    "yardstick_of",
]
