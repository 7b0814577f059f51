"""Groups strokes into parts: equal names in two pictures, or on both sides of the midline."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from bambola.core.figure.survey import Sight, Spot, Trace
from bambola.core.frozen import frozen
from bambola.core.notes.kinds import Form, normalise_word
from bambola.core.sight.profile import places_along
from bambola.core.strokes.document import PartStroke

Array = NDArray[np.float64]

LEVEL_DEG = 30.0
"""A line that rises less lies level. Judged. See craft.md, 9."""
APART = 0.5
"""Two lines of one name in one picture are of one part, drawn again, if their middles lie no farther apart
than this share of their length. Judged."""


@frozen
class StrokeLine:
    """A stroke in mm of its view."""

    stroke: PartStroke
    points: tuple[Spot, ...]

    @property
    def view(self) -> Sight:
        """The view that it is drawn in."""
        return self.stroke.view

    @property
    def run(self) -> float:
        """Its length, mm."""
        return sum(math.dist(a, b) for a, b in zip(self.points, self.points[1:], strict=False))

    @property
    def middle(self) -> Array:
        """The middle of its ends (2,), mm."""
        return np.asarray((np.array(self.points[0]) + np.array(self.points[-1])) / 2)

    @property
    def is_level(self) -> bool:
        """Whether it runs across rather than up."""
        (u1, v1), (u2, v2) = self.points[0], self.points[-1]
        return abs(v2 - v1) < abs(u2 - u1) * math.tan(math.radians(LEVEL_DEG))


@frozen
class DrawnPart:
    """A part with its lines: one a view, or two where both of a pair were drawn."""

    name: str
    lines: tuple[StrokeLine, ...]

    @property
    def pair(self) -> bool | None:
        """Whether it is one of two, if the strokes say so."""
        said = [line.stroke.pair for line in self.lines if line.stroke.pair is not None]
        facing = [line for line in self.lines if line.view != "side"]
        both = len(facing) > len({line.view for line in facing})
        return said[-1] if said else (True if both else None)

    @property
    def bearer(self) -> str | None:
        """The name of its bearer, if the strokes say so."""
        return next((line.stroke.on for line in reversed(self.lines) if line.stroke.on), None)

    def in_view(self, view: Sight) -> StrokeLine | None:
        """Return its line in ``view``, if there is one."""
        return next((line for line in self.lines if line.view == view), None)


def group_lines(lines: Sequence[StrokeLine]) -> list[DrawnPart]:
    """Return the parts of ``lines``, in the order in which they were begun."""
    found: list[tuple[str, list[StrokeLine]]] = []
    for line in lines:
        for name, own in found:
            if name == normalise_word(line.stroke.name) and _belongs_to(own, line):
                break
        else:
            found.append((normalise_word(line.stroke.name), own := []))
        own.append(line)
    return [DrawnPart(own[-1].stroke.name, tuple(own)) for _, own in found]


def _belongs_to(own: list[StrokeLine], line: StrokeLine) -> bool:
    """Return whether ``line`` belongs to the part of ``own``; a line it replaces is removed."""
    same = [other for other in own if other.view == line.view]
    for other in same:
        if np.linalg.norm(other.middle - line.middle) <= APART * max(other.run, line.run):
            own.remove(other)
            return True
    if not same:
        return True
    mirrored = line.middle * (-1, 1)
    near = APART * max(line.run, same[0].run)
    return (
        len(same) == 1
        and line.view != "side"
        and bool(np.linalg.norm(same[0].middle - mirrored) <= near)
    )


def greatest_width(trace: Trace) -> float:
    """Return the greatest width of a trace, mm."""
    return max(a + b for a, b in zip(trace.left, trace.right, strict=True))


def upright_trace(trace: Trace, form: Form) -> Trace:
    """Return the trace of a round part along an upright line, with the width and height of the drawn
    ellipse."""
    line = np.array(trace.points)
    run, wide = trace.length, greatest_width(trace)
    rise = math.atan2(*(line[-1] - line[0])[::-1])
    tall = math.hypot(run * math.sin(rise), wide * math.cos(rise))
    broad = math.hypot(run * math.cos(rise), wide * math.sin(rise))
    u, v = (line[0] + line[-1]) / 2
    share = np.linspace(0, 1, len(trace.left))
    dome, egg = np.sqrt(1 - share**2) / 2, np.sqrt(share * (1 - share))
    half = broad * (dome if form == "pad" else egg)
    points = ((float(u), float(v - tall / 2)), (float(u), float(v + tall / 2)))
    return trace.replaced(points=points, left=tuple(half), right=tuple(half))


def end_on(trace: Trace, other: Trace) -> Trace:
    """Return the trace of a part seen along its axis in this view: with the ends of ``other``, a line along
    the axis, and the width in this view."""
    wide = greatest_width(trace)
    if abs(trace.points[-1][0] - trace.points[0][0]) > abs(
        trace.points[-1][1] - trace.points[0][1]
    ):
        wide = trace.length
    u = (trace.points[0][0] + trace.points[-1][0]) / 2
    low, high = other.points[0][1], other.points[-1][1]
    if abs(high - low) < 1.0:
        high = low + 1.0
    share = np.linspace(0, 1, len(trace.left))
    half = tuple(wide * np.sqrt(share * (1 - share)))
    return trace.replaced(points=((u, low), (u, high)), left=half, right=half)


def agreed_levels(lines: Sequence[StrokeLine]) -> dict[Sight, tuple[float, float]]:
    """Return by view the factor on its picture's scale and the shift of its ground (mm, at the present scale)
    that bring what two pictures show to equal heights. Floor taken for figure makes a whole picture too
    small, and raises it."""
    tall: dict[Sight, float] = {}
    level: dict[Sight, float] = {}
    for part in group_lines(lines):
        views = {line.view for line in part.lines}
        if len(views) < 2 or any(line.is_level for line in part.lines):
            continue
        for view in views:
            own = [line for line in part.lines if line.view == view]
            heights = [abs(line.points[-1][1] - line.points[0][1]) for line in own]
            tall[view] = tall.get(view, 0.0) + sum(heights) / len(own)
            middles = [
                float(line.middle[1]) * high for line, high in zip(own, heights, strict=True)
            ]
            level[view] = level.get(view, 0.0) + sum(middles) / len(own)
    if not tall:
        return {}
    largest = max(tall, key=lambda view: tall[view])
    wanted = level[largest] / tall[largest]
    return {
        view: (times := tall[largest] / high, level[view] / high - wanted / times)
        for view, high in tall.items()
    }


def outline_of_trace(trace: Trace, rounded: bool = False) -> Array:
    """Return the closed outline (n, 2) of a trace, mm of its view; a ``rounded`` one ends beyond its line."""
    places, ahead = places_along(np.array(trace.points), np.linspace(0, 1, len(trace.left)))
    aside = np.column_stack([-ahead[:, 1], ahead[:, 0]])
    left = places + aside * np.array(trace.left)[:, None]
    right = places - aside * np.array(trace.right)[:, None]
    caps = [np.zeros((0, 2)), np.zeros((0, 2))]
    if rounded:
        turn = np.linspace(0, np.pi, 11)[1:-1, None]
        for n, (at, way) in enumerate(((-1, 1.0), (0, -1.0))):
            middle, out = (left[at] + right[at]) / 2, (left[at] - right[at]) / 2 * way
            caps[n] = middle + out * np.cos(turn) + way * ahead[at] * np.hypot(*out) * np.sin(turn)
    return np.concatenate([left, caps[0], right[::-1], caps[1]])
