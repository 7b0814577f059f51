"""What turns at a height, what conditions ask for, and how they are met."""

from __future__ import annotations

from bambola.core.marked import N_, NN_, Plural

SENTENCES: dict[str, str | Plural] = {
    "turn.not": N_("{what} (no longer)"),
    "turn.stands": N_("It stands"),
    "turn.falls": N_("It falls over"),
    "turn.enough": N_("{wool}: the shelf is enough"),
    "turn.runs-out": N_("{wool} runs out: buy {pack}"),
    "turn.packs": NN_("{wool}: buy a pack of {pack}", "{wool}: buy {n} packs of {pack}"),
    "turn.over-packs": NN_(
        "{wool}: more than {n} pack of {pack}", "{wool}: more than {n} packs of {pack}"
    ),
    "turn.eyes-fit": N_("{name}: {size} fits exactly"),
    "turn.eyes-right": N_("{name}: a size that is sold is right"),
    "turn.eyes-between": N_("{name}: between {below} and {above}"),
    "turn.eyes-smaller": N_("{name}: smaller than {size}, the least there is"),
    "turn.eyes-larger": N_("{name}: larger than {size}, the most there is"),
    "turn.wire": NN_("{wire}: {stock} {size}", "{wire}: {stock} {size}, {n} strands"),
    "turn.wire.pliers": NN_(
        "{wire}: {stock} {size}, bent with pliers",
        "{wire}: {stock} {size}, {n} strands, bent with pliers",
    ),
    "turn.made": N_("{part}: {made}"),
    "turn.rounds": NN_("{part}: core in {n} round", "{part}: core in {n} rounds"),
    "turn.no-core": N_("{part}: no core of its own"),
    "turn.join": N_("{part}: joined by {kind}"),
    "turn.quick": N_("It is made in one evening"),
    "turn.evening": N_("It takes more than an evening"),
    "turn.day": N_("It takes more than a day at the table"),
    "turn.week": N_("It takes more than a week of evenings"),
    "turn.fits": N_("It fits: {where}"),
    "turn.fits-not": N_("It does not fit any more: {where}"),
    # What is asked for.
    "asked.wool": N_("the wool on the shelf"),
    "asked.wire": N_("the wire on the shelf"),
    "asked.eyes": N_("{size} eyes"),
    "asked.hours": N_("{hours:.1f} h at most"),
    "asked.grams": N_("{grams} at most"),
    "asked.cost": N_("{money} at most"),
    "asked.size": N_("{part}: {measure} {size}"),
    "asked.niche": N_("room for it: {where}"),
    "asked.stands": N_("it stands"),
    "asked.nothing-to-decide": N_("nothing to decide"),
    "asked.garment": N_("{part} fits"),
    "asked.ready": N_("ready by {day}"),
    "asked.reach": N_("{what} ({low} to {high})"),
    "asked.never": N_("No height meets this: {what}."),
    "asked.both": N_("These contradict each other: {one}; {other}."),
    "asked.not-all": N_("Any two of these can be met, but not all of them at one height."),
    # What can be had where.
    "fit.eyes": N_("{name}: {size} is right"),
}
