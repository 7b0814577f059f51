"""Felt pictures for paper, cached, since changing paper, labels or a note asks for the same one again."""

from __future__ import annotations

import io
from collections.abc import Sequence

from PIL import Image

from bambola.core.bench import Bench
from bambola.core.export.drawn import INK, QUIET, DrawnPicture, DrawnText, Item, line
from bambola.core.figure import Figure
from bambola.core.memo import remembered
from bambola.core.quantities import show_length
from bambola.core.relief import Camera, Picture, Stage, portrait, stage_of
from bambola.core.solids import Placement, place
from bambola.core.words import Words as Maker


def felted_picture(
    figure: Figure, camera: Camera, step: float, bench: Bench, smooth: int = 1
) -> Picture:
    """Return a picture of ``figure`` from ``camera`` at ``step`` mm a pixel, in the colours of the bench's
    wools; ``smooth`` rays in each direction are averaged into a pixel."""
    colours = tuple(bench.colours.items())
    return _felt_picture(figure, camera, step, colours, smooth)


@remembered(32)
def view_bounds(figure: Figure, camera: Camera) -> tuple[float, float, float, float]:
    """Return left, right, bottom and top of ``figure`` in the view, mm."""
    return _felt_stage(figure).bounds(camera)


@remembered(2)
def _felt_stage(figure: Figure) -> Stage:
    return stage_of(place(figure))


@remembered(8)
def _felt_picture(
    figure: Figure,
    camera: Camera,
    step: float,
    colours: tuple[tuple[str, str], ...],
    smooth: int,
) -> Picture:
    return portrait(_felt_stage(figure), camera, step, dict(colours), smooth)


def encode_jpeg(image: Image.Image, white: float = 0.0) -> bytes:
    """Return an image on white as JPEG; ``white`` is how much it is faded."""
    page = Image.new("RGB", image.size, "white")
    page.paste(image, mask=image.getchannel("A"))
    if white:
        page = Image.blend(page, Image.new("RGB", image.size, "white"), white)
    out = io.BytesIO()
    page.save(out, "JPEG", quality=82)
    return out.getvalue()


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
