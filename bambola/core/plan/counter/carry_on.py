"""Carrying on after a part came out at another size: the ways to go on from it."""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence

from bambola.core.bench import Bench, Making, Record, Wool
from bambola.core.bench.wools import Size3
from bambola.core.figure import Brief, Figure, Part, SizeRule
from bambola.core.frozen import frozen
from bambola.core.order import Step
from bambola.core.order.work import drawn_out_of
from bambola.core.plan.counter.weighing import covered_skin
from bambola.core.plan.making.values import Plan
from bambola.core.resize import ResizeError, placed_at
from bambola.core.solids import Placement
from bambola.core.wool import Portion, finished_size
from bambola.core.wool.shelf import substitutes

_LENGTHS = ("length", "height")


@frozen
class WaysOnward:
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
) -> WaysOnward:
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
    return WaysOnward(fit, fitted, held.at_height(left.height), left)


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


@frozen
class FeltedWool:
    """The wool of a ``part`` whose felting a step completes. It ``can_be_weighed`` if the part lies by itself
    on the pad, without wire or another part in it."""

    part: str
    portion: Portion
    can_be_weighed: bool

    @property
    def has_size(self) -> bool:
        """Whether it has three sizes to be measured."""
        return self.portion.role == "core" and len(self.portion.finished_mm) == 3

    @property
    def can_be_read(self) -> bool:
        """Whether there is anything to measure or weigh."""
        return self.has_size or self.can_be_weighed


def felted_at(plan: Plan, step: Step) -> FeltedWool | None:
    """Return what ``step`` completes the felting of: a core with its last round, a coat, a patch."""
    job = plan.job_of(step)
    if job is None or step.part is None or step.key.sort not in ("core", "coat", "inset"):
        return None
    if step.key.sort == "core" and step.key.nth != job.rounds:
        return None
    if job.drawn or drawn_out_of(plan.work, job.id):
        return None  # several parts are one ball: none can be read by itself
    laid = (p for p in plan.portions_of(step) if p.role == step.key.sort and p.take_g > 0)
    portion = next(laid, None)
    if portion is None:
        return None
    return FeltedWool(step.part, portion, job.made == "apart" and _lies_alone(plan, step))


def likely_weight(plan: Plan, felted: FeltedWool, core_g: float | None) -> tuple[float, float]:
    """Return between which weights (g) a piece comes out that was made as told: of what was laid ready alone,
    and with all that was kept by. Under a coat lies its core, of ``core_g`` where that was weighed."""
    low, high = felted.portion.stays_g
    if felted.portion.role == "core":
        return low, high
    if core_g is not None:
        return low + core_g, high + core_g
    cores = [p.stays_g for p in plan.part(felted.part).heaps if p.role == "core"]
    return low + sum(core[0] for core in cores), high + sum(core[1] for core in cores)


def _lies_alone(plan: Plan, step: Step) -> bool:
    """Return whether a part has neither wire in it nor anything on it once ``step`` is done."""
    job, figure = plan.job_of(step), plan.resized.figure
    others = [step.part, *(part.id for part in figure.parts if part.parent == step.part)]
    before = (s for s in plan.steps[: step.n - 1] if s.key.sort in ("join", "pair", "fit", "hard"))
    return job is not None and not job.wires and not any(s.part in others for s in before)


def record_of(
    plan: Plan,
    bench: Bench,
    felted: FeltedWool,
    grams_in: float,
    day: str,
    trimmed: float | None = None,
    size: Size3 | None = None,
    minutes: float | None = None,
    note: str = "",
) -> Record:
    """Return the record of a piece that took ``grams_in``: of a core by its size (mm), of a coat or patch by
    the skin it covers. Raises ``ValueError`` if no piece can be like that."""
    figure, portion = plan.resized.figure, felted.portion
    part = figure.by_id[felted.part]
    known: dict[str, object] = {
        "day": day,
        "figure": plan.figure,
        "part": part.name,
        "wool": portion.wool,
        "role": portion.role,
        "firmness": part.firmness,
        "grams_in": grams_in,
        "grams_trimmed": trimmed,
        "minutes": minutes,
        "note": note,
    }
    skin = covered_skin(plan, bench, felted.part, portion)
    if skin is not None:
        known |= {"area_cm2": skin[0], "asked_cover": skin[1]}
    elif size is not None:
        made = plan.part(felted.part)
        solid = sum(p.grams for p in made.portions if p.role in ("core", "coat", "inset"))
        wanted = made.net_cm3 * portion.grams / solid
        grown = math.prod(size) / math.prod(portion.finished_mm.values())
        known |= {"form": portion.form, "finished_mm": size, "volume_cm3": wanted * grown}
    return Record.model_validate(known)
