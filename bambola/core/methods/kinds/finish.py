"""Smoothing the whole surface."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, DrawnLine, Number, StepDrawing, line
from bambola.core.methods.parts import FLAT, LOW, across, card, check, run, stab
from bambola.core.methods.values import Card, Method


def _card(at: StepInPlan) -> Card:
    return card(
        at,
        "finish",
        (_needled_area(at), Fact("finish.rub"), Fact("finish.veil"), Fact("finish.trim")),
        needles=(
            run(40, slots.DEPTH_MM["surface"], LOW, "first"),
            run(40, slots.SKIN_MM, FLAT, "last"),
        ),
        until=Fact("finish.until"),
        checks=(check("pits"), check("hairs")),
        scale=Fact("finish.scale"),
    )


def _needled_area(at: StepInPlan) -> Fact:
    """Return the area the needle goes over: bare felt alone."""
    work = at.plan.work
    there = {
        "eyes": any(f.kind == "eye" for f in work.fittings),
        "clothes": any(part.garment for part in work.parts),
        "fur": any(part.fur_rows for part in work.parts),
    }
    spared = tuple(Fact(f"finish.spare-{what}") for what, is_there in there.items() if is_there)
    return fact("finish.over-bare", spared=spared) if spared else Fact("finish.over")


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return skin in slanting light: hairs that stand up, a pit, the needle almost flat."""
    wide = 30.0
    skin = np.linspace(-wide / 2, wide / 2, 61)
    low = -1.2 * np.exp(-((skin + 6.0) ** 2) / 2.0)
    under = np.vstack(
        [np.column_stack([skin, low]), [(wide / 2, -wide * 0.3), (-wide / 2, -wide * 0.3)]]
    )
    hairs = [
        DrawnLine(line((x, 0.0), (x + 1.5, 4.0 + x % 3)), "hair") for x in (2.0, 3.0, 6.5, 8.0, 9.0)
    ]
    first, last = card_.needles
    return StepDrawing(
        (
            DrawnArea(under, "wool"),
            *hairs,
            stab((-11.0, -first.depth_mm), first, 180 - first.angle_deg),
            stab((-4.0, -0.8), last, last.angle_deg),
            across((0.0, 0.0), (0.0, -first.depth_mm), first.depth_mm, -13.0),
            Number((-6.0, 2.0), 3),
            Number((7.0, 7.5), 4),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "finish.over": N_("Go over all of it, shallow and close."),
    "finish.over-bare": N_("Go over all bare felt, shallow and close. Spare {spared}."),
    "finish.spare-eyes": N_("eyes"),
    "finish.spare-clothes": N_("clothes"),
    "finish.spare-fur": N_("fur"),
    "finish.rub": N_("Rub with a fingertip and look for pits."),
    "finish.veil": N_("A veil where pits or grey show, the needle almost flat."),
    "finish.trim": N_("Pull out what does not felt, and trim flat on the skin."),
    "finish.until": N_("No hair stands up and no pit is seen."),
    "finish.scale": N_("It takes as long as there is skin: four times for twice the height."),
    "finish.why": N_("Shallow and close makes skin; deep stabs now would leave pits."),
}

METHOD = Method("finish", lambda at: at.step.kind == "finish", _card, _picture)
