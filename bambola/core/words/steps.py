"""The steps of making, what is checked at each, and what to take care of."""

from __future__ import annotations

from bambola.core.words.marked import N_, NN_, Plural

SENTENCES: dict[str, str | Plural] = {
    # What is in hand.
    "the": N_("the {name:lower}"),
    "both": N_("both {name:lower}"),
    "all": N_("all {n} {name:lower}"),
    "both-of": N_("the left and the right {name:lower}"),
    "all-of": N_("every {name:lower} of the {n}"),
    "wire.one": N_("{name:lower}"),
    "wire.named": N_("the {name:lower}"),
    "wire.given": N_("the wire “{name}”"),
    # How a part is made.
    "as.back-to-back": N_(", back to back"),
    "as.in-turn": N_(", one after the other"),
    "as.soft": N_(", left soft: it is firmed on the body"),
    "as.coat-alone": N_(", with the coat’s wool alone"),
    "as.wound-middle-out": N_(" from the middle out"),
    "as.wound-body-down": N_(" from the body down"),
    "as.round": N_(", round {n} of {of}"),
    "made.apart": N_("made apart"),
    "made.in-place": N_("built in place"),
    "made.detail": N_("a drawn detail"),
    "made.on-wire": N_("wrapped on its wire"),
    "made.bought": N_("bought"),
    # The steps.
    "step.cut": N_("Cut {wire} and turn its ends over"),
    "step.cut-peg": N_("Cut {wire}"),
    "step.bend": N_("Bend {wire} along its marks"),
    "step.bend-and-bind": N_("Bend {wire} along its marks and bind it"),
    "step.detail": N_("Draw {part} with a thread of wool{pair}"),
    "step.in-place": N_("Build {part} in place from a pinch{pair}{soft}{alone}"),
    "step.tape": N_("Tape the wire of {part}{pair}"),
    "step.draw-out": N_("Draw {part} out of the {of:lower}{pair}{soft}{alone}"),
    "step.skin": N_("Stroke the bare skin with glue and soap"),
    "step.wrap": N_("Wrap {part}{way}{pair}{round}{soft}{alone}"),
    "step.wind-with-glue": N_("Wind {part} with glue{pair}"),
    "step.hard": N_("Wind the first wool round the {hard:lower}"),
    "step.shape": N_("Shape {part}{way}{pair}{round}{soft}{alone}"),
    "step.inset": N_("Lay the {inset} on the {part:lower}"),
    "step.face": N_("Lay the {piece} on the {part:lower}"),
    "step.lines": N_("Draw the {inset} on the {part:lower} with a thread"),
    "step.coat": N_("Coat {part}{pair}"),
    "step.fur-base": N_("Fix fur row {row} of {of} on the {part:lower}, from its base"),
    "step.fur-tip": N_("Fix fur row {row} of {of} on the {part:lower}, from its tip"),
    "step.fur-base-at": N_(
        "Fix fur row {row} of {of} on the {part:lower}: the {place}, from the base"
    ),
    "step.fur-tip-at": N_(
        "Fix fur row {row} of {of} on the {part:lower}: the {place}, from the tip"
    ),
    "step.peg-hole": N_("Open the peg hole for the {part:lower}"),
    "step.put-on": N_("Put on {part}"),
    "step.put-on-over": N_("Put on {part}, over what is there so far"),
    "step.put-on-felt": N_("Put on {part} and felt it down"),
    "step.pair": N_("Join {part} to each other"),
    "step.join": N_("Join {part}"),
    "step.join-peg": N_("Join {part} on its peg"),
    "step.join-wire": N_("Join {part} over the wire"),
    "step.furrows": NN_(
        "Pull {n} furrow into {part} with thread{pair}",
        "Pull {n} furrows into {part} with thread{pair}",
    ),
    "step.crease": N_("Felt the fold of {part}{pair}"),
    "step.blend": N_("Blend in {part}"),
    "step.blend-patch": N_("Blend in {part} under a patch"),
    "step.blend-scarf": N_("Blend in {part} under a scarf of wool"),
    "step.marks": N_("Lay out the marks on the {part:lower}"),
    "step.mark": N_("Mark {what} on the {part:lower}"),
    "mark.eye-line": N_("the eye line"),
    "mark.bases": N_("the bases of the {name:lower}"),
    "mark.base": N_("the base of each {name:lower}"),
    "step.sockets": N_("Open the sockets and try {what} dry"),
    "step.glue": N_("Glue in {what}"),
    "step.glue-clay": N_("Make {what} of clay on wire, and glue them in"),
    "step.glue-pins": N_("Glue in {what}, heads of pins"),
    "step.dimples": N_("Felt the dimples for {what}"),
    "step.sew": N_("Sew on {what}"),
    "step.felt-on": N_("Felt {what} of wool"),
    "step.fix": N_("Fix {what} in place"),
    "step.dry": N_("Stand {part} to dry"),
    "step.cure": N_("Let the glue of {what} cure"),
    "step.loop": N_("Fix the loop it hangs by, where the plan marks it"),
    "step.ground": N_("Stand it while what touches the table can still be pressed level"),
    "step.hang": N_("Hang it, and look from front, side, back and below"),
    "step.stand": N_("Stand it, and look from front, side, back and top"),
    "step.finish": N_("Smooth the whole surface and trim what stands up"),
    # Checks.
    "check.light": N_("hold to the light"),
    "check.squeeze": N_("squeeze"),
    "check.tug": N_("tug the join"),
    "check.rub": N_("rub along the coat"),
    "check.wire": N_("feel for wire"),
    "check.thread-round-head": N_("thread round the head"),
    "check.thread-round": N_("thread round the {part:lower}"),
    "check.front-side": N_("look from front and side"),
    "check.all-sides": N_("look from all sides"),
    "check.hangs": N_("hang it: does it nod as planned?"),
    "check.hang": N_("hang it"),
    "check.stand": N_("stand it"),
    "check.upside": N_("look upside down and from four sides"),
    "check.rocking": N_("no rocking on a hard table"),
    "check.nudge": N_("it stands when it is nudged"),
    # Cautions.
    "care.needle": N_("Eyes on the point, free hand behind or guarded; straight in and out."),
    "care.barb": N_(
        "A barb in the hand: clean it, and see a doctor if it is deep or does not settle. Keep needles from "
        "children and pets. Local rules come first."
    ),
    "care.hard": N_(
        "The {hard:lower} stops the needle and breaks it: slanting, and no deeper than told."
    ),
    "care.wire": N_("Glasses on: cut ends fly. Turn every end over before it can scratch."),
    "care.bend": N_("Wind away from your face, and file or tape any sharp end."),
    "care.glue": N_("Glue in moving air; a hot glue gun burns."),
    "care.clay": N_("Clay is baked no hotter than its packet says, with a window open."),
    "care.pin": N_("Ends of pins fly: cut them under a cloth, glasses on."),
    "care.awl": N_("Awl and scissors go away from the hand that holds the work."),
    "care.small": N_(
        "Eyes, beads and wire can come off: an ornament, not a toy for small children. Selling it as a "
        "toy needs the local safety law met and a qualified test."
    ),
}
