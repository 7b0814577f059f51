"""A step of a plan with everything its method may need, computed on demand."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from bambola.core.armature.cuts import CutWire
from bambola.core.bench import Bench, Wool
from bambola.core.facts import Fact, fact
from bambola.core.figure import Part
from bambola.core.figure.additions import core_of
from bambola.core.methods.slots import overlap_at_join
from bambola.core.order import FittingJob, PartJob, Step
from bambola.core.order.keys import SECOND, Sort
from bambola.core.order.steps import base_part
from bambola.core.order.work import called
from bambola.core.piece import section_of, taper_of
from bambola.core.piece.state import Section
from bambola.core.plan.counter.weighing import blanks_of
from bambola.core.plan.making.values import PartPlan, Plan
from bambola.core.solids import Copy, CopySolid
from bambola.core.solids.roots import caps_of
from bambola.core.wool import Portion, is_ring
from bambola.core.wool.blanks import Blank

TAPERS = 0.85
"""A piece whose thinner end is under so much of its thickest place is told at base, middle and tip. Judged.
See craft.md, 10."""


@dataclass(frozen=True)
class StepInPlan:
    """One step in its plan. Lengths mm, weights g, for one copy of its part."""

    plan: Plan
    step: Step
    bench: Bench

    @property
    def sort(self) -> Sort:
        """The sort of work of the step."""
        return self.step.key.sort

    @property
    def about(self) -> str:
        """The part or thing in its key."""
        return self.step.key.about

    @cached_property
    def row(self) -> PartPlan:
        """The part's row of the plan."""
        name = base_part(self.step.part)
        assert name is not None, self.step.key
        return self.plan.part(name)

    @cached_property
    def job(self) -> PartJob | None:
        """The part's job in the order."""
        return self.plan.job_of(self.step)

    @cached_property
    def body(self) -> Part:
        """The part at its new size."""
        return self.plan.resized.figure.by_id[self.row.id]

    @cached_property
    def placed(self) -> tuple[Copy, CopySolid]:
        """The first copy of the part in its place, with its measurements."""
        return self.plan.solids.copies_of(self.row.id)[0]

    @property
    def copies(self) -> int:
        """How many copies are made at this step."""
        return self.job.count if self.job else self.row.count if self.step.part else 1

    @cached_property
    def twin(self) -> Step | None:
        """The step that made the other one of a pair in this way, if they are made one at a time."""
        key = self.step.key
        if not key.about.endswith(SECOND):
            return None
        first = key.replace(key.about, key.about.removesuffix(SECOND), 1)
        return next((s for s in self.plan.steps if s.key == first and s.n < self.step.n), None)

    @cached_property
    def part_name(self) -> Fact:
        """The name of the part, or of both of a pair."""
        if self.job is None:
            return fact("the", name=self.row.name)
        return called(self.job.name, self.job.plural, self.copies)

    @cached_property
    def portion(self) -> Portion | None:
        """The heaviest portion that the step lays."""
        laid = self.plan.laid_by(self.step)
        return max((p for p, _ in laid), key=lambda p: p.grams, default=None)

    @property
    def share(self) -> float:
        """The share of that portion that this step lays."""
        return next((s for p, s in self.plan.laid_by(self.step) if p == self.portion), 1.0)

    @property
    def take_g(self) -> float:
        """The amount the step lays, g."""
        return self.portion.take_g * self.share if self.portion else 0.0

    @property
    def wool(self) -> Wool | None:
        """The wool the step lays."""
        return self.bench.wool_by_id[self.portion.wool] if self.portion else None

    @cached_property
    def finished(self) -> tuple[float, float, float]:
        """The size of the piece after the step, along, across and through; of a core, within its coat."""
        if self.portion is not None and self.portion.role == "core" and self.portion.finished_mm:
            along, across, through = self.portion.finished_mm.values()
            return along, across, through
        return self.row.piece

    @cached_property
    def loose(self) -> tuple[float, float, float]:
        """The size of the bundle before felting; larger round a hard core by its volume."""
        if self.portion is None or len(self.portion.loose_mm) < 3:
            return self.finished
        along, across, through = self.portion.loose_mm.values()
        swells = (1 + self.hard_mm**3 / (along * across * through)) ** (1 / 3)
        return along * swells, across * swells, through * swells

    @cached_property
    def taper(self) -> tuple[float, float, float] | None:
        """The thickness of the finished piece at base, middle and near the tip; empty if it does not taper,
        or is no limb, rope or cone."""
        copy, solid = self.placed
        if copy.shape.start_form == "ball" or self.section in ("sheet", "ring"):
            return None
        base, middle, tip = taper_of(copy, solid, self.finished[1])
        return (base, middle, tip) if min(base, tip) < TAPERS * max(base, middle, tip) else None

    @cached_property
    def blank(self) -> Blank | None:
        """The blank of a part felted as a sheet; None for any other."""
        return blanks_of(self.plan, self.bench).get(self.row.id) if self.body.shape.flat else None

    @cached_property
    def is_ring(self) -> bool:
        """Whether the part closes to a ring."""
        copy, solid = self.placed
        return is_ring(copy.part, solid)

    @property
    def thick(self) -> float:
        """The smallest side of the finished piece."""
        return min(self.finished)

    @cached_property
    def hard_mm(self) -> float:
        """The thickness of the hard core in the part; 0 if there is none."""
        hard = core_of(self.plan.resized.figure, self.row.id)
        return hard.size if hard else 0.0

    @cached_property
    def wire(self) -> CutWire:
        """The wire that the step is about."""
        return next(wire for wire in self.plan.wires if wire.id == self.about)

    @cached_property
    def fitting(self) -> FittingJob:
        """The fitting that the step is about."""
        return next(f for f in self.plan.work.fittings if f.id == self.about)

    @cached_property
    def fitting_mm(self) -> float:
        """Its size."""
        return next(f.use_mm for f in self.plan.fittings if f.id == self.about)

    @cached_property
    def bearer(self) -> Copy:
        """The copy of the bearer that the first copy of the part sits on."""
        parents = self.plan.solids.placement.copies_of(str(self.body.parent))
        side = self.placed[0].side
        return next((copy for copy in parents if copy.side in (None, side)), parents[0])

    @property
    def capped_by(self) -> str | Fact:
        """The part put over the wire where it goes on beyond this one, such as a foot; empty if the wire ends
        here."""
        on = (j.name for j in self.plan.work.parts if j.parent == self.row.id and self._is_wired(j))
        return next(on, "")

    def _is_wired(self, job: PartJob) -> bool:
        """Return whether wire goes on into a part that caps a limb, or ends there in a loop."""
        figure = self.plan.resized.figure
        if job.left_out or job.garment:
            return False
        if job.made == "on wire":
            return True
        part, limb = base_part(job.id), base_part(job.parent)
        nodes = {node.id: node.part for node in figure.nodes}
        ends = (w.route[k] for w in figure.wires if w.loops for k in (0, -1))
        looped = any(nodes[end] == limb for end in ends)
        return part in caps_of(figure) and (looped or part in figure.wired)

    @property
    def is_round_wire(self) -> bool:
        """Whether the part goes over the bare end of a limb's wire."""
        return self.job is not None and self._is_wired(self.job)

    @property
    def wound_pairs(self) -> int:
        """The number of pairs of limbs wound on the same frame that go out from the part."""
        jobs = self.plan.work.parts
        return sum(j.parent == self.row.id and j.made == "on wire" and j.count == 2 for j in jobs)

    @cached_property
    def fringe_mm(self) -> float:
        """The length left loose for joining; 0 if no fringe joins the part."""
        return self.row.fringe_mm

    @cached_property
    def section(self) -> Section:
        """The cross-section of the piece."""
        return section_of(self.row, *self.placed)

    @property
    def is_flat_on(self) -> bool:
        """Whether the piece is flat on the side towards its bearer."""
        return self.body.parent is not None and self.section == "flat side"

    @cached_property
    def rises_mm(self) -> float:
        """How far the bearer rises into the seat; the soft end of the part gives way by that."""
        return overlap_at_join(self.placed[0], self.bearer)[1]

    @cached_property
    def wire_mm(self) -> float:
        """The diameter of the stoutest wire in the part; 0 if there is none."""
        return max((w.diameter_mm for w in self.plan.wires_in(self.row.id)), default=0.0)
