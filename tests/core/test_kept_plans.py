"""Plans as they were read through: no number, sentence or card changes unless somebody means it."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from bambola.core.methods import METHODS
from bambola.core.order.rules import RULES
from bambola.demo import HERON, TOAD
from tests.core.as_kept import PAPER, PICTURES, SEEN, assert_as_kept, differing
from tests.core.kept_paper import files_of, paper_now, read, toads_cards
from tests.core.kept_pictures import pictures_now
from tests.core.kept_plans import KEPT, now, rules_now, ways_now
from tests.core.kept_sight import sight_now
from tests.effort import THOROUGH
from tests.said import BOTH_UNITS, strays


@pytest.mark.parametrize("name", KEPT)
def test_plan_says_what_it_said_when_it_was_read(name: str) -> None:
    assert_as_kept(name, now(name))


def test_every_method_matches_its_kept_card() -> None:
    made = ways_now()
    # What is mixed is told of a bench of its own.
    assert made.keys() == {method.id for method in METHODS} - {"mix"}
    assert_as_kept("ways", made)


def test_rules_have_before_each_other_what_they_had() -> None:
    made = rules_now()
    asked = {rule for figure in made.values() for rule in figure}
    # What is mixed is ordered on a bench of its own.
    assert asked >= {rule.id for rule in RULES if rule.hard} - {"mixed-before-laid"}
    assert_as_kept("rules", made)


def test_pictures_are_seen_as_they_were() -> None:
    assert_as_kept("sight", sight_now(), SEEN)


def test_written_files_match_kept_ones() -> None:
    cards = toads_cards()
    made, pictures = paper_now(cards), pictures_now(cards)
    assert "strips" in made and len(made["cards"]) >= 10
    for name, lines in made.items():
        texts = [t for line in lines for t in ([line] if isinstance(line, str) else line[0])]
        assert "\x00" not in "".join(texts), f"{name}: a sign that the face does not have"
        shown = {re.sub(r"<(?!text|title)[^>]*>", "", text) for text in texts}
        assert not strays(shown, "in"), name
    assert_as_kept("paper", made, PAPER)
    # Four to a page, each drawn in lines …
    assert len(pictures["cards"]) == -(-len(pictures["steps"]) // 4)
    assert all(pictures["cards"])  # … and beside them the figure, where that changed
    assert_as_kept("pictures", pictures, PICTURES)


@pytest.mark.skipif(not THOROUGH, reason="the badger's, in inches, are read in every run")
@pytest.mark.parametrize(("demo", "unit"), [(HERON, "in"), (HERON, "mm"), (TOAD, "in")])
def test_nothing_written_for_people_tells_quantity_in_other_units(demo: Path, unit: str) -> None:
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
