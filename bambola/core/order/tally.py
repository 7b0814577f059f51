"""The cost of an order: how often something changes in it."""

from __future__ import annotations

from collections.abc import Iterable

from bambola.core.bench import Weights
from bambola.core.frozen import frozen
from bambola.core.order.sequence import Lightness
from bambola.core.order.work import Task


@frozen
class Tally:
    """The number of changes of needle, of wool on the pad and of piece, of turns from dark to light, and of
    stops for glue."""

    needle: int
    colour: int
    dark_to_light: int
    leaving: int
    glue: int

    def cost(self, weights: Weights) -> float:
        """Return the weighted cost for a maker with these weights."""
        return (
            self.needle * weights.needle
            + self.colour * weights.colour
            + self.dark_to_light * weights.dark_to_light
            + self.leaving * weights.leaving
            + self.glue * weights.glue
        )


def count_changes(tasks: Iterable[Task], lightness: Lightness) -> Tally:
    """Count the changes along ``tasks``. A step without a needle, a wool or a piece changes none of them."""
    light = dict(lightness)
    needle: int | None = None
    wool: str | None = None
    piece: str | None = None
    waiting = False
    changed = {"needle": 0, "colour": 0, "dark_to_light": 0, "leaving": 0, "glue": 0}
    for i, task in enumerate(tasks):
        changed["needle"] += bool(needle and task.needle and task.needle != needle)
        if wool and task.wool and task.wool != wool:
            changed["colour"] += 1
            changed["dark_to_light"] += light.get(task.wool, 0.5) > light.get(wool, 0.5)
        changed["leaving"] += bool(piece and task.piece and task.piece != piece)
        waits = task.kind == "wait"
        changed["glue"] += waits and not waiting and i > 0
        needle, wool, piece = task.needle or needle, task.wool or wool, task.piece or piece
        waiting = waits
    return Tally(**changed)
