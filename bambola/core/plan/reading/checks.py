"""Cross-checks of a measured figure: reports measurements that contradict each other, with the place."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from bambola.core.bench import Bench
from bambola.core.facts import Bought, Exact, Fact, Grams, Share, fact
from bambola.core.figure import Figure
from bambola.core.figure.questions import TooThin, question_of
from bambola.core.figure.survey import Framing, Sight, Survey, Trace
from bambola.core.frozen import frozen
from bambola.core.plan.making.values import Plan
from bambola.core.plan.reading.weigh import weigh_original
from bambola.core.sight.build import origin_of
from bambola.core.solids import outline_of_copy, own_copy
from bambola.core.wool.mending import PAIR_SIZE

if TYPE_CHECKING:
    from bambola.core.sight.silhouette import Silhouette

Array = NDArray[np.float64]
SAME_HEIGHT = 0.03
"""Heights of one place in two pictures, or stacked and total, may differ by this share. See craft.md, 9."""
WEIGHT = 0.25
"""A weight may be this share off what the measures and firmness say: one and a bit deviations.
See craft.md, 9."""
OUTSIDE = 0.12
"""This share of a part's outline may lie outside the silhouette. See craft.md, 9."""


PLAY_MM = 1.5
"""A part this little outside its silhouette lies on its edge: fuzz, and the play of a hand.
See craft.md, 9."""


@frozen
class Doubt:
    """Two measurements that contradict each other. ``code`` stays the same as long as they do."""

    code: str
    text: Fact
    part: str | None = None
    view: Sight | None = None


@dataclass(frozen=True)
class FramedSilhouette:
    """A picture with its figure separated from the background."""

    framing: Framing
    silhouette: Silhouette

    @cached_property
    def reach(self) -> NDArray[np.bool_]:
        """The pixels where a part may be: the silhouette and a margin round it, (rows, columns)."""
        from bambola.core.sight.silhouette import widen_mask

        pixel = (self.framing.mm_px or 1.0) / self.silhouette.scale
        return widen_mask(self.silhouette.cover > 0.5, PLAY_MM / pixel)


def find_doubts(
    figure: Figure,
    plan: Plan,
    survey: Survey,
    bench: Bench,
    seen: Mapping[Sight, FramedSilhouette] | None = None,
) -> tuple[Doubt, ...]:
    """Return all contradictions; ``plan`` is the plan of the figure as made."""
    return (
        *_heights(plan, survey),
        *_landmarks(plan, survey),
        *_pairs(figure, survey),
        *_joins(figure, plan),
        *_swallowed(plan),
        *_wires(figure, plan),
        *_eyes(figure),
        *_weight(figure, plan, survey, bench),
        *_outside(plan, figure, survey, seen or {}),
    )


def _heights(plan: Plan, survey: Survey) -> Iterator[Doubt]:
    if survey.height is None:
        return
    off = plan.from_height_mm - survey.height
    if abs(off) > SAME_HEIGHT * survey.height:
        told = fact(
            "doubt.taller" if off > 0 else "doubt.shorter",
            stacked=Exact(plan.from_height_mm),
            original=Exact(survey.height),
            off=Exact(abs(off)),
        )
        yield Doubt("height", told, _tallest(plan))


def _tallest(plan: Plan) -> str:
    up = np.array([0.0, 0.0, 1.0])
    reach = {c.part.id: c.reach(up) + c.reach(-up) for c in plan.solids.placement.copies}
    return max(reach, key=lambda part: reach[part])


def _landmarks(plan: Plan, survey: Survey) -> Iterator[Doubt]:
    for name in dict.fromkeys(mark.name for mark in survey.landmarks):
        marks = [m for m in survey.landmarks if m.name == name and m.view != "top"]
        for other in marks[1:]:
            apart = abs(other.at[1] - marks[0].at[1])
            whole = survey.height or plan.from_height_mm
            if apart > SAME_HEIGHT * whole:
                told = fact(
                    "doubt.landmark",
                    mark=name,
                    up=Exact(marks[0].at[1]),
                    view=Fact(f"view.{marks[0].view}"),
                    other_up=Exact(other.at[1]),
                    other=Fact(f"view.{other.view}"),
                )
                yield Doubt(f"landmark:{name}:{other.view}", told, None, other.view)


