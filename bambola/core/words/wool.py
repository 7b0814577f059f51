"""Wool: where a weight comes from, and how portions, bags and twins are called."""

from __future__ import annotations

from bambola.core.marked import N_, NN_, Plural

SENTENCES: dict[str, str | Plural] = {
    "named": N_("{name}"),
    "firmness.soft": N_("soft"),
    "firmness.medium": N_("medium"),
    "firmness.firm": N_("firm"),
    "firmness.hard": N_("hard"),
    "fur.locks": N_("locks"),
    "fur.fleece": N_("fleece"),
    "fur.pile": N_("pile"),
    # Where a weight comes from.
    "wool.core": N_("{density} ({firmness}) × {volume}, less what lies on it"),
    "wool.cap": N_(
        "{density} ({firmness}) × {volume}, less what lies on it; only {shows} of it shows, the rest lies in "
        "what it sits on"
    ),
    "wool.loose-end": N_("{cover} over {area}"),
    "wool.with-end": N_("{core}; for its loose end {end}"),
    "wool.soft-centre": N_("{density}, rolled and not felted, {within} within"),
    "wool.coat": N_("{cover} over {area} of skin that shows"),
    "wool.patch": N_("{cover} over a patch of {area}"),
    "wool.patch-tucked": N_(
        "{cover} over a patch of {area} and {under} under the coat along its edge of {edge}"
    ),
    "wool.fur-base": N_(
        "{cover} of {kind} over {area} of skin, in rows {apart} apart, hair {hair} lying to the base"
    ),
    "wool.fur-tip": N_(
        "{cover} of {kind} over {area} of skin, in rows {apart} apart, hair {hair} lying to the tip"
    ),
    "wool.rows-base": NN_(
        "{n} row from the base, hair {hair}", "{n} rows from the base, hair {hair}"
    ),
    "wool.rows-tip": NN_("{n} row from the tip, hair {hair}", "{n} rows from the tip, hair {hair}"),
    "wool.face": NN_(
        "{how}, {long} long and {wide} wide, felted firm",
        "{n} alike: {how}, {long} long and {wide} wide, felted firm",
    ),
    "laid-as.hairs": N_("single hairs"),
    "laid-as.twist": N_("a twisted wisp"),
    "laid-as.pinch": N_("a pinch"),
    "laid-as.half-disc": N_("half a disc"),
    "wool.seam-patch": N_("{cover} over a patch {round} round and {wide} wide"),
    "wool.seam-scarf": N_("{cover} over a scarf {round} round and {wide} wide"),
    # Portions, and how much of them is taken.
    "portion.core": N_("core"),
    "portion.soft-centre": N_("soft centre"),
    "portion.cap": N_("cap"),
    "portion.wisp": N_("wisp"),
    "portion.coat": N_("coat"),
    "portion.inset": N_("{name}"),
    "portion.seam-patch": N_("patch"),
    "portion.seam-scarf": N_("scarf"),
    "portion.fur": N_("fur"),
    "amount.weight": N_("{weight}"),
    "amount.share": N_("{weight}, 1/{parts} of {whole}"),
    "amount.pinch": N_("a pinch rolled {across} across"),
    "amount.keep": N_("{weight} more in reserve"),
    "ready.ball": N_("roll to {size}"),
    "ready.sausage": N_("roll to {size}"),
    "ready.cone": N_("roll to {size}"),
    "ready.sheet": N_("lay out to its blank"),
    "ready.veil": N_("a heap {across} across, pulled into veils"),
    # What is weighed out.
    "copy.first": N_("{part}, first"),
    "copy.second": N_("{part}, second"),
    "copy": N_("{part}, {number}"),
    "bag.with-reserve": N_("{take} + {keep}"),
    "bag.of": N_("{n} of {count}: {figure}"),
    "twins.heaps": N_("Weigh one, and lay the other beside it: two equal heaps."),
    "twins.roll": N_("Make one long roll of both and cut it in half."),
    "twins.strip": N_("Lay one strip for both and split it down the middle."),
    "twins.weigh": N_("Weigh both, and hold them beside each other."),
    "how-to-mix": N_(
        "Take a little of each at a time, in these handfuls. Lay them on each other, hold both ends, pull "
        "apart, and lay the halves on each other again: six or seven times for an even colour, three for a "
        "mottled one."
    ),
    "laid": N_("{of}"),
    "laid.all": N_("{weight} of {wool:lower}"),
    "laid.share": N_("{weight} of {wool:lower} (of {whole})"),
    "laid.copies": NN_("{n} × {each}", "{n} × {each}"),
}
