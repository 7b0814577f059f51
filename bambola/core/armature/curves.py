"""Bends as a hand makes them: to five degrees, with a run of small ones as one curve."""

from __future__ import annotations

from collections.abc import Sequence

from bambola.core.armature.cuts import Bend
from bambola.core.facts import Degrees, Fact, Mm, Value, fact
from bambola.core.frozen import frozen

HAND_DEG = 5.0
"""A hand sets an angle to so much. Judged. See craft.md, 3."""
SMALL_DEG, NEAR_MM = 30.0, 30.0
"""Bends this small and this near to each other, all the same way, are one curve. Judged."""


@frozen
class HandBend:
    """A bend at ``start_mm``, or a curve from there to ``end_mm``: by ``angle_deg`` in all, rolled by
    ``twist_deg`` first. Both to five degrees."""

    start_mm: float
    end_mm: float
    angle_deg: float
    twist_deg: float

    @property
    def told(self) -> Fact:
        """The instruction for the hand, as a fact."""
        kind = "bend.curve" if self.end_mm > self.start_mm else "bend"
        slots: dict[str, Value] = {"angle": Degrees(self.angle_deg), "at": Mm(self.start_mm)}
        if self.end_mm > self.start_mm:
            slots["end"] = Mm(self.end_mm)
        if abs(self.twist_deg) >= HAND_DEG:
            way = "clockwise" if self.twist_deg > 0 else "back"
            kind, slots["roll"] = f"{kind}.{way}", Degrees(abs(self.twist_deg))
        return fact(kind, **slots)


def by_hand(bends: Sequence[Bend]) -> tuple[HandBend, ...]:
    """Return ``bends`` as instructions at the table, without those too small for a hand."""
    runs: list[list[Bend]] = []
    for bend in bends:
        last = runs[-1][-1] if runs else None
        if last is not None and _goes_on(last, bend):
            runs[-1].append(bend)
        else:
            runs.append([bend])
    found = (
        HandBend(
            run[0].at_mm,
            run[-1].at_mm,
            _to_hand(sum(bend.angle_deg for bend in run)),
            _to_hand(run[0].twist_deg),
        )
        for run in runs
    )
    return tuple(bend for bend in found if bend.angle_deg > 0)


def _goes_on(last: Bend, bend: Bend) -> bool:
    small = max(last.angle_deg, bend.angle_deg) < SMALL_DEG
    return small and abs(bend.twist_deg) < SMALL_DEG and bend.at_mm - last.at_mm < NEAR_MM


def _to_hand(degrees: float) -> float:
    return round(degrees / HAND_DEG) * HAND_DEG + 0.0
