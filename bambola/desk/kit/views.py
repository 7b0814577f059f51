"""From where a figure can be seen."""

from __future__ import annotations

from bambola.core.figure import Sight
from bambola.core.relief import Camera

VIEWS: tuple[tuple[Sight, str, Camera], ...] = (
    ("front", "From the front", Camera()),
    ("side", "From its left side", Camera(turn=90)),
    ("back", "From the back", Camera(turn=180)),
    ("top", "From above", Camera(tip=90)),
)
"""Name, words and camera."""
