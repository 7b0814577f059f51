"""Learning: a practice piece and a first figure, made from end to end by keys alone and by mouse alone."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator

import pytest
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLabel, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from bambola.core.facts import Fact
from bambola.core.methods import METHODS
from bambola.core.methods.layout import Disc
from bambola.core.plan import make_plan
from bambola.core.words import ENGLISH
from bambola.demo import load_demo
from bambola.desk.kit.lessons_box import LessonsBox
from bambola.desk.shell.window import Window
from bambola.desk.stations.order.lesson_boxes import EndBox, SizeBox
from bambola.desk.stations.order.make_view import MakeView
from bambola.shipped import LESSONS, default_bench
from tests.typing_hands import type_text

LEFT = Qt.MouseButton.LeftButton


class Hand:
    """Works the window by keys alone or by mouse alone, and answers the boxes that come up."""

    def __init__(self, by: str, sizes: Callable[[str], str]) -> None:
        self.by, self.sizes = by, sizes
        self.asked: list[str] = []
        self.laid: list[str] = []
        self.ended: list[list[str]] = []
        self._watch = QTimer()
        self._watch.timeout.connect(self._look)
        self._watch.start(20)

    def press(self, button: QPushButton) -> None:
        if self.by == "mouse":
            QTest.mouseClick(button, LEFT)
        else:
            button.setFocus(Qt.FocusReason.TabFocusReason)
            QTest.keyClick(button, Qt.Key.Key_Space)

    def go_on(self, make: MakeView) -> None:
        while QApplication.activeModalWidget() is not None:  # what is asked is answered first
            QApplication.processEvents()
        if self.by == "mouse":
            QTest.mouseClick(make.done, LEFT)
        else:
            QTest.keyClick(make, Qt.Key.Key_Space)

    def fold(self, make: MakeView) -> None:
        if self.by == "mouse":
            QTest.mouseClick(make.fold, LEFT)
        else:
            QTest.keyClick(make, Qt.Key.Key_H)

    def _look(self) -> None:
        box = QApplication.activeModalWidget()
        if isinstance(box, SizeBox):
            shown = box.line.placeholderText()
            assert not box.line.text()  # what was planned is never taken for what was measured
            self.asked.append(shown)
            type_text(box.line, self.sizes(shown))
            if self.by == "keys":
                QTest.keyClick(box.line, Qt.Key.Key_Return)
            else:
                self.press(_button(box, "Keep it"))
        elif isinstance(box, LessonsBox):
            self.laid.append(box.changes.text())
            self.press(_button(box, "Count on it"))
        elif isinstance(box, EndBox):
            self.ended.append([label for label in _labels(box) if label])
            names = [button.text() for button in box.findChildren(QPushButton)]
            self.press(
                _button(box, "Now a first figure" if "Now a first figure" in names else "Close")
            )


def _button(box: QWidget, text: str) -> QPushButton:
    return next(b for b in box.findChildren(QPushButton) if b.text() == text)


def _labels(box: QWidget) -> Iterator[str]:
    yield from (label.text() for label in box.findChildren(QLabel))


@pytest.mark.parametrize("by", ["keys", "mouse"])
def test_lesson_is_gone_through_from_welcome_to_first_figure(
    by: str, new_window: Callable[[], Window], qtbot: QtBot
) -> None:
    window = new_window()
    hand = Hand(by, lambda shown: "33 mm" if (by, shown) == ("keys", "36 mm") else shown)
    start = next(b for b in window.welcome.findChildren(QPushButton) if "Learn" in b.text())
    hand.press(start)
    assert window.studio.figure is not None and window.studio.figure.id == "practice-piece"
    make = window.order_station.make
    assert make.isVisible() and window.bench_desk.base.beginner
    assert "beginner" in window.message.text  # what was changed for it is told
    now = [0.0]
    make.clock = lambda: now[0]
    make._since = 0.0
    text = make.words.toPlainText()
    assert "Why: The needle takes fibre" in text and "Look for a crack" in text
    for _ in range(8):
        now[0] += 600.0
        hand.go_on(make)
        qtbot.wait(1)
    qtbot.waitUntil(lambda: bool(hand.ended))
    # The ball is asked for by its width alone; the pieces whose core was timed are records now.
    assert hand.asked[0] == "36 mm" and len(hand.asked) == 3
    records = {r.part: r for r in window.bench_desk.records}
    wanted = (33.0, 33.0, 33.0) if by == "keys" else (36.0, 36.0, 36.0)
    assert records["Ball"].finished_mm == wanted and records["Ball"].minutes == pytest.approx(10.0)
    learned = {e.what: e.value / e.start for e in window.bench_desk.estimates}
    # The same wool in a ball a twelfth narrower is felted closer.
    assert "pace" in learned and (learned["density:medium"] > 1.03) is (by == "keys")
    assert any("pace" in line or "usual" in line for line in hand.ended[0])
    # The first figure is on the table; what is known is folded, and unfolds.
    assert window.studio.figure.id == "windfall-chick" and make.isVisible()
    folded = make.words.toPlainText()
    assert make.current_step is not None and make.current_step.key == "core:head:1"
    assert "Why:" not in folded and "Look for a crack" not in folded and "Stop:" in folded
    assert "Squeeze it hard: it should give" in folded  # this has a number of its own
    discs = {mark.text for mark in make.picture.marks if isinstance(mark, Disc)}
    assert discs and discs <= {line.split()[0] for line in folded.splitlines() if line.strip()}
    hand.fold(make)
    assert "Why:" in make.words.toPlainText() and "Look for a crack" in make.words.toPlainText()
    hand.fold(make)
    assert make.words.toPlainText() == folded
    for _ in range(2):
        hand.go_on(make)
    assert (
        make.current_step.key == "coat:body" and "Why: Edges first" in make.words.toPlainText()
    )  # new
    hand.go_on(make)  # paged over: it is not known for that
    assert "coat" not in window.lesson.known
    while len(hand.ended) < 2:
        now[0] += 60 * sum(step.minutes for step in make.in_hand)
        hand.go_on(make)
        qtbot.wait(1)
    assert not window.order_station.is_making
    assert window.lesson.known >= {"shape", "flat", "join", "blend", "felted-eye", "finish"}


def test_experienced_maker_sees_short_cards(window: Window, qtbot: QtBot) -> None:
    window.learn()
    make = window.order_station.make
    make.step(1)
    assert not window.lesson.known  # it was paged over
    window.lesson.mark_done("shape")
    make.refresh()
    assert make.fold.isVisible()
    window.actions_["learn_stop"].trigger()
    short = make.words.toPlainText()
    assert "Why:" not in short and "Look for a crack" not in short and "Stop:" in short
    qtbot.keyClick(make, Qt.Key.Key_H)
    assert "Look for a crack" in make.words.toPlainText() and "Why:" not in make.words.toPlainText()
    qtbot.keyClick(make, Qt.Key.Key_H)
    assert make.words.toPlainText() == short
    # Begun again, nothing is known.
    window.learn()
    assert window.lesson.is_on and not window.lesson.known
    again = window.lesson.known | {"shape"}
    window.lesson.mark_done("shape")
    assert type(window.lesson)(window.settings).known == again  # it is kept


def test_size_that_is_none_keeps_box_open_with_one_sentence(window: Window) -> None:
    words = window.studio.words
    box = SizeBox(window, window.theme, words, "ball", (36.0, 36.0, 36.0))
    for typed, says in (
        ("abc", "abc"),
        ("3 × 4", "One size"),
        ("0 mm", "above 0"),
        ("", "its size or its weight"),
    ):
        box.line.setText(typed)
        box.accept()
        assert box.size_mm is None and says in box.fault.text(), typed
    box.weight.setText("-2 g")
    box.accept()
    assert box.grams is None and box.fault.text()
    box.line.setText("40 x 30 x 20 mm")
    box.weight.setText("2.5 g")
    box.accept()
    assert (box.size_mm, box.grams) == ((40.0, 30.0, 20.0), 2.5)


@pytest.mark.parametrize("scale", [1.0, 1.5])
def test_no_button_of_lesson_is_cut_off_in_small_window(
    scale: float, new_window: Callable[[], Window], qtbot: QtBot
) -> None:
    window = new_window()
    window.theme.set(scale=scale)
    window.resize(1024, 700)
    Hand("mouse", lambda shown: shown).press(
        next(b for b in window.welcome.findChildren(QPushButton) if "Learn" in b.text())
    )
    make = window.order_station.make
    qtbot.waitUntil(lambda: make.fold.isVisible() and make.under.width() > 900)
    buttons = [b for b in make.under.findChildren(QPushButton) if b.isVisible()]
    assert len(buttons) == 7
    qtbot.waitUntil(lambda: all(b.width() >= b.sizeHint().width() for b in buttons))
    assert make.wrong.accessibleName() == "Something is wrong (W)"
    assert (make.wrong.text() == "Wrong (W)") == (scale > 1)
    window.resize(1900, 1000)
    qtbot.waitUntil(lambda: make.wrong.text() == "Something is wrong (W)")


def test_lessons_are_sound_and_every_method_says_why() -> None:
    bench = default_bench().replaced(beginner=True)
    for path in LESSONS:
        document = load_demo(path)
        plan = make_plan(document.figure, document.brief, bench)
        assert plan.balance.stands and not plan.notices and not plan.wires
        assert abs(plan.scale - 1) < 1e-9
    assert len(document.figure.parts) == 6
    whys = [ENGLISH.say(Fact(f"{method.id}.why")) for method in METHODS]
    assert len(set(whys)) == len(METHODS) and all(len(why) > 30 for why in whys)


def test_cancelled_lesson_forgets_nothing(window: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    gate, before = threading.Event(), window.studio.figure
    window.lesson.begin(afresh=False)
    window.lesson.mark_done("core")
    window.lesson.stop()
    window.files.opening.holds_window = False
    monkeypatch.setattr(window.studio, "planned", lambda document, bench, told: gate.wait(20))
    window.learn()
    assert window.files.opening.is_under_way
    window.files.opening.close()
    gate.set()
    assert not window.lesson.is_on and window.lesson.known == {"core"}
    assert window.studio.figure is before
