"""Plans made in a process of their own: the same plans, and no less when that process is gone."""

from __future__ import annotations

import os
import signal
import time
from collections.abc import Iterator

import pytest
from pytestqt.qtbot import QtBot

from bambola.core.figure import SizeRule
from bambola.core.plan import make_plan
from bambola.core.resize import ResizeError
from bambola.demo import BADGER, HERON, load_demo
from bambola.desk.running import worker_process
from bambola.desk.running.worker_process import EndedError, WorkerProcess
from bambola.desk.session.planner import PLANNING
from bambola.desk.session.planning import put_together
from bambola.desk.session.studio import EditorSession
from bambola.shipped import default_bench


@pytest.fixture
def planning() -> Iterator[WorkerProcess]:
    """A process that plans, ready to be called."""
    process = WorkerProcess(PLANNING)
    process.wake()
    deadline = time.monotonic() + 60
    while not process.is_up and time.monotonic() < deadline:
        time.sleep(0.02)
    yield process
    process.end()


def _is_there(number: int) -> bool:
    try:
        os.kill(number, 0)
    except ProcessLookupError:
        return False
    return True


def test_a_process_plans_the_same_refuses_in_the_same_words_and_ends_after_a_rest(
    planning: WorkerProcess, monkeypatch: pytest.MonkeyPatch
) -> None:
    bench, figure, brief = default_bench(), load_demo().figure, load_demo().brief
    held = brief.ruled("head", (SizeRule(rule="hold"),)).at(200.0)
    start = (figure, bench, make_plan(figure, brief.as_made(), bench).solids.measured)
    for wish, more in ((held, start), (held.at(180.0), None)):
        told, here = put_together(planning(wish, more)), make_plan(figure, wish, bench)
        assert (told.steps, told.parts, told.wires) == (here.steps, here.parts, here.wires)
        assert told.wool_g == here.wool_g and told.order == here.order
        # What its pieces share is one thing still, as in a plan made here.
        assert told.solids.placement.figure is told.resized.figure
        assert told.order.tasks[0] in here.order.tasks
    with pytest.raises(ResizeError) as here_refused:
        make_plan(figure, held.at(2.0), bench)
    with pytest.raises(ResizeError) as refused:
        planning(held.at(2.0), None)
    assert refused.value.told == here_refused.value.told
    number = planning.number
    assert number is not None and planning.is_up
    planning.end()
    assert not planning.is_up and not _is_there(number)
    with pytest.raises(EndedError):
        planning(held, start)
    monkeypatch.setattr(worker_process, "REST_S", 0.3)
    planning.wake()
    again = planning.number
    assert again is not None and again != number
    deadline = time.monotonic() + 10
    while planning.number is not None and time.monotonic() < deadline:
        time.sleep(0.05)
    assert planning.number is None and not _is_there(again)


def test_a_pull_is_planned_apart_for_whatever_is_open_and_here_once_that_process_is_killed(
    planning: WorkerProcess, qtbot: QtBot
) -> None:
    studio = EditorSession(apart=planning)
    for demo in (BADGER, HERON):
        document = load_demo(demo)
        studio.take(document, None)
        assert studio.plan is not None
        mm = studio.plan.to_height_mm * 0.9
        studio.pull_height(mm, studio.new_gesture())
        assert studio.is_behind and studio.height_mm == mm
        qtbot.waitUntil(lambda: not studio.is_behind, timeout=30_000)
        assert (
            studio.plan.steps
            == make_plan(document.figure, document.brief.at(mm), studio.bench).steps
        )
    number = planning.number
    assert number is not None
    os.kill(number, signal.SIGKILL)
    mm = studio.plan.to_height_mm * 0.95
    studio.pull_height(mm, studio.new_gesture())
    qtbot.waitUntil(lambda: not studio.is_behind, timeout=30_000)
    assert studio.plan.to_height_mm == pytest.approx(mm)
    studio.close()
