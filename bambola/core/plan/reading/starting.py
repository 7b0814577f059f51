"""A figure to start from: a body plan at the maker's height and proportions."""

from __future__ import annotations

from collections.abc import Mapping

from bambola.core.bench import Bench, with_wools_of
from bambola.core.figure import (
    Ball,
    Coat,
    Datum,
    Figure,
    Part,
)
from bambola.core.figure.bodyplans import BodyPlan
from bambola.core.plan.making.at_size import at_size
from bambola.core.plan.making.made import as_made


def start_from(
    plan: BodyPlan, height: float, settings: Mapping[str, float], bench: Bench
) -> Figure:
    """Return the plan's figure at ``height`` mm with its proportions multiplied, as a design of its own.

    Raises ``ResizeError`` where the height cannot be met.
    """
    figure = with_wools_of(plan.figure, bench)
    sized = at_size(as_made(figure, bench), plan.brief(height, settings))
    cut = {wire.id: wire.diameter_mm for wire in sized.wired.wires}
    made = sized.resized.figure
    wires = tuple(wire.replaced(diameter=cut[wire.id]) for wire in made.wires if wire.id in cut)
    return Figure.model_validate(made.replaced(wires=wires).model_dump())


def start_from_pictures(height: float, bench: Bench, name: str, body: str) -> Figure:
    """Return what the first line in a picture makes a body of: one round part of ``height`` mm."""
    coat = next((w.id for w in bench.wools if w.form != "core"), bench.wools[0].id)
    core = next((w.id for w in bench.wools if w.form == "core"), bench.wools[0].id)
    ball = Part(
        id="body",
        name=body,
        shape=Ball(width=height * 0.6, depth=height * 0.6, height=height),
        core=core,
        coat=Coat(wool=coat),
    )
    return Figure(id="new-figure", name=name, datum=Datum(), parts=(ball,))
