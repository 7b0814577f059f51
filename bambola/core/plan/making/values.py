"""The plan: every computed number with its reasons, immutable.

:class:`Sheet` is the contract of the headless command, field for field; :class:`Plan` is a sheet with the
resized figure it was computed from, for drawing.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Annotated, Any, Literal

from pydantic import GetCoreSchemaHandler, GetPydanticSchema
from pydantic_core import CoreSchema

from bambola.core.armature import CutWire, Gauge, StockCut
from bambola.core.balance import Balance, JoinStress
from bambola.core.face import Face, faces_of
from bambola.core.facts import Fact
from bambola.core.figure.model import NOT_FELTED
from bambola.core.figure.questions import Answer
from bambola.core.frozen import frozen
from bambola.core.order import Change, PartJob, Sequence, Step, Work
from bambola.core.order.keys import SECOND, TaskKey
from bambola.core.order.work import drawn_out_of, in_blank
from bambola.core.plan.making.dress import DressPlan
from bambola.core.plan.making.loose_ends import end_share, heaps_of
from bambola.core.plan.making.patterns import MaterialTotal, PatternPlan
from bambola.core.resize import Made, Resized
from bambola.core.solids import Solids
from bambola.core.wool import Mix, Portion, WoolTotal


@frozen
class PartPlan:
    """One part at its new size. ``piece_mm`` (length, width, thickness) is the finished piece as it lies on
    the pad, less what it lies in. Portions and grams are for each one of ``count`` copies."""

    id: str
    name: str
    count: int
    made: Made
    from_mm: dict[str, float]
    to_mm: dict[str, float]
    piece_mm: dict[str, float]
    net_cm3: float
    exposed_cm2: float
    rounds: int
    firmness: str
    coat_mm: float
    sized_by: tuple[Fact, ...]
    fringe_mm: float
    portions: tuple[Portion, ...]

    @property
    def piece(self) -> tuple[float, float, float]:
        """The length, width and thickness of the finished piece, mm."""
        length, width, thickness = self.piece_mm.values()
        return length, width, thickness

    @property
    def grams(self) -> float:
        """Wool in one finished copy, g."""
        return sum(portion.grams for portion in self.portions)

    @property
    def is_felted(self) -> bool:
        """Whether it is of wool and made by the maker."""
        return self.made not in NOT_FELTED

    @property
    def heaps(self) -> tuple[Portion, ...]:
        """The portions as heaps to lay ready: the heap of the core includes the loose end."""
        return heaps_of(self.portions)

    @property
    def end_share(self) -> float:
        """The loose end's share of the heap of the core."""
        return end_share(self.portions)


@frozen
class FittingPlan:
    """A fitting: its wanted size by the scale, the size used, and the deviation. Of things in fixed sizes
    ``have`` are in the box and ``buy`` are missing, for all figures."""

    id: str
    name: str
    wanted_mm: float
    use_mm: float
    deviation_pct: float
    count: int
    mass_g: float
    have: int = 0
    buy: int = 0


@frozen
class BonePlan:
    """One bone: strands asked and there, and moments in N·mm at its inner node.

    ``was_nmm`` as made and ``design_nmm`` now, in the pose or leaning, whichever is more;
    ``static_nmm`` in the pose alone. ``needs_nmm`` is what its wires must bear, ``bears_nmm`` what they
    do. ``beyond_s4_pct`` is by how much the moment grew more than if all had scaled (s⁴).
    """

    a: str
    b: str
    part: str
    strands_asked: int
    strands: int
    was_nmm: float
    static_nmm: float
    design_nmm: float
    needs_nmm: float
    bears_nmm: float
    beyond_s4_pct: float


