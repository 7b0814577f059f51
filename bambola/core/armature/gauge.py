"""How stout each wire must be: the loads old and new, and the smallest stock that bears them.

The same metal holds as well as before when its diameter follows the cube root of the bending moment,
since a round wire bears yield × d³ / 6. Being posed by fingers is the same force on a longer lever.
A wire that was not there before has nothing to be compared with: it bears 2.5 times its moment.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from bambola.core.armature.loads import BoneLoad
from bambola.core.armature.skeleton import Pair, bone_part, strands_on
from bambola.core.armature.strength import (
    HIDE_MM,
    METAL_DENSITY,
    RESERVE,
    bundle_mm,
    capacity_nmm,
    diameter_bearing,
    stock_at_least,
)
from bambola.core.bench import Bench, WireStock
from bambola.core.figure import Figure, Metal, Wire
from bambola.core.solids import Placement

OWN_WEIGHT, FINGERS, ABSOLUTE = "its own weight", "posing by fingers", "what hangs on it"
CHENILLE = "chenille"
"""The answer of a maker who works with chenille stems."""


@dataclass(frozen=True, slots=True)
class Gauge:
    """What a wire is made of: stock, the diameter it needs (mm) and why; ``cores`` wires in one.

    ``holds`` is the share of what is needed that it bears, at the bone where that is least.
    """

    metal: Metal
    diameter: float
    needed: float
    why: str
    cores: int = 1
    holds: float = 1.0


@dataclass(frozen=True)
class Yardstick:
    """What the figure's drawn wires bore at the size it was made."""

    wires: Mapping[str, Wire]
    capacity: Mapping[Pair, float]
    loads: Mapping[Pair, BoneLoad]


def yardstick_of(figure: Figure, loads: Mapping[Pair, BoneLoad]) -> Yardstick:
    """The yardstick of a figure as it was made, with its bones' loads."""
    capacity: dict[Pair, float] = {}
    for wire in figure.wires:
        for leg in itertools.pairwise(wire.route):
            bone = frozenset(leg)
            capacity[bone] = capacity.get(bone, 0.0) + capacity_nmm(wire.metal, wire.diameter)
    return Yardstick({wire.id: wire for wire in figure.wires}, capacity, loads)


def growth(old: BoneLoad, new: BoneLoad) -> tuple[float, str]:
    """By how much more a bone must bear than before, and what governs it."""
    weight = new.design_nmm / old.design_nmm if old.design_nmm > 1e-12 else 0.0
    fingers = new.lever_mm / old.lever_mm if old.lever_mm > 1e-9 else 0.0
    return (weight, OWN_WEIGHT) if weight >= fingers else (fingers, FINGERS)


def needed_moments(loads: Mapping[Pair, BoneLoad], old: Yardstick) -> dict[Pair, tuple[float, str]]:
    """The plastic moment (N·mm) each bone's wires must have, and what governs it."""
    found = {}
    for bone, load in loads.items():
        before = old.loads.get(bone)
        if before is not None and old.capacity.get(bone, 0.0) > 0:
            ratio, why = growth(before, load)
            found[bone] = (old.capacity[bone] * ratio, why)
        else:
            found[bone] = (RESERVE * load.design_nmm, ABSOLUTE)
    return found


def gauge_wires(
    figure: Figure,
    loads: Mapping[Pair, BoneLoad],
    old: Yardstick,
    bench: Bench,
    material: str | None = None,
    chosen: Mapping[str, float] | None = None,
    metals: Mapping[str, str] | None = None,
) -> dict[str, Gauge]:
    """The gauge of every wire: of ``material`` (a metal or chenille) if one is wished, of the
    diameters (mm) and ``metals`` the maker has ``chosen`` for some.
    """
    strands = strands_on(figure)
    needs = needed_moments(loads, old)
    stems = bench.chenille if material == CHENILLE else None
    found = {}
    for wire in figure.wires:
        metal = stems.metal if stems else _metal((metals or {}).get(wire.id, material), wire)
        need, why = _needed(wire, metal, strands, needs, old, loads)
        pick = (chosen or {}).get(wire.id)
        if stems:
            diameter, cores = stems.diameter, stems.cores
        else:
            diameter = pick or stock_at_least(need, bench.wire_sizes) or bench.wire_sizes[-1]
            cores = 1
        holds = min(1.0, cores * (diameter / need) ** 3) if need > 0 else 1.0
        found[wire.id] = Gauge(metal, diameter, need, why, cores, holds)
    return found


def _metal(material: str | None, wire: Wire) -> Metal:
    return next((metal for metal in METAL_DENSITY if metal == material), wire.metal)


