"""A figure wired by a school: its drawn routes replaced by computed ones."""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence

from bambola.core.armature.schools import COMPUTED, DEFAULT_SCHOOL, DRAWN, SCHOOLS, routes_for
from bambola.core.armature.skeleton import Pair, Route, Skeleton, bone_part, skeleton_of, strands_on
from bambola.core.facts import Fact, fact
from bambola.core.figure import Bone, Figure, Metal, Node, Part, Wire
from bambola.core.figure.graft import free_id

NOMINAL_MM = 1.0
"""What a computed wire is called before its gauge is known. See craft.md, 3."""


def school_of(figure: Figure, wanted: str | None) -> str:
    """Return the school a figure is wired by: the wanted one, else as drawn where wires are drawn."""
    if wanted in SCHOOLS and (wanted != DRAWN or figure.wires):
        return wanted
    return DRAWN if figure.wires else DEFAULT_SCHOOL


def wired_by(
    figure: Figure,
    school: str,
    points: Mapping[str, Sequence[float]],
    resting: frozenset[str] = frozenset(),
    bare: frozenset[str] = frozenset(),
) -> Figure:
    """Return ``figure`` with the wires of ``school``, and none in the parts ``bare``.

    ``points`` are its nodes' places (mm); ``resting`` those of parts that bear on the ground.
    """
    if school == DRAWN:
        return without_wire_in(figure, bare)
    whole, without = skeleton_of(figure, points, resting), _bare_bones(figure, bare)
    skeleton = whole.restricted_to(bone for bone in whole.bones if frozenset(bone) not in without)
    routes = _bound_in_turn(routes_for(skeleton, school))
    metal = likely_metal(figure)
    stubs = {w.route[-1]: w.stub for w in figure.wires if w.stub and w.stub not in bare}
    wires, reached, names = [], set[str](), dict[Fact, int]()
    for i, route in enumerate(routes):
        if route[0] in stubs and route[-1] not in stubs:
            route = route[::-1]
        bind = next((node for node in _inner_first(route, figure) if node in reached), None)
        reached |= set(route)
        name = _name_wire(figure, skeleton, school, route, i)
        names[name] = names.get(name, 0) + 1
        wires.append(
            Wire(
                id=f"{school}-{i + 1}",
                metal=metal,
                diameter=NOMINAL_MM,
                route=route,
                name=f"{school}-{i + 1}",
                binds=(bind,) if bind else (),
                stub=stubs.get(route[-1]),
            ).named(name if names[name] == 1 else fact("wire-of.again", wire=name, n=names[name]))
        )
    return figure.replaced(wires=tuple(wires), nodes=_with_loops(figure))


def _with_loops(figure: Figure) -> tuple[Node, ...]:
    """Return the nodes with the rings of the drawn wires' ends kept as their own."""
    drawn = {
        wire.route[end]: mm
        for wire in figure.wires
        for end, mm in zip((0, -1), wire.loops, strict=False)
    }
    return tuple(
        node.replaced(loop=drawn[node.id]) if node.id in drawn and node.loop is None else node
        for node in figure.nodes
    )


def likely_metal(figure: Figure) -> Metal:
    """Return the metal most bones of the drawn wires are of; soft steel where none is drawn."""
    count: dict[Metal, int] = {}
    for wire in figure.wires:
        count[wire.metal] = count.get(wire.metal, 0) + len(wire.route)
    return max(count, key=lambda metal: count[metal]) if count else "soft steel"


def _bound_in_turn(routes: list[Route]) -> list[Route]:
    """Return the routes so ordered that each meets one before it, where it can."""
    ordered, left, reached = list[Route](), list(routes), set[str]()
    while left:
        following = next((route for route in left if reached & set(route)), left[0])
        left.remove(following)
        ordered.append(following)
        reached |= set(following)
    return ordered


def _inner_first(route: Route, figure: Figure) -> list[str]:
    """Return a route's nodes, those in the part everything sits on leading: bindings hide best there."""
    root = figure.parents_first[0].id
    part = {node.id: node.part for node in figure.nodes}
    return sorted(dict.fromkeys(route), key=lambda node: part[node] != root)


def _name_wire(figure: Figure, skeleton: Skeleton, school: str, route: Route, i: int) -> Fact:
    if given := COMPUTED[school].called:
        return Fact(f"wire-of.{given[min(i, len(given) - 1)]}")
    nodes = {node.id: node for node in figure.nodes}
    where, root = bone_part(figure), figure.parents_first[0].id
    runs: dict[str, float] = {}
    for leg in itertools.pairwise(route):
        part = where[frozenset(leg)]
        runs[part] = runs.get(part, 0.0) + skeleton.lengths[frozenset(leg)] * (part != root)
    main = max(runs, key=lambda part: runs[part])
    if runs[main] <= 0:
        return Fact("wire-of.spine")
    sides = {nodes[node].side for node in route if nodes[node].part == main}
    called = figure.by_id[main].name
    if sides >= {"left", "right"}:
        return fact("wire-of.hoop", part=called)
    side = next((side for side in sides if side), None)
    return fact(f"wire-of.{side}-part" if side else "wire-of.part", part=called)


def _bare_bones(figure: Figure, bare: frozenset[str]) -> set[Pair]:
    """Return the bones that lie or end in the parts ``bare``: wire that only reaches them holds nothing."""
    part = {node.id: node.part for node in figure.nodes}
    return {
        bone
        for bone, where in bone_part(figure).items()
        if where in bare or any(part[node] in bare for node in bone)
    }


