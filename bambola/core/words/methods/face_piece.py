"""Pieces of a face: lines, hairs, pinches, lids."""

from __future__ import annotations

from bambola.core.words.marked import N_, Plural

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
        "Draw a wisp longer than that without parting it, and twist it to {wide}."
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
    "face-hairs.start": N_("A few hairs, no more than are counted."),
    "face-hairs.until": N_("It is seen from a step away, and lifts nowhere."),
    "face-hairs.scale": N_(
        "So small a thing does not grow with the figure: a face half as large has none."
    ),
    "face-spot.roll": N_("Roll a pinch to {pinch}."),
    "face-spot.roll-two": N_("Roll two pinches side by side to {pinch} each, till both are alike."),
    "face-spot.nose": N_("Lay it on its mark, and fix the three corners of the {piece} first."),
    "face-spot.edge": N_("Lay it on its mark, and fix the edge of the {piece} all round first."),
    "face-spot.fill": N_("Then fill the middle."),
    "face-spot.foot": N_("Stab round its foot, in and under, till it stands {high} proud."),
    "face-spot.start": N_("A pinch rolled in damp fingers."),
    "face-spot.until": N_("It is firm, a little proud, and its edge is a line."),
    "face-spot.until-both": N_("Both are firm, as proud as each other, and level."),
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
    "face-lid.angle": N_(
        "Compare both: what the lids’ slant says, no other piece of the face unsays."
    ),
    "face-lid.start": N_("A pinch pulled flat, {share} of it left in the hand to mend with."),
    "face-lid.until": N_("Its edge is clean, and nothing of the eye pulls open beneath it."),
    "face-lid.until-both": N_("Both edges are clean and stand at the same slant."),
    "face-lid.scale": N_("An eye too small for a lid has none: its line is drawn lower instead."),
}
