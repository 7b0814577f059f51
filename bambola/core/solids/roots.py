"""The root of a limb wound on its wire: where the limb begins, and what of it lies in its bearer.

Such a limb is made first, and its bearer is wound round it. So the root is whole from its first visible
section to one thickness beyond where its bone leaves the bearer; farther out the bearer keeps the shared
volume, and the limb is flat on that side. See craft.md, 10.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bambola.core.figure.shapes import Chain, ChainShape, Joint, Limb, Rope, Shape
from bambola.core.figure.whole import Figure
from bambola.core.frozen import frozen
from bambola.core.memo import remembered
from bambola.core.solids.forms import Array, chain
from bambola.core.solids.inside import PlacedPart, buried_points
from bambola.core.solids.lengthwise import SAME_PLACE_MM, hidden_in, rims_hidden, slices

_KEPT_ROOTS = 256
"""Roots that are remembered: those of the limbs of a hundred parts at two sizes. Judged."""
_STEPS = 160
"""In so many steps it is looked for where a bone leaves its bearer. Judged."""
_MOST_ROUNDS = 40
"""Into no more rounds is a limb cut: of a bow half round each then stands off by less than a thousandth."""


AT_END = 0.9
"""A part caps a limb if it sits on its last tenth. Judged. See craft.md, 10."""


def caps_of(figure: Figure) -> frozenset[str]:
    """Return the parts that cap the end of a wound limb, such as a foot, or a head on its neck."""
    wound = wound_limbs(figure)
    return frozenset(
        part.id
        for part in figure.parts
        if part.parent in wound
        and part.garment is None
        and not part.shape.flat
        and part.seat.along >= AT_END
    )


def wound_limbs(figure: Figure) -> frozenset[str]:
    """Return the limbs and open ropes wound on the frame. One on a stem is pushed into its finished bearer
    instead."""
    nodes = {node.id: node.part for node in figure.nodes}
    boned = {bone.part or nodes[bone.b] for bone in figure.bones}
    return frozenset(
        part.id
        for part in figure.parts
        if part.id in boned - figure.stems
        and isinstance(part.shape, ChainShape)
        and not chain(part.shape).closed
    )


@frozen
class LimbRoot:
    """``limb`` is a wound limb without what is buried before it begins, ``buried`` the part of it that its
    bearer is wound round, both in the limb's own axes. Along the first ``thins_mm`` of ``limb`` its wool
    thins out inside the bearer; that is not counted as length."""

    limb: Limb
    buried: Limb
    thins_mm: float


@remembered(_KEPT_ROOTS)
def root_of(
    shape: Limb | Rope, bearer: Shape, rows: tuple[tuple[float, ...], ...]
) -> LimbRoot | None:
    """Return the root of ``shape`` in ``bearer``, whose axes ``rows`` (3, 4) take to the limb's; None where
    its bone does not begin in the bearer, or nothing of it shows."""
    on: PlacedPart = (bearer, np.array(rows, dtype=np.float64))
    shows = np.flatnonzero(rims_hidden(hidden_in(shape, lambda at: buried_points([on], at))) < 1)
    line = _LimbLine.of(chain(shape))
    if not len(shows) or not buried_points([on], line.points[:1])[0]:
        return None
    begins, end = float(slices(shape).at[shows[0]]), float(line.run[-1])
    first = max(0.0, begins - float(line.radii[0]))
    if first >= end - SAME_PLACE_MM:
        return None
    steps = np.linspace(0.0, end, _STEPS)
    outside = np.flatnonzero(~buried_points([on], line.points_at(steps)))
    leaves = float(steps[outside[0]]) if len(outside) else end
    whole = min(end, max(leaves + 2 * line.radius_at(leaves), first + SAME_PLACE_MM))
    limb = line.part(first, end)
    return LimbRoot(limb, line.part(first, whole), limb.joints[0].diameter / 2 if first else begins)


@dataclass(frozen=True)
class _LimbLine:
    """The rounds of a limb: ``points`` (n, 3) and ``radii`` (n,), ``run`` (n,) mm along it."""

    points: Array
    radii: Array
    run: Array

    @classmethod
    def of(cls, form: Chain) -> _LimbLine:
        steps = np.linalg.norm(np.diff(form.points, axis=0), axis=1)
        moved = np.append(True, steps > SAME_PLACE_MM)
        run = np.concatenate([[0.0], np.cumsum(steps[moved[1:]])])
        return cls(form.points[moved], form.radii[moved], run)

    def points_at(self, run: Array) -> Array:
        return np.column_stack([np.interp(run, self.run, self.points[:, k]) for k in range(3)])

    def radius_at(self, run: float) -> float:
        return float(np.interp(run, self.run, self.radii))

    def part(self, low: float, high: float) -> Limb:
        """Return the limb from ``low`` to ``high`` along the line (mm)."""
        between = self.run[(self.run > low + SAME_PLACE_MM) & (self.run < high - SAME_PLACE_MM)]
        if len(between) > _MOST_ROUNDS - 2:
            between = np.linspace(low, high, _MOST_ROUNDS)[1:-1]
        at = np.concatenate([[low], between, [high]])
        rounds = zip(
            self.points_at(at).tolist(), np.interp(at, self.run, self.radii).tolist(), strict=True
        )
        return Limb(
            joints=tuple(
                Joint.model_construct(x=x, y=y, z=z, diameter=2 * radius)
                for (x, y, z), radius in rounds
            )
        )
