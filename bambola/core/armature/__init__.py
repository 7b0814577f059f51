"""The wire skeleton: routes, loads, gauges, lengths, and the stock they are cut from."""

from bambola.core.armature.cuts import (
    Allowance,
    Bend,
    CutPiece,
    CutStretch,
    CutWire,
    cut_wires,
    end_mm,
    stub_mm,
    wire_grams,
    wire_in_parts,
)
from bambola.core.armature.gauge import (
    CHENILLE,
    ENOUGH,
    ChosenWire,
    FeltRoundBone,
    Gauge,
    WireNeed,
    Yardstick,
    felts_of,
    gauge_wires,
    needs_of,
    spring_backs,
    stock_name,
    will_do,
    yardstick_of,
)
from bambola.core.armature.loads import (
    BoneLoad,
    Mass,
    Rigging,
    Support,
    bone_loads,
    mass_along,
    rig_figure,
)
from bambola.core.armature.schools import SCHOOLS, routes_for, stock_of
from bambola.core.armature.skeleton import Skeleton, bone_part, skeleton_of, strands_on
from bambola.core.armature.stock import (
    StockCut,
    StockPiece,
    cutting_plan,
    longest_piece,
    stock_called,
)
from bambola.core.armature.strength import (
    PROPERTIES,
    bundle_mm,
    capacity_nmm,
    diameter_bearing,
    stock_at_least,
)
from bambola.core.armature.thin import ThinLimb, thin_limbs
from bambola.core.armature.wiring import (
    joint_count,
    loose_wires,
    missing_strands,
    school_of,
    wired_by,
    wired_through,
    with_second_strands,
)
