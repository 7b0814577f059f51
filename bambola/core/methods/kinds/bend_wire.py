"""Bending a wire along its marks, and binding it to the wire it meets."""

from __future__ import annotations

import itertools

import numpy as np

from bambola.core.armature.cuts import BINDING_TURNS, CutWire, by_hand
from bambola.core.facts import NOTHING, Fact, fact
from bambola.core.marked import N_, NN_, Plural
from bambola.core.methods.at import StepInPlan
from bambola.core.methods.drawing import DrawnLine, Number, Piece, StepDrawing
from bambola.core.methods.parts import across, card, check
from bambola.core.methods.values import Card, Method
from bambola.core.solids.forms import Array


def _card(at: StepInPlan) -> Card:
    wire = at.wire
    bends = by_hand(wire.bends)
    banded = at.plan.gauges[wire.id].cores > 1
    bound = any(s.kind == "binding" for s in wire.stretches)
    return card(
        at,
        "bend-wire",
        (
            fact("bend-wire.marks", n=len(bends)) if bends else Fact("bend-wire.straight"),
            *(fact("bend-wire.one", bend=bend.as_fact) for bend in bends),
            fact(f"bend-wire.{'band' if banded else 'bind'}", turns=BINDING_TURNS)
            if bound
            else None,
            Fact("bend-wire.loops") if any(s.kind == "loop" for s in wire.stretches) else None,
            Fact("bend-wire.lay"),
        ),
        start=Fact("bend-wire.start") if bends else NOTHING,
        until=Fact("bend-wire.until-bound" if bound else "bend-wire.until"),
        checks=(check("joint"), check("bare-stand")) if bound else (check("bare-print"),),
        scale=Fact("bend-wire.scale"),
    )


def _picture(at: StepInPlan, card_: Card) -> StepDrawing:
    """Return the wire as it is bent, seen from the side that shows it best."""
    wire = at.wire
    points = np.array(wire.points_mm)
    middle = points - points.mean(axis=0)
    _, _, ways = np.linalg.svd(middle, full_matrices=False)
    flat = middle @ ways[:2].T
    lengths = np.linalg.norm(np.diff(points, axis=0), axis=1)
    gap = max(np.ptp(flat, axis=0).max() / 14, 2.0)
    pieces: list[Piece] = [DrawnLine(flat, "wire", wire.diameter_mm)]
    for (one, other), length in zip(itertools.pairwise(flat), lengths, strict=True):
        drawn = float(np.hypot(*(other - one)))
        if drawn > 3 * gap and drawn > 0.995 * length:  # what is seen aslant is not measured
            ends = [(float(x), float(y)) for x, y in (one, other)]
            pieces.append(across(ends[0], ends[1], float(length), gap))
    for n, bend in enumerate(by_hand(wire.bends), 2):  # the first sentence is of all of them
        x, y = _bent_position(wire, flat, lengths, (bend.start_mm + bend.end_mm) / 2)
        pieces.append(Number((x, y - gap), n))
    return StepDrawing(tuple(pieces))


def _bent_position(wire: CutWire, flat: Array, lengths: Array, at_mm: float) -> tuple[float, float]:
    """Return where a place of the straight wire, mm from its first end, is on the bent one."""
    runs = [stretch for stretch in wire.stretches if stretch.kind == "run"]
    laid = np.cumsum([0.0, *(run.end_mm - run.start_mm for run in runs)])
    straight = [end for run in runs for end in (run.start_mm, run.end_mm)]
    along = np.interp(at_mm, straight, np.column_stack([laid[:-1], laid[1:]]).ravel())
    path = np.concatenate([[0.0], np.cumsum(lengths)])
    x, y = (float(np.interp(along, path, flat[:, axis])) for axis in (0, 1))
    return x, y


SENTENCES: dict[str, str | Plural] = {
    "bend-wire.start": N_(
        "Hold the wire in the pliers at the mark and bend it over them, in this order, from its "
        "first end."
    ),
    "bend-wire.marks": NN_(
        "Lay it on its strip at actual size, and bend it at the mark until it lies on the line.",
        "Lay it on its strip at actual size, and bend it at one of the {n} marks after "
        "the other until it lies on the line.",
    ),
    "bend-wire.one": N_("{bend:capital}."),
    "bend-wire.straight": N_("It runs straight: only roll it flat."),
    "bend-wire.bind": N_(
        "Hook it round the other wire where they meet, {turns} turns, and press them flat."
    ),
    "bend-wire.band": N_(
        "Lay it under the other stem where they cross, wind it round {turns} times and band the crossing "
        "with tape both ways: it grips by itself."
    ),
    "bend-wire.loops": N_("Bend the loops at its ends last."),
    "bend-wire.lay": N_("Lay it on its strip at actual size and correct it."),
    "bend-wire.until": N_("Every bend lies on its mark, within a pencil line."),
    "bend-wire.until-bound": N_("No joint slips when two fingers pull, and it lies on the print."),
    "bend-wire.scale": N_(
        "On a small figure the wire folds back on itself instead of being bound; on a large one bind "
        "with thin wire."
    ),
    "bend-wire.why": N_(
        "Bends are made flat along a ruler, since nobody can measure a wire that stands in the air."
    ),
}

METHOD = Method("bend-wire", lambda at: at.sort == "bend", _card, _picture)
