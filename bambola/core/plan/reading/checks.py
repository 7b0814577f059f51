"""Cross-checks of a measured figure: reports measurements that contradict each other, with the place."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from bambola.core.bench import Bench
from bambola.core.bench.wools import PACKED_DENSITY
from bambola.core.facts import Exact, Fact, Grams, Share, SoldSize, fact
from bambola.core.figure import Brief, Figure, Firmness
from bambola.core.figure.questions import TooThin, question_of
from bambola.core.figure.survey import Framing, Sight, Survey, Trace
from bambola.core.frozen import frozen
from bambola.core.plan.make import make_plan
from bambola.core.plan.making.loose_ends import end_of
from bambola.core.plan.making.masses import hidden_in_parts
from bambola.core.plan.making.values import Plan
from bambola.core.sight.build import origin_of
from bambola.core.solids import outline_of_copy, own_copy
from bambola.core.wool import part_wool
from bambola.core.wool.pan import PAIR_SIZE

if TYPE_CHECKING:
    from bambola.core.sight.silhouette import Silhouette


MARGIN = 0.05
"""A density this share beyond soft or hard is still taken for soft or hard: nobody weighs better.
See craft.md, 9."""


@dataclass(frozen=True)
class WeightFinding:
    """What a weight says. ``density`` (g/cm³) is the mean packed density the wool must have,
    ``firmness`` the nearest there is, ``expected_g`` what the figure would weigh as it is drawn, and
    ``figure`` the figure with that firmness; None where no wool can be packed like that.
    """

    weight_g: float
    other_g: float
    expected_g: float
    density: float
    firmness: Firmness
    believable: bool
    figure: Figure | None

    @property
    def as_fact(self) -> Fact:
        """What it says of the wool."""
        weighs, other = Grams(self.weight_g), Grams(self.other_g)
        if self.figure is None and self.weight_g > self.expected_g:
            return fact("weight.horn", weighs=weighs)
        if self.figure is None:
            return fact("weight.too-light", other=other, weighs=weighs)
        if self.believable:
            return fact("weight.firmness", firmness=Fact(f"firmness.{self.firmness}"))
        looser = self.density < PACKED_DENSITY["soft"]
        return Fact("weight.looser" if looser else "weight.harder")


def nearest_firmness(density: float) -> Firmness:
    """Return the firmness whose packed density is nearest by ratio."""
    return min(PACKED_DENSITY, key=lambda f: abs(math.log(density / PACKED_DENSITY[f])))


def weigh_original(
    figure: Figure, grams: float, bench: Bench, plan: Plan | None = None
) -> WeightFinding:
    """Return what an original of ``grams`` says of its wool. ``plan`` is the plan as made, if known.

    Skin, patches, joins and loose ends keep their cover; the core takes what is left of the weight once wire
    and fittings are off.
    """
    plan = plan or make_plan(figure, Brief(), bench)
    other = sum(wire.grams for wire in plan.wires)
    other += sum(row.count * row.mass_g for row in plan.fittings)
    ends = ((part.count, end_of(part.portions)) for part in plan.parts)
    loose = sum(count * end.grams for count, end in ends if end is not None)
    hidden = hidden_in_parts(plan.solids.placement, plan.gauges)

    def wool(packing: float, drawn: Figure) -> float:
        parts = part_wool(drawn.replaced(packing=packing), plan.solids, bench, hidden)
        return loose + sum(part.count * parts[part.id].grams for part in plan.parts)

    expected = wool(figure.packing, figure) + other
    packing = _packing_for(lambda x: wool(x, figure) + other - grams)
    if packing is None:
        return WeightFinding(grams, other, expected, 0.0, "soft", False, None)
    density = _mean_density(figure.replaced(packing=packing), plan, bench)
    firmed = _firm_figure(figure, packing, bench)
    again = _packing_for(lambda x: wool(x, firmed) + other - grams) or packing
    low, high = PACKED_DENSITY["soft"] * (1 - MARGIN), PACKED_DENSITY["hard"] * (1 + MARGIN)
    return WeightFinding(
        grams,
        other,
        expected,
        density,
        nearest_firmness(density),
        low <= density <= high,
        firmed.replaced(packing=again),
    )


def _packing_for(miss: Callable[[float], float]) -> float | None:
    from scipy.optimize import brentq

    low, high = 0.06, 19.0
    if miss(low) > 0 or miss(high) < 0:
        return None
    return float(brentq(miss, low, high, xtol=1e-9))


def _mean_density(figure: Figure, plan: Plan, bench: Bench) -> float:
    volumes = {part.id: part.count * part.net_cm3 for part in plan.parts if part.is_felted}
    total = sum(volumes.values())
    grams = sum(bench.packed_density(figure, p) * volumes.get(p.id, 0.0) for p in figure.parts)
    return grams / total if total else 0.0


def _firm_figure(figure: Figure, packing: float, bench: Bench) -> Figure:
    """Return every part called by the firmness nearest to what it must have."""
    heavier = figure.replaced(packing=packing)
    return figure.replaced(
        parts=tuple(
            part.replaced(firmness=nearest_firmness(bench.packed_density(heavier, part)))
            for part in figure.parts
        )
    )


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
        *_height_doubts(plan, survey),
        *_landmark_doubts(plan, survey),
        *_pair_doubts(figure, survey),
        *_join_doubts(figure, plan),
        *_swallowed_doubts(plan),
        *_wire_doubts(figure, plan),
        *_eye_doubts(figure),
        *_weight_doubts(figure, plan, survey, bench),
        *_outside_doubts(plan, figure, survey, seen or {}),
    )


def _height_doubts(plan: Plan, survey: Survey) -> Iterator[Doubt]:
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
        yield Doubt("height", told, _tallest_part(plan))


def _tallest_part(plan: Plan) -> str:
    up = np.array([0.0, 0.0, 1.0])
    reach = {c.part.id: c.reach(up) + c.reach(-up) for c in plan.solids.placement.copies}
    return max(reach, key=lambda part: reach[part])


def _landmark_doubts(plan: Plan, survey: Survey) -> Iterator[Doubt]:
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


def _pair_doubts(figure: Figure, survey: Survey) -> Iterator[Doubt]:
    for part in figure.parts:
        for view in ("front", "back", "top"):
            both = [t for t in survey.traces_of(part.id) if t.view == view]
            if len(both) != 2:
                continue
            sizes = [(t.length, _median_breadth(t)) for t in both]
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


def _median_breadth(trace: Trace) -> float:
    return float(np.median(np.array(trace.left) + np.array(trace.right)))


def _join_doubts(figure: Figure, plan: Plan) -> Iterator[Doubt]:
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


def _swallowed_doubts(plan: Plan) -> Iterator[Doubt]:
    """Yield parts that lie wholly within others, or twice in one place."""
    for notice in plan.notices:
        if (
            notice.code.startswith("hidden:")
            and notice.part
            and not plan.part(notice.part).portions
        ):
            yield Doubt(notice.code, notice.text, notice.part)


def _wire_doubts(figure: Figure, plan: Plan) -> Iterator[Doubt]:
    for notice in plan.notices:
        if isinstance(question_of(notice.code), TooThin) and notice.part:
            name = figure.by_id[notice.part].name
            yield Doubt(
                f"wire:{notice.part}",
                fact("doubt.wire", part=name, how=notice.text),
                notice.part,
            )


def _eye_doubts(figure: Figure) -> Iterator[Doubt]:
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
                    size=SoldSize(fitting.size),
                    on=figure.by_id[fitting.part].name,
                    room=Exact(room),
                ),
                fitting.part,
            )


def _weight_doubts(figure: Figure, plan: Plan, survey: Survey, bench: Bench) -> Iterator[Doubt]:
    if survey.weight is None:
        return
    found = weigh_original(figure, survey.weight, bench, plan)
    off = found.weight_g / found.expected_g - 1 if found.expected_g else 0.0
    if found.figure is None or not found.believable:
        yield Doubt(
            "weight", fact("doubt.weight", weighs=Grams(found.weight_g), told=found.as_fact)
        )
    elif abs(off) > WEIGHT:
        told = fact(
            "doubt.weight-off",
            expected=Grams(found.expected_g),
            weighs=Grams(found.weight_g),
            told=found.as_fact,
        )
        yield Doubt("weight", told)


def _outside_doubts(
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
