"""Body plans: good figures to start from, kept as data beside this file.

Each is a design like any other with a handful of *proportions*, which multiply measures of some of
its parts. What a multiplied measure does to the rest is the business of the size rules.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from importlib.resources import files
from typing import Annotated

from pydantic import Field

from bambola.core.figure.bench import Bench
from bambola.core.figure.brief import Brief
from bambola.core.figure.document import load_document
from bambola.core.figure.model import Figure, Name, SizeRule, Slug
from bambola.core.figure.shapes import Frozen
from bambola.core.memo import remembered


class Stretch(Frozen):
    """One measure of one part (or ``all`` of them) that a proportion multiplies."""

    part: Slug
    measure: str = "all"


class Proportion(Frozen):
    """One thing to adjust, from ``low`` to ``high`` times what the plan has."""

    id: Slug
    name: Name
    low: Annotated[float, Field(gt=0, lt=1)]
    high: Annotated[float, Field(gt=1, le=10)]
    stretches: Annotated[tuple[Stretch, ...], Field(min_length=1)]


class BodyPlan(Frozen):
    """A figure to start from. ``order`` is its place on the shelf."""

    order: int
    told: Name
    proportions: tuple[Proportion, ...]
    figure: Figure

    def brief(self, height: float, settings: Mapping[str, float]) -> Brief:
        """What is asked of the plan's figure: a height (mm), and factors by proportion id."""
        factors: dict[str, dict[str, float]] = {}
        for proportion in self.proportions:
            asked = settings.get(proportion.id, 1.0)
            factor = min(proportion.high, max(proportion.low, asked))
            if factor == 1.0:
                continue
            for stretch in proportion.stretches:
                of_part = factors.setdefault(stretch.part, {})
                of_part[stretch.measure] = of_part.get(stretch.measure, 1.0) * factor
        return Brief(
            height=height,
            rules={
                part: tuple(
                    SizeRule(measure=measure, rule="multiply", value=factor)
                    for measure, factor in sorted(measures.items(), key=lambda m: m[0] != "all")
                )
                for part, measures in factors.items()
            },
        )


@remembered(1)
def body_plans() -> tuple[BodyPlan, ...]:
    """Every body plan that ships, in order."""
    folder = files("bambola.core.figure") / "plans"
    plans = []
    for file in folder.iterdir():
        if file.name.endswith(".json"):
            raw = json.loads(file.read_text(encoding="utf-8"))
            design = json.dumps({"bambola": raw["bambola"], "figure": raw["figure"]})
            figure = load_document(design, file.name).figure
            plans.append(
                BodyPlan(
                    order=raw["order"], told=raw["told"], figure=figure,
                    proportions=tuple(Proportion(**p) for p in raw["proportions"]),
                )
            )  # fmt: skip
    return tuple(sorted(plans, key=lambda plan: plan.order))


def with_wools_of(figure: Figure, bench: Bench) -> Figure:
    """``figure`` in wools the bench has: one it lacks gives way to the first of the bench's."""
    known, first = bench.wool_by_id, bench.wools[0].id

    def has(wool: str) -> str:
        return wool if wool in known else first

    parts = []
    for part in figure.parts:
        changes: dict[str, object] = {"core": has(part.core)}
        if part.coat:
            changes["coat"] = part.coat.replaced(wool=has(part.coat.wool))
        if part.fur:
            changes["fur"] = part.fur.replaced(wool=has(part.fur.wool))
        if part.seam_wool:
            changes["seam_wool"] = has(part.seam_wool)
        changes["insets"] = tuple(i.replaced(wool=has(i.wool)) for i in part.insets)
        parts.append(part.replaced(**changes))
    return figure.replaced(parts=tuple(parts))
