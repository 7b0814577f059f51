"""A part held by a wire peg: its hole, and setting it."""

from __future__ import annotations

import itertools

import numpy as np

from bambola.core.facts import Fact, Mm, SoldSize, fact
from bambola.core.marked import N_, Plural
from bambola.core.methods import slots
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import (
    DrawnArea,
    DrawnLine,
    Number,
    Piece,
    StepDrawing,
    box,
    line,
    oval,
)
from bambola.core.methods.parts import LOW, across, card, check, run, stab, stop
from bambola.core.methods.values import Card, Method
from bambola.core.plan.making.jobs import peg_of
from bambola.core.solids.inside import points_within

DEEPER_MM, WIDER_MM = 2.0, 0.5
"""A hole is so much deeper than its peg, and at most so much wider. Judged. See craft.md, 10."""


def peg_mm(at: StepInPlan) -> tuple[float, float]:
    """Return the length of the wire in the bearer, and its diameter (mm)."""
    figure = at.plan.resized.figure
    if at.job is not None and at.job.stem:
        return stem_mm(at), at.wire_mm
    pegs = (wire for wire in at.plan.wires if wire.id.startswith("peg-"))
    wire = next(wire for wire in pegs if peg_of(wire.id, figure) == at.row.id)
    first = wire.stretches[0]
    return first.end_mm - first.start_mm, wire.diameter_mm


def stem_mm(at: StepInPlan) -> float:
    """Return the length of a stem in its bearer, from its end to the skin (mm)."""
    placement, figure = at.plan.solids.placement, at.plan.resized.figure
    side = at.placed[0].side
    nodes = {node.id: node for node in figure.nodes}
    wire = next(w for w in figure.wires if at.row.id in {nodes[name].part for name in w.route})
    route = [placement.nodes[name] for name in wire.route if nodes[name].side in (None, side)]
    back = np.linalg.inv(at.bearer.matrix)
    steps = [a + share * (b - a) for a, b in itertools.pairwise(route) for share in _SHARES]
    inside = points_within(at.bearer.shape, np.array(steps) @ back[:3, :3].T + back[:3, 3])
    runs = [float(np.linalg.norm(b - a)) / len(_SHARES) for a, b in itertools.pairwise(route)]
    return float((np.repeat(runs, len(_SHARES)) * inside).sum())


_SHARES = (np.arange(50) + 0.5) / 50
"""A stem is asked for at so many places of each of its bones whether it is in what bears it. Judged."""


LEAST_MM = 8.0
"""A shorter peg holds nothing. Judged. See craft.md, 10."""


def _card(at: StepInPlan) -> Card:
    long, thick = peg_mm(at)
    if at.sort == "peg":
        how: tuple[Fact | None, ...] = (
            fact("peg.open", part=at.part_name, deep=Mm(long + DEEPER_MM)),
            fact("peg.try", gauge=SoldSize(thick)),
        )
        until = Fact("peg.until-hole")
        stops = (stop("depth", long + DEEPER_MM - 1, long + DEEPER_MM + 1),)
        return card(at, "peg", how, stops=stops, until=until, checks=(check("peg-dry"),))
    return card(
        at,
        "peg",
        (
            fact("peg.glue", part=at.part_name),
            fact("peg.push", deep=Mm(long)),
            Fact("peg.hold"),
            Fact("peg.rim"),
        ),
        start=Fact("peg.start"),
        needles=(run(38, slots.DEPTH_MM["peg"], LOW, "rim"),),
        until=Fact("peg.until"),
        checks=(check("peg-turns"), check("straight")),
        scale=fact("peg.scale", least=Mm(LEAST_MM)),
    )


def _fits(at: StepInPlan) -> bool:
    pegged = at.sort == "join" and at.job is not None and at.job.is_pegged
    return at.sort == "peg" or pegged


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the hole with its peg, and the part on it."""
    long, thick = peg_mm(at)
    deep = long + DEEPER_MM
    wide = sorted(at.finished)[1]
    ground = max(2.2 * wide, 2.0 * deep)
    pieces: list[Piece] = [
        DrawnArea(box(ground, deep * 1.6, (0.0, -deep * 0.8)), "under"),
        DrawnArea(box(thick + WIDER_MM, deep, (0.0, -deep / 2)), "paper"),
        across((0.0, 0.0), (0.0, -deep), deep, ground * 0.28)
        if at.sort == "peg"
        else across((0.0, 0.0), (0.0, -long), long, ground * 0.28),
        DrawnLine(
            line((0.0, -long if at.sort != "peg" else long * 0.4), (0.0, long * 0.8)), "wire", thick
        ),
    ]
    if at.sort != "peg":
        pieces += [
            DrawnArea(oval(wide, wide * 1.2, (0.0, wide * 0.6)), "wool"),
            Number((wide * 0.3, 0.0), 4),
        ]
        pieces.append(stab((wide * 0.4, -2.0), card_.needles[0], 30))
    pieces.append(Number((-ground * 0.1, -deep * 0.5), 1))
    return StepDrawing(tuple(pieces))


SENTENCES: dict[str, str | Plural] = {
    "peg.open": N_("Open the hole for {part}, {deep} deep, turning the awl."),
    "peg.try": N_(
        "Try the peg, {gauge}, dry: the awl stays in until the glue is ready, for holes close."
    ),
    "peg.glue": N_("Glue on the bare wire only, for {part}."),
    "peg.push": N_("Push it home, {deep}."),
    "peg.hold": N_("Hold it until it does not move."),
    "peg.rim": N_("Felt the rim when the glue has set."),
    "peg.start": N_("All needlework nearby is done first: glue spoils needles."),
    "peg.until": N_("It does not turn, and its rim lies on."),
    "peg.until-hole": N_("The peg goes in to its mark and stands straight."),
    "peg.scale": N_("Large heads want two pegs; a peg under {least} does nothing."),
    "peg.why": N_("Glue holds wire better than felt holds felt where the weight is large."),
}

METHOD = Method("peg", _fits, _card, _picture)
