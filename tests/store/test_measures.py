"""What was measured once is not measured again, and nothing else is ever taken for it."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from bambola.core.figure import Brief
from bambola.core.plan import make_plan
from bambola.core.plan.making import made
from bambola.core.solids import MeasuringCancelledError, measure_solids, measured_before
from bambola.demo import TOAD, load_demo
from bambola.shipped import default_bench
from bambola.store import KeptMeasures
from tests.figures import one_ball


def test_figure_measured_before_is_planned_without_measuring(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    toad = load_demo(TOAD)
    kept = KeptMeasures(tmp_path)
    assert kept.find(toad.figure) is None
    solids = measure_solids(toad.figure)
    kept.add(toad.figure, solids.measured)
    again = KeptMeasures(tmp_path).find(load_demo(TOAD).figure)
    assert again == solids.measured  # to the last digit
    rebuilt = measured_before(toad.figure, again)
    assert rebuilt is not None and (rebuilt.near == solids.near).all()

    def measures(*_: object, **__: object) -> None:
        raise MeasuringCancelledError

    expected = make_plan(toad.figure, toad.brief, default_bench())
    fresh, bench = load_demo(TOAD), default_bench()
    monkeypatch.setattr(made, "measure_solids", measures)
    made.as_made(fresh.figure, bench, before=again)
    plan = make_plan(fresh.figure, fresh.brief, bench)
    assert plan.wool_g == expected.wool_g and plan.steps == expected.steps


@pytest.mark.parametrize("rubbish", ["", "[]", "{}", "[1]", '[{"net_mm3": 1}]', "NaN", "cut"])
def test_what_is_damaged_or_of_something_else_is_measured_anew(
    tmp_path: Path, rubbish: str
) -> None:
    figure = one_ball(40.0)
    kept = KeptMeasures(tmp_path)
    kept.add(figure, measure_solids(figure).measured)
    (path,) = tmp_path.glob("*.json")
    path.write_text(path.read_text()[:60] if rubbish == "cut" else rubbish)
    before = kept.find(figure)
    assert not before
    assert make_plan(figure, Brief(), default_bench()).wool_g > 0
    rows = [{"net_mm3": "many"}] if rubbish else [{"net_mm3": float("inf")}]
    path.write_text(json.dumps(rows))
    assert kept.find(figure) is None
    assert measured_before(figure, ()) is None  # a copy too few
    assert kept.find(one_ball(41.0)) is None


def test_only_newest_figures_are_kept(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("bambola.store.caches._MOST_SOLIDS_KEPT", 3)
    kept = KeptMeasures(tmp_path)
    figures = [one_ball(40.0 + i) for i in range(5)]
    for figure in figures:
        kept.add(figure, measure_solids(figure).measured)
    assert [kept.find(f) is not None for f in figures[2:]] == [True] * 3
    assert len(list(tmp_path.glob("*.json"))) == 3
    nowhere = KeptMeasures(tmp_path / "file" / "x")
    (tmp_path / "file").write_text("in the way")
    nowhere.add(figures[0], measure_solids(figures[0]).measured)  # no room: nothing is said
    assert nowhere.find(figures[0]) is None
