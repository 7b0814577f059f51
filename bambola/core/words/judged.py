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
    "judged.tops-differ": N_("The {side} of its two tops is {off} higher than planned."),
    "judged.tops-level": N_("Left and right it is as high as planned."),
    "judged.eyes-differ": N_("The {side} eye is {off} higher than the other."),
    "judged.eyes-level": N_("Its eyes are level."),
    "judged.left": N_("left"),
    "judged.right": N_("right"),
    "judge.no-scale": N_(
        "No bank card, square or printed sheet is fully visible: lay a card beside the "
        "piece, on a table of another colour."
    ),
    "judge.aslant": N_("It is seen too much from the side: hold the camera straight above."),
    "judge.far": N_("The picture is too coarse: go closer, or take a larger picture."),
    "judge.dark": N_("The picture is too dark: more light, from a window or two lamps."),
    "judge.glare": N_("The picture is overexposed: no flash, no sun on the table."),
    "judge.blurred": N_("The picture is blurred: hold the camera still, and tap on the piece."),
    "judge.camera-height": N_(
        "These sizes may be off by {off}: a picture from straight above hardly shows "
        "how far away the camera was. Hold it further away, or slightly at an angle."
    ),
    "judge.none": N_(
        "No piece is fully visible beside the card: lay it there with space around it, "
        "on another colour."
    ),
    "judge.alike": N_(
        "The piece hardly differs from the table: lay it on paper of another colour."
    ),
    "judge.cut": N_(
        "The piece is cut off by the edge of the picture: show all of it, with space around it."
    ),
    "judge.touches": N_(
        "The piece is too close to the card: leave a thumb’s breadth between them."
    ),
    "judge.page-cut": N_(
        "The paper with the printed square is not fully visible, or the piece is too "
        "close to the square: show all of the paper, and lay the piece beside it."
    ),
    "judge.count": N_("{n} pieces are visible: leave one of them there, or the two of a pair."),
    "judge.no-piece": N_("This step has no piece to judge: {step}"),
}
