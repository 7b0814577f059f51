"""Setting eyes that are glued."""

from __future__ import annotations

from bambola.core.facts import Fact, fact
from bambola.core.methods.at import At
from bambola.core.methods.drawing import Area, Drawing, Line, Number, box, line, oval
from bambola.core.methods.parts import card, check
from bambola.core.methods.sketch import across
from bambola.core.methods.values import Card, Method


def _card(at: At) -> Card:
    job = at.fitting
    called = fact("both" if job.count == 2 else "the", name=job.name)
    return card(
        at,
        "eye",
        (Fact("eye.awl"), fact("eye.glue", what=called), Fact("eye.press"), Fact("eye.band")),
        start=Fact("eye.start"),
        until=Fact("eye.until"),
        checks=(check("level"), check("glue-rim")),
        scale=Fact("eye.scale"),
    )


def _picture(at: At, card_: Card) -> Drawing:
    """The eye on its shank going home, glue on the shank alone."""
    eye = at.fitting_mm
    ground = eye * 3.2
    return Drawing(
        (
            Area(box(ground, eye * 1.8, (0.0, -eye * 0.9)), "under"),
            Area(box(eye * 0.2, eye * 1.2, (0.0, -eye * 0.6)), "paper"),
            Line(line((0.0, eye * 0.2), (0.0, eye * 1.1)), "wire", eye * 0.12),
            Line(line((0.0, eye * 0.25), (0.0, eye * 0.7)), "thread", eye * 0.2),
            Area(oval(eye, eye, (0.0, eye * 1.5)), "paper"),
            across((-eye / 2, eye * 2.0), (eye / 2, eye * 2.0), eye, eye * 0.25),
            Number((eye * 0.4, eye * 0.5), 2),
            Number((eye * 0.7, eye * 1.5), 3),
        )
    )


METHOD = Method("eye", lambda at: at.sort == "fit" and at.fitting.glued, _card, _picture)
