"""How a step is done: what the hands do, with which needle, until when, and what is looked at."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

from bambola.core.facts import NOTHING, Fact
from bambola.core.frozen import frozen
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import StepDrawing

PLACES = ("at-base", "at-middle", "at-tip")
"""Where the thickness of a piece that tapers is measured."""
Unit = Literal["mm", "deg", "g", "count"]


@frozen
class NeedleRun:
    """Stabs with ``count`` needles of a gauge at once, so deep (mm), at so many degrees to the surface."""

    gauge: int
    count: int
    depth_mm: float
    angle_deg: float
    told: Fact


@frozen
class Stop:
    """When to stop: ``what`` lies between ``low`` and ``high``; ``told`` says so."""

    what: Fact
    low: float
    high: float
    unit: Unit
    told: Fact


@frozen
class Check:
    """Something to look at or feel: how, what is right, and what to do where it is not."""

    text: Fact
    passed: Fact
    failed: Fact


@frozen
class Card:
    """How one step is done. ``minutes_range`` is what it is likely to take; ``scale`` what another size
    of the figure would change in it."""

    method: str
    how: tuple[Fact, ...]
    start: Fact
    amount: Fact
    needles: tuple[NeedleRun, ...]
    stop: tuple[Stop, ...]
    until: Fact
    checks: tuple[Check, ...]
    minutes_range: tuple[float, float]
    scale: Fact = NOTHING

    @property
    def sizes(self) -> dict[str, float]:
        """The sizes (mm) at which to stop, by their names, each the middle of what will do; the thickness of
        what tapers is where it is thickest."""
        found = {
            stop.what.kind.rpartition(".")[2]: (stop.low + stop.high) / 2
            for stop in self.stop
            if stop.unit == "mm"
        }
        places = [mm for name, mm in found.items() if name in PLACES]
        return {**found, "thickness": max(places)} if places else found

    @property
    def why(self) -> Fact:
        """The reason behind the method, for those who learn it."""
        return Fact(f"{self.method}.why")


@frozen
class StepSheet:
    """One step with its card and its picture, both of the same numbers."""

    at: StepInPlan
    card: Card
    drawing: StepDrawing


@frozen
class Method:
    """A way of doing a step: for which steps it is, what it makes of one, and its picture."""

    id: str
    fits: Callable[[StepInPlan], bool]
    card: Callable[[StepInPlan], Card]
    picture: Callable[[StepInPlan, Card], StepDrawing]
