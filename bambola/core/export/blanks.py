"""Blanks at true size: lay the wool to the outer line, fold at the inner one."""

from __future__ import annotations

from xml.sax.saxutils import escape

from bambola.core.bench import Bench
from bambola.core.export.svg import MARGIN_MM, ruler_svg
from bambola.core.plan import Plan
from bambola.core.plan.counter.blanks import blanks_of
from bambola.core.quantities import show_hand
from bambola.core.solids.forms import Array
from bambola.core.wool import Blank
from bambola.core.words import ENGLISH, Words


def blank_svgs(plan: Plan, bench: Bench, words: Words = ENGLISH) -> dict[str, str]:
    """File name to SVG for the blank of every flat part."""
    return {
        f"blank-{part}.svg": _svg(plan, part, blank, words)
        for part, blank in blanks_of(plan, bench).items()
    }


def _svg(plan: Plan, part: str, blank: Blank, words: Words) -> str:
    row = plan.part(part)
    low, high = blank.outline.min(axis=0), blank.outline.max(axis=0)
    width = max(float(high[0] - low[0]), 100.0) + 2 * MARGIN_MM
    height = float(high[1] - low[1]) + 5 * MARGIN_MM

    def path(run: Array) -> str:
        x, y = run[:, 0] - low[0] + MARGIN_MM, high[1] - run[:, 1] + 2.5 * MARGIN_MM
        return "M" + " L".join(f"{a:.3f},{b:.3f}" for a, b in zip(x, y, strict=True)) + " Z"

    told = words.tr(
        "{count} × {name}: lay to the outer line, fold at the dashed one",
        count=row.count,
        name=row.name,
    )
    fringe = words.tr(
        "{fringe} of fringe at the foot", fringe=show_hand(blank.fringe_mm, words.units)
    )
    shrinks = words.tr(
        "it felts to {shrink:.0f} % of its length; {fringe}",
        shrink=blank.shrink * 100,
        fringe=fringe,
    )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.2f}mm" height="{height:.2f}mm" '
        f'viewBox="0 0 {width:.2f} {height:.2f}" font-family="sans-serif" fill="none">\n'
        f"<title>{escape(plan.figure)}, blank of {escape(row.name)}, true size</title>\n"
        f'<text x="{MARGIN_MM}" y="8" font-size="4" fill="#2E2A2C">{escape(told)}</text>\n'
        f'<text x="{MARGIN_MM}" y="14" font-size="3.4" fill="#6B635B">{escape(shrinks)}</text>\n'
        f'<path class="blank" d="{path(blank.outline)}" stroke="#2E2A2C" stroke-width="0.5"/>\n'
        f'<path class="fold" d="{path(blank.fold)}" stroke="#9C4232" stroke-width="0.4" '
        f'stroke-dasharray="3 2"/>\n{ruler_svg(height - MARGIN_MM)}\n</svg>\n'
    )
