"""The whole design: pieces that are checked to fit together."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property

from pydantic import model_validator

from bambola.core.facts import RefusedError
from bambola.core.figure.model import FigureParts, Part
from bambola.core.figure.soundness import find_fault


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
                stands = bearer in ends - through or bearer not in ends | through
                if bearer is not None and stands and bearer not in self.wired:
                    found.add(part.id)
        return frozenset(found)
