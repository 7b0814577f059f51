"""The blanks of a plan: the sheets its flat parts are laid out to."""

from __future__ import annotations

from bambola.core.bench import Bench
from bambola.core.figure import Leaf
from bambola.core.plan.making.values import Plan
from bambola.core.wool import Blank, blank_of


def blanks_of(plan: Plan, bench: Bench) -> dict[str, Blank]:
    """Return the blank of every flat part that is felted as a sheet, by part id."""
    found = {}
    figure = plan.resized.figure
    for row in plan.parts:
        part = figure.by_id[row.id]
        sheet = any(p.role == "core" and p.form == "sheet" for p in row.portions)
        if isinstance(part.shape, Leaf) and row.made != "detail" and sheet:
            wool = bench.wool_by_id[part.core]
            found[row.id] = blank_of(
                part.shape,
                wool.start_density,
                bench.packed_density(figure, part),
                row.fringe_mm,
                wool.shrink_weights("sheet")[0],
            )
    return found
