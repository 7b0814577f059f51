"""Carrying on after a part came out at another size: the ways to go on from it."""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence

from bambola.core.bench import Bench, Making, Wool
from bambola.core.figure import Brief, Figure, Part, SizeRule
from bambola.core.frozen import frozen
from bambola.core.order import Step
from bambola.core.plan.making.values import Plan
from bambola.core.resize import ResizeError, placed_at
from bambola.core.solids import Placement
from bambola.core.wool import finished_size
from bambola.core.wool.shelf import substitutes

_LENGTHS = ("length", "height")


@frozen
class Onward:
    """The two ways to go on with a part as it is: ``fit`` the rest to it so that the wanted height is met
    (None if it cannot be), or ``leave`` the rest, which gives another height. ``fitted`` and ``left`` are the
    resulting plans."""

    fit: Brief | None
    fitted: Placement | None
    leave: Brief
    left: Placement

    @property
    def leave_mm(self) -> float:
        """The height of the figure if the rest is left, mm."""
        return self.left.height


def real_measures(
    part: Part,
    sized: Mapping[str, float],
    told: tuple[float, float],
    length: float | None,
    thickness: float | None,
) -> dict[str, float]:
    """Return a part's own measures (mm) when its piece came out this long and thick instead of as ``told``.
    What lies in another part is as planned; measures across follow the thickness, but a flat part is no wider
    for being thicker. ``sized`` is what was planned."""
    along = finished_size(part.shape)["along"]
    longer = (along + length - told[0]) / along if length else None
    stouter = thickness / told[1] if thickness else None
    found: dict[str, float] = {}
    for name, mm in sized.items():
        by = longer if name in _LENGTHS else stouter
        if by is not None:
            found[name] = mm if part.shape.flat and name == "width" else mm * by
    return found


def with_found(
    brief: Brief, part: str, measures: Mapping[str, float], grams: float | None = None
) -> Brief:
    """Return ``brief`` with a part held at its measured size, and its weight recorded."""
    rules = tuple(r for r in brief.rules.get(part, ()) if r.measure not in measures)
    held = tuple(SizeRule(measure=name, rule="hold", value=mm) for name, mm in measures.items())
    found = brief.ruled(part, (*rules, *held))
    if grams is None:
        return found
    return found.model_copy(update={"found": {**brief.found, part: grams}})


def ways_to_carry_on(
    figure: Figure,
    brief: Brief,
    bench: Bench,
    plan: Plan,
    part: str,
    measures: Mapping[str, float],
    grams: float | None = None,
) -> Onward:
    """Return the ways to go on with a part of these measures that weighs ``grams``."""
    from bambola.core.plan.make import make_plan

    held = with_found(brief, part, measures, grams)
    left = placed_at(figure, held, bench, plan.scale)
    fit: Brief | None = held if brief.height is not None else None
    fitted: Placement | None = None
    try:
        if fit is not None:
            fitted = make_plan(figure, fit, bench).solids.placement
    except ResizeError:
        fit = None
    return Onward(fit, fitted, held.at(left.height), left)


def place_in(steps: Sequence[Step], making: Making) -> int:
    """Return where in ``steps`` a making goes on: at the step in hand, or, if that no longer exists, after
    the last of those before it."""
    at = {str(step.key): n for n, step in enumerate(steps)}
    if making.at in at:
        return at[making.at]
    done = next((at[key] for key in reversed(making.behind) if key in at), -1)
    return max(0, min(done + 1, len(steps) - 1))


def still_to_come(plan: Plan, done: Collection[str]) -> dict[str, float]:
    """Return wool (g) that steps which are not ``done`` will take, by wool."""
    found: dict[str, float] = {}
    for step in plan.steps:
        if step.key in done:
            continue
        job = plan.job_of(step)
        copies = job.count if job else 1
        for portion, share in plan.laid_by(step):
            found[portion.wool] = found.get(portion.wool, 0.0) + portion.take_g * share * copies
    return found


def like_wools(plan: Plan, bench: Bench, wool: str, done: Collection[str]) -> tuple[Wool, ...]:
    """Return the wools near enough in form and colour to replace one that ran out, the nearest first: those
    with enough to spare, or never counted."""
    to_come = still_to_come(plan, done)
    spare = {
        w.id: math.inf if w.grams is None else w.grams - to_come.get(w.id, 0.0) for w in bench.wools
    }
    return tuple(substitutes(bench.wool_by_id[wool], to_come.get(wool, 0.0), bench, spare))
