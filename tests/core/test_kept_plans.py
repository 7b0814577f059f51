"""Plans as they were read through: no number, sentence or card changes unless somebody means it."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from bambola.core.methods import METHODS
from bambola.core.order.rules import RULES
from bambola.demo import HERON, TOAD
from tests.core.kept_paper import files_of, paper_now, read
from tests.core.kept_plans import KEPT, kept, now, rules_now, ways_now
from tests.core.kept_sight import sight_now
from tests.effort import THOROUGH
from tests.said import BOTH_UNITS, strays

NUMBER = re.compile(r"\d+(?:\.\d+)?")


PLANS, SEEN, PAPER = (1e-3, 2e-3), (1e-3, 0.02), (2e-5, 0.3)
"""How much numbers may be off that are the same: as a share, and in themselves. What is seen is kept to a
hundredth, and of paper sums are kept, in which a line that moved is to be found."""


def differing(
    was: Any, is_: Any, off: tuple[float, float] = PLANS, where: str = ""
) -> Iterator[str]:
    """Where two values differ. Numbers are the same within ``off``, and those in sentences, which are
    rounded, within one step of their last figure: other processors add up in another order."""
    if isinstance(was, dict) and isinstance(is_, dict) and was.keys() == is_.keys():
        for name in was:
            yield from differing(was[name], is_[name], off, f"{where}.{name}")
    elif isinstance(was, list) and isinstance(is_, list) and len(was) == len(is_):
        for n, (one, other) in enumerate(zip(was, is_, strict=True)):
            yield from differing(one, other, off, f"{where}[{n}]")
    elif isinstance(was, str) and isinstance(is_, str):
        if NUMBER.sub("#", was) != NUMBER.sub("#", is_) or not all(
            map(_near, NUMBER.findall(was), NUMBER.findall(is_))
        ):
            yield f"{where}: “{was}” is now “{is_}”"
    elif isinstance(was, int | float) and isinstance(is_, int | float):
        if not math.isclose(was, is_, rel_tol=off[0], abs_tol=off[1]):
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


def test_pictures_are_seen_as_they_were() -> None:
    told = list(differing(kept("sight"), sight_now(), SEEN))
    assert not told, "\n".join(
        ["look at what changed; if it is meant, `make snapshots`", *told[:40]]
    )


def test_files_are_written_as_they_were_looked_at_and_in_the_makers_units() -> None:
    made = paper_now()
    assert "strips" in made and len(made["cards"]) >= 10
    for name, lines in made.items():
        texts = [t for line in lines for t in ([line] if isinstance(line, str) else line[0])]
        assert "\x00" not in "".join(texts), f"{name}: a sign that the face does not have"
        shown = {re.sub(r"<(?!text|title)[^>]*>", "", text) for text in texts}
        assert not strays(shown, "in"), name
    told = list(differing(kept("paper"), made, PAPER))
    assert not told, "\n".join(
        ["look at what changed; if it is meant, `make snapshots`", *told[:40]]
    )


@pytest.mark.skipif(not THOROUGH, reason="the badger's, in inches, are read in every run")
@pytest.mark.parametrize(("demo", "unit"), [(HERON, "in"), (HERON, "mm"), (TOAD, "in")])
def test_nothing_written_for_people_tells_a_quantity_in_the_other_units(
    demo: Path, unit: str
) -> None:
    for name, data in files_of(demo, BOTH_UNITS[unit][0], {"other": True}).items():
        texts = [t for line in read(data) for t in ([line] if isinstance(line, str) else line[0])]
        shown = {re.sub(r"<(?!text|title)[^>]*>", "", text) for text in texts}
        assert not strays(shown, unit), name


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
