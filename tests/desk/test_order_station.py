"""The order station: the thread walked, pulled and refused; switches; the make view from first to last."""

from __future__ import annotations

import io
import math
from collections.abc import Callable
from datetime import date
from html import escape
from pathlib import Path

import pytest
from pypdf import PdfReader
from PyQt6.QtCore import QPoint, QPointF, Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QWidget
from pytestqt.qtbot import QtBot

from bambola.core.methods import card_for, slots
from bambola.core.methods.alike import alike_steps
from bambola.core.methods.slots import pinch_of
from bambola.core.methods.told import in_short
from bambola.core.order import count_changes, move_key, places_for
from bambola.core.piece.standing import course_of, standing_after
from bambola.core.plan.counter.carry_on import felted_at
from bambola.core.plan.making.jobs import lightness
from bambola.demo import BADGER, TOAD
from bambola.desk.shell.stations import ORDER, RESIZE
from bambola.desk.shell.window import Window
from bambola.desk.stations.order.lesson_boxes import SizeBox
from bambola.desk.stations.order.station import OrderStation
from bambola.desk.stations.order.tools import Minding, Tools
from bambola.desk.stations.order.ways_sheet import WaysSheet
from bambola.desk.stations.order.week import Week, WeekDialog
from tests.effort import THOROUGH
from tests.said import said

LEFT = Qt.MouseButton.LeftButton
SHIFT = Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def station(window: Window) -> OrderStation:
    window.go_to(ORDER)
    made = window.order_station
    made.begin_on(date(2026, 3, 2))
    return made


def keys(window: Window) -> list[str]:
    assert window.studio.plan is not None
    return [s.key for s in window.studio.plan.steps]


def pull(station: OrderStation, at: int, to: int) -> None:
    """Pull a bead by the mouse."""
    beads = station.long.beads
    QTest.mousePress(beads.cloth, LEFT, pos=beads.spot(at).toPoint())
    goal = beads.spot(to).toPoint()
    QTest.mouseMove(beads.cloth, beads.spot(at).toPoint() + QPoint(20, 20))
    QTest.mouseMove(beads.cloth, goal)
    QTest.mouseRelease(beads.cloth, LEFT, pos=goal)


def drag(widget: QWidget, start: QPointF, end: QPointF) -> None:
    """Pull on a widget from one point to another."""
    QTest.mousePress(widget, LEFT, pos=start.toPoint())
    QTest.mouseMove(widget, ((start + end) / 2).toPoint())
    QTest.mouseMove(widget, end.toPoint())
    QTest.mouseRelease(widget, LEFT, pos=end.toPoint())


def test_thread_runs_through_sittings(station: OrderStation, window: Window, qtbot: QtBot) -> None:
    beads = station.long.beads
    assert station.sittings.calendar is not None
    titles = [row.title for row in beads._rows if row.title]
    assert titles[0] == "Tue 3 Mar" and len(titles) == len(station.sittings.calendar.sittings)
    assert sum(row.count for row in beads._rows) == len(beads.steps)
    spots = [(beads.spot(i).x(), beads.spot(i).y()) for i in range(len(beads.steps))]
    assert len(set(spots)) == len(spots)
    beads.setFocus()
    qtbot.keyClick(beads, Qt.Key.Key_Home)
    for _ in range(len(beads.steps) - 1):
        qtbot.keyClick(beads, Qt.Key.Key_Right)
    assert window.thread_strip.current_row == len(beads.steps) - 1
    qtbot.keyClick(beads, Qt.Key.Key_Up)
    assert window.thread_strip.current_row < len(beads.steps) - 1
    qtbot.mouseClick(beads.cloth, LEFT, pos=beads.spot(4).toPoint())
    assert window.thread_strip.current_row == 4


