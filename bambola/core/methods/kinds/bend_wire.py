"""Bending a wire along its marks, and binding it to the wire it meets."""

from __future__ import annotations

import itertools

import numpy as np

from bambola.core.armature.curves import by_hand
from bambola.core.armature.cuts import BINDING_TURNS
from bambola.core.facts import NOTHING, Fact, fact
from bambola.core.methods.at import At
from bambola.core.methods.drawing import Drawing, Line, Number, Piece
from bambola.core.methods.parts import card, check
from bambola.core.methods.sketch import across
from bambola.core.methods.values import Card, Method


def _card(at: At) -> Card:
    wire = next(w for w in at.plan.wires if w.id == at.about)
    bends = by_hand(wire.bends)
    bound = any(s.kind == "binding" for s in wire.stretches)
    return card(
        at,
        "bend-wire",
        (
            *(fact("bend-wire.one", bend=bend.told) for bend in bends),
            None if bends else Fact("bend-wire.straight"),
            fact("bend-wire.bind", turns=BINDING_TURNS) if bound else None,
            Fact("bend-wire.loops") if any(s.kind == "loop" for s in wire.stretches) else None,
            Fact("bend-wire.lay"),
        ),
        start=Fact("bend-wire.start") if bends else NOTHING,
        until=Fact("bend-wire.until-bound" if bound else "bend-wire.until"),
        checks=(check("joint"), check("bare-stand")) if bound else (check("bare-print"),),
        scale=Fact("bend-wire.scale"),
    )


def _picture(at: At) -> Drawing:
    """The wire as it is bent, seen from the side that shows it best."""
    wire = next(w for w in at.plan.wires if w.id == at.about)
    points = np.array(wire.points_mm)
    middle = points - points.mean(axis=0)
    _, _, ways = np.linalg.svd(middle, full_matrices=False)
    flat = middle @ ways[:2].T
    bends = by_hand(wire.bends)
    gap = max(np.ptp(flat, axis=0).max() / 14, 2.0)
    pieces: list[Piece] = [Line(flat, "wire", wire.diameter_mm)]
    pieces += [
        across(
            (float(a[0]), float(a[1])), (float(b[0]), float(b[1])), float(np.hypot(*(b - a))), gap
        )
        for a, b in itertools.pairwise(flat)
        if np.hypot(*(b - a)) > 3 * gap
    ]
    inner = flat[1:-1]
    pieces += [
        Number((float(p[0]), float(p[1]) - gap), n)
        for n, p in zip(range(1, len(bends) + 1), inner, strict=False)
    ]
    return Drawing(tuple(pieces))


METHOD = Method("bend-wire", lambda at: at.sort == "bend", _card, _picture)
