"""Bundles: what wool is rolled or laid into before felting, and how large that is.

Mass never shrinks, only volume does, and not equally in every direction: with q = start density over
packed density and one weight per axis, finished = loose × q^w, the weights summing to 1.
"""

from __future__ import annotations

import math

from bambola.core.figure import Shape, StartForm, Wool

Size = dict[str, float]
"""Along, across and through, mm."""


def start_form(shape: Shape) -> StartForm:
    """The form a part's wool is rolled into before felting."""
    forms: dict[str, StartForm] = {
        "ball": "ball", "pad": "ball", "turned": "ball", "sausage": "sausage", "limb": "sausage",
        "rope": "sausage", "cone": "cone", "leaf": "sheet",
    }  # fmt: skip
    return forms[shape.kind]


def loose_size(finished: Size, form: StartForm, wool: Wool, density: float) -> Size:
    """The size before felting of what is to become ``finished`` at ``density`` g/cm³."""
    q = wool.start_density / density
    weights = wool.shrink_weights(form)
    return {name: mm / q**w for (name, mm), w in zip(finished.items(), weights, strict=True)}


def heap_across(grams: float, wool: Wool) -> float:
    """Diameter (mm) of a ball of ``grams`` loosely rolled: to judge a coat or patch by eye."""
    return float((6 / math.pi * grams / wool.start_density) ** (1 / 3) * 10.0)


def extents(shape: Shape) -> Size:
    """Finished size of a shape along, across and through (mm), as its start form counts them."""
    m = shape.measures()
    match shape.kind:
        case "ball" | "pad":
            return {"along": m["height"], "across": m["width"], "through": m["depth"]}
        case "turned":
            return {"along": m["length"], "across": m["width"], "through": m["depth"]}
        case "sausage":
            return {"along": m["length"], "across": m["diameter"], "through": m["diameter"]}
        case "cone":
            return {"along": m["length"], "across": m["base"], "through": m["base"]}
        case "leaf":
            return {"along": m["length"], "across": m["width"], "through": m["thickness"]}
        case _:
            return {"along": m["length"], "across": m["thickness"], "through": m["thickness"]}
