"""The picture of one step in pixels, as PNG."""

from __future__ import annotations

import io
from functools import lru_cache
from importlib.resources import files

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from bambola.core.bench import Bench
from bambola.core.export.drawn import DrawnStroke, DrawnText
from bambola.core.export.paper import BODY, BODY_BOLD, FILES, font_with_letters
from bambola.core.export.step_drawn import SHEET, step_page
from bambola.core.order import Step
from bambola.core.plan import Plan
from bambola.core.solids.forms import Array
from bambola.core.words import ENGLISH
from bambola.core.words import Words as Maker

OVER = 3
"""Drawn so many times as large and then made small, so that lines are smooth."""
DOTS_PER_MM = 10
_DOTS = DOTS_PER_MM * OVER
_ANCHORS = {"left": "ls", "middle": "ms", "right": "rs"}


def step_png(plan: Plan, step: Step, bench: Bench, words: Maker = ENGLISH) -> bytes:
    """Return the picture of ``step`` as PNG."""
    out = io.BytesIO()
    drawn = step_page(plan, step, bench, words)
    page = Image.new("RGB", (round(drawn.wide * _DOTS), round(drawn.high * _DOTS)), SHEET)
    draw = ImageDraw.Draw(page)
    for item in drawn.items:
        if isinstance(item, DrawnStroke):
            _stroke(draw, item)
        elif isinstance(item, DrawnText):
            at = item.x * _DOTS, item.y * _DOTS
            face = font_with_letters(BODY_BOLD if item.face != "text" else BODY, item.text)
            font = _font(FILES[face], round(item.size * _DOTS))
            draw.text(at, item.text, item.colour, font, anchor=_ANCHORS[item.at])
    page.reduce(OVER).save(out, "PNG", optimize=True)
    return out.getvalue()


def _stroke(draw: ImageDraw.ImageDraw, stroke: DrawnStroke) -> None:
    points = stroke.points
    if stroke.fill:
        draw.polygon(_flat(points), fill=stroke.fill)
    if not stroke.width:
        return
    run = np.vstack([points, points[:1]]) if stroke.closed else points
    width = round(stroke.width * _DOTS)
    for piece in _dashes(run, *stroke.dash) if stroke.dash else [run]:
        draw.line(_flat(piece), fill=stroke.colour, width=width, joint="curve")


def _flat(points: Array) -> list[tuple[float, float]]:
    return [(float(x) * _DOTS, float(y) * _DOTS) for x, y in points]


def _dashes(run: Array, dash: float, gap: float) -> list[Array]:
    """Return a line as short pieces with gaps."""
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(run, axis=0).T))])

    def at(s: Array) -> Array:
        return np.column_stack([np.interp(s, along, run[:, 0]), np.interp(s, along, run[:, 1])])

    starts = np.arange(0.0, along[-1], dash + gap)
    return [at(np.linspace(s, min(s + dash, float(along[-1])), 3)) for s in starts]


@lru_cache(32)
def _font(name: str, size: int) -> ImageFont.FreeTypeFont:
    return ImageFont.truetype(
        io.BytesIO((files("bambola") / "shipped/fonts" / name).read_bytes()), size
    )
