"""Lines drawn in pictures made into parts of the figure."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np

from bambola.core.bench import Bench
from bambola.core.figure import Coat, Figure, Part, Survey, Trace
from bambola.core.figure.graft import check_figure, free_id, with_part, without_part
from bambola.core.figure.shapes import as_kind
from bambola.core.figure.survey import Sight
from bambola.core.frozen import frozen
from bambola.core.plan.reading.naming import likely_name
from bambola.core.sight.build import build_part, likely_parent, origin_of, shift_trace, with_traces
from bambola.core.sight.fit import propose_kind
from bambola.core.solids import AXES, Copy, mesh_of, place, reseat
from bambola.core.solids.edit import own_copy, put_on
from bambola.core.solids.forms import Array
from bambola.core.solids.outlines import outline_of_copy

OFF_MIDLINE = 0.15
"""A line whose middle lies this share of its own size beside the midline is one of a pair.
See craft.md, 9."""

ON_SKIN = 0.6
"""What is drawn wholly within its bearer's outline and smaller than this share of it sits on its skin.
Judged. See craft.md, 9."""
SKIN_CORNERS = 12
"""So many corners of a mesh nearest to a line say how far its skin is: some of them are behind."""
OVER, BESIDE, BROAD, ACROSS = 0.08, 0.25, 0.5, 0.5
"""A line goes round a part if neither end lies farther within than the first share of it, and its middle no
farther beside than the second; if the part is as broad as the third; and if the line is no nearer to the
part's own way than by this cosine. Judged. See craft.md, 9."""
_ALONG = 41
LEVEL_MM = 1.0
"""Places of an axis that a view sees no farther apart than this are one to it. See craft.md, 9."""


def proposed_kind(trace: Trace) -> str:
    """Return the kind of shape a trace most likely is."""
    return propose_kind(trace)


def proposed_parent(
    figure: Figure, survey: Survey, trace: Trace, kind: str
) -> tuple[str | None, str]:
    """Return the part a newly drawn one most likely sits on, from where its base is, and what it may be
    called."""
    pair = _is_aside(trace)
    built = build_part(kind, [shift_trace(trace, origin_of(figure, survey))], None, pair)
    parent = likely_parent(place(figure), built.base, frozenset())
    return parent, likely_name(figure, built, parent, pair)


def _is_aside(trace: Trace) -> bool:
    return trace.view in ("front", "back", "top") and proposed_pair(trace)


def proposed_pair(trace: Trace) -> bool:
    """Return whether a part lies beside the midline, and so has a twin on the other side."""
    if trace.view == "side":
        return False
    middle = sum(u for u, _ in trace.points) / len(trace.points)
    width = max(a + b for a, b in zip(trace.left, trace.right, strict=True))
    return abs(middle) > max(OFF_MIDLINE * trace.length, 0.5 * width)


def with_new_part(
    figure: Figure,
    survey: Survey,
    trace: Trace,
    name: str,
    kind: str,
    parent: str,
    pair: bool,
    bench: Bench,
) -> tuple[Figure, Survey, str]:
    """Return ``figure`` and ``survey`` with what was drawn as a part ``name`` on ``parent``.

    Raises ``ValueError`` where it cannot be. Returns the new part's id as well.
    """
    grown, drawn, part = with_seated(figure, survey, [trace], name, kind, parent, pair, bench)
    new, noted = with_traces(grown, drawn)
    return new, noted, part


def with_seated(
    figure: Figure,
    survey: Survey,
    traces: Sequence[Trace],
    name: str,
    kind: str,
    parent: str,
    pair: bool,
    bench: Bench,
) -> tuple[Figure, Survey, str]:
    """As :func:`with_new_part`, seen in one view or in several, the rest of the figure left as it is."""
    part = free_id(name, frozenset(figure.by_id))
    drawn = [trace.replaced(part=part) for trace in traces]
    origin = origin_of(figure, survey)
    built = build_part(kind, [shift_trace(trace, origin) for trace in drawn], None, pair, name)
    carrier = own_copy(place(figure), parent)
    assert carrier is not None
    base = built.base
    if len(drawn) == 1:
        base = _level_with(carrier, base, drawn[0].view)
        base = base + AXES[drawn[0].view][2] * _out_to_skin(carrier, base, drawn[0])
    bearer = figure.by_id[parent]
    core = bearer.core if bearer.stuff is None else bench.wools[0].id
    coat = bearer.coat or Coat(wool=_coat_wool(bench))
    made = Part(
        id=part,
        name=name,
        parent=parent,
        pair=pair and carrier.side is None,
        shape=built.shape,
        seat=reseat(carrier, base, built.turn),
        core=core,
        coat=coat,
    )
    for trace in drawn:
        survey = survey.traced(trace)
    return check_figure(figure.replaced(parts=(*figure.parts, made))), survey, part


def _level_with(carrier: Copy, base: Array, view: Sight) -> Array:
    """Return ``base`` (3,) moved along the way that the view cannot see until it is level with the axis of
    what bears it: a foot drawn from the side lies under its own leg, a leg drawn from the front under the
    middle of a long body."""
    axis = np.array([carrier.point(along) for along in np.linspace(0.0, 1.0, 21)])
    seen, depth = AXES[view][:2], AXES[view][2]
    off = np.linalg.norm((axis - base) @ seen.T, axis=1)
    near = axis[off <= off.min() + LEVEL_MM]
    moved: Array = base + depth * float(np.median(near @ depth) - depth @ base)
    return moved


