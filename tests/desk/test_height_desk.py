"""The tape that answers: what turns is marked beside it, and a height is asked for backwards."""

from __future__ import annotations

import os
import signal
import time
from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import cache
from typing import Any

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt, QTimer
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtWidgets import QInputDialog
from pytestqt.qtbot import QtBot

from bambola.core.heights import whole
from bambola.core.heights.values import HeightReading, Turn
from bambola.core.heights.whole import Heights, read_at
from bambola.core.plan import make_plan
from bambola.demo import TOAD, load_demo, sample_shelf
from bambola.desk.kit import together_dialog
from bambola.desk.running.background import Background, BackgroundJob
from bambola.desk.running.worker_process import WorkerProcess
from bambola.desk.session import height_desk
from bambola.desk.session.height_desk import BEHIND, SWEEPING, HeightDesk
from bambola.desk.session.studio import EditorSession
from bambola.desk.session.sweeping import PARTNER, Sweeping
from bambola.desk.shell import packet_dialog
from bambola.desk.shell.window import Window
from bambola.desk.stations.resize.height_dialog import HeightDialog
from bambola.desk.stations.resize.marks import QUIET, marks_of
from bambola.shipped import default_bench

UP, DOWN, ALT = Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.KeyboardModifier.AltModifier


@pytest.fixture
def toad(new_window: Callable[[], Window], qtbot: QtBot) -> Window:
    """The toad with a shelf, its heights swept."""
    window = new_window()
    window.bench_desk.put_bench(sample_shelf(window.studio.bench))
    window.open_demo(TOAD)
    swept(window, qtbot)
    return window


def swept(window: Window, qtbot: QtBot) -> None:
    heights = window.resize_station.heights
    heights.sweep()
    qtbot.waitUntil(lambda: heights.swept is not None, timeout=60_000)


@pytest.fixture
def asking(toad: Window, qtbot: QtBot) -> HeightDialog:
    page = toad.resize_station
    dialog = HeightDialog(
        page, page.studio, page.theme, page.darkroom, page.heights, page.bench_desk
    )
    dialog.show()
    qtbot.waitUntil(lambda: dialog.beside.sizes is not None, timeout=30_000)
    return dialog


