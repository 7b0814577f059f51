"""A real window under random hands: clicks, drags, keys and words anywhere, for as long as asked."""

from __future__ import annotations

import random
import sys
import tempfile
import time
import traceback
from collections import Counter
from functools import cache
from pathlib import Path

from PyQt6.QtCore import QEventLoop, QPoint, QSettings, Qt, QTimer, qInstallMessageHandler
from PyQt6.QtGui import QDrag
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import (
    QApplication,
    QColorDialog,
    QDialog,
    QFileDialog,
    QInputDialog,
    QLineEdit,
    QMenu,
    QMessageBox,
    QWidget,
)

from bambola.demo import BADGER, HERON, TOAD
from bambola.desk.kit.file_dialogs import PictureDialog
from bambola.desk.kit.theme import Theme, load_faces
from bambola.desk.running.worker_process import WorkerProcess
from bambola.desk.session.planner import PLANNING
from bambola.desk.session.settings import Settings
from bambola.desk.session.studio import EditorSession
from bambola.desk.shell.app import calm_collector, pass_over_loaded
from bambola.desk.shell.window import Window
from bambola.store import Journal
from tests.torture.pulse import HELD_S, Pulse
from tests.torture.tally import Tally

HANG_S = 5.0
LOOK_S = 0.5
"""As long a hand waits for what it sees to be on its way; some wait no more."""
TYPED = ["220 mm", "8 1/2 in", "0", "-4", "9" * 5000, "abc", "", "1e9", "½", "12,5", "\n", "📏"]
KEYS = [
    Qt.Key.Key_Tab, Qt.Key.Key_Return, Qt.Key.Key_Space, Qt.Key.Key_Escape, Qt.Key.Key_Left, Qt.Key.Key_Right,
    Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Delete, Qt.Key.Key_Backspace, Qt.Key.Key_PageDown,
    Qt.Key.Key_Home, Qt.Key.Key_End, Qt.Key.Key_N, Qt.Key.Key_P, Qt.Key.Key_G,
]  # fmt: skip
NOT_PRESSED = {"close", "quit", "about", "keys"}
NO, LEFT = Qt.KeyboardModifier.NoModifier, Qt.MouseButton.LeftButton


@cache
def application() -> QApplication:
    """The one application. It stays till the process ends: threads still tell it what they have done."""
    app = QApplication([])
    load_faces()
    return app


def random_hands(tally: Tally, seconds: float, seed: int) -> None:
    """Press on for ``seconds``; every error nobody caught is a fault, and so is a hang."""
    app = application()
    # A screen that is none says of every box what it cannot do.
    qInstallMessageHandler(lambda *_: None)
    rng = random.Random(seed)
    caught: list[str] = []
    sys.excepthook = lambda kind, error, trace: caught.append(  # type: ignore[assignment]
        "".join(traceback.format_exception(kind, error, trace, limit=-3))
    )
    with tempfile.TemporaryDirectory() as name:
        window = open_window(Path(name))
        for asked in ("getOpenFileName", "getSaveFileName"):
            setattr(QFileDialog, asked, staticmethod(lambda *a, **k: ("", "")))
        PictureDialog.ask = staticmethod(lambda *a: "")  # type: ignore[method-assign]
        PictureDialog.ask_many = staticmethod(lambda *a: [])  # type: ignore[method-assign]
        QFileDialog.getExistingDirectory = staticmethod(lambda *a, **k: "")  # type: ignore[method-assign]
        QInputDialog.getText = staticmethod(lambda *a, **k: ("", False))  # type: ignore[method-assign]
        closer = QTimer()
        closer.timeout.connect(lambda: _put_boxes_away(rng))
        closer.start(150)
        window.open_demo()
        _wait(window)
        while window.pages.make_next():  # as where the hands have rested a second
            pass
        pass_over_loaded()
        until, longest, slowest = time.monotonic() + seconds, 0.0, ""
        pulse = Pulse()
        held: Counter[str] = Counter()
        while time.monotonic() < until:
            pulse.begin()
            what = _one(window, rng)
            app.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 20)
            look_up = time.monotonic() + LOOK_S
            while is_busy(window) and time.monotonic() < look_up:  # who acts looks first
                app.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 5)
            spent = pulse.longest_s()
            tally.counts["deeds"] += 1
            if spent > HELD_S:
                held[what.partition(" “")[0]] += 1
            if spent > longest:
                longest, slowest = spent, what
            if spent > HANG_S:
                tally.fault(f"hands {seed}: {what} held the window for {spent:.1f} s")
            while caught:
                tally.fault(
                    f"hands {seed} after {tally.counts['deeds']} deeds, at {what}: {caught.pop(0)}"
                )
        tally.counts["holds over 100 ms"] = held.total()
        told = ", ".join(f"{what} {n}" for what, n in held.most_common(12))
        print(f"  the longest was {longest * 1000:.0f} ms: {slowest}; holds by deed: {told}")
        window.studio.undo_stack.setClean()
        while not window.close():  # a word still typed is taken as it closes, and asked about
            window.studio.undo_stack.setClean()
        closer.stop()


