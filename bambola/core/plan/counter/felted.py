"""What a felted piece tells of the maker's hands: a record of the wool that went in and the piece that came
out."""

from __future__ import annotations

import math

from bambola.core.bench import Bench, Record
from bambola.core.bench.records import Size3
from bambola.core.frozen import frozen
from bambola.core.order import Step
from bambola.core.order.work import drawn_out_of
from bambola.core.plan.counter.weighing import covered_skin
from bambola.core.plan.making.values import Plan
from bambola.core.wool import Portion


@frozen
class Felted:
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


def felted_at(plan: Plan, step: Step) -> Felted | None:
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
    return Felted(step.part, portion, job.made == "apart" and _lies_alone(plan, step))


def _lies_alone(plan: Plan, step: Step) -> bool:
    """Return whether a part has neither wire in it nor anything on it once ``step`` is done."""
    job, figure = plan.job_of(step), plan.resized.figure
    others = [step.part, *(part.id for part in figure.parts if part.parent == step.part)]
    before = (s for s in plan.steps[: step.n - 1] if s.key.sort in ("join", "pair", "fit", "hard"))
    return job is not None and not job.wires and not any(s.part in others for s in before)


def record_of(
    plan: Plan,
    bench: Bench,
    felted: Felted,
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
