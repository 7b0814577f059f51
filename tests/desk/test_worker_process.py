"""Plans made in a process of their own: the same plans, and no less when that process is gone."""

from __future__ import annotations

import os
import signal
import time
from collections.abc import Iterator

import pytest
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QLineEdit, QMainWindow
from pytestqt.qtbot import QtBot

from bambola.core.figure import Brief, SizeRule
from bambola.core.figure.graft import with_part
from bambola.core.plan import make_plan
from bambola.core.plan.making.made import known_as_made
from bambola.core.resize import ResizeError
from bambola.demo import BADGER, HERON, load_demo
from bambola.desk.running import worker_process
from bambola.desk.running.worker_process import EndedError, WorkerProcess
from bambola.desk.session.planner import PLANNING
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


def _is_gone(number: int) -> bool:
    """Wait until a process is gone: nobody waits for one that was ended."""
    deadline = time.monotonic() + 20
    while _is_there(number) and time.monotonic() < deadline:
        time.sleep(0.01)
    return not _is_there(number)


def test_planning_process_gives_same_results_and_ends(
    planning: WorkerProcess, monkeypatch: pytest.MonkeyPatch
) -> None:
    bench, figure, brief = default_bench(), load_demo().figure, load_demo().brief
    held = brief.ruled("head", (SizeRule(rule="hold"),)).at_height(200.0)
    start = (figure, bench, make_plan(figure, brief.as_made(), bench).solids.measured)
    for wish, more in ((held, start), (held.at_height(180.0), None)):
        *_, as_it_was, told = planning(wish, more)
        here = make_plan(figure, wish, bench)
        made = make_plan(figure, wish.as_made(), bench) if more else None
        assert (as_it_was and as_it_was.parts) == (made and made.parts)
        assert (told.steps, told.parts, told.wires) == (here.steps, here.parts, here.wires)
        assert told.wool_g == here.wool_g and told.order == here.order
        # What its pieces share is one thing still, as in a plan made here.
        assert told.solids.placement.figure is told.resized.figure
        assert told.order.tasks[0] in here.order.tasks
    with pytest.raises(ResizeError) as here_refused:
        make_plan(figure, held.at_height(2.0), bench)
    with pytest.raises(ResizeError) as refused:
        planning(held.at_height(2.0), None)
    assert refused.value.told == here_refused.value.told
    number = planning.number
    assert number is not None and planning.is_up
    planning.end()
    assert not planning.is_up and _is_gone(number)
    with pytest.raises(EndedError):
        planning(held, start)
    monkeypatch.setattr(worker_process, "REST_S", 0.3)
    planning.wake()
    again = planning.number
    assert again is not None and again != number
    deadline = time.monotonic() + 10
    while planning.number is not None and time.monotonic() < deadline:
        time.sleep(0.05)
    assert planning.number is None and _is_gone(again)


def test_drag_is_planned_here_after_process_dies(planning: WorkerProcess, qtbot: QtBot) -> None:
    studio = EditorSession(apart=planning)
    for demo in (BADGER, HERON):
        document = load_demo(demo)
        studio.open_document(document, None)
        assert studio.plan is not None
        mm = studio.plan.to_height_mm * 0.9
        studio.pull_height(mm, studio.new_gesture())
        assert studio.is_behind and studio.height_mm == mm
        qtbot.waitUntil(lambda: not studio.is_behind, timeout=30_000)
        assert (
            studio.plan.steps
            == make_plan(document.figure, document.brief.at_height(mm), studio.bench).steps
        )
    number = planning.number
    assert number is not None
    os.kill(number, signal.SIGKILL)
    assert studio.plan is not None
    mm = studio.plan.to_height_mm * 0.95
    studio.pull_height(mm, studio.new_gesture())
    qtbot.waitUntil(lambda: not studio.is_behind, timeout=30_000)
    assert studio.plan.to_height_mm == pytest.approx(mm)
    studio.close()


