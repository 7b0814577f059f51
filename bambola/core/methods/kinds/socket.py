"""Opening the sockets and trying the eyes dry."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, Mm, SoldSize, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import (
    DrawnArea,
    DrawnLine,
    Number,
    Piece,
    StepDrawing,
    line,
    oval,
)
from bambola.core.methods.parts import SQUARE, across, card, check, run, stop
from bambola.core.methods.values import Card, Method

PIT, SHANK = 0.4, 0.8
"""A pit is so much of the eye deep; a shank at most so much of its head. Judged. See craft.md, 10."""


def shank_mm(at: StepInPlan) -> float:
    """Return the depth of a shank: twice its eye, limited by the head."""
    return min(SHANK * min(at.row.to_mm.values()), 2 * at.fitting_mm)


def _card(at: StepInPlan) -> Card:
    eye = at.fitting_mm
    shank = at.fitting.how != "sewn"
    return card(
        at,
        "socket",
        (
            fact("socket.dimple", deep=Mm(PIT * eye), eye=SoldSize(eye)),
            fact("socket.awl", deep=Mm(shank_mm(at))) if shank else None,
            Fact("socket.both" if shank else "socket.pins"),
            Fact("socket.level" if shank else "socket.level-pins"),
        ),
        needles=(run(38, PIT * eye + 2.0, SQUARE, "dimple"),),
        stops=(stop("depth", max(0.5, PIT * eye - 0.5), PIT * eye + 0.5),),
        until=Fact("socket.until"),
        checks=(check("level"), check("hole-wide")) if shank else (check("level"),),
        scale=Fact("socket.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return a section through the head at an eye: dimple and hole."""
    eye = at.fitting_mm
    pit, deep = PIT * eye, shank_mm(at)
    ground = eye * 3.2
    dimple = oval(eye, 2 * pit, (0.0, 0.0), 0.5, 180)
    under = np.vstack(
        [
            [(-ground / 2, 0.0)],
            dimple,
            [(ground / 2, 0.0), (ground / 2, -deep * 1.4), (-ground / 2, -deep * 1.4)],
        ]
    )
    hole: tuple[Piece, ...] = ()
    if at.fitting.how != "sewn":
        hole = (
            DrawnLine(line((0.0, -pit), (0.0, -deep)), "hidden"),
            across((0.0, 0.0), (0.0, -deep), deep, -eye * 0.9),
            Number((eye * 0.2, -deep), 2),
        )
    return StepDrawing(
        (
            DrawnArea(under, "under"),
            DrawnArea(oval(eye, eye, (0.0, eye * 0.75)), "paper"),
            across((-eye / 2, eye * 1.25), (eye / 2, eye * 1.25), eye, eye * 0.25),
            across((0.0, 0.0), (0.0, -pit), pit, eye * 0.8),
            Number((-eye * 0.3, -pit * 0.6), 1),
            *hole,
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "socket.dimple": N_("Felt a firm dimple {deep} deep for an eye of {eye}."),
    "socket.awl": N_("Go in to the shaft, wriggle, then open the hole with the awl, {deep} deep."),
    "socket.both": N_("Both eyes in, dry."),
    "socket.level": N_("Are they level? Out again, and glue them at once: holes close."),
    "socket.pins": N_("A pin in each, where the eye will sit."),
    "socket.level-pins": N_("Are the pins level, right way up and upside down? Leave them in."),
    "socket.until": N_("The eye sits in its dimple without glue, level with the other."),
    "socket.scale": N_("Eyes come in whole sizes: keep the gap between them."),
    "socket.why": N_(
        "An eye that sits in the head looks alive; one that sits on it looks glued on."
    ),
}

METHOD = Method("socket", lambda at: at.sort == "socket", _card, _picture)
