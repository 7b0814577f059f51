"""What is cut of cloth, ribbon and the like: patterns at true size, lengths, and the material used."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from typing import Literal

import numpy as np

from bambola.core.bench import Bench
from bambola.core.bench.materials import COMMON, Material
from bambola.core.facts import Fact
from bambola.core.figure import Figure, Part
from bambola.core.figure.model import Fixing, StuffKind
from bambola.core.figure.shapes import ChainShape, Leaf, ProfileShape
from bambola.core.frozen import frozen
from bambola.core.plan.making.dress import EASE_MM, KNOT_MM, DressPlan
from bambola.core.solids.forms import Array, chain, leaf_outline, profile
from bambola.core.tape.girth import ellipse_girth

SEAM_MM, EDGE_MM = 5.0, 3.0
"""What is cut on beyond the line it is sewn on: where it frays, and where it does not. Judged.
See craft.md, 6."""
HEM_MM = 6.0
"""What is turned in at a free edge that frays. Judged. See craft.md, 6."""
OVERLAP_MM = 8.0
"""By so much a band or sheet that is glued or wrapped lies over itself where it closes. Judged.
See craft.md, 6."""
END_MM = 20.0
"""What is left at each end of a thread, yarn or stem to be drawn in. Judged. See craft.md, 6."""
STRAIGHT = 0.03
"""What leaves a cone by less than this share of its girth is cut as one. Judged. See craft.md, 6."""
MOST_DEG = 300.0
"""A part of a ring wider than this would lie over itself on the cloth: it is cut in two. Judged.
See craft.md, 6."""
KNOTTED_MM, WOUND = 10.0, 0.1
"""Knotting a strip takes as long as so much of a seam, winding a ribbon as so much of its length sewn.
Judged. See craft.md, 5."""
STITCHES = 3.0
"""A back stitch takes so much of the thread as its line is long. Judged. See craft.md, 6."""
LEFT = 0.5
"""A hem at the inner edge of a ring leaves so much of that edge's radius. Judged. See craft.md, 6."""
_CLOSED_MM = 1.0

Form = Literal["panel", "gore", "band", "sheet", "strip", "outline", "length", "lump"]


@frozen
class PatternPiece:
    """One piece to cut, for one copy of its part, ``count`` times. ``cut_mm`` is the closed line to cut
    along and ``sewn_mm`` that to sew on, both about the middle of the piece, x across and y along it; empty
    where nothing but a length is cut. ``wide_mm`` and ``long_mm`` are the box round the line to cut."""

    form: Form
    count: int
    wide_mm: float
    long_mm: float
    cut_mm: tuple[tuple[float, float], ...] = ()
    sewn_mm: tuple[tuple[float, float], ...] = ()


@frozen
class PatternPlan:
    """What one part is cut of. ``count`` copies are made of ``pieces``; lengths mm. ``round_mm`` is the girth
    it closes round without what is added to it: ``ease_mm`` for what is worn beneath, ``overlap_mm`` where
    it closes, ``seam_mm`` at each edge that is sewn, ``hem_mm`` at each free one; gathered it is ``fullness``
    times as wide. ``drop_mm`` is how long it hangs or lies. ``uses`` of its material one copy takes, mm of
    its width or g. ``frays`` at a cut edge or does not."""

    part: str
    material: str
    name: Fact
    kind: StuffKind
    fixed: Fixing
    count: int
    pieces: tuple[PatternPiece, ...]
    round_mm: float
    drop_mm: float
    ease_mm: float
    overlap_mm: float
    seam_mm: float
    hem_mm: float
    fullness: float
    uses: float
    frays: bool

    @property
    def line_mm(self) -> float:
        """The length of the line along which it is sewn, tied or wound; minutes go by it."""
        piece = self.pieces[0]
        match self.fixed:
            case "knotted":
                return KNOTTED_MM * piece.count
            case "wrapped":
                return piece.long_mm * WOUND
            case "threaded":
                return KNOTTED_MM
            case "tied":
                return self.round_mm / 2
            case _:
                return self.round_mm + self.drop_mm * piece.count


@frozen
class MaterialTotal:
    """The use of a material ``wide_mm`` wide (0: clay) for all figures: what is ``left`` of it (None: not
    counted) and what to ``buy``, in mm of its width or g of clay; ``cost`` is that of what is used."""

    material: str
    name: Fact
    kind: StuffKind
    wide_mm: float
    uses: float
    left: float | None
    buy: float
    cost: float | None


