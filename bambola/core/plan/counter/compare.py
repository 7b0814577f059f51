"""The schools of wiring side by side: what each would take for this figure."""

from __future__ import annotations

from bambola.core.armature import SCHOOLS, school_of
from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure
from bambola.core.frozen import frozen
from bambola.core.plan.make import make_plan

Point = tuple[float, float, float]


@frozen
class SchoolChoice:
    """One school: its wires as polylines (mm), its joints (bindings and splices), its mm of wire, and the mm
    of bone passed more often than asked; whether wire must be bought for it, and whether it is in use."""

    school: str
    wires: tuple[tuple[Point, ...], ...]
    joints: int
    wire_mm: float
    spare_mm: float
    buys: bool
    chosen: bool


def compare_school(figure: Figure, brief: Brief, bench: Bench, school: str) -> SchoolChoice:
    """Return what ``school`` would take for this figure and brief."""
    plan = make_plan(figure, brief.schooled("wire", school), bench)
    wires = [wire for wire in plan.wires if wire.id in plan.gauges]
    splices = sum(len(wire.pieces) - 1 for wire in wires)
    runs = [s for wire in wires for s in wire.stretches if s.kind == "run"]
    asked = {frozenset((bone.a, bone.b)): bone.strands_asked for bone in plan.bones}
    seen: dict[frozenset[str], tuple[int, float]] = {}
    for run in runs:
        bone = frozenset((run.a, run.b))
        seen[bone] = (seen.get(bone, (0, 0.0))[0] + 1, run.bone_mm)
    spare = sum(max(0, n - asked.get(bone, n)) * mm for bone, (n, mm) in seen.items())
    return SchoolChoice(
        plan.wire_school,
        tuple(wire.points_mm for wire in wires),
        plan.wire_joints + splices,
        sum(wire.cut_mm for wire in wires),
        spare,
        any(cut.to_buy for cut in plan.cutting),
        plan.wire_school == school_of(figure, brief.schools.get("wire")),
    )


def schools_of(figure: Figure) -> tuple[str, ...]:
    """Return the schools a figure can be wired by; ``drawn`` only if it has drawn routes."""
    if not figure.bones:
        return ()
    return SCHOOLS if figure.wires else SCHOOLS[1:]
