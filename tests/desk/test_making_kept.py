"""Of a making nothing is lost: killed at any moment, of two designs called alike, in two windows at once."""

from __future__ import annotations

import shutil
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QCoreApplication, QEvent, QSettings, Qt, QTimer
from PyQt6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from bambola.core.bench import Bench, Making
from bambola.core.bench.making import KeptCard, nth_of
from bambola.core.figure import Brief, Figure
from bambola.core.figure.fields import MOST_NOTE
from bambola.core.figure.graft import without_part
from bambola.core.plan import Plan, make_plan
from bambola.core.plan.counter.carry_on import felted_at
from bambola.core.plan.counter.weighing import weighings
from bambola.demo import BADGER, TOAD
from bambola.desk.kit.lessons_box import LessonsBox
from bambola.desk.kit.theme import Theme
from bambola.desk.session import studio
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession
from bambola.desk.shell.stations import ORDER
from bambola.desk.shell.window import Window
from bambola.desk.stations.order.lesson_boxes import SizeBox
from bambola.desk.stations.order.make_view import MakeView
from bambola.store import Journal
from bambola.store.bench_book import BenchBook


@pytest.fixture
def started(tmp_path: Path, qtbot: QtBot) -> Iterator[Callable[[], Window]]:
    """Opens windows that share one book; none of them is closed before the end."""
    made: list[Window] = []

    def start() -> Window:
        studio = EditorSession()
        book = BenchBook(tmp_path / "bench.sqlite", studio.bench)
        settings = Settings(QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat))
        window = Window(studio, Theme(), settings, Journal(tmp_path / "journal"), book)
        window.resize(1280, 800)
        window.show()
        made.append(window)
        return window

    yield start
    for window in made:
        window.studio.undo_stack.setClean()
        window.close()
        window.deleteLater()
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)


def pad_of(window: Window, seconds: list[float]) -> MakeView:
    pad = window.order_station.make
    assert isinstance(pad, MakeView)
    pad.clock = lambda: seconds[0]
    window.make_it()
    return pad


def kept(tmp_path: Path, window: Window) -> Making:
    """What another program finds in the book just now."""
    book = BenchBook(tmp_path / "bench.sqlite", window.studio.bench)
    making = book.making(window.studio.design)
    book.close()
    return making


def test_clock_is_saved_by_pausing_and_waiting(
    started: Callable[[], Window], tmp_path: Path, qtbot: QtBot
) -> None:
    """With step 12 running for 45 minutes, and the program killed after P, none of them came back; nor did
    the sitting, nor a note that was typed and not ended."""
    window, seconds = started(), [0.0]
    window.open_demo()
    pad = pad_of(window, seconds)
    pad.step(11)
    key = pad.current_step.key if pad.current_step else ""
    seconds[0] += 45 * 60
    qtbot.keyClick(pad, Qt.Key.Key_P)
    assert kept(tmp_path, window).minutes[key] == pytest.approx(45.0)
    assert [s.minutes for s in kept(tmp_path, window).sittings] == pytest.approx([45.0])
    qtbot.keyClick(pad, Qt.Key.Key_P)
    seconds[0] += 300
    qtbot.waitUntil(lambda: kept(tmp_path, window).minutes[key] > 49, timeout=10_000)
    (sitting,) = kept(tmp_path, window).sittings  # the same one, longer
    assert sitting.minutes == pytest.approx(50.0)
    pad.note.setFocus()
    qtbot.keyClicks(pad.note, "thin at the wrist")
    qtbot.waitUntil(
        lambda: kept(tmp_path, window).notes.get(key) == "thin at the wrist", timeout=10_000
    )
    qtbot.keyClick(pad.note, Qt.Key.Key_Return)
    pad.undo()  # all of it is one entry
    assert kept(tmp_path, window).notes.get(key, "") == ""
    told: list[str] = []
    window.studio.refused.connect(told.append)
    pad.note.setText("x" * MOST_NOTE)
    qtbot.keyClicks(pad.note, "y")
    assert told == ["A note holds 2000 characters."]


