"""The layers over a core: the coat over the visible skin, and patches tucked in under it."""

from __future__ import annotations

import math

from bambola.core.bench import Bench, Role, Wool
from bambola.core.bench.wools import COVER
from bambola.core.facts import Area, Cover, Fact, Mm, fact
from bambola.core.figure import Part, Place, Shape
from bambola.core.figure.places import LaidAnswer, Line
from bambola.core.solids import CopySolid
from bambola.core.solids.patches import stripe_mm
from bambola.core.solids.regions import place_mm

DOME = 0.35
"""A pinch stands out by so much of its width, and so does an eye of wool. Judged. See craft.md, 10."""
HAIRS_MM = 0.8
"""A line narrower than this is laid of single hairs: a wisp cannot be twisted so thin. Judged.
See craft.md, 10."""
LID_SHARE, LID_MM = 0.2, 1.0
"""A lid is as thick as this share of its height, at least so much. Judged. See craft.md, 10."""
TEN_HAIRS_G = 0.0005
"""Fewer hairs than ten are no piece of a face: they are not seen. Judged. See craft.md, 10."""
_OF_KIND: dict[str, LaidAnswer] = {
    "nose": "pinch", "nostril": "pinch", "cheek": "pinch", "white": "pinch", "pupil": "pinch",
    "highlight": "hairs", "lid": "half-disc",
}  # fmt: skip


def laid_as(place: Place) -> LaidAnswer:
    """Return how a piece of a face is laid: as its maker chose, else as usual for its kind."""
    if place.laid is not None:
        return place.laid
    usual: LaidAnswer = _OF_KIND.get(place.face or "", "twist")
    wide = place.where.wide if isinstance(place.where, Line) else math.inf
    return "hairs" if usual == "twist" and wide < HAIRS_MM else usual


def felted_eye_cm3(wide_mm: float) -> float:
    """Return the volume of an eye of wool, felted firm: half an egg, DOME of its width high."""
    return 2 / 3 * math.pi * (wide_mm / 2) ** 2 * DOME * wide_mm / 1000


def piece_mm(shape: Shape, place: Place) -> tuple[float, float]:
    """Return the length of a piece over the skin of ``shape`` and its width, mm."""
    return place_mm(shape, place.where)


def is_thread(place: Place) -> bool:
    """Return whether a piece runs along a line; else it is a spot or an area."""
    return isinstance(place.where, Line) and not place.is_spot


def piece_cm3(shape: Shape, place: Place) -> float:
    """Return the felted volume of one piece, cm³: a thread as round as it is wide; half an egg; half a disc;
    threads laid side by side over an area."""
    long, wide = piece_mm(shape, place)
    match laid_as(place):
        case "pinch" if not is_thread(place):
            return 2 / 3 * math.pi * (long / 2) * (wide / 2) * DOME * wide / 1000
        case "half-disc":
            return math.pi / 4 * long * wide * max(LID_MM, LID_SHARE * wide) / 1000
        case "hairs" | "twist" if not is_thread(place):
            return math.pi / 4 * long * wide * min(wide, HAIRS_MM) / 1000
        case _:
            return math.pi / 4 * wide**2 * long / 1000


OVERLAP_MM = 3.0
"""A patch is laid a few mm wider than it shows, and the coat is tucked against it over that.
See craft.md, 1."""
_TUCK_SHARE = 1 / 3
ON_TOP_MM = 8.0
"""A patch is tucked in by no more than a third of its own width, and on a piece thinner than 8 mm not at
all: it is laid on top. See craft.md, 1."""


def tuck_mm(part: Part, inset: Place, solid: CopySolid) -> float:
    """Return how far a patch extends under the coat beside it, mm."""
    if part.coat is None or part.shape.smallest_mm < ON_TOP_MM or inset.face is not None:
        return 0.0
    at, each = part.patches.index(inset), inset.copies
    width = stripe_mm(solid.patches_mm2[at] / each, solid.edges_mm[at] / each)
    return min(OVERLAP_MM, _TUCK_SHARE * width)


def layers_of(
    part: Part, solid: CopySolid, bench: Bench, factor: float
) -> list[tuple[Wool, Role, float, str, Fact]]:
    """Return the layers over a core, coat first and then the patches, each with its wool, grams and
    reason."""
    found: list[tuple[Wool, Role, float, str, Fact]] = []
    if part.coat:
        wool = bench.wool_by_id[part.coat.wool]
        cover = asked_cover(part.coat.cover, factor) * wool.cover
        patches = zip(part.patches, solid.patches_mm2, strict=True)
        let_in = sum(area for place, area in patches if place.face is None)
        bare = max(0.0, solid.exposed_mm2 - let_in) / 100.0
        why = fact("wool.coat", cover=Cover(cover), area=Area(bare))
        found.append((wool, "coat", cover * bare, "", why))
    for inset, patch, edge in zip(part.patches, solid.patches_mm2, solid.edges_mm, strict=True):
        assert inset.wool is not None
        wool = bench.wool_by_id[inset.wool]
        if inset.face is not None:
            found.append((wool, "inset", *_of_face(part, inset, wool)))
            continue
        cover = asked_cover(inset.cover, factor) * wool.cover
        tucked = tuck_mm(part, inset, solid)
        under = edge * tucked
        why = fact(
            "wool.patch-tucked" if under else "wool.patch",
            cover=Cover(cover),
            area=Area(patch / 100),
            under=Mm(tucked),
            edge=Mm(edge),
        )
        found.append((wool, "inset", cover * (patch + under) / 100.0, inset.id, why))
    return found


def _of_face(part: Part, piece: Place, wool: Wool) -> tuple[float, str, Fact]:
    """Return the grams of all like pieces of a face, with name and reason."""
    long, wide = piece_mm(part.shape, piece)
    each = max(TEN_HAIRS_G, wool.density("firm") * piece_cm3(part.shape, piece))
    grams = piece.copies * each
    how = Fact(f"laid-as.{laid_as(piece)}")
    why = fact("wool.face", n=piece.copies, how=how, long=Mm(long), wide=Mm(wide))
    return grams, piece.id, why


def asked_cover(cover: str | float, factor: float) -> float:
    """Return the cover laid for a nominal cover, g/cm²; ``factor`` is for makers whose coat grows with the
    figure."""
    return (COVER[cover] if isinstance(cover, str) else cover) * factor
