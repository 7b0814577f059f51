"""A piece of a face: a line laid as a thread or hairs, a pinch, or a lid."""

from __future__ import annotations

import numpy as np

from bambola.core.facts import Fact, Mm, Share, fact
from bambola.core.figure import Place
from bambola.core.figure.additions import face_bearer
from bambola.core.figure.places import Line
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnArea, Number, Piece, StepDrawing, oval, rod
from bambola.core.methods.parts import LOW, SLANTED, SQUARE, across, card, check, run, stab, stop
from bambola.core.methods.values import Card, Method, Stop
from bambola.core.solids.forms import box_of
from bambola.core.solids.regions import VIEWS, drawn_on
from bambola.core.wool.amounts import pinch_mm
from bambola.core.wool.layers import DOME, HAIRS_MM, is_thread, laid_as, piece_cm3, piece_mm
from bambola.core.wool.pan import CLOSE_MM, right_size_range

GROOVED_MM = 25.0
"""On a smaller face a mouth is grooved and dotted: a thread would be all of it. Judged. See craft.md, 10."""
TOWARDS = -0.5
"""A part whose axis leads forwards by more than this share, as a snout's, is drawn with its tip below.
Judged. See craft.md, 10."""
BENT = 1.03
"""A line so many times as long as the way between its ends is a curve, fixed in its middle first. Judged.
See craft.md, 10."""


def place_of(at: StepInPlan) -> Place:
    """Return the piece of the face that the step lays."""
    return next(p for p in at.body.patches if p.id == at.step.key.detail)


def _is_filled(place: Place) -> bool:
    """Return whether a piece is a rolled pinch spread within its outline, rather than a line."""
    if is_thread(place) or laid_as(place) == "half-disc":
        return False
    return laid_as(place) == "pinch" or not place.is_spot


def _is_grooved(at: StepInPlan, place: Place) -> bool:
    figure = at.plan.resized.figure
    face = face_bearer(at.body, figure.fittings, figure.parts)
    return face.shape.smallest_mm < GROOVED_MM and place.face in ("mouth", "nose-line")


def _card(at: StepInPlan) -> Card:
    place = place_of(at)
    how = laid_as(place)
    if how == "half-disc":
        return _lid_card(at, place)
    if place.face == "cheek":
        return _cheek_card(at, place)
    if _is_filled(place):
        return _spot_card(at, place)
    return _line_card(at, place, how)


def _line_card(at: StepInPlan, place: Place, how: str) -> Card:
    long, wide = piece_mm(at.placed[0].shape, place)
    if place.is_spot:
        return card(
            at,
            "face-piece",
            (
                fact("face-hairs.where", piece=place.display_name, part=at.part_name),
                fact("face-hairs.loop", wide=Mm(wide)),
                Fact("face-hairs.both") if place.copies == 2 else None,
            ),
            start=Fact("face-hairs.start"),
            needles=(run(40, slots.SKIN_MM, SQUARE, "only"),),
            stops=_width_stop(wide),
            until=Fact("face-hairs.until"),
            checks=(check("line-place"),),
            scale=Fact("face-hairs.scale"),
        )
    grooved = _is_grooved(at, place)
    first = Fact("face-line.middle-first" if _is_curve(at, place) else "face-line.ends-first")
    laid = fact(f"face-line.{how if how != 'pinch' else 'roll'}", wide=Mm(wide))
    return card(
        at,
        "face-piece",
        (
            fact("face-line.dot", long=Mm(long), piece=place.display_name, part=at.part_name),
            fact("face-line.groove", deep=Mm(slots.SKIN_MM))
            if grooved or place.face in ("mouth", "nose-line")
            else None,
            Fact("face-line.dots") if grooved else laid,
            None if grooved else first,
            Fact("face-line.trim"),
            Fact("face-line.twin") if place.copies == 2 else None,
        ),
        start=Fact("face-line.start"),
        needles=(
            run(38, slots.SKIN_MM, SLANTED, "first"),
            run(40, slots.SKIN_MM, SLANTED, "then"),
        ),
        stops=_width_stop(wide),
        until=Fact("face-line.until-both" if place.copies == 2 else "face-line.until"),
        checks=(check("line-even"), check("line-place")),
        scale=fact("face-line.scale", small=Mm(GROOVED_MM)),
    )


def _width_stop(mm: float) -> tuple[Stop, ...]:
    """Return the greatest width of the piece; hairs are not measured."""
    return (stop("width", *right_size_range(mm)),) if mm > 2 * CLOSE_MM else ()


def _is_curve(at: StepInPlan, place: Place) -> bool:
    """Return whether a line is bent; for an area, whether it is filled along its length."""
    if not isinstance(place.where, Line):
        return False
    _, flat = drawn_on(at.placed[0].shape, place.where)
    half = len(flat) // 2
    run_ = (flat[:half] + flat[half:][::-1]) / 2 if half > 1 else flat
    long = float(np.linalg.norm(np.diff(run_, axis=0), axis=1).sum())
    return long > BENT * float(np.linalg.norm(run_[-1] - run_[0]))