def test_two_windows_keep_both_entries(
    started: Callable[[], Window], tmp_path: Path, qtbot: QtBot
) -> None:
    """The later one wrote over the earlier one's unseen."""
    seconds = [0.0]
    one, two = started(), started()
    for window in (one, two):
        window.open_demo()
    first, second = (pad_of(window, seconds) for window in (one, two))
    second.step(2)
    keys = [view.current_step.key for view in (first, second) if view.current_step]
    qtbot.keyClick(first, Qt.Key.Key_1)
    qtbot.keyClick(second, Qt.Key.Key_1)
    seconds[0] += 120
    qtbot.keyClick(first, Qt.Key.Key_P)
    qtbot.keyClick(second, Qt.Key.Key_P)
    making = kept(tmp_path, one)
    assert {key: making.checks[key] for key in keys} == {key: {"1": "passed"} for key in keys}
    assert [making.minutes[key] for key in keys] == pytest.approx([2.0, 2.0])
    assert len(making.sittings) == 2
    # Each sees what the other has entered, and what is taken back is gone for both.
    qtbot.waitUntil(lambda: first.making.checks.keys() >= set(keys), timeout=10_000)
    qtbot.keyClick(second, Qt.Key.Key_U)
    qtbot.waitUntil(lambda: keys[1] not in first.making.checks, timeout=10_000)
    assert keys[0] in kept(tmp_path, one).checks


