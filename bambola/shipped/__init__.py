"""What the program cannot run without: a first bench, body plans, lessons, and (as files) its fonts."""

from __future__ import annotations

import json
from functools import lru_cache
from importlib.resources import files
from pathlib import Path

from bambola.core.bench import Bench, load_bench
from bambola.core.figure import load_document
from bambola.core.figure.bodyplans import BodyPlan, Proportion

LESSONS = tuple(
    Path(__file__).parent / "lessons" / f"{name}.bambola.json"
    for name in ("practice-piece", "windfall-chick")
)
"""Designs to learn on, in their order."""


@lru_cache(maxsize=1)
def default_bench() -> Bench:
    """The bench every command works with when the maker has none."""
    path = files("bambola.shipped") / "default-bench.json"
    return load_bench(path.read_bytes(), path.name)


@lru_cache(maxsize=1)
def body_plans() -> tuple[BodyPlan, ...]:
    """Every body plan that ships, in order."""
    folder = files("bambola.shipped") / "plans"
    plans = []
    for file in folder.iterdir():
        if file.name.endswith(".json"):
            raw = json.loads(file.read_text(encoding="utf-8"))
            design = json.dumps({"bambola": raw["bambola"], "figure": raw["figure"]})
            figure = load_document(design, file.name).figure
            plans.append(
                BodyPlan(
                    order=raw["order"],
                    told=raw["told"],
                    figure=figure,
                    proportions=tuple(Proportion(**p) for p in raw["proportions"]),
                )
            )
    return tuple(sorted(plans, key=lambda plan: plan.order))
