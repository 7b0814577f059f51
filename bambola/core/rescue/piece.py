"""A piece of felt as it is and as it should be, and what hands can do to it.

Its volume goes with its length and the square of its thickness; that of a flat one, which grows no wider by
being thicker, with its thickness. A needle drives fibre the way its point goes:
from the tip it shortens, from the sides it narrows, and the piece gets denser by as much, up to as hard as
felt
gets by hand. What is added is felted as close as the piece is; what is cut or peeled takes its share of the
wool. See craft.md, 7.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import replace
from typing import Literal

from bambola.core.bench import Bench
from bambola.core.bench.wools import PACKED_DENSITY
from bambola.core.facts import Fact
from bambola.core.figure import Figure, Firmness
from bambola.core.frozen import frozen
from bambola.core.methods import sheet_for
from bambola.core.order import Step
from bambola.core.plan import Plan
from bambola.core.plan.making.loose_ends import end_of
from bambola.core.wool import as_read
from bambola.core.wool.pan import right_size_range

HARDEST = PACKED_DENSITY["hard"]
Do = Literal[
    "turn-wire", "needle-tip", "needle-sides", "needle-all", "sink-base", "cut-base", "cut-tip", "peel",
    "add-tip", "add-sides", "remake",
]  # fmt: skip


@frozen
class PieceReading:
    """The measurements of the piece; None for a missing one. Overall length and thickness mm, weight g, and
    its feel; and those of the twin for a comparison."""

    length: float | None = None
    thickness: float | None = None
    grams: float | None = None
    firmness: Firmness | None = None
    twin_length: float | None = None
    twin_thickness: float | None = None


@frozen
class MeasuredPiece:
    """A piece now: length and thickness mm, wool g, and its volume in cm³ per mm of length and mm² of
    thickness, or for a ``flat`` one per mm of thickness."""

    length: float
    thick: float
    grams: float
    fill: float
    flat: bool = False

    @property
    def power(self) -> int:
        """The power of the thickness that its volume is proportional to."""
        return 1 if self.flat else 2

    @property
    def volume(self) -> float:
        """The volume, cm³."""
        return self.fill * self.length * self.thick**self.power

    @property
    def density(self) -> float:
        """The density, g/cm³."""
        return self.grams / max(self.volume, 1e-12)


@frozen
class WantedPiece:
    """How a piece should be: its sizes, how close it is felted, whether it is joined at its base (and may
    sink there), whether it is flat (its thickness is what is told, and it grows no wider by being thicker),
    and whether wire runs ``through`` it or ``ends`` at its tip. A loose end of ``end_g`` hangs on it, which
    counts to no size."""

    length: float
    thick: float
    density: float
    fill: float
    joined: bool
    flat: bool
    wire: Literal["none", "through", "ends"] = "none"
    end_g: float = 0.0

    @property
    def grams(self) -> float:
        """The weight when it is right, g."""
        return (
            self.density * MeasuredPiece(self.length, self.thick, 0.0, self.fill, self.flat).volume
        )

    @property
    def lengths(self) -> tuple[float, float]:
        """The range of right lengths."""
        return right_size_range(self.length)

    @property
    def thicknesses(self) -> tuple[float, float]:
        """The range of right thicknesses."""
        return right_size_range(self.thick)

    def has_size(self, piece: MeasuredPiece) -> bool:
        """Return whether a piece has this size, near enough."""
        (low, high), (thin, stout) = self.lengths, self.thicknesses
        return low <= piece.length <= high and thin <= piece.thick <= stout


@frozen
class Action:
    """One thing to do, where, by how many mm, with how many grams added or taken off; ``told`` says it."""

    do: Do
    where: str
    mm: float
    grams: float
    told: Fact


def wanted_of(plan: Plan, part_id: str, bench: Bench) -> WantedPiece:
    """Return the wanted piece of a part with all its wool: its visible size, and the density of its core."""
    figure = plan.resized.figure
    part, row = figure.by_id[part_id], plan.part(part_id)
    flat = part.shape.flat
    size = row.piece
    along, thick = as_read(dict(zip(("along", "across", "through"), size, strict=True)), flat)
    fill = row.net_cm3 / MeasuredPiece(along, thick, 0.0, 1.0, flat).volume
    density = bench.packed_density(figure, part)
    joined = part.parent is not None
    return WantedPiece(along, thick, density, fill, joined, flat, _wire_in(figure, part_id))


def _wire_in(figure: Figure, part_id: str) -> Literal["none", "through", "ends"]:
    """Return whether wire runs through a part, or ends in its farther half or in what sits on that; a limb's
    wire sticks out for its foot while the limb is wound."""
    if part_id not in figure.wired:
        return "none"
    bones = Counter(node for bone in figure.bones for node in (bone.a, bone.b))
    ends = (node for node in figure.nodes if bones[node.id] == 1)
    near = (
        e.along > 0.5 if e.part == part_id else figure.by_id[e.part].parent == part_id for e in ends
    )
    return "ends" if any(near) else "through"


def wanted_at(plan: Plan, step: Step, bench: Bench) -> WantedPiece | None:
    """Return how the piece in hand at a step should be, None where it has none. While a core is shaped that
    is what the step says to stop at: without its coat, its fringe, and what will lie within the part it sits
    on."""
    if step.part is None:
        return None
    whole = _with_end(wanted_of(plan, step.part, bench), plan, step)
    if step.key.sort != "core":
        return whole
    stops = sheet_for(plan, step, bench).card.sizes
    length, across = stops.get("length"), stops.get("width", stops.get("thickness"))
    if length is None or across is None:
        return whole
    through = stops.get("thickness", across)
    length, thick = as_read({"along": length, "across": across, "through": through}, whole.flat)
    row, density = plan.part(step.part), whole.density
    core = next((p for p in row.portions if p.role == "core" and p.finished_mm), None)
    if core is None:
        return whole
    along, stout = as_read(core.finished_mm, whole.flat)
    fill = core.grams / density / MeasuredPiece(along, stout, 0.0, 1.0, whole.flat).volume
    return replace(whole, length=length, thick=thick, fill=fill)


def _with_end(wanted: WantedPiece, plan: Plan, step: Step) -> WantedPiece:
    """Return the wanted weights with the loose end, which is left at the last round of a core until the piece
    is joined."""
    row = plan.part(step.part or "")
    is_left = step.key.sort in ("coat", "inset") or (
        step.key.sort == "core" and step.key.nth == row.rounds
    )
    end = end_of(row.portions) if is_left else None
    return wanted if end is None else replace(wanted, end_g=end.grams)


def piece_of(wanted: WantedPiece, reading: PieceReading, planned_g: float) -> MeasuredPiece:
    """Return the measured piece; missing measurements are as planned. Without a scale the weight follows from
    the feel, else it is the planned one."""
    length = reading.length if reading.length is not None else wanted.length
    thick = reading.thickness if reading.thickness is not None else wanted.thick
    bare = MeasuredPiece(length, thick, 0.0, wanted.fill, wanted.flat)
    if reading.grams is not None:
        grams = max(reading.grams - wanted.end_g, 0.0)
    elif reading.firmness is not None:
        grams = PACKED_DENSITY[reading.firmness] * bare.volume
    else:
        grams = planned_g
    return replace(bare, grams=grams)


def apply_action(piece: MeasuredPiece, action: Action) -> MeasuredPiece:
    """Return the piece after an action."""
    mm = action.mm
    match action.do:
        case "needle-tip":
            return replace(piece, length=piece.length - mm)
        case "needle-sides":
            return replace(piece, thick=piece.thick - mm)
        case "needle-all":
            share = 1.0 if piece.flat else (piece.thick - mm) / piece.thick
            return replace(piece, length=piece.length * share, thick=piece.thick - mm)
        case "sink-base" | "cut-base" | "cut-tip":
            left = (piece.length - mm) / piece.length
            return replace(piece, length=piece.length - mm, grams=piece.grams * left)
        case "peel":
            thin = piece.thick - mm
            left = (thin / piece.thick) ** piece.power
            return replace(piece, thick=thin, grams=piece.grams * left)
        case "add-tip":
            return replace(piece, length=piece.length + mm, grams=piece.grams + action.grams)
        case "add-sides":
            return replace(piece, thick=piece.thick + mm, grams=piece.grams + action.grams)
        case _:
            return piece
