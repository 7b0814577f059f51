"""The names of kinds, as they occur in designs and benches."""

from __future__ import annotations

from bambola.core.facts import Fact
from bambola.core.marked import N_, Plural


def kind(room: str, value: str) -> Fact:
    """Return the name of one kind: ``kind("metal", "soft steel")``."""
    return Fact(f"{room}.{value.replace(' ', '-')}")


SENTENCES: dict[str, str | Plural] = {
    "shape.ball": N_("ball or egg"),
    "shape.cone": N_("cone"),
    "shape.leaf": N_("flat, like a leaf"),
    "shape.limb": N_("limb"),
    "shape.pad": N_("pad"),
    "shape.rope": N_("rope"),
    "shape.sausage": N_("sausage"),
    "shape.turned": N_("turned"),
    "form.ball": N_("ball"),
    "form.sausage": N_("sausage"),
    "form.cone": N_("cone"),
    "form.sheet": N_("sheet"),
    "form.veil": N_("veil"),
    "wool-form.batt": N_("batt"),
    "wool-form.top": N_("top"),
    "wool-form.core": N_("core wool"),
    "wool-form.locks": N_("locks"),
    "wool-form.blend": N_("blend"),
    "metal.soft-aluminium": N_("soft aluminium"),
    "metal.soft-copper": N_("soft copper"),
    "metal.half-hard-brass": N_("half-hard brass"),
    "metal.soft-steel": N_("soft steel"),
    "datum.crown": N_("ground to crown"),
    "datum.top": N_("ground to its highest point"),
    "datum.ear-tips": N_("ground to ear tips"),
    "datum.back": N_("ground to back"),
    "datum.loop-to-foot": N_("hanging loop to foot"),
    "side.front": N_("front"),
    "side.back": N_("back"),
    "side.left": N_("left"),
    "side.right": N_("right"),
    "side.front-left": N_("front left"),
    "side.front-right": N_("front right"),
    "side.back-left": N_("back left"),
    "side.back-right": N_("back right"),
    "cloth.felt": N_("felt"),
    "cloth.woven-cloth": N_("woven cloth"),
    "cloth.knit": N_("knit"),
    "wire-of.spine": N_("Spine wire"),
    "wire-of.one-long": N_("One long wire"),
    "wire-of.long": N_("Long wire"),
    "wire-of.crosspiece": N_("Crosspiece"),
    "wire-of.hoop": N_("{part} hoop"),
    "wire-of.part": N_("{part} wire"),
    "wire-of.left-part": N_("Left {part:lower} wire"),
    "wire-of.right-part": N_("Right {part:lower} wire"),
    "wire-of.second": N_("Second {wire:lower}"),
    "wire-of.again": N_("{wire} {n}"),
    "wire-of.peg": N_("{part} peg"),
    "wire-of.left-peg": N_("Left {part:lower} peg"),
    "wire-of.right-peg": N_("Right {part:lower} peg"),
    "nth.first": N_("first {part:lower}"),
    "nth.second": N_("second {part:lower}"),
    "wiring.drawn": N_("As drawn"),
    "wiring.drawn.tells": N_("your own routes, kept and only checked"),
    "wiring.continuous": N_("One wire"),
    "wiring.continuous.tells": N_(
        "out and back along every limb: limbs are double, nothing to bind"
    ),
    "wiring.crosspiece": N_("Crosspiece"),
    "wiring.crosspiece.tells": N_("one wire hand to hand, one head to foot and folded back"),
    "wiring.hoops": N_("Hoops"),
    "wiring.hoops.tells": N_(
        "a wire for each pair of limbs, bent over the spine, and a spine wire"
    ),
    "wiring.chenille": N_("Chenille"),
    "wiring.chenille.tells": N_(
        "a stem for each pair of limbs and one for the spine, banded where they cross: it grips the wool"
    ),
    "wiring.stems": N_("Stems"),
    "wiring.stems.tells": N_("a wire for every limb, twisted on at the joints"),
}
