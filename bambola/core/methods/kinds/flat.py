"""A flat part: wool laid to its blank, folded to the line and felted in turns."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from bambola.core.facts import Degrees, Fact, Mm, fact
from bambola.core.figure import Leaf, Part
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, StepDrawing, fringe, oval
from bambola.core.methods.parts import SLANTED, SQUARE, across, card, check, run, sides, stop
from bambola.core.methods.slots import by_hand
from bambola.core.methods.values import Card, Method
from bambola.core.order.work import in_blank
from bambola.core.plan.making.values import PartPlan
from bambola.core.solids.regions import drawn_on
from bambola.core.wool.pan import right_size_range

MIDLINE_DEG = 12.0
"""What sits no farther from the midline is of a crest. Judged. See craft.md, 10."""
FINS = 3
"""So many fins on one bearer are a crest. Judged. See craft.md, 10."""
TURNS = 5
"""A flat part is lifted and turned so often. Judged. See craft.md, 10."""

PINCH_MM = 10.0
"""A flat piece shorter than this is a pinch folded once. Judged. See craft.md, 10."""


def crest_of(at: StepInPlan) -> tuple[PartPlan, ...]:
    """Return the fins of a part's crest in order; none if it belongs to no crest."""
    figure = at.plan.resized.figure

    def is_fin(part: Part) -> bool:
        off = abs(part.seat.around % 180)
        on_line = min(off, 180 - off) <= MIDLINE_DEG
        return part.parent == at.body.parent and part.shape.flat and not part.pair and on_line

    if not is_fin(at.body) or at.body.parent is None:
        return ()
    fins = [part for part in figure.parts if is_fin(part)]
    fins.sort(key=lambda part: (abs(part.seat.around) > 90, part.seat.along))
    return tuple(at.plan.part(part.id) for part in fins) if len(fins) >= FINS else ()


def _crest_fact(at: StepInPlan) -> Fact | None:
    """Return how a crest grows from fin to fin."""
    fins = crest_of(at)
    if not fins:
        return None
    long = [fin.piece[0] for fin in fins]
    return fact("flat.crest", first=Mm(long[0]), tallest=Mm(max(long)), last=Mm(long[-1]))


def _card(at: StepInPlan) -> Card:
    blank = at.blank
    long, wide, thick = at.finished
    large = max(long, wide) > slots.WIDE_FROM_MM
    laid: Fact | None = None
    if blank is not None:
        low, high = blank.outline.min(axis=0), blank.outline.max(axis=0)
        laid = fact(
            "flat.blank", wide=Mm(float(high[0] - low[0])), long=Mm(float(high[1] - low[1]))
        )
    return card(
        at,
        "flat",
        (
            _crest_fact(at),
            laid or fact("flat.pinch", part=at.part_name),
            *_colour_facts(at),
            fact("flat.scratch", wide=Mm(wide), long=Mm(long)),
            Fact("flat.fold"),
            fact("flat.turn", turns=TURNS),
            Fact("flat.edge"),
            _bent_base_fact(at),
            _base_fact(at),
            fact("flat.fringe", fringe=Mm(at.fringe_mm)) if at.fringe_mm else None,
        ),
        start=Fact("flat.start-pair" if at.copies == 2 else "flat.start"),
        needles=(
            run(38, thick + slots.FLAT_MM, SQUARE, "first", 6 if large else 1),
            run(
                40, min(slots.DEPTH_MM["edge"], max(slots.DEPTH_MM["rim"], thick)), SLANTED, "edges"
            ),
        ),
        stops=(
            stop("length", *right_size_range(long)),
            stop("width", *right_size_range(wide)),
            stop("thickness", max(0.5, thick - 0.5), thick + 0.5),
        ),
        until=Fact("flat.until"),
        checks=(
            check("light-through"),
            check("twin-laid") if at.copies == 2 else check("flat-size"),
        ),
        scale=fact("flat.scale", small=Mm(PINCH_MM)),
    )


def _colour_facts(at: StepInPlan) -> Iterator[Fact]:
    """Yield the sentences on other colours laid into the blank, place by place."""
    assert at.job is not None
    within = in_blank(at.plan.work, at.job)
    for portion, place in ((p, q) for p in at.row.portions for q in at.body.patches):
        if portion.role != "inset" or portion.detail != place.id or place.id not in within:
            continue
        wool = at.bench.wool_by_id[portion.wool]
        _, drawn = drawn_on(at.placed[0].shape, place.where)
        wide, long = (float(mm) for mm in np.ptp(drawn, axis=0))
        yield fact(
            "flat.colour",
            amount=by_hand(portion.take_g, wool, at.bench.scale_g),
            wool=wool.name,
            place=place.display_name,
            wide=Mm(wide),
            long=Mm(long),
        )


