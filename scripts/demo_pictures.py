"""Photograph the marsh heron: the demo pictures, made from the shipped figure itself.

``heron.json`` notes where the camera stood: the scale, and the pixels of the midline and the ground
(of the picture turned back by ``askew_deg``), and the ends of the ruler.

Front and side, once before a plain sheet of paper and once on a busier window sill, where the
camera was held a little askew and a ruler of 150 mm stands beside the figure.
"""

from __future__ import annotations

import json
import sys
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFilter

from bambola.core.relief import Camera, portrait, stage_of
from bambola.core.solids import place
from bambola.demo import HERON, PICTURES, load_demo
from bambola.shipped import default_bench

MM_PX = 0.205
SIZE = (1180, 1720)
EDGE = (24, 40)
RULER_MM, RULER_X, RULER_FOOT = 150.0, 70, SIZE[1] - 150
ASKEW_DEG = 1.6


def main(folder: Path) -> None:
    """Write the four pictures into ``folder``."""
    folder.mkdir(parents=True, exist_ok=True)
    placement = place(load_demo(HERON).figure)
    stage = stage_of(placement)
    colours = default_bench().colours
    notes: dict[str, dict[str, object]] = {}
    for view, turn in (("front", 0.0), ("side", 90.0)):
        made = portrait(stage, Camera(turn), MM_PX, colours, 3)
        cut = Image.fromarray(made.pixels, "RGBA")
        ground_row = (made.top - placement.ground) / MM_PX
        axis_column = -made.left / MM_PX
        at = _spot(view, cut.size, ground_row, axis_column)
        for name, backdrop in (("plain", _paper()), ("busy", _sill())):
            picture = _shadowed(backdrop, cut, at)
            picture.alpha_composite(cut, at)
            if name == "busy":
                picture = picture.rotate(ASKEW_DEG, Image.Resampling.BICUBIC)
            notes[f"heron-{view}-{name}"] = {
                "mm_px": MM_PX, "midline": at[0] + axis_column - EDGE[0],
                "ground": at[1] + ground_row - EDGE[1],
                "askew_deg": ASKEW_DEG if name == "busy" else 0.0,
                "ruler": [[RULER_X - EDGE[0], RULER_FOOT - EDGE[1] - RULER_MM / MM_PX],
                          [RULER_X - EDGE[0], RULER_FOOT - EDGE[1]]],
                "ruler_mm": RULER_MM,
            }  # fmt: skip
            noisy = _grain(np.asarray(picture.convert("RGB")), 3.0 if name == "plain" else 4.0)
            inner = (*EDGE, SIZE[0] - EDGE[0], SIZE[1] - EDGE[1])
            Image.fromarray(noisy).crop(inner).save(
                folder / f"heron-{view}-{name}.jpg", quality=88, optimize=True
            )
    (folder / "heron.json").write_text(json.dumps(notes, indent=1) + "\n")


def _spot(view: str, size: tuple[int, int], ground: float, axis: float) -> tuple[int, int]:
    """Return where the figure's picture goes: its feet on the table, clear of the edges."""
    left = 0.54 * SIZE[0] - axis if view == "front" else 0.56 * SIZE[0] - size[0] / 2
    return round(left), round(SIZE[1] - 150 - ground)


def _paper() -> Image.Image:
    """Return a sheet of moss-green paper, rolled up behind the figure."""
    rows, columns = SIZE[1], SIZE[0]
    y, x = np.mgrid[0:rows, 0:columns]
    light = 1.0 - 0.16 * (y / rows) ** 2 - 0.10 * ((x / columns - 0.35) ** 2)
    light = light + np.where(y > rows - 260, 0.05, 0.0)
    colour = np.array([124, 140, 92])[None, None] * light[..., None]
    return Image.fromarray(np.clip(colour, 0, 255).astype(np.uint8)).convert("RGBA")


def _sill() -> Image.Image:
    """Return a window sill: a wall of painted boards, a shelf, jars, a card, a ruler and the sill itself."""
    rng = np.random.default_rng(7)
    wall = Image.new("RGB", SIZE, (66, 104, 66))
    draw = ImageDraw.Draw(wall)
    for x in range(0, SIZE[0], 118):
        tone = int(rng.integers(-9, 9))
        draw.rectangle((x, 0, x + 116, SIZE[1]), fill=(64 + tone, 102 + tone, 64 + tone))
        draw.line((x, 0, x, SIZE[1]), fill=(46, 78, 48), width=4)
    for x, y, wide, high, colour in (
        (40, 330, 170, 260, (64, 88, 128)), (70, 360, 110, 160, (98, 122, 158)),
        (905, 250, 210, 300, (118, 88, 58)), (955, 300, 110, 170, (120, 96, 128)),
    ):  # fmt: skip
        draw.rounded_rectangle((x, y, x + wide, y + high), 18, fill=colour)
    draw.rectangle((0, 590, SIZE[0], 618), fill=(52, 84, 60))
    wall = wall.filter(ImageFilter.GaussianBlur(5))
    draw = ImageDraw.Draw(wall)
    top = SIZE[1] - 260
    draw.rectangle((0, top, *SIZE), fill=(74, 92, 128))
    for _ in range(90):
        y, x = int(rng.integers(top, SIZE[1])), int(rng.integers(0, SIZE[0]))
        tone = int(rng.integers(-10, 10))
        long = int(rng.integers(60, 360))
        draw.line((x, y, x + long, y), fill=(74 + tone, 92 + tone, 128 + tone), width=2)
    _ruler(draw)
    return wall.convert("RGBA")


def _ruler(draw: ImageDraw.ImageDraw) -> None:
    left, foot = RULER_X, RULER_FOOT
    long = RULER_MM / MM_PX
    draw.rectangle((left, foot - long, left + 52, foot), fill=(214, 178, 104))
    for mm in range(0, int(RULER_MM) + 1, 10):
        y = foot - mm / MM_PX
        draw.line((left, y, left + (34 if mm % 50 == 0 else 20), y), fill=(66, 46, 20), width=3)


def _shadowed(backdrop: Image.Image, cut: Image.Image, at: tuple[int, int]) -> Image.Image:
    """Return a soft shadow on the table, to the right of the feet."""
    shade = Image.new("L", SIZE, 0)
    wide = cut.size[0]
    foot = at[1] + cut.size[1]
    ImageDraw.Draw(shade).ellipse(
        (at[0] + wide * 0.2, foot - 26, at[0] + wide * 0.95, foot + 16), fill=90
    )
    shade = shade.filter(ImageFilter.GaussianBlur(14))
    dark = Image.new("RGBA", SIZE, (20, 20, 26, 255))
    return Image.composite(dark, backdrop, shade.point(lambda v: int(v * 0.7)))


def _grain(pixels: np.ndarray, spread: float) -> np.ndarray:
    noise = np.random.default_rng(3).normal(0, spread, pixels.shape)
    return np.clip(pixels + noise, 0, 255).astype(np.uint8)


if __name__ == "__main__":
    main(Path(sys.argv[1]) if len(sys.argv) > 1 else PICTURES)
