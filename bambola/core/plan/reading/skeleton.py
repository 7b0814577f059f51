"""Wire proposed for what is put together of pictures: along the axes of what would droop without it."""

from __future__ import annotations

import contextlib

import numpy as np

from bambola.core.figure import Figure, Node
from bambola.core.figure.additions import joints_along, with_wire
from bambola.core.plan.judging.droop import DROOP, slenderness
from bambola.core.solids import Copy, place

NEAR = 0.05
"""A wire goes through the joint that there is, no farther along its part than this share. Judged.
See craft.md, 9."""


def with_skeleton(figure: Figure) -> Figure:
    """Return ``figure`` with a wire in each part so slender that it would droop: of a pair from tip to tip,
    through the axis of what bears both; else from there to its tip."""
    for part in figure.parents_first:
        if slenderness(part) <= DROOP or part.id in figure.wired or part.parent is None:
            continue
        placement = place(figure)
        copies, bearers = placement.copies_of(part.id), placement.copies_of(part.parent)
        with contextlib.suppress(ValueError):  # What cannot be wired is left to the maker.
            if len(bearers) == 1 and len(copies) == 2:
                a, b = copies
                heart = _heart(figure, bearers[0], copies)
                out = joints_along(figure, part.id, a.side, 1.0, 0.0)
                back = joints_along(figure, part.id, b.side, 0.0, 1.0)
                figure = with_wire(figure, (*out, heart, *back), part.name)
                continue
            wired = figure
            for copy in copies:
                bearer = next(c for c in bearers if c.side in (None, copy.side))
                heart = _heart(wired, bearer, (copy,))
                out = joints_along(wired, part.id, copy.side, 0.0, 1.0)
                wired = with_wire(wired, (heart, *out), part.name)
            figure = wired
    return figure


def _heart(figure: Figure, bearer: Copy, copies: tuple[Copy, ...]) -> Node:
    """Return the joint on the axis of ``bearer`` that is nearest to where ``copies`` begin: the one there is,
    or a new one."""
    middle = np.mean([copy.point(0.0) for copy in copies], axis=0)
    shares = np.linspace(0.0, 1.0, 21)
    far = [float(np.linalg.norm(bearer.point(float(share)) - middle)) for share in shares]
    along = float(shares[int(np.argmin(far))])
    for node in figure.nodes:
        there = node.part, node.side
        if there == (bearer.part.id, bearer.side) and abs(node.along - along) <= NEAR:
            return node
    return joints_along(figure, bearer.part.id, bearer.side, along)[0]
