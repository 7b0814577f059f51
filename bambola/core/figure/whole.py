"""The whole design: pieces that are checked to fit together."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from functools import cached_property

from pydantic import model_validator

from bambola.core.facts import Fact, RefusedError, fact
from bambola.core.figure.model import FigureParts, Part
from bambola.core.figure.places import Near
from bambola.core.figure.shapes import Limb


def find_fault(figure: FigureParts) -> Fact | None:
    """Return the first fault of ``figure``, or None if it is sound."""
    return next(_find_faults(figure), None)


def _find_faults(figure: FigureParts) -> Iterator[Fact]:
    yield from _find_repeated("parts", (part.id for part in figure.parts))
    yield from _find_repeated("fittings", (fitting.id for fitting in figure.fittings))
    yield from _find_repeated("nodes", (node.id for node in figure.nodes))
    yield from _find_repeated("wires", (wire.id for wire in figure.wires))
    yield from _part_faults(figure)
    yield from _reference_faults(figure)
    yield from _wire_faults(figure)


def _find_repeated(field: str, ids: Iterable[str]) -> Iterator[Fact]:
    for name, count in Counter(ids).items():
        if count > 1:
            yield fact("fault.twice", field=field, id=name, times=count)


def _no_part(where: str, part: str) -> Fact:
    return fact("fault.no-part", where=where, part=part)


def _no_side(where: str, part: str, side: str) -> Fact:
    return fact("fault.no-side", where=where, part=part, side=Fact(f"side.{side}"))


def _part_faults(figure: FigureParts) -> Iterator[Fact]:
    parts = {part.id: part for part in figure.parts}
    hung = next(_parent_faults(figure), None)
    if hung is not None:
        yield hung
        return
    roots = [part.id for part in figure.parts if part.parent is None]
    if len(roots) == 1:
        yield from _find_missing_sides(figure)
    else:
        yield fact("fault.roots", roots=tuple(roots)) if roots else Fact("fault.no-root")
    for part in figure.parts:
        if part.parent is None and part.pair:
            yield fact("fault.root-pair", id=part.id)
        if part.row and (part.parent is None or part.garment):
            yield fact("fault.row-root", id=part.id)
        if part.parent is not None and parts[part.parent].row:
            yield fact("fault.row-bears", id=part.parent, on=part.id)
        for other in part.over:
            if other not in parts:
                yield _no_part(f"parts, {part.id}, over", other)
        for place in part.places:
            if isinstance(place.where, Near):
                yield from _near_faults(part, place.where.part, place.id, parts)
        yield from _find_repeated(f"parts, {part.id}, places", (place.id for place in part.places))
        if part.stuff and (
            part.parent is None or part.coat or part.places or part.eye or part.face
        ):
            yield fact("fault.stuff", id=part.id)
        if part.hollow and (
            part.parent is None or part.stuff or part.garment or part.places or part.shape.flat
        ):
            yield fact("fault.hollow", id=part.id)
        if part.garment and part.garment.passes not in parts:
            yield _no_part(f"parts, {part.id}, garment, passes", part.garment.passes)


def _near_faults(part: Part, near: str, place: str, parts: Mapping[str, Part]) -> Iterator[Fact]:
    where = f"parts, {part.id}, places, {place}, part"
    if near not in parts:
        yield _no_part(where, near)
    elif part.id != parts[near].parent and near != part.parent:
        yield fact("fault.not-near", where=where, part=near, id=part.id)


def _parent_faults(figure: FigureParts) -> Iterator[Fact]:
    """Yield parts whose parent does not exist, or that in the end sit on themselves."""
    parent = {part.id: part.parent for part in figure.parts}
    for part in figure.parts:
        seen, at = [part.id], part.parent
        while at is not None:
            if at not in parent:
                yield _no_part(f"parts, {seen[-1]}, parent", at)
                return
            if at in seen:
                circle = " › ".join([*seen[seen.index(at) :], at])
                yield fact("fault.circle", id=part.id, ids=circle)
                return
            seen.append(at)
            at = parent[at]


def _find_missing_sides(figure: FigureParts) -> Iterator[Fact]:
    """Yield parts and fittings meant for a side where there is nothing to sit on."""
    sides: dict[str, set[str | None]] = {}
    waiting = list(figure.parts)
    while waiting:
        part = next(p for p in waiting if p.parent is None or p.parent in sides)
        waiting.remove(part)
        if part.parent is None:
            sides[part.id] = {None}
            continue
        sides[part.id] = _sides_of(sides[part.parent], part.pair, part.on)
        if not sides[part.id]:
            yield _no_side(f"parts, {part.id}", str(part.parent), part.on)
            return
    for fitting in figure.fittings:
        if fitting.part in sides and not _sides_of(sides[fitting.part], fitting.pair, fitting.on):
            yield _no_side(f"fittings, {fitting.id}", fitting.part, fitting.on)


def _sides_of(parent: set[str | None], pair: bool, on: str) -> set[str | None]:
    if parent == {None}:
        return {"left", "right"} if pair else {None}
    return {side for side in parent if on in ("both", side)}


def _reference_faults(figure: FigureParts) -> Iterator[Fact]:
    parts = {part.id: part for part in figure.parts}
    if figure.datum.part is not None and figure.datum.part not in parts:
        yield _no_part("datum, part", figure.datum.part)
    elif figure.datum.part is not None and parts[figure.datum.part].hollow:
        yield fact("fault.hollow-datum", id=figure.datum.part)
    for label, things in (
        ("fittings", figure.fittings),
        ("nodes", figure.nodes),
        ("marks", figure.marks),
    ):
        for thing in things:
            if thing.part not in parts:
                yield _no_part(f"{label}, {thing.id}, part", thing.part)
    for label, things in (("fittings", figure.fittings), ("nodes", figure.nodes)):
        for thing in things:
            if thing.part in parts and parts[thing.part].row:
                yield fact("fault.row-bears", id=thing.part, on=f"{label}, {thing.id}")
    for bend in figure.pose:
        limb = parts.get(bend.part)
        if limb is None or not isinstance(limb.shape, Limb):
            yield fact("fault.no-limb", id=bend.part)
        elif bend.joint >= len(limb.shape.joints):
            yield fact("fault.no-joint", id=bend.part, last=len(limb.shape.joints) - 1)


def _wire_faults(figure: FigureParts) -> Iterator[Fact]:
    nodes = {node.id for node in figure.nodes}
    bones = {frozenset((bone.a, bone.b)) for bone in figure.bones}
    parts = {part.id for part in figure.parts}
    for bone in figure.bones:
        if bone.part is not None and bone.part not in parts:
            yield _no_part(f"bones, {bone.a} › {bone.b}, part", bone.part)
        for end in (bone.a, bone.b):
            if end not in nodes:
                yield fact("fault.no-node", where=f"bones, {bone.a} › {bone.b}", node=end)
    for wire in figure.wires:
        for node in (*wire.route, *wire.binds):
            if node not in nodes:
                yield fact("fault.no-node", where=f"wires, {wire.id}", node=node)
        if wire.stub is not None and wire.stub not in parts:
            yield _no_part(f"wires, {wire.id}, stub", wire.stub)
        for a, b in zip(wire.route, wire.route[1:], strict=False):
            if frozenset((a, b)) not in bones:
                yield fact("fault.no-bone", id=wire.id, a=a, b=b)


class Figure(FigureParts):
    """The whole design at the height it was made.

    ``packing`` is how many times denser its wool is packed than the firmness of its parts says: known
    where the original was weighed.
    """

    @model_validator(mode="after")
    def _holds_together(self) -> Figure:
        fault = find_fault(self)
        if fault:
            raise RefusedError(fault)
        return self

    @cached_property
    def by_id(self) -> Mapping[str, Part]:
        """The parts by their ids."""
        return {part.id: part for part in self.parts}

    @cached_property
    def parents_first(self) -> tuple[Part, ...]:
        """The parts with every parent before its children, otherwise in the order of the file."""
        depth: dict[str, int] = {}
        for part in self.parts:
            chain, at = 0, part
            while at.parent is not None:
                chain, at = chain + 1, self.by_id[at.parent]
            depth[part.id] = chain
        return tuple(sorted(self.parts, key=lambda part: depth[part.id]))

    @cached_property
    def wired(self) -> frozenset[str]:
        """The ids of parts with wire in them: along a bone, or where wires are bound together."""
        node_part = {node.id: node.part for node in self.nodes}
        walked = {
            frozenset(leg) for w in self.wires for leg in zip(w.route, w.route[1:], strict=False)
        }
        along = {
            bone.part or node_part[bone.b]
            for bone in self.bones
            if frozenset((bone.a, bone.b)) in walked
        }
        return frozenset(along | {node_part[node] for wire in self.wires for node in wire.binds})

    @cached_property
    def stems(self) -> frozenset[str]:
        """The ids of parts that stand on a wire of their own, which shares no place with another wire and
        ends in the part's bearer."""
        nodes = {node.id: node.part for node in self.nodes}
        found: set[str] = set()
        for wire in self.wires:
            others = {name for other in self.wires if other is not wire for name in other.route}
            if others & set(wire.route):
                continue
            through = {nodes[name] for name in wire.route[1:-1]}
            ends = {nodes[wire.route[0]], nodes[wire.route[-1]]}
            for part in (self.by_id[name] for name in self.wired & (through | ends)):
                bearer = part.parent
                # A wire whose ends are both in other parts, such as antlers', holds nothing upright here.
                stands = bearer in ends - through or (
                    part.id in ends and bearer not in ends | through
                )
                if bearer is not None and stands and bearer not in self.wired:
                    found.add(part.id)
        return frozenset(found)
