"""How stout each wire must be: enough for its load, and never stouter than needed to be as steady as the
figure that worked.

At the size the figure was made, the maker's wire stays. Elsewhere *enough* bears the weight beyond each bone
with a reserve, a finger at the limb's end, and in posed limbs the felt that springs back. *As steady as
before* keeps the ratio of capacity to load: a round wire bears yield × d³ / 6, so d goes by the cube root.
See craft.md, 3.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from bambola.core.armature.loads import BoneLoad
from bambola.core.armature.skeleton import Pair, bone_part, strands_on
from bambola.core.armature.strength import (
    PROPERTIES,
    RESERVE,
    STOCK_SLACK,
    bundle_mm,
    capacity_nmm,
    diameter_bearing,
    hidden_mm,
    metal_name,
    stock_at_least,
)
from bambola.core.bench import Bench, WireStock
from bambola.core.facts import Fact, fact
from bambola.core.figure import Figure, Firmness, Metal, Part, Wire
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
        radius = _mean_radius(
            copy, along[0] if len(along) > 1 else 0.0, along[-1] if along else 1.0
        )
        thin = part.shape.smallest_mm
        found[bone] = FeltRoundBone(name, thin, radius, is_posed(part))
    return found


def is_posed(part: Part) -> bool:
    """Return whether a part is a limb, neck or tail: it has a length, and is longer than it is thick."""
    length = part.shape.measures().get("length", 0.0)
    return not part.shape.flat and length >= POSED_LENGTHS * part.shape.smallest_mm


def _mean_radius(copy: Copy, start: float, end: float) -> float:
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


OWN_WEIGHT, FINGERS, SPRINGS, AS_STEADY, AS_DRAWN, AS_MADE, HIDDEN = (
    Fact(f"wire.for-{of}")
    for of in ("own-weight", "fingers", "springs", "as-steady", "as-drawn", "as-made", "hidden")
)
"""What decides how stout a wire is."""
CHENILLE = "chenille"
"""The answer of a maker who works with chenille stems."""
FINGER_N = 0.3
"""What a finger presses at the end of a limb. Judged. See craft.md, 3."""
SPRING_RESERVE = 1.5
"""A wire bears so many times what the felt springs back with. See craft.md, 3."""
ENOUGH = 0.9
"""Stock that bears so much of what is asked for will do. See craft.md, 3."""
STOUTER = 1.3
"""Wire on the shelf is taken though it is so many times as stout as is needed: about one size of stock.
Judged. See craft.md, 3."""
SAME_SIZE = 0.01
"""A figure made again within so much of its size has the wire it had: no hand felts closer. Judged. See
craft.md, 3."""


@frozen
class Gauge:
    """What a wire is made of: stock, the diameter it needs (mm) and why; ``cores`` wires in one.

    ``holds`` is the share of what is needed that it bears, at the bone where that is least. ``steady`` is
    the diameter (mm) at which it would be as steady as before; None where there was no such wire.
    """

    metal: Metal
    diameter: float
    needed: float
    why: Fact
    cores: int = 1
    holds: float = 1.0
    steady: float | None = None

    @property
    def stiffness(self) -> float | None:
        """Its capacity as a share of what would be as steady as before."""
        if self.steady is None or self.steady <= 0:
            return None
        return self.cores * (self.diameter / self.steady) ** 3

    @property
    def by_hand(self) -> bool:
        """Whether fingers bend it."""
        return self.diameter <= PROPERTIES[self.metal].by_hand_mm + 1e-9


@dataclass(frozen=True)
class Yardstick:
    """The capacities of the figure's drawn wires at the size it was made, and the felt round its bones."""

    wires: Mapping[str, Wire]
    capacity: Mapping[Pair, float]
    loads: Mapping[Pair, BoneLoad]
    felts: Mapping[Pair, FeltRoundBone]


def yardstick_of(
    figure: Figure, loads: Mapping[Pair, BoneLoad], felts: Mapping[Pair, FeltRoundBone]
) -> Yardstick:
    """Return the yardstick of a figure as it was made, with its bones' loads."""
    capacity: dict[Pair, float] = {}
    for wire in figure.wires:
        for leg in itertools.pairwise(wire.route):
            bone = frozenset(leg)
            capacity[bone] = capacity.get(bone, 0.0) + capacity_nmm(wire.metal, wire.diameter)
    return Yardstick({wire.id: wire for wire in figure.wires}, capacity, loads, felts)


def load_growth(old: BoneLoad, new: BoneLoad) -> float:
    """Return the growth of a bone's load since the figure was made: by weight, or by fingers on its lever."""
    weight = new.design_nmm / old.design_nmm if old.design_nmm > 1e-12 else 0.0
    fingers = new.lever_mm / old.lever_mm if old.lever_mm > 1e-9 else 0.0
    return max(weight, fingers)


