"""Bundles: what wool is rolled or laid into before felting, and the size of that.

Mass never shrinks, only volume does, and not equally in every direction: with q = start density over packed
density and one weight w per axis, finished = loose × q^w, the weights summing to 1.
"""

from __future__ import annotations

import math

from bambola.core.bench import Wool
from bambola.core.bench.wools import COVER, volume_of
from bambola.core.figure import Part, Rope, Shape, StartForm
from bambola.core.figure.shapes import ChainShape
from bambola.core.solids import Copy, CopySolid

Size = dict[str, float]
"""Along, across and through, mm."""


def loose_size(
    finished: Size, form: StartForm, wool: Wool, density: float, grams: float, tighter: float = 1.0
) -> Size:
    """Return the size before felting of ``grams`` that become ``finished`` at ``density`` g/cm³.

    Its proportions felt to the finished ones. Its volume is that of the wool at its start density
    (``tighter`` times that), whatever neighbours or its form take from the finished part.
    """
    q = wool.start_density / density
    weights = wool.shrink_weights(form)
    along, across, through = (mm / q**w for mm, w in zip(finished.values(), weights, strict=True))
    holds = volume_of(form, (along, across, through))
    wanted = grams / (wool.start_density * tighter)
    k = (wanted / holds) ** (1 / 3) if holds > 0 else 0.0
    return {"along": along * k, "across": across * k, "through": through * k}


def visible_size(shape: Shape, solid: CopySolid) -> Size:
    """Return the visible size of a part along, across and through (mm): as wide as drawn; if it lies on its
    side, as thick as it stands out."""
    if shape.flat:
        wide, _, long = solid.left
        full = finished_size(shape)
        return {**full, "along": full["along"] * long, "across": full["across"] * wide}
    seen = solid.seen
    return {"along": seen.length, "across": seen.width, "through": seen.thickness}


def piece_size(copy: Copy, solid: CopySolid, cm3: float) -> Size:
    """Return the size of a finished piece of ``cm3`` (mm); a felted ring is given unrolled."""
    worn = copy.part.stuff is not None or (copy.part.garment and copy.part.garment.bought)
    if is_ring(copy.part, solid) and not worn:
        return ring_size(copy.part, solid, cm3)
    if solid.is_shell and not worn:
        return shell_size(copy.shape, solid, cm3)
    return visible_size(copy.shape, solid)


def is_ring(part: Part, solid: CopySolid) -> bool:
    """Return whether a part closes round something: a closed rope, or clothes with something running
    through."""
    return _is_closed(part.shape) or (part.garment is not None and solid.seen.girth > 0)


def _is_closed(shape: Shape) -> bool:
    return isinstance(shape, Rope) and shape.closed


def ring_size(part: Part, solid: CopySolid, cm3: float, coat_mm: float = 0.0) -> Size:
    """Return the size of a ring of ``cm3`` under a coat of ``coat_mm``, unrolled.

    A rope is as thick as its volume makes it. Any other ring is a strip as wide as the part is long: the
    middle of its wall is π t shorter than its outside, t being its thickness, so volume / width = (outside -
    π t) t. A coat does not lengthen the strip.
    """
    if _is_closed(part.shape):
        along = part.shape.measures()["length"]
        thick = math.sqrt(4 * cm3 * 1000 / (math.pi * along))
        return {"along": along, "across": thick, "through": thick}
    full, outside = solid.seen.along, solid.seen.girth
    area = (cm3 if not coat_mm else solid.net_mm3 / 1000) * 1000 / full
    thick = (outside - math.sqrt(max(0.0, outside**2 - 4 * math.pi * area))) / (2 * math.pi)
    long = outside - math.pi * thick
    if not coat_mm:
        return {"along": long, "across": full, "through": thick}
    wide = max(full - 2 * coat_mm, full / 2)
    return {"along": long, "across": wide, "through": cm3 * 1000 / (long * wide)}


