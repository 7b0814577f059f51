"""Props held by more than one hand: which parts reach them as made, and whether they still do."""

from __future__ import annotations

import math
from collections.abc import Mapping

import manifold3d as m3
import numpy as np

from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure, Limb, SizeRule
from bambola.core.figure.questions import ReachedAnswer
from bambola.core.resize import resize
from bambola.core.solids import PlacedFitting, Placement, place, solid_of

TOUCHES_MM = 1.0
"""What is nearer than this is touched: wool gives as much. Judged. See craft.md, 6."""
MOST_LONGER = 1.6
"""No arm is made longer than by this to reach what it held. Judged. See craft.md, 6."""
_TRIES, _CORNERS = 5, 200


def held_props(placement: Placement) -> dict[str, tuple[str, ...]]:
    """Return the parts that reach each prop: limbs and what sits on limbs, except the prop's own bearer."""
    figure = placement.figure
    found: dict[str, tuple[str, ...]] = {}
    for placed in placement.fittings:
        if placed.fitting.kind != "prop":
            continue
        own = _bearers_upwards(figure, placed.fitting.part)
        hands = [p.id for p in figure.parts if limb_of(figure, p.id) and p.id not in own]
        near = tuple(
            hand for hand in hands if gap_mm(placement, placed, hand, 2 * TOUCHES_MM) <= TOUCHES_MM
        )
        if near:
            found[placed.fitting.id] = near
    return found


def limb_of(figure: Figure, part: str) -> str | None:
    """Return the limb that a part is, or sits on."""
    return next(
        (p for p in _bearers_upwards(figure, part) if isinstance(figure.by_id[p].shape, Limb)), None
    )


def _bearers_upwards(figure: Figure, part: str) -> tuple[str, ...]:
    """Yield a part and its bearers, without the part that everything sits on."""
    found: list[str] = []
    at: str | None = part
    while at is not None and figure.by_id[at].parent is not None:
        found.append(at)
        at = figure.by_id[at].parent
    return tuple(found)


def gap_mm(
    placement: Placement, placed: PlacedFitting, part: str, look_mm: float | None = None
) -> float:
    """Return the distance of a part's nearest copy from a placed prop, mm. Distances above ``look_mm`` need
    not be exact."""
    pieces = []
    for piece in placed.fitting.pieces:
        matrix = placed.matrix.copy()
        matrix[:3, 3] += matrix[:3, 2] * piece.at
        pieces.append(_solid_at(piece.shape, matrix))
    best = math.inf if look_mm is None else look_mm
    for copy in placement.copies_of(part):
        hand = _solid_at(copy.shape, copy.matrix)
        for piece_ in pieces:
            # Two of their corners are at least as far apart: farther is not worth the search.
            near = min(best, _corner_gap(hand, piece_))
            best = min(best, float(hand.min_gap(piece_, near * 1.001 + 1e-6)))
    return best


def _corner_gap(a: m3.Manifold, b: m3.Manifold) -> float:
    """Return the least distance between some corners of two solids, mm."""
    one, other = (solid.to_mesh().vert_properties[:, :3] for solid in (a, b))
    one, other = one[:: 1 + len(one) // _CORNERS], other[:: 1 + len(other) // _CORNERS]
    return float(np.linalg.norm(one[:, None] - other[None], axis=-1).min())


def _solid_at(shape: object, matrix: np.ndarray) -> m3.Manifold:
    return solid_of(shape).transform(matrix[:3])  # type: ignore[arg-type]


def prop_gap(placement: Placement, prop: str, part: str) -> float:
    """Return how far a part is from the nearest copy of a prop, mm."""
    return min(gap_mm(placement, p, part) for p in placement.fittings if p.fitting.id == prop)


def longer_arm(
    placement: Placement, bench: Bench, brief: Brief, prop: str, part: str
) -> float | None:
    """Return the factor by which the limb of ``part`` must lengthen to reach a prop at the new size; None if
    no length does. The gap closes nearly linearly, so a few secant steps find it."""
    figure = placement.figure
    limb = limb_of(figure, part)
    assert limb is not None

    def gap(times: float) -> float:
        rule = SizeRule(measure="length", rule="multiply", value=times)
        asked = brief.ruled(limb, (*brief.rules.get(limb, ()), rule))
        sized = resize(figure, asked, bench, placement)
        return prop_gap(place(sized.figure), prop, part)

    low, high = (1.0, gap(1.0)), (1.1, gap(1.1))
    for _ in range(_TRIES):
        if high[1] <= TOUCHES_MM / 2:
            return high[0]
        if low[1] - high[1] <= 1e-6:
            return None
        per_mm = (high[0] - low[0]) / (low[1] - high[1])
        times = high[0] + high[1] * per_mm
        if times > MOST_LONGER:
            return None
        low, high = high, (times, gap(times))
    return high[0] if high[1] <= TOUCHES_MM else None


def arms_made_longer(
    placement: Placement, held: Mapping[str, tuple[str, ...]], bench: Bench, brief: Brief
) -> dict[str, tuple[SizeRule, ...]]:
    """Return the size rules that lengthen arms as the maker answered. ``placement`` is the figure as made,
    ``held`` the parts that reach each prop on it."""
    found: dict[str, tuple[SizeRule, ...]] = {}
    if brief.height is None:
        return found
    for prop, said in brief.choices.reaches.items():
        for part in held.get(prop, ()) if said == ReachedAnswer.LONGER else ():
            limb = limb_of(placement.figure, part)
            times = longer_arm(placement, bench, brief, prop, part)
            if limb and times:
                found[limb] = (SizeRule(measure="length", rule="multiply", value=times),)
    return found
