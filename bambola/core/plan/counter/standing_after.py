"""The figure as it stands after a step: what is joined, what is made and lies beside, what is in hand."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

from bambola.core.figure import Place
from bambola.core.memo import remembered
from bambola.core.order.keys import SECOND, Sort, TaskKey, key_of
from bambola.core.plan.making.values import Plan
from bambola.core.solids import Placement

State = Literal["to come", "made", "joined"]


@dataclass(frozen=True)
class Standing:
    """After step ``n``: how each part is, and which is in hand."""

    n: int
    states: dict[str, State]
    in_hand: str | None
    plan: Plan
    done: Done

    @cached_property
    def joined(self) -> Placement | None:
        """The joined parts as they look, bare of what is not on them yet; None where there are none."""
        return _shown(self.plan, self.done, {p for p, s in self.states.items() if s == "joined"})

    @cached_property
    def made(self) -> Placement | None:
        """The parts that are made and lie beside, as they look; None where there are none."""
        return _shown(self.plan, self.done, {p for p, s in self.states.items() if s == "made"})


def standing_after(plan: Plan, n: int) -> Standing:
    """The figure after step ``n`` (0: before the first)."""
    done = Done(n, _course_of(tuple(step.key for step in plan.steps)))
    states: dict[str, State] = {}
    figure = plan.resized.figure
    left_out = {job.id for job in plan.work.parts if job.left_out}
    for part in figure.parents_first:
        bought = plan.part(part.id).made == "bought"
        parent = part.parent is None or states[part.parent] == "joined"
        built = done.any(part.id, *(("join",) if bought else ("core", "detail", "pattern")))
        built |= part.id in left_out and parent  # it lies within what is there
        on = done.all(part.id, "join", "blend") and built
        states[part.id] = "joined" if on and parent else "made" if built else "to come"
    step = plan.steps[n - 1] if 0 < n <= len(plan.steps) else None
    return Standing(n, states, step.part if step else None, plan, done)


@dataclass(frozen=True)
class _Course:
    """At which step each task of a plan is done, and the first and the last step of each sort of work on a
    part."""

    steps: Mapping[TaskKey, int]
    spans: Mapping[tuple[str, str], tuple[int, int]]


@remembered(1)
def _course_of(steps: tuple[TaskKey, ...]) -> _Course:
    spans: dict[tuple[str, str], tuple[int, int]] = {}
    for n, key in enumerate(steps, 1):
        work = key.about.removesuffix(SECOND), key.sort
        spans[work] = spans.get(work, (n, n))[0], n
    return _Course({key: n for n, key in enumerate(steps, 1)}, spans)


@dataclass(frozen=True)
class Done:
    """What is done after step ``n``."""

    n: int
    course: _Course

    def any(self, part: str, *sorts: Sort) -> bool:
        """Whether any work of these sorts on the part is done."""
        spans = self.course.spans
        return any((part, s) in spans and spans[part, s][0] <= self.n for s in sorts)

    def all(self, part: str, *sorts: Sort) -> bool:
        """Whether no work of these sorts on the part is still to come."""
        spans = self.course.spans
        return not any((part, s) in spans and spans[part, s][1] > self.n for s in sorts)

    def laid(self, part: str, place: Place) -> bool:
        """Whether a patch, or a piece of a face, is on."""
        key = key_of("face" if place.face else "inset", part, place.id)
        if key not in self.course.steps:  # it went into the blank
            return self.any(part, "core")
        return self.has(key)

    def furred(self, part: str, place: Place) -> bool:
        """Whether no row of fur on a place is still to come."""
        name = "" if place.is_whole else place.id
        return not any(
            n > self.n
            for key, n in self.course.steps.items()
            if key.is_of(part, "fur") and key.place == name
        )

    def has(self, key: TaskKey) -> bool:
        """Whether one task is done."""
        return self.course.steps.get(key, self.n + 1) <= self.n


def _shown(plan: Plan, done: Done, parts: set[str]) -> Placement | None:
    """These parts where they will be, with coats, patches and fittings only where they are on already."""
    if not parts:
        return None
    placement = plan.solids.placement
    copies = []
    for copy in placement.copies:
        if copy.part.id in parts:
            part = copy.part
            coated = part.coat is not None and done.any(part.id, "coat", "detail")
            drawn = done.any(part.id, "detail")
            places = tuple(
                place.replaced(
                    wool=place.wool if drawn or done.laid(part.id, place) else None,
                    fur=place.fur if place.fur and done.furred(part.id, place) else None,
                )
                for place in part.places
            )
            bare = part.replaced(coat=part.coat if coated else None, places=places)
            copies.append(replace(copy, part=bare))
    fittings = tuple(
        f
        for f in placement.fittings
        if f.fitting.part in parts and done.has(key_of("fit", f.fitting.id))
    )
    return replace(placement, copies=tuple(copies), fittings=fittings)