def pattern_plans(
    figure: Figure,
    counts: Mapping[str, int],
    cm3: Mapping[str, float],
    dress: Iterable[DressPlan],
    bench: Bench,
) -> tuple[PatternPlan, ...]:
    """Return the patterns of a resized figure with ``counts`` of each part of ``cm3`` each."""
    worn = {row.part: row for row in dress}
    return tuple(
        _plan_pattern(part, material, counts.get(part.id, 0), cm3[part.id], worn.get(part.id))
        for part in figure.parts
        if (material := bench.material_of(part)) is not None
    )


def material_totals(
    patterns: Sequence[PatternPlan], figures: int, bench: Bench
) -> tuple[MaterialTotal, ...]:
    """Return the total use of each material over all patterns, in the order of first use."""
    used: dict[str, float] = {}
    rows = {row.material: row for row in patterns}
    known = {one.id: one for one in (*COMMON, *bench.materials)}
    for row in patterns:
        used[row.material] = used.get(row.material, 0.0) + row.uses * row.count * figures
    found = []
    for name, uses in used.items():
        row, material = rows[name], known[name]
        left = material.left
        per, wide = (100.0, 0.0) if row.kind == "clay" else (1000.0, material.wide)
        cost = uses / per * material.price if material.price is not None else None
        buy = max(0.0, uses - (left or 0.0))
        found.append(MaterialTotal(name, row.name, row.kind, wide, uses, left, buy, cost))
    return tuple(found)


def _plan_pattern(
    part: Part, material: Material, count: int, cm3: float, worn: DressPlan | None
) -> PatternPlan:
    stuff = part.stuff
    assert stuff is not None
    layers = part.garment.layers if part.garment else 0
    row = PatternPlan(
        part.id,
        material.id,
        material.display_name,
        stuff.kind,
        stuff.fixed,
        count,
        (),
        worn.worn_mm if worn else 0.0,
        part.shape.extents()[0],
        math.tau * EASE_MM * layers,
        OVERLAP_MM if stuff.fixed in ("glued", "wrapped") else 0.0,
        0.0 if stuff.fixed in ("glued", "wrapped") else SEAM_MM if material.frays else EDGE_MM,
        HEM_MM if material.frays else 0.0,
        part.garment.fullness if part.garment and stuff.fixed == "gathered" else 1.0,
        0.0,
        material.frays,
    )
    if stuff.kind == "clay":
        grams = cm3 * material.weighs
        return replace(row, pieces=(PatternPiece("lump", 1, 0.0, 0.0),), uses=grams)
    if not material.is_sheet:
        return _by_length(part, material, row)
    row = _of_sheet(part, row, worn)
    return replace(row, uses=sum(_on_bolt(piece, material.wide) for piece in row.pieces))


# What is cut to a length


def _by_length(part: Part, material: Material, row: PatternPlan) -> PatternPlan:
    assert part.stuff is not None
    shape, tails = part.shape, part.garment.tails if part.garment else 0.0
    ends = KNOT_MM + 2 * tails if row.fixed in ("tied", "knotted") else 2 * END_MM
    if material.kind == "ribbon" and row.fixed in ("glued", "sewn", "wrapped"):
        ends = OVERLAP_MM
    if isinstance(shape, ChainShape) and chain(shape).closed:
        round_ = row.round_mm or shape.measures()["length"]
        row = replace(row, round_mm=round_)
        run = round_ + row.ease_mm + math.pi * material.thickness
    elif isinstance(shape, ChainShape):
        run = shape.measures()["length"] * (
            STITCHES if row.kind == "thread" and row.fixed == "sewn" else 1
        )
    elif row.fixed in ("tied", "knotted") and part.garment is None:
        # A bow: each of its two loops goes out and back over half its width, its ends hang as low as it does.
        along, across, _ = shape.extents()
        run = 2 * across + 2 * along
    elif isinstance(shape, ProfileShape):
        girths, run_mm = _girths_along(shape)
        area = float(np.trapezoid(girths, run_mm))
        pitch = material.wide / 2 if material.kind == "ribbon" else material.wide
        run = area / pitch
        row = replace(row, round_mm=float(girths.max()))
    else:
        run = shape.extents()[0]
    long = run * part.stuff.layers + ends
    piece = PatternPiece("length", part.stuff.pieces, material.wide, long)
    return replace(
        row, pieces=(piece,), uses=long * part.stuff.pieces, overlap_mm=0.0, seam_mm=0.0, hem_mm=0.0
    )


# What is cut out of a sheet


