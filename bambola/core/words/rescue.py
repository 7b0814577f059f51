"""What can go wrong, and what to do about it."""

from __future__ import annotations

from bambola.core.marked import N_

SENTENCES = {
    # What is seen.
    "symptom.too-long": N_("too long"),
    "symptom.too-short": N_("too short"),
    "symptom.too-thick": N_("too thick"),
    "symptom.too-thin": N_("too thin"),
    "symptom.too-big": N_("too big all over"),
    "symptom.too-small": N_("too small all over"),
    "symptom.long-and-thin": N_("too long and too thin"),
    "symptom.uneven": N_("the two differ"),
    "symptom.too-soft": N_("too soft"),
    "symptom.too-firm": N_("too firm to join"),
    "symptom.dented": N_("dented"),
    "symptom.flattened": N_("flat on one side"),
    "symptom.crack": N_("a crack"),
    "symptom.hole": N_("a hole"),
    "symptom.floppy": N_("it flops"),
    "symptom.blunt-point": N_("its point is blunt"),
    "symptom.will-not-felt": N_("the wool does not felt"),
    "symptom.stuck": N_("it sticks to the pad"),
    "symptom.core-shows": N_("the core shows"),
    "symptom.colour-through": N_("colour pushed through"),
    "symptom.wrong-colour": N_("the wrong colour was used"),
    "symptom.pits": N_("needle pits"),
    "symptom.hairy": N_("hairy"),
    "symptom.dirty": N_("white gone grey"),
    "symptom.ran-out": N_("a colour ran out"),
    "symptom.wrong-place": N_("in the wrong place"),
    "symptom.joint-shows": N_("the join shows"),
    "symptom.head-wobbles": N_("the head wobbles"),
    "symptom.neck-long": N_("the head sits too high"),
    "symptom.legs-thin": N_("thin, now the head is on"),
    "symptom.face-crooked": N_("the face is crooked"),
    "symptom.eyes-differ": N_("the eyes differ"),
    "symptom.eye-loose": N_("an eye is loose"),
    "symptom.mouth-crooked": N_("the mouth is crooked"),
    "symptom.hair-sheds": N_("the hair comes out"),
    "symptom.wire-shows": N_("the wire shows or pokes out"),
    "symptom.wool-spins": N_("the wool spins on its wire"),
    "symptom.leans": N_("it leans"),
    "symptom.falls": N_("it falls over"),
    "symptom.needle-broke": N_("a needle broke"),
    # What is read.
    "reading.length": N_("its length over all"),
    "reading.thickness": N_("its thickness"),
    "reading.grams": N_("its weight"),
    "reading.firmness": N_("how firm it feels"),
    "reading.twin_length": N_("the other’s length"),
    "reading.twin_thickness": N_("the other’s thickness"),
    "rescue.needs": N_("To advise on “{symptom}”, Bambola needs {reading}."),
    "rescue.enough": N_("It is close enough: stop here. Every further stab only makes it harder."),
    "rescue.remake": N_(
        "It is {off:.0%} off: make it again sooner than mend it, and keep this one for a core."
    ),
    # What to do.
    "do.turn-wire": N_(
        "Turn the wire’s end back by {mm} with pliers first: wool gets no shorter than the wire in it."
    ),
    "do.needle-tip": N_(
        "Stab from the tip straight in along its length, all over the end, and measure every twenty "
        "stabs, till it is {mm} shorter."
    ),
    "do.needle-sides": N_(
        "Stab square from the sides towards the middle with a coarse needle, turning, till it is {mm} "
        "thinner."
    ),
    "do.needle-sides.flat": N_(
        "Stab square to its face with a coarse needle, lifting and turning it, till it is {mm} thinner."
    ),
    "do.needle-all.flat": N_(
        "Stab deep and coarse square to its face, lifting and turning it; it gets {mm} thinner."
    ),
    "do.needle-all": N_(
        "Stab deep and coarse all round towards the middle; it gets {mm} thinner and shorter in step."
    ),
    "do.sink-base": N_("Sink its base {mm} deeper where it is joined."),
    "do.cut-base": N_(
        "Cut {mm} off its base (about {grams}), tear the end up into a new fringe, and join that."
    ),
    "do.cut-tip": N_("Cut {mm} off the tip (about {grams}), and roll a wisp over it to close it."),
    "do.peel": N_("Peel a layer off, {mm} in all (about {grams}), and close it with a veil."),
    "do.add-tip": N_(
        "Rough the tip, lay {grams} over it, hairy, and felt it down: {mm} longer. Slant the needle, "
        "45° in."
    ),
    "do.add-sides": N_(
        "Rough it, wind {grams} on in a hairy layer, and felt it in from the sides: {mm} thicker."
    ),
    "do.add-sides.flat": N_(
        "Rough it, lay {grams} over its middle in a hairy layer, and felt it down square to its face: {mm} "
        "thicker."
    ),
    # What follows.
    "follows.twin": N_(
        "Do the same to its twin, or hold the two together: a pair is seen at once."
    ),
    "follows.wool": N_("That takes {grams} of {wool:lower}; {left} is left of what was kept back."),
    "follows.stand": N_("It weighs a good part of the whole: stand the figure again."),
    "follows.wool-short": N_(
        "That takes {grams} of {wool:lower}, {short} more than was kept back: weigh that off as well."
    ),
    "follows.eyes": N_("It bears the eyes: read the gap between them again on the strip."),
    "follows.coat": N_("Bare core comes up there: keep {wool:lower} for a veil."),
    # Remedies in words, what comes first first.
    "rescue.too-long.1": N_("While it is soft, stab from the tip: twenty stabs, and measure."),
    "rescue.too-long.2": N_("Sink the base deeper: it hides a little."),
    "rescue.too-long.3": N_("Cut at the base, and tear a new fringe."),
    "rescue.too-long.4": N_("On wire: turn the end of the wire back first."),
    "rescue.too-short.1": N_("Rough the tip, and lay wool over it in layers."),
    "rescue.too-short.2": N_("Tease the base out, and sink it less."),
    "rescue.too-short.3": N_("Next time keep some of its wool back for the tip."),
    "rescue.too-thick.1": N_(
        "As long as it is not hard, one coarse pass from the sides, and measure."
    ),
    "rescue.too-thick.2": N_("Peel a layer off."),
    "rescue.too-thick.3": N_(
        "Open the side that does not show, snip wool out a little at a time, stab it shut, and lay a veil "
        "over it."
    ),
    "rescue.too-thin.1": N_("Rough a hard surface first, or nothing holds on it."),
    "rescue.too-thin.2": N_(
        "Add hairy layers, none thicker than {thick} felted, until it is right."
    ),
    "rescue.too-thin.3": N_("Next time make its core a little larger: a coat shrinks it."),
    "rescue.too-big.1": N_("While it is not hard, felt on from where it is too much."),
    "rescue.too-big.2": N_("Once hard, peel or cut: stabbing only makes pits."),
    "rescue.too-big.3": N_("A crown can be brought down by a deep pass over the coat."),
    "rescue.too-small.1": N_("Rough it, and add hairy layers."),
    "rescue.too-small.2": N_("A crown can still be raised when the face is on."),
    "rescue.too-small.3": N_("On a flat part, add wool in the middle and fold the edges over it."),
    "rescue.long-and-thin.1": N_(
        "Shorten it from the tip first: the wool is right, only its place is not."
    ),
    "rescue.long-and-thin.2": N_("Then see how thick it is; wind on what still lacks."),
    "rescue.uneven.1": N_("The larger is soft: work it down."),
    "rescue.uneven.2": N_("Build the smaller up."),
    "rescue.uneven.3": N_("Both are hard: cut the longer where it will be hidden."),
    "rescue.too-soft.1": N_(
        "Deep coarse stabs all round; it gets smaller by as much as it gets firm."
    ),
    "rescue.too-soft.2": N_("To keep its size, wind a tight layer on and felt that."),
    "rescue.too-soft.3": N_("What bears others must be firm before they are joined."),
    "rescue.too-firm.1": N_("Rough the place with a coarse needle."),
    "rescue.too-firm.2": N_("Cut a slit, tuck the fringe in, and close it."),
    "rescue.too-firm.3": N_("Peel the skin off there, and glue."),
    "rescue.too-firm.4": N_("Make it again only if its shape is wrong too."),
    "rescue.dented.1": N_("Squeeze it from both sides, so that the dent rises."),
    "rescue.dented.2": N_("Stab its sides, never the dent."),
    "rescue.dented.3": N_("Lay a pinch in, and felt round its rim."),
    "rescue.flattened.1": N_("Roll it hard in your palms."),
    "rescue.flattened.2": N_("Stab the rim of the flat at 45° towards the middle."),
    "rescue.flattened.3": N_("Lay a wisp on the flat."),
    "rescue.crack.1": N_("Draw the rims together over it, and stab along."),
    "rescue.crack.2": N_("Lay a wisp across, and tap it down."),
    "rescue.hole.1": N_("Fill it first, loosely, a little over."),
    "rescue.hole.2": N_("Felt the rim in, slanting."),
    "rescue.hole.3": N_("Then a veil over all."),
    "rescue.floppy.1": N_("Felt its base wider and firmer."),
    "rescue.floppy.2": N_("Fold it, and catch the fold."),
    "rescue.floppy.3": N_("Make it thicker from the back."),
    "rescue.floppy.4": N_("Lay a chenille stem inside."),
    "rescue.floppy.5": N_("Leave it: it may hang."),
    "rescue.blunt-point.1": N_("Roll the point between finger and thumb, damp."),
    "rescue.blunt-point.2": N_("Trim it to a point, and stab the cut."),
    "rescue.blunt-point.3": N_("Twist a wisp on as a point of its own."),
    "rescue.will-not-felt.1": N_("Wind carded wool over it: that felts through."),
    "rescue.will-not-felt.2": N_("Two more passes, slower."),
    "rescue.will-not-felt.3": N_("Use it only inside from now on."),
    "rescue.stuck.1": N_("Pinch it low, close to the pad, and peel."),
    "rescue.stuck.2": N_("A scrap of felt on the pad keeps it off; lift every ten stabs."),
    "rescue.core-shows.1": N_("Lay a wisp there; more stabs only show more core."),
    "rescue.core-shows.2": N_("Lay a veil across the first."),
    "rescue.core-shows.3": N_("Lay a middle tone under the veil."),
    "rescue.colour-through.1": N_("Trim what came through."),
    "rescue.colour-through.2": N_("Lay a veil, and stab it at 20°."),
    "rescue.colour-through.3": N_("Comb it up, and call it fur."),
    "rescue.wrong-colour.1": N_("Only tacked: peel it off, and keep it for a core."),
    "rescue.wrong-colour.2": N_("A core under a coat to come: leave it, and lay the coat thicker."),
    "rescue.wrong-colour.3": N_(
        "Lay a middle tone over it, then a veil of the right colour, across."
    ),
    "rescue.wrong-colour.4": N_(
        "Only part of it: make that a patch or a band, on the other side too."
    ),
    "rescue.pits.1": N_("Rub it with a fingertip, round and round."),
    "rescue.pits.2": N_("A fine needle, slanting, over all."),
    "rescue.pits.3": N_("A veil."),
    "rescue.hairy.1": N_("Pull one: if it comes out, trim them; if it holds, tuck them low."),
    "rescue.hairy.2": N_("A veil, where core wool sticks out."),
    "rescue.hairy.3": N_("Glue and soap, last of all."),
    "rescue.dirty.1": N_("Pick the dark hairs out, and roll it over tape."),
    "rescue.dirty.2": N_("Lay a veil of clean wool."),
    "rescue.dirty.3": N_(
        "Dab it damp, and let it dry. Pale wool comes before dark, on its own pad."
    ),
    "rescue.ran-out.1": N_("Leave bare what will be hidden: under clothes, at joins."),
    "rescue.ran-out.2": N_("Peel from where it lies double."),
    "rescue.ran-out.3": N_("Blend it with the nearest wool, and use that behind."),
    "rescue.ran-out.4": N_("Make the rest a patch, a band or a garment."),
    "rescue.ran-out.5": N_("Buy of the same lot, and note it."),
    "rescue.wrong-place.1": N_("Only tacked: peel it off, and set it again."),
    "rescue.wrong-place.2": N_(
        "Felted fast, less than {off} off: stab one side, so that it leans over."
    ),
    "rescue.wrong-place.3": N_("More: cut it off at the surface, and lay a patch."),
    "rescue.joint-shows.1": N_("Feather the edge of the wool over it."),
    "rescue.joint-shows.2": N_("Lay a longer patch, not a thicker one."),
    "rescue.joint-shows.3": N_("A veil over both."),
    "rescue.joint-shows.4": N_("A collar or a band."),
    "rescue.head-wobbles.1": N_("Turn it upside down, and stab through the neck from four sides."),
    "rescue.head-wobbles.2": N_("The same from the other direction: one way alone works loose."),
    "rescue.head-wobbles.3": N_("A scarf of wool round the join."),
    "rescue.head-wobbles.4": N_("A peg."),
    "rescue.neck-long.1": N_("Cut the neck down, and tear a new fringe."),
    "rescue.neck-long.2": N_("Press the head where it should be, and stab nape or throat."),
    "rescue.legs-thin.1": N_("One more ribbon on each; they look thinner with the head on."),
    "rescue.face-crooked.1": N_(
        "Lay a thread at the eyes, look upside down, squeeze the head true."
    ),
    "rescue.face-crooked.2": N_("Move the eyes, not the ears."),
    "rescue.face-crooked.3": N_("Pad the flat cheek."),
    "rescue.face-crooked.4": N_("Shift the nose."),
    "rescue.eyes-differ.1": N_("Add to the smaller."),
    "rescue.eyes-differ.2": N_("Stab the rim of the larger inwards."),
    "rescue.eyes-differ.3": N_("Take both out, and begin again."),
    "rescue.eye-loose.1": N_("A wisp round the shank, glue, and a band till it holds."),
    "rescue.eye-loose.2": N_("It is not a toy for small children until it holds a hard pull."),
    "rescue.mouth-crooked.1": N_("Lift one end with the tip of the needle, and lay it again."),
    "rescue.mouth-crooked.2": N_("Sunk in: new thread in the groove."),
    "rescue.hair-sheds.1": N_("Half the bunch, stabbed deeper."),
    "rescue.hair-sheds.2": N_("Stab a line above the roots again, {shallow} to {deep} deep."),
    "rescue.wire-shows.1": N_("A wisp past the end and back."),
    "rescue.wire-shows.2": N_("Turn the end back with pliers."),
    "rescue.wire-shows.3": N_("A speck of glue under the wisp."),
    "rescue.wire-shows.4": N_("A pad beneath it."),
    "rescue.wool-spins.1": N_("The first wool in a figure of eight over two limbs."),
    "rescue.wool-spins.2": N_("Tape on the wire."),
    "rescue.wool-spins.3": N_("A line of glue along it."),
    "rescue.leans.1": N_("On wire: bend the ankle."),
    "rescue.leans.2": N_("Flatten the base on the side away from which it leans."),
    "rescue.leans.3": N_("Set the head anew."),
    "rescue.leans.4": N_("Weight, low on the other side."),
    "rescue.falls.1": N_("Flatten what rocks."),
    "rescue.falls.2": N_("Set what it stands on farther out to that side."),
    "rescue.falls.3": N_("One more thing that touches: a tail let down, a stick."),
    "rescue.falls.4": N_("Weight, low in the body."),
    "rescue.falls.5": N_("A base."),
    "rescue.needle-broke.1": N_("Find both pieces: a magnet, tweezers, good light."),
    "rescue.needle-broke.2": N_("Not found: this figure does not leave the room."),
}
