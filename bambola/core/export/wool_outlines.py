"""Outlines of bundles and blanks at true size, as closed lines."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bambola.core.bench import Bench
from bambola.core.plan import Plan
from bambola.core.plan.counter.blanks import blanks_of
from bambola.core.quantities import show_length, show_mass
from bambola.core.solids.forms import Array
from bambola.core.wool import Portion, amount, called, is_plain_core
from bambola.core.words import Words


@dataclass(frozen=True)
class Outline:
    """A closed line (n, 2) in mm to be printed at true size, with what is written in it; ``dashed``
    lines are folds."""

    title: str
    told: str
    runs: tuple[tuple[Array, bool], ...]

    @property
    def box(self) -> tuple[float, float, float, float]:
        """Left, bottom, right, top of all its lines, mm."""
        points = np.vstack([run for run, _ in self.runs])
        (left, low), (right, high) = points.min(axis=0), points.max(axis=0)
        return float(left), float(low), float(right), float(high)


def bundle_outlines(plan: Plan, words: Words) -> tuple[Outline, ...]:
    """The outline of every bundle that is rolled, at its loose size, lying as it is rolled."""
    found = []
    for part in plan.parts:
        for portion in part.heaps:
            if portion.take_g <= 0 or portion.form == "sheet":
                continue
            count = f"{part.count} × " if part.count > 1 else ""
            role = "" if is_plain_core(portion) else f", {words.say(called(portion))}"
            told = f"{words.say(amount(portion))}: {_loose_words(portion, words)}"
            found.append(Outline(f"{count}{part.name}{role}", told, ((bundle_of(portion), False),)))
    return tuple(found)


def _loose_words(portion: Portion, words: Words) -> str:
    sizes = sorted({round(v, 2) for v in portion.loose_mm.values()}, reverse=True)
    told = " × ".join(show_length(v, words.units, with_unit=False) for v in sizes)
    size = f"{told} {words.units.length}"
    if portion.form == "veil":
        return words.tr("{size} across, before it is pulled into veils", size=size)
    return size


def bundle_of(portion: Portion) -> Array:
    """The shadow (n, 2) of a loose bundle: an ellipse, a sausage with round ends, or a cone."""
    turn = np.linspace(0, 2 * math.pi, 97)[:-1]
    circle = np.column_stack([np.cos(turn), np.sin(turn)])
    if portion.form == "veil":
        return circle * (portion.loose_mm["across"] / 2)
    along, across = portion.loose_mm["along"], portion.loose_mm["across"]
    if portion.form == "sausage" and along > across:
        shift = (along - across) / 2
        ends = circle * (across / 2)
        ends[:, 0] += np.where(ends[:, 0] >= 0, shift, -shift)
        return ends
    if portion.form == "cone":
        return np.array([(0.0, -across / 2), (along, 0.0), (0.0, across / 2)])
    return circle * (np.array([along, across]) / 2)


def blank_outlines(plan: Plan, bench: Bench, words: Words) -> tuple[Outline, ...]:
    """The blank of every flat part with its fold line."""
    found = []
    for part_id, blank in blanks_of(plan, bench).items():
        part = plan.part(part_id)
        core = next(p for p in part.heaps if p.role == "core")
        told = words.tr(
            "lay {take} to the outer line, fold at the dashed one; {fringe} of fringe at the foot",
            take=show_mass(core.take_g, words.units),
            fringe=show_length(blank.fringe_mm, words.units),
        )
        found.append(
            Outline(
                words.tr("{count} × {name}, blank", count=part.count, name=part.name),
                told,
                ((blank.outline, False), (blank.fold, True)),
            )
        )
    return tuple(found)
