"""The figure as it stands after a step: what is joined, what is made and lies beside, what is in hand."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from bambola.core.order.keys import SECOND, Sort, TaskKey, key_of
from bambola.core.plan.making.values import Plan
from bambola.core.solids import Placement

State = Literal["to come", "made", "joined"]


@dataclass(frozen=True)
class Standing:
    """After step ``n``: how each part is, which is in hand, and the joined and the made parts as they look,
    bare of what is not on them yet (None where there are none)."""

    n: int
    states: dict[str, State]
    in_hand: str | None
    joined: Placement | None
    made: Placement | None


def standing_after(plan: Plan, n: int) -> Standing:
    """The figure after step ``n`` (0: before the first)."""
    done = _Done.of(plan, n)
    states: dict[str, State] = {}
    figure = plan.resized.figure
    left_out = {job.id for job in plan.work.parts if job.left_out}
    for part in figure.parents_first:
        bought = plan.part(part.id).made == "bought"
        parent = part.parent is None or states[part.parent] == "joined"
        built = done.any(part.id, *(("join",) if bought else ("core", "detail")))
        built |= part.id in left_out and parent  # it lies within what is there
        on = done.all(part.id, "join", "blend") and built
        states[part.id] = "joined" if on and parent else "made" if built else "to come"
    step = plan.steps[n - 1] if 0 < n <= len(plan.steps) else None
    return Standing(
        n,
        states,
        step.part if step else None,
        _shown(plan, done, {p for p, s in states.items() if s == "joined"}),
        _shown(plan, done, {p for p, s in states.items() if s == "made"}),
    )


@dataclass(frozen=True)
class _Done:
    """Which steps are done, and of which sorts of work on which part any is, and any is still to come."""

    keys: frozenset[TaskKey]
    begun: frozenset[tuple[str, str]]
    to_come: frozenset[tuple[str, str]]

    @classmethod
    def of(cls, plan: Plan, n: int) -> _Done:
        told = [(step.key.about.removesuffix(SECOND), step.key.sort) for step in plan.steps]
        keys = frozenset(step.key for step in plan.steps[:n])
        return cls(keys, frozenset(told[:n]), frozenset(told[n:]))

    def any(self, part: str, *sorts: Sort) -> bool:
        return any((part, sort) in self.begun for sort in sorts)

    def all(self, part: str, *sorts: Sort) -> bool:
        return not any((part, sort) in self.to_come for sort in sorts)


def _shown(plan: Plan, done: _Done, parts: set[str]) -> Placement | None:
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
            insets = tuple(
                i for i in part.insets if drawn or key_of("inset", part.id, i.id) in done.keys
            )
            furred = part.fur is not None and done.all(part.id, "fur")
            bare = part.replaced(
                coat=part.coat if coated else None, insets=insets, fur=part.fur if furred else None
            )
            copies.append(replace(copy, part=bare))
    fittings = tuple(
        f
        for f in placement.fittings
        if f.fitting.part in parts and key_of("fit", f.fitting.id) in done.keys
    )
    return replace(placement, copies=tuple(copies), fittings=fittings)