def _of_sheet(part: Part, row: PatternPlan, worn: DressPlan | None) -> PatternPlan:
    stuff, shape = part.stuff, part.shape
    assert stuff is not None
    if isinstance(shape, Leaf):
        outline = leaf_outline(shape)
        piece = _pattern_piece(
            "outline", stuff.pieces * stuff.layers, outline, _offset_outline(outline, row.seam_mm)
        )
        return replace(row, pieces=(piece,), hem_mm=0.0)
    if worn is not None and worn.kind == "skirt" and row.fixed == "knotted":
        assert part.garment is not None
        piece = _box_piece("strip", worn.strips, part.garment.strip, worn.cut_mm)
        return replace(row, pieces=(piece,), seam_mm=0.0, hem_mm=0.0)
    if isinstance(shape, ChainShape) and chain(shape).closed:
        return _band_pattern(part, row)
    if isinstance(shape, ProfileShape):
        girths, run = _girths_along(shape)
    else:
        girths, run = _along_chain(shape)
    if row.fixed == "gathered":
        row = replace(row, round_mm=float(min(girths[0], girths[-1])), drop_mm=float(run[-1]))
        wide, pieces = (row.round_mm + row.ease_mm) * row.fullness, stuff.pieces
        piece = _box_piece(
            "sheet",
            pieces * stuff.layers,
            wide / pieces + 2 * row.seam_mm,
            float(run[-1]) + 2 * row.hem_mm,
            (row.seam_mm, row.hem_mm),
        )
        return replace(row, pieces=(piece,))
    row = replace(row, drop_mm=float(run[-1]), round_mm=row.round_mm or float(girths.max()))
    girths = girths + row.ease_mm * (girths > _CLOSED_MM)
    return replace(row, pieces=(_developed(part, girths, run, row),))


def _band_pattern(part: Part, row: PatternPlan) -> PatternPlan:
    """Return the pattern of a band: as wide as the ring is thick; cloth that frays is folded lengthwise,
    edges inside."""
    assert part.stuff is not None
    round_ = row.round_mm or part.shape.measures()["length"]
    tied = row.fixed in ("tied", "knotted")
    tails = part.garment.tails if part.garment else 0.0
    closes = KNOT_MM + 2 * tails if tied else row.overlap_mm or 2 * row.seam_mm
    high = part.shape.extents()[1]
    wide = 2 * high + 2 * SEAM_MM if row.hem_mm else high
    piece = _box_piece("band", part.stuff.layers, wide, round_ + row.ease_mm + closes)
    overlap = row.overlap_mm if not tied else 0.0
    return replace(row, pieces=(piece,), round_mm=round_, overlap_mm=overlap)


def _developed(part: Part, girths: Array, run: Array, row: PatternPlan) -> PatternPiece:
    """Return the pattern of a form laid flat: part of a ring for a cone, else gores as wide as their share of
    the girth at every height."""
    stuff = part.stuff
    assert stuff is not None
    straight = girths[0] + (girths[-1] - girths[0]) * run / run[-1]
    is_cone = float(np.abs(girths - straight).max()) <= STRAIGHT * float(girths.max())
    pieces = stuff.pieces
    hems = [row.hem_mm if end > _CLOSED_MM else 0.0 for end in (girths[0], girths[-1])]
    sides = (row.overlap_mm / 2 if pieces == 1 else row.overlap_mm) or row.seam_mm
    if is_cone:
        narrow, wide = sorted((float(girths[0]), float(girths[-1])))
        while _would_overlap(narrow / pieces, wide / pieces, float(run[-1]), sides):
            pieces += 1
        low, high = float(girths[0]) / pieces, float(girths[-1]) / pieces
        sewn = _ring_part(low, high, float(run[-1]), 0.0, (0.0, 0.0))
        cut = _ring_part(low, high, float(run[-1]), sides, (hems[0], hems[1]))
        return _pattern_piece("panel", pieces * stuff.layers, sewn, cut)
    pieces = max(2, pieces)  # what is curved both ways lies flat in no one piece
    half = girths / pieces / 2
    sewn = _both_sides(half, run)
    hemmed = np.concatenate([[run[0] - hems[0]], run, [run[-1] + hems[1]]])
    cut = _both_sides(np.concatenate([half[:1], half, half[-1:]]) + sides, hemmed)
    return _pattern_piece("gore", pieces * stuff.layers, sewn, cut)


def _would_overlap(low: float, high: float, slant: float, side: float) -> bool:
    """Return whether a part of a ring, with allowances at its sides, would overlap itself."""
    opens = (high - low) / slant
    if opens <= math.pi:
        return False
    inner = low / opens * LEFT
    crosses = -side * math.cos(opens / 2) >= inner * math.sin(opens / 2)
    return math.degrees(opens) > MOST_DEG or crosses


