"""Measures taken with a tape: round a part, or over its surface."""

from bambola.core.tape.girth import (
    across_of,
    by_tape,
    ellipse_girth,
    tape_now,
    ways_of_taking,
    width_from_girth,
)