def _out_to_skin(carrier: Copy, base: Array, trace: Trace) -> float:
    """Return how far towards the viewer a small part drawn wholly within its bearer's outline lies, mm: on
    the skin that is seen there, since in the middle it would not be seen."""
    from scipy.spatial import Delaunay

    seen, depth = AXES[trace.view][:2], AXES[trace.view][2]
    skin = mesh_of(carrier.shape).vertices @ carrier.matrix[:3, :3].T + carrier.matrix[:3, 3]
    flat, near = skin @ seen.T, skin @ depth
    ends = np.array([trace.points[0], trace.points[len(trace.points) // 2], trace.points[-1]])
    ends = ends - ends[0] + seen @ base
    size = max(trace.length, *(a + b for a, b in zip(trace.left, trace.right, strict=True)))
    room = float(np.ptp(flat, axis=0).min())
    if size > ON_SKIN * room or (Delaunay(flat).find_simplex(ends) < 0).any():
        return 0.0
    middle = ends[[0, -1]].mean(axis=0)
    around = np.argsort(np.linalg.norm(flat - middle, axis=1))[:SKIN_CORNERS]
    return float(near[around].max() - depth @ base)


def wool_on(bearer: Part, bench: Bench) -> str:
    """Return the wool of what is laid or set on ``bearer``, unless its maker says otherwise: that which is
    seen of it; the first of the bench where it is of no wool."""
    if bearer.coat is not None:
        return bearer.coat.wool
    return bearer.core if bearer.stuff is None else _coat_wool(bench)


def _coat_wool(bench: Bench) -> str:
    return next((w.id for w in bench.wools if w.form != "core"), bench.wools[0].id)


@frozen
class RoundIt:
    """That a line goes round ``part``, so far ``along`` it (0..1)."""

    part: str
    along: float


def ring_round(figure: Figure, survey: Survey, trace: Trace) -> RoundIt | None:
    """Return what a line goes round: a part that it crosses, or passes close by the end of, from outside to
    outside; if there is one."""
    origin, axes = origin_of(figure, survey), AXES[trace.view]
    line = np.array([trace.points[0], trace.points[-1]])
    middle, way = line.mean(axis=0), (line[1] - line[0]) / max(trace.length, 1e-9)
    found: list[tuple[float, RoundIt]] = []
    for copy in place(figure).copies:
        outline = outline_of_copy(copy, trace.view, origin).astype(np.float32)
        if copy.part.garment is not None or copy.part.hollow:
            continue
        depth, *ends = (
            cv2.pointPolygonTest(outline, at.tolist(), True) / trace.length
            for at in (middle, *line)
        )
        broad = float(np.ptp(outline @ way)) / trace.length
        if max(ends) > OVER or depth < -BESIDE or broad < BROAD:
            continue
        along = np.linspace(0.0, 1.0, _ALONG)
        axis = np.array([copy.point(float(at)) + origin for at in along]) @ axes[:2].T
        near = int(np.argmin(np.linalg.norm(axis - middle, axis=1)))
        leg = axis[min(near + 1, _ALONG - 1)] - axis[max(near - 1, 0)]
        if abs(leg @ way) < ACROSS * np.linalg.norm(leg):
            found.append((depth, RoundIt(copy.part.id, float(along[near]))))
    return max(found, key=lambda one: one[0])[1] if found else None


def with_root_traced(
    figure: Figure, survey: Survey, trace: Trace, name: str, kind: str
) -> tuple[Figure, Survey, str]:
    """Return the first line of a figure drawn from pictures: what was drawn is the part all others sit on."""
    root = figure.parts[0]
    drawn = trace.replaced(part=root.id)
    named = root.replaced(name=name, shape=as_kind(root.shape, kind))
    new, noted = with_traces(figure.replaced(parts=(named,)), survey.traced(drawn))
    return new, noted, root.id


def measure_anew(figure: Figure, survey: Survey, trace: Trace) -> tuple[Figure, Survey]:
    """Return ``figure`` and ``survey`` with a part measured anew by ``trace``.

    Measures of it that were typed before give way to what was drawn now, except where they were taken
    on the original itself.
    """
    return with_traces(figure, survey.traced(trace))


def as_agreed(
    figure: Figure,
    survey: Survey,
    part: str,
    name: str,
    kind: str,
    parent: str | None,
    pair: bool,
) -> tuple[Figure, Survey]:
    """Return ``figure`` and ``survey`` with a proposed part as its maker says it is: its name, its shape,
    what it sits on, whether it is one of a pair. Raises ``ValueError`` where it cannot be."""
    was = figure.by_id[part]
    if parent is not None and parent != was.parent:
        figure = put_on(figure, part, parent)
    was = figure.by_id[part]
    shape = was.shape if was.shape.kind == kind else as_kind(was.shape, kind)
    bearer = own_copy(place(figure), was.parent) if was.parent else None
    paired = pair and bearer is not None and bearer.side is None
    new = was.replaced(name=name, shape=shape, pair=paired)
    if new == was:
        return figure, survey
    return with_traces(with_part(figure, new), survey)


def not_a_part(figure: Figure, survey: Survey, part: str) -> tuple[Figure, Survey]:
    """Return ``figure`` and ``survey`` without a part that is none; what sat on it sits on what bore it.
    Raises ``ValueError`` for the part that all others sit on."""
    bearer = figure.by_id[part].parent
    for other in figure.parts:
        if other.parent == part and bearer is not None:
            figure = put_on(figure, other.id, bearer)
    return without_part(figure, part), survey.without_parts(frozenset((part,)))
