"""The book: what a figure costs, and what became of it."""

from __future__ import annotations

from bambola.core.marked import N_, Plural

SENTENCES: dict[str, str | Plural] = {
    "care.ornament": N_(
        "An ornament and no toy: small parts, wire and beads can come off. Keep it from small children and "
        "pets."
    ),
    "care.law": N_(
        "It is sold as an ornament. Sold as a toy, it must be tested by a qualified "
        "body under your local law."
    ),
    "care.keep": N_("Keep it dry, out of the sun, and from moths."),
    "care.clean": N_("Dust it with a soft brush; do not wash it, or squeeze it."),
    "cost.grams": N_("{grams}"),
    "cost.length": N_("{long}"),
    "cost.pieces": N_("{n}"),
    "cost.eyes": N_("Eyes {size}"),
    "cost.needles": N_("Needles {gauge}"),
    "glue.instant": N_("Instant glue"),
    "glue.hot": N_("Hot glue"),
    "glue.clear": N_("Clear glue"),
    "glue.white": N_("White glue"),
    "tool.needles": N_("Needles {gauges}"),
    "tool.holder": N_("A holder, for up to {n} needles"),
    "tool.pad": N_("A pad, with a scrap of felt on it"),
    "tool.pads": N_("Two pads, one for pale wool and one for dark"),
    "tool.scale": N_("Scale"),
    "tool.tape-measure": N_("Tape measure, ruler"),
    "tool.pliers": N_("Pliers, side cutters, glasses"),
    "tool.tape": N_("Tape for the wire"),
    "tool.awl": N_("Awl"),
    "tool.pins": N_("Pins with heads that are seen"),
    "tool.thread": N_("Strong thread and its needle"),
    "tool.scissors": N_("Scissors"),
    "tool.sewing": N_("Sewing needle and thread"),
    "tool.glue": N_("{what}"),
    "buy.packs": N_("{n} × {pack} {name}"),
    "buy.pieces": N_("{n} × {name}, {size}"),
    "buy.wire": N_("{long} of {what:lower}"),
    "buy.needles": N_("Needles {gauge}: the last one broke"),
    "buy.bottle": N_("{what}, {grams}"),
    "fair.step": N_("{figure}: {step}"),
    "fair.no-time": N_("You have no free time until that day."),
    "fair.no-end": N_("{n} choices do not fit into the sittings; plan with fewer designs."),
    "spare.garment": N_("{part}: leave it off"),
    "spare.fur": N_("{part}: no fur"),
    "spare.inset": N_("{part}: in one colour"),
}
