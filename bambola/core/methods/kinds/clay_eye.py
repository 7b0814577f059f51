"""Eyes of clay on wire, made days before they are tried."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, line, oval
from bambola.core.methods.kinds.socket import shank_mm
from bambola.core.methods.parts import across, card, check, stop
from bambola.core.methods.values import Card, Method
from bambola.core.wool.pan import right_size_range


def _card(at: StepInPlan) -> Card:
    eye = at.fitting_mm
    return card(
        at,
        "clay-eye",
        (
            fact("clay-eye.balls" if at.fitting.count == 2 else "clay-eye.ball", eye=Mm(eye)),
            fact("clay-eye.wire", stem=Mm(shank_mm(at))),
            Fact("clay-eye.bake"),
            Fact("clay-eye.varnish"),
        ),
        start=Fact("clay-eye.start"),
        stops=(stop("width", *right_size_range(eye)),),
        until=Fact("clay-eye.until"),
        checks=(check("clay-alike"),),
        scale=Fact("clay-eye.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return a ball with its hairpin of wire."""
    eye, stem = at.fitting_mm, shank_mm(at)
    return StepDrawing(
        (
            DrawnLine(line((-eye * 0.08, -eye / 2 - stem), (-eye * 0.08, 0.0)), "wire", eye * 0.08),
            DrawnLine(line((eye * 0.08, -eye / 2 - stem), (eye * 0.08, 0.0)), "wire", eye * 0.08),
            DrawnArea(oval(eye, eye), "paper"),
            across((-eye / 2, eye / 2), (eye / 2, eye / 2), eye, eye * 0.25),
            across((eye * 0.4, -eye / 2 - stem), (eye * 0.4, -eye / 2), stem, eye * 0.2),
            Number((-eye * 0.9, 0.0), 1),
            Number((-eye * 0.7, -eye / 2 - stem / 2), 2),
        )
    )


def _fits(at: StepInPlan) -> bool:
    return at.sort == "pattern" and any(f.id == at.about for f in at.plan.work.fittings)


SENTENCES: dict[str, str | Plural] = {
    "clay-eye.balls": N_(
        "Roll two balls {eye} across from two equal slices of one roll, and compare them."
    ),
    "clay-eye.ball": N_("Roll a ball {eye} across."),
    "clay-eye.wire": N_(
        "Bend a thin wire like a hairpin into the back of each: {stem} stands out."
    ),
    "clay-eye.bake": N_("Bake or dry them as the packet says; in the air that takes days."),
    "clay-eye.varnish": N_("Varnish them when they are hard, and let that dry as well."),
    "clay-eye.start": N_("Made first of all: the figure is begun while they dry."),
    "clay-eye.until": N_("They are hard, alike, and their wires do not turn."),
    "clay-eye.scale": N_("Clay goes to any size; the wire is cut to what the head is deep."),
    "clay-eye.why": N_("If you try it on before it is dry, it is pressed out of shape."),
    "look.clay-alike": N_("Lay them side by side."),
    "look.clay-alike.right": N_("They are equally large and round."),
    "look.clay-alike.wrong": N_("Make the larger one again: it costs less than an uneven face."),
}

METHOD = Method("clay-eye", _fits, _card, _picture)
