"""Sewing on eyes that have a loop or a hole."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, box, line, oval
from bambola.core.methods.kinds.socket import PIT
from bambola.core.methods.parts import across, card, check, stop
from bambola.core.methods.values import Card, Method


def _card(at: StepInPlan) -> Card:
    pit = PIT * at.fitting_mm
    both = at.fitting.count == 2
    return card(
        at,
        "sewn-eye",
        (
            Fact("sewn-eye.anchor"),
            Fact("sewn-eye.bead"),
            fact("sewn-eye.pull", deep=Mm(pit)),
            Fact("sewn-eye.other") if both else None,
            Fact("sewn-eye.snip"),
        ),
        start=Fact("sewn-eye.start"),
        stops=(stop("depth", max(0.5, pit - 0.5), pit + 0.5),),
        until=Fact("sewn-eye.until"),
        checks=(check("level"), check("thread-dents")),
        scale=Fact("sewn-eye.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the eye drawn into its dimple by a thread that runs through the head."""
    eye = at.fitting_mm
    pit, ground = PIT * eye, eye * 3.2
    return StepDrawing(
        (
            DrawnArea(box(ground, eye * 2.0, (0.0, -eye)), "under"),
            DrawnArea(oval(eye, 2 * pit, (0.0, 0.0), 0.5, 180), "paper"),
            DrawnLine(
                line((-eye * 0.1, eye * 0.3), (-eye * 0.5, -eye * 2.0)), "thread", eye * 0.05
            ),
            DrawnLine(line((eye * 0.1, eye * 0.3), (eye * 0.2, -eye * 2.0)), "thread", eye * 0.05),
            DrawnArea(oval(eye, eye, (0.0, eye * 0.5 - pit)), "paper"),
            across((-eye / 2, eye * 1.15), (eye / 2, eye * 1.15), eye, eye * 0.25),
            across((0.0, 0.0), (0.0, -pit), pit, eye * 0.9),
            Number((-eye * 0.45, -eye * 1.75), 1),
            Number((eye * 0.75, eye * 0.45), 2),
            Number((eye * 0.3, -eye * 0.8), 3),
        )
    )


def _fits(at: StepInPlan) -> bool:
    return at.sort == "fit" and at.fitting.how == "sewn" and at.fitting.kind == "eye"


SENTENCES: dict[str, str | Plural] = {
    "sewn-eye.anchor": N_(
        "Knot a strong thread, and go in with it out of sight: under the neck, or behind an ear."
    ),
    "sewn-eye.bead": N_(
        "Come up through the head at the pin, go through the eye twice, and back in beside it."
    ),
    "sewn-eye.pull": N_(
        "Pull until it sits {deep} deep, a thumb on it, and take two stitches where you went in."
    ),
    "sewn-eye.other": N_("The other eye with the same thread."),
    "sewn-eye.snip": N_("Press the wool down, snip the tail, and let it spring in."),
    "sewn-eye.start": N_("A long needle and a thread that does not tear."),
    "sewn-eye.until": N_("They sit equally deep and level, upside down too."),
    "sewn-eye.scale": N_("Pits deepen with the figure; eyes come in whole sizes."),
    "sewn-eye.why": N_("Thread draws the eye in and keeps it where a hand would pull it off."),
}

METHOD = Method("sewn-eye", _fits, _card, _picture)
