"""Reads each part along its lines: its kind, its widths, its colour, and its bearer."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

import cv2
import numpy as np
from numpy.typing import NDArray

from bambola.core.figure import Trace
from bambola.core.figure.survey import Sight
from bambola.core.frozen import frozen
from bambola.core.notes.building import meant_kind
from bambola.core.notes.kinds import KINDS, Form, PartKind, bearers_of, normalise_word
from bambola.core.notes.reading import Entry, read_name
from bambola.core.plan.reading.tracing import proposed_pair
from bambola.core.sight.explaining import lit_colour
from bambola.core.sight.regions import LIGHT
from bambola.core.strokes.contour import EdgeView, read_contour, with_explained
from bambola.core.strokes.grouping import (
    DrawnPart,
    StrokeLine,
    greatest_width,
    group_lines,
    outline_of_trace,
)

Array = NDArray[np.float64]

UNKNOWN: tuple[Form, ...] = ("ball", "limb", "cone")
"""Forms that a part of a name that is not known may have."""
GAP = 0.35
"""A part sits on what its line lies no farther from than this share of its length. Judged. See craft.md,
9."""
UNSEEN = 0.3
"""So far off is a part taken to be that no view shows together with it. Judged."""
SMALLER = 0.6
"""Nor is that smaller than this share of it. Judged."""
TURNED = 0.2
"""A line whose end lies so much deeper in what bears its part than its start does was drawn the other way
round. Judged."""
BROAD_FROM_SIDE = ("wing", "fin", "spine")
"""Where flat parts sit that the side sees broad; the front sees all others so."""
MIDLINE = 0.15
"""A line seen from the front that strays from the midline by no more than this share of its part's size is of
no pair. Judged."""


@frozen
class ReadPart:
    """A part with what was read along its lines; ``lab`` is its colour, ``on`` the index of its bearer, None
    for the root."""

    part: DrawnPart
    entry: Entry
    kind: PartKind
    form: Form
    traces: tuple[Trace, ...]
    lab: tuple[float, float, float]
    on: int | None = None

    @property
    def is_pair(self) -> bool:
        """Whether it is one of two."""
        if self.part.pair is not None:
            return self.part.pair
        facing = [trace for trace in self.traces if trace.view != "side"]
        if not self.entry.kinds:
            return any(proposed_pair(trace) for trace in facing)
        return self.kind.is_pair and not any(_is_central(trace) for trace in facing)


def read_parts(lines: Sequence[StrokeLine], edges: Mapping[Sight, EdgeView]) -> list[ReadPart]:
    """Return the parts with ``lines``, their widths measured by ``edges``: the smallest first, since their
    outlines are edges of no other part."""
    parts = group_lines(lines)
    entries = [read_name(part.name, n) for n, part in enumerate(parts)]
    listed = {kind for entry in entries for kind in entry.kinds}
    kinds = [meant_kind(entry, listed) for entry in entries]
    left = dict(edges)
    forms: dict[int, Form] = {}
    traces: dict[int, list[Trace]] = {n: [] for n in range(len(parts))}
    labs: dict[int, list[Array]] = {n: [] for n in range(len(parts))}
    lying = any(_is_lying(part, kind) for part, kind in zip(parts, kinds, strict=True))
    every = sorted(
        (line.run, n, k) for n, part in enumerate(parts) for k, line in enumerate(part.lines)
    )
    for _, n, k in every:
        line, kind = parts[n].lines[k], kinds[n]
        forms_tried: tuple[Form, ...] = (kind.form,) if kind else UNKNOWN
        usual = usual_width(kind, line, lying) if kind else 0.5
        points = line.points
        if kind and kind.site == "root" and not line.is_level and points[0][1] > points[-1][1]:
            points = points[::-1]  # what bears the others is read from below
        if line.is_level and forms_tried == ("pad",):
            forms_tried = ("ball",)  # drawn along its length it is no dome
        flat = kind is not None and (kind.is_worn or kind.site == "root")
        form, trace = read_contour(left[line.view], points, forms_tried, usual, flat)
        form = kind.form if kind else form
        forms.setdefault(n, form)
        traces[n].append(trace)
        labs[n].append(_colours_within(left[line.view], trace))
        left[line.view] = with_explained(left[line.view], trace)
        if line.view != "side" and (kind is None or kind.is_pair) and not _is_central(trace):
            left[line.view] = with_explained(left[line.view], _mirror_trace(trace))
    drawn = [
        ReadPart(part, entries[n], kinds[n] or KINDS[f"other-{forms[n]}"], forms[n], tuple(traces[n]),
              _lit_colour(np.concatenate(labs[n])))
        for n, part in enumerate(parts)
    ]  # fmt: skip
    return _with_bearers(drawn)


def usual_width(kind: PartKind, line: StrokeLine, lying: bool) -> float:
    """Return the usual width of a part of ``kind`` as a multiple of its line's length."""
    shares = kind.shares
    if kind.form in ("ball", "pad"):
        wide, deep, high = shares
        if lying and kind.site == "root":
            deep, high = high, deep
        across = deep if line.view == "side" else wide
        return high / across if line.is_level else across / high
    if kind.form == "ring":
        return shares[0]
    if kind.form == "leaf" and (line.view == "side") != (kind.site in BROAD_FROM_SIDE):
        return math.sqrt(shares[1] * shares[2]) / shares[0]
    return shares[1] / shares[0] if len(shares) > 1 else 1.0


