"""From a finished part to the wool to take for it.

Mass never shrinks, only volume does: grams = packed density × net felted volume. The coat is
judged by cover (g/cm²) on exposed skin; the core is the finished part less its coat all round, so
core + coat together are exactly the packed volume.
"""

from __future__ import annotations

import math
from collections.abc import Container, Iterator, Mapping
from dataclasses import replace

from bambola.core.bench import Bench, Wool
from bambola.core.bench.materials import Material
from bambola.core.bench.wools import FUR_COVER
from bambola.core.facts import Area, Cover, Density, Fact, Mm, Share, Volume, fact
from bambola.core.figure import Figure, Part, Place, Shape
from bambola.core.figure.places import Band
from bambola.core.frozen import frozen
from bambola.core.solids import CopySolid, Solids
from bambola.core.solids.lengthwise import line_mm, skin_mm
from bambola.core.solids.regions import share_along, with_settled_places
from bambola.core.solids.shares import alone_worth
from bambola.core.wool.bundles import (
    core_size,
    finished_size,
    form_of,
    heap_across,
    loose_size,
    seam_cover,
    visible_size,
    wide_mm,
)
from bambola.core.wool.layers import asked_cover, layers_of
from bambola.core.wool.portion import (
    LEAST_G,
    Portion,
    at_least,
    layer_portion,
    portion_of,
    with_tearing,
)

SOFT_FROM_MM = 90.0
SHELL_MM = 20.0
SOFT_FACTOR = 1.6
"""A core thicker than 90 mm may have a soft centre of 1.6 times the start density, unfelted, inside a
shell of 20 mm. See craft.md, 1."""

SOFT_DETAIL = "soft centre"
"""What the portion of such a centre is called."""

CAP_DETAIL = "cap"
"""What the core of a part is called of which so little shows that it is laid on as a cap of wool."""
WISP_DETAIL = "wisp"
"""What the core is called where wire and coat leave no room for a bundle."""
NO_CORE_G, NO_CORE_MM = 0.1, 2.5
"""Where a coat leaves less than this for a core, its wool does for both. See craft.md, 1."""


SHOWS_G = 1e-5
"""Of a part of less wool than this nothing shows: a grain of less than half a millimetre. Judged. See
craft.md, 1."""


@frozen
class PartWool:
    """The wool of one part (for each copy). Volumes cm³, areas cm², thickness mm. ``shows`` is the share of
    its shape in no other part, ``long_mm`` the visible length of a furred part; ``is_cap`` marks a part laid
    on another, ``left_out`` one that is hidden. Without room for a core it is all ``of_one_wool``, its
    coat's. A part not of wool weighs ``other_g``."""

    net_cm3: float
    exposed_cm2: float
    coat_mm: float
    core_mm: float
    portions: tuple[Portion, ...]
    shows: float = 1.0
    long_mm: float = 0.0
    left_out: bool = False
    is_cap: bool = False
    of_one_wool: bool = False
    other_g: float = 0.0

    @property
    def grams(self) -> float:
        """The weight of one finished copy without wire, g."""
        return sum((portion.grams for portion in self.portions), self.other_g)


def part_wool(
    figure: Figure,
    solids: Solids,
    bench: Bench,
    wire_mm3: Mapping[str, float] | None = None,
    cover_factor: float = 1.0,
    joins: Mapping[str, str] | None = None,
    scale: float = 1.0,
    soft: Container[str] = (),
    only: Container[str] | None = None,
) -> dict[str, PartWool]:
    """Return the wool of every part, or ``only`` of some, by part id, for one copy (the mean of a pair's
    two).

    ``wire_mm3`` is the wire hidden in one copy of a part. ``cover_factor`` multiplies coat cover for
    makers who insist on a coat that grows with the figure. ``joins`` overrides how parts are joined.
    ``scale`` lengthens the hair of fur that grows with the figure (grams = area × length). ``soft``
    are the parts to be given a soft centre, where they are thick enough for one.
    """
    figure = with_settled_places(figure)
    copies: dict[str, list[CopySolid]] = {part.id: [] for part in figure.parts}
    for copy, solid in zip(solids.placement.copies, solids.measured, strict=True):
        copies[copy.part.id].append(solid)
    bearing = {part.parent for part in figure.parts} | {f.part for f in figure.fittings}
    benches = {part.id: bench.for_part(part.id) for part in figure.parts}
    return {
        part.id: _one_part(
            part,
            _mean_copy(copies[part.id]),
            benches[part.id],
            benches[part.id].packed_density(figure, part),
            (wire_mm3 or {}).get(part.id, 0.0),
            cover_factor,
            (joins or {}).get(part.id, part.join),
            scale,
            part.id in soft,
            wide_mm(figure.by_id[part.parent].shape) if part.parent else math.inf,
            part.parent is None or part.id in bearing,
        )
        for part in figure.parts
        if only is None or part.id in only
    }