def test_next_input_waits_for_planned_change(planning: WorkerProcess, qtbot: QtBot) -> None:
    document = load_demo(BADGER)
    studio = EditorSession(apart=planning)
    studio.open_document(document, None)
    heard: list[str] = []
    studio.refused.connect(heard.append)
    studio.plan_changed.connect(lambda: heard.append("plan"))
    as_it_was = studio.current_state()

    # What only the brief asks: the window goes on, and shows it as asked for already.
    assert studio.hold("head", True) and studio.is_planning and studio.is_held("head")
    assert studio.brief is as_it_was.brief
    qtbot.waitUntil(lambda: not studio.is_planning, timeout=30_000)
    expected = make_plan(document.figure, studio.brief, studio.bench)
    assert studio.plan is not None and studio.plan.steps == expected.steps

    # A changed figure is measured over there, and not again here.
    head = document.figure.by_id["head"]
    wider = head.replaced(shape=head.shape.replaced(width=48.0))
    well: list[bool] = []
    made = with_part(document.figure, wider)
    assert studio.edit("Wider", made, waits=False, then=well.append)
    assert studio.is_planning and not well
    qtbot.waitUntil(lambda: not studio.is_planning, timeout=30_000)
    assert well == [True]
    assert studio.figure is not None and known_as_made(studio.figure, studio.bench) is not None
    expected = make_plan(studio.figure, studio.brief, studio.bench)
    assert (studio.plan.steps, studio.plan.wool_g) == (expected.steps, expected.wool_g)

    # A key pressed while a change is under way waits for it, the window living on; and so do two changes at
    # once.
    typed: list[Brief] = []
    beats: list[bool] = []
    clock = QTimer()
    clock.timeout.connect(lambda: beats.append(studio.is_planning))
    line = QLineEdit()
    qtbot.addWidget(line)
    line.textEdited.connect(lambda: typed.append(studio.brief))
    assert studio.set_height(200.0) and studio.hold("head", False) and studio.is_planning
    clock.start(1)
    qtbot.keyClicks(line, "a")
    clock.stop()
    assert not studio.is_planning and typed == [studio.brief] and not studio.is_held("head")
    assert True in beats
    assert studio.hold("head", True) and studio.correct(not studio.brief.corrected)
    qtbot.waitUntil(lambda: not studio.is_planning, timeout=30_000)
    assert studio.is_held("head") and studio.brief.corrected != as_it_was.brief.corrected

    # A list or a dialog that closes waits for nothing; a window that closes waits, to ask what is lost.
    window = QMainWindow()
    qtbot.addWidget(window)
    window.show()
    assert studio.hold("head", False) and studio.is_planning
    assert line.close() and studio.is_planning
    assert window.close() and not studio.is_planning
    assert studio.hold("head", True)
    qtbot.waitUntil(lambda: not studio.is_planning, timeout=30_000)

    # What cannot be is told, and what is there is shown again.
    assert studio.hold("head", False) and studio.set_height(40.0)
    before = studio.current_state()
    heard.clear()
    assert studio.hold("head", True)  # with its head as made it is 55 mm high at least
    qtbot.waitUntil(lambda: not studio.is_planning, timeout=30_000)
    assert len(heard) == 2 and heard[0] != "plan" and heard[1] == "plan"
    assert studio.current_state() == before
    assert studio.edit("Tiny", with_part(studio.figure, head), waits=False, then=well.append)
    assert studio.hold("head", True)  # the second finds the first made, and cannot be
    qtbot.waitUntil(lambda: not studio.is_planning, timeout=30_000)
    assert well == [True, True] and studio.figure.by_id["head"] == head
    while studio.undo_stack.canUndo():
        studio.undo_stack.undo()
    assert studio.current_state() == as_it_was
    studio.close()


def test_stopped_process_holds_up_no_plan(
    planning: WorkerProcess, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(worker_process, "STUCK_S", 0.6)
    monkeypatch.setattr(worker_process, "_LOOK_S", 0.1)
    session = EditorSession(apart=planning)
    session.open_document(load_demo(), None)
    slow: list[bool] = []
    session.planning_slowly.connect(slow.append)
    number = planning.number
    assert number is not None
    os.kill(number, signal.SIGSTOP)
    beats: list[int] = []
    clock = QTimer()
    clock.timeout.connect(lambda: beats.append(0))
    clock.start(20)
    assert session.set_height(201.0)  # the window lives on meanwhile, and tells
    assert session.plan is not None and session.plan.to_height_mm == 201.0
    assert len(beats) > 5 and slow == [True, False]
    assert _is_gone(number)
    session.close()


def test_later_bench_counts_where_an_earlier_one_is_still_planned(planning: WorkerProcess) -> None:
    session = EditorSession(apart=planning)
    session.open_document(load_demo(), None)
    first, last = (session.bench.replaced(beginner=on) for on in (True, False))
    last = last.replaced(needles=(36, 38))
    used: list[object] = []
    session.bench_changed.connect(lambda: used.append(session.bench))
    QTimer.singleShot(0, lambda: session.use_bench(last))
    QTimer.singleShot(0, lambda: session.set_height(150.0))
    session.use_bench(first)
    assert used == [last] and session.bench is last
    assert session.plan is not None and session.figure is not None
    expected = make_plan(session.figure, session.brief, last)
    assert session.brief.height == 150.0 and session.plan.steps == expected.steps
    session.close()
