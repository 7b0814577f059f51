"""The coat: veils laid crosswise over a core."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import NOTHING, Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, StepDrawing, oval
from bambola.core.methods.parts import SQUARE, STROKED, across, card, check, run, stab
from bambola.core.methods.values import Card, Method
from bambola.core.solids.forms import Array
from bambola.core.wool.colour import lab_of
from bambola.core.wool.layers import OVERLAP_MM

PALE = 65.0
"""Lightness (CIE L*) from which a wool is pale. Judged. See craft.md, 10."""


BAND_FROM = 2.5
"""A round piece so many times as long as it is thick is coated by a band that is wound on. Judged. See
craft.md, 10."""


def is_wound_on(at: StepInPlan) -> bool:
    """Return whether the coat is a band wound on: on a trunk, a tail, the back of a hedgehog."""
    long, wide, _ = at.finished
    is_plain = at.job is not None and not at.job.insets and not at.job.flat and not at.is_ring
    return is_plain and at.body.shape.start_form in ("sausage", "cone") and long >= BAND_FROM * wide


def veils_of(at: StepInPlan) -> int:
    """Return the number of veils in the coat of the step."""
    skin = at.row.exposed_cm2
    return slots.veil_count(at.take_g / skin) if skin > 0 else 2


def _card(at: StepInPlan) -> Card:
    wide = max(at.row.to_mm.values(), default=0.0)
    at_once = slots.needles_at_once(wide, layer=True)
    depth = at.row.coat_mm + slots.COAT_MM
    insets = at.job.insets if at.job else ()
    bare = tuple(fact("the", name=patch.name) for patch in insets if not patch.face)
    if is_wound_on(at):
        laid: tuple[Fact, ...] = (
            fact("coat.band", wide=Mm(at.finished[1]), part=at.part_name),
            Fact("coat.wind"),
            Fact("coat.end"),
        )
    else:
        laid = (
            fact("coat.tear", n=veils_of(at)),
            fact("coat.first", part=at.part_name, over=Mm(OVERLAP_MM)),
            Fact("coat.edges"),
            Fact("coat.cross"),
        )
    return card(
        at,
        "coat",
        (
            *laid,
            fact("coat.over", bearer=fact("the", name=at.bearer.part.name))
            if _is_one_veil(at)
            else None,
            fact("coat.bare", at=bare) if bare else None,
            Fact("coat.light"),
        ),
        start=Fact("coat.start") if _is_pale(at) else NOTHING,
        needles=(
            run(38, depth, SQUARE, "first", at_once),
            run(40, slots.DEPTH_MM["coat"], SQUARE, "then"),
            run(40, slots.SKIN_MM, STROKED, "last"),
        ),
        until=Fact("coat.until"),
        checks=(check("core-shows"), check("coat-balls")),
        scale=Fact("coat.scale"),
    )


def _is_one_veil(at: StepInPlan) -> bool:
    """Return whether a part with its bearer's coat, such as a muzzle, shares its last veil with it."""
    job = at.job
    if job is None or job.made != "in place" or job.parent is None:
        return False
    bearer = next(other for other in at.plan.work.parts if other.id == job.parent)
    return job.skin == bearer.skin


def _is_pale(at: StepInPlan) -> bool:
    """Return whether the wool is so pale that a dark hair would show on it."""
    return at.wool is not None and lab_of(at.wool.colour)[0] > PALE


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return veils that cross on the core, which lies along the page, and how thick the part is."""
    along, wide, _ = at.finished
    long, thick = max(along, wide), min(along, wide)
    veils = [
        DrawnArea(_veil_outline(long, thick, long * middle, lean), "wool", "hidden")
        for middle, lean in ((-0.27, 0.4), (0.0, -0.4), (0.27, 0.4))[: max(2, min(3, veils_of(at)))]
    ]
    runs = card_.needles
    return StepDrawing(
        (
            DrawnArea(oval(long, thick), "core"),
            *veils,
            DrawnArea(oval(long, thick), "none"),
            across((-long / 2, 0.0), (long / 2, 0.0), long, -thick * 0.65),
            across((long / 2, -thick / 2), (long / 2, thick / 2), thick, -long * 0.08),
            stab((long * 0.1, thick * 0.49 - min(runs[0].depth_mm, thick / 2)), runs[0], 90),
            stab((-long * 0.36, thick * 0.34), runs[-1], 160),
            Number((-long * 0.27, 0.0), 1 if is_wound_on(at) else 2),
            Number((0.0, -thick * 0.15), 2 if is_wound_on(at) else 4),
        )
    )


def _veil_outline(long: float, thick: float, middle: float, lean: float) -> Array:
    """Return a slanting band across an oval, clipped to its rim."""
    y = np.linspace(-thick / 2, thick / 2, 41)
    side = middle + lean * y
    run = np.vstack(
        [
            np.column_stack([side - long * 0.13, y]),
            np.column_stack([side + long * 0.13, y])[::-1],
        ]
    )
    out = np.hypot(run[:, 0] / (long / 2), run[:, 1] / (thick / 2))
    drawn: Array = run / np.maximum(out, 1.0)[:, None]
    return drawn


SENTENCES: dict[str, str | Plural] = {
    "coat.tear": N_("Tear the wool into {n} veils that you could read through."),
    "coat.first": N_("Lay the first over {part} as the hair grows, {over} past where it ends."),
    "coat.edges": N_("Fix the edges first, stroke it flat, then all over."),
    "coat.cross": N_("Lay the next ones crosswise."),
    "coat.band": N_("Pull a band {wide} wide, and fix one end of it at the end of {part}."),
    "coat.wind": N_("Wind it on taut, half over itself, and felt each lap before the next."),
    "coat.end": N_("End it where it will be joined, or below."),
    "coat.over": N_("Draw the last veil from {bearer} over it in one: no seam is seen then."),
    "coat.bare": N_("Stop at {at}: it stays bare there."),
    "coat.light": N_("Look in slanting light, and add a wisp where the core shows."),
    "coat.start": N_("Pale wool before dark, with clean hands."),
    "coat.until": N_("No core shows at arm’s length or in slanting light."),
    "coat.scale": N_(
        "A coat is as thick at any size: on a small figure it takes more of the part."
    ),
    "coat.why": N_(
        "Edges first: stabbing the middle would draw all of it inward and leave the rim bare."
    ),
}

METHOD = Method("coat", lambda at: at.sort == "coat", _card, _picture)
