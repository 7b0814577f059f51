"""The coat: veils laid crosswise over a core."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods import slots
from bambola.core.methods.at import At
from bambola.core.methods.parts import FLAT, SQUARE, card, check, run
from bambola.core.methods.values import Card, Method
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


METHOD = Method("coat", lambda at: at.sort == "coat", _card)