def _pinch_grams(at: StepInPlan, place: Place) -> float:
    assert place.wool is not None
    density = at.bench.wool_by_id[place.wool].density("firm")
    return pinch_mm(piece_cm3(at.placed[0].shape, place) * density)


def _spot_card(at: StepInPlan, place: Place) -> Card:
    _, wide = piece_mm(at.placed[0].shape, place)
    high = DOME * wide if laid_as(place) == "pinch" else min(wide, HAIRS_MM)
    both = place.copies == 2
    return card(
        at,
        "face-piece",
        (
            fact(
                "face-spot.roll-two" if both else "face-spot.roll",
                pinch=Mm(_pinch_grams(at, place)),
            ),
            fact(
                "face-spot.nose" if place.face == "nose" else "face-spot.edge",
                piece=place.display_name,
            ),
            Fact("face-spot.fill"),
            fact("face-spot.foot", high=Mm(high)),
        ),
        start=Fact("face-spot.start"),
        needles=(
            run(40, slots.DEPTH_MM["surface"], SQUARE, "first"),
            run(40, slots.DEPTH_MM["rim"], LOW, "edges"),
        ),
        stops=_width_stop(wide),
        until=Fact("face-spot.until-both" if both else "face-spot.until"),
        checks=(check("eye-edge"), check("line-place")),
        scale=Fact("face-spot.scale"),
    )


def _cheek_card(at: StepInPlan, place: Place) -> Card:
    """Return the card of a cheek: a soft disc of fluff, fixed by its rim alone."""
    long, wide = piece_mm(at.placed[0].shape, place)
    both = place.copies == 2
    return card(
        at,
        "face-piece",
        (
            fact("face-cheek.tease-two" if both else "face-cheek.tease", wide=Mm(max(long, wide))),
            fact("face-cheek.lay", part=at.part_name),
            fact("face-cheek.rim", deep=Mm(slots.SKIN_MM)),
            Fact("face-cheek.lift"),
        ),
        start=Fact("face-cheek.start"),
        needles=(run(40, slots.SKIN_MM, LOW, "edges"),),
        stops=_width_stop(wide),
        until=Fact("face-cheek.until-both" if both else "face-cheek.until"),
        checks=(check("line-place"),),
        scale=Fact("face-cheek.scale"),
    )