def _mean_copy(copies: list[CopySolid]) -> CopySolid:
    if len(copies) == 1:
        return copies[0]
    n = len(copies)
    patches = zip(*(c.patches_mm2 for c in copies), strict=True)
    return CopySolid(
        sum(c.net_mm3 for c in copies) / n,
        sum(c.exposed_mm2 for c in copies) / n,
        copies[0].centre,
        sum(c.join_mm2 for c in copies) / n,
        sum(c.join_line_mm for c in copies) / n,
        tuple(sum(p) / n for p in patches),
        tuple(sum(e) / n for e in zip(*(c.edges_mm for c in copies), strict=True)),
        tuple(sum(f) / n for f in zip(*(c.furs_mm2 for c in copies), strict=True)),
        sum(c.whole_mm3 for c in copies) / n,
        copies[0].left,
        copies[0].seen,
    )


def _one_part(
    part: Part,
    solid: CopySolid,
    bench: Bench,
    density: float,
    wire_mm3: float,
    cover_factor: float,
    join: str,
    scale: float,
    soft: bool,
    beside_mm: float,
    bears: bool,
) -> PartWool:
    if part.garment and part.garment.bought:  # it takes no wool, and no hole to hide a wire in
        return PartWool(
            solid.net_mm3 / 1000.0, solid.exposed_mm2 / 100.0, 0.0, 0.0, (), solid.visible_share
        )
    if (material := bench.material_of(part)) is not None:
        return PartWool(
            solid.net_mm3 / 1000.0, solid.exposed_mm2 / 100.0, 0.0, 0.0, (), solid.visible_share,
            other_g=_other_grams(part, solid, material),
        )  # fmt: skip
    if part.hollow:
        return _lining_wool(part, solid, bench, cover_factor)
    core_wool = bench.wool_by_id[part.core]
    felted = max(0.0, solid.net_mm3 - wire_mm3) / 1000.0
    exposed = solid.exposed_mm2 / 100.0
    total = density * felted
    layers = layers_of(part, solid, bench, cover_factor)
    # Where wire and a thick coat leave no room for it, all that shows gets its share; a face is always laid.
    faces = {place.id for place in part.patches if place.face}
    asked = sum(grams for _, _, grams, inset, _ in layers if inset not in faces)
    face = sum(grams for _, _, grams, inset, _ in layers if inset in faces)
    share = min(1.0, max(0.0, total - face) / asked) if asked > 0 else 0.0
    names = {place.id: place.display_name for place in part.patches}
    portions = [
        layer_portion(
            wool, role, grams * (1.0 if inset in faces else share), inset, why, names.get(inset, "")
        )
        for wool, role, grams, inset, why in layers
    ]
    laid, coat_mm = face + asked * share, 0.0
    if part.coat:
        coat_wool = bench.wool_by_id[part.coat.wool]
        coat_mm = asked_cover(part.coat.cover, cover_factor) * coat_wool.cover / density * 10.0
    core_mm = max(0.0, part.shape.smallest_mm - 2 * coat_mm)
    of_one_wool = part.coat is not None and (total - laid < NO_CORE_G or core_mm < NO_CORE_MM)
    if of_one_wool:
        portions = [p for p in portions if p.role != "coat"]
        laid, coat_mm, core_mm = sum(p.grams for p in portions), 0.0, part.shape.smallest_mm
        core_wool = coat_wool
    within = soft_share(part.shape, core_mm) if soft else 0.0
    if within > 0:
        centre = SOFT_FACTOR * core_wool.start_density * felted * within
        portions.insert(0, _soft_centre(part, core_wool, centre))
        total, core_mm = density * felted * (1 - within), 2 * SHELL_MM
    core = _core_portion(
        part,
        solid,
        core_wool,
        max(0.0, total - laid),
        density,
        coat_mm,
        felted * (1 - within),
    )
    portions.insert(0, core)
    seam = _seam_portion(part, solid, bench, join, beside_mm)
    if seam:
        portions.append(seam)
    covered_mm = visible_size(part.shape, solid)["along"] if part.furs else 0.0
    portions += _fur_portions(part, solid, bench, covered_mm, scale)
    told = _drop_tiny(part, portions)
    if not told and not bears and part.garment is None:
        return PartWool(
            solid.net_mm3 / 1000.0, exposed, 0.0, 0.0, (), solid.visible_share,
            left_out=True, is_cap=solid.is_cap,
        )  # fmt: skip
    weighed = tuple(with_tearing(portion, bench.scale_g) for portion in told or portions)
    return PartWool(
        solid.net_mm3 / 1000.0,
        exposed,
        coat_mm,
        core_mm,
        weighed,
        solid.visible_share,
        covered_mm,
        is_cap=solid.is_cap,
        of_one_wool=of_one_wool,
    )


