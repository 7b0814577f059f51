"""The coat: veils laid crosswise over a core."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods import slots
from bambola.core.methods.at import At
from bambola.core.methods.drawing import Area, Drawing, Number, oval, rod
from bambola.core.methods.parts import FLAT, SQUARE, card, check, run
from bambola.core.methods.sketch import across, stab
from bambola.core.methods.values import Card, Method
from bambola.core.solids.forms import Array
from bambola.core.wool import extents
from bambola.core.wool.portions import OVERLAP_MM


def veils_of(at: At) -> int:
    """Veils that the coat of the step is laid in."""
    skin = at.row.exposed_cm2
    return slots.veils(at.take_g / skin) if skin > 0 else 2


def _card(at: At) -> Card:
    wide = max(at.row.to_mm.values(), default=0.0)
    at_once = slots.needles_at_once(wide, layer=True)
    depth = at.row.coat_mm + slots.COAT_MM
    bare = tuple(fact("the", name=inset.id.replace("-", " ")) for inset in at.body.insets)
    return card(
        at,
        "coat",
        (
            fact("coat.tear", n=veils_of(at)),
            fact("coat.first", part=at.called, over=Mm(OVERLAP_MM)),
            Fact("coat.edges"),
            Fact("coat.cross"),
            fact("coat.bare", at=bare) if bare else None,
            Fact("coat.light"),
        ),
        start=Fact("coat.start"),
        needles=(
            run(38, depth, SQUARE, "first", at_once),
            run(40, 2.0, SQUARE, "then"),
            run(40, slots.SKIN_MM, FLAT * 5 / 3, "last"),
        ),
        until=Fact("coat.until"),
        checks=(check("core-shows"), check("coat-balls")),
        scale=Fact("coat.scale"),
    )


def _picture(at: At) -> Drawing:
    """Veils crossing on a core, and how thick they lie."""
    along, wide, _ = extents(at.placed[0].shape).values()
    veils = [
        Area(rod(wide * 0.9, along * 0.16, (0.0, along * y)) @ _turned(turn), "wool", "hidden")
        for y, turn in ((0.28, 0.35), (0.0, -0.35), (-0.28, 0.35))[: max(2, min(3, veils_of(at)))]
    ]
    runs = _card(at).needles
    return Drawing(
        (
            Area(oval(wide, along), "core"),
            *veils,
            Area(oval(wide, along), "none"),
            across((-wide / 2, 0.0), (wide / 2, 0.0), wide, -along * 0.62),
            stab((wide * 0.2, along * 0.46 - min(runs[0].depth_mm, along / 2)), runs[0], 90),
            stab((-wide * 0.36, along * 0.34), runs[-1], 160),
            Number((wide * 0.1, along * 0.24), 2),
            Number((-wide * 0.1, -along * 0.1), 4),
        )
    )


def _turned(angle: float) -> Array:
    c, s = np.cos(angle), np.sin(angle)
    return np.array([(c, s), (-s, c)])


METHOD = Method("coat", lambda at: at.sort == "coat", _card, _picture)
