"""Looking for trees beside the interface: the newest wish counts, and a search can be ended."""

from __future__ import annotations

import io
import json
import sys

import pytest
from pytestqt.qtbot import QtBot

from bambola.core.wool.splitting import SplitPlan, WantedPortion
from bambola.demo import HERON, TOAD
from bambola.desk.shell.stations import WOOL
from bambola.desk.shell.window import Window
from bambola.desk.stations.menus import SPLITTING
from bambola.desk.stations.wool import split_job
from bambola.desk.stations.wool.splitter import Splitter


@pytest.fixture
def splitter(window: Window) -> Splitter:
    window.open_demo(TOAD)
    window.go_to(WOOL)
    window.wool_station.show_face(SPLITTING)
    return window.wool_station.splitter


def test_newest_wish_is_followed_and_older_one_ended(splitter: Splitter, qtbot: QtBot) -> None:
    hard, easy = "lichen", "weld"
    splitter.choose(hard)
    assert not splitter.is_idle and splitter.found is None
    splitter.choose(easy)
    qtbot.waitUntil(lambda: splitter.is_settled, timeout=30_000)
    assert splitter.wool == easy and isinstance(splitter.found, SplitPlan) and splitter.found.proved
    assert set(splitter.trees()) == {easy}


def test_search_is_ended_and_says_so(splitter: Splitter, window: Window, qtbot: QtBot) -> None:
    splitter.choose("lichen")
    assert window.wool_station.stop.isEnabled()
    splitter.cancel()
    assert splitter.is_idle and splitter.is_settled
    assert splitter.found is not None
    told = window.wool_station.tree.accessibleDescription()
    assert "was stopped" in told or "No way" in told
    # Another height asks anew.
    splitter.choose("black")
    qtbot.waitUntil(lambda: splitter.is_settled, timeout=30_000)
    before = splitter.found
    window.studio.set_height(80.0)
    qtbot.waitUntil(lambda: splitter.is_settled, timeout=30_000)
    assert isinstance(before, SplitPlan) and isinstance(splitter.found, SplitPlan)
    assert splitter.found.hank_g != pytest.approx(before.hank_g)


def test_wool_that_is_gone_gives_way_to_heaviest(
    splitter: Splitter, window: Window, qtbot: QtBot
) -> None:
    splitter.choose("weld")
    window.open_demo(HERON)
    splitter.find_tree()
    assert splitter.wool in splitter.wools
    qtbot.waitUntil(lambda: splitter.is_settled, timeout=30_000)


@pytest.mark.parametrize(
    ("wanted", "hank", "says"),
    [
        ((WantedPortion("a", 3.0), WantedPortion("b", 1.0)), None, "plan"),
        ((WantedPortion("a", 3.0),), 1.0, "split.little"),
        ((), None, "nothing"),
    ],
)
def test_job_answers_in_lines(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str], wanted: tuple[WantedPortion, ...],
    hank: float | None, says: str,
) -> None:  # fmt: skip
    asked = {
        "wanted": split_job.WANTED.dump_python(wanted, mode="json"),
        "hank_g": hank,
        "patience_s": 5.0,
    }
    monkeypatch.setattr(sys, "stdin", io.StringIO(json.dumps(asked) + "\n"))
    split_job.main()
    lines = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    if says == "plan":
        assert lines[-1]["final"] and not any(line["final"] for line in lines[:-1])
        plan = split_job.PLAN.validate_python(lines[-1]["plan"])
        assert (
            plan.given_g["a"] == pytest.approx(3.0, rel=0.08) and plan.splits == 2
        ) or plan.splits == 1
    else:
        assert says in lines[-1]["refused"]
