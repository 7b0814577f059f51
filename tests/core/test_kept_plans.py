"""Plans as they were read through: no number, sentence or card changes unless somebody means it."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from typing import Any

import pytest

from bambola.core.methods import METHODS
from bambola.core.order.rules import RULES
from tests.core.kept_plans import KEPT, kept, now, rules_now, ways_now

NUMBER = re.compile(r"\d+(?:\.\d+)?")


def differing(was: Any, is_: Any, where: str = "") -> Iterator[str]:
    """Where two plans differ. Numbers are the same within a thousandth, and those in sentences, which are
    rounded, within one step of their last figure: other processors add up in another order."""
    if isinstance(was, dict) and isinstance(is_, dict) and was.keys() == is_.keys():
        for name in was:
            yield from differing(was[name], is_[name], f"{where}.{name}")
    elif isinstance(was, list) and isinstance(is_, list) and len(was) == len(is_):
        for n, (one, other) in enumerate(zip(was, is_, strict=True)):
            yield from differing(one, other, f"{where}[{n}]")
    elif isinstance(was, str) and isinstance(is_, str):
        if NUMBER.sub("#", was) != NUMBER.sub("#", is_) or not all(
            map(_near, NUMBER.findall(was), NUMBER.findall(is_))
        ):
            yield f"{where}: “{was}” is now “{is_}”"
    elif isinstance(was, int | float) and isinstance(is_, int | float):
        if not math.isclose(was, is_, rel_tol=1e-3, abs_tol=2e-3):
            yield f"{where}: {was} is now {is_}"
    elif was != is_:
        yield f"{where}: {was!r:.80} is now {is_!r:.80}"


def _near(one: str, other: str) -> bool:
    step = 10.0 ** -max(len(text.partition(".")[2]) for text in (one, other))
    return one == other or (step < 1 and abs(float(one) - float(other)) < 1.01 * step)


@pytest.mark.parametrize("name", KEPT)
def test_a_plan_says_what_it_said_when_it_was_read(name: str) -> None:
    told = list(differing(kept(name), now(name)))
    assert not told, "\n".join(["read what changed; if it is meant, `make snapshots`", *told[:40]])


def test_every_way_of_doing_a_step_is_told_and_drawn_as_it_was_read() -> None:
    made = ways_now()
    assert made.keys() == {method.id for method in METHODS}
    told = list(differing(kept("ways"), made))
    assert not told, "\n".join(
        ["look at what changed; if it is meant, `make snapshots`", *told[:40]]
    )


def test_rules_have_before_each_other_what_they_had() -> None:
    made = rules_now()
    asked = {rule for figure in made.values() for rule in figure}
    assert asked >= {rule.id for rule in RULES if rule.hard}
    told = list(differing(kept("rules"), made))
    assert not told, "\n".join(["read what changed; if it is meant, `make snapshots`", *told[:40]])


def test_what_differs_is_found() -> None:
    was = {"a": [1.0, {"text": "take 20.6 g"}], "b": None}
    assert not list(differing(was, {"a": [1.0001, {"text": "take 20.7 g"}], "b": None}))
    for other in (
        {"a": [1.01, {"text": "take 20.6 g"}], "b": None},
        {"a": [1.0, {"text": "take 20.8 g"}], "b": None},
        {"a": [1.0, {"text": "lay 20.6 g"}], "b": None},
        {"a": [1.0], "b": None},
        {"a": [1.0, {"text": "take 20.6 g"}], "b": 1},
    ):
        assert list(differing(was, other))
