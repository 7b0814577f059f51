"""A piece judged by its picture: what is off, and what to do about an unusable picture."""

from __future__ import annotations

from bambola.core.marked import N_

SENTENCES = {
    "judged.length-right": N_("Its length is right: {found}."),
    "judged.length-more": N_("It is {off} too long: {found} for {wanted}."),
    "judged.length-less": N_("It is {off} too short: {found} for {wanted}."),
    "judged.width-right": N_("Its width is right: {found}."),
    "judged.width-more": N_("It is {off} too wide: {found} for {wanted}."),
    "judged.width-less": N_("It is {off} too narrow: {found} for {wanted}."),
    "judged.pair-differs": N_("The two differ by {off:.0%}: make them alike."),
    "judged.pair-alike": N_("The two are alike."),
    "judged.height-right": N_("It is as high as planned: {found}."),
    "judged.height-more": N_("It is {off} too high: {found} for {wanted}."),
    "judged.height-less": N_("It is {off} too low: {found} for {wanted}."),
    "judged.leans": N_("It leans by {angle} to the {side} as you look at it."),
    "judged.upright": N_("It stands upright."),
    "judged.tops-differ": N_("Of its two tops, the {side} one is {off} higher than planned."),
    "judged.tops-level": N_("Left and right it is as high as planned."),
    "judged.eyes-differ": N_("Of its eyes, the {side} one is {off} higher than the other."),
    "judged.eyes-level": N_("Its eyes are level."),
    "judged.left": N_("left"),
    "judged.right": N_("right"),
    "judge.no-scale": N_(
        "No bank card, square or printed sheet is seen whole: lay a card beside the piece, in view, on a "
        "table of another colour."
    ),
    "judge.aslant": N_("It is seen too much from the side: hold the camera straight above."),
    "judge.far": N_("The picture is too coarse: go nearer, or take a larger picture."),
    "judge.dark": N_("The picture is too dark: more light, from a window or two lamps."),
    "judge.glare": N_("The picture is washed out by light: no flash, no sun on the table."),
    "judge.blurred": N_("The picture is blurred: hold the camera still, and tap on the piece."),
    "judge.camera-height": N_(
        "These sizes may be off by {off}: from straight above a picture hardly tells how far away the camera "
        "was. Hold it farther away, or a little aslant."
    ),
    "judge.none": N_(
        "No piece is seen whole beside the card: lay it there with room round it, on another colour."
    ),
    "judge.alike": N_(
        "The piece can hardly be told from the table: lay it on paper of another colour."
    ),
    "judge.cut": N_("The piece goes on beyond the picture: show all of it, with room round it."),
    "judge.touches": N_("The piece lies too near the card: leave a thumb's breadth between them."),
    "judge.page-cut": N_(
        "The paper with the printed square is not seen whole, or the piece lies too near the square: show "
        "all of the paper, and lay the piece beside it."
    ),
    "judge.count": N_("{n} pieces are seen: leave one of them there, or the two of a pair."),
    "judge.no-piece": N_("There is no piece to be judged at this step: {step}"),
}