@frozen
class WireNeed:
    """What the wires of one bone must bear (N·mm), and why; what is ``enough`` for their ``cause``, and
    ``steady``, as steady as before (None where there was no wire)."""

    moment: float
    why: Fact
    enough: float
    cause: Fact
    steady: float | None


def needs_of(
    loads: Mapping[Pair, BoneLoad], old: Yardstick, springs: Mapping[Pair, float], scale: float
) -> dict[Pair, WireNeed]:
    """Return what each bone's wires must bear at ``scale``; ``springs`` is what the felt of posed ones pulls
    with."""
    found = {}
    for bone, load in loads.items():
        enough, cause = _moment_needed(bone, load, old, springs)
        before, bore = old.loads.get(bone), old.capacity.get(bone, 0.0)
        if before is None or bore <= 0:
            found[bone] = WireNeed(enough, cause, enough, cause, None)
            continue
        steady = bore * load_growth(before, load)
        moment, why = _clamp_to_drawn(enough, cause, steady, bore * min(1.0, scale) ** 3)
        found[bone] = WireNeed(moment, why, enough, cause, steady)
    return found


def _moment_needed(
    bone: Pair, load: BoneLoad, old: Yardstick, springs: Mapping[Pair, float]
) -> tuple[float, Fact]:
    """Return the moment (N·mm) that is enough for a bone; in the trunk nobody poses it."""
    asked = [(RESERVE * load.design_nmm, OWN_WEIGHT)]
    if bone in old.felts:
        asked += [
            (FINGER_N * load.lever_mm, FINGERS),
            (SPRING_RESERVE * springs.get(bone, 0.0), SPRINGS),
        ]
    return max(asked, key=lambda row: row[0])


def _clamp_to_drawn(enough: float, why: Fact, steady: float, drawn: float) -> tuple[float, Fact]:
    """Return what is enough, but at least what the drawn wire shrinks to and at most what is as steady as
    before."""
    if drawn > enough:
        enough, why = drawn, AS_DRAWN
    return (steady, AS_STEADY) if steady < enough else (enough, why)


@dataclass(frozen=True)
class ChosenWire:
    """What the maker has chosen of the wire: a material (a metal or chenille), diameters (mm) and materials
    by wire, wires with a second strand beside them, and parts in which wool is wound on with glue."""

    material: str | None = None
    diameters: Mapping[str, float] = field(default_factory=dict)
    materials: Mapping[str, str] = field(default_factory=dict)
    doubled: frozenset[str] = frozenset()
    wound: frozenset[str] = frozenset()


def gauge_wires(
    figure: Figure,
    needs: Mapping[Pair, WireNeed],
    old: Yardstick,
    bench: Bench,
    scale: float,
    limbs_mm: Mapping[str, float],
    chosen: ChosenWire = ChosenWire(),
) -> dict[str, Gauge]:
    """Return the gauge of every wire at ``scale``. ``limbs_mm`` is how thick each part is where it is
    thinnest."""
    strands, where = strands_on(figure), bone_part(figure)
    found = {}
    for wire in figure.wires:
        material = chosen.materials.get(wire.id, chosen.material)
        stems = bench.chenille if material == CHENILLE else None
        metal = stems.metal if stems else _find_metal(material, wire)
        # Beside a second strand it bears half as much as alone, and is not compared with itself.
        drawn = None if wire.id in chosen.doubled else old.wires.get(wire.id)
        asked = _wanted_diameters(wire, drawn, metal, strands, needs, old, scale)
        pick = chosen.diameters.get(wire.id)
        if stems:
            found[wire.id] = _gauge_with_share(metal, stems.diameter, asked, stems.cores)
        elif pick:
            found[wire.id] = _gauge_with_share(metal, pick, asked)
        elif drawn is not None and drawn.metal == metal and abs(scale - 1) < SAME_SIZE:
            found[wire.id] = Gauge(
                metal, drawn.diameter, drawn.diameter, AS_MADE, steady=drawn.diameter
            )
        else:
            room = _largest_hidden_wire(wire, strands, where, limbs_mm, chosen.wound)
            found[wire.id] = _pick_from_stock(metal, asked, room, bench)
    return found


@frozen
class _WantedDiameters:
    """Diameters (mm) of one wire: what it should be and why, what is enough, what is as steady as before."""

    needed: float
    why: Fact
    enough: float
    steady: float | None


