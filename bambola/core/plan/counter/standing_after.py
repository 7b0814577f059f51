"""The figure as it stands after a step: what is joined, what is made and lies beside, what is in hand."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from bambola.core.order.keys import Sort, TaskKey, key_of
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
    done = {step.key for step in plan.steps[:n]}
    states: dict[str, State] = {}
    figure = plan.resized.figure
    left_out = {job.id for job in plan.work.parts if job.left_out}
    for part in figure.parents_first:
        bought = plan.part(part.id).made == "bought"
        parent = part.parent is None or states[part.parent] == "joined"
        built = _any(done, part.id, *(("join",) if bought else ("core", "detail")))
        built |= part.id in left_out and parent  # it lies within what is there
        on = _all_done(plan, done, part.id, "join", "blend") and built
        states[part.id] = "joined" if on and parent else "made" if built else "to come"
    step = plan.steps[n - 1] if 0 < n <= len(plan.steps) else None
    return Standing(
        n,
        states,
        step.part if step else None,
        _shown(plan, done, {p for p, s in states.items() if s == "joined"}),
        _shown(plan, done, {p for p, s in states.items() if s == "made"}),
    )


def _any(done: set[TaskKey], part: str, *sorts: Sort) -> bool:
    return any(key.is_of(part, *sorts) for key in done)


def _all_done(plan: Plan, done: set[TaskKey], part: str, *sorts: Sort) -> bool:
    return all(step.key in done for step in plan.steps if step.key.is_of(part, *sorts))


def _shown(plan: Plan, done: set[TaskKey], parts: set[str]) -> Placement | None:
    """These parts where they will be, with coats, patches and fittings only where they are on already."""
    if not parts:
        return None
    placement = plan.solids.placement
    copies = []
    for copy in placement.copies:
        if copy.part.id in parts:
            part = copy.part
            coated = part.coat is not None and _any(done, part.id, "coat", "detail")
            drawn = _any(done, part.id, "detail")
            insets = tuple(
                i for i in part.insets if drawn or key_of("inset", part.id, i.id) in done
            )
            furred = part.fur is not None and _all_done(plan, done, part.id, "fur")
            bare = part.replaced(
                coat=part.coat if coated else None, insets=insets, fur=part.fur if furred else None
            )
            copies.append(replace(copy, part=bare))
    fittings = tuple(
        f
        for f in placement.fittings
        if f.fitting.part in parts and key_of("fit", f.fitting.id) in done
    )
    return replace(placement, copies=tuple(copies), fittings=fittings)
