"""A limb wrapped on its wire with a ribbon of wool."""

from __future__ import annotations

from bambola.core.facts import Fact, Mm, fact
from bambola.core.methods import slots
from bambola.core.methods.at import At
from bambola.core.methods.parts import LOW, card, check, run, stop
from bambola.core.methods.values import Card, Method


def _card(at: At) -> Card:
    long, thick = at.finished[0], at.thick
    wide = slots.ribbon(thick)
    over = slots.carried((thick - at.wire_mm) / 2)
    grams = at.take_g
    layers = slots.ribbon_layers(grams, long, thick, at.wire_mm, 1.0)
    school = at.plan.work.school("legs")
    return card(
        at,
        "wrap-limb",
        (
            fact("wrap-limb.ribbon", wide=Mm(wide), part=at.called),
            Fact("wrap-limb.from-middle" if school == "middle out" else "wrap-limb.from-body"),
            fact("wrap-limb.wind", n=layers, turns=slots.turns(long, wide)),
            fact("wrap-limb.over", over=Mm(over)),
            Fact("wrap-limb.stab"),
            Fact("wrap-limb.roll"),
        ),
        start=Fact("wrap-limb.start-pair" if at.copies == 2 else "wrap-limb.start"),
        needles=(
            run(
                at.step.needle or 38, max(1.0, (thick - at.wire_mm) / 3), LOW * 1.25, "beside-wire"
            ),
            run(40, slots.SKIN_MM, LOW, "last"),
        ),
        stops=(stop("thickness", thick - 0.5, thick + 0.5), stop("length", *slots.close(long))),
        until=Fact("wrap-limb.until"),
        checks=(check("wire-glints"), check("limb-even"), check("wool-turns")),
        scale=Fact("wrap-limb.scale"),
    )


def _fits(at: At) -> bool:
    return at.step.kind == "wrap" and at.job is not None and at.job.limb


METHOD = Method("wrap-limb", _fits, _card)