def open_window(folder: Path) -> Window:
    """A window of its own, with settings and a journal in ``folder``."""
    calm_collector()
    theme = Theme()
    theme.set(dark=False, scale=1.0)
    settings = Settings(QSettings(str(folder / "s.ini"), QSettings.Format.IniFormat))
    window = Window(
        EditorSession(apart=WorkerProcess(PLANNING)), theme, settings, Journal(folder / "journal")
    )
    window.files.opening.holds_window = False
    window.resize(1280, 800)
    window.show()
    return window


def _put_boxes_away(rng: random.Random) -> None:
    """Answer whatever box is open, so that the hands go on."""
    QDrag.cancel()  # on a real display it waits for a button that no real hand lets go
    popup = QApplication.activePopupWidget()
    if isinstance(popup, QMenu):
        popup.close()
    box = QApplication.activeModalWidget()
    if isinstance(box, QMessageBox):
        buttons = box.buttons()
        safe = [b for b in buttons if box.standardButton(b) != QMessageBox.StandardButton.Save]
        rng.choice(safe or buttons).click()
    elif isinstance(box, QFileDialog | QInputDialog | QColorDialog):
        box.close()  # of those that Qt has made, no more may be asked
    elif isinstance(box, QDialog):
        box.accept() if rng.random() < 0.5 else box.reject()


def is_busy(window: Window) -> bool:
    """Whether something is being planned or opened."""
    return window.studio.is_planning or window.files.opening.is_under_way


def _wait(window: Window) -> None:
    """Wait for what is under way, the window alive, as a key or a click does by which all is asked."""
    while is_busy(window):
        QApplication.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 5)


def _one(window: Window, rng: random.Random) -> str:
    """One deed of the hands, and what it was."""
    seen = [
        w
        for w in window.findChildren(QWidget)
        if w.isVisible() and w.width() > 4 and w.height() > 4
    ]
    widget = rng.choice(seen)
    at = QPoint(rng.randrange(widget.width()), rng.randrange(widget.height()))
    called = f"{type(widget).__name__} “{widget.accessibleName()[:40]}”"
    match rng.randrange(8):
        case 0 | 1:
            QTest.mouseClick(widget, rng.choice([LEFT, LEFT, Qt.MouseButton.RightButton]), NO, at)
            return f"a click on {called}"
        case 2:
            to = QPoint(rng.randrange(widget.width()), rng.randrange(widget.height()))
            QTest.mousePress(widget, LEFT, NO, at)
            for share in (0.3, 0.6, 1.0):
                QTest.mouseMove(widget, at + (to - at) * share)
            QTest.mouseRelease(widget, LEFT, NO, to)
            return f"a drag on {called}"
        case 3 | 4:
            key = rng.choice(KEYS)
            QTest.keyClick(QApplication.focusWidget() or window, key)
            return f"{key.name} with {called} near"
        case 5 if isinstance(widget, QLineEdit):
            text = rng.choice(TYPED)
            widget.setText(text)
            QTest.keyClick(widget, Qt.Key.Key_Return)
            return f"“{text[:12]}” into {called}"
        case 6:
            _wait(window)
            names = [n for n in window.actions_.by_name if n not in NOT_PRESSED]
            name = rng.choice(names)
            window.actions_[name].trigger()
            return f"the action {name}"
        case _:
            _wait(window)
            if rng.random() < 0.02:
                window.studio.undo_stack.setClean()
                window.open_demo(rng.choice([BADGER, HERON, TOAD]))
                return "another figure"
            rng.choice([window.studio.undo_stack.undo, window.studio.undo_stack.redo])()
            return "undo or redo"
