"""Where every copy of every part stands: seats, tilts, mirrored pairs and pose."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from bambola.core.figure.fields import Side
from bambola.core.figure.model import Fitting, Node, Part, PoseBend, Seat, Tilt
from bambola.core.figure.shapes import Joint, Limb, Shape
from bambola.core.figure.whole import Figure
from bambola.core.frozen import frozen
from bambola.core.memo import remembered
from bambola.core.solids.forms import Array, seat_point, support_distances

GRID = 1e-6
"""Sizes and places are compared on this grid (mm): far below a fibre."""

MIRROR = np.diag([-1.0, 1.0, 1.0, 1.0])


@frozen
class Copy:
    """One placed copy of a part: ``matrix`` (4, 4) takes its own axes to the figure's."""

    part: Part
    side: Side | None
    shape: Shape
    matrix: Array

    def reaches(self, directions: Array) -> Array:
        """Return how far the copy reaches along unit ``directions`` (k, 3) of the figure: (k,) mm."""
        found: Array = support_distances(self.shape, directions @ self.matrix[:3, :3])
        return found + directions @ self.matrix[:3, 3]

    def reach(self, direction: Array) -> float:
        """Return how far the copy reaches along a unit ``direction`` (3,) of the figure, mm."""
        return float(self.reaches(direction[None])[0])

    def point(self, along: float, around: float = 0.0, out: float = 0.0) -> Array:
        """Return a seat on this copy as a point (3,) of the figure, mm."""
        placed: Array = self.matrix[:3, :3] @ seat_point(self.shape, along, around, out)
        return placed + self.matrix[:3, 3]


@frozen
class PlacedFitting:
    """One placed copy of a fitting; ``matrix`` (4, 4) takes its axes to the figure's."""

    fitting: Fitting
    side: Side | None
    matrix: Array


@dataclass(frozen=True)
class Placement:
    """All copies of a figure's parts and fittings, in the figure's own axes (mm)."""

    figure: Figure
    copies: tuple[Copy, ...]
    fittings: tuple[PlacedFitting, ...]
    nodes: Mapping[str, Array]
    ground: float
    top: float

    @property
    def height(self) -> float:
        """The finished height by the figure's datum, mm."""
        return self.top - self.ground

    @cached_property
    def down_up(self) -> Array:
        """How far down and up each copy reaches, (copies, 2) mm."""
        return _down_up(self.copies)

    @cached_property
    def _by_part(self) -> dict[str, tuple[Copy, ...]]:
        found: dict[str, list[Copy]] = {}
        for copy in self.copies:
            found.setdefault(copy.part.id, []).append(copy)
        return {part: tuple(copies) for part, copies in found.items()}

    def copies_of(self, part: str) -> tuple[Copy, ...]:
        """Return the copies of the part with this id."""
        return self._by_part.get(part, ())

    def scaled(self, s: float, figure: Figure) -> Placement:
        """Return this placement ``s`` times as large, for ``figure`` whose every part scaled by ``s``."""
        copies = tuple(
            Copy(
                figure.by_id[copy.part.id],
                copy.side,
                figure.by_id[copy.part.id].shape
                if copy.shape is copy.part.shape
                else copy.shape.scaled(s),
                _move_matrix(copy.matrix, copy.matrix[:3, 3] * s),
            )
            for copy in self.copies
        )
        of: dict[str, list[Copy]] = {}
        for copy in copies:
            of.setdefault(copy.part.id, []).append(copy)
        fittings: list[PlacedFitting] = []
        for new in figure.fittings:
            were = [placed for placed in self.fittings if placed.fitting.id == new.id]
            if were and (were[0].fitting.seat.around, were[0].fitting.seat.along) != (
                new.seat.around,
                new.seat.along,
            ):
                fittings += _placed_anew(new, of[new.part])
                continue
            for placed in were:
                axis = placed.matrix[:3, 2]
                skin = placed.matrix[:3, 3] + axis * placed.fitting.seat.sink
                at = _move_matrix(placed.matrix, skin * s - axis * new.seat.sink)
                fittings.append(PlacedFitting(new, placed.side, at))
        nodes = {name: point * s for name, point in self.nodes.items()}
        return Placement(figure, copies, tuple(fittings), nodes, self.ground * s, self.top * s)


def _move_matrix(matrix: Array, to: Array) -> Array:
    moved = matrix.copy()
    moved[:3, 3] = to
    return moved


