"""What is varied of a figure to fit it to its pictures: by small steps, of all of it and of each part."""

from __future__ import annotations

import math
from collections.abc import Iterator

from bambola.core.figure import Figure, Part, Shape
from bambola.core.figure.bodyplans import BodyPlan
from bambola.core.frozen import frozen

GROWS = 0.15
"""The natural logarithm of what one step multiplies a measure by."""
SEATS = {"along": (0.12, 0.0, 1.0), "out": (0.15, 0.0, 1.3), "around": (15.0, -180.0, 180.0)}
"""How far a seat goes in one step, and between what."""
NODS, LEANS = 12.0, 14.0
"""How far a part is tilted in one step, degrees."""


@frozen
class VariedMeasure:
    """One thing of a part that is varied: a measure, ``all`` of them, or a number of its seat or tilt."""

    part: str
    what: str

    def taken(self, figure: Figure, amount: float) -> Figure:
        """Return ``figure`` with the step gone ``amount`` times. Raises ``ValueError`` where it leads too
        far."""
        part = figure.by_id[self.part]
        return with_shaped(figure, self._of(part, amount))

    def _of(self, part: Part, amount: float) -> Part:
        seat, factor = part.seat, math.exp(GROWS * amount)
        if self.what == "all":
            return part.replaced(shape=part.shape.scaled(factor))
        if self.what in part.shape.measure_names:
            size = part.shape.measures()[self.what] * factor
            return part.replaced(shape=_possible(part.shape.resized({self.what: size})))
        if self.what in SEATS:
            far, low, high = SEATS[self.what]
            there = getattr(seat, self.what) + far * amount
            if not low <= there <= high:
                raise ValueError(self.what)
            return part.replaced(seat=seat.replaced(**{self.what: there}))
        far = NODS if self.what == "nod" else LEANS
        tilt = seat.tilt.replaced(**{self.what: getattr(seat.tilt, self.what) + far * amount})
        return part.replaced(seat=seat.replaced(tilt=tilt))


def with_shaped(figure: Figure, part: Part) -> Figure:
    """Return ``figure`` with another of its parts, not looked through for faults: it is asked some hundred
    times."""
    return figure.replaced(parts=tuple(part if p.id == part.id else p for p in figure.parts))


def _possible(shape: Shape) -> Shape:
    """Return ``shape``, if there can be such a one. Raises ``ValueError``, as for a cone broader than it is
    long."""
    return type(shape).model_validate(
        {name: getattr(shape, name) for name in type(shape).model_fields}
    )


def plan_proportions(plan: BodyPlan) -> list[tuple[VariedMeasure, ...]]:
    """Return what of a plan is varied together, proportion by proportion."""
    return [
        tuple(VariedMeasure(stretch.part, stretch.measure) for stretch in proportion.stretches)
        for proportion in plan.proportions
    ]


def in_all(figure: Figure) -> list[tuple[VariedMeasure, ...]]:
    """Return what is varied of all parts that have such a measure together: a toad is a frog, but lower."""
    steps = (
        tuple(VariedMeasure(p.id, name) for p in figure.parts if name in p.shape.measure_names)
        for name in ("width", "depth", "height")
    )
    return [step for step in steps if step]


def own(figure: Figure) -> list[tuple[VariedMeasure, ...]]:
    """Return what is varied of each part alone, of the largest first."""
    return [
        (VariedMeasure(part.id, what),)
        for part in sorted(figure.parts, key=lambda p: -max(p.shape.measures().values()))
        for what in _varied(part)
    ]


def _varied(part: Part) -> Iterator[str]:
    names = part.shape.measure_names
    yield "all"
    yield from names if len(names) > 1 else ()
    if part.parent is not None:
        yield from ("along", "out")
        yield from ("around", "lean") if part.pair else ()
    yield "nod"
