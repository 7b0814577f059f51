"""Edits to the structure of a figure: parts added, removed, moved to another parent, copied from another
figure."""

from __future__ import annotations

import itertools
import re
from collections.abc import Iterable, Iterator, Mapping
from typing import Protocol, TypeVar

from bambola.core.facts import RefusedError, fact
from bambola.core.figure.model import Garment, Part, Seat, Wire
from bambola.core.figure.places import Band, Fur, Line, Near, Place, Where
from bambola.core.figure.whole import Figure


def descendants(figure: Figure, part: str) -> frozenset[str]:
    """Return ``part`` and everything that sits on it, directly or not."""
    found = {part}
    for other in figure.parents_first:
        if other.parent in found:
            found.add(other.id)
    return frozenset(found)


def free_id(wished: str, taken: frozenset[str]) -> str:
    """Return ``wished`` as an id that is not ``taken``."""
    slug = re.sub(r"[^a-z0-9]+", "-", wished.lower()).strip("-")[:50] or "part"
    if slug not in taken:
        return slug
    n = 2
    while f"{slug}-{n}" in taken:
        n += 1
    return f"{slug}-{n}"


MOST_PARTS = 400
"""As many as the format allows."""


def with_part(figure: Figure, part: Part) -> Figure:
    """Return ``figure`` with ``part`` added, or replacing the one with its id."""
    if part.id in figure.by_id:
        parts = tuple(part if p.id == part.id else p for p in figure.parts)
    else:
        parts = (*figure.parts, part)
    return check_figure(figure.replaced(parts=parts))


def without_part(figure: Figure, part: str) -> Figure:
    """Return ``figure`` without ``part``, what sits on it, and their fittings, marks, nodes and wires. Raises
    ``ValueError`` for the part that everything sits on."""
    if figure.by_id[part].parent is None:
        raise RefusedError(fact("edit.carries-all", part=figure.by_id[part].name))
    gone = descendants(figure, part)
    nodes = _keep_elsewhere(figure.nodes, gone)
    kept = {n.id for n in nodes}
    bones = tuple(
        b for b in figure.bones if {b.a, b.b} <= kept and (b.part is None or b.part not in gone)
    )
    joined = {frozenset((b.a, b.b)) for b in bones}
    wires = (_wire_left(wire, joined, gone) for wire in figure.wires)
    datum = figure.datum.replaced(part=None) if figure.datum.part in gone else figure.datum
    return check_figure(
        figure.replaced(
            datum=datum,
            nodes=nodes,
            bones=bones,
            wires=tuple(wire for wire in wires if wire),
            parts=tuple(_part_left(p, gone) for p in figure.parts if p.id not in gone),
            fittings=_keep_elsewhere(figure.fittings, gone),
            marks=_keep_elsewhere(figure.marks, gone),
            pose=_keep_elsewhere(figure.pose, gone),
        )
    )


class _OnPart(Protocol):
    @property
    def part(self) -> str: ...


T = TypeVar("T", bound=_OnPart)


def _keep_elsewhere(things: Iterable[T], gone: frozenset[str]) -> tuple[T, ...]:
    """Return those of ``things`` that are on none of the removed parts."""
    return tuple(thing for thing in things if thing.part not in gone)


def _part_left(part: Part, gone: frozenset[str]) -> Part:
    """Return a remaining part without references to removed ones."""
    garment = part.garment if part.garment and part.garment.passes not in gone else None
    places = tuple(
        p for p in part.places if not (isinstance(p.where, Near) and p.where.part in gone)
    )
    over = tuple(o for o in part.over if o not in gone)
    return part.replaced(over=over, garment=garment, places=places)


def _wire_left(wire: Wire, joined: set[frozenset[str]], gone: frozenset[str]) -> Wire | None:
    """Return the longest run of a wire over bones that remain, if there is one."""
    runs = _unbroken_runs(wire.route, joined)
    if not runs:
        return None
    longest = max(runs, key=len)
    binds = tuple(node for node in wire.binds if node in longest)
    return wire.replaced(
        route=longest, binds=binds, stub=wire.stub if wire.stub not in gone else None
    )


def _unbroken_runs(route: tuple[str, ...], joined: set[frozenset[str]]) -> list[tuple[str, ...]]:
    """Return the runs of ``route`` (two nodes or longer) whose bones all remain."""
    runs: list[list[str]] = [[route[0]]]
    for a, b in itertools.pairwise(route):
        if frozenset((a, b)) in joined:
            runs[-1].append(b)
        else:
            runs.append([b])
    return [tuple(run) for run in runs if len(run) > 1]


def reparent(figure: Figure, part: str, parent: str, seat: Seat) -> Figure:
    """Return the figure with ``part`` on another ``parent``, at ``seat``. Raises ``ValueError`` if it would
    carry itself."""
    moved = figure.by_id[part]
    if parent in descendants(figure, part):
        raise RefusedError(
            fact("edit.carries-itself", part=moved.name, on=figure.by_id[parent].name)
        )
    if moved.parent is None:
        raise RefusedError(fact("edit.root-on", part=moved.name))
    return with_part(figure, moved.replaced(parent=parent, seat=seat))