def _lining_wool(part: Part, solid: CopySolid, bench: Bench, cover_factor: float) -> PartWool:
    """Return the lining of a hollow: its coat, on the skin that lies in its bearer."""
    area = max(0.0, alone_worth(part.shape, ()).skin - solid.exposed_mm2) / 100.0
    portions: tuple[Portion, ...] = ()
    if part.coat and area > 0:
        wool = bench.wool_by_id[part.coat.wool]
        cover = asked_cover(part.coat.cover, cover_factor) * wool.cover
        why = fact("wool.coat", cover=Cover(cover), area=Area(area))
        laid = at_least(layer_portion(wool, "coat", cover * area, "", why))
        portions = (with_tearing(laid, bench.scale_g),)
    return PartWool(0.0, area, 0.0, 0.0, portions, solid.visible_share)


def _other_grams(part: Part, solid: CopySolid, material: Material) -> float:
    """Return the weight of one copy of a part not of wool, as it is worn, g: by its skin, its length or its
    volume."""
    assert part.stuff is not None
    if material.kind == "clay":
        return solid.net_mm3 / 1000.0 * material.weighs
    if material.is_sheet or material.kind == "ribbon":
        per_m2 = material.weighs / (1.0 if material.is_sheet else material.wide / 1000.0)
        return solid.exposed_mm2 / 1e6 * per_m2 * part.stuff.layers
    return part.shape.extents()[0] / 1000.0 * material.weighs * part.stuff.layers


def _drop_tiny(part: Part, portions: list[Portion]) -> list[Portion]:
    """Return the portions large enough to pick up. Smaller ones are dropped; if neither core nor coat is one,
    all wool becomes one pinch of the main wool. Pieces of a face are kept, since a few hairs are visible."""
    faces = {place.id for place in part.patches if place.face}
    kept = [
        at_least(portion)
        for portion in portions
        if portion.take_g >= LEAST_G / 2 or (portion.role == "inset" and portion.detail in faces)
    ]
    if any(portion.role in ("core", "coat") for portion in kept):
        return kept
    felted = [portion for portion in portions if portion.role in ("core", "coat", "inset")]
    most = max(felted, key=lambda portion: portion.take_g)
    if sum(portion.grams for portion in felted) < SHOWS_G:
        return kept
    share = sum(portion.grams for portion in felted) / most.grams
    pinch = replace(
        most,
        role="core",
        grams=most.grams * share,
        take_g=most.take_g * share,
        keep_by_g=most.keep_by_g * share,
        detail=WISP_DETAIL,
    )
    return [at_least(pinch), *(p for p in kept if p.role not in ("core", "coat", "inset"))]


def _core_portion(
    part: Part,
    solid: CopySolid,
    wool: Wool,
    grams: float,
    density: float,
    coat_mm: float,
    felted: float,
) -> Portion:
    cap = solid.is_cap and part.garment is None
    why = fact(
        "wool.cap" if cap else "wool.core",
        density=Density(density),
        firmness=Fact(f"firmness.{part.firmness}"),
        volume=Volume(felted),
        shows=Share(solid.visible_share),
    )
    if cap:
        heap = {"across": heap_across(grams, wool)}
        return portion_of(wool, "core", grams, "veil", heap, {}, why, CAP_DETAIL, part.firmness)
    form = form_of(part, solid)
    finished = core_size(part, solid, coat_mm, grams / density, felted)
    loose = loose_size(finished, form, wool, density, grams)
    if math.prod(loose.values()) <= math.prod(finished.values()):
        # Wire and coat are nearly all of it: what is left is wound on, not rolled.
        heap = {"across": heap_across(grams, wool)}
        return portion_of(wool, "core", grams, "veil", heap, {}, why, WISP_DETAIL, part.firmness)
    return portion_of(wool, "core", grams, form, loose, finished, why, firmness=part.firmness)