def _lid_card(at: StepInPlan, place: Place) -> Card:
    long, wide = piece_mm(at.placed[0].shape, place)
    both = place.copies == 2
    return card(
        at,
        "face-piece",
        (
            fact("face-lid.disc-two" if both else "face-lid.disc", long=Mm(long), high=Mm(wide)),
            Fact("face-lid.edge"),
            fact("face-lid.lay", part=at.part_name),
            Fact("face-lid.brow"),
            Fact("face-lid.angle") if both else None,
        ),
        start=fact("face-lid.start", share=Share(0.2)),
        needles=(
            run(40, slots.DEPTH_MM["rim"], LOW, "first"),
            run(40, slots.SKIN_MM, SLANTED, "then"),
        ),
        stops=(stop("length", *right_size_range(long)),),
        until=Fact("face-lid.until-both" if both else "face-lid.until"),
        checks=(check("level"),),
        scale=Fact("face-lid.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the part from where the piece is seen; below it the piece by itself, laid straight, with its
    sizes."""
    place, copy = place_of(at), at.placed[0]
    shape = copy.shape
    view, patch = drawn_on(shape, place.where)
    if copy.matrix[1, 2] < TOWARDS:  # with its tip below, as it is seen by who looks at the face
        patch = -patch
    (across_axis, _), (up_axis, _), _ = VIEWS[view]
    _, half = box_of(shape)
    wide, high = 2 * float(half[across_axis]), 2 * float(half[up_axis])
    long_mm, wide_mm = piece_mm(shape, place)
    pieces: list[Piece] = [DrawnArea(oval(wide, high), "under"), DrawnArea(patch, "wool")]
    if place.copies == 2:
        pieces.append(DrawnArea(patch * np.array([-1.0, 1.0]), "wool"))
    y = -high / 2 - 0.12 * high - wide_mm
    low, top, x = y - wide_mm / 2, y + wide_mm / 2, long_mm / 2
    if laid_as(place) == "half-disc":
        pieces.append(DrawnArea(oval(long_mm, 2 * wide_mm, (0.0, low), 0.5), "wool"))
    else:
        pieces.append(DrawnArea(rod(long_mm, wide_mm, (0.0, y)), "wool"))
    pieces.append(across((-x, low), (x, low), long_mm, -0.08 * high))
    if not place.is_spot:
        pieces.append(across((x, low), (x, top), wide_mm, -0.08 * high))
    middle = (float(patch[:, 0].mean()), float(patch[:, 1].mean()))
    tip = (float(patch[:, 0].min()), middle[1])
    above = (middle[0], float(patch[:, 1].max()) + 0.1 * high)
    pieces += [stab(tip, card_.needles[0], 200), Number(above, 2)]
    if _is_filled(place):
        rolled = _pinch_grams(at, place)
        beside = (-x - 1.5 * rolled, y)
        pieces.append(DrawnArea(oval(rolled, rolled, beside), "wool"))
        ends = (beside[0] - rolled / 2, y), (beside[0] + rolled / 2, y)
        pieces += [across(*ends, rolled, rolled), Number(beside, 1)]
    return StepDrawing(tuple(pieces))


SENTENCES: dict[str, str | Plural] = {
    "face-piece.why": N_(
        "A face is read at a glance: an edge is fixed first and the middle after, so that it stays where it "
        "was put."
    ),
    "face-line.dot": N_(
        "Dot the course of the {piece} on {part} with the needle, {long} from end to end."
    ),
    "face-line.groove": N_("Groove it along the dots, {deep} deep, in tiny steps."),
    "face-line.dots": N_("Lay a few hairs in the groove, and dot both its ends."),
    "face-line.twist": N_(
        "Draw out a wisp longer than that without breaking it, and twist it {wide} wide."
    ),
    "face-line.hairs": N_(
        "Draw out a few hairs, longer than that, till side by side they are {wide} wide."
    ),
    "face-line.roll": N_("Roll a pinch between two fingers to a thread {wide} thick."),
    "face-line.ends-first": N_("Fix both ends, stretch it level, then its middle."),
    "face-line.middle-first": N_(
        "Fix its middle, then follow the dots out to either end, twisting it anew."
    ),
    "face-line.trim": N_("Trim it flush, and go over it once."),
    "face-line.twin": N_(
        "Lay the one on the other side from the same wool at once, while both can be moved."
    ),
    "face-line.start": N_("A wisp of smooth wool, half as long again as the line."),
    "face-line.until": N_("It lies on the skin, as wide all along, its ends level."),
    "face-line.until-both": N_("Both lie on the skin, alike in length, width and slant."),
    "face-line.scale": N_(
        "On a face under {small} a groove and a dot say the same; a larger one takes a thicker line."
    ),
    "face-hairs.where": N_("Prick the place of the {piece} on {part}."),
    "face-hairs.loop": N_("Lay a few hairs over it, and stab them in till they fill {wide}."),
    "face-hairs.both": N_("Set both before either is driven in: they are seen together."),
    "face-hairs.start": N_("Only a few hairs: count them."),
    "face-hairs.until": N_("It is seen from a step away, and lifts nowhere."),
    "face-hairs.scale": N_(
        "Such a small thing does not change with the figure: a face half the size has none."
    ),
    "face-spot.roll": N_("Roll a pinch to {pinch}."),
    "face-spot.roll-two": N_("Roll two pinches side by side to {pinch} each, till both are alike."),
    "face-spot.nose": N_("Lay it on its mark, and fix the three corners of the {piece} first."),
    "face-spot.edge": N_("Lay it on its mark, and fix the edge of the {piece} all round first."),
    "face-spot.fill": N_("Then fill the middle."),
    "face-spot.foot": N_("Stab round its foot, in and under, till it stands {high} proud."),
    "face-spot.start": N_("A pinch rolled in damp fingers."),
    "face-spot.until": N_("It is firm, a little proud, and its edge is a line."),
    "face-spot.until-both": N_("Both are firm, stand out equally far, and are level."),
    "face-spot.scale": N_(
        "It grows with the face; where it comes too small to roll, a few hairs do."
    ),
    "face-cheek.tease": N_(
        "Tease a wisp out to a disc of fluff {wide} across, thinnest at its rim."
    ),
    "face-cheek.tease-two": N_(
        "Tease two wisps out to discs of fluff {wide} across, thinnest at their rims."
    ),
    "face-cheek.lay": N_("Lay it hairy on its mark on {part}, and look from the front."),
    "face-cheek.rim": N_("Fix the rim alone, the needle almost flat, {deep} deep."),
    "face-cheek.lift": N_("Lift the middle with the thick shaft of the needle, twice across."),
    "face-cheek.start": N_(
        "So little that the skin shows through; a trace of powder does as well."
    ),
    "face-cheek.until": N_("It is soft, and no edge is seen."),
    "face-cheek.until-both": N_("Both are soft and alike, and no edge is seen."),
    "face-cheek.scale": N_("A cheek stays a veil at any size."),
    "face-lid.disc": N_("Felt half a disc on the pad, {long} long and {high} high."),
    "face-lid.disc-two": N_("Felt two half discs on the pad, {long} long and {high} high each."),
    "face-lid.edge": N_("Make the straight edge firm and thin; leave the round one fluff."),
    "face-lid.lay": N_("Lay the straight edge over the eye on {part}, and pin it."),
    "face-lid.brow": N_("Felt the round edge away into the brow."),
    "face-lid.angle": N_("Compare both: the slant of the lids decides the expression."),
    "face-lid.start": N_("A pinch pulled flat, {share} of it left in the hand to mend with."),
    "face-lid.until": N_("Its edge is clean, and nothing of the eye pulls open beneath it."),
    "face-lid.until-both": N_("Both edges are clean and stand at the same slant."),
    "face-lid.scale": N_("An eye too small for a lid has none: its line is drawn lower instead."),
}

METHOD = Method("face-piece", lambda at: at.sort == "face", _card, _picture)
