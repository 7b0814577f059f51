"""Why a step comes where it does, and what makers do differently."""

from __future__ import annotations

from bambola.core.marked import N_

SENTENCES = {
    # Rules of the order.
    "rule.wire-before-wool": N_(
        "Wire is cut, turned over and bound before any wool goes on it: a bound wire "
        "cannot be reached through felt."
    ),
    "rule.mixed-before-laid": N_(
        "Mix a blend before anything is made of it: a second mixing is never the same."
    ),
    "rule.layers-inside-out": N_(
        "A core comes before its coat and rounds run from the inside out: a needle cannot"
        " firm what lies under a finished surface."
    ),
    "rule.hard-things-first": N_(
        "Make clay pieces first: they dry for days while you begin the figure."
    ),
    "rule.stitches-hidden": N_(
        "Ears go on after eyes that are sewn: they hide where the thread comes out."
    ),
    "rule.lower-place-first": N_(
        "Where two colours overlap, lay the lower one first: laid last, it would cover the other."
    ),
    "rule.coat-under-clothes": N_(
        "Put clothes on once the parts under them have their coat: afterwards no needle reaches "
        "there."
    ),
    "rule.stood-on-its-feet": N_("It cannot be stood before its feet are on."),
    "rule.parent-firm": N_(
        "What something is joined to must be firm first: a soft base gives way and the "
        "join works loose."
    ),
    "rule.apart-then-joined": N_(
        "A part made apart is shaped, coated, joined and blended in that order; one built"
        " in place waits for the coat under it."
    ),
    "rule.sockets-before-glue": N_(
        "Sockets are opened and the eyes tried dry before glue, and eyes come before lids"
        " and rims: a glued eye cannot be moved."
    ),
    "rule.over-before-wide": N_(
        "What must pass over an end goes on before that end is wider than its opening: "
        "afterwards it will not go on."
    ),
    "rule.enclosed-first": N_(
        "What another part encloses comes first: it cannot be reached later."
    ),
    "rule.fur-from-the-edge": N_(
        "Fur starts at the edge the hair points to, each row over the roots of the last; "
        "joins under fur come before it."
    ),
    "rule.glue-cures": N_("The region is left alone until its glue has cured."),
    "rule.marks-first": N_(
        "A peg hole comes before its peg and the marks of the face before its parts: by "
        "eye alone they end up askew."
    ),
    "rule.needlework-first": N_(
        "What sits on a part that is glued on is done before: glue spoils needles, and a needle loosens "
        "what glue holds."
    ),
    "rule.face-in-turn": N_(
        "A face goes on finished skin, in this order: around the eyes once they are in,"
        " then from the nose down, the brows last, and hair over everything."
    ),
    "rule.pair-before-joined": N_(
        "Join the two to each other first, and then as one piece, so that they stay level."
    ),
    "rule.creased-when-joined": N_(
        "A fold is felted when the limb holds and has its skin: felted before, it is pulled open again."
    ),
    "rule.check-the-whole": N_(
        "The whole is smoothed when everything is on it, and looked at last."
    ),
    "rule.own-move": N_("You moved it here yourself; it stays as near as the hard rules allow."),
    "rule.face-and-head": N_(
        "The face waits until the head is on: its look depends on the tilt of the head."
    ),
    "rule.relief-and-marks": N_(
        "A snout stands before the face is marked, and ears go where their bases are marked."
    ),
    "rule.coat-over-the-wound": N_("Wind everything on one frame before any coat goes over it."),
    "rule.wound-from-where": N_(
        "If a limb’s winding begins in the middle, the body is wound over it; otherwise the body "
        "is wound first."
    ),
    "rule.blend-over-coats": N_(
        "A join is blended over the coats that meet there: one laid later would bury the veil."
    ),
    "rule.coat-under-parts": N_(
        "What a part is joined to has its coat first: under the part it could not be laid evenly."
    ),
    "rule.stood-early": N_(
        "It is stood while its feet can still be pressed level: with fur, clothes and "
        "eyes on it, that would spoil them."
    ),
    "rule.whiskers-late": N_(
        "Whiskers go on when what bears them is in its place: they bend while it is handled."
    ),
    "rule.loop-late": N_("Fix the loop once everything heavy is on."),
    "rule.inset-and-coat": N_(
        "The patch goes first and the surround is tucked against it: the edge is crisper."
    ),
    "rule.coat-after-joining": N_(
        "One colour over everything: the coat waits until the parts are joined."
    ),
    "rule.whole-before-joined": N_(
        "What sits on a part is joined to it while it can still be turned in the hand."
    ),
    "rule.joined-under-clothes": N_(
        "What clothes lie over is finished first: through them nothing is joined or blended."
    ),
    "rule.clothes-before-head": N_("The head goes on last, and the clothes before it."),
    "rule.one-limb-at-a-time": N_("One limb is finished before the other is begun."),
    "rule.clothes-last": N_(
        "It passes over the finished head, so it goes on last and stays clean."
    ),
    "rule.props-last": N_(
        "Things that are only held or hung go on last: they are in the way of the needle."
    ),
    # Choices: their names, the reason of what is usual, and each way with what is done.
    "choice.face": N_("The face"),
    "choice.face.why": N_("a head in the hand can be turned to every side"),
    "choice.face.before": N_("finished in the hand"),
    "choice.face.before.does": N_("all of the face is on before the head is joined"),
    "choice.face.eyes-first": N_("eyes and nose in the hand"),
    "choice.face.eyes-first.does": N_("mouth, lids and cheeks wait for the tilt of the head"),
    "choice.face.after": N_("after the head is on"),
    "choice.face.after.does": N_("all of the face waits for the join"),
    "choice.fur-on-parts": N_("Fur on ears, tails and wings"),
    "choice.fur-on-parts.why": N_("on the pad it is laid from all sides"),
    "choice.fur-on-parts.on-the-pad": N_("on the pad"),
    "choice.fur-on-parts.on-the-pad.does": N_("except the last row, which hides the join"),
    "choice.fur-on-parts.after-joining": N_("after joining"),
    "choice.fur-on-parts.after-joining.does": N_("every row waits for the join"),
    "choice.colour": N_("Colour"),
    "choice.colour.why": N_("contrasting colours stay clean"),
    "choice.colour.each-part-first": N_("each part first"),
    "choice.colour.each-part-first.does": N_("a part is coated before it is joined"),
    "choice.colour.after-joining": N_("after joining"),
    "choice.colour.after-joining.does": N_("the coat goes over the joins"),
    "choice.stems": N_("Limbs on a stem of their own"),
    "choice.stems.why": N_("glue holds at once, and a stem can be turned until then"),
    "choice.stems.pushed-in": N_("pushed into a hole"),
    "choice.stems.pushed-in.does": N_("the stem is glued into a hole"),
    "choice.stems.under-a-band": N_("under a band of wool"),
    "choice.stems.under-a-band.does": N_("the stem lies along the body, without glue"),
    "choice.insets": N_("Patches"),
    "choice.insets.why": N_("it can be moved and mended late"),
    "choice.insets.first": N_("patch first"),
    "choice.insets.first.does": N_("the surround is tucked against it"),
    "choice.insets.on-top": N_("on top of the coat"),
    "choice.insets.on-top.does": N_("the patch is laid on the finished coat"),
    "choice.ears": N_("Ears and other pairs"),
    "choice.ears.why": N_("each finds its own place"),
    "choice.ears.pair-first": N_("pair first"),
    "choice.ears.pair-first.does": N_("both are joined to each other, then to the head"),
    "choice.ears.one-by-one": N_("one by one"),
    "choice.ears.one-by-one.does": N_("each is joined by itself"),
    "choice.neck": N_("The neck"),
    "choice.neck.why": N_("weight grows faster than the join"),
    "choice.neck.by-load": N_("as its load asks"),
    "choice.neck.by-load.does": N_("wool only, a scarf of wool, or a peg: the least that holds"),
    "choice.neck.scarf": N_("scarf of wool only"),
    "choice.neck.scarf.does": N_("a strip of wool round the join"),
    "choice.neck.peg": N_("glued peg"),
    "choice.neck.peg.does": N_("a straight wire glued into both"),
    "choice.neck.wire": N_("wire through"),
    "choice.neck.wire.does": N_("the skeleton runs on into it, and it can be posed"),
    "choice.clothes": N_("Head and clothes"),
    "choice.clothes.why": N_("a collar that passes stays clean"),
    "choice.clothes.by-opening": N_("by the opening"),
    "choice.clothes.by-opening.does": N_("what passes the head goes on last"),
    "choice.clothes.head-last": N_("head last"),
    "choice.clothes.head-last.does": N_("clothes go on before the head is joined"),
    "choice.clothes.clothes-last": N_("clothes last"),
    "choice.clothes.clothes-last.does": N_("clothes go on over the finished head if they pass"),
    "choice.small": N_("Small parts"),
    "choice.small.why": N_("soft wool grips better"),
    "choice.small.soft": N_("left soft"),
    "choice.small.soft.does": N_("small parts are firmed on the body"),
    "choice.small.firm": N_("firm first"),
    "choice.small.firm.does": N_("they are firmed before they are joined"),
    "choice.limbs": N_("Limbs"),
    "choice.limbs.why": N_("they match"),
    "choice.limbs.back-to-back": N_("pair back to back"),
    "choice.limbs.back-to-back.does": N_("both of a pair step by step"),
    "choice.limbs.one-at-a-time": N_("one at a time"),
    "choice.limbs.one-at-a-time.does": N_("one limb complete, then the other"),
    "choice.near-wire": N_("Near wire"),
    "choice.near-wire.why": N_("less likely to snap"),
    "choice.near-wire.stout": N_("stout needle"),
    "choice.near-wire.stout.does": N_("straight in and out"),
    "choice.near-wire.fine": N_("fine needle"),
    "choice.near-wire.fine.does": N_("by the size of the part"),
    "choice.mass": N_("Head, body and lumps"),
    "choice.mass.why": N_("parts can be compared, and made again"),
    "choice.mass.parts": N_("each made apart"),
    "choice.mass.parts.does": N_("what can be held is felted alone, then joined"),
    "choice.mass.one-mass": N_("of one mass"),
    "choice.mass.one-mass.does": N_("what a needle reaches through is built on what it sits on"),
    "choice.firmness": N_("Firmness"),
    "choice.firmness.why": N_("so the figure was drawn"),
    "choice.firmness.as-drawn": N_("as drawn"),
    "choice.firmness.as-drawn.does": N_("every part as firm as its maker has it"),
    "choice.firmness.firm": N_("firm and hard-wearing"),
    "choice.firmness.firm.does": N_("every part one grade firmer: more wool, and longer at it"),
    "choice.firmness.soft": N_("soft and fluffy"),
    "choice.firmness.soft.does": N_(
        "one grade softer where nothing sits, holds or shows an edge: less wool, and sooner done"
    ),
    "choice.white": N_("White over white"),
    "choice.white.why": N_("core wool is coarse, and yellows"),
    "choice.white.veil": N_("a coat over the core"),
    "choice.white.veil.does": N_("the finer wool is what is seen"),
    "choice.white.core": N_("the core itself"),
    "choice.white.core.does": N_("where both are as pale, the coat is left out"),
    "choice.eyes": N_("Eyes"),
    "choice.eyes.why": N_("so the figure was drawn"),
    "choice.eyes.as-drawn": N_("as drawn"),
    "choice.eyes.as-drawn.does": N_("each as its maker has it"),
    "choice.eyes.glued": N_("glued in"),
    "choice.eyes.glued.does": N_("quick; the place waits for the glue"),
    "choice.eyes.sewn": N_("sewn on"),
    "choice.eyes.sewn.does": N_("thread holds them deep and fast; no glue, no waiting"),
    "choice.eyes.clay": N_("of clay, on a wire"),
    "choice.eyes.clay.does": N_("shaped and baked before, of any size; its wire is glued in"),
    "choice.eyes.pins": N_("heads of pins"),
    "choice.eyes.pins.does": N_("for the smallest faces: cut short, and glued in"),
    "choice.eyes.felted": N_("felted of wool"),
    "choice.eyes.felted.does": N_("of just the size that is wanted, whatever is sold"),
    "choice.tape": N_("Wire under little wool"),
    "choice.tape.why": N_("on a bare wire a thin layer spins"),
    "choice.tape.thin": N_("taped"),
    "choice.tape.thin.does": N_("paper tape is wound on where wool is thin"),
    "choice.tape.bare": N_("bare"),
    "choice.tape.bare.does": N_("wool goes on the metal itself"),
    "choice.skin": N_("The skin at the end"),
    "choice.skin.why": N_("felt may be mended at any time"),
    "choice.skin.dry": N_("dry, as it is felted"),
    "choice.skin.dry.does": N_("smoothed with the needle, and trimmed"),
    "choice.skin.glue-soap": N_("glue and soap"),
    "choice.skin.glue-soap.does": N_("bare skin is stroked smooth with thin glue and soap water"),
    "choice.blank": N_("Two colours on a thin sheet"),
    "choice.blank.why": N_("laid on later, a colour pushes through to the other side"),
    "choice.blank.within": N_("in one blank"),
    "choice.blank.within.does": N_("both are laid before the sheet is felted"),
    "choice.blank.on-top": N_("laid on later"),
    "choice.blank.on-top.does": N_("the second colour is a patch on the finished sheet"),
    "choice.fur": N_("Fixing fur"),
    "choice.fur.why": N_("a folded bunch holds at its middle and hides its roots"),
    "choice.fur.fold": N_("folded over"),
    "choice.fur.fold.does": N_("stabbed across its middle, folded, and stabbed again"),
    "choice.fur.middle": N_("by its middle, then trimmed"),
    "choice.fur.middle.does": N_("both halves stand up; the row is trimmed when it is full"),
    "choice.fur.locks": N_("in locks, by the root"),
    "choice.fur.locks.does": N_("each lock is pressed in whole, and keeps its curl"),
    "choice.seat": N_("How the head is set"),
    "choice.seat.why": N_("round sits in round without more wool"),
    "choice.seat.dish": N_("in a hollow"),
    "choice.seat.dish.does": N_("the head’s end is hollowed to fit the round below it"),
    "choice.seat.bump": N_("on a neck bump"),
    "choice.seat.bump.does": N_("a bump of wool is felted on first, and the head pressed over it"),
    "choice.crease": N_("Folds of a sitting figure"),
    "choice.crease.why": N_("a bent limb springs back"),
    "choice.crease.crease": N_("felted"),
    "choice.crease.crease.does": N_("stabbed down along the fold till it stays by itself"),
    "choice.crease.bend": N_("only bent"),
    "choice.crease.bend.does": N_("the wire alone holds the fold"),
    "choice.legs": N_("Legs"),
    "choice.legs.why": N_("thin ends stay thin"),
    "choice.legs.middle-out": N_("from the middle out"),
    "choice.legs.middle-out.does": N_("the excess is torn off at the end"),
    "choice.legs.body-down": N_("from the body down"),
    "choice.legs.body-down.does": N_("wrapped towards the foot"),
}
