"""Finds the scale s at which the *finished figure* has the wanted height.

With nothing held, s is the ratio of the heights. Anything held between ground and datum changes s, so s is
the root of height(s) = target.
"""

from __future__ import annotations

import math
import warnings
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from bambola.core.bench import Bench
from bambola.core.facts import Exact, RefusedError, Value, fact
from bambola.core.figure import Brief, Figure, Fitting, Part, Seat, Shape, SizeRule
from bambola.core.figure.questions import (
    CoredAnswer,
    GrowsWithAnswer,
    PiecesAnswer,
)
from bambola.core.figure.shapes import ProfileShape
from bambola.core.resize.faces import size_corrections, too_small
from bambola.core.resize.laws import (
    SizedPart,
    core_rule,
    measure_fact,
    rules_for,
    size_core,
    size_fitting,
    size_fringe,
    size_garment,
    size_part,
    size_row,
    wanted_size,
)
from bambola.core.solids import Placement, place
from bambola.core.solids.outlines import around_at, level_arc
from bambola.core.solids.regions import with_settled_places

_NOTHING_MM = 1e-6


def gap_kept(eye: Fitting, wanted: float, bearer: Shape) -> Fitting:
    """Return a pair of eyes of the size used, moved along its level to keep the gap that eyes of the
    ``wanted`` size (mm) would leave. See craft.md, 2."""
    off = eye.size - wanted
    if eye.kind != "eye" or not eye.pair or abs(off) < _NOTHING_MM:
        return eye
    return eye.replaced(seat=seat_with_gap(eye.seat, off, bearer, eye.size / 2))


def seat_with_gap(seat: Seat, off: float, bearer: Shape, least: float = 0.0) -> Seat:
    """Return the seat of one of a pair that is larger by ``off`` mm, moved along its level by half of that,
    and never nearer to the midline than ``least`` (mm). On a shape that is not round it stays."""
    if not isinstance(bearer, ProfileShape):
        return seat
    arc = level_arc(bearer, seat.along, seat.around) + off / 2
    around = around_at(bearer, seat.along, max(arc, least))
    return seat.replaced(around=around if seat.around >= 0 else -around)


S_RANGE = (0.15, 8.0)
"""Scales the laws are trusted over. See craft.md, 2."""
TOLERANCE_MM = 1e-4


class ResizeError(RefusedError):
    """Raised for a height that cannot be met; the message gives the reason and the reachable range."""


@dataclass(frozen=True)
class Resized:
    """The figure at its new size, and as it ``was``. ``even`` says that every part scaled by exactly
    ``scale``."""

    was: Figure
    figure: Figure
    scale: float
    parts: Mapping[str, SizedPart]
    even: bool
    from_height: float
    to_height: float


def resize(figure: Figure, brief: Brief, bench: Bench, made: Placement | None = None) -> Resized:
    """Return ``figure`` resized for ``brief``, with places near another part moved to where the two meet.
    ``made`` is the placement of the figure as made, if known.

    Raises :class:`ResizeError`.
    """
    found = _resize_once(figure, brief, bench, made or place(figure))
    laid = with_settled_places(found.figure)
    return found if laid is found.figure else replace(found, figure=laid)


def _resize_once(figure: Figure, brief: Brief, bench: Bench, made: Placement) -> Resized:
    height = made.height
    if brief.height is None:
        return _resized_at(figure, brief.as_made(), bench, 1.0, height, ruled=False)
    first = brief.height / height
    if S_RANGE[0] <= first <= S_RANGE[1]:
        tried = _resized_at(figure, brief, bench, first, height)
        if tried.even:
            return tried
    return _resized_at(figure, brief, bench, _solve_scale(figure, brief, bench, made), height)


def reachable(figure: Figure, brief: Brief, bench: Bench) -> tuple[float, float]:
    """Return the lowest and highest finished height (mm) the brief's held sizes leave open."""
    tower = _height_deciding_parts(figure, brief, place(figure))
    low, high = (height_at(tower, brief, bench, s) for s in S_RANGE)
    return low, high


