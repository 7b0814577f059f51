"""Sizes at a new height."""

from bambola.core.resize.laws import (
    AT_ONCE_MM,
    EYE_TOLERANCE,
    HELD_MM,
    NEEDLE_REACH_MM,
    ROUND_MM,
    Made,
    SizedPart,
    core_rounds,
    held_mm,
    ready_size,
    wanted_size,
    way_of_making,
)
from bambola.core.resize.solve import (
    S_RANGE,
    Resized,
    ResizeError,
    height_at,
    placed_at,
    reachable,
    resize,
)
