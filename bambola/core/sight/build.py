"""Builds a part's shape and place in space from its traces in one or more views."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from pydantic import ValidationError

from bambola.core.facts import Fact, Mm, RefusedError, fact
from bambola.core.figure import (
    Ball,
    Cone,
    Figure,
    Joint,
    Leaf,
    Limb,
    Pad,
    Part,
    Rope,
    Sausage,
    Shape,
    Station,
    Turned,
)
from bambola.core.figure.shapes import KINDS, ChainShape, as_kind
from bambola.core.figure.survey import Sight, Survey, Taken, Trace
from bambola.core.sight.fit import TURNED_AT, ChainFit, ShapeFit, fit_chain, fit_shape
from bambola.core.solids import (
    AXES,
    Copy,
    Placement,
    frame_along,
    mesh_of,
    nearest_seat,
    own_copy,
    place,
    reseat,
    tilt_of,
)
from bambola.core.solids.inside import points_within

Array = NDArray[np.float64]

FLAT_DEG = 20.0
"""A pad lies on its flat side: one drawn this near to upright stands upright. Its short axis says less
about how it is turned than the table it stands on. See craft.md, 9."""


@dataclass(frozen=True)
class BuiltPart:
    """A part built from its traces: shape, base (3,) and rotation (3, 3) in the figure's axes, and the names
    of the measures that a picture really showed."""

    shape: Shape
    base: Array
    turn: Array
    seen: frozenset[str]


def build_part(
    kind: str, traces: Sequence[Trace], was: Copy | None, paired: bool, name: str = ""
) -> BuiltPart:
    """Return the part of ``kind`` that ``traces`` show. ``was`` is the part before the change, if any, and
    ``name`` what it is called. A part that is not one of a pair lies on the midline unless a trace shows
    otherwise.

    Raises ``ValueError`` with one sentence if no such shape can have been drawn.
    """
    try:
        return _build_shape(kind, traces, was, paired)
    except ValidationError as error:
        raise RefusedError(_not_such(kind, name, error)) from None


def _not_such(kind: str, name: str, error: ValidationError) -> Fact:
    """Explain why the traces cannot be of this shape, by part and measure."""
    shape = Fact(f"shape.{kind}")
    first = error.errors()[0]
    measure, found = (first["loc"] or ("",))[-1], first["input"]
    measures = KINDS[kind].model_fields.keys()
    if name and measure in measures and isinstance(found, float) and math.isfinite(found):
        what = Fact(f"measure.{measure}")
        return fact("edit.no-such-measure", shape=shape, part=name, measure=what, found=Mm(found))
    if name:
        return fact("edit.no-such-part", part=name, shape=shape)
    return fact("edit.no-such-shape", shape=shape)


def _build_shape(kind: str, traces: Sequence[Trace], was: Copy | None, paired: bool) -> BuiltPart:
    own = _one_a_view([_to_left(trace) if paired else trace for trace in traces])
    if issubclass(KINDS[kind], ChainShape):
        return _chain_from_traces(kind, own, was)
    fits = {trace.view: fit_shape(kind, trace) for trace in own}
    base, tip = _axis_ends_in_space(fits, was)
    if kind == "leaf":
        return _leaf_from_fits(fits, base, tip, was)
    axis = tip - base
    if kind == "pad" and abs(axis[2]) > math.cos(math.radians(FLAT_DEG)) * np.linalg.norm(axis):
        axis = np.array([0.0, 0.0, axis[2]])
    turn = frame_along(axis, np.array([1.0, 0.0, 0.0]))
    wide = [f for view, f in fits.items() if view != "side"]
    deep = [f for view, f in fits.items() if view == "side"]
    shape, seen = _profile_shape(kind, float(np.linalg.norm(tip - base)), wide, deep, was)
    return BuiltPart(shape, base, turn, seen)


def _one_a_view(traces: list[Trace]) -> list[Trace]:
    """Return one trace a view: the two of a pair are averaged where they can be mirrored on each other."""
    kept: dict[Sight, Trace] = {}
    for trace in traces:
        other = kept.get(trace.view)
        alike = (
            other and len(other.points) == len(trace.points) and len(other.left) == len(trace.left)
        )
        kept[trace.view] = _mean_trace(other, trace) if other and alike else trace
    return list(kept.values())


def _mean_trace(a: Trace, b: Trace) -> Trace:
    points = tuple(
        ((p[0] + q[0]) / 2, (p[1] + q[1]) / 2) for p, q in zip(a.points, b.points, strict=True)
    )
    sides = (
        tuple((x + y) / 2 for x, y in zip(one, two, strict=True))
        for one, two in ((a.left, b.left), (a.right, b.right))
    )
    left, right = sides
    return a.replaced(points=points, left=left, right=right)


def _to_left(trace: Trace) -> Trace:
    """Return a trace of the right one of a pair mirrored to the left."""
    if trace.view == "side":
        return trace
    sense = AXES[trace.view][0][0]
    if sense * sum(u for u, _ in trace.points) >= 0:
        return trace
    return trace.replaced(
        points=tuple((-u, v) for u, v in trace.points), left=trace.right, right=trace.left
    )


def _axis_ends_in_space(fits: dict[Sight, ShapeFit], was: Copy | None) -> tuple[Array, Array]:
    """Return the axis's ends (3,) in space: two coordinates from the view that sees it longest, one from
    another."""
    first = max(fits, key=lambda view: fits[view].length)
    ends = np.array([fits[first].start, fits[first].end]) @ AXES[first][:2]
    depth = AXES[first][2]
    other = next((v for v in fits if v != first and max(abs(AXES[v][:2] @ depth)) > 0.5), None)
    if other is not None:
        seen = np.array([fits[other].start, fits[other].end]) @ AXES[other][:2]
        ends = ends + np.outer(seen @ depth, depth)
    else:
        ends = ends + np.outer(_kept_depth(was, depth), depth)
    return ends[0], ends[1]


def _kept_depth(was: Copy | None, depth: Array) -> Array:
    """Return where the part lay along the line of sight before; a new part lies on the midline."""
    if was is None:
        return np.zeros(2)
    start, end = was.point(0.0), was.point(1.0)
    return np.array([start @ depth, end @ depth])


def _profile_shape(
    kind: str, length: float, wide: list[ShapeFit], deep: list[ShapeFit], was: Copy | None
) -> tuple[Shape, frozenset[str]]:
    both = [*wide, *deep]
    if kind in ("sausage", "cone"):
        return _round_shape(kind, length, both)
    if kind not in ("ball", "pad"):
        turned, seen = _turned_from_fits(length, wide, deep, was)
        shape = turned if kind == "turned" else as_kind(turned, kind)
        return shape, seen & frozenset(shape.measure_names)
    width = _mean_or_none([f.across["width"] for f in wide])
    depth = _mean_or_none([f.across["width"] for f in deep])
    seen = frozenset({"height"}) | ({"width"} if wide else set()) | ({"depth"} if deep else set())
    width, depth = _width_and_depth(width, depth, was)
    if kind == "pad":
        return Pad(width=width, depth=depth, height=length), seen
    taper = float(np.clip(_mean_or_none([f.across["taper"] for f in both]) or 0.0, -0.6, 0.6))
    return Ball(width=width, depth=depth, height=length, taper=taper), seen


def _round_shape(kind: str, length: float, fits: list[ShapeFit]) -> tuple[Shape, frozenset[str]]:
    if kind == "sausage":
        thick = _mean_or_none([f.across["width"] for f in fits]) or length
        return Sausage(length=max(length, thick), diameter=thick), frozenset(("length", "diameter"))
    # Seen along its axis a cone shows nothing of itself: the longest view says most.
    best = max(fits, key=lambda f: f.length)
    base, tip = best.across["base"], best.across["tip"]
    return (
        Cone(length=max(length, 1.001 * max(base, tip)), base=base, tip=tip),
        frozenset(("length", "base", "tip")),
    )


def _turned_from_fits(
    length: float, wide: list[ShapeFit], deep: list[ShapeFit], was: Copy | None
) -> tuple[Shape, frozenset[str]]:
    def widths(fits: list[ShapeFit]) -> list[float] | None:
        if not fits:
            return None
        best = max(fits, key=lambda f: f.length)
        return [best.across[f"left-{i}"] + best.across[f"right-{i}"] for i in range(len(TURNED_AT))]

    w, d = widths(wide), widths(deep)
    ratio = 1.0
    if was is not None and {"width", "depth"} <= was.shape.measures().keys():
        measures = was.shape.measures()
        ratio = measures["depth"] / measures["width"]
    w = w if w is not None else [x / ratio for x in d or []]
    d = d if d is not None else [x * ratio for x in w]
    stations = tuple(
        Station(along=at, width=a, depth=b) for at, a, b in zip(TURNED_AT, w, d, strict=True)
    )
    seen = {"length"} | ({"width"} if wide else set()) | ({"depth"} if deep else set())
    return Turned(length=length, stations=stations), frozenset(seen)


def _width_and_depth(
    width: float | None, depth: float | None, was: Copy | None
) -> tuple[float, float]:
    """Return the width and depth; the one that no view shows keeps its former proportion, or is round."""
    ratio = 1.0
    if was is not None and {"width", "depth"} <= was.shape.measures().keys():
        measures = was.shape.measures()
        ratio = measures["depth"] / measures["width"]
    if width is None:
        width = (depth or 1.0) / ratio
    return width, depth if depth is not None else width * ratio


def _mean_or_none(values: Sequence[float]) -> float | None:
    return sum(values) / len(values) if values else None


def _leaf_from_fits(
    fits: dict[Sight, ShapeFit], base: Array, tip: Array, was: Copy | None
) -> BuiltPart:
    """Return a flat part: its outline from the view that sees it broadest, its thickness from another."""

    def breadth(view: Sight) -> float:
        return max(v for n, v in fits[view].across.items())

    broad = max(fits, key=breadth)
    edge = next((v for v in fits if v != broad), None)
    across = fits[broad].across
    left = np.array([across[f"left-{i}"] for i in range(len(TURNED_AT))])
    right = np.array([across[f"right-{i}"] for i in range(len(TURNED_AT))])
    width = float(left.max() + right.max())
    middle = (right.max() - left.max()) / 2
    at = np.array(TURNED_AT)
    up = [((x - middle) / width, float(z)) for x, z in zip(right, at, strict=True)]
    down = [((-x - middle) / width, float(z)) for x, z in zip(left[::-1], at[::-1], strict=True)]
    outline = tuple((float(np.clip(x, -0.5, 0.5)), z) for x, z in _distinct_points([*up, *down]))
    known = was.shape if was is not None and isinstance(was.shape, Leaf) else None
    if np.ptp(left) + np.ptp(right) < 1e-6 * width:
        # Drawn without an outline and not corrected yet: only how wide it is was said.
        outline = known.outline if known else Leaf.model_fields["outline"].default
    length = float(np.linalg.norm(tip - base))
    seen = {"length", "width"}
    if edge is not None:
        thick = float(np.median(_station_widths(fits[edge])))
        seen.add("thickness")
    elif known is not None:
        thick = known.thickness
    else:
        thick = min(width, length) / 5
    # The sheet's front looks at whoever sees it broadest.
    z = (tip - base) / length
    front = AXES[broad][2] - (AXES[broad][2] @ z) * z
    y = -front / np.linalg.norm(front)
    turn = np.column_stack([np.cross(y, z), y, z])
    bent = {name: getattr(known, name) for name in ("curl", "cup", "foot")} if known else {}
    shape = Leaf(length=length, width=width, thickness=thick, outline=outline, **bent)
    return BuiltPart(shape, base, turn, frozenset(seen))


def _station_widths(found: ShapeFit) -> list[float]:
    return [found.across[f"left-{i}"] + found.across[f"right-{i}"] for i in range(2, 9)]


def _distinct_points(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """Return the points without duplicates, which a smooth outline cannot pass through."""
    kept: list[tuple[float, float]] = []
    for point in points:
        if not kept or math.dist(point, kept[-1]) > 1e-3:
            kept.append(point)
    if len(kept) > 4 and math.dist(kept[0], kept[-1]) <= 1e-3:
        kept.pop()
    return kept


def _chain_from_traces(kind: str, traces: list[Trace], was: Copy | None) -> BuiltPart:
    first = max(traces, key=lambda t: t.length)
    rounds = max(len(t.points) for t in traces)
    if len(first.points) < rounds or kind == "rope":
        rounds = max(rounds, 3 if kind == "rope" else 2)
    same = all(len(t.points) == rounds for t in traces)
    chains = [(t.view, fit_chain(t, 0 if same else rounds)) for t in traces]
    main = next(c for v, c in chains if v == first.view)
    centres = _in_space(first.view, main, chains, was)
    thick = np.mean([c.thickness for _, c in chains], axis=0)
    base, turn = centres[0], np.eye(3)
    own = centres - base
    if kind == "rope":
        tip = float(np.clip(thick[-1] / thick[0], 0.05, 1.0))
        points = tuple((float(x), float(y), float(z)) for x, y, z in own)
        shape: Shape = Rope(points=points, thickness=float(thick[0]), tip=tip)
    else:
        shape = Limb(
            joints=tuple(
                Joint(x=float(x), y=float(y), z=float(z), diameter=float(d))
                for (x, y, z), d in zip(own, thick, strict=True)
            )
        )
    return BuiltPart(shape, base, turn, frozenset(("length", "thickness")))


def _in_space(
    view: Sight, main: ChainFit, chains: Sequence[tuple[Sight, ChainFit]], was: Copy | None
) -> Array:
    centres: Array = main.centres @ AXES[view][:2]
    depth = AXES[view][2]
    for other, chain in chains:
        if other != view and max(abs(AXES[other][:2] @ depth)) > 0.5:
            seen = (chain.centres @ AXES[other][:2]) @ depth
            return centres + np.outer(seen, depth)
    kept = _kept_depth(was, depth)
    return centres + np.outer(np.linspace(kept[0], kept[1], len(centres)), depth)


def origin_of(figure: Figure, survey: Survey) -> Array:
    """Return the figure's origin (3,) in the pictures' axes, mm.

    The figure's origin is the base of the part that everything sits on. If that part was traced, its traced
    base is returned; otherwise a point on the midline, as high above the ground line as the figure has it.
    """
    root = next(part for part in figure.parts if part.parent is None)
    traces = survey.traces_of(root.id)
    if traces:
        return build_part(root.shape.kind, traces, None, False).base
    return np.array([0.0, 0.0, -place(figure).ground])


def with_traces(figure: Figure, survey: Survey) -> tuple[Figure, Survey]:
    """Return ``figure`` with every traced part rebuilt from its traces, parents first, and the survey with
    the measures taken from pictures.

    Measures typed or tapped in later take precedence.
    """
    origin = origin_of(figure, survey)
    for part in figure.parents_first:
        traces = [shift_trace(trace, origin) for trace in survey.traces_of(part.id)]
        if traces:
            figure, survey = _rebuild_part(figure, survey, part, traces)
    return figure, survey


def shift_trace(trace: Trace, origin: Array) -> Trace:
    """Return a trace in the figure's own axes."""
    du, dv = (float(x) for x in AXES[trace.view][:2] @ origin)
    return trace.replaced(points=tuple((u - du, v - dv) for u, v in trace.points))