def _height_deciding_parts(figure: Figure, brief: Brief, made: Placement) -> Figure:
    """Return the figure with only the parts that can decide the height.

    Parts without a rule, on bearers without one, all grow about the root alike, so of these only the lowest
    and the highest as made matter.
    """
    cores = [fitting for fitting in figure.fittings if fitting.kind == "core"]
    own_way = {
        core.part for core in cores if brief.choices.hard_cores.get(core.id) is CoredAnswer.LARGER
    }
    for part in figure.parents_first:
        if rules_for(part, brief) or part.shape.flat or part.parent in own_way:
            own_way.add(part.id)
    even = [
        k
        for k, copy in enumerate(made.copies)
        if copy.part.id not in own_way and not copy.part.hollow
    ]
    wanted = own_way | {figure.datum.part or figure.parts[0].id}
    for way in (0, 1):
        ends = [(float(made.down_up[k, way]), made.copies[k].part.id) for k in even]
        wanted |= {max(ends)[1]} if ends else set()
    keep: set[str] = set()
    for name in wanted:
        at: str | None = name
        while at is not None:
            keep.add(at)
            at = figure.by_id[at].parent
    parts = tuple(part for part in figure.parts if part.id in keep)
    within = tuple(core for core in cores if core.part in keep)
    return figure.replaced(parts=parts, fittings=within, nodes=(), bones=(), wires=())


def _solve_scale(figure: Figure, brief: Brief, bench: Bench, made: Placement) -> float:
    target = brief.height
    assert target is not None
    from scipy.optimize import brentq, newton  # loaded only where something is held

    tower = _height_deciding_parts(figure, brief, made)
    known: dict[float, float] = {}

    def miss(s: float) -> float:
        s = float(s)
        if s not in known:
            known[s] = height_at(tower, brief, bench, s) - target
        return known[s]

    # The height is nearly a straight line in s, so the secant needs a few steps only.
    guess = min(max(target / made.height, S_RANGE[0]), S_RANGE[1])
    with warnings.catch_warnings():
        # Where two tries give one height it says so on standard error; what follows deals with it.
        warnings.simplefilter("ignore", RuntimeWarning)
        root, report = newton(
            miss, guess, x1=guess * 1.02, tol=1e-9, maxiter=12, full_output=True, disp=False
        )
    if report.converged and S_RANGE[0] <= root <= S_RANGE[1] and abs(miss(root)) < TOLERANCE_MM:
        return float(root)
    low, high = reachable(figure, brief, bench)
    if not low <= target <= high:
        held = tuple(p.name for p in figure.parts if rules_for(p, brief))
        slots: dict[str, Value] = {"low": Exact(low), "high": Exact(high)}
        if held:
            slots["held"] = held
        told = fact(
            "refused.height-held" if held else "refused.height",
            figure=figure.name,
            wanted=Exact(target),
            **slots,
        )
        raise ResizeError(told)
    return float(brentq(miss, *S_RANGE, xtol=1e-10))


def height_at(figure: Figure, brief: Brief, bench: Bench, s: float) -> float:
    """Return the finished height (mm) at scale ``s``, whatever is held."""
    return placed_at(figure, brief, bench, s).height


def placed_at(figure: Figure, brief: Brief, bench: Bench, s: float) -> Placement:
    """Return the placement of the figure at scale ``s``, whatever is held."""
    return place(_resized_at(figure, brief, bench, s, 0.0).figure)


def _apart_as_before(part: Part, s: float, figure: Figure, shapes: Mapping[str, Shape]) -> Part:
    """Return an eye that is a part, moved outwards to keep the gap if it is larger than by the scale."""
    if not (part.pair and part.parent and part.eye):
        return part
    off = part.shape.extents()[1] - figure.by_id[part.id].shape.extents()[1] * s
    return part.replaced(seat=seat_with_gap(part.seat, off, shapes[part.parent]))


