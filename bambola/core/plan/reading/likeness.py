"""Finds the body plan most like a figure in its pictures, and fits it to them.

Every plan is compared with the pictures; the likeliest get their proportions fitted, then overall breadth,
depth and height, then each part's own measures, seat and tilt, in small steps that are kept if more of the
pictures is explained. Names, bearers, pairs and whatever no picture shows come from the plan. See craft.md,
9.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence

import numpy as np

from bambola.core.bench import Bench, with_wools_of
from bambola.core.figure import Datum, Figure, Part, Shape, Sight
from bambola.core.figure.bodyplans import BodyPlan
from bambola.core.figure.graft import without_part
from bambola.core.frozen import frozen
from bambola.core.plan.reading.candidates import Candidate
from bambola.core.plan.reading.starting import start_from
from bambola.core.sight.blobs import Blob, DividedPicture
from bambola.core.sight.explaining import (
    CELLS,
    Cells,
    CoarseView,
    CopyOutline,
    coarse_view,
    from_near,
    lit_colour,
    main_colours,
    outlines_of,
    strangeness,
)
from bambola.core.sight.regions import LIGHT
from bambola.core.sight.silhouette import CancelledError
from bambola.core.solids import place
from bambola.core.solids.forms import Array

GROWS = 0.15
"""The natural logarithm of what one step multiplies a measure by."""
SEATS = {"along": (0.12, 0.0, 1.0), "out": (0.15, 0.0, 1.3), "around": (15.0, -180.0, 180.0)}
"""How far a seat goes in one step, and between what."""
NODS, LEANS = 12.0, 14.0
"""How far a part is tilted in one step, degrees."""


@frozen
class VariedMeasure:
    """One thing of a part that is varied: a measure, ``all`` of them, or a number of its seat or tilt."""

    part: str
    what: str

    def taken(self, figure: Figure, amount: float) -> Figure:
        """Return ``figure`` with the step gone ``amount`` times. Raises ``ValueError`` where it leads too
        far."""
        part = figure.by_id[self.part]
        return with_shaped(figure, self._vary_part(part, amount))

    def _vary_part(self, part: Part, amount: float) -> Part:
        seat, factor = part.seat, math.exp(GROWS * amount)
        if self.what == "all":
            return part.replaced(shape=part.shape.scaled(factor))
        if self.what in part.shape.measure_names:
            size = part.shape.measures()[self.what] * factor
            return part.replaced(shape=_checked_shape(part.shape.resized({self.what: size})))
        if self.what in SEATS:
            far, low, high = SEATS[self.what]
            there = getattr(seat, self.what) + far * amount
            if not low <= there <= high:
                raise ValueError(self.what)
            return part.replaced(seat=seat.replaced(**{self.what: there}))
        far = NODS if self.what == "nod" else LEANS
        tilt = seat.tilt.replaced(**{self.what: getattr(seat.tilt, self.what) + far * amount})
        return part.replaced(seat=seat.replaced(tilt=tilt))


def with_shaped(figure: Figure, part: Part) -> Figure:
    """Return ``figure`` with another of its parts, not looked through for faults: it is asked some hundred
    times."""
    return figure.replaced(parts=tuple(part if p.id == part.id else p for p in figure.parts))


def _checked_shape(shape: Shape) -> Shape:
    """Return ``shape``, if there can be such a one. Raises ``ValueError``, as for a cone broader than it is
    long."""
    return type(shape).model_validate(
        {name: getattr(shape, name) for name in type(shape).model_fields}
    )


def plan_proportions(plan: BodyPlan) -> list[tuple[VariedMeasure, ...]]:
    """Return what of a plan is varied together, proportion by proportion."""
    return [
        tuple(VariedMeasure(stretch.part, stretch.measure) for stretch in proportion.stretches)
        for proportion in plan.proportions
    ]


def in_all(figure: Figure) -> list[tuple[VariedMeasure, ...]]:
    """Return what is varied of all parts that have such a measure together: a toad is a frog, but lower."""
    steps = (
        tuple(VariedMeasure(p.id, name) for p in figure.parts if name in p.shape.measure_names)
        for name in ("width", "depth", "height")
    )
    return [step for step in steps if step]


def own(figure: Figure) -> list[tuple[VariedMeasure, ...]]:
    """Return what is varied of each part alone, of the largest first."""
    return [
        (VariedMeasure(part.id, what),)
        for part in sorted(figure.parts, key=lambda p: -max(p.shape.measures().values()))
        for what in _varied_names(part)
    ]


def _varied_names(part: Part) -> Iterator[str]:
    names = part.shape.measure_names
    yield "all"
    yield from names if len(names) > 1 else ()
    if part.parent is not None:
        yield from ("along", "out")
        yield from ("around", "lean") if part.pair else ()
    yield "nod"


LIKE = 0.34
"""A plan is like a figure if, its proportions fitted, it leaves no more than this share of the pictures
unexplained. Judged by the table in the bench. See craft.md, 9."""
CLEAR, HARDLY = 0.15, 0.6
"""In bad pictures one is, too, that leaves so much less than any other kind, and no more than this. Judged.
See craft.md, 9."""
TURNED = 0.08
"""A side picture looks the other way if that leaves so much less unexplained, before anything is fitted.
Judged. See craft.md, 9."""
AWAY, NEARER = (5.0, 3.3), 0.01
"""A camera was so many times the figure's height away (an arm's length from one of 18 cm), not afar, if that
leaves so much less unexplained. Judged. See craft.md, 9."""
TRIED = 3
"""Of so many plans the proportions are fitted."""
ROUNDS, GOES = 2, 3
"""All is tried so often, in steps half as large each time; a step that helps is taken again so often at
most."""
GAIN = 0.0004
"""A step is taken if it explains so much more. Judged."""
STRAYS = 0.004
"""What a step off the plan must explain besides, by the square of the steps gone so far: what is not seen
stays as the plan has it. Judged."""
STRANGE, MISSED, BESIDE = 0.6, 0.6, 0.25
"""What is so strange a colour on its part (of 1) is not explained by it; and a region of which so much is not
explained, and so much lies beside the fitted figure, is a part of its own. Judged. See craft.md, 9."""
ROUND_IT = 0.75
"""So is such a band that covers so much of the figure's breadth: what lies round a part. Judged. See
craft.md, 9."""
UNSEEN, ABSENT = 0.35, 0.25
"""How sure a part is that no picture shows; and less sure than what is not there where it would be seen."""


@frozen
class Likeness:
    """A plan with its ``figure`` fitted to the pictures (at the plan's own size); for each part how sure it
    is (0..1) and its colour (Lab) in the pictures; the offset (mm) of the figure's middle in the side
    picture; and the distance of the camera in heights of the figure, None for far away."""

    plan: BodyPlan
    figure: Figure
    sure: dict[str, float]
    colours: dict[str, Array]
    aside: float
    away: float | None


def likest_plan(
    views: dict[Sight, DividedPicture],
    plans: Sequence[BodyPlan],
    height: float,
    told: Callable[[float], bool] = lambda share: True,
    enough: float = LIKE,
) -> Likeness | None:
    """Return the plan of ``plans`` that best explains ``views`` of a figure ``height`` mm tall, fitted; None
    if none leaves at most ``enough`` unexplained. A single plan is always taken. ``told`` gets the share
    done, and cancels the work by returning False (raises :class:`CancelledError`)."""
    held = _held_against(views, height, told)
    if not held.views or not plans:
        return None
    rough = sorted(plans, key=lambda plan: held.unexplained(plan.figure))[:TRIED]
    fitted = [
        (plan, *held.fitted(plan.figure, plan_proportions(plan), 0.3 * n / len(rough)))
        for n, plan in enumerate(rough, 1)
    ]
    plan, figure, off = min(fitted, key=lambda one: one[2])
    if len(plans) > 1 and off > enough and not _stands_out(off, [left for *_, left in fitted]):
        return None
    figure = _from_nearer(held, plan, figure, off)
    figure, _ = held.fitted(figure, [*in_all(figure), *own(figure)], 1.0)
    return held.likeness(plan, figure)


def _from_nearer(held: _PlanMatcher, plan: BodyPlan, figure: Figure, off: float) -> Figure:
    """Return ``figure``, or the ``plan`` fitted again for a near camera if that leaves far less than ``off``
    unexplained; ``held`` then keeps that camera."""
    for away in AWAY:
        held.away, was = away, held.away
        tried, left = held.fitted(plan.figure, plan_proportions(plan), held.done)
        if left < off - NEARER:
            figure, off = tried, left
        else:
            held.away = was
    return figure


def looks_the_other_way(
    views: dict[Sight, DividedPicture], plans: Sequence[BodyPlan], height: float
) -> bool:
    """Return whether a plan explains ``views`` far better with the side picture flipped."""
    if "side" not in views or not plans:
        return False
    side = views["side"]
    turned = side.reframed(flipped=not side.framing.flipped)
    best = [
        min(
            map(
                _held_against({**views, "side": one}, height).unexplained, (p.figure for p in plans)
            )
        )
        for one in (side, turned)
    ]
    return best[1] < best[0] - TURNED


def _stands_out(best: float, all_left: list[float]) -> bool:
    """Return whether the best plan leaves far less unexplained than all others, except those that look the
    same."""
    other = min((left for left in all_left if left > best + 2 * GAIN), default=1.0)
    return best <= HARDLY and other - best >= CLEAR


def figure_like(
    found: Likeness, height: float, bench: Bench, name: str, dyed: Callable[[Array], str]
) -> Figure:
    """Return the fitted figure ``height`` mm tall, called ``name``, in the wools that ``dyed`` gives for the
    colours in the pictures. Raises ``ValueError`` if it cannot be built."""
    figure = with_wools_of(found.figure, bench)
    while absent := [
        p.id for p in figure.parts if found.sure[p.id] < ABSENT and not _is_bearer(figure, p.id)
    ]:
        figure = without_part(figure, absent[0])
    for part in figure.parts:
        if part.id in found.colours and part.stuff is None:
            figure = with_shaped(figure, _dye_part(part, dyed(found.colours[part.id])))
    plan = found.plan.replaced(figure=figure.replaced(datum=Datum()))
    return start_from(plan, height, {}, bench).replaced(id="new-figure", name=name)


def _is_bearer(figure: Figure, part: str) -> bool:
    """Return whether a part bears others, or everything."""
    return figure.by_id[part].parent is None or any(p.parent == part for p in figure.parts)


def _dye_part(part: Part, wool: str) -> Part:
    """Return ``part`` with its skin in another wool, including fur of the skin's wool."""
    was = part.coat.wool if part.coat else part.core
    places = tuple(place.dyed(lambda w: wool if w == was else w) for place in part.places)
    if part.coat is None:
        return part.replaced(core=wool, places=places)
    return part.replaced(coat=part.coat.replaced(wool=wool), places=places)


def owners_of(
    candidates: Sequence[Candidate],
    views: dict[Sight, DividedPicture],
    found: Likeness,
    height: float,
) -> list[str | None]:
    """Return for each candidate in ``views`` the part of the fitted figure it mostly shows; None if it sticks
    out, goes round the figure, or has quite another colour."""
    figure = found.figure
    shown = [[0] * (len(figure.parts) + 1) for _ in candidates]
    missed, beside, spans = ([0] * len(candidates) for _ in range(3))
    for view, owners, _ in _held_against(views, height, away=found.away).matched_views(figure):
        strange = view.inside & ((owners == 0) | (view.strangeness(owners) > STRANGE))
        seen = views[view.view]
        for n, candidate in enumerate(candidates):
            for number in candidate.seen.get(view.view, ()):
                mask = seen.blobs[number].mask
                cells = view.cells(seen.u[mask], seen.v[mask])
                for part, count in zip(*np.unique(owners[cells], return_counts=True), strict=True):
                    shown[n][part] += int(count)
                missed[n] += int(strange[cells].sum())
                beside[n] += int((owners[cells] == 0).sum())
                if seen.blobs[number].is_band:
                    rows = int(view.inside[np.unique(cells[0])].sum())
                    own = len(set(zip(*(axis.tolist() for axis in cells), strict=True)))
                    spans[n] += own > ROUND_IT * rows
    ids = [part.id for part in figure.parts]
    return [
        None
        if lost > MISSED * sum(row) and (out > BESIDE * sum(row) or all_round)
        else ids[int(np.argmax(row[1:]))]
        for row, lost, out, all_round in zip(shown, missed, beside, spans, strict=True)
    ]


def shown_on(
    views: dict[Sight, DividedPicture], found: Likeness, height: float
) -> Iterator[tuple[Sight, Blob, str]]:
    """Yield each blob in ``views`` with the part of the fitted figure it mostly lies on."""
    figure = found.figure
    ids = [part.id for part in figure.parts]
    for view, owners, _ in _held_against(views, height, away=found.away).matched_views(figure):
        seen = views[view.view]
        for blob in seen.blobs.values():
            counts = np.bincount(
                owners[view.cells(seen.u[blob.mask], seen.v[blob.mask])], minlength=2
            )
            if counts[1:].any():
                yield view.view, blob, ids[int(np.argmax(counts[1:]))]


def _held_against(
    views: dict[Sight, DividedPicture],
    height: float,
    told: Callable[[float], bool] = lambda share: True,
    away: float | None = None,
) -> _PlanMatcher:
    """Return a matcher of figures against ``views`` of one ``height`` mm tall, from a camera ``away`` heights
    off; None for far away."""
    return _PlanMatcher([coarse_view(one, height) for one in views.values()], told, away)


class _PlanMatcher:
    """Compares figures with pictures."""

    def __init__(
        self, views: list[CoarseView], told: Callable[[float], bool], away: float | None
    ) -> None:
        self.views, self._told, self.away = views, told, away
        self.done = 0.0

    def matched_views(self, figure: Figure) -> Iterator[tuple[CoarseView, Cells, float]]:
        """Yield each view with the outlines of ``figure`` at the height in the pictures; in side and top
        views centred on the picture's figure, with the offset (mm, from the side)."""
        placement = place(figure)
        down, up = placement.down_up.max(axis=0).tolist()
        for view in self.views:
            ground = 0.0 if view.view == "top" else -down
            outlines = outlines_of(placement, view.view, ground, view.step * CELLS / (down + up))
            if self.away and view.view != "top":
                tall = view.step * CELLS
                outlines = from_near(outlines, self.away * tall, tall)
            aside = 0.0
            if view.view in ("side", "top"):
                ends = [(o.run.min(axis=0), o.run.max(axis=0)) for o in outlines]
                low, high = (np.array(of) for of in zip(*ends, strict=True))
                off = view.middle - (low.min(axis=0) + high.max(axis=0)) / 2
                off *= (1.0, 0.0) if view.view == "side" else (0.0, 1.0)
                outlines = [CopyOutline(o.part, o.near, o.deep, o.run + off) for o in outlines]
                aside = float(off[0])
            yield view, view.owners(outlines), aside

    def unexplained(self, figure: Figure) -> float:
        """Return the share of the pictures that ``figure`` leaves unexplained, averaged over the views."""
        return float(
            np.mean([view.unexplained(owners) for view, owners, _ in self.matched_views(figure)])
        )

    def fitted(
        self, figure: Figure, steps: list[tuple[VariedMeasure, ...]], until: float
    ) -> tuple[Figure, float]:
        """Return ``figure`` with each of ``steps`` taken as far as it explains more, and the share left
        unexplained. ``until`` is the share of all work done then."""
        best, gone = self.unexplained(figure), dict.fromkeys(steps, 0.0)
        begun = self.done
        for go in range(ROUNDS):
            for n, step in enumerate(steps):
                self.done = begun + (until - begun) * (go + n / len(steps)) / ROUNDS
                if not self._told(self.done):
                    raise CancelledError
                figure, best = self._climb_parameter(figure, best, step, 0.5**go, gone)
        return figure, best

    def _climb_parameter(
        self,
        figure: Figure,
        best: float,
        step: tuple[VariedMeasure, ...],
        size: float,
        gone: dict[tuple[VariedMeasure, ...], float],
    ) -> tuple[Figure, float]:
        """Hill-climb one parameter until the error stops falling."""
        for way in (size, -size):
            begun = gone[step]
            for _ in range(GOES):
                tried, far = figure, gone[step] + way
                try:
                    for each in step:
                        tried = each.taken(tried, way)
                    left = self.unexplained(tried)
                except ValueError:
                    break
                if left + STRAYS * (far**2 - gone[step] ** 2) > best - GAIN:
                    break
                figure, best, gone[step] = tried, left, far
            if gone[step] != begun:
                break
        return figure, best

    def likeness(self, plan: BodyPlan, figure: Figure) -> Likeness:
        """Return the likeness of a fitted figure."""
        shown: dict[str, list[Array]] = {}
        sure: dict[str, list[float]] = {}
        beside = 0.0
        for view, owners, aside in self.matched_views(figure):
            beside = aside or beside
            colours = view.colours(owners)
            for n, part in enumerate(figure.parts):
                cells = int((owners == n + 1).sum())
                if cells:
                    lab = colours.get(n)
                    well = 0.0 if lab is None else float((1 - strangeness(lab)).sum()) / cells
                    sure.setdefault(part.id, []).append(well)
                if n in colours:
                    shown.setdefault(part.id, []).append(np.asarray(colours[n], dtype=np.float64))
        told = {p.id: float(np.mean(sure[p.id])) if p.id in sure else UNSEEN for p in figure.parts}
        most = {part: np.concatenate(blocks) for part, blocks in shown.items()}
        middles = {
            part: lit_colour(main_colours(lab.astype(np.float32))) / (LIGHT, 1.0, 1.0)
            for part, lab in most.items()
        }
        return Likeness(plan, figure, told, middles, beside, self.away)