def soft_share(shape: Shape, core_mm: float) -> float:
    """Return the share of a core's volume that is its soft centre: what lies deeper than the shell; 0 if it
    is too thin, or a sheet. ``core_mm`` is its smallest thickness. The centre has the core's shape."""
    if core_mm <= SOFT_FROM_MM or shape.flat:
        return 0.0
    return math.prod((mm - 2 * SHELL_MM) / mm for mm in finished_size(shape).values())


def _soft_centre(part: Part, wool: Wool, grams: float) -> Portion:
    """Return the portion of the unfelted middle: a bundle rolled slightly tighter than usual."""
    size = {name: mm - 2 * SHELL_MM for name, mm in finished_size(part.shape).items()}
    density = Density(SOFT_FACTOR * wool.start_density)
    why = fact("wool.soft-centre", density=density, within=Mm(SHELL_MM))
    form = part.shape.start_form
    tight = SOFT_FACTOR * wool.start_density
    size = loose_size(size, form, wool, tight, grams, SOFT_FACTOR)
    return portion_of(wool, "core", grams, form, size, size, why, SOFT_DETAIL, part.firmness)


def _seam_portion(
    part: Part, solid: CopySolid, bench: Bench, join: str, beside_mm: float
) -> Portion | None:
    if part.parent is None or join not in ("patch", "scarf"):
        return None
    wool = bench.wool_by_id[part.seam_wool or (part.coat.wool if part.coat else part.core)]
    line, width, cover = seam_cover(part, solid, join, beside_mm)
    why = fact(f"wool.seam-{join}", cover=Cover(cover), round=Mm(10 * line), wide=Mm(10 * width))
    return layer_portion(wool, "seam", cover * line * width, join, why)


def _fur_portions(
    part: Part, solid: CopySolid, bench: Bench, covered_mm: float, scale: float
) -> Iterator[Portion]:
    """Yield the portions of fur, place by place, by the skin it grows on."""
    for place, area_mm2 in zip(part.furs, solid.furs_mm2, strict=True):
        fur = place.fur
        assert fur is not None
        if area_mm2 <= 0:  # all of it is under other parts
            continue
        cover, hair, area = FUR_COVER[fur.kind], Mm(fur.hair), area_mm2 / 100.0
        why = fact(
            f"wool.fur-{fur.lie}",
            cover=Cover(cover),
            kind=Fact(f"fur.{fur.kind}"),
            area=Area(area),
            apart=Mm(fur.spacing),
            hair=hair,
        )
        laid_in = fact(f"wool.rows-{fur.lie}", n=fur_rows(part, place, covered_mm), hair=hair)
        grams = cover * (scale if fur.lengthens else 1.0) * area
        detail = "" if place.is_whole else place.id
        laid = layer_portion(bench.wool_by_id[fur.wool], "fur", grams, detail, why)
        yield replace(laid, laid=laid_in)


def fur_rows(part: Part, place: Place, covered_mm: float) -> int:
    """Return the number of rows of fur on a place of a part with ``covered_mm`` of visible length: the skin
    they cover over their spacing, so that the last fits at the crown of a round part. Locks do not grow with
    the figure."""
    if place.fur is None or covered_mm <= 0:
        return 0 if place.fur is None else 1
    shows = min(1.0, covered_mm / line_mm(part.shape))
    long = shows * share_along(part.shape, place.where)
    # A place in the middle of what shows, unless it is told from where to where it goes.
    begin = 1 - shows + (shows - long) / 2
    if isinstance(place.where, Band):
        begin = 1 - shows * (1 - place.where.begin)
    skin = skin_mm(part.shape, begin, begin + long)
    return max(1, math.ceil(skin / place.fur.spacing - 1e-9))
