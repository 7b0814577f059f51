"""Felt pictures for paper, cached, since changing paper, labels or a note asks for the same one again."""

from __future__ import annotations

import io

from PIL import Image

from bambola.core.bench import Bench
from bambola.core.figure import Figure
from bambola.core.memo import remembered
from bambola.core.relief import Camera, Picture, Stage, portrait, stage_of
from bambola.core.solids import place


def felted_picture(
    figure: Figure, camera: Camera, step: float, bench: Bench, smooth: int = 1
) -> Picture:
    """Return a picture of ``figure`` from ``camera`` at ``step`` mm a pixel, in the colours of the bench's
    wools; ``smooth`` rays in each direction are averaged into a pixel."""
    colours = tuple(bench.colours.items())
    return _felt(figure, camera, step, colours, smooth)


@remembered(32)
def view_bounds(figure: Figure, camera: Camera) -> tuple[float, float, float, float]:
    """Return left, right, bottom and top of ``figure`` in the view, mm."""
    return _stage(figure).bounds(camera)


@remembered(2)
def _stage(figure: Figure) -> Stage:
    return stage_of(place(figure))


@remembered(8)
def _felt(
    figure: Figure,
    camera: Camera,
    step: float,
    colours: tuple[tuple[str, str], ...],
    smooth: int,
) -> Picture:
    return portrait(_stage(figure), camera, step, dict(colours), smooth)


def encode_jpeg(image: Image.Image, white: float = 0.0) -> bytes:
    """Return an image on white as JPEG; ``white`` is how much it is faded."""
    page = Image.new("RGB", image.size, "white")
    page.paste(image, mask=image.getchannel("A"))
    if white:
        page = Image.blend(page, Image.new("RGB", image.size, "white"), white)
    out = io.BytesIO()
    page.save(out, "JPEG", quality=82)
    return out.getvalue()
