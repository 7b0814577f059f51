"""The picture of a step as lines, areas and text, for paper, SVG or pixels."""

from __future__ import annotations

import io
from collections.abc import Iterator
from functools import lru_cache
from importlib.resources import files

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from bambola.core.bench import Bench
from bambola.core.export.drawn import (
    INK,
    MADDER,
    QUIET,
    WELD,
    WOAD,
    DrawnStroke,
    DrawnText,
    Face,
    Item,
    PaperPage,
    box,
    dot,
    svg_of,
)
from bambola.core.export.paper import BODY, BODY_BOLD, FILES, font_with_letters
from bambola.core.methods import StepSheet, sheet_for
from bambola.core.methods.drawing import fills_of
from bambola.core.methods.layout import Disc, Mark, Written, lay_out, patch_of
from bambola.core.order import Step
from bambola.core.plan import Plan
from bambola.core.solids.forms import Array
from bambola.core.words import ENGLISH
from bambola.core.words import Words as Maker

WIDE_MM, HIGH_MM, LETTERS_MM = 90.0, 64.0, 2.0
"""A picture by itself, and its words."""
SHEET = "#FFFFFF"
STROKES = {
    "skin": INK,
    "hidden": QUIET,
    "cut": MADDER,
    "wire": WOAD,
    "thread": INK,
    "hair": "#8A7F70",
    "ground": WELD,
    "measure": MADDER,
    "needle": INK,
}
"""The pen of each role, on paper."""


def step_page(plan: Plan, step: Step, bench: Bench, words: Maker = ENGLISH) -> PaperPage:
    """Return the picture of ``step``, with the numbers of its card."""
    ground = box(0, 0, WIDE_MM, HIGH_MM, width=0.0, fill=SHEET)
    drawn = step_items(sheet_for(plan, step, bench), words, WIDE_MM, HIGH_MM, LETTERS_MM)
    return PaperPage(WIDE_MM, HIGH_MM, (ground, *drawn), words.say(step.text))


def step_svg(plan: Plan, step: Step, bench: Bench, words: Maker = ENGLISH) -> str:
    """Return the picture of a step as SVG."""
    return svg_of(step_page(plan, step, bench, words))


def step_items(
    drawn: StepSheet, words: Maker, wide: float, high: float, letters: float
) -> Iterator[Item]:
    """Yield the picture of a step, ``wide`` × ``high`` mm with text ``letters`` high: the same as in the
    window."""
    fills = fills_of(drawn.at, SHEET)
    for mark in lay_out(drawn.drawing, words.say, wide * 10, high * 10, letters * 10):
        yield from _mark_items(mark, fills)


def _mark_items(mark: Mark, fills: dict[str, str]) -> Iterator[Item]:
    match mark:
        case Disc(x, y, radius, text):
            yield dot(x / 10, y / 10, radius / 10, MADDER)
            size = radius / 10 * 1.3
            yield DrawnText(x / 10, y / 10 + size * 0.36, text, size, "bold", SHEET, "middle")
        case Written(x, y, text, size, role, bold):
            left, top, wide, high = (v / 10 for v in patch_of(mark))
            yield box(left, top, wide, high, width=0.0, fill=SHEET)
            face: Face = "bold" if bold else "text"
            yield DrawnText(
                x / 10, y / 10 + size / 10 * 0.35, text, size / 10, face, STROKES[role], "middle"
            )
        case _:
            fill = fills[mark.fill]
            dash = (0.8, 0.6) if mark.dashed else ()
            yield DrawnStroke(
                mark.points / 10,
                STROKES[mark.stroke],
                min(mark.width / 10, 1.2),
                mark.closed,
                dash,
                "" if fill == "none" else fill,
            )


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
            _draw_stroke(draw, item)
        elif isinstance(item, DrawnText):
            at = item.x * _DOTS, item.y * _DOTS
            face = font_with_letters(BODY_BOLD if item.face != "text" else BODY, item.text)
            font = _load_font(FILES[face], round(item.size * _DOTS))
            draw.text(at, item.text, item.colour, font, anchor=_ANCHORS[item.at])
    page.reduce(OVER).save(out, "PNG", optimize=True)
    return out.getvalue()


def _draw_stroke(draw: ImageDraw.ImageDraw, stroke: DrawnStroke) -> None:
    points = stroke.points
    if stroke.fill:
        draw.polygon(_to_pixels(points), fill=stroke.fill)
    if not stroke.width:
        return
    run = np.vstack([points, points[:1]]) if stroke.closed else points
    width = round(stroke.width * _DOTS)
    for piece in _split_in_dashes(run, *stroke.dash) if stroke.dash else [run]:
        draw.line(_to_pixels(piece), fill=stroke.colour, width=width, joint="curve")


def _to_pixels(points: Array) -> list[tuple[float, float]]:
    return [(float(x) * _DOTS, float(y) * _DOTS) for x, y in points]


def _split_in_dashes(run: Array, dash: float, gap: float) -> list[Array]:
    """Return a line as short pieces with gaps."""
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(run, axis=0).T))])

    def at(s: Array) -> Array:
        return np.column_stack([np.interp(s, along, run[:, 0]), np.interp(s, along, run[:, 1])])

    starts = np.arange(0.0, along[-1], dash + gap)
    return [at(np.linspace(s, min(s + dash, float(along[-1])), 3)) for s in starts]


@lru_cache(32)
def _load_font(name: str, size: int) -> ImageFont.FreeTypeFont:
    return ImageFont.truetype(
        io.BytesIO((files("bambola") / "shipped/fonts" / name).read_bytes()), size
    )
