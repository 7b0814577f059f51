"""Looking at the whole from all sides."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.figure import Leaf
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, StepDrawing, line
from bambola.core.methods.parts import across, card, check, stop
from bambola.core.methods.values import Card, Method
from bambola.core.plan.making.values import Plan
from bambola.core.solids.outlines import outlines

HEIGHT_SHARE = 0.02
"""A figure is as high as wished within so much. Judged. See craft.md, 10."""


def _has_ears(plan: Plan) -> bool:
    """Return whether the base of an ear is marked on a face."""
    by_id = plan.resized.figure.by_id
    about = {mark.about for face in plan.faces for mark in face.marks if mark.kind == "part"}
    return any(isinstance(by_id[part].shape, Leaf) for part in about)


def _has_free_arms(plan: Plan) -> bool:
    """Return whether there is a pair of limbs that the figure does not stand on."""
    work = plan.work
    stand = {*work.feet, *(part.parent for part in work.parts if part.id in work.feet)}
    return any(p.limb and p.count == 2 and p.id not in stand for p in work.parts)


def _level_facts(plan: Plan) -> tuple[Fact, ...]:
    """Return what must be level on both sides of the figure."""
    eyes = any(fitting.kind == "eye" for fitting in plan.work.fittings)
    there = (eyes, "eyes"), (_has_ears(plan), "ears"), (_has_free_arms(plan), "shoulders")
    return tuple(Fact(f"final.{name}") for has, name in there if has)


def _tugged_facts(plan: Plan) -> tuple[Fact, ...]:
    """Return the things that could come off and are tugged."""
    limbs = any(part.limb and part.parent is not None for part in plan.work.parts)
    head = any(
        part.parent is not None and part.id in _parts_with_faces(plan) for part in plan.work.parts
    )
    there = (head, "head"), (_has_ears(plan), "ears"), (limbs, "limbs")
    return tuple(Fact(f"final.{name}") for has, name in there if has)


def _parts_with_faces(plan: Plan) -> set[str]:
    """Return the parts that bear eyes or marks of a face."""
    eyed = {fitting.part for fitting in plan.work.fittings if fitting.kind == "eye"}
    return eyed | set(plan.work.marked) | {face.part for face in plan.faces}


def _card(at: StepInPlan) -> Card:
    high = at.plan.to_height_mm
    wired = bool(at.plan.wires)
    level, tugged = _level_facts(at.plan), _tugged_facts(at.plan)
    return card(
        at,
        "final",
        (
            Fact("final.sides"),
            fact("final.thread", at=level) if level else None,
            fact("final.tug", what=tugged) if tugged else Fact("final.rub"),
            Fact("final.wire") if wired else None,
            fact("final.measure", high=Mm(high)),
        ),
        stops=(stop("height", high * (1 - HEIGHT_SHARE), high * (1 + HEIGHT_SHARE)),),
        until=Fact("final.until"),
        checks=(
            check("upside"),
            check("needle-tip"),
            check("nudge" if not at.plan.work.hangs else "hangs"),
        ),
        scale=Fact("final.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the whole figure, with its height."""
    outline = outlines(at.plan.solids.placement, "front")
    low = min(float(run[:, 1].min()) for run in outline)
    left = min(float(run[:, 0].min()) for run in outline)
    right = max(float(run[:, 0].max()) for run in outline)
    high = at.plan.to_height_mm
    return StepDrawing(
        (
            *(DrawnArea(shape, "under") for shape in outline),
            DrawnLine(line((left, low), (right, low)), "ground"),
            across((left, low), (left, low + high), high, high * 0.08),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "final.sides": N_("Look from four sides, from above, and upside down."),
    "final.thread": N_("Lay a thread round at {at}: it runs level."),
    "final.tug": N_("Tug {what}, and rub the coat."),
    "final.rub": N_("Rub the coat."),
    "final.eyes": N_("the eyes"),
    "final.ears": N_("the ears"),
    "final.shoulders": N_("the shoulders"),
    "final.head": N_("the head"),
    "final.limbs": N_("the limbs"),
    "final.wire": N_("Feel for wire."),
    "final.measure": N_("Measure the height: {high}. Weigh it, and write it down."),
    "final.until": N_("Nothing gives, nothing pricks, and no needle is missing."),
    "final.scale": N_("A small figure wants a lens; lift a large one by its body."),
    "final.why": N_("From one side everything looks straight."),
}

METHOD = Method("final", lambda at: at.sort == "check", _card, _picture)