def shell_size(shape: Shape, solid: CopySolid, cm3: float) -> Size:
    """Return the sheet (mm) for a shell of ``cm3``: an oval with the area of the middle of its wall and the
    proportions of its two longest sides."""
    area = (solid.exposed_mm2 + solid.join_mm2) / 2
    *_, wide, long = sorted(finished_size(shape).values())
    across, slim = math.sqrt(4 * area / math.pi), math.sqrt(wide / long)
    return {"along": across / slim, "across": across * slim, "through": cm3 * 1000 / area}


def form_of(part: Part, solid: CopySolid) -> StartForm:
    """Return the plain form a part is rolled to; a limb or rope tapering to less than half is a cone, and a
    ring other than a rope is a strip."""
    shape = part.shape
    if is_ring(part, solid):
        return shape.start_form if _is_closed(shape) else "sheet"
    if not isinstance(shape, ChainShape):
        return shape.start_form
    base, _, tip = solid.seen.widths
    return "cone" if tip < base / 2 else shape.start_form


def core_size(part: Part, solid: CopySolid, coat_mm: float, cm3: float, of_cm3: float) -> Size:
    """Return the finished size (mm) of a core of ``cm3`` under a coat of ``coat_mm``: the visible part, whose
    wool is ``of_cm3`` in all, shorter by the coat at its tip and thinner according to its volume. A ring is
    given unrolled."""
    if is_ring(part, solid):
        return ring_size(part, solid, cm3, coat_mm)
    size = visible_size(part.shape, solid)
    if part.shape.flat or coat_mm <= 0 or of_cm3 <= 0:
        return {name: max(mm - 2 * coat_mm, 0.5 * mm) for name, mm in size.items()}
    ends = 2 if part.parent is None else 1
    along = max(size["along"] - ends * coat_mm, 0.5 * size["along"])
    thinner = math.sqrt(min(1.0, cm3 / of_cm3 * size["along"] / along))
    return {
        "along": along,
        "across": size["across"] * thinner,
        "through": size["through"] * thinner,
    }


def heap_across(grams: float, wool: Wool) -> float:
    """Return the diameter (mm) of a loosely rolled ball of ``grams``, to judge a coat or patch by eye."""
    return float((6 / math.pi * grams / wool.start_density) ** (1 / 3) * 10.0)


def finished_size(shape: Shape) -> Size:
    """Return finished size of a shape along, across and through (mm), as its start form counts them."""
    along, across, through = shape.extents()
    return {"along": along, "across": across, "through": through}


def as_read(size: Size, flat: bool) -> tuple[float, float]:
    """Return length and thickness (mm) of a piece as a ruler reads them: for a flat piece the thickness
    through it, for a low one its width, for any other the geometric mean of both."""
    along, across, through = size.values()
    if flat:
        return along, through
    return along, across if along < across else (across * through) ** 0.5


PATCH_BAND_MM = 15.0
PATCH_SHARE = 0.25
SCARF_MM = 25.0
SCARF_COVER = 0.05
"""Seam wool: a patch covers 15 mm each side of the join line, or a quarter of the narrower of the two
parts if that is less (judged: half of it on small parts); a scarf is a strip 25 mm high, or a third of the
part if that is less, at 0.05 g/cm². See craft.md, 1."""


def seam_cover(
    part: Part, solid: CopySolid, join: str, beside_mm: float
) -> tuple[float, float, float]:
    """Return the length of the seam and how wide the wool over it is, cm, and its cover, g/cm²; ``beside_mm``
    is how wide what the part sits on is."""
    line = solid.join_line_mm / 10.0
    if join == "patch":
        narrower = min(wide_mm(part.shape), beside_mm)
        return line, 2 * min(PATCH_BAND_MM, PATCH_SHARE * narrower) / 10.0, COVER["over"]
    return line, min(SCARF_MM, _height_of(part.shape) / 3) / 10.0, SCARF_COVER


def wide_mm(shape: Shape) -> float:
    """Return the width of a part at its narrower side; of a flat part, across its sheet and not through
    it."""
    return (
        min(finished_size(shape)["along"], finished_size(shape)["across"])
        if shape.flat
        else shape.smallest_mm
    )


def _height_of(shape: Shape) -> float:
    measures = shape.measures()
    return measures.get("height", measures.get("length", 0.0))
