"""The layers over a core: the coat over the visible skin, and patches tucked in under it."""

from __future__ import annotations

from bambola.core.bench import Bench, Role, Wool
from bambola.core.bench.wools import COVER
from bambola.core.facts import Area, Cover, Fact, Mm, fact
from bambola.core.figure import Part, Place
from bambola.core.solids import CopySolid
from bambola.core.solids.patches import stripe_mm
from bambola.core.wool.face_pieces import TEN_HAIRS_G, laid_as, piece_cm3, piece_mm

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
    at, each = part.patches.index(inset), inset.each
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
    grams = piece.each * each
    how = Fact(f"laid-as.{laid_as(piece)}")
    why = fact("wool.face", n=piece.each, how=how, long=Mm(long), wide=Mm(wide))
    return grams, piece.id, why


def asked_cover(cover: str | float, factor: float) -> float:
    """Return the cover laid for a nominal cover, g/cm²; ``factor`` is for makers whose coat grows with the
    figure."""
    return (COVER[cover] if isinstance(cover, str) else cover) * factor
