"""Body plans: good figures to start from.

Each is a design like any other, with a handful of *proportions* that multiply measures of some of its parts.
The size rules decide what that does to the rest.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated

from pydantic import Field

from bambola.core.figure.brief import Brief
from bambola.core.figure.fields import Name, Slug
from bambola.core.figure.model import SizeRule
from bambola.core.figure.shapes import Frozen
from bambola.core.figure.whole import Figure


class Stretch(Frozen):
    """One measure of a part (or ``all`` of them) that a proportion multiplies."""

    part: Slug
    measure: str = "all"


class Proportion(Frozen):
    """Something to adjust, from ``low`` to ``high`` times the value in the plan."""

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
        """Return the brief for the plan's figure: a height (mm), and factors by proportion id."""
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