def test_bead_is_pulled_to_where_it_may_go_and_undone(
    station: OrderStation, window: Window, qtbot: QtBot
) -> None:
    plan = window.studio.plan
    assert plan is not None
    before = keys(window)
    at = before.index("coat:cape")
    to = places_for(plan.order, "coat:cape")[0]
    pull(station, at, to)
    assert keys(window) == move_key(before, "coat:cape", to)
    assert (
        window.thread_strip.current_row == to
        and "You moved it here" in station.reasons._words.text()
    )
    assert station.reasons.unmove.isVisible()
    window.studio.undo_stack.undo()
    assert keys(window) == before
    window.thread_strip.select_row(at)
    beads = station.long.beads
    beads.setFocus()
    qtbot.keyClick(beads, Qt.Key.Key_Left, SHIFT)
    assert keys(window) == move_key(before, "coat:cape", at - 1)
    qtbot.keyClick(beads, Qt.Key.Key_Backspace)
    assert keys(window) == before


def test_refused_pull_names_rules_and_what_would_allow_it(
    station: OrderStation, window: Window, qtbot: QtBot
) -> None:
    before = keys(window)
    at = before.index("coat:head")
    pull(station, at, before.index("core:head:1"))
    words = station.reasons._words.text()
    assert keys(window) == before
    assert "It cannot go" in words and "a needle cannot firm what lies under" in words
    at = before.index("join:snout")
    window.thread_strip.select_row(at)
    station.long.beads.put(at + 2)
    assert station.reasons.along.isVisible() and "1 more" in station.reasons.along.text()
    qtbot.mouseClick(station.reasons.along, LEFT)
    now = keys(window)
    assert now.index("blend:snout") == now.index("join:snout") + 1 > at + 1
    assert sorted(now) == sorted(before)
    window.studio.undo_stack.undo()
    assert keys(window) == before
    # Another figure on the table: what was refused before says nothing of it.
    pull(station, keys(window).index("coat:head"), 0)
    assert "It cannot go" in station.reasons._words.text()
    window.open_demo(TOAD)
    assert (
        "It cannot go" not in station.reasons._words.text()
        and not station.reasons.along.isVisible()
    )


def test_ways_sheet_previews_changes(station: OrderStation, window: Window, qtbot: QtBot) -> None:
    sheet = WaysSheet(station, window.studio, window.theme, window.darkroom)
    sheet.show()
    face = sheet.cards["face"]
    assert (
        face.is_unfolded and sheet.cards["white"].isHidden()
    )  # the badger has no white over white
    assert not sheet.more.isVisible()  # all is as usual: nothing is folded away
    qtbot.waitUntil(lambda: "Moves" in face.told["after"].text())
    assert face.told["before"].text().endswith("As it is now.")
    joined = keys(window).index("join:head")
    assert "mark:head" in sheet.where.steps and "head" in sheet.where.parts
    face.ways["after"].click()
    assert keys(window).index("mark:head") > keys(window).index("join:head") != joined
    assert "after the head is on" in face.head.text()
    assert "after the head is on" in station.ways.text()
    # Now the others are folded away behind it; one of them by keys alone.
    assert sheet.cards["eyes"].isHidden() and "more as usual" in sheet.more.text()
    qtbot.keyClick(sheet.more, Qt.Key.Key_Space)
    eyes = sheet.cards["eyes"]
    assert not eyes.isHidden()
    qtbot.keyClick(eyes.head, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: "Saves 1 step" in eyes.told["sewn"].text())
    assert eyes.is_unfolded and not face.is_unfolded
    eyes.ways["as drawn"].setFocus()
    qtbot.keyClick(eyes.ways["as drawn"], Qt.Key.Key_Down)
    qtbot.keyClick(eyes.ways["glued"], Qt.Key.Key_Down)
    assert "wait:eye" not in keys(window) and eyes.ways["sewn"].isChecked()
    sheet.accept()
    while window.studio.undo_stack.canUndo():
        window.studio.undo_stack.undo()
    assert station.ways.text() == "How you work…" and keys(window).index("join:head") == joined


