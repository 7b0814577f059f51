"""Builds a figure from strokes: each line gives its part's size and place in its view, and the part's name
the rest."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from bambola.core.bench import Bench
from bambola.core.facts import Fact, Mm, fact
from bambola.core.figure import Coat, Figure, Part, Survey, Trace
from bambola.core.figure.additions import with_eyes
from bambola.core.figure.shapes import as_kind
from bambola.core.figure.survey import Taken
from bambola.core.frozen import frozen
from bambola.core.notes.building import figure_of
from bambola.core.notes.reading import NotedSize, Notes
from bambola.core.plan.making.ready_to_wear import with_ring
from bambola.core.plan.reading.assembling import nearest_wool
from bambola.core.sight.build import BuiltPart, build_part, origin_of, shift_trace
from bambola.core.solids import AXES, Copy, mesh_of, nearest_seat, own_copy, place, reseat, tilt_of
from bambola.core.solids.edit import put_on
from bambola.core.strokes.grouping import end_on, greatest_width, upright_trace
from bambola.core.strokes.reading import ReadPart

Array = NDArray[np.float64]

ON_SKIN = 0.5
"""What usually sits so far out from the axis of its bearer (1 is the skin) lies on the skin. Judged. See
craft.md, 9."""
ROUND_OFF = 0.15
"""Nearer to the end of a bearer than this share of its length nothing sits by its skin: it rounds off
there."""
OVAL = 1.15
"""A cone that one view sees so many times as wide as another is not round. Judged."""
FLAT = 0.25
"""A flat part of which two views see that it is thicker than this share of its width is a ball. Judged."""
SAME = 0.02
"""Measures that differ by less than this share are told as the same."""
PATCH, SUNK = 0.5, 0.3
"""What lies on the skin and is longer than this share of what bears it is a patch: its middle lies so much of
its thickness deeper. Judged."""
SKIN_CORNERS = 10
"""So many corners of a mesh nearest to a line say where its skin is."""


@frozen
class DrawnFigure:
    """A figure built from strokes, and its survey. ``unseen`` are the measures no picture shows, as part and
    measure, which were taken in proportion."""

    figure: Figure
    survey: Survey
    unseen: tuple[tuple[str, str], ...]

    @property
    def remarks(self) -> tuple[Fact, ...]:
        """What was assumed because no picture shows it, part by part."""
        return tuple(taken_as(self.figure.by_id[part], measure) for part, measure in self.unseen)


def taken_as(part: Part, measure: str) -> Fact:
    """Return the fact that says how large an invisible ``measure`` of ``part`` was assumed."""
    sizes, what = part.shape.measures(), Fact(f"measure.{measure}")
    beside = next((n for n in ("width", "depth") if n in sizes and n != measure), None)
    if beside is None:
        return fact("strokes.taken", name=part.name, measure=what, mm=Mm(sizes[measure]))
    if abs(sizes[measure] / sizes[beside] - 1) < SAME:
        return fact("strokes.same", name=part.name, measure=what, other=Fact(f"measure.{beside}"))
    share = f"{sizes[measure] / sizes[beside]:.2g}"
    return fact(
        "strokes.share", name=part.name, measure=what, share=share, other=Fact(f"measure.{beside}")
    )


def figure_drawn(
    drawn: Sequence[ReadPart], survey: Survey, bench: Bench, plans: Sequence[Figure], name: str
) -> DrawnFigure:
    """Return the figure of the parts drawn in the pictures of ``survey``."""
    drawn = [_thick_or_flat(one) for one in drawn]
    traces = [_turned_upright(one) for one in drawn]
    entries = tuple(
        replace(
            one.entry,
            sizes=_noted_sizes(one, own),
            form=one.form,
            on=_bearer_kind(one, drawn),
            count=None,
        )
        for one, own in zip(drawn, traces, strict=True)
    )
    listed = figure_of(Notes(name, None, None, entries, ()), bench, plans, None, name)
    assert listed is not None
    ids = {line: id for id, line in listed.lines.items()}
    figure = listed.figure
    for part in figure.parents_first:
        n = listed.lines[part.id]
        figure = _as_drawn(figure, part.id, drawn[n], bench)
    survey = survey.replaced(traces=(), taken=())
    for n, id in ids.items():
        if id in figure.by_id:
            for trace in traces[n]:
                survey = survey.traced(trace.replaced(part=id))
    unseen: list[tuple[str, str]] = []
    for part in figure.parents_first:
        one = drawn[listed.lines[part.id]]
        on = ids.get(one.on) if one.on is not None else None
        if on is not None and on != part.parent and on in figure.by_id:
            figure = put_on(figure, part.id, on)
        if one.form == "ring":
            figure = _add_ring(figure, survey, part.id, one)
            survey = survey.without_parts(frozenset((part.id,)))
            continue
        figure, taken = _placed_by_traces(figure, survey, part.id)
        survey = survey.with_readings(*taken)
        seen = {each.measure for each in taken}
        unseen += [(part.id, m) for m in figure.by_id[part.id].shape.measure_names if m not in seen]
    for one in drawn:
        if one.form == "eyes":
            figure = _add_eyes(figure, survey, ids[one.on or 0], one)
    return DrawnFigure(figure, survey, tuple(unseen))


def _thick_or_flat(one: ReadPart) -> ReadPart:
    """Return the part as a ball if two views show that it is not flat."""
    wide = sorted(map(greatest_width, one.traces))
    if one.form != "leaf" or len(wide) < 2 or wide[0] < FLAT * wide[-1]:
        return one
    return replace(one, form="ball")


def _turned_upright(one: ReadPart) -> tuple[Trace, ...]:
    """Return the traces of a part in agreement: round parts upright, unless the side view shows a horizontal
    body."""
    traces = one.traces
    if one.form not in ("ball", "pad"):
        return traces
    side = one.part.in_view("side")
    if one.kind.site == "root" and side is not None and side.is_level:
        lying = next(trace for trace in traces if trace.view == "side")
        return tuple(t if t.view == "side" else end_on(t, lying) for t in traces)
    level = any(line.is_level for line in one.part.lines)
    return tuple(upright_trace(t, one.form) for t in traces) if level or len(traces) > 1 else traces


def _noted_sizes(one: ReadPart, traces: Sequence[Trace]) -> tuple[NotedSize, ...]:
    """Return the sizes of a part in the form of a list."""
    longest = max(traces, key=lambda trace: trace.length)
    long = NotedSize(longest.length, "length")
    if one.form in ("ball", "pad"):
        lies = one.kind.site == "root" and any(
            line.view == "side" and line.is_level for line in one.part.lines
        )
        sides = [
            NotedSize(greatest_width(t), "depth" if t.view == "side" else "width") for t in traces
        ]
        if lies:
            return (
                long,
                *(NotedSize(s.mm, "height" if s.role == "depth" else "width") for s in sides),
            )
        return (NotedSize(longest.length, "height"), *sides[:2])
    if one.form == "ring":
        return (NotedSize(greatest_width(longest), "thickness"),)
    if one.form == "eyes":
        return (NotedSize(max(longest.length, greatest_width(longest)), "width"),)
    ends = [a + b for a, b in zip(longest.left, longest.right, strict=True)]
    if one.form == "cone":
        return (long, NotedSize(ends[2], "width"), NotedSize(ends[-3], "to"))
    return (
        long,
        NotedSize(greatest_width(longest), "width" if one.form == "leaf" else "thickness"),
    )


def _bearer_kind(one: ReadPart, drawn: Sequence[ReadPart]) -> str:
    return drawn[one.on].kind.id if one.on is not None else ""


def _as_drawn(figure: Figure, id: str, one: ReadPart, bench: Bench) -> Figure:
    """Return the part with the name, pair, wool and cross-section of its strokes."""
    part = figure.by_id[id]
    wide = [greatest_width(trace) for trace in one.traces]
    is_oval = one.form == "cone" and len(wide) > 1 and max(wide) > OVAL * min(wide)
    shape = as_kind(part.shape, "turned") if is_oval else part.shape
    wool = nearest_wool(bench, np.array(one.lab))
    name = one.part.name.strip()
    parts = tuple(
        part.replaced(
            shape=shape,
            name=name[:1].upper() + name[1:],
            pair=one.is_pair and _is_single(figure, part),
            row=None,
            coat=Coat(wool=wool),
        )
        if each.id == id
        else each
        for each in figure.parts
    )
    return figure.replaced(parts=parts)


def _is_single(figure: Figure, part: Part) -> bool:
    """Return whether no bearer of a part is one of a pair."""
    at = part.parent
    while at is not None:
        if figure.by_id[at].pair:
            return False
        at = figure.by_id[at].parent
    return part.parent is not None


def _placed_by_traces(figure: Figure, survey: Survey, id: str) -> tuple[Figure, tuple[Taken, ...]]:
    """Return a part placed by its traces; what they do not show comes from its name."""
    part = figure.by_id[id]
    traces = [shift_trace(trace, origin_of(figure, survey)) for trace in survey.traces_of(id)]
    if not traces:
        return figure, ()
    was = _place_level(figure, part, traces)
    built = build_part(part.shape.kind, traces, was, part.pair, part.name)
    taken = tuple(
        Taken(part=id, measure=name, mm=mm, how="picture")
        for name, mm in built.shape.measures().items()
        if name in built.seen
    )
    return _with_built(figure, part, built), taken


def _with_built(figure: Figure, part: Part, built: BuiltPart) -> Figure:
    new = part.replaced(shape=built.shape)
    if part.parent is None:
        new = new.replaced(seat=part.seat.replaced(tilt=tilt_of(built.turn)))
    else:
        bearer = own_copy(place(figure), part.parent)
        assert bearer is not None
        new = new.replaced(seat=reseat(bearer, built.base, built.turn, part.seat.sink))
    return figure.replaced(parts=tuple(new if p.id == part.id else p for p in figure.parts))


def _place_level(figure: Figure, part: Part, traces: Sequence[Trace]) -> Copy | None:
    """Return a part placed by its name and moved to the drawn height; if only one view shows it, and it lies
    on its bearer's skin, moved to the visible skin."""
    if part.parent is None:
        return own_copy(place(figure), part.id)
    bearer = own_copy(place(figure), part.parent)
    was = own_copy(place(figure), part.id)
    assert bearer is not None and was is not None
    view = traces[0].view
    seen, depth = AXES[view][:2], AXES[view][2]
    base = np.array(traces[0].points[0]) @ seen + depth * float(was.matrix[:3, 3] @ depth)
    own = np.linalg.inv(bearer.matrix)
    along, _, _ = nearest_seat(bearer.shape, own[:3, :3] @ base + own[:3, 3])
    seat = part.seat.replaced(along=min(1 - ROUND_OFF, max(ROUND_OFF, along)))
    moved = part.replaced(seat=seat)
    parts = tuple(moved if p.id == part.id else p for p in figure.parts)
    level = own_copy(place(figure.replaced(parts=parts)), part.id)
    assert level is not None
    if len(traces) > 1 or part.seat.out < ON_SKIN:
        return level
    out = _skin_seen(bearer, traces[0])
    if out is None:
        return level
    axis = float(bearer.point(0.5) @ depth)
    out = axis + (out - axis) * min(1.0, part.seat.out)
    if traces[0].length > PATCH * max(bearer.shape.measures().values()):
        thick = float(np.ptp(mesh_of(level.shape).vertices @ (level.matrix[:3, :3].T @ depth)))
        out -= SUNK * thick
    matrix = level.matrix.copy()
    matrix[:3, 3] += depth * (out - float(level.point(0.5) @ depth))
    return replace(level, matrix=matrix)


