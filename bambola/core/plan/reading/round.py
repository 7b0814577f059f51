"""The guided round: which measures of a figure matter most for its wool, and by how much."""

from __future__ import annotations

import math

from bambola.core.figure import Figure, Shape
from bambola.core.figure.survey import DOUBT, How, Survey
from bambola.core.frozen import frozen
from bambola.core.memo import remembered
from bambola.core.plan.making.values import Plan
from bambola.core.solids import mesh_of

_STEP = 0.01


@frozen
class Effect:
    """One measure of one part: how it was taken, and what its doubt does to the wool.

    ``grams`` is how much the wool of the whole figure changes if the measure is off by one standard
    deviation of the way it was taken (see ``DOUBT``).
    """

    part: str
    measure: str
    mm: float
    how: How
    grams: float

    @property
    def is_missing(self) -> bool:
        """Whether nobody has taken it yet."""
        return self.how == "plan"


def measures_by_effect(figure: Figure, plan: Plan, survey: Survey) -> tuple[Effect, ...]:
    """Return every measure of ``figure``, those still missing first, the weightiest of each first.

    ``plan`` is the plan as made. A part that grows adds wool where its skin is bare; where others
    join it, it takes their place or pushes them out. The wool it adds lies between the growth of its
    bare skin only and growth in the proportion it has: the middle is taken, which is near enough to
    put measures in order.
    """
    found = []
    for part in figure.parts:
        row = plan.part(part.id)
        body = sum(p.grams for p in row.portions if p.role in ("core", "coat", "inset"))
        fur = sum(p.grams for p in row.portions if p.role == "fur")
        volume, area, slopes = _size_slopes(part.shape)
        bare = min(1.0, row.exposed_cm2 * 100.0 / area)
        alone = body / max(row.net_cm3, 1e-9) * volume / 1000.0
        full = (body + alone * bare) / 2
        for (measure, mm), (more, skin) in zip(part.shape.measures().items(), slopes, strict=True):
            how = survey.how_taken(part.id, measure)
            grams = row.count * abs(full * more + fur * skin) * DOUBT[how]
            found.append(Effect(part.id, measure, mm, how, grams))
    return tuple(sorted(found, key=lambda e: (not e.is_missing, -e.grams)))


@remembered(512)
def _size_slopes(shape: Shape) -> tuple[float, float, tuple[tuple[float, float], ...]]:
    """Return the volume (mm³) and area (mm²) of a shape alone; and the relative change of both for a relative
    change of each of its measures."""
    whole = mesh_of(shape)
    volume, area = whole.volume, whole.area
    found = []
    step = math.log(1 + _STEP)  # exact for powers of a measure, and near them for all shapes
    for measure, mm in shape.measures().items():
        more = mesh_of(shape.resized({measure: mm * (1 + _STEP)}))
        found.append((math.log(more.volume / volume) / step, math.log(more.area / area) / step))
    return volume, area, tuple(found)


def doubt_of_total(found: tuple[Effect, ...]) -> float:
    """Return one standard deviation of the wool from the measures alone (g), each off by itself."""
    return float(sum(e.grams**2 for e in found) ** 0.5)