def without_wire_in(figure: Figure, bare: frozenset[str]) -> Figure:
    """Return ``figure`` with no drawn wire in the parts ``bare``: routes end before they would enter them."""
    if not bare:
        return figure
    without = _bare_bones(figure, bare)
    wires = []
    for wire in figure.wires:
        legs = list(itertools.pairwise(wire.route))
        kept = [leg for leg in legs if frozenset(leg) not in without]
        if not kept:
            continue
        # The longest unbroken run is kept: what is left over beyond a bare limb holds nothing.
        runs: list[list[tuple[str, str]]] = [[kept[0]]]
        for leg in kept[1:]:
            if leg[0] == runs[-1][-1][1]:
                runs[-1].append(leg)
            else:
                runs.append([leg])
        best = max(runs, key=len)
        route = (best[0][0], *(leg[1] for leg in best))
        binds = tuple(node for node in wire.binds if node in route)
        stub = wire.stub if wire.stub not in bare and route[-1] == wire.route[-1] else None
        wires.append(wire.replaced(route=route, binds=binds, stub=stub))
    return figure.replaced(wires=tuple(wires))


def wired_through(figure: Figure, part: str, points: Mapping[str, Sequence[float]]) -> Figure:
    """Return ``figure`` with wire led from its parent into ``part``: the strongest of joins.

    A bone runs from the parent's node nearest the seat (or a new one at its heart) to the middle of
    the part. Of the drawn wires, one that ends there goes on into the part; else a short one is added.
    """
    body = figure.by_id[part]
    assert body.parent is not None
    nodes, taken = list(figure.nodes), frozenset(node.id for node in figure.nodes)
    inside = next((node for node in nodes if node.part == part), None)
    if inside is None:
        inside = Node(id=free_id(f"{part}-heart", taken), part=part, along=0.5)
        nodes.append(inside)
    from_parent = [node for node in figure.nodes if node.part == body.parent and node.id in points]
    near = min(from_parent, key=lambda node: abs(node.along - body.seat.along), default=None)
    if near is None:
        near = Node(id=free_id(f"{body.parent}-heart", taken), part=body.parent, along=0.5)
        nodes.append(near)
    bone = frozenset((near.id, inside.id))
    bones = figure.bones
    if bone not in bone_part(figure):
        bones = (*bones, Bone(a=near.id, b=inside.id))
    wires = _led_on(figure.wires, near.id, inside.id, body)
    return figure.replaced(nodes=tuple(nodes), bones=bones, wires=wires)


def _led_on(wires: tuple[Wire, ...], near: str, inside: str, body: Part) -> tuple[Wire, ...]:
    """Drawn wires that reach from the node ``near`` to the one ``inside`` ``body``."""
    bone = frozenset((near, inside))
    if not wires or any(
        bone == frozenset(leg) for w in wires for leg in itertools.pairwise(w.route)
    ):
        return wires
    for i, wire in enumerate(wires):
        if wire.route[-1] == near and not wire.stub:
            return (*wires[:i], wire.replaced(route=(*wire.route, inside)), *wires[i + 1 :])
    name = free_id(f"{body.id}-wire", frozenset(w.id for w in wires))
    added = Wire(
        id=name,
        name=name,
        metal=wires[0].metal,
        diameter=wires[0].diameter,
        route=(near, inside),
        binds=(near,) if any(near in w.route for w in wires) else (),
    )
    return (*wires, added.named(fact("wire-of.part", part=body.name)))


def with_second_strands(figure: Figure, doubled: frozenset[str]) -> Figure:
    """Return ``figure`` with another wire beside each of ``doubled``, the same way and twisted on to it."""
    wires = list(figure.wires)
    for wire in figure.wires:
        if wire.id in doubled:
            name = free_id(f"{wire.id}-second", frozenset(w.id for w in wires))
            beside = wire.replaced(id=name, name=name, stub=None, loops=(), binds=wire.route[:1])
            wires.append(beside.named(fact("wire-of.second", wire=wire.display_name)))
    return figure.replaced(wires=tuple(wires))


def missing_strands(figure: Figure) -> dict[Pair, tuple[int, int]]:
    """Return bones with fewer wires than they ask for: (wires there, wires asked)."""
    there = strands_on(figure)
    return {
        frozenset((b.a, b.b)): (there.get(frozenset((b.a, b.b)), 0), b.strands)
        for b in figure.bones
        if there.get(frozenset((b.a, b.b)), 0) < b.strands
    }


def joint_count(figure: Figure) -> int:
    """Return joints the wires need among each other: one fewer than the wires, in each connected group."""
    return len(figure.wires) - len(_join_overlapping([set(wire.route) for wire in figure.wires]))


def loose_wires(figure: Figure) -> tuple[str, ...]:
    """Return wires that meet others and are bound to none of the rest: ids, the largest bound group left
    out."""
    met = _join_overlapping([set(wire.route) for wire in figure.wires])
    found: list[str] = []
    for group in met:
        wires = [wire for wire in figure.wires if group & set(wire.route)]
        links = [
            {
                f"wire {i}",
                *(
                    f"wire {j}"
                    for j, other in enumerate(wires)
                    if i != j and set(wire.binds) & set(other.route)
                ),
            }
            for i, wire in enumerate(wires)
        ]
        bound = sorted(_join_overlapping(links), key=len, reverse=True)
        found += [
            wire.id
            for i, wire in enumerate(wires)
            if any(f"wire {i}" in rest for rest in bound[1:])
        ]
    return tuple(found)


def _join_overlapping(sets: Sequence[set[str]]) -> list[set[str]]:
    """Return sets that share an element, joined together."""
    groups: list[set[str]] = []
    for one in sets:
        touching = [group for group in groups if group & one]
        groups = [group for group in groups if group not in touching]
        groups.append(one.union(*touching))
    return groups