def _needed(
    wire: Wire,
    metal: Metal,
    strands: Mapping[Pair, int],
    needs: Mapping[Pair, tuple[float, str]],
    old: Yardstick,
    loads: Mapping[Pair, BoneLoad],
) -> tuple[float, str]:
    """The diameter (mm) that does on every bone the wire passes, and what governs it."""
    before = old.wires.get(wire.id)
    most, governs = 0.0, OWN_WEIGHT
    for leg in itertools.pairwise(wire.route):
        bone = frozenset(leg)
        if bone not in needs:
            continue
        moment, why = needs[bone]
        same = before is not None and before.metal == metal and bone in old.loads
        if before is not None and same and old.capacity.get(bone, 0.0) > 0:
            # A drawn wire is compared with itself, whatever else runs beside it.
            ratio, why = growth(old.loads[bone], loads[bone])
            need = before.diameter * ratio ** (1 / 3)
        else:
            need = diameter_bearing(moment, metal, strands[bone])
        if need > most:
            most, governs = need, why
    return most, governs


@dataclass(frozen=True, slots=True)
class ThinLimb:
    """A limb too thin for its wire: thickness there and thickness needed, mm.

    ``fits_diameter`` is the stoutest stock that would hide in it, ``slim_mm`` the limb that hides the
    thinnest stock. ``fits_bears`` and ``slim_bears`` are how many times over they bear the weight,
    fingers apart. ``stronger`` is another metal that bears all and hides, with its diameter. ``fewer``
    is whether it asks for more than one strand.
    """

    part: str
    wire: str
    limb_mm: float
    needs_mm: float
    fits_diameter: float | None
    fits_bears: float
    slim_diameter: float
    slim_mm: float
    slim_bears: float
    stronger: tuple[Metal, float] | None
    fewer: bool


def thin_limbs(
    figure: Figure,
    placement: Placement,
    gauges: Mapping[str, Gauge],
    loads: Mapping[Pair, BoneLoad],
    bench: Bench,
) -> tuple[ThinLimb, ...]:
    """Limbs that cannot hide their wire: thinner than the bundle and 2.5 mm of wool each side."""
    strands, where = strands_on(figure), bone_part(figure)
    asked = {frozenset((bone.a, bone.b)): bone.strands for bone in figure.bones}
    found: dict[str, ThinLimb] = {}
    for wire in figure.wires:
        gauge = gauges[wire.id]
        bones = [frozenset(leg) for leg in itertools.pairwise(wire.route)]
        weight = max((loads[b].design_nmm / strands[b] for b in bones if b in loads), default=0.0)
        for bone in bones:
            part, n = where[bone], strands[bone]
            limb = min(copy.shape.thinnest_mm for copy in placement.copies_of(part))
            needs = bundle_mm(gauge.diameter, n * gauge.cores) + 2 * HIDE_MM
            if limb < needs - 1e-6 and (part not in found or needs > found[part].needs_mm):
                room = (limb - 2 * HIDE_MM) / bundle_mm(1.0, n)
                fits = max((d for d in bench.wire_sizes if d <= room + 1e-9), default=None)
                slim = bench.wire_sizes[0]
                found[part] = ThinLimb(
                    part,
                    wire.id,
                    limb,
                    needs,
                    fits,
                    _times(gauge.metal, fits or 0.0, weight),
                    slim,
                    bundle_mm(slim, n) + 2 * HIDE_MM,
                    _times(gauge.metal, slim, weight),
                    _stronger(gauge, room, bench),
                    asked[bone] > 1,
                )
    return tuple(found.values())


def _times(metal: Metal, diameter: float, weight_nmm: float) -> float:
    """How many times over a wire bears a moment."""
    return capacity_nmm(metal, diameter) / weight_nmm if weight_nmm > 1e-12 else math.inf


def _stronger(gauge: Gauge, room: float, bench: Bench) -> tuple[Metal, float] | None:
    """Another metal whose wire both bears what is needed and is no thicker than ``room`` mm."""
    moment = capacity_nmm(gauge.metal, gauge.needed)
    metals: Iterable[Metal] = ("half-hard brass", "soft steel")
    for metal in metals:
        size = stock_at_least(diameter_bearing(moment, metal), bench.wire_sizes)
        if metal != gauge.metal and size is not None and size <= room + 1e-9:
            return metal, size
    return None


def stock_name(gauge: Gauge, stock: Sequence[WireStock] = ()) -> str:
    """What the maker asks for: the metal, or the name of the stems it comes as."""
    if gauge.cores == 1:
        return gauge.metal
    return next((s.name for s in stock if s.cores == gauge.cores), f"{gauge.cores} × {gauge.metal}")
