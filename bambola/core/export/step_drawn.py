"""The picture of a step as lines, areas and text, for paper, SVG or pixels."""

from __future__ import annotations

from collections.abc import Iterator

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
from bambola.core.methods import StepSheet, sheet_for
from bambola.core.methods.fills import fills_of
from bambola.core.methods.layout import Disc, Mark, Written, lay_out, patch_of
from bambola.core.order import Step
from bambola.core.plan import Plan
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
        yield from _items(mark, fills)


def _items(mark: Mark, fills: dict[str, str]) -> Iterator[Item]:
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
