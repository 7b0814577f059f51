"""New sizes from a new height."""

from bambola.core.resize.laws import (
    EYE_TOLERANCE,
    FELTED,
    Made,
    SizedPart,
    ready_size,
    rounds,
    wanted_size,
    way_of_making,
)
from bambola.core.resize.solve import S_RANGE, Resized, ResizeError, reachable, resize

__all__ = [
    "EYE_TOLERANCE", "FELTED", "S_RANGE", "Made", "ResizeError", "Resized", "SizedPart", "reachable",
    "ready_size", "resize", "rounds", "wanted_size", "way_of_making",
]  # fmt: skip