def test_fast_result_is_still_shown(
    toad: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A quick thread was done before its job was known by name, and failed over it."""
    do = Background.do

    def quickly(self: Background, *given: Any) -> BackgroundJob:
        job = do(self, *given)
        job.is_done.wait(30)
        return job

    monkeypatch.setattr(Background, "do", quickly)
    told: list[object] = []
    faults: list[Exception] = []
    toad.resize_station.heights.compare_sizes([80.0, 120.0], told.append, faults.append)
    qtbot.waitUntil(lambda: bool(told or faults), timeout=60_000)
    assert not faults


def tick(dialog: HeightDialog, qtbot: QtBot, *names: str) -> None:
    for name in names:
        dialog.rows.rows[name].box.setFocus()
        qtbot.keyClick(dialog.rows.rows[name].box, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: len(dialog.tape.bars) == len(names), timeout=30_000)


# Beside the tape


def test_no_words_beside_tape_lie_under_buttons_of_views(
    new_window: Callable[[], Window], monkeypatch: pytest.MonkeyPatch
) -> None:
    window = new_window()
    window.open_demo()
    page, at = window.resize_station, set[tuple[int, int]]()
    draw = QPainter.drawText

    def noted(painter: QPainter, *given: Any) -> Any:
        if isinstance(given[0], QPointF):
            at.add((round(given[0].x()), round(given[0].y())))
        return draw(painter, *given)

    monkeypatch.setattr(QPainter, "drawText", noted)
    window.resize(1280, 800)
    turns = page.table.turns
    asks = next(turn for turn in turns_of_toad() if turn.rank in QUIET)
    for mm in range(160, 320, 20):
        page.studio.set_height(float(mm))
        for by in (0.95, 0.98, 1.005, 1.01, 1.02):
            near = replace(asks, height_mm=mm * by)
            turns.marked = replace(turns.marked, marks=marks_of([near]))
            page.table.grab()
    assert page.views.parentWidget() is page.table and len(at) > 4
    assert page.table.layout_ is not None
    beside, views = page.table.layout_.tape.right(), page.views.geometry()
    assert not [(x, y) for x, y in at if beside < x < views.right() and y < views.bottom()]


def test_alt_with_arrows_goes_past_next_turn_and_tells_it(toad: Window, qtbot: QtBot) -> None:
    table, studio = toad.resize_station.table, toad.studio
    asks: list[Turn] = [t for t in toad.resize_station.heights.turns if t.rank in QUIET]
    start = studio.height_mm
    table.setFocus()
    qtbot.keyClick(table, UP, ALT)
    above = next(t for t in asks if t.height_mm > start)
    assert above.height_mm < studio.height_mm <= above.height_mm + 1.5
    assert studio.say(above.text) in table.accessibleDescription()
    qtbot.keyClick(table, DOWN, ALT)
    assert studio.height_mm < above.height_mm
    studio.undo_stack.undo()
    studio.undo_stack.undo()
    assert studio.height_mm == pytest.approx(start)


def test_what_turns_is_marked_and_told_where_mouse_looks_closer(toad: Window, qtbot: QtBot) -> None:
    table = toad.resize_station.table
    layout = table.layout_
    assert layout is not None
    quiet = next(m for m in table.turns.marked.marks if m.rank not in QUIET and m.mm > 40)
    at = QPoint(round(layout.tape.left() - 9), round(layout.y_of(quiet.mm)))

    def inked() -> bool:
        image: QImage = table.grab().toImage()
        ground = image.pixelColor(7, at.y())  # between the line of sensible heights and the dots
        return any(image.pixelColor(at.x() + d, at.y()) != ground for d in (-1, 0, 1))

    assert not inked()  # only what asks something is marked, until one looks closer
    qtbot.mouseMove(table, at)
    assert table.turns.marked.pointed is not None and inked()
    assert toad.studio.say(table.turns.marked.pointed.turns[0].below) in table.toolTip()
    table.leaveEvent(None)
    assert not inked()


def test_another_figure_is_swept_anew_and_another_height_is_not(toad: Window, qtbot: QtBot) -> None:
    heights, studio = toad.resize_station.heights, toad.studio
    known, turns = heights.swept, heights.turns
    studio.set_height(70.0)
    assert heights.swept is known
    figure = studio.figure
    assert figure is not None
    studio.edit("x", figure.replaced(packing=1.2))
    assert (
        heights.swept is None
        and not heights.turns
        and not toad.resize_station.table.turns.marked.marks
    )
    heights.sweep()
    assert heights.is_sweeping
    studio.undo_stack.undo()  # called off in the middle; what was known is known again
    assert not heights.is_sweeping and heights.swept is known and heights.turns == turns
    assert toad.resize_station.table.turns.marked.marks
    toad.bench_desk.put_bench(toad.bench_desk.base.replaced(beginner=True))
    assert heights.swept is None


# Asked backwards


def test_height_is_asked_for_by_keys_and_taken_with_enter(
    toad: Window, asking: HeightDialog, qtbot: QtBot
) -> None:
    tick(asking, qtbot, "wool", "hours")
    most = asking.rows.rows["hours"].field
    most.setValue(8.0)  # type: ignore[union-attr]
    qtbot.waitUntil(lambda: "8.0 h" in asking.tape.describe(), timeout=30_000)
    (band,) = asking.tape.together
    assert asking.tape.mm == band.to_mm == round(band.to_mm)
    assert "All of it" in asking.answer.text()
    most.setFocus()  # type: ignore[union-attr]
    qtbot.keyClick(most, Qt.Key.Key_Return)  # asks, and takes nothing yet
    assert asking.isVisible() and asking.focusWidget() is asking.take
    qtbot.waitUntil(lambda: "All of it" in asking.answer.text(), timeout=30_000)
    qtbot.keyClick(asking.take, Qt.Key.Key_Return)
    studio = toad.studio
    assert studio.plan is not None and studio.figure is not None
    assert studio.height_mm == band.to_mm and studio.plan.minutes <= 480
    taller = make_plan(studio.figure, studio.brief.at_height(band.to_mm + 2), studio.bench)
    assert taller.minutes > 480 or any(total.packs for total in taller.wools)


def test_what_cannot_be_met_or_read_is_told_in_words(asking: HeightDialog, qtbot: QtBot) -> None:
    tick(asking, qtbot, "hours", "wool")
    asking.rows.rows["hours"].field.setValue(0.1)  # type: ignore[union-attr]
    qtbot.waitUntil(lambda: "No height meets this" in asking.answer.text(), timeout=30_000)
    assert not asking.tape.together
    cost: Any = asking.rows.rows["cost"].field
    qtbot.keyClicks(cost, "dear")  # typing ticks its row
    assert asking.rows.rows["cost"].box.isChecked()
    qtbot.waitUntil(lambda: "dear" in asking.answer.text(), timeout=30_000)
    assert len(asking.tape.bars) == 2


def test_sizes_are_compared_made_and_printed(
    toad: Window, asking: HeightDialog, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    before = len(asking.laid)
    asking.tape.setFocus()
    qtbot.keyClick(asking.tape, Qt.Key.Key_PageUp)
    qtbot.mouseClick(asking.lay, Qt.MouseButton.LeftButton)

    def laid() -> int:
        return len(asking.beside.sizes.rows) if asking.beside.sizes else 0

    qtbot.waitUntil(lambda: laid() == before + 1, timeout=30_000)
    told = asking.beside.describe()
    assert told.count("nothing to decide") >= 1 and "wire" in told
    assert asking.changes.count() > before + 1
    asking.beside.setFocus()
    qtbot.keyClick(asking.beside, Qt.Key.Key_Left)
    assert asking.tape.mm == pytest.approx(asking.beside.in_hand.height_mm)  # type: ignore[union-attr]
    made: list[Any] = []

    def shown(dialog: Any) -> None:
        made.append(getattr(dialog, "ticked_choices", None) or dialog.others.heights.text())
        dialog.reject()

    monkeypatch.setattr(together_dialog.TogetherDialog, "exec", shown)
    monkeypatch.setattr(packet_dialog.PacketDialog, "exec", shown)
    page = toad.resize_station
    asking.set_made.connect(lambda heights: page.make_set(asking, heights))
    asking.set_printed.connect(page.set_printed)
    qtbot.mouseClick(asking.make, Qt.MouseButton.LeftButton)
    qtbot.mouseClick(asking.print_, Qt.MouseButton.LeftButton)
    assert [brief.height for _, _, brief in made[0]] == sorted(asking.laid)
    assert made[1].count(";") == before
    qtbot.keyClick(asking.beside, Qt.Key.Key_Delete)
    assert len(asking.laid) == before


def test_place_of_makers_own_is_kept_and_marked(
    toad: Window, asking: HeightDialog, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("Glass dome", True))
    rows = asking.rows
    rows.room.setEditText("120 x 90 mm")
    qtbot.mouseClick(rows.keep, Qt.MouseButton.LeftButton)
    (niche,) = toad.studio.bench.niches
    assert (niche.name, niche.height, niche.width, niche.depth) == ("Glass dome", 120, 90, None)
    assert rows.niche() == niche and "forget" in rows.keep.text()
    swept(toad, qtbot)
    turns = [t for t in toad.resize_station.heights.turns if t.kind == "niche"]
    assert len(turns) == 1 and "Glass dome" in toad.studio.say(turns[0].text)
    qtbot.mouseClick(rows.keep, Qt.MouseButton.LeftButton)
    assert not toad.studio.bench.niches


# In a process of its own


@pytest.fixture
def apart(
    qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> Iterator[tuple[HeightDesk, WorkerProcess]]:
    monkeypatch.setattr(height_desk, "REST_MS", 10)
    studio = EditorSession(sample_shelf(default_bench()))
    process = WorkerProcess(SWEEPING, BEHIND)
    desk = HeightDesk(studio, process)
    studio.open_document(load_demo(TOAD), None)
    yield desk, process
    desk.close()
    studio.close()


def test_heights_are_swept_by_themselves_while_somebody_looks(
    apart: tuple[HeightDesk, WorkerProcess], qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    desk, process = apart
    assert not desk.is_sweeping  # nobody looks
    monkeypatch.setattr(height_desk, "MOST_BY_ITSELF", 3)
    desk.want(True)
    qtbot.wait(50)
    assert not desk.is_sweeping  # it would take too long
    monkeypatch.setattr(height_desk, "MOST_BY_ITSELF", 120)
    shares: list[float] = []
    desk.changed.connect(lambda: shares.append(desk.share))
    desk.want(True)
    qtbot.waitUntil(lambda: desk.swept is not None, timeout=90_000)
    assert desk.turns == turns_of_toad()
    assert shares == sorted(shares) and 0 < shares[0] < shares[-1] == 1
    assert os.getpriority(os.PRIO_PROCESS, process.number or 0) > os.getpriority(os.PRIO_PROCESS, 0)
    assert process.number is not None
    os.kill(process.number, signal.SIGKILL)
    answers: list[object] = []
    desk.compare_sizes((60.0, 90.0), answers.append, answers.append)  # another process takes over
    qtbot.waitUntil(lambda: bool(answers), timeout=90_000)
    sizes, placements = answers[0]  # type: ignore[misc]
    assert len(sizes.rows) == len(placements) == 2


@pytest.mark.parametrize("starting", [False, True])
def test_heights_are_swept_here_once_their_process_was_killed_twice(
    starting: bool, apart: tuple[HeightDesk, WorkerProcess], qtbot: QtBot
) -> None:
    """Killed while starting, or at work: what is asked for comes all the same, and it is told."""
    desk, process = apart
    killed: set[int] = set()
    told: list[str] = []
    desk.studio.refused.connect(told.append)

    def kill() -> None:
        number = process.number
        if number is not None and number not in killed and (starting or process.is_up):
            killed.add(number)
            os.kill(number, signal.SIGKILL)

    clock = QTimer()
    clock.timeout.connect(kill)
    clock.start(1)
    answers: list[object] = []
    desk.want(True)
    desk.compare_sizes((60.0,), answers.append, answers.append)
    qtbot.waitUntil(lambda: bool(answers), timeout=60_000)
    clock.stop()
    sizes, _ = answers[0]  # type: ignore[misc]
    assert len(sizes.rows) == 1 and len(killed) == 2
    assert len(told) == 1 and "continues without it" in told[0]


@pytest.mark.parametrize("ends", [False, True])
def test_partner_process_shares_sweep(
    ends: bool, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    here: set[float] = set()

    def read(*given: Any) -> HeightReading | None:
        here.add(given[-1])
        time.sleep(0.02)  # else all is read here before the other has begun
        return read_at(*given)

    monkeypatch.setattr(whole, "read_at", read)
    partner, toad = WorkerProcess(PARTNER), load_demo(TOAD)
    sweeping = Sweeping(partner)
    try:
        for _ in range(2):  # called off in the midst of the first, and begun again
            sweeping("begin_figure", toad.figure, toad.brief, sample_shelf(default_bench()), None)
            qtbot.waitUntil(lambda: partner.is_up, timeout=60_000)
            here.clear()
            share, turns = 0.0, ()
            while not share:  # a slow machine has no span done after one moment
                share, more = sweeping("sweep_on")
                turns += more
            assert share < 1
            if ends and partner.number is not None:  # it may be given up since the round before
                os.kill(partner.number, signal.SIGKILL)
        while share < 1:
            share, more = sweeping("sweep_on")
            turns += more
    finally:
        partner.end()
    known = sweeping._heights.readings.known  # type: ignore[union-attr]
    assert ends or len(here) < 0.8 * len(known)
    assert sorted(turns, key=lambda t: t.height_mm) == list(turns_of_toad())


@cache
def turns_of_toad() -> tuple[Turn, ...]:
    toad = load_demo(TOAD)
    return Heights(toad.figure, toad.brief, sample_shelf(default_bench())).turns()