def test_designs_called_alike_are_made_apart(
    started: Callable[[], Window], tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Saved under another name, copied in the file manager or begun from pictures, designs shared one id, and
    with it what was made and weighed."""
    window, mine, other = started(), tmp_path / "mine.bambola.json", tmp_path / "other.bambola.json"
    mine.write_bytes(BADGER.read_bytes())
    desk, studio = window.bench_desk, window.studio
    window.files.open_path(mine)
    desk.keep_making(Making(at="coat:cape"))
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(other), ""))
    window.files.ask_save_as()
    assert desk.making.at == "coat:cape"  # the piece on the pad goes along
    desk.weigh("cape/core/1/0", "madder", 3.0)
    desk.keep_making(desk.making.replaced(at="finish"))
    window.files.open_path(mine)
    assert desk.making.at == "coat:cape" and not desk.weighed
    copy = tmp_path / "copy.bambola.json"
    shutil.copy(other, copy)
    window.files.open_path(copy)
    assert desk.making == Making() and not desk.weighed
    # A file that was only moved is the same design.
    moved = tmp_path / "moved.bambola.json"
    other.rename(moved)
    window.files.open_path(moved)
    assert desk.making.at == "finish" and desk.weighed
    begun = set()
    for _ in range(2):
        window.start_with_pictures({"front": BADGER.with_name("badger-front.png")}, 100.0)
        studio.undo_stack.setClean()
        begun.add(studio.design)
    assert len(begun) == 2


def test_making_continues_after_removed_step(
    started: Callable[[], Window],
) -> None:
    """When its part was deleted or called otherwise, the place was lost, and it began at the first step."""
    window, seconds = started(), [0.0]
    window.open_demo()
    pad = pad_of(window, seconds)
    plan: Plan | None = window.studio.plan
    assert plan is not None
    tail = next(n for n, step in enumerate(plan.steps) if step.key == "join:tail")
    pad.step(tail - 1)
    for _ in range(2):
        seconds[0] += 60
        pad.step(1)
    assert pad.current_index == tail + 1
    pad.step(-1)
    before = [str(step.key) for step in plan.steps[:tail]]
    window.order_station.show_make(False)
    window.studio.edit_by("without", lambda f: without_part(f, "tail"))
    window.make_it()
    # As far as it was, less what was done on the part that is gone.
    left = [key for key in before if not key.endswith(":tail") and ":tail:" not in key]
    assert window.studio.plan and pad.current_index > 20
    assert window.studio.plan.steps[pad.current_index - 1].key == left[-1]


def test_making_keeps_its_plan_until_accepted(
    started: Callable[[], Window], tmp_path: Path, qtbot: QtBot
) -> None:
    window, seconds = started(), [0.0]
    window.open_demo()
    pad = pad_of(window, seconds)
    qtbot.keyClick(pad, Qt.Key.Key_Space)
    at = pad.making.at
    window.order_station.show_make(False)
    height = window.studio.height_mm
    window.studio.set_height(height + 20.0)
    window.make_it()

    def asked() -> bool:
        return pad.begun.isVisible() and pad.begun.take.isEnabled()

    assert pad.begun.isVisible() and not asked()  # it is looked at off the interface thread
    qtbot.waitUntil(asked, timeout=20_000)
    said = pad.begun.accessibleName()
    assert "Height: 240 mm, it was 220 mm" in said and "more" in said
    qtbot.keyClick(pad, Qt.Key.Key_Space)
    assert pad.making.at == at and window.focusWidget() is pad.begun.take
    qtbot.mouseClick(pad.begun.back, Qt.MouseButton.LeftButton)
    assert window.studio.height_mm == height and not pad.begun.isVisible()
    window.studio.undo_stack.undo()  # it is one change, as others are
    assert window.studio.height_mm == height + 20.0
    qtbot.waitUntil(asked, timeout=20_000)
    qtbot.keyClick(pad.begun.take, Qt.Key.Key_Space)
    assert not pad.begun.isVisible()
    qtbot.keyClick(pad, Qt.Key.Key_Space)
    assert pad.making.at != at
    window.studio.set_height(height)
    window.order_station.show_make(False)
    window.make_it()
    qtbot.waitUntil(asked, timeout=20_000)
    assert "Height: 220 mm, it was 240 mm" in pad.begun.accessibleName()


def _begin(window: Window, qtbot: QtBot, done: int) -> MakeView:
    """Begin the demo, and go on by so many steps."""
    window.open_demo()
    pad = pad_of(window, [0.0])
    qtbot.keyClick(pad, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: bool(pad.making.cards), timeout=20_000)
    for _ in range(done - 1):
        qtbot.keyClick(pad, Qt.Key.Key_Space)
    return pad


def test_nothing_learned_meanwhile_changes_what_was_begun(
    started: Callable[[], Window], qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Pieces are measured, steps paged over, a swatch is felted, the program killed: the figure stays as
    it was told, to the gram and the minute. What it has taught is used for the rest once she says so."""
    window, seconds = started(), [0.0]
    window.open_demo()
    pad = pad_of(window, seconds)
    told, desk = window.studio.plan, window.bench_desk
    assert told is not None
    head = next(n for n, s in enumerate(told.steps) if s.key == "core:head:1")
    pad.step(head)
    felted = felted_at(told, told.steps[head])
    assert felted is not None

    def measure() -> None:
        box = QApplication.activeModalWidget()
        assert isinstance(box, SizeBox) and box.weight.placeholderText()
        sizes = felted.portion.finished_mm.values()
        qtbot.keyClicks(box.line, " x ".join(f"{mm * 0.9:.2f}" for mm in sizes) + " mm")
        qtbot.keyClick(box.line, Qt.Key.Key_Return)

    QTimer.singleShot(50, measure)
    qtbot.keyClick(pad, Qt.Key.Key_M)
    for _ in range(2):
        seconds[0] += 1.0
        qtbot.keyClick(pad, Qt.Key.Key_Space)
    swatch = desk.records[-1].replaced(making="", n=0)
    assert desk.records[-1].making == desk.in_hand and desk.add_record(swatch)
    assert desk.estimates  # the swatch teaches every figure to come

    def same_as_told(plan: Plan | None) -> bool:
        assert plan is not None
        grams = [w.portion.take_g for w in weighings(plan)]
        minutes = [step.minutes for step in plan.steps]
        return (grams, minutes) == (
            [w.portion.take_g for w in weighings(told)], [step.minutes for step in told.steps]
        )  # fmt: skip

    assert same_as_told(window.studio.plan)
    planned: list[Brief] = []

    def counted(figure: Figure, brief: Brief, bench: Bench) -> Plan:
        planned.append(brief)
        return make_plan(figure, brief, bench)

    monkeypatch.setattr(studio, "make_plan", counted)
    for _ in range(2):  # killed, and begun again
        window = started()
        planned.clear()
        window.open_demo()
        assert same_as_told(window.studio.plan) and len(planned) == 1
        pad_of(window, seconds)
    other = started()
    other.open_demo(TOAD)
    assert other.studio.bench.wool_by_id["core-batt"].known_from
    # For the rest of it, by a button, also where the pad was not looked at since the start.
    window = started()
    window.open_demo()
    window.go_to(ORDER)
    station = window.order_station
    qtbot.mouseClick(station.teaches, Qt.MouseButton.LeftButton)
    (box,) = station.findChildren(LessonsBox)
    assert "weigh" in box.changes.text() and not box.pieces
    qtbot.keyClick(box, Qt.Key.Key_Return)
    plan = window.studio.plan
    assert plan is not None
    more = {p.id: p.grams / told.part(p.id).grams for p in plan.parts if p.grams}
    assert (more["head"], more["cape"]) == pytest.approx((1.0, 1.0))
    assert max(more.values()) > 1.02
    again = started()
    again.open_demo()
    assert again.studio.plan is not None
    assert [w.portion.take_g for w in weighings(again.studio.plan)] == [
        w.portion.take_g for w in weighings(plan)
    ]


def test_who_begins_with_questions_open_is_told_so_once(
    started: Callable[[], Window], qtbot: QtBot
) -> None:
    window = started()
    window.open_demo()
    plan = window.studio.plan
    assert plan is not None and any(notice.is_open for notice in plan.notices)
    pad = pad_of(window, [0.0])
    assert pad.welcome.isVisible() and "question is still open" in pad.welcome.text()
    qtbot.keyClick(pad, Qt.Key.Key_Space)
    window.order_station.show_make(False)
    window.make_it()
    assert not pad.welcome.isVisible()


def test_cards_stay_as_begun_when_program_works_them_out_otherwise(
    started: Callable[[], Window], qtbot: QtBot
) -> None:
    """As if another version had told a leg thinner, and had a step that there is none of any more."""
    window = started()
    pad = _begin(window, qtbot, 5)
    at, cards = pad.current_index, pad.making.cards
    assert [card.step for card in cards] == [str(step.key) for step in pad.steps]
    window.order_station.show_make(False)
    old = KeptCard(step="core:leg:9", text="Wind the legs", lines=("Wind it to 26 mm.",))
    before = (*cards[: at + 1], old, *cards[at + 1 :])
    desk = window.bench_desk
    desk.keep_making(pad.making.replaced(told_as="of another version", cards=before))
    window.make_it()
    assert pad.current_index == at and pad.making.behind == tuple(card.step for card in cards[:at])
    assert pad.begun.isVisible() and not pad.begun.back.isVisible()
    assert pad._text.text() == cards[at].text
    qtbot.keyClick(pad, Qt.Key.Key_W)  # what asks the plan of now is idle
    qtbot.keyClick(pad, Qt.Key.Key_Space)
    assert pad.making.at == "core:leg:9" and "Wind it to 26 mm." in pad.words.toPlainText()
    qtbot.keyClick(pad, Qt.Key.Key_Space)
    assert pad.making.at == cards[at + 1].step
    qtbot.keyClick(pad.begun.take, Qt.Key.Key_Space)
    assert not pad.begun.isVisible() and pad.making.at == cards[at + 1].step
    qtbot.waitUntil(lambda: pad.making.cards == cards, timeout=20_000)
    assert (
        pad.current_index == at + 1 and window.studio.plan and pad.steps == window.studio.plan.steps
    )


def test_making_of_version_before_opens_where_it_was(
    started: Callable[[], Window], qtbot: QtBot
) -> None:
    """It kept no cards: that its numbers may be new is said once."""
    window = started()
    pad = _begin(window, qtbot, 7)
    at, behind = pad.current_index, pad.making.behind
    window.order_station.show_make(False)
    window.bench_desk.keep_making(pad.making.replaced(told_as="", cards=()))
    window.make_it()
    assert (pad.current_index, pad.making.behind) == (at, behind)
    assert "earlier" in pad.begun.accessibleName() and not pad.words.isVisible()
    qtbot.keyClick(pad, Qt.Key.Key_Space)
    assert pad.current_index == at and window.focusWidget() is pad.begun.take
    qtbot.keyClick(pad.begun.take, Qt.Key.Key_Space)
    assert pad.words.isVisible() and (pad.current_index, pad.making.behind) == (at, behind)
    window.order_station.show_make(False)
    window.make_it()
    assert not pad.begun.isVisible()


def test_two_windows_that_begin_another_one_each_begin_two(
    started: Callable[[], Window], qtbot: QtBot
) -> None:
    one, two = started(), started()
    for window in (one, two):
        window.open_demo()
        window.bench_desk.make_another()
    first, second = one.bench_desk.in_hand, two.bench_desk.in_hand
    assert first != second and nth_of(first)[0] == nth_of(second)[0] == one.studio.design
    for window, at in ((one, "coat:cape"), (two, "finish")):
        desk = window.bench_desk
        desk.keep_making(desk.making.replaced(at=at))
    assert one.bench_desk.making.at == "coat:cape" and two.bench_desk.making.at == "finish"
    one.bench_desk.choose_making(second)  # either sees the other's
    assert one.bench_desk.making.at == "finish"


def test_size_and_weight_read_at_pad_teach_as_swatch_does(
    started: Callable[[], Window], qtbot: QtBot
) -> None:
    """A core that took 4 g of the pan and weighs 3.6, larger than it was to be: its density and what was lost
    are learned. Typed once more, the second reading counts. Its coat is what it weighs more then."""
    window, seconds = started(), [0.0]
    window.open_demo()
    pad = pad_of(window, seconds)
    plan, desk = window.studio.plan, pad.desk
    assert plan is not None
    felted = {step.n: felted_at(plan, step) for step in plan.steps}
    n, core = next((n, f) for n, f in felted.items() if f and f.part == "collar")
    assert core.has_size and core.can_be_weighed
    key = next(w.key for w in weighings(plan) if w.part == core.part and w.portion == core.portion)
    assert desk.weigh(key, core.portion.wool, 4.0)
    pad.step(n - 1)
    assert pad.came_out.isVisible()
    size = [mm * 1.1 for mm in core.portion.finished_mm.values()]

    def read(weight: str, sizes: str) -> None:
        def type_in() -> None:
            box = QApplication.activeModalWidget()
            assert isinstance(box, SizeBox)
            qtbot.keyClicks(box.line, sizes)
            box.weight.setFocus()
            qtbot.keyClicks(box.weight, weight)
            qtbot.keyClick(box.weight, Qt.Key.Key_Return)

        QTimer.singleShot(50, type_in)
        qtbot.keyClick(pad, Qt.Key.Key_M)

    before = len(desk.records)
    bench, figure = window.studio.bench, plan.resized.figure
    wanted = core.portion.grams / bench.packed_density(figure, figure.by_id[core.part])
    read("9 g", " x ".join(f"{mm:.2f}" for mm in size) + " mm")
    read("3.6 g", " x ".join(f"{mm:.2f}" for mm in size) + " mm")
    assert len(desk.records) == before + 1
    record, end = desk.records[-1], plan.part(core.part).end_share
    assert (record.grams_in, record.grams) == pytest.approx((4.0 * (1 - end), 3.6 * (1 - end)))
    assert record.volume_cm3 == pytest.approx(wanted * 1.1**3, rel=0.02)
    assert pad.making.weights[core.part] == 3.6 and core.part in pad.making.recorded
    laid = desk.lessons(desk.in_hand).changed
    assert "loss:core" in {one.found.what for one in laid if not one.found.wool}
    assert "loss:core" not in {e.what for e in desk.estimates}  # till it is taken, at the end
    seconds[0] += 600
    pad.step(1)
    assert len(desk.records) == before + 1  # it is not told twice
    # What nothing is felted at, or is wound on its wire, is not weighed.
    pad.step(-100)
    assert not pad.came_out.isVisible()
    pad.read_piece()
    assert len(desk.records) == before + 1
