"""The dimension lines that can be drawn on a part from the present side."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from bambola.core.relief import Camera
from bambola.core.solids import Copy, Placement
from bambola.language import N_, tr

_WORDS = {
    "height": N_("high"),
    "length": N_("long"),
    "width": N_("wide"),
    "depth": N_("deep"),
    "thickness": N_("thick"),
    "diameter": N_("thick"),
}
_BESIDE = 0.4
"""What stands less than this share of a measure above its part is cleared by the line. Judged."""
FORESHORTENED = 0.72
"""A measure seen shorter than this share of itself is left to the card: the line would mislead."""


@dataclass(frozen=True, slots=True)
class DimensionLine:
    """A measure in the view: its ends, the direction and distance (mm) to move the line clear, and its text.
    ``across`` means that other parts lie that way, so it is drawn over the part itself."""

    measure: str
    mm: float
    word: str
    start: tuple[float, float]
    end: tuple[float, float]
    away: tuple[float, float]
    clear: float
    across: bool


def part_dimensions(
    placement: Placement, part: str, camera: Camera, rightmost: float | None = None
) -> Iterator[DimensionLine]:
    """Yield dimension lines for the copy of ``part`` furthest to the right in the view. ``rightmost`` is the
    reach of the whole figure that way (mm), if known."""
    right, up, _ = camera.axes()
    copies = placement.copies_of(part)
    if not copies:
        return
    copy = max(copies, key=lambda c: float(c.matrix[:3, 3] @ right))
    measures = copy.shape.measures()
    if rightmost is None:
        rightmost = max(c.reach(right) for c in placement.copies)
    highest = placement.top if camera.tip < 60 else max(c.reach(up) for c in placement.copies)
    for measure, start, end in _axes(copy):
        a = (float(start @ right), float(start @ up))
        b = (float(end @ right), float(end @ up))
        seen = float(np.hypot(b[0] - a[0], b[1] - a[1]))
        if seen < FORESHORTENED * float(np.linalg.norm(end - start)):
            continue
        upright = abs(b[1] - a[1]) >= abs(b[0] - a[0])
        centre = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
        across = False
        if upright:
            # Beside the whole figure: over an arm or a lantern it would be lost.
            away, clear = (1.0, 0.0), rightmost - centre[0]
        else:
            # Clear of what sits on it and stands up, such as ears; what towers over it is not gone round.
            sitting = (c.reach(up) for c in placement.copies if c.part.parent == part)
            beside = max(sitting, default=copy.reach(up))
            top = max(copy.reach(up), beside if beside - copy.reach(up) < _BESIDE * seen else 0.0)
            away, clear = (0.0, 1.0), top - centre[1]
            across = top < highest - 0.12 * seen
        word = tr(_WORDS.get(measure, measure))
        yield DimensionLine(measure, measures[measure], word, a, b, away, max(0.0, clear), across)


def _axes(copy: Copy) -> Iterator[tuple[str, np.ndarray, np.ndarray]]:
    """Yield the ends (3,) of the measures along the part's own axes, in the figure's."""
    measures = copy.shape.measures()
    along = next((n for n in ("height", "length") if n in measures), None)
    if along and copy.shape.straight:
        yield along, copy.point(0.0), copy.point(1.0)
    if "width" in measures:
        middle, turn = copy.point(copy.shape.fullest_at), copy.matrix[:3, :3]
        half = measures["width"] / 2
        yield "width", middle - turn[:, 0] * half, middle + turn[:, 0] * half