def _ring_part(
    low: float, high: float, slant: float, side: float, hems: tuple[float, float]
) -> Array:
    """Return the outline (n, 2) of a cone laid flat: a part of a ring with arcs ``low`` and ``high`` long and
    ``slant`` apart, with allowances at its sides and arcs; a rectangle if both arcs are equal."""
    if high < low:
        return _ring_part(high, low, slant, side, hems[::-1]) * [1.0, -1.0]
    if high - low < 1e-6 * slant:
        wide, bottom, top = low / 2 + side, -hems[0], slant + hems[1]
        return np.array([(-wide, bottom), (wide, bottom), (wide, top), (-wide, top)])
    opens = (high - low) / slant
    inner, angles = low / opens, np.linspace(-opens / 2, opens / 2, 97)
    ways = np.column_stack([np.cos(angles), -np.sin(angles)])
    arcs = []
    for radius in (max(LEFT * inner, inner - hems[0]), inner + slant + hems[1]):
        arc = radius * np.column_stack([np.sin(angles), np.cos(angles)])
        arcs.append(np.vstack([arc[:1] - side * ways[:1], arc, arc[-1:] + side * ways[-1:]]))
    return np.vstack([arcs[0], arcs[1][::-1]])


def _both_sides(half: Array, high: Array) -> Array:
    right = np.column_stack([half, high])
    return np.vstack([right, right[::-1] * [-1.0, 1.0]])


def _girths_along(shape: ProfileShape) -> tuple[Array, Array]:
    """Return the girth of a form along its length, and the distance along its skin from the base, mm: (n,)
    each."""
    form = profile(shape)
    girths = np.array(
        [ellipse_girth(2 * a, 2 * b) for a, b in zip(form.half_width, form.half_depth, strict=True)]
    )
    mean = (form.half_width + form.half_depth) / 2
    run = np.concatenate([[0.0], np.cumsum(np.hypot(np.diff(form.z), np.diff(mean)))])
    return girths, run


def _along_chain(shape: ChainShape) -> tuple[Array, Array]:
    form = chain(shape)
    steps = np.linalg.norm(np.diff(form.points, axis=0), axis=1)
    return math.tau * form.radii, np.concatenate([[0.0], np.cumsum(steps)])


def _offset_outline(outline: Array, by: float) -> Array:
    """Return a counter-clockwise closed outline (n, 2) moved outwards by ``by`` mm; sharp corners are cut off
    at twice that."""
    ways = np.roll(outline, -1, axis=0) - outline
    ways = ways / np.maximum(np.linalg.norm(ways, axis=1, keepdims=True), 1e-12)
    x, y = outline.T
    turning = float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum())
    out = np.column_stack([ways[:, 1], -ways[:, 0]]) * math.copysign(1.0, turning)
    both = out + np.roll(out, 1, axis=0)
    size = np.maximum((both**2).sum(axis=1, keepdims=True), 0.5)
    found: Array = outline + both * (2 * by / size)
    return found


def _pattern_piece(form: Form, count: int, sewn: Array, cut: Array) -> PatternPiece:
    low, high = cut.min(axis=0), cut.max(axis=0)
    middle = (low + high) / 2
    wide, long = (high - low).tolist()
    lines = (tuple(map(tuple, (line - middle).tolist())) for line in (cut, sewn))
    cut_mm, sewn_mm = lines
    return PatternPiece(form, count, wide, long, cut_mm, sewn_mm)


def _box_piece(
    form: Form, count: int, wide: float, long: float, inside: tuple[float, float] = (0.0, 0.0)
) -> PatternPiece:
    corners = np.array([(-1, -1), (1, -1), (1, 1), (-1, 1)]) / 2.0
    cut = corners * [wide, long]
    sewn = corners * [wide - 2 * inside[0], long - 2 * inside[1]]
    return _pattern_piece(form, count, sewn, cut)


def _on_bolt(piece: PatternPiece, wide_mm: float) -> float:
    """Return the length (mm) of a bolt ``wide_mm`` wide that the pieces take, laid side by side as boxes in
    the better of both directions."""
    ways = ((piece.wide_mm, piece.long_mm), (piece.long_mm, piece.wide_mm))
    return min(
        math.ceil(piece.count / max(1, math.floor(wide_mm / across + 1e-9))) * along
        for across, along in ways
        if across <= wide_mm or piece.wide_mm > wide_mm < piece.long_mm
    )
