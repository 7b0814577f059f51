"""Small things added to a figure: wires, eyes, marks, patches. Pure: figure in, figure out."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterable, Sequence

from bambola.core.facts import Mm, RefusedError, fact
from bambola.core.figure.fields import Side
from bambola.core.figure.graft import check_figure, free_id
from bambola.core.figure.model import (
    MOST_STRANDS,
    Bone,
    FaceMark,
    Fitting,
    Node,
    Part,
    Piece,
    Row,
    Seat,
    Tilt,
    Wire,
)
from bambola.core.figure.shapes import Ball, Shape
from bambola.core.figure.whole import Figure

NEW_WIRE_MM = 1.0
"""What a newly drawn wire is first taken to be: one millimetre of soft aluminium. See craft.md, 9."""
EYE_SHARE = 0.1
"""An eye is first taken to be this share of its face; judged by our own figures. See craft.md, 9."""
GLASS_G_MM3 = 0.0012
"""Weight of a glass eye on its shank: half a ball of glass (0.0025 g/mm³) by its diameter's cube.
See craft.md, 9."""


def likely_eye(face: Shape) -> float:
    """Return the size (mm) an eye on ``face`` has at first, before a ready-made size is chosen."""
    return EYE_SHARE * min(face.measures().values())


def with_eyes(
    figure: Figure, part: str, along: float, around: float, size: float, name: str
) -> Figure:
    """Return ``figure`` with its eyes at a place on ``part``; new ones are ``size`` mm."""
    eye = next((f for f in figure.fittings if f.kind == "eye" and f.part == part), None)
    if eye is None:
        eye = Fitting(
            id=free_id("eye", frozenset(f.id for f in figure.fittings)),
            name=name,
            kind="eye",
            part=part,
            seat=Seat(sink=size * 0.52, tilt=Tilt(nod=90)),
            pair=True,
            size=size,
            mass=round(GLASS_G_MM3 * size**3, 4),
            follows="ready-made",
            glued=True,
            pieces=(
                Piece(
                    shape=Ball(width=size, depth=size, height=size),
                    colour="#120F10",
                    finish="glass",
                ),
            ),
        )
    eye = eye.replaced(seat=eye.seat.replaced(along=along, around=around, out=1.0))
    rest = tuple(f for f in figure.fittings if f.id != eye.id)
    return check_figure(figure.replaced(fittings=(*rest, eye)))


CORE_G_MM3 = 0.0005
"""Weight of a hard core by its volume: cork, softwood or a hollow bauble. Judged. See craft.md, 9."""


def core_of(figure: Figure, part: str) -> Fitting | None:
    """Return the hard core within a part, if it has one."""
    return next((f for f in figure.fittings if f.kind == "core" and f.part == part), None)


def with_core(figure: Figure, part: str, size: float, name: str) -> Figure:
    """Return ``figure`` with a hard ball of ``size`` mm in the middle of ``part``; a size of 0 removes it."""
    had = core_of(figure, part)
    rest = tuple(f for f in figure.fittings if f is not had)
    if size <= 0:
        return check_figure(figure.replaced(fittings=rest))
    most = figure.by_id[part].shape.smallest_mm
    if size >= most:
        raise RefusedError(fact("refused.core", part=figure.by_id[part].name, most=Mm(most)))
    core = Fitting(
        id=had.id if had else free_id("core", frozenset(f.id for f in figure.fittings)),
        name=name,
        kind="core",
        part=part,
        seat=Seat(along=0.5, out=0.0, sink=size / 2),
        size=size,
        mass=round(CORE_G_MM3 * math.pi / 6 * size**3, 4),
        pieces=(Piece(shape=Ball(width=size, depth=size, height=size), colour="#B98F5A"),),
    )
    return check_figure(figure.replaced(fittings=(*rest, core)))


def only_one(part: Part) -> RefusedError:
    """Return why there can be no row of the part that everything sits on."""
    return RefusedError(fact("edit.row-root", part=part.name))


def with_row(figure: Figure, part: str, count: int, along: float, around: float) -> Figure:
    """Return ``figure`` with ``count`` copies of ``part`` in a row, the last at a place on its bearer; 1
    removes the row."""
    body = figure.by_id[part]
    if count > 1 and body.parent is None:
        raise only_one(body)
    borne = next((p.name for p in figure.parts if p.parent == part), None)
    if count > 1 and borne is not None:
        raise RefusedError(fact("edit.row-bears", part=body.name, on=borne))
    row = Row(count=count, along=along, around=around) if count > 1 else None
    new = body.replaced(row=row)
    return check_figure(
        figure.replaced(parts=tuple(new if p.id == part else p for p in figure.parts))
    )


def with_furrows(figure: Figure, part: str, count: int) -> Figure:
    """Return ``figure`` with this many furrows pulled into ``part`` with thread."""
    new = figure.by_id[part].replaced(furrows=count)
    return check_figure(
        figure.replaced(parts=tuple(new if p.id == part else p for p in figure.parts))
    )


def with_mark(
    figure: Figure, name: str, part: str, along: float, around: float, eye: bool = False
) -> Figure:
    """Return ``figure`` with the face mark of this name, or one for its ``eye``, at a place on ``part``."""
    rest = tuple(m for m in figure.marks if not (m.name == name and m.part == part))
    mark = FaceMark(
        id=free_id(name, frozenset(m.id for m in rest)),
        name=name,
        part=part,
        along=along,
        around=around,
        eye=eye,
    )
    return check_figure(figure.replaced(marks=(*rest, mark)))


def eye_mm(part: Part, fittings: Iterable[Fitting], parts: Iterable[Part]) -> float | None:
    """Return the size of the eyes on ``part``, mm; None if it has none."""
    bought = [f.size for f in fittings if f.part == part.id and f.kind == "eye"]
    made = [min(p.shape.extents()[1:]) for p in parts if p.parent == part.id and p.eye]
    return max([*bought, *made], default=None)


def face_bearer(part: Part, fittings: Iterable[Fitting], parts: Sequence[Part]) -> Part:
    """Return the part that bears the face ``part`` belongs to: of a snout its head, if that has the eyes."""
    bearer = next((p for p in parts if p.id == part.parent), None)
    fittings = tuple(fittings)
    if bearer is None or eye_mm(part, fittings, parts) is not None:
        return part
    return bearer if eye_mm(bearer, fittings, parts) is not None else part


def joints_along(figure: Figure, part: str, side: Side | None, *shares: float) -> list[Node]:
    """Return new joints at these shares of the axis of a copy of ``part``."""
    taken, found = {node.id for node in figure.nodes}, []
    for share in shares:
        name = free_id(f"{part}-{side}" if side else part, frozenset(taken))
        taken.add(name)
        found.append(Node(id=name, part=part, side=side, along=share))
    return found


def with_wire(figure: Figure, route: Sequence[Node], called: str) -> Figure:
    """Return ``figure`` with a new wire along ``route``, its nodes and bones added where they are new."""
    have = {node.id for node in figure.nodes}
    nodes = list(figure.nodes)
    for node in route:
        if node.id not in have:
            have.add(node.id)
            nodes.append(node)
    joined = {frozenset((bone.a, bone.b)) for bone in figure.bones}
    bones = list(figure.bones)
    for a, b in itertools.pairwise(route):
        if frozenset((a.id, b.id)) not in joined:
            joined.add(frozenset((a.id, b.id)))
            bones.append(Bone(a=a.id, b=b.id))
    name = free_id("wire", frozenset(w.id for w in figure.wires))
    shared = tuple(n.id for n in route if any(n.id in w.route for w in figure.wires))
    wire = Wire(
        id=name,
        name=called,
        metal="soft aluminium",
        diameter=NEW_WIRE_MM,
        route=tuple(n.id for n in route),
        binds=shared,
    )
    return check_figure(
        figure.replaced(nodes=tuple(nodes), bones=tuple(bones), wires=(*figure.wires, wire))
    )


def with_strands(figure: Figure, a: str, b: str, strands: int) -> Figure:
    """Return ``figure`` with so many strands asked for along the bone between two nodes. Raises
    ``ValueError`` for none, or for more than are twisted by hand."""
    if not 1 <= strands <= MOST_STRANDS:
        raise RefusedError(fact("edit.strands", most=MOST_STRANDS, n=strands))
    ends = {a, b}
    bones = tuple(
        bone.replaced(strands=strands) if {bone.a, bone.b} == ends else bone
        for bone in figure.bones
    )
    return check_figure(figure.replaced(bones=bones))


def with_node_at(figure: Figure, node: str, along: float) -> Figure:
    """Return ``figure`` with a node, and its twin on the other side, moved to ``along`` (0 to 1) its part."""
    moved = next(n for n in figure.nodes if n.id == node)
    along = min(1.0, max(0.0, along))
    here = (moved.part, moved.along, moved.out)
    nodes = tuple(
        n.replaced(along=along)
        if n.id == node or (n.side is not None and (n.part, n.along, n.out) == here)
        else n
        for n in figure.nodes
    )
    return check_figure(figure.replaced(nodes=nodes))


def with_loop(figure: Figure, node: str, perimeter: float | None) -> Figure:
    """Return ``figure`` with a ring of this perimeter (mm) bent at a node, or none."""
    nodes = tuple(n.replaced(loop=perimeter) if n.id == node else n for n in figure.nodes)
    return check_figure(figure.replaced(nodes=nodes))


def without_wire(figure: Figure, part: str) -> Figure:
    """Return ``figure`` without the wires that run through ``part``, and the bones only they used."""
    inside = {node.id for node in figure.nodes if node.part == part}
    wires = tuple(w for w in figure.wires if not inside & set(w.route))
    used = {n for w in wires for n in w.route}
    bones = tuple(b for b in figure.bones if b.a in used and b.b in used)
    nodes = tuple(n for n in figure.nodes if n.id in used)
    return figure.replaced(wires=wires, bones=bones, nodes=nodes)
