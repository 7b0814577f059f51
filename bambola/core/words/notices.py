"""What the maker must know, decide or mend."""

from __future__ import annotations

from bambola.core.marked import N_

SENTENCES = {
    "leave": N_("Leave it"),
    "planned-as-said": N_("It is planned as you said."),
    "now-usual": N_("Made differently now than when it was saved"),
    "now-usual.way": N_("{what:lower}: {how}"),
    "now-usual.how": N_(
        "Where you chose nothing, the usual way is now: {ways}. Order › How you work "
        "changes it back."
    ),
    # How a part is joined.
    "join.fringe": N_("fringe"),
    "join.patch": N_("patch"),
    "join.scarf": N_("scarf"),
    "join.peg": N_("peg"),
    "join.wire": N_("wire"),
    # A join that is too weak.
    "weak-join": N_("{part}: the join is too weak"),
    "weak-join.lifted": N_(
        "If you lift the figure by it and jerk it, a {kind} join holds {holds}."
    ),
    "weak-join.own-weight": N_("Jerked under its own weight, a {kind} join holds {holds}."),
    "weak-join.was": N_("The original join held {holds}: weight grows faster than the join."),
    "weak-join.planned-fringe": N_("Until you choose, Bambola plans it with the fringe alone."),
    "weak-join.planned-patch": N_("Until you choose, Bambola plans a patch over the join."),
    "weak-join.planned-scarf": N_("Until you choose, Bambola plans a wool scarf over the join."),
    "weak-join.planned-peg": N_("Until you choose, Bambola plans a wire peg."),
    "weak-join.planned-wire": N_("Until you choose, Bambola plans a wire through it."),
    "weak-join.patch": N_("Patch over it"),
    "weak-join.patch.effect": N_("wool {band} each side of the line; holds {holds}"),
    "weak-join.scarf": N_("Wool scarf"),
    "weak-join.scarf.effect": N_("a strip round it; holds {holds}"),
    "weak-join.peg": N_("Wire peg"),
    "weak-join.peg.effect": N_("glued into both; holds {holds}"),
    "weak-join.wire": N_("Wire through"),
    "weak-join.wire.effect": N_("and it can be posed; holds {holds}"),
    "weak-join.leave.effect": N_("never lift it there"),
    # Clothes that are bought.
    "garment.another": N_("Another one"),
    "garment.another.effect": N_("{round} round, at least {least}"),
    "garment.open": N_("Open it"),
    "garment.open.effect": N_("and close it behind with a stitch"),
    "garment.tight": N_("open behind"),
    "garment.loose": N_("it hangs loose"),
    "garment.round": N_("Build round it"),
    "garment.round.effect": N_("put on before the last round of the {over:lower}"),
    "garment.stuck": N_("{part}: it does not go on any more"),
    "garment.stuck.how": N_(
        "It stretches to {stretched} and must pass over the {over:lower}, {round} round, which is there "
        "before it."
    ),
    "garment.planned-open": N_("Until you choose, Bambola plans it open at the back."),
    "garment.too-tight": N_("{part}: too tight at this size"),
    "garment.too-tight.how": N_("It is worn on {worn} and stretches to {stretched}."),
    "garment.too-wide": N_("{part}: too wide at this size"),
    "garment.sized": N_("{part}: sized anew"),
    "garment.too-wide.how": N_("It is {round} round; as loose as it was made would be {match}."),
    # Eyes.
    "eye-size": N_("{name}: this size is not sold"),
    "eye-size.how": N_("{size} would match. Small features look bigger than expected."),
    "eye-size.size": N_("{size}"),
    "eye-size.larger": N_("{off:.0%} larger than in proportion"),
    "eye-size.smaller": N_("{off:.0%} smaller than in proportion"),
    "eye-size.felt": N_("Felt them"),
    "eye-size.felt.effect": N_("dark discs of wool, of just this size"),
    # Shapes that cannot be.
    "shape": N_("{part}: shorter than it is thick"),
    "shape.how": N_("Its sizes ask for {long} long and {thick} thick, which cannot be."),
    "shape.planned-longer": N_("Until you choose, Bambola plans it longer."),
    "shape.longer": N_("Make it longer"),
    "shape.slimmer": N_("Make it slimmer"),
    "shape.sizes": N_("{long} long and {thick} thick"),
    # Rows of like parts, folded wire, props that are held.
    "row": N_("{part}: keep their number, their size, or how close they are?"),
    "row.how": N_("There were {n} of {was}, and the figure is {times:.2g} times as large now."),
    "row.number": N_("The number"),
    "row.size": N_("The size"),
    "row.spacing": N_("How close they are"),
    "row.fewer": N_("Half as many"),
    "row.effect": N_("{n} of {size}"),
    "folding": N_("One folded wire would do"),
    "folding.how": N_(
        "Under {under} high a figure needs no bindings: one wire goes out and back along every limb."
    ),
    "folding.folded": N_("Fold one wire"),
    "folding.folded.effect": N_("nothing is bound; every limb is double"),
    "folding.as-drawn": N_("As drawn"),
    "folding.as-drawn.effect": N_("the pieces it was made with"),
    "sits-on": N_("{part}: what sits on it"),
    "sits-on.how": N_(
        "{part} is held at {off} of what the figure’s scale would make it. On it sits: {sitting}."
    ),
    "sits-on.planned": N_("Until you choose, Bambola keeps that with it."),
    "sits-on.with": N_("Keep with it"),
    "sits-on.with.effect": N_("as large beside it as it was made"),
    "sits-on.figure": N_("Grow with the figure"),
    "sits-on.figure.effect": N_("{times:.2g} times as tall as the original beside it"),
    "below-ground": N_("{prop} would hang below the ground"),
    "below-ground.how": N_(
        "Held like this it reaches {deep} below what the figure stands on: raise the "
        "arm, shorten it, or lay it beside the figure."
    ),
    "reach": N_("{part} does not reach the {prop:lower} any more"),
    "reach.how": N_("The original held it; now there is a gap of {gap}."),
    "reach.longer": N_("A longer arm"),
    "reach.longer.effect": N_("as long as it must be to hold it again, within {times:.1f} times"),
    "reach.leave.effect": N_("held by the other hand alone"),
    "hard-core.thin": N_("{part}: the {hard:lower} is hardly covered"),
    "hard-core.thin.how": N_(
        "{over} of wool lies over it; under {least} it is felt, and needles break on it."
    ),
    "hard-core.planned-smaller": N_("Until you choose, Bambola plans a thinner one."),
    "hard-core.smaller": N_("A thinner core"),
    "hard-core.smaller.effect": N_("at most {most} thick"),
    "hard-core.larger": N_("A stouter part"),
    "hard-core.larger.effect": N_("at least {least} thick, all else of it in proportion"),
    "hard-core.none": N_("No core"),
    "hard-core.none.effect": N_("wool all through"),
    # Thick cores.
    "small-face": N_("{part}: some of its face is too small to be made"),
    "small-face.how": N_(
        "At this size there is no room on the {part:lower} for: {pieces}. Leave them out: a small"
        " face needs less."
    ),
    "small-face.without": N_("Leave them out"),
    "small-face.without.effect": N_("the rest of the face stays as it is"),
    "small-face.kept": N_("Make them anyway"),
    "small-face.kept.effect": N_("of a few hairs each, as fine as they come"),
    "soft-centre": N_("{part}: a soft centre would do"),
    "soft-centre.how": N_(
        "Its core is {thick} thick. Left unfelted more than {shell} within, it takes {less} and {hours:.1f} "
        "h less, and gives more under the thumb."
    ),
    "soft-centre.take": N_("Soft centre"),
    "soft-centre.take.effect": N_("saves {less} and {hours:.1f} h"),
    "soft-centre.solid": N_("Felt it through"),
    "soft-centre.solid.effect": N_("as firm in the middle as outside"),
    # What hardly shows, and what touches nothing.
    "left-out": N_("{part}: left out"),
    "left-out.how": N_(
        "The {part:lower} lies entirely inside its neighbours: nothing of it shows, and"
        " it is not made."
    ),
    "patch-out": N_("{part}: without its {patch}"),
    "patch-out.how": N_("At this size that is less than a pinch of wool."),
    "cap": N_("{part}: laid on as a cap"),
    "cap.how": N_(
        "Only {shows} of the {part:lower} shows, the rest lies within its neighbours: it is laid on as a cap "
        "of wool, not shaped and joined."
    ),
    "floating": N_("{part}: it touches nothing"),
    "floating.how": N_(
        "{part} does not reach the {on:lower} it sits on, so it cannot be joined. Push it in or move it in "
        "Measure."
    ),
    "floating.free": N_("It hangs free"),
    "floating.free.effect": N_("on a thread or a wire of its own"),
    # Sizes that do not follow the height.
    "sized": N_("{part}: {rule}"),
    "sized.how": N_("{part} does not simply follow the height: {rule}."),
    "size.held": N_("{measure}: held"),
    "size.hold": N_("{measure}: held at {at}"),
    "size.floor": N_("{measure}: not under {at}"),
    "size.ceiling": N_("{measure}: not over {at}"),
    "size.multiply": N_("{measure}: times {times:g}"),
    "size.corrected": N_("{measure}: {off:+.0%}, as a face of this size asks"),
    "size.stops-light": N_("{measure}: kept thick enough to stop light"),
    "size.with": N_("{measure}: with {on}"),
    "size.slimmer": N_("{measure}: no more than its length allows"),
    "size.longer": N_("{measure}: no less than its thickness allows"),
    "measure.all": N_("all"),
    "measure.base": N_("base"),
    "measure.depth": N_("depth"),
    "measure.diameter": N_("diameter"),
    "measure.height": N_("height"),
    "measure.length": N_("length"),
    "measure.size": N_("size"),
    "measure.thickness": N_("thickness"),
    "measure.tip": N_("tip"),
    "measure.width": N_("width"),
    "droop": N_("{part}: slender without wire"),
    "droop.how": N_(
        "The {part:lower} is {times:.0f} times as long as it is thick and will droop; a wire or a pipe-stem "
        "core holds it."
    ),
    # Standing.
    "standing.over": N_(" over its {side}"),
    "standing.falls": N_("It would fall over"),
    "standing.falls.how": N_(
        "Its weight falls outside what touches the table: it falls{over}. Any of these holds it:"
    ),
    "standing.nudge": N_("It stands, but only just"),
    "standing.nudge.how": N_(
        "It falls{over} at a nudge: it only takes a lean of {lean}. Any of these helps:"
    ),
    "standing.less": N_("Less steady than you asked"),
    "standing.less.how": N_(
        "It tips{over} once it leans by {lean}; you asked for {wished}. Any of these helps:"
    ),
    "remedy.sentence": N_("{remedy}."),
    "remedy.feet": N_("Feet {times:.2f} times as long and wide"),
    "remedy.underside": N_(
        "Its underside pressed flat: {times:.2f} times as long and wide where it touches"
    ),
    "remedy.ballast": N_("{weight} of ballast low in the body"),
    "remedy.contact": N_(
        "A stick, tail or base that touches the table {away} from under its weight"
    ),
    "remedy.stand": N_("A base {across} across, in the middle under its weight"),
    # What a design says and is not followed.
    "aside.question": N_("The answer to “{code}” is ignored: there is no such question."),
    "aside.gone": N_("The answer to “{code}” is ignored: “{about}” no longer exists."),
    "aside.answer": N_("The answer “{said}” to “{code}” is ignored; it may be {allowed}."),
    "aside.variant": N_("The variant “{variant}” changes “{about}”, which no longer exists."),
    "aside.wool": N_("The variant “{variant}” uses the wool “{wool}”, which is not on the shelf."),
    "aside.size": N_("a size in mm, as it is sold"),
    "aside.choice": N_("The way of making chosen for “{choice}” is ignored; there are {allowed}."),
    "aside.school": N_("The way “{school}” of making “{choice}” is ignored; it may be {allowed}."),
    # What cannot be at all.
    "refused.page": N_("There are no pages “{name}”; there are {known}."),
    "refused.pdf": N_("This PDF cannot be read; it may be damaged or locked."),
    "refused.pdf-empty": N_("There is no design of Bambola within this PDF."),
    "refused.core": N_(
        "A hard core in the {part:lower} must be thinner than the part: under {most}."
    ),
    "refused.slot": N_(
        "Step {n}, {step:lower}: this card is missing a number ({slot}), so the part "
        "cannot be made at that size. Check the part’s sizes in Measure."
    ),
    "refused.height": N_("{figure} cannot be {wanted} high: it can be made from {low} to {high}."),
    "refused.height-held": N_(
        "{figure} cannot be {wanted} high with {held:lower} held or bounded: it can be made from {low} to "
        "{high}."
    ),
    "refused.circle": N_(
        "These parts each have to come before the other and cannot be made: {parts:lower}. Change which of "
        "them lies over which."
    ),
    "refused.rows": N_(
        "{part}: at this size it would take {layers} rows of fur, and no more than {most} are planned; make "
        "it smaller, or lay the rows farther apart."
    ),
    "refused.rounds": N_(
        "{part}: at this size it would take {layers} rounds of core, and no more than {most} are planned; "
        "make it smaller."
    ),
    "refused.garment": N_(
        "{part} can never go on: stretched it opens to {stretched}, and the {over:lower}, which it sits on "
        "and must pass over, is {round} round. Open it to {needs}, take something that stretches more, or "
        "tie it round."
    ),
    "refused.no-free-times": N_(
        "There are no free times to work in: add one, such as Tue 19:30 90."
    ),
    "refused.ten-years": N_(
        "Even ten years of these free times are not enough for this figure: add more."
    ),
    "refused.too-long": N_(
        "“{step}” takes {minutes} minutes in one go, and the longest free time is {longest}: a join is not "
        "left half done."
    ),
}