def _is_lying(part: DrawnPart, kind: PartKind | None) -> bool:
    """Return whether a part is a horizontal body: the side view shows its line running across."""
    side = part.in_view("side")
    return kind is not None and kind.site == "root" and side is not None and side.is_level


def _is_central(trace: Trace) -> bool:
    size = max(trace.length, greatest_width(trace))
    return max(abs(u) for u, _ in trace.points) < MIDLINE * size


def _mirror_trace(trace: Trace) -> Trace:
    points = tuple((-u, v) for u, v in trace.points)
    return trace.replaced(points=points, left=trace.right, right=trace.left)


def _depth_in(trace: Trace, place: tuple[float, float]) -> float:
    """Return how deep a place lies within a measured part, mm; negative outside."""
    outline = outline_of_trace(trace).astype(np.float32)
    return float(cv2.pointPolygonTest(outline, place, True))


def _colours_within(seen: EdgeView, trace: Trace) -> Array:
    """Return the colours (n, 3) in the inner area of a measured part, without those of smaller parts."""
    middle = np.array(trace.points).mean(axis=0)
    inner = seen.to_pixels(middle + (outline_of_trace(trace) - middle) * 0.8)
    mask = np.zeros(seen.cover.shape, dtype=np.uint8)
    cv2.fillPoly(mask, [np.round(inner).astype(np.int32).reshape(-1, 1, 2)], 1)
    own = (mask > 0) & (seen.taken == 0)
    return np.asarray(seen.lab[own if own.any() else mask > 0], dtype=np.float64)


