"""A thing other than an eye that is glued, pushed in on its stem, or sewn on: a flower, a bell, a whisker."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, box, line, oval
from bambola.core.methods.parts import SQUARE, across, card, check, run, stab
from bambola.core.methods.values import Card, Method

_DENT = 0.2
"""What is glued on lies in a dent of so much of its size. Judged. See craft.md, 10."""
_STEM = 1.0
"""A stem is pushed in as deep as the thing is large, at most to half of what bears it. Judged. See craft.md,
10."""


def _fixing_way(at: StepInPlan) -> str:
    """Return how it is fixed: "glued", "pushed", "sewn", or drawn "through" like whiskers."""
    if at.fitting.kind == "whisker":
        return "through"
    if at.fitting.how == "sewn":
        return "sewn"
    return "pushed" if at.fitting.how == "pinned" else "glued"


def _hole_depth(at: StepInPlan) -> float:
    """Return the depth of its dent or hole, mm."""
    if _fixing_way(at) == "pushed":
        return min(_STEM * at.fitting_mm, at.thick / 2)
    return max(1.0, _DENT * at.fitting_mm)


def _card(at: StepInPlan) -> Card:
    way, job = _fixing_way(at), at.fitting
    called = fact("both" if job.count == 2 else "the", name=job.name)
    told: dict[str, tuple[Fact, ...]] = {
        "glued": (
            fact("thing.dent", what=called, deep=Mm(_hole_depth(at))),
            Fact("thing.try"),
            Fact("thing.drop"),
            Fact("thing.hold"),
        ),
        "pushed": (
            fact("thing.hole", what=called, deep=Mm(_hole_depth(at))),
            Fact("thing.push"),
            Fact("thing.close"),
        ),
        "through": (
            fact("thing.bend", what=called),
            Fact("thing.draw"),
            Fact("thing.stay"),
            Fact("thing.curl"),
        ),
        "sewn": (
            fact("thing.thread", what=called),
            Fact("thing.twice"),
            Fact("thing.knot"),
        ),
    }
    felts = way in ("glued", "pushed")
    return card(
        at,
        "thing",
        told[way],
        start=Fact("thing.start"),
        needles=(run(38, slots.DEPTH_MM["fitting"], SQUARE, "only"),) if felts else (),
        until=Fact(f"thing.until-{way}"),
        checks=(check("upside-down"),),
        scale=Fact("thing.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the thing over its dent, its hole, or the stitches that hold it."""
    size, deep = at.fitting_mm, _hole_depth(at)
    ground, way = size * 2.4, _fixing_way(at)
    pieces = [DrawnArea(box(ground, size, (0.0, -size / 2)), "under")]
    if way == "sewn":
        held = DrawnLine(line((0.0, 0.0), (size * 0.3, -size * 0.8)), "thread", size * 0.05)
    elif way in ("pushed", "through"):
        held = DrawnLine(line((0.0, size * 0.2), (0.0, -deep)), "wire", size * 0.1)
    else:
        held = DrawnLine(
            line((-size * 0.1, size * 0.1), (size * 0.1, size * 0.1)), "thread", size * 0.12
        )
    marks = (
        (across((size * 0.7, 0.0), (size * 0.7, -deep), deep, size * 0.1),)
        if way in ("glued", "pushed")
        else ()
    )
    stabs = (stab((-size * 0.4, 0.0), card_.needles[0], 60),) if card_.needles else ()
    return StepDrawing(
        (
            *pieces,
            held,
            DrawnArea(oval(size, size, (0.0, size * 0.8)), "paper"),
            *marks,
            *stabs,
            Number((-size * 0.8, size * 0.4), 1),
            Number((size * 0.5, size * 0.6), 2),
        )
    )


def _fits(at: StepInPlan) -> bool:
    """Return whether something other than an eye is fixed by glue, by a stem or by thread."""
    if at.sort != "fit" or at.fitting.kind == "eye":
        return False
    return at.fitting.how != "felted" and (at.fitting.how != "held" or at.fitting.kind == "whisker")


SENTENCES: dict[str, str | Plural] = {
    "thing.dent": N_("Stab a dent for {what}, {deep} deep, where it will sit."),
    "thing.try": N_("Try it dry, and look from all sides."),
    "thing.drop": N_("A drop of glue into the dent, none on the wool round it."),
    "thing.hold": N_("Press it in, and hold it till the glue takes."),
    "thing.hole": N_("Open a hole for {what} with the awl, {deep} deep."),
    "thing.push": N_("A touch of glue on the stem, and push it in to its foot."),
    "thing.close": N_("Stab the wool close round the stem, beside it, never on it."),
    "thing.bend": N_("Take a turn in the middle of {what}: the turn will hold it."),
    "thing.draw": N_(
        "Draw one half through with a darning needle, until the turn lies in the wool."
    ),
    "thing.stay": N_("A drop of glue on the turn, and a wisp over it."),
    "thing.curl": N_("Curl them over a rod, and snip them in pairs."),
    "thing.until-through": N_("Neither half moves when pulled, and both are the same length."),
    "thing.thread": N_("Bring the thread up from below where {what} will sit, its end knotted."),
    "thing.twice": N_("Go twice through it and down again, and pull it into the wool."),
    "thing.knot": N_("Knot under the wool, and snip the end so that it springs in."),
    "thing.start": N_("The wool under it is finished."),
    "thing.until-glued": N_("It sits without rocking, and no glue shows."),
    "thing.until-pushed": N_("It does not turn, and the wool closes round it."),
    "thing.until-sewn": N_("It does not lift, and no thread shows."),
    "thing.scale": N_("Bought things keep their size: check that it still suits the figure."),
    "thing.why": N_("Wool holds what it encloses; glue on its surface only stiffens it."),
}

METHOD = Method("thing", _fits, _card, _picture)
