"""The picture of one step as SVG."""

from __future__ import annotations

from xml.sax.saxutils import escape

from bambola.core.bench import Bench
from bambola.core.methods import sheet_for
from bambola.core.methods.fills import fills_of
from bambola.core.methods.layout import Disc, Mark, Stroked, Written, lay_out, patch_of
from bambola.core.order import Step
from bambola.core.plan import Plan
from bambola.core.words import ENGLISH, Words

WIDE, HIGH, SIZE = 900.0, 640.0, 20.0
INK, MADDER, SHEET = "#2E2A2C", "#9C4232", "#FFFBF3"
STROKES = {
    "skin": INK,
    "hidden": "#6B635B",
    "cut": MADDER,
    "wire": "#3F6475",
    "thread": INK,
    "hair": "#8A7F70",
    "ground": "#C99A2E",
    "measure": MADDER,
    "needle": INK,
}
"""The pen of each role, on paper."""


def step_svg(plan: Plan, step: Step, bench: Bench, words: Words = ENGLISH) -> str:
    """How ``step`` is done, as a picture whose numbers are those of its card."""
    sheet = sheet_for(plan, step, bench)
    marks = lay_out(sheet.drawing, words.say, WIDE, HIGH, SIZE)
    fills = fills_of(sheet.at, SHEET)
    drawn = "\n".join(_svg(mark, fills) for mark in marks)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{WIDE:.0f}" height="{HIGH:.0f}" '
        f'viewBox="0 0 {WIDE:.0f} {HIGH:.0f}" font-family="sans-serif">\n'
        f"<title>{escape(words.say(step.text))}</title>\n"
        f'<rect width="{WIDE:.0f}" height="{HIGH:.0f}" fill="{SHEET}"/>\n{drawn}\n</svg>\n'
    )


def _svg(mark: Mark, fills: dict[str, str]) -> str:
    match mark:
        case Stroked(points=points, closed=closed):
            path = "M" + " L".join(f"{x:.2f},{y:.2f}" for x, y in points) + (" Z" if closed else "")
            dash = ' stroke-dasharray="6 5"' if mark.dashed else ""
            return (
                f'<path d="{path}" fill="{fills[mark.fill]}" stroke="{STROKES[mark.stroke]}" '
                f'stroke-width="{mark.width:.2f}" stroke-linejoin="round" stroke-linecap="round"{dash}/>'
            )
        case Disc(x=x, y=y, radius=radius):
            return (
                f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{radius:.1f}" fill="{MADDER}"/>'
                f'<text x="{x:.1f}" y="{y + radius * 0.42:.1f}" font-size="{radius * 1.2:.1f}" '
                f'fill="{SHEET}" font-weight="bold" text-anchor="middle">{escape(mark.text)}</text>'
            )
        case Written(x=x, y=y, size=size):
            left, top, wide, high = patch_of(mark)
            weight = ' font-weight="bold"' if mark.bold else ""
            return (
                f'<rect x="{left:.1f}" y="{top:.1f}" width="{wide:.1f}" height="{high:.1f}" rx="4" '
                f'fill="{SHEET}" fill-opacity="0.9"/>'
                f'<text x="{x:.1f}" y="{y + size * 0.35:.1f}" font-size="{size:.1f}" '
                f'fill="{STROKES[mark.role]}"{weight} text-anchor="middle">{escape(mark.text)}</text>'
            )