def _pairs(figure: Figure, survey: Survey) -> Iterator[Doubt]:
    for part in figure.parts:
        for view in ("front", "back", "top"):
            both = [t for t in survey.traces_of(part.id) if t.view == view]
            if len(both) != 2:
                continue
            sizes = [(t.length, _breadth(t)) for t in both]
            for word, (a, b) in zip(("long", "thick"), zip(*sizes, strict=True), strict=True):
                if abs(a - b) > PAIR_SIZE * max(a, b):
                    told = fact(
                        f"doubt.pair-{word}",
                        part=part.name,
                        one=Exact(a),
                        other=Exact(b),
                        within=Share(PAIR_SIZE),
                    )
                    yield Doubt(f"pair:{part.id}", told, part.id, both[0].view)
                    break


def _breadth(trace: Trace) -> float:
    return float(np.median(np.array(trace.left) + np.array(trace.right)))


def _joins(figure: Figure, plan: Plan) -> Iterator[Doubt]:
    told: set[str] = set()
    for copy, solid in zip(plan.solids.placement.copies, plan.solids.measured, strict=True):
        part = copy.part
        worn = part.garment is not None or part.over  # clothes lie on what they are worn over
        if part.parent is None or worn or part.id in told or solid.join_mm2 > 0:
            continue
        told.add(part.id)
        yield Doubt(
            f"apart:{part.id}",
            fact("doubt.apart", part=part.name, on=figure.by_id[part.parent].name),
            part.id,
        )


def _swallowed(plan: Plan) -> Iterator[Doubt]:
    """Yield parts that lie wholly within others, or twice in one place."""
    for notice in plan.notices:
        if (
            notice.code.startswith("hidden:")
            and notice.part
            and not plan.part(notice.part).portions
        ):
            yield Doubt(notice.code, notice.text, notice.part)


def _wires(figure: Figure, plan: Plan) -> Iterator[Doubt]:
    for notice in plan.notices:
        if isinstance(question_of(notice.code), TooThin) and notice.part:
            name = figure.by_id[notice.part].name
            yield Doubt(
                f"wire:{notice.part}",
                fact("doubt.wire", part=name, how=notice.text),
                notice.part,
            )


def _eyes(figure: Figure) -> Iterator[Doubt]:
    for fitting in figure.fittings:
        if fitting.kind != "eye":
            continue
        face = figure.by_id[fitting.part].shape.measures()
        room = min(mm for name, mm in face.items() if name != "thickness")
        if fitting.size * (2 if fitting.pair else 1) > room:
            yield Doubt(
                f"eye:{fitting.id}",
                fact(
                    "doubt.eye",
                    name=fitting.name,
                    size=Bought(fitting.size),
                    on=figure.by_id[fitting.part].name,
                    room=Exact(room),
                ),
                fitting.part,
            )


def _weight(figure: Figure, plan: Plan, survey: Survey, bench: Bench) -> Iterator[Doubt]:
    if survey.weight is None:
        return
    found = weigh_original(figure, survey.weight, bench, plan)
    off = found.weight_g / found.expected_g - 1 if found.expected_g else 0.0
    if found.figure is None or not found.believable:
        yield Doubt("weight", fact("doubt.weight", weighs=Grams(found.weight_g), told=found.told))
    elif abs(off) > WEIGHT:
        told = fact(
            "doubt.weight-off",
            expected=Grams(found.expected_g),
            weighs=Grams(found.weight_g),
            told=found.told,
        )
        yield Doubt("weight", told)


def _outside(
    plan: Plan, figure: Figure, survey: Survey, seen: Mapping[Sight, FramedSilhouette]
) -> Iterator[Doubt]:
    if not seen:
        return
    origin = origin_of(figure, survey)
    for view, picture in seen.items():
        for part in figure.parts:
            copy = own_copy(plan.solids.placement, part.id)
            if copy is None:
                continue
            points = outline_of_copy(copy, view, origin)
            share = _share_outside(points, picture)
            if share > OUTSIDE:
                yield Doubt(
                    f"outside:{part.id}:{view}",
                    fact(
                        "doubt.outside",
                        part=part.name,
                        share=Share(share),
                        view=Fact(f"view.{view}"),
                    ),
                    part.id,
                    view,
                )


def _share_outside(points: Array, seen: FramedSilhouette) -> float:
    """Return the share of an outline's points that are clearly outside the silhouette."""
    if not len(points):
        return 0.0
    reach, scale = seen.reach, seen.silhouette.scale
    outside = 0
    for u, v in points.tolist():
        x, y = seen.framing.original(*seen.framing.to_px(u, v))
        row, column = int(y * scale), int(x * scale)
        inside = 0 <= row < reach.shape[0] and 0 <= column < reach.shape[1]
        outside += not (inside and reach[row, column])
    return outside / len(points)