def _as_text(_: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
    return handler(str)


Said = Annotated[Answer, GetPydanticSchema(_as_text)]
"""An answer, which is exported as the text that it is."""


@frozen
class Option:
    """One answer to a question, and its effect."""

    id: Said
    label: Fact
    effect: Fact


@frozen
class Notice:
    """Something the maker must know (note), decide (choose) or mend (stop)."""

    code: str
    level: Literal["note", "choose", "stop"]
    part: str | None
    title: Fact
    text: Fact
    options: tuple[Option, ...] = ()
    answer: Said | None = None

    @property
    def is_open(self) -> bool:
        """Whether it still waits for an answer."""
        return self.level == "choose" and self.answer is None

    @property
    def waits(self) -> bool:
        """Whether it still has to be answered or mended."""
        return self.is_open or self.level == "stop"


@dataclass(frozen=True)
class Sheet:
    """The plan as it is exported. Lengths mm, masses g, angles degrees, times minutes."""

    figure: str
    datum: Fact
    from_height_mm: float
    to_height_mm: float
    scale: float
    count: int
    wool_g: float
    minutes: float
    parts: tuple[PartPlan, ...]
    wires: tuple[CutWire, ...]
    bones: tuple[BonePlan, ...]
    wire_school: str
    wire_joints: int
    cutting: tuple[StockCut, ...]
    wools: tuple[WoolTotal, ...]
    mixes: tuple[Mix, ...]
    fittings: tuple[FittingPlan, ...]
    balance: Balance
    joins: tuple[JoinStress, ...]
    steps: tuple[Step, ...]
    dress: tuple[DressPlan, ...]
    patterns: tuple[PatternPlan, ...]
    materials: tuple[MaterialTotal, ...]
    changes: tuple[Change, ...]
    notices: tuple[Notice, ...]


@dataclass(frozen=True)
class Plan(Sheet):
    """A sheet and what it was made from: the figure, the ``order`` of the work, and the work by the usual
    schools if the maker follows others; ``runs`` are the numbers of figures made at once, run after run."""

    order: Sequence
    work: Work
    usual: Work | None
    choices: frozenset[str]
    resized: Resized
    solids: Solids
    gauges: Mapping[str, Gauge]
    runs: tuple[int, ...]

    @cached_property
    def faces(self) -> tuple[Face, ...]:
        """The marks on its faces, measured on first use."""
        return faces_of(self.solids.placement)

    def part(self, part_id: str) -> PartPlan:
        """Return the plan of one part."""
        return self._by_id[part_id]

    @cached_property
    def _by_id(self) -> dict[str, PartPlan]:
        return {part.id: part for part in self.parts}

    @cached_property
    def _jobs_by_id(self) -> dict[str, PartJob]:
        return {job.id: job for job in self.work.parts}

    def pattern_of(self, part_id: str) -> PatternPlan | None:
        """Return the pattern of a part; None if it is of wool."""
        return next((row for row in self.patterns if row.part == part_id), None)

    def wires_in(self, part_id: str) -> tuple[CutWire, ...]:
        """Return the wires that run through a part."""
        figure = self.resized.figure
        nodes = {node.id: node.part for node in figure.nodes}
        routes = {wire.id: wire.route for wire in figure.wires}
        return tuple(
            w for w in self.wires if any(nodes[n] == part_id for n in routes.get(w.id, ()))
        )

    def fittings_on(self, part_id: str) -> tuple[FittingPlan, ...]:
        """Return the fittings that sit on a part, and the part itself if it is bought."""
        on = {f.id for f in self.resized.figure.fittings if f.part == part_id} | {part_id}
        return tuple(row for row in self.fittings if row.id in on)

    def portions_of(self, step: Step) -> tuple[Portion, ...]:
        """Return the portions that a step lays for one copy of its part; none if the step is from another
        plan and its part no longer exists."""
        sort = step.key.sort
        roles = {
            "core": "core",
            "coat": "coat",
            "inset": "inset",
            "fur": "fur",
            "blend": "seam",
            "face": "inset",
        }
        if step.part not in self.resized.figure.by_id or sort not in (*roles, "detail"):
            return ()
        assert step.part is not None
        if sort == "detail":  # drawn in one go, whatever it is made of
            return tuple(p for p in self.part(step.part).heaps if p.take_g > 0)
        key = step.key
        place = {"inset": key.detail, "face": key.detail, "fur": key.place}.get(sort)
        job = self.job_of(step)
        within = in_blank(self.work, job) if job and sort == "core" else frozenset()
        return tuple(
            p
            for p in self.part(step.part).heaps
            if (p.role == "inset" and p.detail in within and p.take_g > 0)
            or (p.role == roles[sort] and p.take_g > 0 and (place is None or p.detail == place))
        )

    def job_of(self, step: Step) -> PartJob | None:
        """Return the job of the part a step works on; of limbs made one at a time, the one of the two."""
        return self._jobs_by_id.get(step.key.about)

    def laid_by(self, step: Step) -> tuple[tuple[Portion, float], ...]:
        """Return the portions that a step lays, each with its share: rounds and rows of fur divide a portion.
        The last round of a core keeps its loose end."""
        share, job = 1.0, self.job_of(step)
        if job and step.key.sort == "core" and job.drawn:
            return ()
        if job and step.key.sort == "core" and (drawn := drawn_out_of(self.work, job.id)):
            return ((self._one_mass(job, drawn), 1.0),)
        if job and step.key.sort == "core":
            end = self.part(job.id.removesuffix(SECOND)).end_share
            share = (1 - end) / job.rounds
            share += end if step.key.nth == job.rounds else 0.0
        elif job and step.key.sort == "fur":
            share = 1 / job.fur_at(step.key).rows
        return tuple((portion, share) for portion in self.portions_of(step))

    def _one_mass(self, job: PartJob, drawn: tuple[PartJob, ...]) -> Portion:
        """Return the wool of a core and of everything ``drawn`` out of it, as one ball."""

        def heap(part: str) -> Portion:
            return next(p for p in self.part(part).heaps if p.role == "core")

        own, others = heap(job.id), [(heap(one.id), one.count / job.count) for one in drawn]
        grams = own.grams + sum(p.grams * n for p, n in others)
        swells = (grams / own.grams) ** (1 / 3)
        return replace(
            own,
            grams=grams,
            take_g=own.take_g + sum(p.take_g * n for p, n in others),
            keep_by_g=own.keep_by_g + sum(p.keep_by_g * n for p, n in others),
            loose_mm={name: mm * swells for name, mm in own.loose_mm.items()},
            tear=None,
        )

    def cautions_at(self, step: Step, said: dict[Fact, TaskKey]) -> tuple[Fact, ...]:
        """Return the cautions to show at ``step``: those not yet ``said`` in this sitting or on this sheet,
        and all of them where fingers hold a small piece close to the needle. Adds them to ``said``."""
        job = self.job_of(step)
        close = job is not None and job.small
        return tuple(c for c in step.cautions if said.setdefault(c, step.key) == step.key or close)

    @property
    def open_questions(self) -> tuple[Notice, ...]:
        """The questions still waiting for the maker."""
        return tuple(notice for notice in self.notices if notice.is_open)

    @property
    def waiting(self) -> tuple[Notice, ...]:
        """Everything that still has to be decided or mended."""
        return tuple(notice for notice in self.notices if notice.waits)