def graft_part(
    figure: Figure, source: Figure, part: str, parent: str, s: float = 1.0
) -> tuple[Figure, str]:
    """Return ``figure`` with a copy of ``part`` of ``source`` and all that sits on it, on ``parent``.

    The copy is ``s`` times as large. Fittings and face marks come along; wire does not, since its way
    leads out of the part. Returns the figure and the copy's new id.
    """
    coming = descendants(source, part)
    names: dict[str, str] = {}
    for old in source.parents_first:
        if old.id in coming:
            names[old.id] = free_id(old.id, frozenset(figure.by_id) | set(names.values()))
    # A pair seated on a pair is two, not four: what sits on one is mirrored with it.
    new = tuple(
        _rename_part(old, names, parent, s).replaced(garment=_copied_garment(old, names, s, figure))
        for old in source.parents_first
        if old.id in coming
    )
    fittings, taken = [], {f.id for f in figure.fittings}
    for fitting in source.fittings:
        if fitting.part in coming:
            name = free_id(fitting.id, frozenset(taken))
            taken.add(name)
            f = fitting.replaced(id=name, part=names[fitting.part])
            if s != 1.0:
                f = f.replaced(
                    size=f.size * s,
                    mass=f.mass * s**3,
                    seat=f.seat.replaced(sink=f.seat.sink * s),
                    pieces=tuple(
                        p.replaced(shape=p.shape.scaled(s), at=p.at * s) for p in f.pieces
                    ),
                )
            fittings.append(f)
    marks = tuple(
        m.replaced(id=free_id(m.id, frozenset(k.id for k in figure.marks)), part=names[m.part])
        for m in source.marks
        if m.part in coming
    )
    made = figure.replaced(
        parts=(*figure.parts, *new),
        fittings=(*figure.fittings, *fittings),
        marks=(*figure.marks, *marks),
    )
    return check_figure(made), names[part]


def _rename_part(old: Part, names: Mapping[str, str], parent: str, s: float) -> Part:
    return old.replaced(
        id=names[old.id],
        parent=names.get(old.parent or "", parent),
        shape=old.shape.scaled(s) if s != 1.0 else old.shape,
        seat=old.seat.replaced(sink=old.seat.sink * s),
        fringe=old.fringe * s if old.fringe else None,
        over=tuple(names[o] for o in old.over if o in names),
        places=tuple(_copied_places(old, names, parent, s)),
        join="fringe" if old.join == "wire" else old.join,
    )


def _copied_places(old: Part, names: Mapping[str, str], parent: str, s: float) -> Iterator[Place]:
    """Yield the places of a copied part, without those near a part that did not come along."""
    for place in old.places:
        if isinstance(place.where, Near):
            near = parent if place.where.part == old.parent else ""
            near = names.get(place.where.part, near)
            if not near:
                continue
            place = place.replaced(where=place.where.replaced(part=near))
        yield place.scaled(s) if s != 1.0 else place


def _copied_garment(
    old: Part, names: Mapping[str, str], s: float, figure: Figure
) -> Garment | None:
    """Return the garment of a copied part, if the part it must pass over came along or ``figure`` has one of
    that name."""
    dress = old.garment
    if dress is None:
        return None
    passes = names.get(dress.passes, dress.passes)
    known = passes in names.values() or passes in figure.by_id
    return dress.scaled(s).replaced(passes=passes) if known else None


def check_figure(figure: Figure) -> Figure:
    """Return ``figure`` if it is sound. Raises ``ValueError`` with its first fault."""
    from bambola.core.figure.whole import find_fault

    if len(figure.parts) > MOST_PARTS:
        raise RefusedError(fact("edit.too-many", most=MOST_PARTS))
    fault = find_fault(figure)
    if fault:
        raise RefusedError(fact("fault", fault=fault))
    return figure


NEW_LINE_SHARE, NEW_WITHIN_SHARE = 0.06, 0.12
"""A new line is so wide, and what is near another part reaches so far from it, beside the part's smallest
measure. Judged."""
_LEAST_SHARE = 0.01
"""No stretch is shorter than this share of its part. Judged."""


def with_place(figure: Figure, part: str, place: Place) -> tuple[Figure, str]:
    """Return ``figure`` with one more place on a part, on top of the others, and the place's id."""
    body = figure.by_id[part]
    name = free_id(place.id, frozenset(p.id for p in body.places))
    new = body.replaced(places=(*body.places, place.replaced(id=name)))
    return check_figure(with_part(figure, new)), name


def place_changed(part: Part, id: str, **changes: object) -> Part:
    """Return ``part`` with one of its places changed."""
    places = tuple(p.replaced(**changes) if p.id == id else p for p in part.places)
    return part.replaced(places=places)


def without_place(part: Part, name: str) -> Part:
    """Return ``part`` without one of its places."""
    return part.replaced(places=tuple(p for p in part.places if p.id != name))


def new_place(part: Part, kind: str, near: str = "", fur: Fur | None = None) -> Place:
    """Return a place to begin with: the middle third, the front, a line across the front, or the area
    ``near`` another part; with ``fur`` growing there if given."""
    small = part.shape.smallest_mm
    where: Where
    match kind:
        case "stretch":
            where = Band(begin=1 / 3, end=2 / 3)
        case "side":
            where = Band(wide=120.0)
        case "line":
            wide = NEW_LINE_SHARE * small
            where = Line(way=((0.5, -30.0), (0.45, 0.0), (0.5, 30.0)), wide=wide)
        case _:
            where = Near(part=near, within=NEW_WITHIN_SHARE * small)
    return Place(id=kind, where=where, fur=fur)


def stretch_band(where: Band, begin: float | None = None, end: float | None = None) -> Band:
    """Return a band with another beginning or end, neither passing the other."""
    if begin is not None:
        return where.replaced(begin=min(max(0.0, begin), where.end - _LEAST_SHARE))
    if end is not None:
        return where.replaced(end=max(min(1.0, end), where.begin + _LEAST_SHARE))
    return where


def led_by(where: Line, n: int, along: float, around: float) -> Line:
    """Return a line with its point ``n`` moved."""
    way = list(where.way)
    way[n] = (min(1.0, max(0.0, along)), around)
    return where.replaced(way=tuple(way))
