"""The ball that several parts are drawn out of: all their wool at once, felted only soft."""

from __future__ import annotations

import math

from bambola.core.facts import Fact, Mm, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, StepDrawing, oval
from bambola.core.methods.parts import (
    SQUARE,
    across,
    card,
    check,
    right_size_range,
    run,
    stab,
    stop,
)
from bambola.core.methods.values import Card, Method
from bambola.core.order.work import drawn_out_of

SOFT = 1.2
"""The soft ball is so many times as wide as all its wool will be when firm. Judged. See craft.md, 10."""


def soft_ball_mm(at: StepInPlan) -> float:
    """Return the diameter of the soft ball, mm: the wool of the part and of everything drawn out of it. A
    part that stays soft is felted at most half way."""
    assert at.portion is not None and at.wool is not None
    own = next(p.grams for p in at.row.portions if p.role == "core")
    firm = _ball_diameter(at.row.net_cm3 * at.portion.grams / own)
    loose = _ball_diameter(at.portion.grams / at.wool.start_density)
    return min(SOFT * firm, (firm + loose) / 2)


def _ball_diameter(cm3: float) -> float:
    """Return the diameter of a ball of this volume, mm."""
    return float((6000 * cm3 / math.pi) ** (1 / 3))


def _card(at: StepInPlan) -> Card:
    assert at.job is not None
    ball, drawn = soft_ball_mm(at), drawn_out_of(at.plan.work, at.job.id)
    return card(
        at,
        "one-mass",
        (
            fact(
                "one-mass.roll",
                parts=(at.part_name, *(fact("the", name=job.name) for job in drawn)),
            ),
            fact("one-mass.soft", wide=Mm(ball)),
            Fact("one-mass.choose"),
        ),
        needles=(run(36, slots.bulk_depth(ball), SQUARE, "only"),),
        stops=(stop("diameter", *right_size_range(ball)),),
        until=Fact("one-mass.until"),
        checks=(check("still-soft"),),
        scale=Fact("one-mass.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the loose bundle round the soft ball."""
    ball = soft_ball_mm(at)
    loose = max(ball * 1.3, max(at.loose))
    needle = card_.needles[0]
    return StepDrawing(
        (
            DrawnArea(oval(loose, loose), "wool", "hidden"),
            DrawnArea(oval(ball, ball), "wool"),
            across((-ball / 2, 0.0), (ball / 2, 0.0), ball, -loose * 0.6),
            stab((0.0, ball / 2 - needle.depth_mm), needle, 90),
            Number((-loose * 0.42, loose * 0.3), 1),
            Number((-ball * 0.2, 0.0), 2),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "one-mass.roll": N_("Roll all the wool for {parts} into one loose ball."),
    "one-mass.soft": N_("Felt it only soft, all round: {wide} across."),
    "one-mass.choose": N_("Choose which side is the top, which the front and which the base."),
    "one-mass.until": N_("It holds together, and a thumb still sinks in."),
    "one-mass.scale": N_("Above a hand’s height parts are better made apart and joined."),
    "one-mass.why": N_(
        "To draw a part out, the wool must still give: to a firm ball you can only add."
    ),
}

METHOD = Method(
    "one-mass",
    lambda at: (
        at.sort == "core"
        and at.job is not None
        and bool(drawn_out_of(at.plan.work, at.job.id))
        and not at.job.drawn
    ),
    _card,
    _picture,
)
