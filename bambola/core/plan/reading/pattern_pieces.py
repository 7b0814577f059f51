"""Turns pieces of a paper pattern into flat parts, each with a blank of the piece's outline."""

from __future__ import annotations

import numpy as np

from bambola.core.bench import Bench
from bambola.core.facts import RefusedError, fact
from bambola.core.figure import Figure, Leaf, Part
from bambola.core.figure.graft import check_figure, free_id
from bambola.core.figure.shapes import LEAST_MM
from bambola.core.frozen import frozen
from bambola.core.plan.reading.tracing import wool_on
from bambola.core.solids import own_copy, place, reseat
from bambola.core.solids.forms import Array

HIGH = 0.82
"""So far along what bears it a piece is laid first, for its maker to move. Judged. See craft.md, 9."""
ASIDE = {False: 0.0, True: 90.0}
"""And there before it, or, of a pair, beside it."""


@frozen
class PatternOutline:
    """A closed outline: its name in the pattern, and its points (n, 2), mm, with y downwards."""

    name: str
    places: Array

    @property
    def size(self) -> tuple[float, float]:
        """Its width and length, mm."""
        wide, long = np.ptp(self.places, axis=0).tolist()
        return wide, long


def leaf_of(outline: PatternOutline, thickness: float) -> Leaf:
    """Return a flat part of this outline, joined at its lowest edge. Raises ``ValueError`` if it cannot be
    built."""
    wide, long = outline.size
    if min(wide, long) < LEAST_MM:
        raise RefusedError(fact("edit.piece-small", part=outline.name))
    x, y = outline.places.T
    across = np.clip((x - (x.min() + x.max()) / 2) / wide, -0.5, 0.5)
    up = np.clip((y.max() - y) / long, 0.0, 1.0)
    places = tuple(zip(across.tolist(), up.tolist(), strict=True))
    return Leaf(length=long, width=wide, thickness=thickness, outline=places)


def with_piece(
    figure: Figure,
    outline: PatternOutline,
    name: str,
    on: str,
    pair: bool,
    thickness: float,
    bench: Bench,
) -> tuple[Figure, str]:
    """Return ``figure`` with a pattern piece as an upright flat part ``name`` on ``on``, of the same wool,
    and the new part's id. Raises ``ValueError``."""
    carrier = own_copy(place(figure), on)
    assert carrier is not None
    pair = pair and carrier.side is None
    at = carrier.point(HIGH, ASIDE[pair], 1.0)
    made = Part(
        id=free_id(name, frozenset(figure.by_id)),
        name=name,
        parent=on,
        pair=pair,
        shape=leaf_of(outline, thickness),
        seat=reseat(carrier, at, np.eye(3)),
        core=wool_on(figure.by_id[on], bench),
        join="patch",
    )
    return check_figure(figure.replaced(parts=(*figure.parts, made))), made.id