FOLDED_DEG = 150.0
"""A base bent by more than this is folded on itself. Judged. See craft.md, 10."""


def _base_fact(at: StepInPlan) -> Fact | None:
    """Return how much thicker the base is."""
    foot = at.body.shape.foot if isinstance(at.body.shape, Leaf) else 1.0
    return fact("flat.foot", times=foot) if foot > 1.0 else None


def _bent_base_fact(at: StepInPlan) -> Fact | None:
    """Return how the base is cupped or folded while it is soft."""
    cup = at.body.shape.cup if isinstance(at.body.shape, Leaf) else 0.0
    if abs(cup) < 1.0:
        return None
    if abs(cup) > FOLDED_DEG:
        return Fact("flat.folded")
    return fact("flat.cup", by=Degrees(abs(cup)))


def _fits(at: StepInPlan) -> bool:
    return at.sort == "core" and at.job is not None and at.job.flat


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the blank with its fold and fringe, and the finished part within."""
    blank = at.blank
    long, wide, _ = at.finished
    if blank is None:
        return StepDrawing(
            (
                DrawnArea(oval(wide * 1.6, long * 1.4), "wool"),
                DrawnArea(oval(wide, long), "none", "hidden"),
                *sides((wide, long), wide, long, wide),
                Number((0.0, 0.0), 2),
            )
        )
    low, high = blank.outline.min(axis=0), blank.outline.max(axis=0)
    tall, across_ = float(high[1] - low[1]), float(high[0] - low[0])
    gap = max(tall, across_) * 0.08
    top = float(blank.finished[:, 1].max())
    left, right = float(blank.finished[:, 0].min()), float(blank.finished[:, 0].max())
    return StepDrawing(
        (
            DrawnArea(blank.outline, "wool"),
            DrawnArea(blank.fold, "none", "hidden"),
            DrawnArea(blank.finished, "core"),
            *fringe((0.0, 0.0), right - left, blank.fringe_mm),
            across((float(low[0]), float(low[1])), (float(high[0]), float(low[1])), across_, -gap),
            across((float(high[0]), float(low[1])), (float(high[0]), float(high[1])), tall, -gap),
            across((left, 0.0), (left, top), top, gap),
            across((right, 0.0), (right, -blank.fringe_mm), blank.fringe_mm, gap),
            Number((0.0, float(high[1]) - gap), 1),
            Number((0.0, top / 2), 2),
        )
    )


SENTENCES: dict[str, str | Plural] = {
    "flat.blank": N_("Lay the wool to its blank, {wide} × {long}, in crossing layers."),
    "flat.colour": N_(
        "Lay the {place} over it before the edges come in, {wide} × {long}: {wool:lower}, {amount}."
    ),
    "flat.crest": N_(
        "Of the crest the first is {first}, the tallest {tallest} and the last {last} long: the rest grow "
        "between."
    ),
    "flat.pinch": N_("Lay the pinch for {part} flat and fold it once."),
    "flat.scratch": N_(
        "Scratch the finished outline into it with the needle: {long} long, {wide} wide."
    ),
    "flat.fold": N_("Fold the loose edges in to the line, most of it to the middle."),
    "flat.turn": N_("Stab lightly, lift it off the pad and turn it, {turns} times."),
    "flat.edge": N_("Hold the edge in a folded card and stab along it."),
    "flat.foot": N_(
        "Keep its foot {times:.1f} times as thick as its tip: fold most of the loose wool back to there."
    ),
    "flat.cup": N_(
        "Pinch its base together to {by} of a round, lay it on its side, and stab each side till it stays."
    ),
    "flat.folded": N_(
        "Fold its base double along its middle, and stab along the fold till it stays."
    ),
    "flat.fringe": N_("Leave {fringe} loose at its base, and pull half of that off."),
    "flat.start": N_("Pinch it close to the pad to lift it."),
    "flat.start-pair": N_("One strip split lengthwise serves both."),
    "flat.until": N_("It has its outline, no light comes through, and its base is still fluff."),
    "flat.scale": N_(
        "Under {small} long a pinch folded once does; very long ones want a stem inside."
    ),
    "flat.why": N_(
        "A flat piece grows thin where it is stabbed, and felts to the pad: so it is turned "
        "and lifted all the time."
    ),
}

METHOD = Method("flat", _fits, _card, _picture)