def test_figure_stands_as_far_as_it_is_made(
    station: OrderStation, window: Window, qtbot: QtBot
) -> None:
    plan = window.studio.plan
    assert plan is not None
    order, course = keys(window), course_of(plan, window.studio.bench)
    before, after = (standing_after(course, order.index("join:head") + n) for n in (0, 2))
    assert before.states["head"] == "made" and after.states["head"] == "joined"
    assert standing_after(course, 0).joined is None
    whole = standing_after(course, len(order))
    assert set(whole.states.values()) == {"joined"} and whole.joined is not None
    assert len(whole.joined.copies) == len(plan.solids.placement.copies)
    assert len(whole.joined.fittings) == len(plan.solids.placement.fittings)
    counts = [
        sum(s == "joined" for s in standing_after(course, n).states.values())
        for n in range(len(order))
    ]
    assert counts == sorted(counts)
    window.thread_strip.select_row(order.index("coat:arm"))
    qtbot.waitUntil(lambda: {"ghost", "joined"} <= station.figure._prints.keys(), timeout=20_000)
    assert "parts joined" in station.figure.accessibleDescription()


def test_every_sitting_has_row_of_beads(station: OrderStation, window: Window) -> None:
    window.studio.set_height(400.0)  # a body that takes longer than a sitting
    beads = station.long.beads
    beads.relay()
    assert station.sittings.calendar is not None
    titles = [row for row in beads._rows if row.title]
    assert [row.title for row in titles] == [
        f"{s.start:%a %-d %b}" for s in station.sittings.calendar.sittings
    ]
    assert sum(row.count for row in beads._rows) == len(beads.steps)
    idle = [
        (row, s)
        for row, s in zip(titles, station.sittings.calendar.sittings, strict=True)
        if not row.count
    ]
    assert idle
    for row, sitting in idle:
        n = int(row.goes_on.removeprefix("going on with ").partition(".")[0])
        assert n in {piece.n for piece in sitting.pieces} and all(
            p.more for p in sitting.pieces if p.n == n
        )
        assert said(beads.steps[n - 1].text) in row.goes_on
    window.grab()


def test_reasons_of_missing_step_are_cleared(
    station: OrderStation, window: Window, qtbot: QtBot
) -> None:
    words = station.reasons._words
    window.studio.set_height(300.0)
    window.thread_strip.select_row(keys(window).index("core:head:2"))
    assert "round 2 of 2" in words.text()
    window.go_to(RESIZE)
    window.studio.set_height(60.0)  # one round is enough
    window.go_to(ORDER)
    qtbot.waitUntil(lambda: "round 2" not in words.text())


def test_step_tells_wool_garment_and_waiting_steps(station: OrderStation, window: Window) -> None:
    order, words = keys(window), station.reasons._words

    def told(key: str) -> str:
        window.thread_strip.select_row(order.index(key))
        return words.text()

    plan = window.studio.plan
    assert plan is not None
    coat = next(p for p in plan.part("head").portions if p.role == "coat")
    assert f"{coat.take_g:.2f} g of cream" in told("coat:head")
    assert "(of" not in told("core:body:1") and "of core batt" in words.text()
    assert (
        "It is bought, 210 mm round" in told("join:muffler")
        and "passes over the head" in words.text()
    )
    assert "What follows" in told("join:cape") and "Put on the collar" in words.text()
    station.show_make(True)
    window.studio.selection.select_step("join:cape")
    station.make.refresh()
    assert "stretched to 178 mm it does not pass over the head" in station.make.words.toPlainText()


def week_of(
    station: OrderStation, monkeypatch: pytest.MonkeyPatch, use: Callable[[Week], None]
) -> None:
    """Open the free times, use the week on it, and take it."""

    def run(dialog: WeekDialog) -> int:
        dialog.show()
        use(dialog.week)
        dialog.hide()
        return 1

    monkeypatch.setattr(WeekDialog, "exec", run)
    station.free.click()