def _wanted_diameters(
    wire: Wire,
    before: Wire | None,
    metal: Metal,
    strands: Mapping[Pair, int],
    needs: Mapping[Pair, WireNeed],
    old: Yardstick,
    scale: float,
) -> _WantedDiameters:
    """Return the wanted diameters for the bone that needs the stoutest wire; ``before`` is the wire as
    drawn."""
    needed, governs, enough = 0.0, OWN_WEIGHT, 0.0
    steady: float | None = None
    for leg in itertools.pairwise(wire.route):
        bone = frozenset(leg)
        if bone not in needs:
            continue
        need = needs[bone]
        least = diameter_bearing(need.enough, metal, strands[bone])
        if before is not None and before.metal == metal and need.steady is not None:
            # A drawn wire is compared with itself, whatever else runs beside it.
            as_steady = before.diameter * (need.steady / old.capacity[bone]) ** (1 / 3)
            mm, why = _clamp_to_drawn(
                least, need.cause, as_steady, before.diameter * min(1.0, scale)
            )
            steady = max(as_steady, steady or 0.0)
        else:
            mm, why = diameter_bearing(need.moment, metal, strands[bone]), need.why
            if need.steady is not None:
                steady = max(diameter_bearing(need.steady, metal, strands[bone]), steady or 0.0)
        enough = max(enough, least)
        if mm > needed:
            needed, governs = mm, why
    return _WantedDiameters(needed, governs, enough, steady)


def _gauge_with_share(
    metal: Metal, diameter: float, asked: _WantedDiameters, cores: int = 1
) -> Gauge:
    holds = min(1.0, cores * (diameter / asked.needed) ** 3) if asked.needed > 0 else 1.0
    return Gauge(metal, diameter, asked.needed, asked.why, cores, holds, asked.steady)


def _pick_from_stock(metal: Metal, asked: _WantedDiameters, room: float, bench: Bench) -> Gauge:
    """Return the smallest stock that will do, the shelf first if visible stock hides in the limb and is
    enough."""
    sizes = bench.wire_sizes
    diameter = _from_shelf(metal, asked.needed, room, bench)
    if diameter > room + 1e-9:
        will = [size for size in sizes if nearly_enough_mm(asked.enough) <= size <= diameter]
        hides = [size for size in will if size <= room + 1e-9]
        # Where nothing that is enough hides, it is asked about; what shows least is planned meanwhile.
        if will:
            thinner = hides[-1] if hides else will[0]
            return _gauge_with_share(
                metal, thinner, replace(asked, needed=asked.enough, why=HIDDEN)
            )
    return _gauge_with_share(metal, diameter, asked)


def nearly_enough_mm(diameter: float) -> float:
    """Return the diameter (mm) of a slightly thinner wire that will still do in place of ``diameter``."""
    return float(diameter * ENOUGH ** (1 / 3))


def will_do(diameter: float, sizes: Iterable[float]) -> float | None:
    """Return the smallest stock (mm) that bears nearly what ``diameter`` does; None if the stoutest is too
    thin."""
    return stock_at_least(nearly_enough_mm(diameter), sizes)


def does_for(size: float) -> float:
    """Return the stoutest wire (mm) that stock of ``size`` can replace: the inverse of :func:`will_do`."""
    return size / (nearly_enough_mm(1.0) * (1 - STOCK_SLACK))


def on_shelf(metal: Metal, bench: Bench) -> frozenset[float]:
    """Return the diameters (mm) of single wires of a metal that lie on the shelf."""
    stock = bench.wire_stock
    return frozenset(s.diameter for s in stock if s.metal == metal and s.cores == 1 and s.metres_mm)


def _from_shelf(metal: Metal, needed: float, room: float, bench: Bench) -> float:
    """Return the smallest stock that will do; or the next stouter one if only that is on the shelf, hides,
    bends by fingers and is not much stouter than ``needed``."""
    sizes, there = bench.wire_sizes, on_shelf(metal, bench)
    size = will_do(needed, sizes) or sizes[-1]
    stouter = next((mm for mm in sizes if mm > size + 1e-9), size)
    fits = stouter <= min(room, PROPERTIES[metal].by_hand_mm, STOUTER * needed) + 1e-9
    return stouter if fits and size not in there and stouter in there else size


def _largest_hidden_wire(
    wire: Wire,
    strands: Mapping[Pair, int],
    where: Mapping[Pair, str],
    limbs_mm: Mapping[str, float],
    wound: frozenset[str],
) -> float:
    """Return the stoutest wire (mm) that hides in every part it passes."""
    bones = [frozenset(leg) for leg in itertools.pairwise(wire.route)]
    return min(
        (
            (limbs_mm[where[bone]] - hidden_mm(0.0, where[bone] in wound))
            / bundle_mm(1.0, strands[bone])
            for bone in bones
            if bone in where
        ),
        default=math.inf,
    )


def _find_metal(material: str | None, wire: Wire) -> Metal:
    return next((metal for metal in PROPERTIES if metal == material), wire.metal)


def stock_name(gauge: Gauge, stock: Sequence[WireStock] = ()) -> Fact:
    """Return the name to ask for in a shop: the metal, or the stems it is sold as."""
    if gauge.cores == 1:
        return metal_name(gauge.metal)
    named = next((s.name for s in stock if s.cores == gauge.cores), None)
    if named is not None:
        return fact("named", name=named)
    return fact("stock.cores", cores=str(gauge.cores), metal=metal_name(gauge.metal))
