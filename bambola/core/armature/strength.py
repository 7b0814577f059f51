"""Metals and bundles: how much a wire bears, weighs and takes up, and what hides it."""

from __future__ import annotations

import math
from collections.abc import Iterable

from bambola.core.bench.wools import HIDE_MM
from bambola.core.facts import Fact
from bambola.core.figure import Metal
from bambola.core.frozen import frozen


@frozen
class MetalProperties:
    """``density`` (g/cm³) of a metal, the stress at which it bends and stays bent (``yield_mpa``), and the
    stoutest wire of it that fingers bend (``by_hand_mm``); beyond that pliers do."""

    density: float
    yield_mpa: float
    by_hand_mm: float


PROPERTIES: dict[Metal, MetalProperties] = {
    "soft aluminium": MetalProperties(2.70, 45.0, 3.0),
    "soft copper": MetalProperties(8.96, 70.0, 2.0),
    "half-hard brass": MetalProperties(8.50, 200.0, 1.2),
    "soft steel": MetalProperties(7.85, 250.0, 1.2),
}
"""All that is known of each metal. What fingers bend is judged. See craft.md, 3."""

BUNDLE = {1: 1.0, 2: 2.0, 3: 2.15, 4: 2.41}
"""Diameter of a bundle of twisted strands, in diameters of one. See craft.md, 3."""
TAKE_UP = {1: 1.0, 2: 1.06, 3: 1.09, 4: 1.12}
"""Length of wire per length of a twisted bundle. See craft.md, 3."""
WOUND_HIDE_MM = 0.5
"""Wool needed on each side where it is wound on with glue, not felted. Judged. See craft.md, 3."""
WOUND_MM = 3.5
"""Up to this finished thickness a wire is wound with glue. Judged. See craft.md, 3."""
RESERVE = 2.5
"""A wire with no forerunner to compare with bears this many times the static moment. See craft.md, 3."""


def bundle_mm(diameter: float, strands: int) -> float:
    """Return the thickness (mm) of ``strands`` twisted wires; beyond four, packed as densely as four."""
    return diameter * BUNDLE.get(strands, 2.41 * math.sqrt(strands / 4))


def hidden_mm(bundle: float, wound: bool = False) -> float:
    """Return how thick (mm) a limb must be to hide wires ``bundle`` mm thick, ``wound`` with glue or
    felted."""
    return bundle + 2 * (WOUND_HIDE_MM if wound else HIDE_MM)


def take_up(strands: int) -> float:
    """Return the length of wire per length of bone; beyond four strands as four."""
    return TAKE_UP[min(max(strands, 1), 4)]


def capacity_nmm(metal: Metal, diameter: float, strands: float = 1) -> float:
    """Return the plastic moment (N·mm) of ``strands`` round wires of ``diameter`` mm: yield × d³ / 6 each."""
    return PROPERTIES[metal].yield_mpa * diameter**3 / 6 * strands


def diameter_bearing(moment_nmm: float, metal: Metal, strands: float = 1) -> float:
    """Return the diameter (mm) at which ``strands`` wires bear ``moment_nmm``: capacity turned round."""
    return float((6 * moment_nmm / (PROPERTIES[metal].yield_mpa * strands)) ** (1 / 3))


STOCK_SLACK = 1e-3
"""Stock thinner by this share than is asked for is as stout: far closer than wire is drawn. Judged. See
craft.md, 3."""


def stock_at_least(diameter: float, sizes: Iterable[float]) -> float | None:
    """Return the smallest stock (mm) reaching ``diameter``; None if the stoutest is too thin."""
    return next((size for size in sizes if size >= diameter * (1 - STOCK_SLACK)), None)


def metal_name(metal: Metal) -> Fact:
    """Return what a metal is called."""
    return Fact(f"metal.{metal.replace(' ', '-')}")
