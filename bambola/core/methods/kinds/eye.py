"""Setting eyes that are glued."""

from __future__ import annotations

from collections.abc import Iterator

from bambola.core.facts import Fact, Mm, SoldSize, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, box, line, oval
from bambola.core.methods.kinds.socket import shank_mm
from bambola.core.methods.parts import across, card, check
from bambola.core.methods.values import Card, Method

PIN_MM = 4.0
"""Pins have heads of glass up to so large; a larger eye is a bead on a pin. Judged. See craft.md, 10."""


def _card(at: StepInPlan) -> Card:
    job = at.fitting
    called = fact("both" if job.count == 2 else "the", name=job.name)
    return card(
        at,
        "eye",
        (
            *_before_gluing(at),
            Fact("eye.awl"),
            fact("eye.glue", what=called),
            Fact("eye.press"),
            Fact("eye.band"),
        ),
        start=Fact("eye.start"),
        until=Fact("eye.until"),
        checks=(check("level"), check("glue-rim")),
        scale=Fact("eye.scale"),
    )


def _before_gluing(at: StepInPlan) -> Iterator[Fact]:
    """Yield the sentences on what comes before the glue: cutting the shank to the depth of the head."""
    eye, job = at.fitting_mm, at.fitting
    longest = shank_mm(at)
    if job.how == "pinned":
        yield fact("eye.pin" if eye <= PIN_MM else "eye.pin-bead", eye=SoldSize(eye))
        yield fact("eye.pin-cut", long=Mm(longest))
    elif longest < 2 * eye:
        yield fact("eye.snip", most=Mm(longest))


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the eye on its shank going home, glue on the shank alone."""
    eye = at.fitting_mm
    ground, before = eye * 3.2, len(tuple(_before_gluing(at)))
    return StepDrawing(
        (
            DrawnArea(box(ground, eye * 1.8, (0.0, -eye * 0.9)), "under"),
            DrawnArea(box(eye * 0.2, eye * 1.2, (0.0, -eye * 0.6)), "paper"),
            DrawnLine(line((0.0, eye * 0.2), (0.0, eye * 1.1)), "wire", eye * 0.12),
            DrawnLine(line((0.0, eye * 0.25), (0.0, eye * 0.7)), "thread", eye * 0.2),
            DrawnArea(oval(eye, eye, (0.0, eye * 1.5)), "paper"),
            across((-eye / 2, eye * 2.0), (eye / 2, eye * 2.0), eye, eye * 0.25),
            Number((eye * 0.4, eye * 0.5), before + 2),
            Number((eye * 0.7, eye * 1.5), before + 3),
        )
    )


def _fits(at: StepInPlan) -> bool:
    return at.sort == "fit" and at.fitting.glued and at.fitting.kind == "eye"


SENTENCES: dict[str, str | Plural] = {
    "eye.pin": N_("A pin for each eye, with a head {eye} across."),
    "eye.pin-bead": N_(
        "No pin has a head that large: thread a bead of {eye} on a pin for each eye."
    ),
    "eye.pin-cut": N_("Cut each shaft to {long} under a cloth: ends fly."),
    "eye.snip": N_("Snip each shank to no more than {most}: longer comes out at the back."),
    "eye.awl": N_("Open the hole once more: holes close."),
    "eye.glue": N_("Glue on the shank of {what}, not on the wool."),
    "eye.press": N_("Press each home and turn it a little."),
    "eye.band": N_("A band round the head holds them while the glue dries."),
    "eye.start": N_("The head is firm by now."),
    "eye.until": N_("Both are level, both ways up, and no glue shows."),
    "eye.scale": N_("A shank is shorter than four fifths of the head is deep."),
    "eye.why": N_(
        "Glue on the shank is out of sight; on the wool it hardens, and no needle goes in any more."
    ),
}

METHOD = Method("eye", _fits, _card, _picture)