def _rebuild_part(
    figure: Figure, survey: Survey, part: Part, traces: Sequence[Trace]
) -> tuple[Figure, Survey]:
    placement = place(figure)
    was = own_copy(placement, part.id)
    paired = was is not None and was.side == "left"
    built = build_part(part.shape.kind, traces, was, paired, part.name)
    by_hand = {
        t.measure: t.mm
        for t in survey.taken
        if t.part == part.id and t.how != "picture" and t.measure in built.shape.measure_names
    }
    shape = built.shape.resized(by_hand) if by_hand else built.shape
    measures = shape.measures()
    survey = survey.with_readings(
        *(
            Taken(part=part.id, measure=name, mm=measures[name], how="picture")
            for name in sorted(built.seen - by_hand.keys())
        )
    )
    new = part.replaced(shape=shape)
    if part.parent is None:
        new = new.replaced(seat=part.seat.replaced(tilt=tilt_of(built.turn)))
    else:
        parent = own_copy(placement, part.parent)
        assert parent is not None
        new = new.replaced(seat=reseat(parent, built.base, built.turn, part.seat.sink))
    parts = tuple(new if p.id == part.id else p for p in figure.parts)
    return figure.replaced(parts=parts), survey


def likely_parent(placement: Placement, base: Array, without: frozenset[str]) -> str | None:
    """Return the part that a new part's base lies in or nearest to; ``without`` lists parts it cannot be."""
    best: tuple[float, str] | None = None
    for copy in placement.copies:
        if copy.part.id in without:
            continue
        own = np.linalg.inv(copy.matrix)
        local = own[:3, :3] @ base + own[:3, 3]
        if points_within(copy.shape, local[None])[0]:
            # Inside several, the one it is nearer to the skin of: that is where it comes out. By a mesh's
            # corners, which is near enough to choose by; any that it lies in comes before all others.
            far = 1e-3 * float(np.linalg.norm(mesh_of(copy.shape).vertices - local, axis=1).min())
        else:
            along, around, out = nearest_seat(copy.shape, local)
            skin = copy.point(along, around, min(out, 1.0))
            far = float(np.linalg.norm(skin - base))
        if best is None or far < best[0]:
            best = (far, copy.part.id)
    return best[1] if best else None
