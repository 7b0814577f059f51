"""The height a maker typed is kept when sizes are corrected.

Of a figure that was measured the height and the sizes are known, and how far its parts reach into each other
is not: no tape and no picture shows that. So what stands between ground and top is moved together or apart.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bambola.core.facts import RefusedError
from bambola.core.figure import Figure, Survey
from bambola.core.plan.reading.checks import SAME_HEIGHT
from bambola.core.solids import Copy, Placement, place
from bambola.core.solids.edit import move_part

MOST_MOVED = 0.25
"""A part is moved by at most this share of how tall it is. Judged. See craft.md, 9."""
NEAR_MM = 0.05
"""A height is met as nearly as this."""
ROUNDS = 6
"""On a round bearer a part does not move quite as far as it is asked to, and another may be the tallest then;
so it is asked so often at most."""


def with_typed_height(was: Figure, now: Figure, survey: Survey) -> Figure:
    """Return ``now`` as tall as its maker typed, if ``was``, from which it came, stood so tall."""
    height = survey.height
    if height is None or abs(place(was).height - height) > SAME_HEIGHT * height:
        return now
    return with_height(now, height)


def with_height(figure: Figure, height: float) -> Figure:
    """Return ``figure`` standing ``height`` (mm) tall by moving its parts up or down, each by up to
    ``MOST_MOVED``.

    Where that is not enough the figure comes as near as it can, and the checks tell the rest.
    """
    left = {copy.part.id: MOST_MOVED * tall for copy, tall in _how_tall(place(figure))}
    for _ in range(ROUNDS):
        made = place(figure)
        over = made.height - height
        lower, raised = (set(_bearers_of(figure, end)) for end in _top_and_ground_parts(made))
        ways = dict.fromkeys(lower - raised, -1.0) | dict.fromkeys(raised - lower, 1.0)
        room = sum(left[id] for id in ways)
        if abs(over) < NEAR_MM or room < NEAR_MM:
            break
        for id, way in ways.items():
            by = left[id] * min(abs(over) / room, 1.0)
            try:
                figure = move_part(figure, id, np.array([0.0, 0.0, way * np.sign(over) * by]))
            except RefusedError:
                continue  # where it cannot sit on its bearer any more it stays
            left[id] -= by
    return figure


def _how_tall(made: Placement) -> Iterator[tuple[Copy, float]]:
    return zip(made.copies, made.down_up.sum(axis=1).tolist(), strict=True)


def _top_and_ground_parts(made: Placement) -> tuple[str, str]:
    """Return the parts that reach highest, as the height is taken, and lowest."""
    named = made.figure.datum.part
    lowest, highest = (made.copies[int(i)].part.id for i in made.down_up.argmax(axis=0))
    return named or highest, lowest


def _bearers_of(figure: Figure, part: str) -> Iterator[str]:
    """Yield a part and what bears it, but for the one that everything sits on."""
    at = figure.by_id[part]
    while at.parent is not None:
        yield at.id
        at = figure.by_id[at.parent]
