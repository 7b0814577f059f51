"""Small features of a face, corrected for the size: the eyes of a smaller figure are relatively larger, the
lines of a larger one relatively finer. See craft.md, 2."""

from __future__ import annotations

import math

from bambola.core.figure import Fitting, Part, SizeRule

LARGER_A_HALVING, MOST_LARGER = 0.1, 0.2
"""Eyes are so much larger, as a share, for every time that a figure is halved, and never more than by the
other. See craft.md, 2."""
LINE_MM = 2.5
"""What is not as thick as this on a face is a line on it. See craft.md, 2."""
FINER = 0.5
"""The width of a line goes with this power of the scale. See craft.md, 2."""


def eyes_times(s: float) -> float:
    """Return the extra factor on the size of eyes at scale ``s``."""
    return 1.0 + min(MOST_LARGER, LARGER_A_HALVING * max(0.0, -math.log2(s)))


def fitting_times(fitting: Fitting, s: float) -> float:
    """Return that factor for a fitting: 1 for anything but eyes."""
    return eyes_times(s) if fitting.kind == "eye" and fitting.follows != "hold" else 1.0


def size_corrections(part: Part, s: float) -> tuple[SizeRule, ...]:
    """Return the size rules that correct a part at scale ``s``; none if nothing needs it."""
    if part.eye and s < 1:
        return (SizeRule(rule="multiply", value=eyes_times(s)),)
    if part.face and s > 1 and not part.shape.flat and part.shape.smallest_mm < LINE_MM:
        measures = part.shape.measures()
        longest = max(measures, key=lambda name: measures[name])
        finer = s ** (FINER - 1)
        return tuple(
            SizeRule(measure=name, rule="multiply", value=finer)
            for name in measures
            if name != longest
        )
    return ()
