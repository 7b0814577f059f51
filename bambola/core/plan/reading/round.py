"""The guided round: which measures of a figure matter most for its wool, and by how much."""

from __future__ import annotations

from dataclasses import dataclass

from bambola.core.figure import Figure, Shape
from bambola.core.figure.survey import DOUBT, How, Survey
from bambola.core.plan.making.values import Plan
from bambola.core.solids import mesh_of

_STEP = 0.02


@dataclass(frozen=True, slots=True)
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


def effects(figure: Figure, plan: Plan, survey: Survey) -> tuple[Effect, ...]:
    """Every measure of ``figure``, those still missing first, the weightiest of each first.

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
        whole = mesh_of(part.shape)
        bare = min(1.0, row.exposed_cm2 * 100.0 / whole.area)
        alone = body / max(row.net_cm3, 1e-9) * whole.volume / 1000.0
        full = (body + alone * bare) / 2
        for measure, mm in part.shape.measures().items():
            how = survey.how(part.id, measure)
            volume, area = _slopes(part.shape, measure, mm, whole.volume, whole.area)
            grams = row.count * abs(full * volume + fur * area) * DOUBT[how]
            found.append(Effect(part.id, measure, mm, how, grams))
    return tuple(sorted(found, key=lambda e: (not e.is_missing, -e.grams)))


def _slopes(
    shape: Shape, measure: str, mm: float, volume: float, area: float
) -> tuple[float, float]:
    """Relative change of volume and area for a relative change of one measure."""
    more = mesh_of(shape.resized({measure: mm * (1 + _STEP)}))
    less = mesh_of(shape.resized({measure: mm * (1 - _STEP)}))
    return (
        (more.volume - less.volume) / (2 * _STEP * volume),
        (more.area - less.area) / (2 * _STEP * area),
    )


def doubt_of_total(found: tuple[Effect, ...]) -> float:
    """One standard deviation of the wool from the measures alone (g), each off by itself."""
    return float(sum(e.grams**2 for e in found) ** 0.5)
