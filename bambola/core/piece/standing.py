"""The figure after a step: joined parts, finished parts lying beside, the piece in hand.

Every piece has the size its cards tell, so that an error on a card becomes visible.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Literal

from bambola.core.bench import Bench
from bambola.core.figure import Place
from bambola.core.order.keys import SECOND, Sort, TaskKey, key_of
from bambola.core.piece.as_told import shape_as_told
from bambola.core.piece.order_walked import pieces_by_step
from bambola.core.piece.state import PieceState
from bambola.core.plan.making.values import Plan
from bambola.core.solids import Placement
from bambola.core.solids.placement import Copy

State = Literal["to come", "made", "joined"]


@dataclass(frozen=True)
class Standing:
    """The figure after step ``n``: the state of each part, and which is in hand."""

    n: int
    states: dict[str, State]
    in_hand: str | None
    done: WorkDone

    @cached_property
    def joined(self) -> Placement | None:
        """The joined parts as they look, without what is not on them yet; None if there are none."""
        return _visible_parts(self.done, {p for p, s in self.states.items() if s == "joined"})

    @cached_property
    def made(self) -> Placement | None:
        """The finished parts lying beside, as they look; None if there are none."""
        return _visible_parts(self.done, {p for p, s in self.states.items() if s == "made"})


def standing_after(course: Course, n: int) -> Standing:
    """Return the figure after step ``n`` (0: before the first)."""
    plan = course.plan
    states: dict[str, State] = {
        part: "joined" if joined <= n else "made" if made <= n else "to come"
        for part, (made, joined) in course.since.items()
    }
    step = plan.steps[n - 1] if 0 < n <= len(plan.steps) else None
    return Standing(n, states, step.part if step else None, WorkDone(n, course))


@dataclass(frozen=True)
class Course:
    """The progress of a plan: the step of each task, the first and last step of each sort of work on a part,
    the steps at which each part is made and joined (parents first), each piece after each step, and how
    copies looked."""

    plan: Plan
    steps: Mapping[TaskKey, int]
    spans: Mapping[tuple[str, str], tuple[int, int]]
    since: Mapping[str, tuple[float, float]]
    told: Mapping[str, tuple[tuple[int, PieceState], ...]]
    looks: dict[tuple[object, ...], Copy] = field(default_factory=dict)


def course_of(plan: Plan, bench: Bench) -> Course:
    """Return the course of a plan made for ``bench``."""
    steps: dict[TaskKey, int] = {}
    spans: dict[tuple[str, str], tuple[int, int]] = {}
    for n, step in enumerate(plan.steps, 1):
        work = step.key.about.removesuffix(SECOND), step.key.sort
        steps[step.key], spans[work] = n, (spans.get(work, (n, n))[0], n)
    left_out = {job.id for job in plan.work.parts if job.left_out}
    since: dict[str, tuple[float, float]] = {}
    for part in plan.resized.figure.parents_first:
        bearer = since[part.parent][1] if part.parent else 0.0
        making = ("join",) if plan.part(part.id).made == "bought" else ("core", "detail", "pattern")
        begun = [spans[part.id, sort][0] for sort in making if (part.id, sort) in spans]
        # What is left out lies within what is there.
        made = min([*begun, *((bearer,) if part.id in left_out else ())], default=math.inf)
        ended = [spans[part.id, sort][1] for sort in ("join", "blend") if (part.id, sort) in spans]
        since[part.id] = made, max([*ended, bearer, made])
    told: dict[str, list[tuple[int, PieceState]]] = {}
    for n, in_hand in enumerate(pieces_by_step(plan, bench), 1):
        for piece in (in_hand.before, in_hand.after):
            if piece is not None:
                told.setdefault(piece.part, []).append((n, piece))
    return Course(plan, steps, spans, since, {part: tuple(each) for part, each in told.items()})


@dataclass(frozen=True)
class WorkDone:
    """The work done after step ``n``."""

    n: int
    course: Course

    def is_any_done(self, part: str, *sorts: Sort) -> bool:
        """Return whether any work of these sorts on the part is done."""
        spans = self.course.spans
        return any((part, s) in spans and spans[part, s][0] <= self.n for s in sorts)

    def laid(self, part: str, place: Place) -> bool:
        """Return whether a patch, or a piece of a face, is on."""
        key = key_of("face" if place.face else "inset", part, place.id)
        if key not in self.course.steps:  # it went into the blank
            return self.is_any_done(part, "core")
        return self.is_done(key)

    def furred(self, part: str, place: Place) -> bool:
        """Return whether all rows of fur on a place are on."""
        name = "" if place.is_whole else place.id
        return not any(
            n > self.n
            for key, n in self.course.steps.items()
            if key.is_of(part, "fur") and key.place == name
        )

    def is_done(self, key: TaskKey) -> bool:
        """Return whether one task is done."""
        return self.course.steps.get(key, self.n + 1) <= self.n

    def present_piece(self, part: str) -> PieceState | None:
        """Return the present piece of a part: the one with the most wool so far, since the second of a pair
        begins small again."""
        so_far = [piece for n, piece in self.course.told.get(part, ()) if n <= self.n]
        return max(so_far, key=lambda piece: piece.wool_g, default=None)


def _visible_parts(done: WorkDone, parts: set[str]) -> Placement | None:
    """Return these parts in their final places at their present size, with coats, patches and fittings only
    where they are on already."""
    if not parts:
        return None
    placement = done.course.plan.solids.placement
    copies = tuple(
        _shared_copy(n, done) for n, c in enumerate(placement.copies) if c.part.id in parts
    )
    fittings = tuple(
        f
        for f in placement.fittings
        if f.fitting.part in parts and done.is_done(key_of("fit", f.fitting.id))
    )
    return replace(placement, copies=copies, fittings=fittings)


def _shared_copy(number: int, done: WorkDone) -> Copy:
    """Return one copy of a figure as it looks at present; equal looks are the same object."""
    solids = done.course.plan.solids
    copy, solid = solids.placement.copies[number], solids.measured[number]
    part, piece = copy.part, done.present_piece(copy.part.id)
    drawn = done.is_any_done(part.id, "detail")
    # What is of one wool has its colour from the first.
    in_one = (part.id, "coat") not in done.course.spans
    coated = part.coat is not None and (in_one or done.is_any_done(part.id, "coat"))
    on = tuple(
        (drawn or done.laid(part.id, place), bool(place.fur) and done.furred(part.id, place))
        for place in part.places
    )
    sizes = (*piece.size_mm.values(), *piece.across_mm) if piece else ()
    looks = done.course.looks
    if (number, coated, on, sizes) not in looks:
        places = tuple(
            place.replaced(wool=place.wool if laid else None, fur=place.fur if furred else None)
            for place, (laid, furred) in zip(part.places, on, strict=True)
        )
        bare = part.replaced(coat=part.coat if coated else None, places=places)
        shape = copy.shape
        if piece is not None and not drawn:
            finished = done.course.plan.part(part.id).piece
            shape = shape_as_told(copy, solid, piece, finished)
        looks[number, coated, on, sizes] = replace(copy, part=bare, shape=shape)
    return looks[number, coated, on, sizes]
