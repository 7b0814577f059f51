"""Editing a figure by hand: move, turn, stretch, put on another part. Pure: figure in, figure out.

All of it is done on the copy that a part's seat describes (the left one of a pair). Lengths are mm
and angles degrees in the figure's own axes.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Literal

import numpy as np

from bambola.core.facts import Exact, Fact, RefusedError, fact
from bambola.core.figure.fields import Side
from bambola.core.figure.graft import check_figure, descendants, reparent, with_part
from bambola.core.figure.model import Part, PoseBend, Tilt
from bambola.core.figure.shapes import LEAST_MM, ChainShape, Limb
from bambola.core.figure.whole import Figure
from bambola.core.solids.forms import Array
from bambola.core.solids.placement import Copy, Placement, place, rotation
from bambola.core.solids.touch import reseat, tilt_of


def own_copy(placement: Placement, part: str) -> Copy | None:
    """Return the copy of a part that its seat describes: the only one, or the left one of a pair."""
    copies = placement.copies_of(part)
    return next((c for c in copies if c.side != "right"), copies[0]) if copies else None


def _first_copy(placement: Placement, part: str) -> Copy:
    copy = own_copy(placement, part)
    assert copy is not None, part
    return copy


def _with_seat_at(
    figure: Figure, placement: Placement, part: Part, base: Array, turn: Array
) -> Figure:
    assert part.parent is not None
    seat = reseat(_first_copy(placement, part.parent), base, turn, part.seat.sink)
    return with_part(figure, part.replaced(seat=seat))


def move_part(figure: Figure, part: str, by: Array) -> Figure:
    """Return the figure with ``part`` and everything on it moved by ``by`` (3,) mm. Raises ``ValueError`` for
    the part that everything sits on."""
    body = figure.by_id[part]
    if body.parent is None:
        raise RefusedError(fact("edit.root-moved", part=body.name))
    placement = place(figure)
    copy = _first_copy(placement, part)
    return _with_seat_at(figure, placement, body, copy.matrix[:3, 3] + by, copy.matrix[:3, :3])


def turn_part(figure: Figure, part: str, degrees: float, about: Array) -> Figure:
    """Return the figure with ``part`` rotated about its base by ``degrees`` round ``about`` (3,),
    right-handed."""
    body = figure.by_id[part]
    placement = place(figure)
    copy = _first_copy(placement, part)
    turn = about_axis(about, degrees) @ copy.matrix[:3, :3]
    if body.parent is None:
        return with_part(figure, body.replaced(seat=body.seat.replaced(tilt=tilt_of(turn))))
    return _with_seat_at(figure, placement, body, copy.matrix[:3, 3], turn)


def about_axis(axis: Array, degrees: float) -> Array:
    """Return the rotation (3, 3) by ``degrees`` about ``axis`` (3,), right-handed (Rodrigues)."""
    x, y, z = axis / np.linalg.norm(axis)
    cross = np.array([[0, -z, y], [z, 0, -x], [-y, x, 0]])
    a = math.radians(degrees)
    found: Array = np.eye(3) + math.sin(a) * cross + (1 - math.cos(a)) * (cross @ cross)
    return found


def pose_limb(
    figure: Figure, part: str, side: Side | None, near: Array, degrees: float, about: Array
) -> Figure:
    """Return the figure with the limb ``part`` bent by ``degrees`` round ``about`` (3,) at its joint nearest
    to ``near`` (3,). Only the copy on ``side`` is bent. Raises ``ValueError`` for a part without joints."""
    body = figure.by_id[part]
    if not isinstance(body.shape, Limb):
        raise RefusedError(fact("edit.no-joints", part=body.name))
    copies = place(figure).copies_of(part)
    copy = next((c for c in copies if c.side == side), copies[0])
    assert isinstance(copy.shape, Limb)
    frame = copy.matrix[:3, :3]
    centres = copy.shape.centres() @ frame.T + copy.matrix[:3, 3]
    joint = int(np.linalg.norm(centres[:-1] - near, axis=1).argmin())
    turn = np.linalg.inv(frame) @ about_axis(about, degrees) @ frame
    # What holds for both sides is first said of each, so that one can be changed.
    rest, had = [], Tilt()
    for bend in figure.pose:
        if (bend.part, bend.joint) != (part, joint):
            rest.append(bend)
            continue
        if bend.side in ("both", copy.side):
            had = bend.tilt
        if bend.side == "both" and copy.side is not None:
            other: Literal["left", "right"] = "left" if copy.side == "right" else "right"
            rest.append(bend.replaced(side=other))
        elif bend.side not in ("both", copy.side):
            rest.append(bend)
    tilt = tilt_of(turn @ rotation(had)[:3, :3])
    new = PoseBend(part=part, joint=joint, side=copy.side or "both", tilt=tilt)
    return check_figure(figure.replaced(pose=(*rest, new)))


def stretch_part(figure: Figure, part: str, measures: Mapping[str, float]) -> Figure:
    """Return the figure with some measures (mm) of ``part`` changed and its base kept in place.

    Raises ``ValueError`` with one sentence for measures such a part cannot have.
    """
    body = figure.by_id[part]
    for name, mm in measures.items():
        if not (math.isfinite(mm) and LEAST_MM <= mm <= 1_000_000):
            raise RefusedError(
                fact("edit.measure", part=body.name, measure=Fact(f"measure.{name}"))
            )
    wished = {**body.shape.measures(), **measures}
    if wished.get("length", math.inf) < (least := body.shape.least_length(wished)):
        raise RefusedError(fact("edit.too-short", part=body.name, least=Exact(least)))
    return with_part(figure, body.replaced(shape=body.shape.resized(measures)))


def put_on(figure: Figure, part: str, parent: str) -> Figure:
    """Return the figure with ``part`` moved to the bearer ``parent`` without changing its place. Raises
    ``ValueError`` if it cannot be."""
    placement = place(figure)
    copy = _first_copy(placement, part)
    if parent in descendants(figure, part):
        raise RefusedError(
            fact("edit.carries-itself", part=figure.by_id[part].name, on=figure.by_id[parent].name)
        )
    seat = reseat(
        _first_copy(placement, parent),
        copy.matrix[:3, 3],
        copy.matrix[:3, :3],
        figure.by_id[part].seat.sink,
    )
    return reparent(figure, part, parent, seat)


def axis_ends(copy: Copy) -> tuple[Array, Array]:
    """Return the base and tip (3,) of a placed part, in the figure's axes."""
    shape = copy.shape
    if isinstance(shape, ChainShape):
        return copy.point(0.0), copy.point(1.0)
    along = next(mm for name, mm in shape.measures().items() if name in ("height", "length"))
    base: Array = copy.matrix[:3, 3]
    return base, base + copy.matrix[:3, 2] * along