def _sized_parts(
    figure: Figure, brief: Brief, bench: Bench, s: float, ruled: bool
) -> dict[str, SizedPart]:
    """Return every part at scale ``s``. What sits on a part that grew differently from the figure keeps with
    that part, unless the maker lets it grow with the figure."""
    sized: dict[str, SizedPart] = {}
    cores = {fitting.part: fitting for fitting in figure.fittings if fitting.kind == "core"}
    for part in figure.parents_first:
        base = s
        if part.parent is not None and keeps_with(part, figure):
            base = sized[part.parent].carries
        rules: tuple[SizeRule, ...] = ()
        if ruled:
            _, kept = size_row(part, base, brief.choices.rows.get(part.id))
            larger = core_rule(part, cores.get(part.id), base, brief)
            rules = rules_for(part, brief) + kept + larger
        fitted = size_part(
            part,
            rules,
            base,
            bench.packed_density(figure, part),
            brief.choices.impossible_shapes.get(part.id),
            size_corrections(part, base) if ruled and brief.corrected else (),
        )
        if part.parent is not None and base != s:
            with_ = fact("the", name=figure.by_id[part.parent].name)
            as_it = (
                fact("size.with", measure=measure_fact(name), on=with_) for name in fitted.to_mm
            )
            fitted = replace(fitted, bent_by=(*as_it, *fitted.bent_by))
        if fitted.carries != base and brief.choices.sits_on.get(part.id) == GrowsWithAnswer.FIGURE:
            fitted = replace(fitted, carries=base)
        sized[part.id] = fitted
    return sized


def keeps_with(part: Part, figure: Figure) -> bool:
    """Return whether a part keeps its size with a held bearer: if it is no larger, like a snout on a head. A
    head on a neck does not, nor does a part on the one that everything sits on."""
    bearer = figure.by_id[part.parent] if part.parent else None
    if bearer is None or bearer.parent is None:
        return False
    return math.prod(part.shape.extents()) <= math.prod(bearer.shape.extents())


def _part_at(part: Part, sized: SizedPart, brief: Brief, ruled: bool) -> Part:
    """Return a part with everything on it at its new size."""
    base = sized.base
    row, _ = size_row(part, base, brief.choices.rows.get(part.id) if ruled else None)
    # How deep a part is pushed in goes with its own length, not with its parent's.
    own = next(n for n in ("height", "length") if n in sized.from_mm)
    deeper = sized.to_mm[own] / sized.from_mm[own] if sized.bent_by else base
    seat = part.seat if deeper == 1.0 else part.seat.replaced(sink=part.seat.sink * deeper)
    return part.replaced(
        shape=sized.shape,
        seat=seat,
        row=row,
        garment=size_garment(part, base, brief),
        fringe=size_fringe(part.fringe, base),
        places=tuple(place.scaled(deeper) for place in part.places) if part.places else (),
    )


def _face_left(
    part: Part, parts: Sequence[Part], fittings: Sequence[Fitting], brief: Brief
) -> Part:
    """Return a part without the pieces of its face that are too small, if the maker chose that."""
    if brief.choices.small_faces.get(part.id) != PiecesAnswer.WITHOUT:
        return part
    gone = too_small(part, fittings, parts)
    return part.replaced(places=tuple(p for p in part.places if p.id not in gone))


def _resized_at(
    figure: Figure, brief: Brief, bench: Bench, s: float, height: float, ruled: bool = True
) -> Resized:
    sized = _sized_parts(figure, brief, bench, s, ruled)
    parts = [_part_at(part, sized[part.id], brief, ruled) for part in figure.parts]
    even = not any(part.bent_by for part in sized.values())
    even = even and all(a.row == b.row for a, b in zip(figure.parts, parts, strict=True))
    shapes = {part.id: part.shape for part in parts}
    if brief.corrected and ruled:
        parts = [_apart_as_before(part, sized[part.id].base, figure, shapes) for part in parts]
    fittings = []
    for drawn in figure.fittings:
        grown = sized[drawn.part].carries
        used = size_fitting(drawn, grown, bench, brief) if ruled else drawn
        held = size_core(used, shapes[drawn.part], brief.choices.hard_cores.get(drawn.id))
        if held is not None:
            fittings.append(gap_kept(held, wanted_size(drawn, grown), shapes[drawn.part]))
    if ruled:
        parts = [_face_left(part, parts, fittings, brief) for part in parts]
        even = even and all(
            len(a.places) == len(b.places) for a, b in zip(figure.parts, parts, strict=True)
        )
    new = figure.replaced(parts=tuple(parts), fittings=tuple(fittings))
    to = height * s if even else (brief.height or height)
    return Resized(figure, new, s, sized, even, height, to)
