"""The sides a figure can be seen from."""

from __future__ import annotations

from bambola.core.figure import Sight
from bambola.core.relief import Camera
from bambola.language import N_

VIEWS: tuple[tuple[Sight, str, Camera], ...] = (
    ("front", N_("From the front"), Camera()),
    ("side", N_("From its left side"), Camera(turn=90)),
    ("back", N_("From the back"), Camera(turn=180)),
    ("top", N_("From above"), Camera(tip=90)),
)
"""Name, words and camera."""
VIEW_WORDS = {name: words for name, words, _ in VIEWS}