def place(figure: Figure) -> Placement:
    """Place every copy of ``figure``, mirrored pairs and pose included."""
    copies: list[Copy] = []
    of: dict[str, list[Copy]] = {}
    for part in figure.parents_first:
        of[part.id] = list(_copies_of(figure, part, of))
        copies += of[part.id]
    fittings = tuple(
        placed for fitting in figure.fittings for placed in _placed_anew(fitting, of[fitting.part])
    )
    # A hanging figure is measured from the loop, which is at its top, down to its lowest foot.
    reaches = _down_up(copies)
    filled = np.array([not copy.part.hollow for copy in copies])
    ground = -float(reaches[filled, 0].max())
    top = max(
        up
        for copy, up in zip(copies, reaches[:, 1].tolist(), strict=True)
        if not copy.part.hollow
        if figure.datum.part in (None, copy.part.id)
    )
    nodes = {node.id: _node_point(node, of[node.part]) for node in figure.nodes}
    return Placement(figure, tuple(copies), fittings, nodes, ground, top)


def _down_up(copies: Sequence[Copy]) -> Array:
    ways = np.array([[0.0, 0.0, -1.0], [0.0, 0.0, 1.0]])
    return np.array([copy.reaches(ways) for copy in copies])


def _placed_anew(fitting: Fitting, on: list[Copy]) -> Iterator[PlacedFitting]:
    """Yield every copy of a fitting, seated on the copies of its part."""
    for side, matrix in _seatings_of(fitting.seat, fitting.pair, fitting.on, on):
        yield PlacedFitting(fitting, side, matrix)


def _node_point(node: Node, copies: list[Copy]) -> Array:
    on = next((copy for copy in copies if copy.side == node.side), copies[0])
    return on.point(node.along, node.around, node.out)


def _copies_of(figure: Figure, part: Part, of: dict[str, list[Copy]]) -> Iterator[Copy]:
    if part.parent is None:
        yield Copy(part, None, _posed_shape(figure, part, None), rotation(part.seat.tilt))
        return
    for seat in part.row.seats(part.seat) if part.row else (part.seat,):
        for side, matrix in _seatings_of(seat, part.pair, part.on, of[part.parent]):
            yield Copy(part, side, _posed_shape(figure, part, side), matrix)


def _seatings_of(
    seat: Seat, pair: bool, on: str, parents: list[Copy]
) -> Iterator[tuple[Side | None, Array]]:
    """Yield side and matrix of each copy seated on ``parents``: a pair is mirrored in its parent's axes."""
    for parent in parents:
        if parent.side is not None and on not in ("both", parent.side):
            continue
        at = seat_matrix(parent.shape, seat)
        if pair and parent.side is None:
            yield "left", parent.matrix @ at
            yield "right", parent.matrix @ MIRROR @ at
        else:
            yield parent.side, parent.matrix @ at


def seat_matrix(parent: Shape, seat: Seat) -> Array:
    """Return the (4, 4) matrix from a seated thing's own axes to its parent's."""
    matrix = rotation(seat.tilt).copy()
    turned = matrix[:3, :3]
    matrix[:3, 3] = seat_point(parent, seat.along, seat.around, seat.out) - turned[:, 2] * seat.sink
    return matrix


@remembered(1024)
def rotation(tilt: Tilt) -> Array:
    """Turn about itself (z), then nod forwards (about x), then lean to the figure's left (about y)."""
    nod, lean, turn = (math.radians(angle) for angle in (tilt.nod, tilt.lean, tilt.turn))
    c, s = math.cos, math.sin
    about_z = np.array([[c(turn), -s(turn), 0], [s(turn), c(turn), 0], [0, 0, 1]])
    about_x = np.array([[1, 0, 0], [0, c(nod), -s(nod)], [0, s(nod), c(nod)]])
    about_y = np.array([[c(lean), 0, s(lean)], [0, 1, 0], [-s(lean), 0, c(lean)]])
    matrix = np.eye(4)
    matrix[:3, :3] = about_y @ about_x @ about_z
    return matrix


def _posed_shape(figure: Figure, part: Part, side: Side | None) -> Shape:
    bends = [b for b in figure.pose if b.part == part.id and b.side in ("both", side)]
    if not bends or not isinstance(part.shape, Limb):
        return part.shape
    return bend_limb(part.shape, tuple(bends))


@remembered(256)
def bend_limb(limb: Limb, bends: tuple[PoseBend, ...]) -> Limb:
    """Return ``limb`` with everything beyond each bent joint turned about it."""
    centres = limb.centres()
    for bend in sorted(bends, key=lambda b: b.joint):
        pivot = centres[bend.joint]
        centres[bend.joint + 1 :] = (
            pivot + (centres[bend.joint + 1 :] - pivot) @ rotation(bend.tilt)[:3, :3].T
        )
    return limb.replaced(
        joints=tuple(
            Joint.model_construct(x=float(x), y=float(y), z=float(z), diameter=j.diameter)
            for (x, y, z), j in zip(centres, limb.joints, strict=True)
        )
    )
