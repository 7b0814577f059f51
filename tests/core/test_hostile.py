"""Files that are wrong in ways nobody thought of: refused in words, or planned; never a traceback."""

from __future__ import annotations

import copy
import json
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bambola.core.bench import Bench, check_wools
from bambola.core.export.json_plan import plan_json
from bambola.core.figure import DocumentError, load_document
from bambola.core.order import OrderConflictError
from bambola.core.plan import make_plan
from bambola.core.relief import Camera, portrait, stage_of
from bambola.core.resize import ResizeError
from bambola.core.words import error_words
from bambola.demo import BADGER
from bambola.shipped import default_bench
from tests.effort import examples, some

RAW: dict[str, Any] = json.loads(BADGER.read_text())
NASTY = st.sampled_from(
    [None, True, 0, -1, 1e-12, 1e9, 10**400, -0.0, "", "body", "head", "x" * 10_000, [], {}, [[]], "NaN",
     "../../etc/passwd", "<b>", "\u0000", {"kind": "ball"}, [1, 2, 3], 0.5, 3, 90]
)  # fmt: skip


def places(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """Every path into a JSON value."""
    found = [path] if path else []
    items = (
        value.items()
        if isinstance(value, dict)
        else enumerate(value)
        if isinstance(value, list)
        else ()
    )
    for key, item in items:
        found += places(item, (*path, key))
    return found


PLACES = places(RAW)


def changed(path: tuple[Any, ...], value: Any, how: str) -> Any:
    spoilt = copy.deepcopy(RAW)
    at = spoilt
    for step in path[:-1]:
        at = at[step]
    if how == "remove":
        del at[path[-1]]
    elif how == "repeat" and isinstance(at, list):
        at.append(copy.deepcopy(at[path[-1]]))
    else:
        at[path[-1]] = value
    return spoilt


def take(text: str, bench: Bench) -> str:
    """What comes of a file: the sentence it is refused with, or nothing if it could be planned."""
    try:
        document = load_document(text, "file.json")
        check_wools(document.figure, bench, "file.json")
        plan = make_plan(document.figure, document.brief, bench)
    except (DocumentError, ResizeError, OrderConflictError) as error:
        return error_words(error)
    assert plan.wool_g >= 0 and plan.steps
    assert plan_json(plan)
    stage = stage_of(plan.solids.placement)
    left, right, low, high = stage.bounds(Camera())
    picture = portrait(stage, Camera(), max(right - left, high - low) / 60, {})
    assert picture.pixels.shape[2] == 4
    return ""


@examples(250)
@given(st.sampled_from(PLACES), NASTY, st.sampled_from(["set", "set", "remove", "repeat"]))
def test_any_one_wrong_value_is_refused_in_sentence_or_planned(
    path: tuple[Any, ...], value: Any, how: str
) -> None:
    said = take(json.dumps(changed(path, value, how)), default_bench())
    assert "\n" not in said and "Traceback" not in said and len(said) < 1000
    assert not said or said.endswith(".")


@examples(60)
@given(st.integers(0, 14_000), st.binary(min_size=0, max_size=12))
def test_bytes_gone_wrong_are_refused_in_sentence(at: int, rubbish: bytes) -> None:
    data = BADGER.read_bytes()
    spoilt = data[:at] + rubbish + data[at + len(rubbish) :]
    try:
        document = load_document(spoilt, "file.json")
        make_plan(document.figure, document.brief, default_bench())
    except (DocumentError, ResizeError, OrderConflictError) as error:
        assert "\n" not in error_words(error)
    except KeyError as error:
        # A wool that was spelled differently by the rubbish: what opens files checks for it.
        with pytest.raises(DocumentError):
            check_wools(document.figure, default_bench(), "file.json")
        assert error


@pytest.mark.parametrize("height", [32.0, 45.0, 80.0, 600.0, 1115.0])
def test_badger_can_be_planned_over_its_whole_range(bench: Bench, height: float) -> None:
    document = load_document(BADGER.read_bytes(), "badger")
    plan = make_plan(document.figure, document.brief.at_height(height), bench)
    assert plan.to_height_mm == pytest.approx(height, abs=0.05)
    assert all(p.grams >= 0 for part in plan.parts for p in part.portions)
    for question in plan.open_questions:
        for option in some(question.options, 2):
            answered = document.brief.at_height(height).answered(question.code, option.id)
            again = make_plan(document.figure, answered, bench)
            assert question.code not in {n.code for n in again.open_questions}, (
                question.code,
                option.id,
            )
