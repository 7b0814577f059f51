"""The wire of a noted figure: a hoop through each pair of limbs, a line along a neck or a tail."""

from __future__ import annotations

from collections.abc import Iterable

from bambola.core.figure import Figure, Node
from bambola.core.figure.additions import joints_along, with_wire
from bambola.core.figure.fields import Side
from bambola.core.notes.kinds import PartKind

WIRED_FROM, LEAST_THICK_MM = 3.0, 5.0
"""A limb is wired if it is so many times as long as thick, and at least so thick: a stubby one stands by
itself, and wool so thin does not hide a wire. Judged. See craft.md, 9."""
_SHARES = (0.05, 0.5, 0.95)
"""Where a wire has its joints in a limb."""


def add_wires(figure: Figure, limbs: Iterable[tuple[str, PartKind]]) -> Figure:
    """Return ``figure`` with a wire in each of its ``limbs`` (id and kind) that needs one."""
    for part, kind in limbs:
        body = figure.by_id[part]
        if not kind.is_wired or body.parent is None or body.row is not None or body.on != "both":
            continue
        sizes = body.shape.measures()
        long, thick = sizes.get("length", 0.0), sizes.get("thickness", 0.0)
        bearer = figure.by_id[body.parent]
        if thick < LEAST_THICK_MM or long < WIRED_FROM * thick or bearer.row or bearer.pair:
            continue
        figure = with_wire(figure, _route(figure, part, body.parent, body.pair), body.name)
    return figure


def _route(figure: Figure, part: str, bearer: str, pair: bool) -> list[Node]:
    """Return the nodes of a limb's wire: for a pair, from one tip through the bearer to the other."""
    within = _anchor(figure, part, bearer)
    if not pair:
        return [within, *joints_along(figure, part, None, *_SHARES)]
    sides: tuple[Side, Side] = ("left", "right")
    left, right = (joints_along(figure, part, side, *_SHARES) for side in sides)
    return [*reversed(left), within, *right]


def _anchor(figure: Figure, part: str, bearer: str) -> Node:
    """Return the node in a limb's bearer, level with the limb's seat."""
    along = figure.by_id[part].seat.along
    (node,) = joints_along(figure, bearer, None, min(0.85, max(0.15, along)))
    return node
