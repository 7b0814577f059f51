"""Whether the pieces of a figure fit together; every fault is one sentence naming the field."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator
from typing import TYPE_CHECKING

from bambola.core.figure.shapes import Limb

if TYPE_CHECKING:
    from bambola.core.figure.model import Figure


def find_fault(figure: Figure) -> str | None:
    """The first fault of ``figure`` in words, or None if it is sound."""
    return next(_faults(figure), None)


def _faults(figure: Figure) -> Iterator[str]:
    yield from _repeated("parts", (part.id for part in figure.parts))
    yield from _repeated("fittings", (fitting.id for fitting in figure.fittings))
    yield from _repeated("nodes", (node.id for node in figure.nodes))
    yield from _repeated("wires", (wire.id for wire in figure.wires))
    yield from _part_faults(figure)
    yield from _reference_faults(figure)
    yield from _wire_faults(figure)


def _repeated(field: str, ids: Iterable[str]) -> Iterator[str]:
    for name, count in Counter(ids).items():
        if count > 1:
            yield f"{field}: the id “{name}” is used {count} times; every id must be its own"


def _part_faults(figure: Figure) -> Iterator[str]:
    parts = {part.id: part for part in figure.parts}
    hung = next(_parent_faults(figure), None)
    if hung is not None:
        yield hung
        return
    roots = [part.id for part in figure.parts if part.parent is None]
    if len(roots) == 1:
        yield from _missing(figure)
    else:
        yield f"parts: exactly one part has no parent, but {', '.join(roots) or 'none'} has none"
    for part in figure.parts:
        if part.parent is None and part.pair:
            yield f"parts, {part.id}, pair: the part everything sits on cannot be a pair"
        for other in part.over:
            if other not in parts:
                yield f"parts, {part.id}, over: there is no part “{other}”"
        if part.garment and part.garment.passes not in parts:
            yield f"parts, {part.id}, garment, passes: there is no part “{part.garment.passes}”"


def _parent_faults(figure: Figure) -> Iterator[str]:
    """Parts that sit on nothing there is, or in the end on themselves."""
    parent = {part.id: part.parent for part in figure.parts}
    for part in figure.parts:
        seen, at = [part.id], part.parent
        while at is not None:
            if at not in parent:
                yield f"parts, {seen[-1]}, parent: there is no part “{at}”"
                return
            if at in seen:
                circle = " on ".join([*seen[seen.index(at) :], at])
                yield f"parts, {part.id}, parent: {circle} goes round in a circle"
                return
            seen.append(at)
            at = parent[at]


def _missing(figure: Figure) -> Iterator[str]:
    """Parts and fittings meant for a side on which there is nothing they could sit on."""
    sides: dict[str, set[str | None]] = {}
    waiting = list(figure.parts)
    while waiting:
        part = next(p for p in waiting if p.parent is None or p.parent in sides)
        waiting.remove(part)
        if part.parent is None:
            sides[part.id] = {None}
            continue
        sides[part.id] = _sides(sides[part.parent], part.pair, part.on)
        if not sides[part.id]:
            yield f"parts, {part.id}, on: there is no “{part.parent}” on the {part.on} to sit on"
            return
    for fitting in figure.fittings:
        if fitting.part in sides and not _sides(sides[fitting.part], fitting.pair, fitting.on):
            yield f"fittings, {fitting.id}, on: there is no “{fitting.part}” on the {fitting.on}"


def _sides(parent: set[str | None], pair: bool, on: str) -> set[str | None]:
    if parent == {None}:
        return {"left", "right"} if pair else {None}
    return {side for side in parent if on in ("both", side)}


def _reference_faults(figure: Figure) -> Iterator[str]:
    parts = {part.id: part for part in figure.parts}
    if figure.datum.part is not None and figure.datum.part not in parts:
        yield f"datum, part: there is no part “{figure.datum.part}”"
    for label, things in (
        ("fittings", figure.fittings),
        ("nodes", figure.nodes),
        ("marks", figure.marks),
    ):
        for thing in things:
            if thing.part not in parts:
                yield f"{label}, {thing.id}, part: there is no part “{thing.part}”"
    for bend in figure.pose:
        limb = parts.get(bend.part)
        if limb is None or not isinstance(limb.shape, Limb):
            yield f"pose, {bend.part}: only a limb can be posed, and there is no limb of that id"
        elif bend.joint >= len(limb.shape.joints):
            yield f"pose, {bend.part}, joint: this limb has joints 0 to {len(limb.shape.joints) - 1}"


def _wire_faults(figure: Figure) -> Iterator[str]:
    nodes = {node.id for node in figure.nodes}
    bones = {frozenset((bone.a, bone.b)) for bone in figure.bones}
    parts = {part.id for part in figure.parts}
    for bone in figure.bones:
        if bone.part is not None and bone.part not in parts:
            yield f"bones, {bone.a} to {bone.b}, part: there is no part “{bone.part}”"
        for end in (bone.a, bone.b):
            if end not in nodes:
                yield f"bones, {bone.a} to {bone.b}: there is no node “{end}”"
    for wire in figure.wires:
        for node in (*wire.route, *wire.binds):
            if node not in nodes:
                yield f"wires, {wire.id}: there is no node “{node}”"
        if wire.stub is not None and wire.stub not in parts:
            yield f"wires, {wire.id}, stub: there is no part “{wire.stub}”"
        for a, b in zip(wire.route, wire.route[1:], strict=False):
            if frozenset((a, b)) not in bones:
                yield f"wires, {wire.id}, route: no bone joins “{a}” and “{b}”"
