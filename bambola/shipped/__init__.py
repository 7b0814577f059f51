"""What the program cannot run without: a default bench, body plans, lessons, and (as files) fonts."""

from __future__ import annotations

import json
from functools import lru_cache
from gettext import NullTranslations
from importlib.resources import files
from pathlib import Path
from typing import Any

from bambola.core.bench import Bench, load_bench
from bambola.core.figure import Document, load_document
from bambola.core.figure.bodyplans import BodyPlan, Proportion
from bambola.language import current_catalogue, tr

NAMED = {"name", "plural", "told", "note"}
"""What of a file that ships is said to the maker, and so in the maker's language; catalogues have it."""

LESSONS = tuple(
    Path(__file__).parent / "lessons" / f"{name}.bambola.json"
    for name in ("practice-piece", "windfall-chick")
)
"""Designs to learn on, in their order."""


def default_bench() -> Bench:
    """Return the bench every command works with when the maker has none."""
    return _default_bench(current_catalogue())


def body_plans() -> tuple[BodyPlan, ...]:
    """Return every body plan that ships, in order."""
    return _body_plans(current_catalogue())


def plan_names() -> list[str]:
    """Return the ids of the body plans that ship: their files are named by them, and need not be read."""
    folder = files("bambola.shipped") / "plans"
    return sorted(
        f.name.removesuffix(".json") for f in folder.iterdir() if f.name.endswith(".json")
    )


def shipped_design(path: Path) -> Document:
    """Return a design that ships."""
    return _shipped_design(path, current_catalogue())


@lru_cache(maxsize=2)
def _default_bench(_: NullTranslations) -> Bench:
    path = files("bambola.shipped") / "default-bench.json"
    return load_bench(
        json.dumps(with_spoken_names(json.loads(path.read_text(encoding="utf-8")))), path.name
    )


@lru_cache(maxsize=2)
def _body_plans(_: NullTranslations) -> tuple[BodyPlan, ...]:
    folder = files("bambola.shipped") / "plans"
    plans = []
    for file in folder.iterdir():
        if file.name.endswith(".json"):
            raw = with_spoken_names(json.loads(file.read_text(encoding="utf-8")))
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


@lru_cache(maxsize=16)
def _shipped_design(path: Path, _: NullTranslations) -> Document:
    raw = json.loads(path.read_text(encoding="utf-8"))
    return load_document(json.dumps(with_spoken_names(raw)), path.name)


def with_spoken_names(raw: Any) -> Any:
    """Return what was read, its names as the language spoken has them."""
    if isinstance(raw, list):
        return [with_spoken_names(one) for one in raw]
    if not isinstance(raw, dict):
        return raw
    return {
        key: tr(value) if key in NAMED and isinstance(value, str) else with_spoken_names(value)
        for key, value in raw.items()
    }