def _skin_seen(bearer: Copy, trace: Trace) -> float | None:
    """Return how far towards the viewer the skin of ``bearer`` is at the middle of a line, mm; None if the
    line leaves its outline."""
    from scipy.spatial import Delaunay

    seen, depth = AXES[trace.view][:2], AXES[trace.view][2]
    skin = mesh_of(bearer.shape).vertices @ bearer.matrix[:3, :3].T + bearer.matrix[:3, 3]
    flat, near = skin @ seen.T, skin @ depth
    ends = np.array([trace.points[0], trace.points[-1]])
    middle = ends.mean(axis=0)
    if (Delaunay(flat).find_simplex(np.vstack([ends, middle[None]])) < 0).any():
        return None
    around = np.argsort(np.linalg.norm(flat - middle, axis=1))[:SKIN_CORNERS]
    return float(near[around].max())


def _add_ring(figure: Figure, survey: Survey, id: str, one: ReadPart) -> Figure:
    """Return the figure with a ring where its line crosses its bearer."""
    part, trace = figure.by_id[id], one.traces[0]
    assert part.parent is not None
    bearer = own_copy(place(figure), part.parent)
    assert bearer is not None
    shift = AXES[trace.view][:2] @ origin_of(figure, survey)
    middle = (np.array(trace.points[0]) + np.array(trace.points[-1])) / 2 - shift
    steps = np.linspace(0.02, 0.98, 49)
    axis = np.array([bearer.point(float(at)) for at in steps]) @ AXES[trace.view][:2].T
    along = float(steps[np.argmin(np.linalg.norm(axis - middle, axis=1))])
    rest = figure.replaced(parts=tuple(p for p in figure.parts if p.id != id))
    wool = part.coat.wool if part.coat else part.core
    worn, made = with_ring(
        rest,
        part.parent,
        along,
        trace.length,
        trace.view == "side",
        greatest_width(trace),
        wool,
        part.name,
    )
    ring = worn.by_id[made].replaced(id=id, garment=part.garment, plural=part.plural)
    parts = [p for p in worn.parts if p.id != made]
    at = [p.id for p in figure.parts].index(id)
    return worn.replaced(parts=(*parts[:at], ring, *parts[at:]))


def _add_eyes(figure: Figure, survey: Survey, on: str, one: ReadPart) -> Figure:
    """Return the figure with its eyes as drawn."""
    bearer = own_copy(place(figure), on)
    assert bearer is not None
    trace = one.traces[0]
    seen, depth = AXES[trace.view][:2], AXES[trace.view][2]
    middle = (np.array(trace.points[0]) + np.array(trace.points[-1])) / 2
    middle = middle - seen @ origin_of(figure, survey)
    out = _skin_seen(bearer, shift_trace(trace, origin_of(figure, survey)))
    at = middle @ seen + depth * (out if out is not None else float(bearer.point(0.6) @ depth))
    own = np.linalg.inv(bearer.matrix)
    along, around, _ = nearest_seat(bearer.shape, own[:3, :3] @ at + own[:3, 3])
    size = max(trace.length, greatest_width(trace))
    return with_eyes(figure, on, along, abs(around), size, one.part.name)
