"""Limbs too thin for their wire, and what each way out of that would come to. See craft.md, 3."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterable, Mapping

from bambola.core.armature.gauge import Gauge
from bambola.core.armature.loads import BoneLoad
from bambola.core.armature.skeleton import Pair, bone_part, strands_on
from bambola.core.armature.strength import (
    WOUND_MM,
    bundle_mm,
    capacity_nmm,
    diameter_bearing,
    hidden_mm,
    stock_at_least,
)
from bambola.core.bench import Bench
from bambola.core.figure import Figure, Metal
from bambola.core.frozen import frozen
from bambola.core.solids import Placement


@frozen
class ThinLimb:
    """A limb too thin for its wire: thickness there and thickness needed, mm.

    ``fits_diameter`` is the stoutest stock that would hide in it, ``slim_mm`` the limb that hides the
    thinnest stock. ``fits_bears`` and ``slim_bears`` are how many times over they bear the weight,
    fingers apart. ``stronger`` is another metal that bears all and hides, with its diameter. ``fewer``
    is whether it asks for more than one strand. ``wound`` is the stock that hides under wool wound on with
    glue and how many times over that bears the weight (without limit where it is as stout as it should
    be), ``chenille`` how many times over stems do; None where that is no way out.
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
    wound: tuple[float, float] | None
    chenille: float | None


def thin_limbs(
    figure: Figure,
    placement: Placement,
    gauges: Mapping[str, Gauge],
    loads: Mapping[Pair, BoneLoad],
    bench: Bench,
    wound: frozenset[str] = frozenset(),
) -> tuple[ThinLimb, ...]:
    """Return limbs that cannot hide their wire: thinner than the bundle and 2.5 mm of wool each side, or what
    it takes where wool is ``wound`` on with glue."""
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
            needs = hidden_mm(bundle_mm(gauge.diameter, n * gauge.cores), part in wound)
            if limb < needs - 1e-6 and (part not in found or needs > found[part].needs_mm):
                room = (limb - hidden_mm(0.0)) / bundle_mm(1.0, n)
                fits = max((d for d in bench.wire_sizes if d <= room + 1e-9), default=None)
                slim = bench.wire_sizes[0]
                found[part] = ThinLimb(
                    part,
                    wire.id,
                    limb,
                    needs,
                    fits,
                    _times_stronger(gauge.metal, fits or 0.0, weight),
                    slim,
                    hidden_mm(bundle_mm(slim, n)),
                    _times_stronger(gauge.metal, slim, weight),
                    _find_stronger_metal(gauge, room, bench),
                    asked[bone] > 1,
                    _glued_wire_for(gauge, limb, n, weight, bench),
                    _in_stems(gauge, limb, n, weight, bench),
                )
    return tuple(found.values())


def _glued_wire_for(
    gauge: Gauge, limb: float, strands: int, weight_nmm: float, bench: Bench
) -> tuple[float, float] | None:
    """Return the stock (mm) that hides under wool wound on with glue, no stouter than needed, and what it
    bears."""
    room = min((limb - hidden_mm(0.0, wound=True)) / bundle_mm(1.0, strands), gauge.diameter)
    size = max((d for d in bench.wire_sizes if d <= room + 1e-9), default=None)
    if size is None or limb > WOUND_MM:
        return None
    stout = size >= gauge.diameter - 1e-9
    return size, math.inf if stout else _times_stronger(gauge.metal, size, weight_nmm)


def _in_stems(
    gauge: Gauge, limb: float, strands: int, weight_nmm: float, bench: Bench
) -> float | None:
    """Return how many times over chenille stems bear the weight, where they are known and hide."""
    stems = bench.chenille
    if stems is None or gauge.cores > 1:
        return None
    if limb < hidden_mm(bundle_mm(stems.diameter, strands * stems.cores)):
        return None
    return stems.cores * _times_stronger(stems.metal, stems.diameter, weight_nmm)


def _times_stronger(metal: Metal, diameter: float, weight_nmm: float) -> float:
    """Return how many times over a wire bears a moment."""
    return capacity_nmm(metal, diameter) / weight_nmm if weight_nmm > 1e-12 else math.inf


def _find_stronger_metal(gauge: Gauge, room: float, bench: Bench) -> tuple[Metal, float] | None:
    """Return another metal whose wire both bears what is needed and is no thicker than ``room`` mm."""
    moment = capacity_nmm(gauge.metal, gauge.needed)
    metals: Iterable[Metal] = ("half-hard brass", "soft steel")
    for metal in metals:
        size = stock_at_least(diameter_bearing(moment, metal), bench.wire_sizes)
        if metal != gauge.metal and size is not None and size <= room + 1e-9:
            return metal, size
    return None