def _lit_colour(colours: Array) -> tuple[float, float, float]:
    """Return the lit colour (Lab) of colours (n, 3) with weighted lightness."""
    lab = colours[:: max(1, len(colours) // 5000)] / (LIGHT, 1.0, 1.0)
    if not len(lab):
        return (70.0, 0.0, 0.0)
    light, a, b = lit_colour(np.asarray(lab, dtype=np.float32)).tolist()
    return (light, a, b)


def _with_bearers(drawn: list[ReadPart]) -> list[ReadPart]:
    """Return the parts with their bearers: the one a stroke names; else one its name asks for nearby; else
    the one it lies on or nearest to."""
    root = _find_root(drawn)
    found: list[ReadPart] = []
    for n, one in enumerate(drawn):
        on = None if n == root else _find_bearer(n, drawn, root)
        found.append(replace(one, on=on))
    found = [_drop_unlikely_kind(_without_circle(n, found, root), found) for n in range(len(found))]
    return [_from_its_base(one, found) for one in found]


def _from_its_base(one: ReadPart, drawn: Sequence[ReadPart]) -> ReadPart:
    """Return a part with its lines from base to tip, whichever way they were drawn: from below if it is round
    or bears others."""
    traces = []
    for trace in one.traces:
        bearer = drawn[one.on] if one.on is not None else None
        seen = next((t for t in bearer.traces if t.view == trace.view), None) if bearer else None
        start, end = trace.points[0], trace.points[-1]
        if bearer is None or one.form in ("ball", "pad", "eyes", "ring"):
            turned = start[1] > end[1] + abs(start[0] - end[0])
        elif seen is None:
            turned = False
        else:
            inside = [_depth_in(seen, at) for at in (start, end)]
            turned = inside[1] > inside[0] + TURNED * trace.length
        traces.append(_reverse_trace(trace) if turned else trace)
    return replace(one, traces=tuple(traces))


def _reverse_trace(trace: Trace) -> Trace:
    return trace.replaced(points=trace.points[::-1], left=trace.right[::-1], right=trace.left[::-1])


def _drop_unlikely_kind(one: ReadPart, drawn: Sequence[ReadPart]) -> ReadPart:
    """Return a part without its kind if its bearer is quite another than the kind asks for: the cap of a nut
    is no hat."""
    if one.on is None or one.part.bearer or drawn[one.on].kind.id in (*bearers_of(one.kind), ""):
        return one
    if drawn[one.on].kind.site == "root":
        return one
    kind = KINDS[f"other-{one.form}"]
    return replace(one, entry=replace(one.entry, kinds=()), kind=kind)


def _find_root(drawn: Sequence[ReadPart]) -> int:
    """Return the part that bears all others: a body, else the largest that cannot sit on any other."""
    bodies = [n for n, one in enumerate(drawn) if one.kind.site == "root"]
    return max(bodies or range(len(drawn)), key=lambda n: _outline_area(drawn[n]))


def _outline_area(one: ReadPart) -> float:
    return max(
        float(cv2.contourArea(outline_of_trace(trace).astype(np.float32))) for trace in one.traces
    )


def _find_bearer(n: int, drawn: Sequence[ReadPart], root: int) -> int:
    one = drawn[n]
    others = [m for m in range(len(drawn)) if m != n and drawn[m].form not in ("ring", "eyes")]
    named = [
        m
        for m in others
        if one.part.bearer and normalise_word(drawn[m].part.name) == normalise_word(one.part.bearer)
    ]
    if named:
        return min(named, key=lambda m: _gap_between(one, drawn[m]))
    wanted = bearers_of(one.kind)
    near = [m for m in others if drawn[m].kind.id in wanted and _gap_between(one, drawn[m]) <= GAP]
    if near:
        return min(
            near, key=lambda m: (wanted.index(drawn[m].kind.id), _gap_between(one, drawn[m]))
        )
    larger = [m for m in others if _outline_area(drawn[m]) > SMALLER * _outline_area(one)] or [root]
    return min(
        larger, key=lambda m: (round(_gap_between(one, drawn[m]), 2), _outline_area(drawn[m]))
    )


def _gap_between(one: ReadPart, other: ReadPart) -> float:
    """Return the distance of a part's ends from another part, as a share of its line's length, in a view that
    shows both."""
    gaps = []
    for trace in one.traces:
        for seen in other.traces:
            if seen.view == trace.view:
                ends = (trace.points[0], trace.points[len(trace.points) // 2], trace.points[-1])
                flips = (1, -1) if trace.view != "side" else (1,)
                reach = max(_depth_in(seen, (flip * u, v)) for u, v in ends for flip in flips)
                gaps.append(max(0.0, -reach) / trace.length)
    return min(gaps, default=UNSEEN)


def _without_circle(n: int, found: Sequence[ReadPart], root: int) -> ReadPart:
    """Return part ``n``, moved to the root if its bearer is borne by itself."""
    one, at = found[n], found[n].on
    seen = {n}
    while at is not None and at not in seen:
        seen.add(at)
        at = found[at].on
    if at is None or at != n:
        return one
    return replace(one, on=root)
