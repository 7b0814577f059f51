"""The finished figure's outline at true size, to hold the work against."""

from __future__ import annotations

from bambola.core.plan import Plan
from bambola.core.quantities import show_length
from bambola.core.solids import outlines
from bambola.core.words import ENGLISH, Words

MARGIN_MM = 10.0
RULER_MM = 100.0


def outline_svg(plan: Plan, view: str, words: Words = ENGLISH) -> str:
    """An SVG in mm of the figure's outline from ``view`` (front, side, top) with a check ruler."""
    runs = outlines(plan.solids.placement, view)
    left = min(float(run[:, 0].min()) for run in runs)
    right = max(float(run[:, 0].max()) for run in runs)
    low = min(float(run[:, 1].min()) for run in runs)
    high = max(float(run[:, 1].max()) for run in runs)
    width = max(right - left, RULER_MM) + 2 * MARGIN_MM
    height = high - low + 3 * MARGIN_MM
    path = " ".join(
        "M"
        + " L".join(f"{x - left + MARGIN_MM:.2f},{high - y + MARGIN_MM:.2f}" for x, y in run)
        + " Z"
        for run in runs
    )
    tall = show_length(plan.to_height_mm, words.units)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.2f}mm" height="{height:.2f}mm" '
        f'viewBox="0 0 {width:.2f} {height:.2f}">\n'
        f"<title>{_escaped(plan.figure)}, {view}, {tall}, true size</title>\n"
        f'<path d="{path}" fill="none" stroke="#2E2A2C" stroke-width="0.4"/>\n'
        f"{ruler_svg(height - MARGIN_MM)}\n</svg>\n"
    )


def ruler_svg(y: float, x: float = MARGIN_MM) -> str:
    """A ruler at a height on the page, to check the print against."""
    ticks = " ".join(f"M{x + i * 10},{y} v{-3 if i % 5 == 0 else -2}" for i in range(11))
    return (
        f'<path class="ruler" d="M{x},{y} h{RULER_MM} {ticks}" fill="none" stroke="#9C4232" '
        f'stroke-width="0.3"/>'
    )


def _escaped(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
