"""Wire: what decides how stout it is, what it is bent and bound to, and what it asks of the maker."""

from __future__ import annotations

from bambola.core.marked import N_, NN_, Plural
from bambola.translated import C_

SENTENCES: dict[str, str | Plural] = {
    "wire.for-own-weight": N_("its own weight"),
    "wire.for-fingers": N_("a finger at its end"),
    "wire.for-springs": N_("the felt, which springs back"),
    "wire.for-as-steady": N_("as steady as before"),
    "wire.for-as-drawn": N_("the wire you drew, in proportion"),
    "wire.for-as-made": N_("the wire you drew"),
    "wire.for-seat": N_("what sits on it"),
    "wire.for-hidden": N_("what hides in it, and is enough"),
    "wire.first-end": N_("turn the first end over"),
    "wire.last-end": N_("turn the last end over"),
    "wire.loop": N_("loop at the end"),
    "wire.bind": N_("bind to {to:lower}"),
    "wire.peg-into": N_("peg into the {part:lower}"),
    "wire.splice": N_("splice"),
    "bend": N_("bend {angle} at {at}"),
    "bend.clockwise": N_("turn the wire {roll} clockwise and bend {angle} at {at}"),
    "bend.back": N_("turn the wire {roll} anticlockwise and bend {angle} at {at}"),
    "bend.curve": N_("curve {angle} in all from {at} to {end}"),
    "bend.curve.clockwise": N_(
        "turn the wire {roll} clockwise and curve {angle} in all from {at} to {end}"
    ),
    "bend.curve.back": N_(
        "turn the wire {roll} anticlockwise and curve {angle} in all from {at} to {end}"
    ),
    "choose.soft-aluminium": N_("Soft aluminium"),
    "choose.soft-copper": N_("Soft copper"),
    "choose.half-hard-brass": N_("Half-hard brass"),
    "choose.soft-steel": N_("Soft steel"),
    # Limbs too thin for their wire.
    "thin-limb": N_("{part}: too thin for its wire"),
    "thin-limb.how": N_("It would be {limb}; wire and the wool to hide it need {needs}."),
    "thin-limb.from": N_("From {height} up the figure would hide it."),
    "thin-limb.even-so": N_("Even then it is {limb}, and {needs} is needed."),
    "thin-limb.thinner-wire": N_("Thinner wire"),
    "thin-limb.thinner-wire.effect": N_("{size} hides in it and {bears}"),
    "thin-limb.thinner-wire.told": N_("Its wire is thinner, hides in it, and holds less."),
    "thin-limb.fewer-strands": N_("One strand less"),
    "thin-limb.fewer-strands.effect": N_("thinner bundle, holds less"),
    "thin-limb.fewer-strands.told": N_("One strand less runs in it."),
    "thin-limb.stronger-metal.effect": N_("{size} hides in it and holds"),
    "thin-limb.stronger-metal.told": N_("Its wire is of a stronger metal, and thinner."),
    "thin-limb.no-wire": N_("No wire"),
    "thin-limb.no-wire.effect": N_("felt it firm; it cannot be posed"),
    "thin-limb.no-wire.told": N_("It is made without wire: felt it firm."),
    "thin-limb.no-wire.flops": N_("at {long} it flops; a limb this thin holds itself up to {most}"),
    "thin-limb.no-wire.folds": N_("the figure stands on it, and it would fold"),
    "thin-limb.glue-wound": N_("Wind it with glue"),
    "thin-limb.glue-wound.effect": N_(
        "wool glued on {size} wire hides it; {bears}; no needle goes in after"
    ),
    "thin-limb.glue-wound.told": N_("Its wool is wound on with glue, and no needle goes in after."),
    "thin-limb.chenille": N_("Chenille stems"),
    "thin-limb.chenille.effect": N_("hide in it and grip the wool; {bears}"),
    "thin-limb.chenille.told": N_("Its wire is chenille stems."),
    "thin-limb.stouter-limb": N_("Stouter limb"),
    "thin-limb.stouter-limb.told": N_("It is made stouter, so that wool hides the wire."),
    "thin-limb.slim-and-stouter": N_("{size} wire, less stout"),
    "thin-limb.slim-and-stouter.effect": N_("{stouter}; {bears}"),
    "thin-limb.slim-and-stouter.told": N_(
        "It has the thinnest wire and is made just stout enough to hide it."
    ),
    "thin-limb.stouter": N_("{thick} thick, {more} more wool"),
    "thin-limb.sags": N_("sags under its own weight"),
    "thin-limb.holds": N_("it holds as it should"),
    "thin-limb.just-bears": N_("just bears its weight: leave it as posed"),
    "thin-limb.bears": N_("bears its weight, but bends more easily in the hand"),
    # Stock.
    "stock": N_("{wire}: no stock is stout enough"),
    "stock.how": N_("For {cause} it takes {needs}; {size} holds {holds}."),
    "stock.metal.effect": N_("{size} holds"),
    "stock.holds": N_("holds"),
    "stock.second-strand": N_("A second strand"),
    "stock.second-strand.effect": N_("two of {size}, twisted together, hold"),
    "stock.doubled": N_("A second wire runs beside it, twisted on."),
    "stock.instead": N_("It is made of {metal:lower} instead."),
    "stock.cores": N_("{cores} × {metal}"),
    "stock.sold": N_("{metal} {size}"),
    "stock.stand": N_("Give it a stand"),
    "stock.stand.effect": N_("a rod from its base bears what the wire cannot"),
    "stock.leave.effect": N_("pose it with care"),
    "gauge.thin": N_("{wire}: thinner than it should be"),
    "gauge.help": N_("More strands, a stronger metal or a stand help."),
    # Routes.
    "strands": N_("{part}: a stretch lacks wire"),
    "strands.how": N_(
        "The drawn wires give {lacking} of the strands asked there. Choose a school to have it routed anew, "
        "or ask for fewer strands."
    ),
    "strands.some": N_("{there} of {asked}"),
    "strands.none": C_("strands of wire", "none"),
    "loose": N_("{wire} is bound to nothing"),
    "loose.how": N_(
        "It meets the other wires and is twisted on to none: it will turn in the wool. Choose a school to "
        "have it bound, or draw it on from where they meet."
    ),
    "buy-wire": N_("Wire to buy: {what}"),
    "buy-wire.how": N_("The shelf does not have it: {what}."),
    "buy-wire.stems": NN_("{n} × {length} of {stock}", "{n} × {length} of {stock}"),
    "buy-wire.coil": N_("{length} of {stock}"),
    "splice": N_("{wire}: spliced at a bend"),
    "splice.how": N_(
        "No plain run is long enough for the splice; bind it well, or use longer stock."
    ),
}