def test_free_times_are_laid_by_hand_and_sittings_follow(
    station: OrderStation, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    def by_hand(week: Week) -> None:
        drag(week, week.spot(2, 20 * 60 + 4), week.spot(2, 21 * 60 + 26))  # Wednesday, a new one
        drag(week, week.spot(5, 15 * 60), week.spot(6, 11 * 60))  # Saturday's, to Sunday morning
        drag(
            week, week.spot(1, 21 * 60) - QPointF(0, 3), week.spot(1, 23 * 60)
        )  # Tuesday's end, later
        drag(week, week.spot(3, 20 * 60), week.spot(2, 21 * 60))  # Thursday's, on to Wednesday's

    week_of(station, monkeypatch, by_hand)
    free = [(f.weekday, f.start, f.minutes) for f in window.studio.bench.free]
    assert free == [(1, "19:30", 210), (2, "20:00", 120), (6, "10:00", 150)]
    found = station.sittings.calendar
    assert found is not None and all(s.start.weekday() in (1, 2, 6) for s in found.sittings)


def test_free_times_are_laid_by_keys_alone(
    station: OrderStation, window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    def by_key(week: Week) -> None:
        qtbot.keyClick(week, Qt.Key.Key_Delete)  # Tuesday's
        qtbot.keyClick(week, Qt.Key.Key_Left)
        qtbot.keyClick(week, Qt.Key.Key_Space)
        qtbot.keyClick(week, Qt.Key.Key_Up)
        qtbot.keyClick(week, Qt.Key.Key_Down, SHIFT)
        assert week.accessibleDescription() == "Monday: 19:15, 105 min; in hand 19:15"
        qtbot.keyClick(week, Qt.Key.Key_Left, SHIFT)
        assert week.accessibleDescription().startswith("Sunday: 19:15")
        for day in (3, 5):
            week.day = day - 1
            qtbot.keyClick(week, Qt.Key.Key_Right)
            qtbot.keyClick(week, Qt.Key.Key_Delete)

    week_of(station, monkeypatch, by_key)
    assert [(f.weekday, f.minutes) for f in window.studio.bench.free] == [(6, 105)]
    week_of(station, monkeypatch, lambda week: qtbot.keyClick(week, Qt.Key.Key_Delete))
    assert window.studio.bench.free == ()
    assert "There are no free times" in station.reasons._words.text()


def test_what_counts_changes_order_and_is_kept(
    station: OrderStation, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    light = lightness(window.studio.bench)
    plan = window.studio.plan
    assert plan is not None
    before = count_changes(plan.order.tasks, light)

    def mind(dialog: Minding) -> int:
        dialog.sliders["needle"].setValue(12)
        dialog.sliders["leaving"].setValue(0)
        dialog.count()
        assert f"now {before.needle}" in dialog.counts["needle"].text()
        return 1

    monkeypatch.setattr(Minding, "exec", mind)
    station.minding.click()
    assert window.studio.bench.weights.needle == 6.0 and window.studio.bench.weights.leaving == 0.0
    plan = window.studio.plan
    assert plan is not None
    after = count_changes(plan.order.tasks, light)
    assert after.needle < before.needle and after.leaving > before.leaving
    # It is what the maker asked for: by these weights the new order is cheaper than the old.
    weights = window.studio.bench.weights
    assert after.cost(weights) < before.cost(weights)


@pytest.mark.parametrize("demo", [TOAD, *([BADGER] if THOROUGH else ())])
def test_made_from_first_step_to_last_with_stop_between(
    station: OrderStation, window: Window, qtbot: QtBot, demo: Path
) -> None:
    window.open_demo(demo)
    make, ticks = station.make, [0.0]
    make.clock = lambda: ticks[0]
    window.actions_["make"].trigger()
    assert station.is_making and make.isVisible() and make.current_index == 0
    order = keys(window)
    half = len(order) // 2
    for n in range(half):
        if len(make.in_hand) > 1:
            qtbot.keyClick(make, Qt.Key.Key_O)
        assert make.current_step is not None and make.current_step.key == order[n]
        assert make._text.text() == said(make.current_step.text) and make._count.text().startswith(
            f"{n + 1} of {len(order)} · "
        )
        ticks[0] += 120.0
        qtbot.keyClick(make, Qt.Key.Key_Space)
    qtbot.keyClick(make, Qt.Key.Key_Left)
    qtbot.keyClick(make, Qt.Key.Key_Space)
    qtbot.keyClick(make, Qt.Key.Key_N)
    make.note.setText("used the coarse batt")
    qtbot.keyClick(make.note, Qt.Key.Key_Return)
    qtbot.keyClick(make, Qt.Key.Key_P)
    ticks[0] += 6000.0
    assert make.minutes == pytest.approx(0.0) and "paused" in make._clock.text()
    qtbot.keyClick(make, Qt.Key.Key_Escape)
    assert not station.is_making and window.thread_strip.current_row == half
    # Another day: it goes on where it stopped.
    window.studio.selection.select_step(order[0])
    window.go_to(0)
    window.actions_["make"].trigger()
    assert make.current_index == half and make.note.text() == "used the coarse batt"
    while make.current_index < len(order) - 1:
        ticks[0] += 60.0
        QTest.mouseClick(make.done, LEFT)
    assert make.done.text() == "Finished"
    kept = window.bench_desk.making
    assert kept.minutes[order[3]] == pytest.approx(2.0) and kept.at == order[-1]
    # The clock fed the records of those that took a credible time; the pace is learned when it is taken.
    desk, plan = window.bench_desk, window.studio.plan
    assert plan is not None
    names = {part.id: part.name for part in plan.parts}
    hasty = {
        names[step.part] for step in plan.steps if step.key.sort == "core" and step.minutes > 12
    }
    timed = {r.part for r in desk.records if r.minutes}
    assert timed and hasty and not timed & hasty
    assert "pace" in {one.found.what for one in desk.lessons(desk.in_hand).changed}
    assert not desk.estimates


def test_steps_follow_needles_that_are_ticked(
    station: OrderStation, window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    def tick(dialog: Tools) -> int:
        dialog.show()
        for gauge in (36, 38, 40):
            qtbot.keyClick(dialog.ticks[gauge], Qt.Key.Key_Space)
        assert not dialog._ok.isEnabled() and dialog.missing.isVisible()  # type: ignore[union-attr]
        qtbot.keyClick(dialog.ticks[42], Qt.Key.Key_Space)
        qtbot.keyClick(dialog.holder, Qt.Key.Key_Home)
        qtbot.keyClick(dialog.glue, Qt.Key.Key_Home)
        assert dialog._ok.isEnabled() and dialog.holder.currentText() == "none"  # type: ignore[union-attr]
        return 1

    monkeypatch.setattr(Tools, "exec", tick)
    window.actions_["tools"].trigger()
    plan = window.studio.plan
    assert plan is not None and {step.needle for step in plan.steps} == {42, None}
    window.actions_["make"].trigger()
    window.studio.selection.select_step("coat:head")
    station.make.refresh()
    assert "Needle 42" in station.make.words.toPlainText()
    station.make.turn_fold()
    text = station.make.words.toPlainText()
    assert "a 42 needle" in text and "holder" not in text and "38" not in text.split("Stop")[0][60:]
    assert window.bench_desk.base.needles == (42,)
    assert window.bench_desk.base.glue == "instant"
    cure = next(step for step in plan.steps if step.kind == "wait")
    window.studio.selection.select_step(cure.key)
    station.make.refresh()
    assert "2 minutes" in station.make.words.toPlainText()


def test_card_with_missing_number_says_so(
    station: OrderStation, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(slots, "veil_count", lambda _: math.nan)
    window.actions_["make"].trigger()
    window.studio.selection.select_step("coat:head")
    station.make.refresh()
    assert "missing a number" in window.message.text and not station.make.words.toPlainText()
    window.studio.selection.select_step("core:head:1")
    station.make.refresh()
    assert "Stop:" in station.make.words.toPlainText()


def test_each_step_shows_words_and_picture_at_once(
    station: OrderStation, window: Window, qtbot: QtBot
) -> None:
    make = station.make
    window.resize(1280, 800)
    window.actions_["make"].trigger()
    plan = window.studio.plan
    assert plan is not None
    for step, *_ in alike_steps(plan, window.studio.bench):
        if not THOROUGH and step.n % 3 != 1:
            qtbot.keyClick(make, Qt.Key.Key_Space)
            continue
        card = card_for(plan, step, window.studio.bench)
        short = make.words.toPlainText()
        assert all(said(card.how[n - 1]) in short for n in in_short(card)), step.key
        qtbot.keyClick(make, Qt.Key.Key_H)
        text, bar = make.words.toPlainText(), make.words.verticalScrollBar()
        assert len(short) < len(text), step.key
        assert all(said(line) in text for line in (*card.how, card.until)), step.key
        assert bar is not None and bar.maximum() == 0, step.key  # nothing has to be scrolled for
        assert make.picture.marks and make.picture.height() > 300, step.key
        image = make.picture.grab().toImage()
        seen = {image.pixelColor(x, y).name() for x in range(0, image.width(), 5)
                for y in range(0, image.height(), 5)}  # fmt: skip
        assert len(seen) > 3, step.key
        pinch = pinch_of(card.amount)
        assert ("pinch" in said(card.amount) or "hairs" in said(card.amount)) == bool(pinch)
        assert make.picture.pinch_px == pytest.approx(
            pinch * make.picture.true_size.px_per_mm(make)
        )
        qtbot.keyClick(make, Qt.Key.Key_Space)
    # Beside the thread of the order it is told as well.
    qtbot.keyClick(make, Qt.Key.Key_Escape)
    assert make.current_step is not None
    card = card_for(plan, make.current_step, window.studio.bench)
    beside = station.reasons._words.text()
    assert all(escape(said(line)) in beside for line in (*card.how, card.until))
    assert station.picture.marks and station.picture.sheet is make.sheets.sheet_of(
        make.current_step
    )
    window.actions_["make"].trigger()
    # The next sheet is made while the hands are at this one.
    make.step(-3)
    then = plan.steps[make.current_index + 1]
    qtbot.waitUntil(lambda: make.sheets.is_ready(then), timeout=5_000)
    # Where there is too little room, what is last is turned to by a key, and the step stays in hand.
    window.theme.set(scale=1.5)
    window.resize(1024, 700)
    window.studio.selection.select_step("join:head")
    make.refresh()
    bar = make.words.verticalScrollBar()
    assert bar is not None
    qtbot.keyClick(make, Qt.Key.Key_PageDown)
    assert bar.value() == min(bar.maximum(), bar.pageStep())
    assert make.current_step is not None and make.current_step.key == "join:head"


def test_alike_steps_share_card_until_they_are_opened(
    station: OrderStation, window: Window, qtbot: QtBot
) -> None:
    make, ticks = station.make, [0.0]
    make.clock = lambda: ticks[0]
    window.actions_["make"].trigger()
    plan = window.studio.plan
    assert plan is not None
    rows = next(steps for steps in alike_steps(plan, window.studio.bench) if len(steps) > 2)
    window.studio.selection.select_step(rows[0].key)
    make.refresh()
    assert make.in_hand == rows and make.singly.isVisible()
    assert make._count.text().startswith(f"{rows[0].n}–{rows[-1].n} of ")
    text = make.words.toPlainText()
    assert "for each row" in text and "from the last" in text
    QTest.mouseClick(make.singly, LEFT)
    assert make.in_hand == rows[:1] and "for each row" not in make.words.toPlainText()
    qtbot.keyClick(make, Qt.Key.Key_Space)
    assert make.current_step is rows[1]
    qtbot.keyClick(make, Qt.Key.Key_O)  # the rest of them on one card
    assert make.in_hand == rows[1:]
    make._stop_clock()
    make._since, before = ticks[0], dict(make.making.minutes)
    ticks[0] += 600.0
    qtbot.keyClick(make, Qt.Key.Key_Space)
    spent = [make.making.minutes[row.key] - before.get(row.key, 0.0) for row in rows[1:]]
    assert sum(spent) == pytest.approx(10.0) and min(spent) > 1.0
    assert make.current_step is not None and make.current_step.n == rows[-1].n + 1
    qtbot.keyClick(make, Qt.Key.Key_Left)
    assert make.current_step is rows[0] and make.in_hand == rows


def test_who_has_done_its_kind_reads_two_lines(
    station: OrderStation, window: Window, qtbot: QtBot
) -> None:
    make, ticks = station.make, [0.0]
    make.clock = lambda: ticks[0]
    window.actions_["make"].trigger()
    shaped = [step for step in make.steps if step.key.sort == "core"]
    methods = [card_for(window.studio.plan, step, window.studio.bench).method for step in shaped]
    first, again = next(
        (shaped[i], shaped[j])
        for i, method in enumerate(methods)
        for j in range(i + 1, len(methods))
        if methods[j] == method == "shape"
    )
    window.studio.selection.select_step(again.key)
    make.refresh()
    long = make.words.toPlainText().splitlines()
    plan = window.studio.plan
    felted = felted_at(plan, first) if plan else None
    assert felted is not None
    wanted = " x ".join(f"{mm:.2f}" for mm in felted.portion.finished_mm.values()) + " mm"

    def measure() -> None:
        box = QApplication.activeModalWidget()
        assert isinstance(box, SizeBox)
        qtbot.keyClicks(box.line, wanted)
        qtbot.keyClick(box.line, Qt.Key.Key_Return)

    for is_measured, lines in ((False, long), (True, None)):  # one is known once it came out right
        window.studio.selection.select_step(first.key)
        make._since = ticks[0]
        ticks[0] += 600.0
        if is_measured:
            make.refresh()
            QTimer.singleShot(50, measure)
            qtbot.keyClick(make, Qt.Key.Key_M)
        qtbot.keyClick(make, Qt.Key.Key_Space)
        window.studio.selection.select_step(again.key)
        make.refresh()
        shown = make.words.toPlainText().splitlines()
        assert shown == lines if lines else len([line for line in shown if line.strip()]) <= 3
    qtbot.keyClick(make, Qt.Key.Key_H)
    assert len(make.words.toPlainText()) > len("\n".join(long))


def test_work_cards_and_calendar_are_written(
    station: OrderStation,
    window: Window,
    qtbot: QtBot,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    window.open_demo(TOAD)
    for kind, name in (("cards", "c.pdf"), ("ics", "c.ics")):
        path = tmp_path / name
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, path=path: (str(path), ""))
        window.actions_[f"export_{kind}"].trigger()
        qtbot.waitUntil(path.exists, timeout=60_000)
    text = "\n".join(
        p.extract_text() for p in PdfReader(io.BytesIO((tmp_path / "c.pdf").read_bytes())).pages
    ).replace("\n", " ")
    plan = window.studio.plan
    assert plan is not None
    for step in plan.steps:
        assert said(step.text).split()[-1] in text and f"needle {step.needle or 36}" in text
        card = card_for(plan, step, window.studio.bench)
        for line in (
            card.how[n - 1] for n in in_short(card)
        ):  # nothing is left off for want of room
            assert said(line).split()[0] in text and said(line).split()[-1] in text
    assert (tmp_path / "c.ics").read_bytes().startswith(b"BEGIN:VCALENDAR")


def test_part_taken_away_leaves_no_step_that_asks_for_it(window: Window) -> None:
    window.go_to(ORDER)
    steps = window.studio.plan.steps if window.studio.plan else ()
    old = next(step for step in steps if step.key == "core:tail:1")
    window.studio.selection.select_part("tail")
    window.actions_["take_away"].trigger()
    plan = window.studio.plan
    assert plan is not None and "tail" not in {part.id for part in plan.parts}
    # A view may still hold the step for a moment, until it is drawn anew.
    assert plan.laid_by(old) == () and plan.portions_of(old) == ()
