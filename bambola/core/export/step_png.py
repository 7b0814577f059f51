"""The picture of one step in pixels: as PNG, and for the work cards."""

from __future__ import annotations

import io
from functools import lru_cache
from importlib.resources import files

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from bambola.core.bench import Bench
from bambola.core.export.step_svg import HIGH, MADDER, SHEET, SIZE, STROKES, WIDE
from bambola.core.methods import Sheet, sheet_for
from bambola.core.methods.fills import fills_of
from bambola.core.methods.layout import Disc, Mark, Stroked, Written, lay_out, patch_of
from bambola.core.order import Step
from bambola.core.plan import Plan
from bambola.core.solids.forms import Array
from bambola.core.words import ENGLISH, Words

OVER = 3
"""Drawn so many times as large and then made small, so that lines are smooth."""
DASH, GAP = 6.0, 5.0


def step_png(plan: Plan, step: Step, bench: Bench, words: Words = ENGLISH) -> bytes:
    """How ``step`` is done, as PNG."""
    out = io.BytesIO()
    step_image(sheet_for(plan, step, bench), words).save(out, "PNG", optimize=True)
    return out.getvalue()


def step_image(
    sheet: Sheet,
    words: Words = ENGLISH,
    wide: float = WIDE,
    high: float = HIGH,
    size: float = SIZE,
) -> Image.Image:
    """The same as an image of ``wide`` × ``high`` pixels, its words ``size`` high."""
    fills = fills_of(sheet.at, SHEET)
    page = Image.new("RGB", (round(wide) * OVER, round(high) * OVER), SHEET)
    draw = ImageDraw.Draw(page)
    for mark in lay_out(sheet.drawing, words.say, wide, high, size):
        _draw(draw, mark, fills)
    return page.reduce(OVER)


def _draw(draw: ImageDraw.ImageDraw, mark: Mark, fills: dict[str, str]) -> None:
    match mark:
        case Stroked(points=points, closed=closed):
            run = np.vstack([points, points[:1]]) if closed else points
            if mark.fill != "none":
                draw.polygon(_flat(points), fill=fills[mark.fill])
            for piece in _dashes(run) if mark.dashed else [run]:
                width = round(mark.width * OVER)
                draw.line(_flat(piece), fill=STROKES[mark.stroke], width=width, joint="curve")
                if not closed and mark.width > 3:
                    _caps(draw, piece, mark.width / 2, STROKES[mark.stroke])
        case Disc(x=x, y=y, radius=r):
            draw.ellipse([(x - r) * OVER, (y - r) * OVER, (x + r) * OVER, (y + r) * OVER], MADDER)
            _write(draw, x, y, mark.text, r * 1.2, SHEET, bold=True)
        case Written(x=x, y=y):
            left, top, wide, high = patch_of(mark)
            box = [left * OVER, top * OVER, (left + wide) * OVER, (top + high) * OVER]
            draw.rounded_rectangle(box, 4 * OVER, SHEET)
            _write(draw, x, y, mark.text, mark.size, STROKES[mark.role], mark.bold)


def _flat(points: Array) -> list[tuple[float, float]]:
    return [(float(x) * OVER, float(y) * OVER) for x, y in points]


def _caps(draw: ImageDraw.ImageDraw, run: Array, r: float, colour: str) -> None:
    for x, y in (run[0], run[-1]):
        draw.ellipse([(x - r) * OVER, (y - r) * OVER, (x + r) * OVER, (y + r) * OVER], colour)


def _dashes(run: Array) -> list[Array]:
    """A line as short pieces with gaps between them."""
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(run, axis=0).T))])

    def at(s: Array) -> Array:
        return np.column_stack([np.interp(s, along, run[:, 0]), np.interp(s, along, run[:, 1])])

    starts = np.arange(0.0, along[-1], DASH + GAP)
    return [at(np.linspace(s, min(s + DASH, float(along[-1])), 3)) for s in starts]


def _write(
    draw: ImageDraw.ImageDraw, x: float, y: float, text: str, size: float, colour: str, bold: bool
) -> None:
    draw.text((x * OVER, y * OVER), text, colour, _font(bold, round(size * OVER)), anchor="mm")


@lru_cache(32)
def _font(bold: bool, size: int) -> ImageFont.FreeTypeFont:
    name = "AtkinsonHyperlegibleNext-Bold.ttf" if bold else "AtkinsonHyperlegibleNext-Regular.ttf"
    return ImageFont.truetype(
        io.BytesIO((files("bambola") / "shipped/fonts" / name).read_bytes()), size
    )
