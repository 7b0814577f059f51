"""How portions are named, measured out and prepared before felting."""

from __future__ import annotations

import math

from bambola.core.facts import Fact, Grams, Mm, Sizes, fact
from bambola.core.wool.portion import Portion
from bambola.core.wool.portions import CAP_DETAIL, SOFT_DETAIL, WISP_DETAIL

MOST_TOLD = 24
"""A lump torn into more parts than this is no way to come by a pinch at the table. Judged. See
craft.md, 7."""
PINCH_DENSITY = 0.07
"""How close wool is that fingers roll, g/cm³. Judged. See craft.md, 7."""


def portion_name(portion: Portion) -> Fact:
    """Return the name of a portion: the core, the coat, a patch by its name."""
    if portion.role == "inset":
        return fact("portion.inset", name=portion.name)
    if portion.role == "core":
        kinds = {SOFT_DETAIL: "soft-centre", CAP_DETAIL: "cap", WISP_DETAIL: "wisp"}
        return Fact(f"portion.{kinds.get(portion.detail, 'core')}")
    if portion.role == "seam":
        return Fact(f"portion.seam-{portion.detail}")
    return Fact(f"portion.{portion.role}")


def is_plain_core(portion: Portion) -> bool:
    """Return whether a part's name alone identifies the portion."""
    return portion.role == "core" and not portion.detail


def pinch_mm(grams: float) -> float:
    """Return the diameter of a pinch rolled into a ball, mm."""
    return 10 * math.cbrt(6 * grams / (math.pi * PINCH_DENSITY))


def is_pinch(portion: Portion) -> bool:
    """Return whether the amount is so small that it is rolled in the fingers rather than torn off by
    weight."""
    return portion.tear is not None and portion.tear.parts > MOST_TOLD


def amount(portion: Portion) -> Fact:
    """Return the amount to take as a fact: by weight, as a share of a lump, or as a pinch by its size."""
    tear = portion.tear
    if tear is None:
        return fact("amount.weight", weight=Grams(portion.take_g))
    if is_pinch(portion):
        return fact("amount.pinch", across=Mm(pinch_mm(portion.take_g)))
    return fact(
        "amount.share", weight=Grams(portion.take_g), parts=tear.parts, whole=Grams(tear.weigh_g)
    )


def kept_by(portion: Portion) -> Fact:
    """Return the reserve as a fact; nothing if it is less than a scale shows."""
    if portion.tear is not None:
        return Fact("nothing")
    return fact("amount.keep", weight=Grams(portion.keep_by_g))


def made_ready(portion: Portion) -> Fact:
    """Return how a portion is prepared before felting: rolled, pulled into veils, laid in bunches."""
    if portion.laid is not None:
        return portion.laid
    if portion.form == "veil":
        return fact("ready.veil", across=Mm(portion.loose_mm["across"]))
    return fact(f"ready.{portion.form}", size=Sizes(tuple(portion.loose_mm.values())))
