"""What another way of working changes: which steps and parts, how much wool, how much time."""

from __future__ import annotations

import difflib
from collections.abc import Iterable, Sequence

from bambola.core.armature import SCHOOLS, school_of
from bambola.core.bench import Bench
from bambola.core.figure import Brief, Figure
from bambola.core.frozen import frozen
from bambola.core.order import Choice, Step
from bambola.core.plan.make import make_plan
from bambola.core.plan.making.values import Plan


@frozen
class Difference:
    """The difference between two plans, by keys of steps: ``moved``, ``new``, ``gone``, and done
    ``otherwise`` in the same place; the ``parts`` it shows on; and the change in wool (g) and minutes."""

    moved: tuple[str, ...]
    new: tuple[str, ...]
    gone: tuple[str, ...]
    otherwise: tuple[str, ...]
    parts: frozenset[str]
    grams: float
    minutes: float

    @property
    def steps(self) -> frozenset[str]:
        """The keys of all steps it concerns."""
        return frozenset((*self.moved, *self.new, *self.gone, *self.otherwise))


def compare_plans(now: Plan, then: Plan, choice: Choice | None = None) -> Difference:
    """Return the difference from ``now`` to ``then``; the cards of a ``choice`` may differ even where the
    order does not."""
    moved, new = moved_steps(now.steps, then.steps)
    old = {step.key: step for step in now.steps}
    there = {step.key for step in then.steps}
    rows = {part.id: part for part in now.parts}
    heavier = {
        part.id
        for part in then.parts
        if part.id in rows and abs(part.grams - rows[part.id].grams) > 0.01 * part.grams
    }
    gone = tuple(step.key for step in now.steps if step.key not in there)
    otherwise = tuple(
        step.key
        for step in then.steps
        if step.key in old
        and step.key not in moved
        and (
            _card_key(step) != _card_key(old[step.key])
            or (choice and choice.words(then.work, step.key))
        )
    )
    touched = {*moved, *new, *gone, *otherwise}
    seen = {step.part for step in (*now.steps, *then.steps) if step.key in touched and step.part}
    return Difference(
        moved,
        new,
        gone,
        otherwise,
        frozenset(_whole_part_ids(seen, rows)) | heavier,
        sum(wool.grams for wool in then.wools) - sum(wool.grams for wool in now.wools),
        sum(step.minutes for step in then.steps) - sum(step.minutes for step in now.steps),
    )


def moved_steps(
    now: Sequence[Step], then: Sequence[Step]
) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Return the steps of ``then`` that moved since ``now`` (the fewest that explain it), and the new
    ones."""
    keys, others = [step.key for step in now], [step.key for step in then]
    blocks = difflib.SequenceMatcher(None, keys, others, autojunk=False).get_matching_blocks()
    stay = {others[block.b + i] for block in blocks for i in range(block.size)}
    there = set(keys)
    return (
        tuple(key for key in others if key in there and key not in stay),
        tuple(key for key in others if key not in there),
    )


def _card_key(step: Step) -> tuple[object, ...]:
    return step.text, step.needle, step.cautions


def _whole_part_ids(parts: Iterable[str], rows: Iterable[str]) -> set[str]:
    """Return the ids of whole parts: the second of a pair made one at a time has its own id."""
    known = set(rows)
    return {part if part in known else part.partition(".")[0] for part in parts}


Point = tuple[float, float, float]


@frozen
class SchoolChoice:
    """One school: its wires as polylines (mm), its joints (bindings and splices), its mm of wire, and the mm
    of bone passed more often than asked; whether wire must be bought for it, and whether it is in use."""

    school: str
    wires: tuple[tuple[Point, ...], ...]
    joints: int
    wire_mm: float
    spare_mm: float
    buys: bool
    chosen: bool


def compare_school(figure: Figure, brief: Brief, bench: Bench, school: str) -> SchoolChoice:
    """Return what ``school`` would take for this figure and brief."""
    plan = make_plan(figure, brief.schooled("wire", school), bench)
    wires = [wire for wire in plan.wires if wire.id in plan.gauges]
    splices = sum(len(wire.pieces) - 1 for wire in wires)
    runs = [s for wire in wires for s in wire.stretches if s.kind == "run"]
    asked = {frozenset((bone.a, bone.b)): bone.strands_asked for bone in plan.bones}
    seen: dict[frozenset[str], tuple[int, float]] = {}
    for run in runs:
        bone = frozenset((run.a, run.b))
        seen[bone] = (seen.get(bone, (0, 0.0))[0] + 1, run.bone_mm)
    spare = sum(max(0, n - asked.get(bone, n)) * mm for bone, (n, mm) in seen.items())
    return SchoolChoice(
        plan.wire_school,
        tuple(wire.points_mm for wire in wires),
        plan.wire_joints + splices,
        sum(wire.cut_mm for wire in wires),
        spare,
        any(cut.to_buy for cut in plan.cutting),
        plan.wire_school == school_of(figure, brief.choices.wire_school),
    )


def schools_of(figure: Figure) -> tuple[str, ...]:
    """Return the schools a figure can be wired by; ``drawn`` only if it has drawn routes."""
    if not figure.bones:
        return ()
    return SCHOOLS if figure.wires else SCHOOLS[1:]
