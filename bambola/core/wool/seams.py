"""Wool over a join: a patch along its line, or a scarf round it."""

from __future__ import annotations

from bambola.core.bench.wools import COVER
from bambola.core.figure import Part, Shape
from bambola.core.solids import CopySolid
from bambola.core.wool.bundles import finished_size

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
    return line, min(SCARF_MM, _height(part.shape) / 3) / 10.0, SCARF_COVER


def wide_mm(shape: Shape) -> float:
    """Return the width of a part at its narrower side; of a flat part, across its sheet and not through
    it."""
    return (
        min(finished_size(shape)["along"], finished_size(shape)["across"])
        if shape.flat
        else shape.smallest_mm
    )


def _height(shape: Shape) -> float:
    measures = shape.measures()
    return measures.get("height", measures.get("length", 0.0))
