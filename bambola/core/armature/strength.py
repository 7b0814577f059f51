"""Metals and bundles: how much a wire bears, weighs and takes up, and what hides it."""

from __future__ import annotations

import math
from collections.abc import Iterable

from bambola.core.bench.wools import HIDE_MM
from bambola.core.facts import Fact
from bambola.core.figure import Metal

METAL_DENSITY: dict[Metal, float] = {
    "soft aluminium": 2.70,
    "soft copper": 8.96,
    "half-hard brass": 8.50,
    "soft steel": 7.85,
}
"""g/cm³ of the metals themselves. See craft.md, 3."""
YIELD_MPA: dict[Metal, float] = {
    "soft aluminium": 45.0,
    "soft copper": 70.0,
    "half-hard brass": 200.0,
    "soft steel": 250.0,
}
"""Stress at which each metal bends and stays bent. See craft.md, 3."""

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
    """Thickness (mm) of ``strands`` twisted wires; beyond four, packed as densely as four."""
    return diameter * BUNDLE.get(strands, 2.41 * math.sqrt(strands / 4))


def hidden_mm(bundle: float, wound: bool = False) -> float:
    """How thick (mm) a limb must be to hide wires ``bundle`` mm thick, ``wound`` with glue or felted."""
    return bundle + 2 * (WOUND_HIDE_MM if wound else HIDE_MM)


def take_up(strands: int) -> float:
    """Length of wire per length of bone; beyond four strands as four."""
    return TAKE_UP[min(max(strands, 1), 4)]


def capacity_nmm(metal: Metal, diameter: float, strands: float = 1) -> float:
    """Plastic moment (N·mm) of ``strands`` round wires of ``diameter`` mm: yield × d³ / 6 each."""
    return YIELD_MPA[metal] * diameter**3 / 6 * strands


def diameter_bearing(moment_nmm: float, metal: Metal, strands: float = 1) -> float:
    """The diameter (mm) at which ``strands`` wires bear ``moment_nmm``: capacity turned round."""
    return float((6 * moment_nmm / (YIELD_MPA[metal] * strands)) ** (1 / 3))


STOCK_SLACK = 1e-3
"""Stock thinner by this share than is asked for is as stout: far closer than wire is drawn. Judged. See
craft.md, 3."""


def stock_at_least(diameter: float, sizes: Iterable[float]) -> float | None:
    """The smallest stock (mm) reaching ``diameter``; None if the stoutest is too thin."""
    return next((size for size in sizes if size >= diameter * (1 - STOCK_SLACK)), None)


def metal_name(metal: Metal) -> Fact:
    """What a metal is called."""
    return Fact(f"metal.{metal.replace(' ', '-')}")
