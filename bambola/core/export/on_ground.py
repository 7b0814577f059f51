"""Figures side by side on one ground line at one scale, with their heights."""

from __future__ import annotations

from collections.abc import Sequence

from PIL import Image

from bambola.core.bench import Bench
from bambola.core.export.drawn import INK, QUIET, DrawnPicture, DrawnText, Item, line
from bambola.core.export.felt import encode_jpeg, felted_picture, view_bounds
from bambola.core.quantities import show_length
from bambola.core.relief import Camera
from bambola.core.solids import Placement
from bambola.core.words import Words as Maker

DOTS = 4.0
"""Dots to the millimetre of a picture that is only looked at."""
_SEEN_FROM = Camera(turn=14, tip=3)
_BESIDE_MM = 8.0
"""Between figures that stand beside each other."""


def on_ground(
    placements: Sequence[Placement],
    bench: Bench,
    words: Maker,
    top: float,
    wide: float,
    high: float,
) -> list[Item]:
    """Return the figures in a box ``wide`` by ``high`` mm, with their captions below it."""
    seen = [view_bounds(placement.figure, _SEEN_FROM) for placement in placements]
    # All by one measure: the tallest fills the height, or all side by side the width.
    gaps = _BESIDE_MM * (len(seen) - 1)
    scale = min(
        (high - 4) / max(above - below for _, _, below, above in seen),
        (wide - gaps) / sum(right - left for left, right, _, _ in seen),
    )
    ground = top + high
    x = (wide - gaps - scale * sum(right - left for left, right, _, _ in seen)) / 2
    found: list[Item] = []
    for placement, (left, right, _, _) in zip(placements, seen, strict=True):
        made = felted_picture(placement.figure, _SEEN_FROM, 1 / (scale * DOTS), bench, 2)
        rows, columns = made.owner.shape
        w, h = columns * made.step * scale, rows * made.step * scale
        above = (made.top - placement.ground) * scale
        at = x + (made.left - left) * scale
        told = show_length(placement.height, words.units)
        image = encode_jpeg(Image.fromarray(made.pixels))
        found.append(DrawnPicture(at, ground - above, w, h, image, told))
        middle = x + (right - left) * scale / 2
        found.append(DrawnText(middle, ground + 5, told, 3.8, "bold", INK, "middle"))
        x += (right - left) * scale + _BESIDE_MM
    found.append(line(0, ground, wide, ground, colour=QUIET, width=0.3))
    return found
